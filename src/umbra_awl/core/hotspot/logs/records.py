"""A log that comes as records (JSON), turned into lines that the rules read: which field is the moment, who called, how long.

Which field is which is guessed by its name; what no rule reads then stands among the lines that can be taught.
"""

import json
import re
from collections.abc import Iterable, Iterator, Mapping
from typing import Any, NamedTuple

Record = Mapping[str, Any]
_FIELDS: Mapping[str, tuple[str, ...]] = {
    "when": ("time", "timestamp", "datetime", "when", "utc", "at", "start", "date", "ts", "epoch"),
    "mode": ("mode", "system", "protocol"),
    "call": ("call", "callsign", "source", "src", "from", "station", "user", "mycall"),
    "to": ("to", "target", "dest", "destination", "dst", "talkgroup", "group", "tg", "room", "reflector"),
    "id": ("id", "srcid", "sourceid", "dmrid", "radioid"),
    "slot": ("slot", "timeslot"),
    "seconds": ("seconds", "duration", "dur", "length", "secs"),
    "loss": ("loss", "packetloss", "lost"),
    "ber": ("ber", "biterror", "biterrorrate", "errorrate"),
    "way": ("way", "direction", "via", "origin", "side"),
    "level": ("level", "severity", "priority"),
    "text": ("message", "msg", "text", "event", "line", "log"),
}
_MODES: Mapping[str, str] = {
    "dmr": "dmr",
    "d-star": "dstar",
    "dstar": "dstar",
    "c4fm": "fusion",
    "fusion": "fusion",
}
_BY_AIR = re.compile(r"\b(?:rf|radio|local|air)\b", re.IGNORECASE)
_NUMBER = re.compile(r"-?\d+(?:\.\d+)?")
_MOST_TEXT = 2_000


class RecordFields(NamedTuple):
    """Which field of the records is what, by our names; those that are not there are missing."""

    of: Mapping[str, str]

    def text(self, record: Record, name: str) -> str:
        """A value as text on one line; empty where there is none."""
        value = record.get(self.of.get(name, ""), "")
        if value is None or isinstance(value, dict | list):
            return ""
        return " ".join(str(value).split())[:_MOST_TEXT]

    def number(self, record: Record, name: str) -> str:
        """A value as a number, whatever unit stands behind it; empty where there is none."""
        found = _NUMBER.search(self.text(record, name))
        return found[0] if found else ""


def records_in(data: bytes) -> list[Record]:
    """The records in an answer: a list of objects, by itself or in a field of an object, or one a line; empty where none are."""
    try:
        return _listed(json.loads(data))
    except (ValueError, RecursionError):
        return [record for line in data.splitlines() for record in _of_line(line)]


def _of_line(line: bytes) -> Iterator[Record]:
    try:
        made = json.loads(line)
    except (ValueError, RecursionError):
        return
    if isinstance(made, dict):
        yield made


def _listed(value: Any) -> list[Record]:
    if isinstance(value, list):
        return [item for item in value if isinstance(item, dict)]
    if isinstance(value, dict):
        inner = next((item for item in value.values() if isinstance(item, list) and _listed(item)), None)
        return _listed(inner) if inner is not None else [value]
    return []


def guess_fields(records: Iterable[Record]) -> RecordFields:
    """Which field is which, by its name; an exact name before one that holds it."""
    names = {_plain(name): name for record in records for name in record}
    found: dict[str, str] = {}
    for ours, theirs in _FIELDS.items():
        exact = next((names[word] for word in theirs if word in names), None)
        within = exact or next(
            (name for word in theirs for plain, name in names.items() if len(word) > 3 and word in plain), None
        )
        if within is not None and within not in found.values():
            found[ours] = within
    return RecordFields(found)


def _plain(name: str) -> str:
    return re.sub(r"[^a-z0-9]", "", name.casefold())


def line_of(record: Record, fields: RecordFields) -> str:
    """A record as a line of a log: a call where somebody called, else its words; what has none shows all of it."""
    when = fields.text(record, "when")
    call, mode = fields.text(record, "call").upper(), _mode_of(record, fields)
    seconds = fields.number(record, "seconds")
    if call and mode and seconds:
        return f"{when} {_call_words(record, fields, mode, call, seconds)}".strip()
    told = fields.text(record, "text")
    if not told:
        told = " ".join(f"{name}={value}" for name, value in record.items() if name != fields.of.get("when"))
    return " ".join(f"{when} {fields.text(record, 'level')} {told}".split())[:_MOST_TEXT]


def _mode_of(record: Record, fields: RecordFields) -> str:
    """The mode told; DMR where only a slot is."""
    told = _MODES.get(fields.text(record, "mode").casefold(), "")
    return told or ("dmr" if fields.number(record, "slot") in {"1", "2"} and not fields.text(record, "mode") else "")


def as_lines(data: bytes) -> bytes:
    """A log of a record a line as a log of lines, each where it was; any other log as it is."""
    if data.lstrip()[:1] != b"{":
        return data
    lines = data.split(b"\n")
    made = [next(_of_line(line), None) for line in lines]
    records = [record for record in made if record is not None]
    if 2 * len(records) < sum(1 for line in lines if line.strip()):
        return data
    fields = guess_fields(records[:_LOOKED_AT])
    return b"\n".join(
        line if record is None else line_of(record, fields).encode("utf-8", "replace")
        for line, record in zip(lines, made, strict=True)
    )


_LOOKED_AT = 200


def _call_words(record: Record, fields: RecordFields, mode: str, call: str, seconds: str) -> str:
    slot, number = fields.number(record, "slot"), fields.number(record, "id")
    told = fields.text(record, "way")
    way = "radio" if _BY_AIR.search(told) else "network" if told else "call of"
    words = f"{mode}{f' slot {slot}' if slot else ''}: {way} {call}{f' ({number})' if number else ''}"
    words += f" to {fields.text(record, 'to') or 'everybody'}, {seconds} s"
    loss, ber = fields.number(record, "loss"), fields.number(record, "ber")
    return words + (f", loss {loss} %" if loss else "") + (f", BER {ber} %" if ber else "")
