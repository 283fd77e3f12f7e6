"""The nearest access points: boxes of the R*Tree that grow until enough lie inside the circle, then exact distances.

Boxes mind the date line and the poles. Distances are kilometres on the sphere.
"""

import math
from typing import NamedTuple

from umbra_awl.core.directory.store import BAND_BITS, MODE_BITS, Store, StoredEntry
from umbra_awl.core.facts.earth import EARTH_KM, Position, bearing_deg, distance_km
from umbra_awl.core.facts.modes import by_mode

_FIRST_KM = 12.0
_ENOUGH = 5
_GROW = 4.0
_GROW_CORNERS = 1.15
_REFINE = 4
"""A coast of a crowded land can begin inside the last step: a few halvings keep it from being read whole."""
_HALF_WAY_KM = math.pi * EARTH_KM


class NearestWanted(NamedTuple):
    """What is looked for: modes and bands (empty: any), confirmed since an ISO date, words."""

    modes: frozenset[str] = frozenset()
    bands: frozenset[str] = frozenset()
    since: str = ""
    text: str = ""
    vanished: bool = False


ANY = NearestWanted()
_FROM = (
    " FROM entry_box JOIN entry ON entry.id = entry_box.id "
    "WHERE max_lat >= ? AND min_lat <= ? AND max_lon >= ? AND min_lon <= ?"
)


class Near(NamedTuple):
    """An entry with its distance in km and first bearing in degrees; without a position both are None."""

    entry: StoredEntry
    km: float | None
    bearing: float | None


def boxes_around(place: Position, km: float) -> list[tuple[float, float, float, float]]:
    """Boxes (lowest and highest latitude, lowest and highest longitude) that together hold a circle."""
    reach = math.degrees(km / EARTH_KM) * 1.0001 + 1e-6
    low, high = place.lat - reach, place.lat + reach
    if low <= -90 or high >= 90:
        return [(max(low, -90.0), min(high, 90.0), -180.0, 180.0)]
    share = math.sin(min(km / EARTH_KM, math.pi / 2)) / math.cos(math.radians(place.lat))
    if share >= 1:
        return [(low, high, -180.0, 180.0)]
    wide = math.degrees(math.asin(share)) * 1.0001 + 1e-6
    west, east = place.lon - wide, place.lon + wide
    if west < -180:
        return [(low, high, west + 360, 180.0), (low, high, -180.0, east)]
    if east > 180:
        return [(low, high, west, 180.0), (low, high, -180.0, east - 360)]
    return [(low, high, west, east)]


def nearest(store: Store, place: Position, count: int, wanted: NearestWanted = ANY) -> list[Near]:
    """The nearest entries that are wanted, nearest first."""
    km = _fitting_km(store, place, count, wanted)
    found = _inside(store, place, km, wanted)
    while len(found) < count and km < _HALF_WAY_KM:
        km = min(km * _GROW_CORNERS, _HALF_WAY_KM)
        found = _inside(store, place, km, wanted)
    return _with_entries(store, place, found[:count])


def _fitting_km(store: Store, place: Position, count: int, wanted: NearestWanted) -> float:
    """A radius whose boxes hold enough entries and not many times as many: steps by the density met, then halvings."""
    km, low = _FIRST_KM, 0.0
    while km < _HALF_WAY_KM:
        held = _held(store, place, km, wanted, _ENOUGH * count)
        if held >= count:
            break
        low, km = km, km * min(_GROW, 1.1 * math.sqrt(1.3 * count / held)) if held else km * _GROW
    for _time in range(_REFINE):
        if held < _ENOUGH * count or km <= _FIRST_KM:
            break
        middle = math.sqrt(max(low, 1.0) * km)
        inner = _held(store, place, middle, wanted, _ENOUGH * count)
        low, km, held = (low, middle, inner) if inner >= count else (middle, km, held)
    return min(km, _HALF_WAY_KM)


def _held(store: Store, place: Position, km: float, wanted: NearestWanted, most: int) -> int:
    """How many entries the boxes around a circle hold; stops counting at `most`."""
    clause, values = _conditions(wanted)
    query = f"SELECT count(*) FROM (SELECT 1{_FROM}{clause} LIMIT ?)"  # noqa: S608  (the conditions are our own texts)
    return sum(store.db.execute(query, (*box, *values, most)).fetchone()[0] for box in boxes_around(place, km))


def within(store: Store, place: Position, km: float, wanted: NearestWanted = ANY, most: int = 2_000) -> list[Near]:
    """All wanted entries inside a circle, nearest first."""
    return _with_entries(store, place, _inside(store, place, km, wanted)[:most])


def count_within(store: Store, place: Position, km: float, wanted: NearestWanted = ANY) -> int:
    """How many wanted entries lie inside a circle."""
    return len(_inside(store, place, km, wanted))


def _with_entries(store: Store, place: Position, found: list[tuple[float, int]]) -> list[Near]:
    entries = {entry.id: entry for entry in store.entries(number for _km, number in found)}
    made: list[Near] = []
    for km, number in found:
        entry = entries[number]
        there = Position(entry.access.lat or 0.0, entry.access.lon or 0.0)
        made.append(Near(entry, km, bearing_deg(place, there)))
    return made


def _inside(store: Store, place: Position, km: float, wanted: NearestWanted) -> list[tuple[float, int]]:
    """(kilometres, number) of the entries inside a circle, sorted."""
    clause, values = _conditions(wanted)
    found: list[tuple[float, int]] = []
    for box in boxes_around(place, km):
        query = f"SELECT entry.id, entry.lat, entry.lon{_FROM}{clause}"
        found += [(_km(place, lat, lon), number) for number, lat, lon in store.db.execute(query, (*box, *values))]
    found = [item for item in found if item[0] <= km]
    found.sort()
    return found


def _km(place: Position, lat: float, lon: float) -> float:
    return distance_km(place, Position(lat, lon))


def _conditions(wanted: NearestWanted) -> tuple[str, list[object]]:
    parts: list[str] = [] if wanted.vanished else [" AND entry.gone = ''"]
    values: list[object] = []
    for column, bits, chosen in (
        ("modes", dict[str, int](by_mode(MODE_BITS)), wanted.modes),
        ("bands", BAND_BITS, wanted.bands),
    ):
        if chosen:
            parts.append(f" AND (entry.{column} & ?) != 0")
            values.append(sum(bits[item] for item in chosen))
    if wanted.since:
        parts.append(" AND entry.confirmed >= ?")
        values.append(wanted.since)
    words = _words(wanted.text)
    if words:
        parts.append(" AND entry.id IN (SELECT rowid FROM entry_words WHERE entry_words MATCH ?)")
        values.append(words)
    return "".join(parts), values


def _words(text: str) -> str:
    plain = "".join(char if char.isalnum() or char == "." else " " for char in text)
    return " ".join(f'"{word}"*' for word in plain.split())


def listed(store: Store, wanted: NearestWanted, most: int) -> list[Near]:
    """Wanted entries by call sign, without distances: for who has no place yet."""
    clause, values = _conditions(wanted)
    query = f"SELECT id FROM entry WHERE lat IS NOT NULL{clause} ORDER BY call, key LIMIT ?"  # noqa: S608  (the same)
    return [
        Near(entry, None, None) for entry in store.entries(row[0] for row in store.db.execute(query, (*values, most)))
    ]


def unplaced(store: Store, wanted: NearestWanted, most: int = 200) -> list[Near]:
    """Wanted entries that have no position, by call sign."""
    clause, values = _conditions(wanted)
    rows = store.db.execute(f"SELECT id FROM entry WHERE lat IS NULL{clause} ORDER BY call LIMIT ?", (*values, most))  # noqa: S608
    return [Near(entry, None, None) for entry in store.entries(row[0] for row in rows)]


class Dot(NamedTuple):
    """What the map needs of an entry: its number, degrees, modes and kind as bits, and whether it has vanished."""

    id: int
    lat: float
    lon: float
    modes: int
    gone: bool


def dots(store: Store, wanted: NearestWanted = ANY) -> list[Dot]:
    """Every wanted entry that has a position."""
    clause, values = _conditions(wanted)
    query = f"SELECT id, lat, lon, modes, gone != '' FROM entry WHERE lat IS NOT NULL{clause}"  # noqa: S608  (the same)
    return list(map(Dot._make, store.db.execute(query, values)))


def labels(store: Store, ids: list[int]) -> dict[int, tuple[str, str]]:
    """Number to call sign and site, for a few entries."""
    marks = ",".join("?" * len(ids))
    rows = store.db.execute(f"SELECT id, call, site FROM entry WHERE id IN ({marks})", ids)  # noqa: S608
    return {number: (call, site) for number, call, site in rows}
