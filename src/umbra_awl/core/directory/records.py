"""Tables out of spreadsheets, GeoJSON and GPX: each record a row."""

import json
from collections.abc import Iterator
from itertools import islice
from pathlib import Path
from typing import Any

from umbra_awl.core.directory.errors import ReadError
from umbra_awl.core.directory.rows import Row, Table, cell_text, headers_of


def xlsx_table(path: Path) -> Table:
    """The first sheet; formulas count as what they last came to. Raises ReadError."""

    def rows() -> Iterator[Row]:
        for at, values in enumerate(_sheet(path, results=True), 1):
            texts = [cell_text(value) for value in values]
            if any(texts):
                yield Row(at, texts)

    first = next(rows(), None)
    if first is None:
        if _has_formulas(path):
            raise ReadError(
                f"“{path.name}” holds formulas without their results. Open it, save it again, or save it as CSV."
            )
        raise ReadError(f"“{path.name}” has no rows on its first sheet.")
    headers, headless = headers_of(first.cells)

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


def geojson_table(path: Path) -> Table:
    """Features with their properties, points as two columns more. Raises ReadError."""
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
    return "" if value is None else cell_text(value)


def _short(error: Exception) -> str:
    return f"missing {error}" if isinstance(error, KeyError) else str(error)[:120]


def gpx_table(path: Path) -> Table:
    """Waypoints with their names and descriptions. Raises ReadError."""
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
