"""How headings of tables are compared: as plain words in small letters."""

import re
import unicodedata
from collections.abc import Iterable, Sequence
from functools import lru_cache
from itertools import islice

from umbra_awl.core.tables.rows import Row

_LOOKED_AT = 12
_MOST_TITLES = 5


_UNITS = frozenset(
    "hz khz mhz ghz w watt watts mw dbm db m km mi deg s sec min ms % text number yes/no y/n".split()
)  # fmt: skip
_FEWEST = 2


def headings_row(rows: Iterable[Row]) -> Row | None:
    """The row of headings: the first one, but for titles above it, which fill one or two cells where most rows fill more.

    Where headings take two lines the row has both, joined, and the number of the second line.
    """
    first = list(islice(rows, _LOOKED_AT))
    if not first or first[0].fault:
        return first[0] if first else None
    filled = [sum(bool(cell.strip()) for cell in row.cells) for row in first]
    usual = sorted(filled)[len(filled) // 2]
    for at, (row, count) in enumerate(zip(first[:_MOST_TITLES], filled, strict=False)):
        if count * 2 > usual or row.fault:
            return _with_second(row, first[at + 1 :])
    return first[0]


def _with_second(row: Row, below: list[Row]) -> Row:
    if row.fault or not below or below[0].fault:
        return row
    both = joined_headings(row.cells, below[0].cells, [item.cells for item in below[1:] if not item.fault])
    return Row(below[0].line, both) if both is not None else row


def joined_headings(first: Sequence[str], second: Sequence[str], body: Sequence[Sequence[str]]) -> list[str] | None:
    """Headings of two lines as one, “Receive” over “MHz” as “Receive MHz”; None where the second line is none.

    It is one when it has no digit where the rows below have numbers, and stands under groups (blank cells in the first line) or
    says units only. A blank cell of the first line belongs to the group before it; what is said once in
    the second line says enough by itself.
    """
    width = max(len(first), len(second))
    upper, lower = ([*(cell.strip() for cell in line), *[""] * width][:width] for line in (first, second))
    told = [at for at in range(width) if lower[at]]
    over_numbers = [at for at in told if _mostly_numbers(body, at)]
    if len(over_numbers) < _FEWEST or any(any(map(str.isdigit, lower[at])) for at in told):
        return None
    groups = any(not upper[at] and lower[at] for at in range(1, width))
    if not groups and not all(lower[at].casefold().strip("()[]") in _UNITS for at in told):
        return None
    made: list[str] = []
    group = ""
    for above, below in zip(upper, lower, strict=True):
        group = above or (group if below else "")
        by_itself = lower.count(below) == 1 and below.casefold().strip("()[]") not in _UNITS
        made.append(below if below and by_itself else " ".join(dict.fromkeys(filter(None, (group, below)))))
    return made


def _mostly_numbers(body: Sequence[Sequence[str]], at: int) -> bool:
    values = [row[at] for row in body if at < len(row) and row[at].strip()]
    return bool(values) and sum(any(map(str.isdigit, value)) for value in values) * 2 > len(values)


@lru_cache(maxsize=4_096)
def plain_words(text: str) -> str:
    """A heading's words by a-z and 0-9 alone: "±" becomes "plus minus", "Ü" "ue", other accents fall away."""
    plain = re.sub(r"\+\s*/?\s*[-−–]|±", " plus minus ", text.lower())
    plain = plain.replace("ä", "ae").replace("ö", "oe").replace("ü", "ue").replace("ß", "ss")
    plain = "".join(char for char in unicodedata.normalize("NFKD", plain) if not unicodedata.combining(char))
    return " ".join(re.findall(r"[a-z0-9]+", plain))
