"""GeoJSON feature collections (RFC 7946) as tables: each feature a row, decoded one by one."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import msgspec

from umbra_awl.core.keep.limits import MB, MOST_PROPERTY_NAMES, LimitError, read_within
from umbra_awl.core.tables.errors import ReadError
from umbra_awl.core.tables.rows import Row, Table, cell_text

MOST_FILE = 40 * MB


class _Collection(msgspec.Struct):
    features: list[msgspec.Raw]


class _Feature(msgspec.Struct):
    properties: dict[str, Any] | None = None
    geometry: Any = None


_decode = msgspec.json.Decoder(_Feature).decode
_FAULTS = (msgspec.DecodeError, UnicodeError, LookupError, TypeError, AttributeError, RecursionError, ValueError)


def geojson_table(path: Path) -> Table:
    """Features with their properties, points as two columns more. Raises ReadError."""
    try:
        data = read_within(path, MOST_FILE).removeprefix(b"\xef\xbb\xbf")
        features = msgspec.json.decode(data, type=_Collection).features
        headers = _names(features)
    except LimitError as error:
        raise ReadError(f"“{path.name}” is not read: {error.strerror}. Export a smaller part of it, or CSV.") from None
    except (*_FAULTS, OSError) as error:
        raise ReadError(f"“{path.name}” is not a GeoJSON feature collection ({_short(error)}).") from None
    if not features or not headers:
        raise ReadError(f"“{path.name}” has no features with properties.")

    def rows() -> Iterator[Row]:
        for at, feature in enumerate(features, 1):
            record = _record(feature)
            yield Row(at, [record.get(key, "") for key in headers])

    return Table(path.name, "geojson", headers, rows)


def _names(features: list[msgspec.Raw]) -> list[str]:
    """The names of all properties, in the order they come up. Raises LimitError when they are too many for columns."""
    found: dict[str, None] = {}
    for feature in features:
        found.update(dict.fromkeys(_record(feature)))
        if len(found) > MOST_PROPERTY_NAMES:
            raise LimitError(f"its features have more than {MOST_PROPERTY_NAMES:,} properties of different names")
    return list(found)


def _record(feature: msgspec.Raw) -> dict[str, str]:
    item = _decode(feature)
    record = {str(key): _value(value) for key, value in (item.properties or {}).items()}
    geometry = item.geometry or {}
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
