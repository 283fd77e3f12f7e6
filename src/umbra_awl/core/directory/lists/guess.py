"""Guessing which column is which field: by its heading (rapidfuzz over known words) and by what its values look like.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import re
from itertools import islice
from typing import NamedTuple

from umbra_awl.core.directory.lists.column_values import MOST_VALUES, evidence, share_of
from umbra_awl.core.directory.lists.heading_words import FURTHER
from umbra_awl.core.directory.lists.layout import FIELDS, NEEDED, TableLayout, What
from umbra_awl.core.directory.lists.sides import (
    Columns,
    Known,
    Sides,
    frequency_columns,
    is_usual_shift,
    sides_of,
)
from umbra_awl.core.directory.lists.tone_sides import tone_columns, tones_told
from umbra_awl.core.tables.headings import plain_words
from umbra_awl.core.tables.rows import Table

SAMPLE_ROWS = 60
_LONGEST_HEADING = 120
"""Characters of a heading that are looked at: what is longer is no heading, and comparing it takes its time squared."""
_ENOUGH = 58.0
_NEARLY = 8.0
_UNITS = frozenset("mhz khz hz w m km deg degrees degree grad dd decimal wgs84 wgs dez dbm".split())


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


class Guess(NamedTuple):
    """The likeliest layout of a table, what was decided by evidence, and what has to be asked before it can be used."""

    layout: TableLayout
    told: str = ""
    asks: str = ""


def guess(table: Table, what: What | None = None) -> TableLayout:
    """The likeliest layout of a table; its columns may miss what the operator must choose."""
    return guess_of(table, what).layout


def guess_of(table: Table, what: What | None = None, known: Known | None = None) -> Guess:
    """The same with what was decided and what is asked. `known` gives the pairs of repeaters that are known by call sign."""
    rows = sample(table)
    every: tuple[What, ...] = ("access",) if table.kind == "gpx" else ("access", "people", "destinations")
    whats: tuple[What, ...] = (what,) if what else every
    ranked = [(_score(kind, columns), kind, columns) for kind in whats for columns in (_columns(table, rows, kind),)]
    _best, kind, columns = max(ranked, key=lambda item: item[0])
    if kind != "access":
        return Guess(TableLayout(kind, columns))
    sides, columns = _with_sides(Columns(table.headers, rows), columns, known)
    told = " ".join(filter(None, (sides.how, tones_told(columns))))
    return Guess(TableLayout(kind, columns), told, sides.asks)


def sides_told(table: Table, layout: TableLayout, known: Known | None = None) -> str:
    """What speaks for or against the columns of what is heard and sent on, as a sentence; empty where nothing is in doubt."""
    sides = _with_sides(Columns(table.headers, sample(table)), dict(layout.columns), known)[0]
    chosen = layout.columns.get("rx", ""), layout.columns.get("tx", "")
    if not sides.how or not chosen[0] or not chosen[1]:
        return ""
    if chosen == (sides.sent, sides.heard):
        return f"What is heard and what is sent on look exchanged. {sides.how}"
    return sides.how if chosen == (sides.heard, sides.sent) else ""


def _with_sides(columns: Columns, found: dict[str, str], known: Known | None) -> tuple[Sides, dict[str, str]]:
    """The columns of frequencies decided by evidence, and a column of shifts where only its values tell that it is one."""
    told = {field: column for field, column in found.items() if field not in {"rx", "tx"}}
    places = frequency_columns(columns)
    held = {columns.headers[at] for at in places}
    told = {field: column for field, column in told.items() if column not in held}
    if not {"offset", "sign"} & told.keys():
        told |= _shift_columns(columns, set(told.values()) | held)
    sides = sides_of(columns, told.get("offset", ""), told.get("sign", ""), told.get("call", ""), known)
    if sides == Sides():
        return sides, found
    pair = {"rx": sides.heard, "tx": sides.sent or (found.get("tx", "") if found.get("tx") not in held else "")}
    made = tone_columns(columns, told, sides) | {field: column for field, column in pair.items() if column}
    return sides, {field: made[field] for field in FIELDS["access"] if field in made}


def _shift_columns(columns: Columns, used: set[str]) -> dict[str, str]:
    """A column that nobody named, whose values are the shifts or the directions of repeaters."""
    for at, header in enumerate(columns.headers):
        values = columns.values(at)
        if header in used or not values:
            continue
        if share_of(values, is_usual_shift) >= MOST_VALUES:
            return {"offset": header}
        if share_of(values, lambda text: text in _SIGNS) >= MOST_VALUES and len(set(values)) > 1:
            return {"sign": header}
    return {}


_SIGNS = frozenset({"+", "-", "−", "–", "plus", "minus", "simplex", "s", "dup+", "dup-"})


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
    scores = {field: max(score + evidence(field, values, layout.what), score - 20.0) for field, score in named.items()}
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
            score = heading_score(header, words_of(what, field)) + evidence(field, values, what)
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
