"""A sample of a file of columns: its encoding, delimiter, headings and first rows, as they were found."""

import csv
import io
from collections.abc import Iterable
from typing import NamedTuple

from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.tables.headings import joined_headings
from umbra_awl.core.tables.table import delimiter_of, encodings_of

SAMPLE_ROWS = 200
_MOST_LEAD = 12


class Sample(NamedTuple):
    """One file as it was found: its encoding, delimiter, lines before the headings, headings, and first rows.

    Where headings take two lines the first is among those before, and `above` has both joined.
    """

    file: str
    encoding: str
    delimiter: str
    lead: tuple[str, ...]
    headings: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    above: tuple[str, ...] = ()

    @property
    def called(self) -> tuple[str, ...]:
        """What each column is called: its heading, with the line above it where headings take two."""
        return self.above or self.headings

    def values(self, at: int) -> list[str]:
        """The values in a column, blanks left out."""
        return [row[at].strip() for row in self.rows if at < len(row) and row[at].strip()]


MOST_COLUMNS = 300


def take_sample(file: str, data: bytes) -> Sample:
    """The first rows of a file. Raises ColumnsError for anything that is no table."""
    if not data.strip():
        raise ColumnsError(f"“{file}” is empty.")
    if data.startswith(b"PK") or (b"\0" in data[:4_000] and not data.startswith((b"\xff\xfe", b"\xfe\xff"))):
        raise ColumnsError(f"“{file}” is not text. Save it as CSV from the program it comes from.")
    encoding, legacy = encodings_of(data[:65_536])
    try:
        text = data.decode(encoding)
    except UnicodeDecodeError:
        encoding, text = legacy, data.decode(legacy, "replace")
    delimiter = delimiter_of(text.lstrip("\ufeff")[:65_536])
    try:
        lines = list(_first(csv.reader(io.StringIO(text.lstrip("\ufeff"), newline=""), delimiter=delimiter)))
    except csv.Error as error:
        raise ColumnsError(f"“{file}” cannot be read as a table: {error}.") from None
    at = _headings_at(lines)
    if at >= len(lines) or len(lines[at]) < 2:
        raise ColumnsError(f"“{file}” has no columns: one value a line, whatever the delimiter.")
    if len(lines[at]) > MOST_COLUMNS:
        raise ColumnsError(
            f"“{file}” has {counted(len(lines[at]), 'column')}; no radio's file has more than {MOST_COLUMNS}. "
            "Choose another file."
        )
    both = joined_headings(lines[at], lines[at + 1], lines[at + 2 :]) if at + 1 < len(lines) else None
    at += both is not None
    lead = tuple(delimiter.join(cells) for cells in lines[:at])
    heads = tuple(cell.strip() or f"Column {place}" for place, cell in enumerate(lines[at], 1))
    rows = tuple(tuple(row) for row in lines[at + 1 :] if any(row))
    return Sample(file, encoding, delimiter, lead, heads, rows, tuple(both or ()))


def _first(reader: Iterable[list[str]]) -> list[list[str]]:
    found: list[list[str]] = []
    for cells in reader:
        found.append(cells)
        if len(found) > SAMPLE_ROWS:
            break
    return found


def _headings_at(lines: list[list[str]]) -> int:
    """The first line that is as wide as most and not mostly numbers."""
    widths = [len(cells) for cells in lines if any(cells)]
    usual = max(set(widths), key=widths.count) if widths else 0
    for at, cells in enumerate(lines[:_MOST_LEAD]):
        filled = [cell for cell in cells if cell.strip()]
        if len(cells) >= usual and len(filled) * 2 > len(cells):
            return at
    return 0
