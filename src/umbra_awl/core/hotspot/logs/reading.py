"""A log read and explained: causes before their consequences, recent calls, and what nobody knows yet.

Each shape of a line (its digits made alike) is looked at once, so a long log costs little more than reading it.
"""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from datetime import date
from itertools import islice
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.hotspot.logs import worded
from umbra_awl.core.hotspot.logs.healthy import complaint, denies_nothing, hangs_on_its_numbers
from umbra_awl.core.hotspot.logs.moments import shown_moment
from umbra_awl.core.hotspot.logs.records import as_lines
from umbra_awl.core.hotspot.logs.rules import LogRule, LogRules, shipped_rules
from umbra_awl.core.keep.limits import MB, read_within

LOG_MOST_BYTES = 64 * MB
MOST_CALLS, MOST_UNKNOWN = 300, 200
MOST_LINE, MOST_SOUGHT = 400, 4_000
"""So much of a line is shown, and so much is looked at: a journal puts a long head before what is said."""
MOST_SHAPES = 20_000
"""A log of more kinds of lines than this is none; the oldest of them count as unknown without being looked at."""
_SAME_DIGIT = bytes.maketrans(b"123456789", b"000000000")
_ByShape = dict[bytes, LogRule | None]


class Told(NamedTuple):
    """Something a log says: by which rule, how often, the first and last line of it (counted from 1) and the last one's text."""

    rule: LogRule
    times: int
    first: int
    last: int
    text: str
    consequence: bool = False


class HeardCall(NamedTuple):
    """A call in the log. Rates in per cent; `bits` and `offset_hz` where they are told."""

    line: int
    when: str
    mode: str
    call: str
    to: str
    seconds: float
    way: str
    loss: float | None = None
    ber: float | None = None
    bits: int = 0
    offset_hz: int | None = None
    slot: int = 0
    id: int = 0

    @property
    def clock(self) -> str:
        """The time of day of it, or what is told of its moment."""
        return self.when[11:] if self.when[4:5] == "-" else self.when


class Unknown(NamedTuple):
    """A kind of line that no rule reads: an example, and how often."""

    text: str
    times: int


class LogReading(NamedTuple):
    """What a log says: faults with causes first, states in their order, calls newest first, kinds of unknown lines.

    `past` are faults that were cured later in the log; `data` is the log itself, as plain bytes.
    """

    lines: int
    faults: tuple[Told, ...]
    states: tuple[Told, ...]
    calls: tuple[HeardCall, ...]
    unknown: tuple[Unknown, ...]
    unknown_lines: int
    past: tuple[Told, ...] = ()
    data: bytes = b""

    @property
    def cause(self) -> Told | None:
        """The first cause."""
        return self.faults[0] if self.faults else None


def text_of(data: bytes) -> str:
    """A log's bytes as text; whatever is no UTF-8 is shown as such."""
    return data.decode("utf-8", "replace")


def read_log_file(path: Path, rules: LogRules | None = None, today: date | None = None) -> LogReading:
    """A log file read and explained. Raises OSError, LimitError among them."""
    return read_log_bytes(read_within(path, LOG_MOST_BYTES), rules, today)


def read_log(text: str, rules: LogRules | None = None, today: date | None = None) -> LogReading:
    """A log's text, read and explained."""
    return read_log_bytes(text.encode("utf-8", "replace"), rules, today)


def plain_bytes(data: bytes) -> bytes:
    """A log's bytes as UTF-8 with one kind of break: UTF-16 is known by its mark, or by every other byte being nothing."""
    if data[:2] in {b"\xff\xfe", b"\xfe\xff"}:
        data = data.decode("utf-16", "replace").encode("utf-8", "replace")
    elif data[1:2] == b"\0" and data[1:400:2].count(0) > len(data[1:400:2]) // 2:
        data = data.decode("utf-16-le", "replace").encode("utf-8", "replace")
    if b"\r" in data:
        data = data.replace(b"\r\n", b"\n").replace(b"\r", b"\n")
    return data.removeprefix(b"\xef\xbb\xbf")


def read_log_bytes(data: bytes, rules: LogRules | None = None, today: date | None = None) -> LogReading:
    """A log read and explained: what still holds, that is since it last started, and all calls.

    `today` gives lines without a year their own.
    """
    known = rules or shipped_rules()
    data = as_lines(plain_bytes(data))
    lines = data.split(b"\n")
    shapes = data.translate(_SAME_DIGIT).split(b"\n")
    if not lines[-1]:
        lines.pop()
        shapes.pop()
    counts = Counter(shapes)
    counts.pop(b"", None)
    newest = dict.fromkeys(reversed(shapes)) if len(counts) > MOST_SHAPES else counts
    looked = [shape for shape in islice(newest, MOST_SHAPES + 1) if shape][:MOST_SHAPES]
    steps = (known.exact, known.loose, known.states)
    by_shape = {shape: _rule_of(steps, text_of(shape[:MOST_SOUGHT])) for shape in looked}
    told = _told(lines, shapes, by_shape)
    past = tuple(item for item in told if item.rule.kind == "fault" and _is_past(item, lines, shapes, by_shape))
    faults = _causes_first([item for item in told if item.rule.kind == "fault" and item not in past])
    states = tuple(item for item in told if item.rule.kind == "state")
    strange = [shape for shape in counts if by_shape.get(shape) is None]
    unknown_lines = sum(counts[shape] for shape in strange)
    strange.sort(key=lambda shape: -counts[shape])
    examples = _examples(lines, shapes, set(strange[:MOST_UNKNOWN]))
    unknown = tuple(Unknown(examples[shape], counts[shape]) for shape in strange[:MOST_UNKNOWN])
    calls = tuple(_calls(lines, shapes, by_shape, today))
    return LogReading(len(lines), faults, states, calls, unknown, unknown_lines, past, data)


_Steps = tuple[Sequence[LogRule], Sequence[LogRule], Sequence[LogRule]]


def _rule_of(steps: _Steps, shape: str) -> LogRule | None:
    """The first rule that reads a line: of calls as it stands, of faults by what it complains of, and only then of a good state.

    What no rule of one form reads may be a call in somebody else's words, or a fault in them.
    """
    exact, loose, states = steps
    straight = next((rule for rule in exact if rule.kind in {"call", "quiet"} and rule.sought.holds(shape)), None)
    if straight is not None:
        return straight
    left = complaint(shape)
    said = shape if hangs_on_its_numbers(shape) else left
    fault = next((rule for rule in exact if rule.kind == "fault" and rule.sought.holds(said)), None)
    if fault is not None:
        return fault
    if worded.is_call(shape):
        return WORDED_CALL
    if worded.begins_call(shape):
        return WORDED_START
    healthy = shape if denies_nothing(shape) else ""
    of_others = [(rule, said) for rule in loose] + [(rule, healthy if rule.is_wording else said) for rule in states]
    return next((rule for rule, text in of_others if rule.sought.holds(text)), None)


WORDED_CALL = LogRule("call in other words", "call", "", "A call.", "")
WORDED_START = LogRule("call begins in other words", "quiet", "", "Somebody begins to speak.", "")


def _complains(rule: LogRule, line: bytes, shape: bytes) -> bool:
    """Whether a line of a fault's shape is one: “0 failed” and “3 failed” have the same shape."""
    if not hangs_on_its_numbers(text_of(shape[:MOST_SOUGHT])):
        return True
    return rule.sought.search(complaint(text_of(line[:MOST_SOUGHT]))) is not None


def _is_past(fault: Told, lines: list[bytes], shapes: list[bytes], by_shape: _ByShape) -> bool:
    """Whether a line behind the last one of a fault says that it is cured."""
    cures = {shape for shape, rule in by_shape.items() if rule is not None and rule.meant in fault.rule.cured}
    return any(shapes[at] in cures for at in range(fault.last, len(lines)))


def _last_start(shapes: list[bytes], by_shape: _ByShape) -> int:
    """Where the hotspot last started: what it complained of before is past."""
    starts = {shape for shape, rule in by_shape.items() if rule is not None and rule.meant == "starts"}
    return next((at for at in range(len(shapes) - 1, -1, -1) if shapes[at] in starts), 0) if starts else 0


def _told(lines: list[bytes], shapes: list[bytes], by_shape: _ByShape) -> list[Told]:
    """What is said by rules of faults and states since the last start, in the order of their first lines."""
    wanted = {shape: rule for shape, rule in by_shape.items() if rule is not None and rule.kind in {"fault", "state"}}
    found: dict[str, Told] = {}
    begun = _last_start(shapes, by_shape)
    for at, shape in enumerate(shapes[begun:] if wanted else (), begun):
        if shape in wanted and (wanted[shape].kind != "fault" or _complains(wanted[shape], lines[at], shape)):
            rule = wanted[shape]
            held = found.get(rule.meant)
            first, count = (held.first, held.times + 1) if held else (at + 1, 1)
            found[rule.meant] = Told(rule, count, first, at + 1, clean(lines[at]))
    return list(found.values())


def _causes_first(faults: list[Told]) -> tuple[Told, ...]:
    """Faults with those first that no other one there explains; the rest are marked as consequences."""
    keys = {item.rule.meant for item in faults}
    marked = [item._replace(consequence=bool(keys.intersection(item.rule.after))) for item in faults]
    return tuple(sorted(marked, key=lambda item: (item.consequence, item.first)))


def _examples(lines: list[bytes], shapes: list[bytes], wanted: set[bytes]) -> dict[bytes, str]:
    found: dict[bytes, str] = {}
    for line, shape in zip(lines, shapes, strict=True) if wanted else ():
        if shape in wanted and shape not in found:
            found[shape] = clean(line)
            if len(found) == len(wanted):
                break
    return found


def clean(line: bytes | str) -> str:
    """A line as it may be shown: no control characters, not endless."""
    text = text_of(line[: 4 * MOST_LINE]) if isinstance(line, bytes) else line
    return "".join(char if char.isprintable() else "·" for char in text[:MOST_LINE])


def _calls(lines: list[bytes], shapes: list[bytes], by_shape: _ByShape, today: date | None) -> Iterator[HeardCall]:
    """The latest calls, newest first."""
    of_calls = {shape: rule for shape, rule in by_shape.items() if rule is not None and rule.kind == "call"}
    left = MOST_CALLS if of_calls else 0
    for at in range(len(lines) - 1, -1, -1):
        if not left:
            return
        rule = of_calls.get(shapes[at])
        text = text_of(lines[at][:MOST_SOUGHT]) if rule is not None else ""
        if rule is WORDED_CALL:
            before = [text_of(line[:MOST_SOUGHT]) for line in lines[max(0, at - worded.BACK) : at]]
            told = worded.worded_call([*before, text], len(before))
            if told is not None:
                left -= 1
                yield _call(at + 1, shown_moment(text, today), told.way, told._asdict())
            continue
        found = rule.sought.search(text) if rule is not None else None
        if rule is not None and found is not None:
            left -= 1
            yield _call(at + 1, shown_moment(text, today), rule.meant, found)


def _call(line: int, when: str, way: str, found: Mapping[str, str | None]) -> HeardCall:
    def number(name: str) -> float | None:
        try:
            return float(found.get(name) or "")
        except ValueError:
            return None

    def whole(name: str) -> int:
        return int(min(number(name) or 0, 10**12))

    offset = number("offset")
    return HeardCall(
        line,
        clean(when),
        (found.get("mode") or "").lower(),
        clean(found.get("call") or "").upper(),
        clean(found.get("to") or ""),
        number("seconds") or 0.0,
        way,
        number("loss"),
        number("ber"),
        whole("bits"),
        int(offset) if offset is not None else None,
        whole("slot"),
        whole("id"),
    )


def own_overs(reading: LogReading, calls: Sequence[str], ids: Sequence[int]) -> list[HeardCall]:
    """The operator's own overs as the hotspot heard them, newest first."""
    return [
        item
        for item in reading.calls
        if item.way == "call-heard" and (item.call in calls or (item.id and item.id in ids))
    ]
