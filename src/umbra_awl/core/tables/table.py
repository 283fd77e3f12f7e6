"""Any tabular file as headers and rows of text: CSV of any delimiter and encoding, XLSX, GeoJSON, GPX.

Rows come one by one, so a file of any length needs little memory. A row that cannot be read comes as a sentence in place
of cells.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import csv
import io
import os
import re
from collections.abc import Iterator
from itertools import islice
from pathlib import Path
from typing import IO

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.cells import unguarded
from umbra_awl.core.keep.limits import MOST_CELLS, MOST_ROWS, TABLE_BYTES, open_regular, size_words
from umbra_awl.core.tables.errors import ReadError
from umbra_awl.core.tables.gpx import gpx_table
from umbra_awl.core.tables.headings import headings_row
from umbra_awl.core.tables.records import geojson_table
from umbra_awl.core.tables.rows import Row, Table, headers_of
from umbra_awl.core.tables.xlsx import xlsx_table

LONGEST_LINE = 1_000_000
SAMPLE_BYTES = 65_536
_BOMS = ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16"))
_KINDS = {".xlsx": "xlsx", ".geojson": "geojson", ".json": "geojson", ".gpx": "gpx"}


def open_table(path: Path) -> Table:
    """The table in a file. Raises ReadError with a sentence for anything that is none."""
    try:
        with open_regular(path) as file:
            size = os.fstat(file.fileno()).st_size
            head = file.read(SAMPLE_BYTES)
    except OSError as error:
        raise ReadError(f"“{path.name}” cannot be read: {error.strerror or error}.") from None
    if not size or not head.strip():
        raise ReadError(f"“{path.name}” is empty. Ask for the file again where it comes from.")
    kind = _kind(path, head)
    if kind == "xlsx":
        return xlsx_table(path)
    if kind == "geojson":
        return geojson_table(path)
    if kind == "gpx":
        return gpx_table(path)
    if size > TABLE_BYTES:
        raise ReadError(f"“{path.name}” is not read: it is larger than {size_words(TABLE_BYTES)}, and no directory is.")
    return _csv(path, head)


def _kind(path: Path, head: bytes) -> str:
    """By content first, since names lie."""
    start = head.lstrip(b"\xef\xbb\xbf \t\r\n")[:400]
    if head.startswith(b"PK"):
        return "xlsx"
    if start.startswith(b"<"):
        if b"<gpx" in head:
            return "gpx"
        raise ReadError(f"“{path.name}” is a page or XML of another kind, not a directory. Download the file itself.")
    if start[:1] in {b"{", b"["} and _KINDS.get(path.suffix.lower(), "geojson") == "geojson":
        return "geojson"
    if b"\0" in head and not head.startswith((b"\xff\xfe", b"\xfe\xff")):
        raise ReadError(
            f"“{path.name}” is not text: it holds bytes that no CSV has. Choose a CSV, XLSX, GeoJSON or GPX file."
        )
    return "csv"


def encodings_of(head: bytes) -> tuple[str, str]:
    """The encoding to read with, and the one for bytes that are not UTF-8."""
    for mark, name in _BOMS:
        if head.startswith(mark):
            return name, "cp1252"
    try:
        head.decode("utf-8")
    except UnicodeDecodeError as error:
        if error.start >= len(head) - 4:
            return "utf-8", "cp1252"
        letters = sum(byte > 64 for byte in head)
        if sum(byte > 127 for byte in head) * 4 < letters:
            return "utf-8", "cp1252"  # a few accents among Latin letters
        from charset_normalizer import from_bytes

        best = from_bytes(head).best()
        return "utf-8", best.encoding if best is not None else "cp1252"
    return "utf-8", "cp1252"


def _csv(path: Path, head: bytes) -> Table:
    encoding, legacy = encodings_of(head)
    delimiter = delimiter_of(head.decode(encoding, "replace"))

    def rows() -> Iterator[Row]:
        try:
            with io.TextIOWrapper(open_regular(path), encoding, "surrogateescape", newline="") as file:
                yield from _csv_rows(file, delimiter, legacy)
        except OSError as error:
            why = error.strerror or error
            raise ReadError(f"“{path.name}” cannot be read any more: {why}. Is its disk still there?") from None

    first = headings_row(row for row in rows() if row.fault or any(cell.strip() for cell in row.cells))
    if first is None or first.fault:
        raise ReadError(f"“{path.name}” cannot be read as a table. {first.fault if first else 'It has no rows.'}")
    if len(first.cells) > MOST_CELLS:
        raise ReadError(
            f"“{path.name}” has {counted(len(first.cells), 'column')}; no directory has more than {MOST_CELLS:,}."
        )
    headers, headless = headers_of(first.cells)
    skip = 0 if headless else first.line

    def body() -> Iterator[Row]:
        return (row for row in rows() if row.line > skip)

    other = encoding == "utf-8" and _escaped(head.decode("utf-8", "surrogateescape"))
    shown = legacy if other else encoding
    return Table(path.name, "csv", headers, body, shown, delimiter, headless)


def delimiter_of(text: str) -> str:
    """The delimiter that cuts the first lines into most columns most evenly."""
    first = islice(io.StringIO(text, newline=""), 30)  # lines as a file has them: a form feed or the like ends none
    lines = [line for line in first if line.strip()]
    if len(lines) > 1 and len(text) >= SAMPLE_BYTES // 2:
        lines = lines[:-1]

    def score(mark: str) -> tuple[int, int]:
        counts = [len(cells) for cells in csv.reader(lines, delimiter=mark)] or [1]
        usual = max(set(counts), key=counts.count)
        return (counts.count(usual) if usual > 1 else 0, usual)

    try:
        return max(";\t|,", key=score)
    except csv.Error:
        return ","


class _Noticed:
    """What the lines since the last row showed: bytes of another encoding, no end, an apostrophe that may guard a cell."""

    __slots__ = ("endless", "escaped", "guarded")

    def __init__(self) -> None:
        self.endless = self.escaped = self.guarded = False


def _bounded(file: IO[str], noticed: _Noticed) -> Iterator[str]:
    """Lines of a file; of an endless one only its beginning, so that it can be refused without being read into memory."""
    while line := file.readline(LONGEST_LINE):
        if len(line) >= LONGEST_LINE and not line.endswith(("\n", "\r")):
            while rest := file.readline(LONGEST_LINE):
                if rest.endswith(("\n", "\r")) or len(rest) < LONGEST_LINE:
                    break
            noticed.endless = True
            yield "too long\n"
            continue
        if not line.isascii() and _escaped(line):
            noticed.escaped = True
        if "'" in line:
            noticed.guarded = True
        yield line


def _csv_rows(file: IO[str], delimiter: str, legacy: str) -> Iterator[Row]:
    noticed = _Noticed()
    reader = csv.reader(_bounded(file, noticed), delimiter=delimiter)
    while True:
        start = reader.line_num + 1
        if start > MOST_ROWS:
            raise ReadError(f"The table has more than {MOST_ROWS:,} lines, and no directory has.")
        try:
            cells = next(reader)
        except StopIteration:
            return
        except (csv.Error, UnicodeError) as error:
            yield Row(start, [], f"Line {start} cannot be read: {_plain(error)}.")
            if isinstance(error, UnicodeError):
                return
            continue
        if noticed.endless:
            yield Row(
                start, [], f"Line {start} is longer than {LONGEST_LINE:,} characters; that is no row of a directory."
            )
        elif len(cells) > MOST_CELLS:
            yield Row(start, [], f"Line {start} has {counted(len(cells), 'column')}; that is no row of a directory.")
        elif noticed.escaped:
            mended = [unguarded(cell).encode("utf-8", "surrogateescape").decode(legacy, "replace") for cell in cells]
            yield Row(start, mended, mended=f"read as {legacy}")
        elif cells:
            yield Row(start, [unguarded(cell) for cell in cells] if noticed.guarded else cells)
        noticed.endless = noticed.escaped = noticed.guarded = False


def _plain(error: Exception) -> str:
    text = str(error)
    return "one field never ends (a quotation mark is missing)" if "field larger" in text or "EOF" in text else text


_ESCAPED = re.compile("[\udc80-\udcff]")


def _escaped(line: str) -> bool:
    return _ESCAPED.search(line) is not None
