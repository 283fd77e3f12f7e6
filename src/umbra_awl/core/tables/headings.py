"""How headings of tables are compared: as plain words in small letters."""

import re
import unicodedata
from collections.abc import Iterable
from functools import lru_cache
from itertools import islice

from umbra_awl.core.tables.rows import Row

_LOOKED_AT = 12
_MOST_TITLES = 5


def headings_row(rows: Iterable[Row]) -> Row | None:
    """The row of headings: the first one, but for titles above it, which fill one or two cells where most rows fill more."""
    first = list(islice(rows, _LOOKED_AT))
    if not first or first[0].fault:
        return first[0] if first else None
    filled = [sum(bool(cell.strip()) for cell in row.cells) for row in first]
    usual = sorted(filled)[len(filled) // 2]
    for row, count in zip(first[:_MOST_TITLES], filled, strict=False):
        if count * 2 > usual or row.fault:
            return row
    return first[0]


@lru_cache(maxsize=4_096)
def plain_words(text: str) -> str:
    """A heading's words by a-z and 0-9 alone: "±" becomes "plus minus", "Ü" "ue", other accents fall away."""
    plain = re.sub(r"\+\s*/?\s*[-−–]|±", " plus minus ", text.lower())
    plain = plain.replace("ä", "ae").replace("ö", "oe").replace("ü", "ue").replace("ß", "ss")
    plain = "".join(char for char in unicodedata.normalize("NFKD", plain) if not unicodedata.combining(char))
    return " ".join(re.findall(r"[a-z0-9]+", plain))
