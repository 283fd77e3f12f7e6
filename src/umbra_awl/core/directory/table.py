"""Any tabular file as headers and rows of text: CSV of any delimiter and encoding, XLSX, GeoJSON, GPX.

Rows come one by one, so a file of any length needs little memory. A row that cannot be read comes as a sentence in place
of cells.
"""

import csv
import json
import re
from collections.abc import Callable, Iterator
from itertools import islice
from pathlib import Path
from typing import IO, Any, NamedTuple

from umbra_awl.core.directory.errors import ReadError

LONGEST_LINE = 1_000_000
SAMPLE_BYTES = 65_536
_BOMS = ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16"))
_NUMBER = re.compile(r"[+\-−]?\d+([.,:]\d+)*\s*\w{0,3}")
_KINDS = {".xlsx": "xlsx", ".geojson": "geojson", ".json": "geojson", ".gpx": "gpx"}


class Row(NamedTuple):
    """A row with the number of its line or record, from 1; `fault` is the sentence when it could not be read."""

    line: int
    cells: list[str]
    fault: str = ""
    mended: str = ""


class Table(NamedTuple):
    """Headers, what was noticed about the file, and a function that begins its rows anew; `share` tells progress 0 to 1."""

    name: str
    kind: str
    headers: list[str]
    rows: Callable[[], Iterator[Row]]
    encoding: str = ""
    delimiter: str = ""
    headless: bool = False


def open_table(path: Path) -> Table:
    """The table in a file. Raises ReadError with a sentence for anything that is none."""
    try:
        size = path.stat().st_size
        with path.open("rb") as file:
            head = file.read(SAMPLE_BYTES)
    except OSError as error:
        raise ReadError(f"“{path.name}” cannot be read: {error.strerror or error}.") from None
    if not size or not head.strip():
        raise ReadError(f"“{path.name}” is empty. Ask for the file again where it comes from.")
    kind = _kind(path, head)
    if kind == "xlsx":
        return _xlsx(path)
    if kind == "geojson":
        return _geojson(path)
    return _gpx(path) if kind == "gpx" else _csv(path, head)


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


def _encodings(head: bytes) -> tuple[str, str]:
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
    encoding, legacy = _encodings(head)
    delimiter = _delimiter(head.decode(encoding, "replace"))

    def rows() -> Iterator[Row]:
        with path.open("r", encoding=encoding, errors="surrogateescape", newline="") as file:
            yield from _csv_rows(file, delimiter, legacy)

    first = next((row for row in rows() if row.fault or any(cell.strip() for cell in row.cells)), None)
    if first is None or first.fault:
        raise ReadError(f"“{path.name}” cannot be read as a table. {first.fault if first else 'It has no rows.'}")
    headers, headless = _headers(first.cells)
    skip = 0 if headless else first.line

    def body() -> Iterator[Row]:
        return (row for row in rows() if row.line > skip)

    shown = (
        legacy
        if any(ord(char) >= 0xDC80 for char in head.decode("utf-8", "surrogateescape") if char > "\ud7ff")
        else encoding
    )
    return Table(path.name, "csv", headers, body, shown, delimiter, headless)


def _delimiter(text: str) -> str:
    """The delimiter that cuts the first lines into most columns most evenly."""
    lines = [line for line in text.splitlines()[:30] if line.strip()]
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
    """What the lines since the last row showed: bytes of another encoding, or no end."""

    __slots__ = ("endless", "escaped")

    def __init__(self) -> None:
        self.endless = self.escaped = False


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
        yield line


def _csv_rows(file: IO[str], delimiter: str, legacy: str) -> Iterator[Row]:
    noticed = _Noticed()
    reader = csv.reader(_bounded(file, noticed), delimiter=delimiter)
    while True:
        start = reader.line_num + 1
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
        elif noticed.escaped:
            mended = [cell.encode("utf-8", "surrogateescape").decode(legacy, "replace") for cell in cells]
            yield Row(start, mended, mended=f"read as {legacy}")
        elif cells:
            yield Row(start, cells)
        noticed.endless = noticed.escaped = False


def _plain(error: Exception) -> str:
    text = str(error)
    return "one field never ends (a quotation mark is missing)" if "field larger" in text or "EOF" in text else text


_ESCAPED = re.compile("[\udc80-\udcff]")


def _escaped(line: str) -> bool:
    return _ESCAPED.search(line) is not None


def _headers(cells: list[str]) -> tuple[list[str], bool]:
    """The headers, and whether the file has none (its first row is numbers already)."""
    numbers = sum(bool(_NUMBER.fullmatch(cell.strip())) for cell in cells)
    if numbers * 2 > len(cells):
        return [f"Column {at}" for at in range(1, len(cells) + 1)], True
    found: list[str] = []
    for at, cell in enumerate(cells, 1):
        name = cell.strip().lstrip("\ufeff") or f"Column {at}"
        while name in found:
            name += "'"
        found.append(name)
    return found, False


def _xlsx(path: Path) -> Table:
    """The first sheet; formulas count as what they last came to."""

    def rows() -> Iterator[Row]:
        for at, values in enumerate(_sheet(path, results=True), 1):
            texts = [_cell(value) for value in values]
            if any(texts):
                yield Row(at, texts)

    first = next(rows(), None)
    if first is None:
        if _has_formulas(path):
            raise ReadError(
                f"“{path.name}” holds formulas without their results. Open it, save it again, or save it as CSV."
            )
        raise ReadError(f"“{path.name}” has no rows on its first sheet.")
    headers, headless = _headers(first.cells)

    def body() -> Iterator[Row]:
        return (row for row in rows() if headless or row.line > first.line)

    return Table(path.name, "xlsx", headers, body, headless=headless)


def _sheet(path: Path, *, results: bool) -> Iterator[tuple[Any, ...]]:
    """The values of the first sheet, row by row. Raises ReadError."""
    import openpyxl

    try:
        with path.open("rb") as file:
            book = openpyxl.load_workbook(file, read_only=True, data_only=results)
            sheet = book.worksheets[0]
            sheet.reset_dimensions()
            yield from sheet.iter_rows(values_only=True)
    except Exception as error:  # noqa: BLE001  (whatever a damaged book makes its reader do, it cannot be read)
        raise ReadError(
            f"“{path.name}” is not a readable spreadsheet ({error}). Save it again as XLSX, or as CSV."
        ) from None


def _has_formulas(path: Path) -> bool:
    return any(str(value).startswith("=") for values in islice(_sheet(path, results=False), 200) for value in values)


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, float) and value.is_integer() and abs(value) < 1e15:
        return str(int(value))
    if hasattr(value, "isoformat"):
        return str(value.isoformat())[:10]
    return str(value).strip()


def _geojson(path: Path) -> Table:
    try:
        features = json.loads(path.read_bytes().decode("utf-8-sig"))["features"]
        records = [_feature(item) for item in features]
    except (ValueError, LookupError, TypeError, AttributeError, RecursionError, OSError) as error:
        raise ReadError(f"“{path.name}” is not a GeoJSON feature collection ({_short(error)}).") from None
    return _of_records(path.name, "geojson", records)


def _feature(item: dict[str, Any]) -> dict[str, str]:
    record = {str(key): _value(value) for key, value in (item.get("properties") or {}).items()}
    geometry = item.get("geometry") or {}
    if geometry.get("type") == "Point":
        record.setdefault("longitude", str(geometry["coordinates"][0]))
        record.setdefault("latitude", str(geometry["coordinates"][1]))
    return record


def _value(value: Any) -> str:
    if isinstance(value, list):
        return " ".join(map(str, value))
    return "" if value is None else _cell(value)


def _short(error: Exception) -> str:
    return f"missing {error}" if isinstance(error, KeyError) else str(error)[:120]


def _gpx(path: Path) -> Table:
    import gpxpy

    try:
        track = gpxpy.parse(path.read_bytes().decode("utf-8-sig", "replace"))
    except (gpxpy.gpx.GPXException, ValueError, TypeError, OSError) as error:
        raise ReadError(f"“{path.name}” is not a readable GPX file ({str(error)[:120]}).") from None
    records = [
        {
            "name": point.name or "",
            "description": " ".join(filter(None, (point.description, point.comment))),
            "latitude": f"{point.latitude:.6f}",
            "longitude": f"{point.longitude:.6f}",
        }
        for point in track.waypoints
    ]
    if not records:
        raise ReadError(
            f"“{path.name}” has no waypoints. A track can be played back at Access, but holds no access points."
        )
    return _of_records(path.name, "gpx", records)


def _of_records(name: str, kind: str, records: list[dict[str, str]]) -> Table:
    headers = list(dict.fromkeys(key for record in records for key in record))
    if not records or not headers:
        raise ReadError(f"“{name}” has no features with properties.")

    def rows() -> Iterator[Row]:
        return (Row(at, [record.get(key, "") for key in headers]) for at, record in enumerate(records, 1))

    return Table(name, kind, headers, rows)
