"""The structure a plan must have to be worked on: keys unique, everything a thing points to present.

Field values may be wrong (findings explain those); a broken structure is refused when a file is opened.
"""

from collections.abc import Iterable, Iterator

from umbra_awl.core.facts.bands import BANDS
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Air, DmrAir, FusionAir, Plan, RouteList


def structure_faults(plan: Plan) -> list[str]:
    """Sentences that say what in a plan's structure is broken; empty when it can be worked on."""
    faults = list(_doubled_keys(plan))
    if plan.station.region not in BANDS:
        faults.append(f"The region {plan.station.region} is not 1, 2 or 3.")
    return faults or [
        *_dangling_routes(plan),
        *_dangling_lists(plan),
        *_dangling_rest(plan),
        *_dangling_trips(plan),
        *_dangling_steps(plan),
    ]


def _doubled_keys(plan: Plan) -> Iterator[str]:
    groups: dict[str, Iterable[str]] = {
        "identity": [item.key for item in plan.station.identities],
        "network": [item.key for item in plan.networks],
        "access point": [item.key for item in plan.access],
        "service": [service.key for item in plan.access for service in item.services],
        "destination": [item.key for item in plan.destinations],
        "route": [(item.service, item.destination, item.slot) for item in plan.routes],  # type: ignore[misc]
        "zone": [item.key for item in plan.zones],
        "scan list": [item.key for item in plan.scans],
        "radio": [item.key for item in plan.radios],
        "hotspot": [item.key for item in plan.hotspots],
        "trip": [item.key for item in plan.trips],
        "step": [item.key for item in plan.steps],
    }
    for what, keys in groups.items():
        seen = list(keys)
        if len(seen) != len(set(seen)):
            twice = next(key for position, key in enumerate(seen) if key in seen[:position])
            yield f"Two entries of the kind “{what}” have the key {twice!r}."


def _dangling_routes(plan: Plan) -> Iterator[str]:
    services = {service.key for item in plan.access for service in item.services}
    destinations = {item.key for item in plan.destinations}
    for route in plan.routes:
        if route.service not in services:
            yield f"A route uses the service {route.service!r}, which is not in the plan."
        if route.destination not in destinations:
            yield f"A route leads to the destination {route.destination!r}, which is not in the plan."
        if route.slot not in {0, 1, 2}:
            yield f"The route {route.key} has slot {route.slot}; only 1 and 2, or 0 for none, exist."


def _dangling_lists(plan: Plan) -> Iterator[str]:
    lists: tuple[RouteList, ...] = (*plan.zones, *plan.scans)
    if not any(item.members for item in lists):
        return
    keys = PlanIndex(plan).routes
    for item in lists:
        for member in item.members:
            if member not in keys:
                yield f"The list “{item.name}” holds the route {member}, which is not in the plan."


def _dangling_rest(plan: Plan) -> Iterator[str]:
    access = {item.key for item in plan.access}
    for hotspot in plan.hotspots:
        if hotspot.access not in access:
            yield f"The hotspot {hotspot.key!r} belongs to the access point {hotspot.access!r}, which is not in the plan."
    yield from _dangling_radios(plan)
    destinations = {item.key for item in plan.destinations}
    for item in plan.access:
        for service in item.services:
            yield from _dangling_air(item.call, service.air, destinations)


def _dangling_radios(plan: Plan) -> Iterator[str]:
    destinations = {item.key for item in plan.destinations}
    zones = {item.key for item in plan.zones}
    for radio in plan.radios:
        for zone in (*(radio.zones or ()), *filter(None, radio.halves)):
            if zone not in zones:
                yield f"The radio “{radio.name}” uses the zone {zone!r}, which is not in the plan."
        if radio.one_touch and radio.one_touch not in destinations:
            yield f"The one-touch key of “{radio.name}” calls {radio.one_touch!r}, which is not in the plan."


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
    left = dict(waits)
    while free := [key for key, after in left.items() if not after & left.keys()]:
        for key in free:
            del left[key]
    if left:
        yield f"The steps {', '.join(sorted(left))} wait for one another in a ring."
