"""A recorded track as a moving position, and what lies along it. Read from GPX."""

from collections.abc import Sequence
from datetime import datetime
from itertools import pairwise
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.directory.errors import ReadError
from umbra_awl.core.directory.nearest import ANY, Near, Wanted, within
from umbra_awl.core.directory.store import Store
from umbra_awl.core.facts.earth import Position, distance_km

_NO_CLOCK_KMH = 30.0


class Track(NamedTuple):
    """Positions with the seconds since the start; where the file has no times, at 30 km/h."""

    name: str
    positions: tuple[Position, ...]
    seconds: tuple[float, ...]

    @property
    def length_s(self) -> float:
        """From the first to the last position."""
        return self.seconds[-1]

    def at(self, second: float) -> Position:
        """Where it is at a time; before the start and after the end it stands."""
        for place in range(1, len(self.seconds)):
            if second < self.seconds[place]:
                one, other = self.positions[place - 1], self.positions[place]
                span = self.seconds[place] - self.seconds[place - 1]
                share = max(0.0, (second - self.seconds[place - 1]) / span) if span else 0.0
                return Position(one.lat + (other.lat - one.lat) * share, one.lon + (other.lon - one.lon) * share)
        return self.positions[-1]


def read_track(path: Path) -> Track:
    """The first track or route of a GPX file. Raises ReadError."""
    import gpxpy

    try:
        read = gpxpy.parse(path.read_text("utf-8", "replace"))
    except (gpxpy.gpx.GPXException, OSError, ValueError, TypeError) as error:
        raise ReadError(f"“{path.name}” is not a readable GPX file ({str(error)[:100]}).") from None
    tracks = [point for track in read.tracks for segment in track.segments for point in segment.points]
    routes = [point for route in read.routes for point in route.points]
    found = [(point.latitude, point.longitude, point.time) for point in tracks or routes]
    if len(found) < 2:
        raise ReadError(f"“{path.name}” has no track of at least two points.")
    positions = tuple(Position(lat, lon) for lat, lon, _time in found)
    name = next((track.name for track in read.tracks if track.name), path.stem)
    return Track(name, positions, _seconds([time for _lat, _lon, time in found], positions))


def _seconds(times: Sequence[datetime | None], positions: tuple[Position, ...]) -> tuple[float, ...]:
    known = [time for time in times if time is not None]
    if len(known) == len(times):
        since = [(time - known[0]).total_seconds() for time in known]
        if all(after >= before for before, after in pairwise(since)) and since[-1] > 0:
            return tuple(since)
    gone, found = 0.0, [0.0]
    for one, other in pairwise(positions):
        gone += distance_km(one, other) / _NO_CLOCK_KMH * 3600
        found.append(gone)
    return tuple(found)


def along(store: Store, track: Track, km: float, wanted: Wanted = ANY) -> list[Near]:
    """Entries within a distance of a track, in the order they are passed; distance and bearing from the nearest point."""
    best: dict[int, tuple[int, Near]] = {}
    last: Position | None = None
    for place, position in enumerate(track.positions):
        if last is not None and distance_km(last, position) < km / 4 and place != len(track.positions) - 1:
            continue
        last = position
        for near in within(store, position, km, wanted):
            known = best.get(near.entry.id)
            if known is None or (near.km or 0.0) < (known[1].km or 0.0):
                best[near.entry.id] = (place, near)
    return [near for _place, near in sorted(best.values(), key=lambda item: item[0])]
