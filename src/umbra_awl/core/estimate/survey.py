"""What is on the air around a place: entries of the directory and the plan's own, with distance, reach and verdict."""

from collections.abc import Callable
from typing import NamedTuple

from umbra_awl.core.directory.doubles import Also, told_once
from umbra_awl.core.directory.nearest import Near, NearestWanted, listed, nearest, unplaced
from umbra_awl.core.directory.sanity import (
    Doubt,
    KnownGround,
    age_words,
    doubts,
    sharing_output,
    usual_offsets,
    verdict_words,
)
from umbra_awl.core.directory.store import BAND_BITS, MODE_BITS, Store, StoredEntry, columns_of
from umbra_awl.core.directory.taking import match
from umbra_awl.core.estimate.reach import End, Reach, hand_end, reach, site_end
from umbra_awl.core.facts.earth import Position, bearing_deg, distance_km
from umbra_awl.core.facts.modes import of_mode
from umbra_awl.core.plan.model import AccessPoint, Plan

USUAL_COUNT = 120
_FOR_USUAL = 60


class SurveySpot(NamedTuple):
    """One line of the ranked list. `access` is the plan's own where `in_plan`, else the directory's; `entry` where it has one.

    `also` are other directories that list the same.
    """

    key: str
    access: AccessPoint
    entry: StoredEntry | None
    in_plan: bool
    km: float | None
    bearing: float | None
    reach: Reach | None
    doubts: tuple[Doubt, ...]
    age: str
    also: tuple[Also, ...] = ()

    @property
    def grade(self) -> str:
        """The verdict in one word."""
        return verdict_words(self.doubts)


class Survey(NamedTuple):
    """A place and the spots around it, nearest first; without a place by call sign."""

    place: Position | None
    spots: tuple[SurveySpot, ...]
    usual_hz: dict[str, int]


Hand = Callable[[str], End]


def survey(
    store: Store,
    plan: Plan,
    place: Position | None,
    wanted: NearestWanted,
    ground: KnownGround,
    count: int = USUAL_COUNT,
) -> Survey:
    """The nearest spots around a place. Those of the plan are always there, as far as they are wanted."""
    near = nearest(store, place, count, wanted) if place is not None else listed(store, wanted, count)
    around = near[:_FOR_USUAL] if not any(wanted[:4]) or place is None else nearest(store, place, _FOR_USUAL)
    station = plan.station
    home = Position(station.lat, station.lon) if station.lat is not None and station.lon is not None else place
    judged = ground._replace(home=home, usual_hz=usual_offsets((item.entry for item in around), ground.bands))
    here = hand_of(plan)
    spots: list[SurveySpot] = []
    seen: set[str] = set()
    for item, also in told_once((*near, *unplaced(store, wanted))):
        found = match(plan, item.entry.key, item.entry.access)
        if found is not None:
            if found.access.key in seen:
                continue
            seen.add(found.access.key)
        spots.append(_spot(store, item, found.access if found else None, judged, here, place)._replace(also=also))
    for access in plan.access:
        if access.key not in seen and _is_wanted(access, wanted):
            entry = _entry_of(store, plan, access)
            spots.append(
                _own(access, judged, here, place)
                if entry is None
                else _spot(store, Near(entry, None, None), access, judged, here, place)
            )
    spots.sort(key=lambda spot: (spot.km is None, spot.km or 0.0))
    return Survey(place, tuple(spots), judged.usual_hz)


def _entry_of(store: Store, plan: Plan, access: AccessPoint) -> StoredEntry | None:
    """The directory's entry of an access point of the plan that is not among the nearest: far away, or vanished."""
    if not access.call and not access.entry:
        return None
    return next((entry for entry in store.of_call(access.call, access.entry) if _is_of(plan, entry, access)), None)


def _is_of(plan: Plan, entry: StoredEntry, access: AccessPoint) -> bool:
    found = match(plan, entry.key, entry.access)
    return found is not None and found.access is access


def hand_of(plan: Plan) -> Hand:
    """The operator's end by mode: a handheld at the licence's power when that is less than usual."""
    most = plan.station.licence.max_watts
    watts = min(5.0, most) if most else 5.0
    height = plan.station.height_m
    return lambda mode: hand_end(mode, watts, height)


def _spot(
    store: Store, near: Near, own: AccessPoint | None, ground: KnownGround, here: Hand, place: Position | None
) -> SurveySpot:
    access = own or near.entry.access
    found = tuple(doubts(near.entry, ground, sharing_output(store, near.entry)))
    km, bearing = (near.km, near.bearing) if own is None else _where(access, place)
    age = age_words(near.entry.access.confirmed, ground.today)
    return SurveySpot(
        near.entry.key, access, near.entry, own is not None, km, bearing, best_reach(access, km, here), found, age
    )


def _own(access: AccessPoint, ground: KnownGround, here: Hand, place: Position | None) -> SurveySpot:
    km, bearing = _where(access, place)
    as_entry = StoredEntry(0, "", access, "", "", "", "", edited=False)
    found = tuple(doubts(as_entry, ground)) if access.kind == "repeater" else ()
    age = age_words(access.confirmed, ground.today)
    return SurveySpot(f"plan/{access.key}", access, None, True, km, bearing, best_reach(access, km, here), found, age)


def _where(access: AccessPoint, place: Position | None) -> tuple[float | None, float | None]:
    if place is None or access.lat is None or access.lon is None:
        return None, None
    there = Position(access.lat, access.lon)
    return distance_km(place, there), bearing_deg(place, there)


def best_reach(access: AccessPoint, km: float | None, here: Hand) -> Reach | None:
    """The reach of the service that is reached best; None without a distance."""
    if km is None or not access.services:
        return None
    made = [
        reach(
            km,
            service.rx_hz / 1e6,
            here(service.mode),
            site_end(service.mode, access.kind, access.watts, access.height_m),
        )
        for service in access.services
    ]
    return max(made, key=lambda item: item.margin_db)


def _is_wanted(access: AccessPoint, wanted: NearestWanted) -> bool:
    modes, bands = columns_of(access)[4:6]
    if wanted.modes and not modes & sum(of_mode(MODE_BITS, mode) for mode in wanted.modes):
        return False
    if wanted.bands and not bands & sum(BAND_BITS[band] for band in wanted.bands):
        return False
    if wanted.since and access.confirmed < wanted.since:
        return False
    words = f"{access.call} {access.site} {access.place}".casefold()
    return all(any(part.startswith(word) for part in words.split()) for word in wanted.text.casefold().split())
