"""A recorded track as a moving position, and what lies along it. Read from GPX."""

from collections.abc import Sequence
from datetime import datetime
from itertools import pairwise
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.directory.nearest import ANY, Near, NearestWanted, within
from umbra_awl.core.directory.store import Store
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.earth import Position, distance_km
from umbra_awl.core.tables.errors import ReadError
from umbra_awl.core.tables.gpx import points_of, time_of

_NO_CLOCK_KMH = 30.0
MOST_POINTS = 200_000


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
    """The tracks of a GPX file one after another, or its routes where it has no track. Raises ReadError."""
    read = [point for point in points_of(path) if point.kind != "waypoint"]
    found = [point for point in read if point.kind == "track"] or read
    if len(found) < 2:
        raise ReadError(f"“{path.name}” has no track of at least two points.")
    if len(found) > MOST_POINTS:
        raise ReadError(
            f"“{path.name}” has {counted(len(found), 'point')}; at most {MOST_POINTS:,} are played. Export a shorter track."
        )
    positions = tuple(Position(point.lat, point.lon) for point in found)
    name = next((point.title for point in found if point.title), path.stem)
    return Track(name, positions, _seconds([time_of(point.time) for point in found], positions))


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


def along(store: Store, track: Track, km: float, wanted: NearestWanted = ANY) -> list[Near]:
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
