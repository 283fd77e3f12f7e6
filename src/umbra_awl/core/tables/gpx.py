"""GPX (version 1.0 and 1.1) read as a stream: waypoints as rows of a table, tracks and routes as timed points."""

import os
import re
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path
from typing import NamedTuple
from xml.parsers.expat import ExpatError

from umbra_awl.core.facts.callsign import call_sign_fault
from umbra_awl.core.keep.limits import MB, LimitError, open_regular, size_words
from umbra_awl.core.tables.errors import ReadError
from umbra_awl.core.tables.rows import Row, Table
from umbra_awl.core.tables.xml_stream import Handler, stream

MOST_FILE = 20 * MB
_POINTS = {"wpt": "waypoint", "trkpt": "track", "rtept": "route"}
_KEPT = frozenset({"name", "desc", "cmt", "time"})
HEADERS = ["name", "description", "latitude", "longitude"]
_OPENERS = ("tone", "color code", "module", "DG-ID")
TOLD = ["call", "site", "mode", "output MHz", "input MHz", *_OPENERS, "network"]
"""What the description of a waypoint of our own export tells beside its name."""
_TOLD = re.compile(
    r"(FM|DMR|D-STAR|System Fusion) ([\d.]+) heard, ([\d.]+) sent(?: (tone|color code|module|DG-ID) ([^;\s]+))?(?: on ([^;\s]+))?"
)


class Point(NamedTuple):
    """A point: “waypoint”, “track” or “route”, degrees, and what was written beside it; `track` counts tracks or routes."""

    kind: str
    lat: float
    lon: float
    name: str = ""
    description: str = ""
    time: str = ""
    track: int = 0
    title: str = ""


class _Reader(Handler[Point]):
    def __init__(self) -> None:
        super().__init__()
        self._kind = ""
        self._at = (0.0, 0.0)
        self._held: dict[str, str] = {}
        self._track = 0
        self._title = ""
        self.root = ""

    def start(self, name: str, attributes: dict[str, str], /) -> None:
        self.root = self.root or name
        if name in _POINTS:
            self._kind = _POINTS[name]
            self._at = (_degrees(attributes, "lat", 90), _degrees(attributes, "lon", 180))
            self._held = {}
        elif name in {"trk", "rte"}:
            self._track += 1
            self._title = ""
        if name in _KEPT:
            self.clear()

    def end(self, name: str, /) -> None:
        if name in _KEPT and self._kind:
            self._held[name] = self.text.strip()
        elif name == "name":
            self._title = self.text.strip()
        elif name in _POINTS:
            held = self._held
            words = " ".join(filter(None, (held.get("desc"), held.get("cmt"))))
            self.done.append(
                Point(
                    self._kind, *self._at, held.get("name", ""), words, held.get("time", ""), self._track, self._title
                )
            )
            self._kind = ""


def _degrees(attributes: dict[str, str], name: str, most: int) -> float:
    value = float(attributes[name])
    if not -most <= value <= most:
        raise ValueError(f"{name} {attributes[name][:20]} does not exist")
    return value


def points_of(path: Path) -> Iterator[Point]:
    """The points of a file, in its order, as they are read. Raises ReadError."""
    reader = _Reader()
    try:
        with open_regular(path) as file:
            if os.fstat(file.fileno()).st_size > MOST_FILE:
                raise LimitError(f"it is larger than {size_words(MOST_FILE)}")
            yield from stream(file, reader, MOST_FILE)
        if reader.root != "gpx":
            raise ValueError(f"it begins with “{reader.root[:20]}”")
    except LimitError as error:
        raise ReadError(f"“{path.name}” is not read: {error.strerror}. Export a smaller part of it.") from None
    except (ExpatError, KeyError, ValueError, OSError) as error:
        why = f"missing {error}" if isinstance(error, KeyError) else str(error)[:120]
        raise ReadError(f"“{path.name}” is not a readable GPX file ({why}).") from None


def gpx_table(path: Path) -> Table:
    """Waypoints with their names and descriptions. Raises ReadError."""

    def rows() -> Iterator[Row]:
        waypoints = (point for point in points_of(path) if point.kind == "waypoint")
        for at, point in enumerate(waypoints, 1):
            where = [f"{point.lat:.6f}", f"{point.lon:.6f}"]
            if own:
                yield from (Row(at, [*told, point.description, *where]) for told in _services(point))
            else:
                yield Row(at, [point.name, point.description, *where])

    first = next((point for point in points_of(path) if point.kind == "waypoint"), None)
    own = first is not None and _TOLD.search(first.description) is not None
    if first is None:
        raise ReadError(
            f"“{path.name}” has no waypoints. A track can be played back at Access, but holds no access points."
        )
    return Table(path.name, "gpx", [*TOLD, *HEADERS[1:]] if own else list(HEADERS), rows)


def _services(point: Point) -> Iterator[list[str]]:
    """What our own export says of each service in a waypoint's description; blanks where it says nothing so."""
    call, _blank, site = point.name.partition(" ")
    named = [call, site] if call_sign_fault(call) == "" else ["", point.name]
    found = list(_TOLD.finditer(point.description))
    for one in found:
        mode, output, sent, what, value, network = one.groups()
        yield [*named, mode, output, sent, *(value if what == word else "" for word in _OPENERS), network or ""]
    if not found:
        yield [*named, *[""] * (len(TOLD) - 2)]


def time_of(text: str) -> datetime | None:
    """The moment in a point's time; None for none or one that is not understood."""
    try:
        return datetime.fromisoformat(text)
    except ValueError:
        return None
