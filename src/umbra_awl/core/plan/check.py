"""The structure a plan must have to be worked on: keys unique, everything a thing points to present.

Field values may be wrong (findings explain those); a broken structure is refused when a file is opened, and so is every edit that
would lead to one. Each check names the parts of the plan that it reads, so that after an edit only what changed is looked at.
"""

from collections import Counter
from collections.abc import Callable, Iterator
from typing import Any, NamedTuple

from umbra_awl.core.facts.bands import BANDS
from umbra_awl.core.plan.model import Air, DmrAir, FusionAir, Plan, RouteList
from umbra_awl.core.plan.parts import PARTS, Part

PLACES = frozenset({0, 1, 2})


class Check(NamedTuple):
    """One check: the parts of the plan it reads, and what it finds."""

    parts: tuple[str, ...]
    faults: Callable[[Plan], Iterator[str]]

    def same(self, plan: Plan, since: Plan) -> bool:
        """Whether nothing it reads has changed since."""
        return all(getattr(plan, part) is getattr(since, part) for part in self.parts)


def structure_faults(plan: Plan, since: Plan | None = None) -> list[str]:
    """Sentences that say what in a plan's structure is broken; empty when it can be worked on.

    `since` is an earlier plan known to be sound: only what reads changed parts is looked at.
    """
    wanted = [check for check in CHECKS if since is None or not check.same(plan, since)]
    return [fault for check in wanted for fault in check.faults(plan)]


def _twice(what: str, keys: list[Any]) -> Iterator[str]:
    if len(set(keys)) == len(keys):
        return
    for key, count in Counter(keys).items():
        if count > 1:
            yield f"Two entries of the kind “{what}” have the key {key!r}."
            return


def _unique(part: Part[Any]) -> Check:
    return Check((part.name,), lambda plan: _twice(part.word, part.keys(plan)))


def _stations(plan: Plan) -> Iterator[str]:
    yield from _twice("identity", [item.key for item in plan.station.identities])
    if plan.station.region not in BANDS:
        yield f"The region {plan.station.region} is not 1, 2 or 3."
    for identity in plan.station.identities:
        for item in identity.ids:
            if item.suffix and not (item.suffix.isascii() and item.suffix.isdigit() and len(item.suffix) <= 4):
                yield f"The ID suffix {item.suffix[:20]!r} of {identity.key!r} is no number of at most four digits."


def _doubled_services(plan: Plan) -> Iterator[str]:
    return _twice("service", [service.key for item in plan.access for service in item.services])


def _dangling_routes(plan: Plan) -> Iterator[str]:
    services = {service.key for item in plan.access for service in item.services}
    destinations = {item.key for item in plan.destinations}
    for route in plan.routes:
        if route.service not in services:
            yield f"A route uses the service {route.service!r}, which is not in the plan."
        if route.destination not in destinations:
            yield f"A route leads to the destination {route.destination!r}, which is not in the plan."
        if route.slot not in PLACES:
            yield f"The route {route.key} has slot {route.slot}; only 1 and 2, or 0 for none, exist."


def _dangling_lists(plan: Plan) -> Iterator[str]:
    lists: tuple[RouteList, ...] = (*plan.zones, *plan.scans)
    wanted = {member for item in lists for member in item.members}
    missing = wanted - {route.key for route in plan.routes} if wanted else wanted
    for item in lists if missing else ():
        for member in item.members:
            if member in missing:
                yield f"The list “{item.name}” holds the route {member}, which is not in the plan."


def _dangling_hotspots(plan: Plan) -> Iterator[str]:
    access = {item.key for item in plan.access}
    for hotspot in plan.hotspots:
        if hotspot.access not in access:
            yield f"The hotspot {hotspot.key!r} belongs to the access point {hotspot.access!r}, which is not in the plan."


def _dangling_radios(plan: Plan) -> Iterator[str]:
    destinations = {item.key for item in plan.destinations}
    zones = {item.key for item in plan.zones}
    for radio in plan.radios:
        for zone in (*(radio.zones or ()), *filter(None, radio.halves)):
            if zone not in zones:
                yield f"The radio “{radio.name}” uses the zone {zone!r}, which is not in the plan."
        if radio.one_touch and radio.one_touch not in destinations:
            yield f"The call key of “{radio.name}” calls {radio.one_touch!r}, which is not in the plan."


def _dangling_airs(plan: Plan) -> Iterator[str]:
    destinations = {item.key for item in plan.destinations}
    for item in plan.access:
        for service in item.services:
            yield from _dangling_air(item.call, service.air, destinations)


def _dangling_air(call: str, air: Air, destinations: set[str]) -> Iterator[str]:
    for static in air.static if isinstance(air, DmrAir) else ():
        if static.destination not in destinations:
            yield f"{call} always carries {static.destination!r}, which is not in the plan."
    for mapped in air.mapped if isinstance(air, FusionAir) else ():
        if mapped.destination not in destinations:
            yield f"{call} maps a DG-ID to {mapped.destination!r}, which is not in the plan."


def _dangling_trips(plan: Plan) -> Iterator[str]:
    access = {item.key for item in plan.access}
    for trip in plan.trips:
        for key in trip.access:
            if key not in access:
                yield f"The trip “{trip.name}” takes {key!r} along, which is not in the plan."


def _dangling_steps(plan: Plan) -> Iterator[str]:
    """Steps that wait for one that is not there, or for themselves by a round way."""
    waits = {step.key: set(step.after) for step in plan.steps}
    for key, after in waits.items():
        for gone in sorted(after - waits.keys()):
            yield f"The step {key!r} waits for {gone!r}, which is not in the plan."
    ring = _in_a_ring({key: after & waits.keys() for key, after in waits.items()})
    if ring:
        more = f" and {len(ring) - 6} more" if len(ring) > 6 else ""
        yield f"The steps {', '.join(ring[:6])}{more} wait for one another in a ring."


def _in_a_ring(waits: dict[str, set[str]]) -> list[str]:
    """The keys that never come free when each is done as soon as all it waits for are; each is looked at once."""
    blocks: dict[str, list[str]] = {key: [] for key in waits}
    for key, after in waits.items():
        for other in after:
            blocks[other].append(key)
    open_waits = {key: len(after) for key, after in waits.items()}
    free = [key for key, count in open_waits.items() if not count]
    while free:
        for key in blocks[free.pop()]:
            open_waits[key] -= 1
            if not open_waits[key]:
                free.append(key)
    return sorted(key for key, count in open_waits.items() if count)


CHECKS: tuple[Check, ...] = (
    Check(("station",), _stations),
    *map(_unique, PARTS.values()),
    Check(("access",), _doubled_services),
    Check(("routes", "access", "destinations"), _dangling_routes),
    Check(("zones", "scans", "routes"), _dangling_lists),
    Check(("hotspots", "access"), _dangling_hotspots),
    Check(("radios", "zones", "destinations"), _dangling_radios),
    Check(("access", "destinations"), _dangling_airs),
    Check(("trips", "access"), _dangling_trips),
    Check(("steps",), _dangling_steps),
)
