"""ADIF in and out. The reader takes what other hands write; the writer keeps to ADIF 3.1.4. Unknown fields come back out.

A field is `<NAME:LENGTH>` or `<NAME:LENGTH:TYPE>` and so many characters; a record ends with `<EOR>`, a head with `<EOH>`.
Lengths are counted in characters by most programs and in bytes by some: where the one leads nowhere, the other is tried.
"""

import re
from collections.abc import Iterable, Iterator, Mapping
from datetime import datetime
from types import MappingProxyType
from typing import NamedTuple

import msgspec
from msgspec.structs import replace

from umbra_awl.core.facts.modes import ByMode, of_mode
from umbra_awl.core.logbook.keys import Keys
from umbra_awl.core.logbook.model import Entry, Grade

ADIF_VERSION = "3.1.4"
MOST_RECORDS = 1_000_000
MOST_VALUE = 100_000
_TAG = re.compile(
    r"<\s*([A-Za-z_](?:[A-Za-z0-9_.\- ]{0,60}[A-Za-z0-9_.\-])?)\s*(?::\s*(\d{1,6})\s*(?::\s*([A-Za-z])\s*)?)?>"
)
_OWN = "APP_UMBRAAWL_"
MODES: ByMode[tuple[str, str]] = {
    "fm": ("FM", ""),
    "dmr": ("DIGITALVOICE", "DMR"),
    "dstar": ("DIGITALVOICE", "DSTAR"),
    "fusion": ("DIGITALVOICE", "C4FM"),
}
"""Mode to ADIF's mode and submode (ADIF 3.1.4, III.B.10 and III.B.11)."""
_SAID: Mapping[str, str] = MappingProxyType({
    "fm": "fm", "nfm": "fm", "dmr": "dmr", "dstar": "dstar", "fusion": "fusion", "systemfusion": "fusion", "c4fm": "fusion",
})  # fmt: skip
"""How a mode is said by other hands, in small letters without marks, to ours."""
_PLAIN: Mapping[str, str] = MappingProxyType({
    "CALL": "call", "NAME": "name", "QTH": "place", "RST_RCVD": "report", "RST_SENT": "sent", "COMMENT": "note",
    "STATION_CALLSIGN": "own_call", "GRIDSQUARE": "locator", "MY_CITY": "here",
    "MY_GRIDSQUARE": "my_locator",
})  # fmt: skip
"""ADIF's fields that are a field of an entry as they stand."""
_APP: Mapping[str, str] = MappingProxyType({
    "ROUTE": "route", "RADIO": "radio", "GRADE": "grade", "SPOT": "spot", "PATH": "path", "BY": "by", "KEY": "key",
})  # fmt: skip
_OF_LINES = frozenset({"ADDRESS", "ADDRESS_INTL", "NOTES", "NOTES_INTL", "QSLMSG", "QSLMSG_INTL", "RIG", "RIG_INTL"})
"""Fields that may have several lines, parted by carriage return and line feed (ADIF 3.1.4, II.B)."""
_KNOWN = frozenset({
    *_PLAIN, *(_OWN + name for name in _APP), "QSO_DATE", "TIME_ON", "FREQ", "FREQ_RX", "MODE", "SUBMODE", "QSL_RCVD",
    _OWN + "BER", _OWN + "RSSI", _OWN + "STOOD",
})  # fmt: skip


class AdifFault(NamedTuple):
    """A record that could not be taken, or something of one: its number from 1, and why."""

    number: int
    words: str


class Imported(NamedTuple):
    """Records as entries, and what was not taken."""

    entries: tuple[Entry, ...]
    faults: tuple[AdifFault, ...]


class Read(NamedTuple):
    """The fields of one record by their names in capitals, in their order, and what is wrong with it."""

    fields: dict[str, str]
    fault: str = ""


def records(text: str) -> Iterator[Read]:
    """The records of an ADIF text, as tolerant as they can be read; at most a million."""
    at = _after_head(text)
    fields: dict[str, str] = {}
    fault = ""
    count = 0
    while (tag := _TAG.search(text, at)) is not None and count < MOST_RECORDS:
        name = tag[1].upper()
        at = tag.end()
        if name == "EOR":
            count += 1
            if fields:
                yield Read(fields, fault)
            fields, fault = {}, ""
        elif tag[2] is not None:
            value, at, wrong = _value(text, at, int(tag[2]))
            fields[name] = value
            fault = fault or (f"{name}: {wrong}" if wrong else "")
    if fields:
        yield Read(fields, "the record has no end")


def _after_head(text: str) -> int:
    """Where the records begin: behind the head, if the text has one."""
    found, record = (re.search(mark, text, re.IGNORECASE) for mark in ("<eoh>", "<eor>"))
    return found.end() if found and (record is None or found.start() < record.start()) else 0


def _value(text: str, at: int, length: int) -> tuple[str, int, str]:
    """A value of so many characters; where a tag does not follow it, of so many bytes; where neither fits, up to the next tag."""
    if length > MOST_VALUE:
        return "", at, "longer than is taken"
    plain = text[at : at + length]
    apart = text[at + length : at + length + 1].isspace()  # what stands between fields is no value (ADIF 3.1.4, IV.A)
    if "<" not in plain and len(plain) == length and (apart or _ends_well(text, at + length)):
        return plain, at + length, ""
    as_bytes = _characters_of(text, at, length)
    if as_bytes != length and _ends_well(text, at + as_bytes):
        return text[at : at + as_bytes], at + as_bytes, ""
    if _ends_well(text, at + length) and len(plain) == length:
        return plain, at + length, ""
    following = _TAG.search(text, at)
    end = following.start() if following is not None else len(text)
    return text[at:end].strip(), end, "its length is wrong"


_MOST_COUNTED = 8_000
"""A longer value is taken to be told in characters: counting the bytes of many long ones costs minutes."""


def _characters_of(text: str, at: int, length: int) -> int:
    """How many characters so many UTF-8 bytes are; as many again where the text has not so many bytes."""
    if length > _MOST_COUNTED:
        return length
    plain = text[at : at + length]
    if plain.isascii():
        return length
    encoded = plain.encode("utf-8", "replace")
    return len(encoded[:length].decode("utf-8", "ignore")) if len(encoded) >= length else length


def _ends_well(text: str, at: int) -> bool:
    """Whether nothing, blanks, or a tag stands at a place."""
    rest = text[at : at + 200].lstrip()
    return at <= len(text) and (not rest or _TAG.match(rest) is not None)


def read_adif(text: str, taken: Iterable[str] = ()) -> Imported:
    """Entries of an ADIF text. `taken` are keys that are there already. What cannot be taken is told by its number."""
    entries: list[Entry] = []
    faults: list[AdifFault] = []
    used = Keys(taken)
    for number, found in enumerate(records(text), 1):
        made = entry_of(found.fields, number)
        if isinstance(made, str):
            faults.append(AdifFault(number, made))
            continue
        faults += [
            AdifFault(number, f"{name} “{found.fields[name][:20]}” is not in MHz and was left out; the rest was taken")
            for name, value in (("FREQ", made.hz), ("FREQ_RX", made.rx_hz))
            if found.fields.get(name, "").strip() and value is None
        ]
        if found.fault:
            faults.append(AdifFault(number, f"{found.fault}; the rest was taken"))
        key = used.free(made.key)
        entries.append(made if key == made.key else replace(made, key=key))
    return Imported(tuple(entries), tuple(faults))


def entry_of(fields: dict[str, str], number: int) -> Entry | str:
    """The entry of a record of ADIF fields; why there is none."""
    utc = moment_of(fields.get("QSO_DATE", ""), fields.get("TIME_ON", ""))
    if not utc:
        return f"“{fields.get('QSO_DATE', '')} {fields.get('TIME_ON', '')}”, call {fields.get('CALL', 'none')}: no date and time"
    plain = {own: fields[name].strip() for name, own in _PLAIN.items() if fields.get(name, "").strip()}
    app = {own: fields[_OWN + name].strip() for name, own in _APP.items() if fields.get(_OWN + name, "").strip()}
    grade = app.pop("grade", "")
    by = app.pop("by", "")
    key = app.pop("key", "") or f"{utc}-{plain.get('call', '')}-{number}"
    more = {name: value for name, value in fields.items() if name not in _KNOWN}
    mode, submode = fields.get("MODE", "").upper(), fields.get("SUBMODE", "").upper()
    known = mode_said(submode) or ("" if submode else mode_said(mode))
    if not known and (mode or submode):
        more |= {name: value for name, value in (("MODE", mode), ("SUBMODE", submode)) if value}
    return Entry(
        key,
        utc,
        _grade(grade),
        **plain,
        **app,
        mode=known,
        hz=_hertz(fields.get("FREQ", "")),
        rx_hz=_hertz(fields.get("FREQ_RX", "")),
        ber=_number(fields.get(_OWN + "BER", "")),
        rssi_dbm=_whole(fields.get(_OWN + "RSSI", "")),
        by=by if by in {"hand", "hotspot", "simulation", "file"} else "file",  # type: ignore[arg-type]
        confirmed=fields.get("QSL_RCVD", "").strip(),
        stood=_stood(fields.get(_OWN + "STOOD", "")),
        more=more,
    )


def _stood(text: str) -> dict[str, str]:
    """What a proof stood on, as our own writer put it; nothing for anything else."""
    try:
        return msgspec.json.decode(text, type=dict[str, str]) if text else {}
    except msgspec.DecodeError:
        return {}


def mode_said(text: str) -> str:
    """Our mode for one as it is written in a log; empty for one that is none of ours."""
    return _SAID.get(re.sub(r"[^a-z0-9]", "", text.casefold()), "")


def _grade(text: str) -> Grade:
    known: tuple[Grade, ...] = ("failed", "heard-it", "own-key", "echo", "heard-by", "answered")
    return next((item for item in known if item == text), "answered")


def moment_of(day: str, time: str) -> str:
    """ADIF's date and time as “2026-11-27T10:00:00Z”; empty where they are none. Seconds and a leading zero may be missing."""
    digits = time.strip()
    digits = digits.zfill(len(digits) + len(digits) % 2).ljust(6, "0")
    if len(digits) != len("hhmmss") or len(time.strip()) < len("hmm"):
        return ""
    try:
        found = datetime.strptime(f"{day.strip()} {digits}", "%Y%m%d %H%M%S")
    except ValueError:
        return ""
    return found.strftime("%Y-%m-%dT%H:%M:%SZ")


def _number(text: str) -> float | None:
    try:
        value = float(text)
    except ValueError:
        return None
    return value if abs(value) < 1e12 else None


def _hertz(text: str) -> int | None:
    value = _number(text.strip().replace(",", "."))
    return round(value * 1e6) if value is not None and 0 < value < 1e6 else None


def _whole(text: str) -> int | None:
    value = _number(text)
    return round(value) if value is not None else None


def adif_text(entries: Iterable[Entry], program: str = "Umbra Awl") -> str:
    """Entries as ADIF. Lengths are in characters, as ADIF 3 has them."""
    head = f"{program}\n{_field('ADIF_VER', ADIF_VERSION)}{_field('PROGRAMID', program)}<EOH>\n"
    return head + "".join(f"{''.join(_fields(entry))}<EOR>\n" for entry in entries)


def _field(name: str, value: str) -> str:
    between = "\r\n" if name in _OF_LINES else " "
    clean = between.join(re.split(r"\r\n|\n|\r", value))
    return f"<{name}:{len(clean)}>{clean} " if clean else ""


def _fields(entry: Entry) -> Iterator[str]:
    day, _, time = entry.utc.rstrip("Z").partition("T")
    yield _field("QSO_DATE", day.replace("-", ""))
    yield _field("TIME_ON", time.replace(":", "")[:6])
    for name, own in _PLAIN.items():
        yield _field(name, getattr(entry, own))
    mode, submode = of_mode(MODES, entry.mode) if entry.mode in MODES else ("", "")
    yield _field("MODE", mode)
    yield _field("SUBMODE", submode)
    for name, hz in (("FREQ", entry.hz), ("FREQ_RX", entry.rx_hz)):
        yield _field(name, f"{hz / 1e6:.6f}" if hz is not None else "")
    yield _field("QSL_RCVD", entry.confirmed)
    for name, own in _APP.items():
        yield _field(_OWN + name, getattr(entry, own))
    yield _field(_OWN + "BER", f"{entry.ber:g}" if entry.ber is not None else "")
    yield _field(_OWN + "RSSI", str(entry.rssi_dbm) if entry.rssi_dbm is not None else "")
    yield _field(_OWN + "STOOD", msgspec.json.encode(entry.stood).decode() if entry.stood else "")
    for name, value in entry.more.items():
        yield _field(name, value)
