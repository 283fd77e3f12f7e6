"""Access points out of the directory or a plan as CSV, GeoJSON and GPX, all open forms that our own import reads again.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import csv
import io
import json
import re
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from umbra_awl.core.directory.errors import StoreFailedError
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.keep.atomic import write_new, write_over
from umbra_awl.core.keep.cells import guarded
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.model import AccessPoint, Service

HEADERS = (
    "call", "site", "place", "kind", "mode", "output MHz", "input MHz", "tone", "tone sent back", "width kHz", "color code",
    "slots", "module", "DG-ID", "network", "latitude", "longitude", "power W", "antenna height m", "confirmed", "note",
)  # fmt: skip


def rows_of(access: AccessPoint) -> list[dict[str, str]]:
    """One row for each service."""
    return [_row(access, service) for service in access.services]


def _row(access: AccessPoint, service: Service) -> dict[str, str]:
    row = dict.fromkeys(HEADERS, "")
    row |= {
        "call": access.call, "site": access.site, "place": access.place, "kind": access.kind, "mode": MODE_WORDS[service.mode],
        "output MHz": format_mhz(service.rx_hz), "input MHz": format_mhz(service.tx_hz), "confirmed": access.confirmed,
        "note": access.note, "latitude": _number(access.lat), "longitude": _number(access.lon), "power W": _number(access.watts),
        "antenna height m": _number(access.height_m),
    }  # fmt: skip
    return row | mode_of(service).columns(service.air)


def _number(value: float | None) -> str:
    return "" if value is None else f"{value:.6f}".rstrip("0").rstrip(".")


def as_csv(items: Iterable[AccessPoint]) -> str:
    """Comma-separated, UTF-8, one row a service."""
    out = io.StringIO()
    writer = csv.DictWriter(out, HEADERS, lineterminator="\n")
    writer.writeheader()
    for access in items:
        writer.writerows({head: guarded(cell) for head, cell in row.items()} for row in rows_of(access))
    return out.getvalue()


def as_geojson(items: Iterable[AccessPoint]) -> str:
    """A feature collection, one point a service; those without a position have no geometry."""
    features: list[dict[str, Any]] = []
    for access in items:
        point = None if access.lat is None else {"type": "Point", "coordinates": [access.lon, access.lat]}
        for row in rows_of(access):
            properties = {key: value for key, value in row.items() if value and key not in {"latitude", "longitude"}}
            features.append({"type": "Feature", "geometry": point, "properties": properties})
    return json.dumps({"type": "FeatureCollection", "features": features}, ensure_ascii=False, indent=1)


def as_gpx(items: Iterable[AccessPoint]) -> str:
    """Waypoints for a navigator: name and place; what is needed on the air stands in the description."""
    import gpxpy.gpx

    made = gpxpy.gpx.GPX()
    made.creator = "Umbra Awl"
    for access in items:
        if access.lat is None or access.lon is None:
            continue
        point = gpxpy.gpx.GPXWaypoint(access.lat, access.lon, name=f"{access.call} {access.site}".strip())
        point.description = "; ".join(_sentence(service) for service in access.services)
        made.waypoints.append(point)
    return str(made.to_xml())


def _sentence(service: Service) -> str:
    mode = mode_of(service)
    value = mode.opener(service.air)
    opens = f" {mode.opened_by} {value}" if value else ""
    network = getattr(service.air, "network", "")
    through = f" on {_ONE_WORD.sub('-', network)}" if network else ""
    return f"{MODE_WORDS[service.mode]} {format_mhz(service.rx_hz)} heard, {format_mhz(service.tx_hz)} sent{opens}{through}"


FORMS = {".csv": as_csv, ".geojson": as_geojson, ".gpx": as_gpx}


_ONE_WORD = re.compile(r"[;\s]+")


def held_by(path: Path, items: Iterable[AccessPoint]) -> list[AccessPoint]:
    """Those access points that the form of a file can hold: a waypoint needs a position."""
    if path.suffix.lower() != ".gpx":
        return list(items)
    return [item for item in items if item.lat is not None and item.lon is not None]


def write_access(path: Path, items: Iterable[AccessPoint], *, replace: bool = False) -> None:
    """Write access points in the form that the file's name tells. Raises StoreFailedError.

    What is there already is replaced only when told so.
    """
    form = FORMS.get(path.suffix.lower())
    if form is None:
        raise StoreFailedError(
            f"“{path.suffix or path.name}” is not a form to export. Name the file .csv, .geojson or .gpx."
        )
    try:
        (write_over if replace else write_new)(path, form(items).encode())
    except FileExistsError:
        raise StoreFailedError(f"“{path.name}” is there already. Choose another name; nothing was replaced.") from None
    except OSError as error:
        raise StoreFailedError(f"“{path.name}” cannot be written: {error.strerror or error}.") from None
