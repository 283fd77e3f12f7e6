"""Guessing which column is which field: by its heading (rapidfuzz over known words) and by what its values look like.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import re
from collections.abc import Callable
from itertools import islice
from typing import NamedTuple

from umbra_awl.core.directory.heading_words import FURTHER
from umbra_awl.core.directory.layout import FIELDS, NEEDED, TableLayout, What
from umbra_awl.core.directory.values import parse_any_hz
from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.facts.earth import PositionError, parse_locator, parse_position
from umbra_awl.core.facts.frequency import FrequencyError
from umbra_awl.core.facts.modes import modes_in
from umbra_awl.core.facts.shift import ShiftError, read_direction, read_shift
from umbra_awl.core.facts.tones import ToneError, is_burst, parse_tone
from umbra_awl.core.facts.width import parse_width
from umbra_awl.core.tables.headings import plain_words
from umbra_awl.core.tables.rows import Table

SAMPLE_ROWS = 60
_LONGEST_HEADING = 120
"""Characters of a heading that are looked at: what is longer is no heading, and comparing it takes its time squared."""
_ENOUGH = 58.0
_NEARLY = 8.0
_UNITS = frozenset({"mhz", "khz", "hz", "w", "m", "km"})


def sample(table: Table, count: int = SAMPLE_ROWS) -> list[list[str]]:
    """The first readable rows of a table, each as long as its headers."""
    if table.head is not None:
        return [list(cells) for cells in table.head[:count]]
    width = len(table.headers)
    rows = (row.cells for row in table.rows() if not row.fault)
    return [(cells + [""] * width)[:width] for cells in islice(rows, count)]


def with_head(table: Table) -> Table:
    """The table with its first rows beside it."""
    return table._replace(head=tuple(sample(table)))


def guess(table: Table, what: What | None = None) -> TableLayout:
    """The likeliest layout of a table; its columns may miss what the operator must choose."""
    rows = sample(table)
    every: tuple[What, ...] = ("access",) if table.kind == "gpx" else ("access", "people", "destinations")
    whats: tuple[What, ...] = (what,) if what else every
    ranked = [
        (_score(kind, columns), TableLayout(kind, columns))
        for kind in whats
        if (columns := _columns(table, rows, kind)) is not None
    ]
    return max(ranked, key=lambda item: item[0])[1]


class Passed(NamedTuple):
    """A column with values that a layout uses for nothing: a value of it, and the label of the field it looks like."""

    column: str
    value: str
    like: str

    @property
    def words(self) -> str:
        """The same as a sentence."""
        doubt = f"; it looks like “{self.like}”" if self.like else ""
        return f"not used: the column {self.column} ({self.value[:24]}){doubt}"


def passed_over(table: Table, layout: TableLayout) -> list[Passed]:
    """The columns of a table that hold something and that a layout uses for nothing."""
    rows, used = sample(table), set(layout.columns.values())
    found = []
    for at, header in enumerate(table.headers):
        values = [cells[at].strip() for cells in rows if cells[at].strip()]
        if values and header not in used:
            found.append(Passed(header, values[0], _like(header, values, layout)))
    return found


def _like(header: str, values: list[str], layout: TableLayout) -> str:
    """The field not yet found in another column that a column looks like; empty when it looks like none."""
    fields = FIELDS[layout.what]
    named = {
        field: heading_score(header, words_of(layout.what, field)) for field in fields if field not in layout.columns
    }
    scores = {field: max(score + _evidence(field, values, layout.what), score - 20.0) for field, score in named.items()}
    best = max(scores, key=lambda field: scores[field], default="")
    return fields[best][0] if best and scores[best] >= _ENOUGH - _NEARLY else ""


def _score(what: What, columns: dict[str, str]) -> tuple[bool, float, bool]:
    whole = all(any(field in columns for field in group) for group in NEEDED[what])
    return (whole, len(columns) / (4 if what == "destinations" else 5), what == "access")


def _columns(table: Table, rows: list[list[str]], what: What) -> dict[str, str]:
    """Field to column: the best pairs first, each field and column once."""
    pairs: list[tuple[float, int, int]] = []
    fields = list(FIELDS[what])
    for at, header in enumerate(table.headers):
        values = [cells[at].strip() for cells in rows if cells[at].strip()]
        for number, field in enumerate(fields):
            score = heading_score(header, words_of(what, field)) + _evidence(field, values, what)
            if score >= _ENOUGH:
                pairs.append((-score, number, at))
    chosen: dict[str, str] = {}
    used: set[int] = set()
    for _minus, number, at in sorted(pairs):
        if fields[number] not in chosen and at not in used:
            chosen[fields[number]] = table.headers[at]
            used.add(at)
    return {field: chosen[field] for field in fields if field in chosen}


def words_of(what: What, field: str) -> str:
    """What a field's heading may be called."""
    return f"{FIELDS[what][field][1]} {FURTHER.get(field, '') if what == 'access' else ''}"


def heading_score(header: str, words: str) -> float:
    """0 to 100: how well a heading reads like one of a field's words."""
    from rapidfuzz import fuzz

    header = header[:_LONGEST_HEADING]
    bare = plain_words(re.sub(r"[\[(][^\])]*[\])]", "", header))
    plain = " ".join(word for word in bare.split() if word not in _UNITS) or bare or plain_words(header)
    if not plain or plain.startswith("column "):
        return 0.0
    known = plain_words(words)
    if f" {plain} " in f" {known} ":
        return 90.0
    parts = plain.split()
    best = max(fuzz.ratio(plain, word) for word in known.split())
    share = sum(f" {part} " in f" {known} " for part in parts) / len(parts)
    return max(best * 0.85 if best > 80 else 0.0, share * 80.0)


def _share(values: list[str], holds: Callable[[str], object]) -> float:
    return sum(1 for value in values if holds(value)) / len(values) if values else 0.0


_LARGEST_SHIFT_HZ = 50_000_000
_SPANS_MHZ = ((28, 30), (50, 54), (70, 71), (136, 174), (219, 226), (400, 480), (902, 928), (1_240, 1_300))


def _is_frequency(text: str) -> bool:
    try:
        hz = parse_any_hz(text)
    except FrequencyError:
        return False
    return any(low <= hz / 1e6 <= high for low, high in _SPANS_MHZ)


def _is_locator(text: str) -> bool:
    try:
        parse_locator(text)
    except PositionError:
        return False
    return len(text) >= 4


def _is_pair(text: str) -> bool:
    try:
        parse_position(text)
    except PositionError:
        return False
    return not _is_locator(text)


def _is_call(text: str) -> bool:
    return not call_sign_fault(tidy_call_sign(text)) and not _is_locator(text)


def _is_shift(text: str) -> bool:
    try:
        found = read_shift(text)
    except ShiftError:
        return False
    return found.size_hz is None or found.size_hz < _LARGEST_SHIFT_HZ


def _is_direction(text: str) -> bool:
    try:
        return read_direction(text).size_hz in {None, 0}
    except ShiftError:
        return False


def _is_tone(text: str) -> bool:
    try:
        return parse_tone(text) != "" and not _is_frequency(text)
    except ToneError:
        return is_burst(text)


_NUMBERLIKE = re.compile(r"[+\-−]?\d{1,3}([.,]\d+)?")


def _is_angle(text: str) -> bool:
    return bool(re.fullmatch(r"\s*[NSEWO]?\s*[+\-−]?\d{1,3}\D?.*", text))


_NO_TONE: frozenset[str] = frozenset(
    {"-", "–", "none", "no", "off", "0", "0.0", "carrier", "csq", "keiner", "sans", "sin", "senza"}
)
_TESTS: dict[str, Callable[[str], object]] = {
    "rx": _is_frequency,
    "tx": _is_frequency,
    "call": _is_call,
    "locator": _is_locator,
    "position": _is_pair,
    "lat": _is_angle,
    "lon": _is_angle,
    "mode": lambda text: modes_in(text[:80]),
    "id": lambda text: re.fullmatch(r"\d{6,9}", text),
    "number": lambda text: re.fullmatch(r"\d{1,8}", text),
    "sign": _is_direction,
    "color_code": lambda text: re.fullmatch(r"(cc)?\s*\d{1,2}", text, re.IGNORECASE),
    "opens": lambda text: re.fullmatch(r"(cc\s*\d{1,2}|d\d{3}\w?|\d{2,3}[.,]\d)", text, re.IGNORECASE),
    "confirmed": lambda text: re.search(r"\d{4}|\d{1,2}[./]\d{1,2}[./]\d{2}", text),
    "tone": lambda text: _is_tone(text) or text.casefold() in _NO_TONE,
    "module": lambda text: re.fullmatch(r"[A-Z]", text),
    "dgid": lambda text: re.fullmatch(r"\d{1,2}", text),
    "offset": _is_shift,
    "height": _NUMBERLIKE.match,
    "watts": _NUMBERLIKE.match,
    "width": lambda text: parse_width(text[:80]) is not None,
}
_SPEAKING = {"rx": 66.0, "tone": 60.0, "call": 66.0, "locator": 66.0, "position": 60.0, "id": 50.0, "mode": 62.0}
"""What values alone say where the heading says nothing; the others need a heading."""


def _evidence(field: str, values: list[str], what: What) -> float:
    """Points for or against, from the values."""
    test = _TESTS.get(field)
    if test is None or not values:
        return 0.0
    share = _share(values, test)
    if share < 0.3:
        return -70.0
    points = _SPEAKING.get(field, 8.0) * share
    return points if what != "people" or field != "locator" else 0.0
