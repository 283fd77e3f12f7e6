"""Who is awake: the far end's clock, what that hour is like there, and whom to call now.

How busy an hour is comes from the figures of an evening's traffic, which are the program's own estimates; whether it is dark is
taken by the clock alone, which is good to an hour or two and worse near the poles.
"""

from collections.abc import Iterable, Mapping
from datetime import datetime, timedelta
from typing import NamedTuple
from zoneinfo import ZoneInfo

from umbra_awl.core.agenda.trips import nautical_zone, zone_fault
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.logbook.proof import RouteProof
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination, Trip
from umbra_awl.core.simulation.parameters import hour_factors

_DAY, _NIGHT = 7, 22
_ASLEEP, _EVENING = 0.3, 0.8
"""Below so much of the busiest hour hardly anybody is on; from so much on it is the hour to call."""
_PEOPLE = frozenset({"group", "reflector", "room", "repeater", "direct", "station", "private"})


class Awake(NamedTuple):
    """A destination as its clock stands: its zone, the hour there, how busy that is (0 to 1), and whether it can be called now.

    `best` says from when to when it is busiest, in the traveller's own time; `route` is the way there, empty for none.
    """

    destination: str
    name: str
    zone: str
    there: datetime
    busy: float
    best: str
    route: str
    proven: bool

    @property
    def night(self) -> bool:
        """Whether it is night there, by the clock."""
        return not _DAY <= self.there.hour < _NIGHT

    @property
    def score(self) -> float:
        """What it is ranked by: how busy the hour is, more where a route goes there, most where that is proven."""
        return self.busy * (1.0 if self.proven else 0.85 if self.route else 0.4)

    @property
    def words(self) -> str:
        """What is advised."""
        if not self.route:
            return "no route goes there"
        if self.busy < _ASLEEP or (self.night and self.busy < _EVENING):
            return "they sleep"
        return "call now" if self.busy >= _EVENING else "a few are on"


def zone_of(index: PlanIndex, destination: Destination) -> str:
    """A destination's time zone: its own, else that of the repeater it names by its place; empty where it has neither."""
    if destination.time_zone and not zone_fault(destination.time_zone):
        return destination.time_zone
    call = destination.text[:8].split(" ")[0].strip().upper() if destination.text else ""
    for access in index.plan.access if call else ():
        if access.call.upper() == call and access.lon is not None:
            return nautical_zone(access.lon)
    return ""


def busy_at(there: datetime) -> float:
    """How busy an hour is by the clock there, 0 to 1; it passes into the next one."""
    factors = hour_factors()
    share = there.minute / 60
    return factors[there.hour] * (1 - share) + factors[(there.hour + 1) % 24] * share


def awake(
    index: PlanIndex, now: datetime, here: str, fits: Mapping[str, Fit], proofs: Mapping[str, RouteProof]
) -> list[Awake]:
    """Every destination with a zone, whom to call now first. `here` is the zone that one is in."""
    carried = {channel.route for fit in fits.values() for channel in fit.memory.channels if not channel.receive_only}
    ways: dict[str, list[str]] = {}
    for route in index.plan.routes:
        ways.setdefault(route.destination, []).append(route.key)
    found = []
    for whom in index.plan.destinations:
        zone = zone_of(index, whom) if whom.kind in _PEOPLE else ""
        if zone:
            keys = sorted(ways.get(whom.key, ()), key=lambda key: (not _sound(proofs, key), key not in carried))
            there = now.astimezone(ZoneInfo(zone))
            best = keys[0] if keys else ""
            found.append(
                Awake(
                    whom.key,
                    whom.name,
                    zone,
                    there,
                    busy_at(there),
                    best_hours(zone, here, now),
                    best,
                    _sound(proofs, best),
                )
            )
    return sorted(found, key=lambda item: (-item.score, item.name.casefold()))


def _sound(proofs: Mapping[str, RouteProof], key: str) -> bool:
    proof = proofs.get(key)
    return proof is not None and proof.sound


def best_hours(zone: str, here: str, now: datetime) -> str:
    """From when to when it is busiest there within the next day, in one's own time: “21:00–00:00”."""
    own, far = ZoneInfo(here), ZoneInfo(zone)
    start = now.replace(minute=0, second=0, microsecond=0)
    hours = [start + timedelta(hours=at) for at in range(24)]
    busy = [hour_factors()[hour.astimezone(far).hour] for hour in hours]
    top = max(busy)
    first = next(at for at in range(24) if (busy[at] == top and busy[at - 1] < top) or at == 23)
    count = next((step for step in range(1, 24) if busy[(first + step) % 24] < top), 24)
    begins = hours[first].astimezone(own)
    return f"{begins:%H:%M}–{(hours[first] + timedelta(hours=count)).astimezone(own):%H:%M}"


def where_else(ranked: Iterable[Awake], silent: str) -> list[Awake]:
    """When nobody answers at one destination: others that a route leads to and where more are awake, at most three."""
    listed = list(ranked)
    busy = next((item.busy for item in listed if item.destination == silent), 0.0)
    other = [item for item in listed if item.destination != silent and item.route and item.busy >= max(busy, _ASLEEP)]
    return other[:3]


def trip_on(trips: Iterable[Trip], day: datetime) -> Trip | None:
    """The trip that one is on, on a day; None at home."""
    today = day.date().isoformat()
    return next((trip for trip in trips if trip.begins and trip.begins <= today <= (trip.ends or trip.begins)), None)


def zone_here(index: PlanIndex, now: datetime, home: str, trip: str = "") -> str:
    """The zone one is in: that of a trip chosen by its key, or of the one that is on, else `home`."""
    chosen = next((item for item in index.plan.trips if item.key == trip), None) or (
        trip_on(index.plan.trips, now.astimezone(ZoneInfo(home))) if not trip else None
    )
    return chosen.time_zone if chosen is not None and chosen.time_zone and not zone_fault(chosen.time_zone) else home
