"""How a net is reached from where one is: the route to take, or what is missing."""

from collections.abc import Mapping
from typing import NamedTuple

from umbra_awl.core.facts.earth import Position, distance_km
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination, Net, Route
from umbra_awl.core.routes.crossing import crossing

_NEAR_KM = 80.0
"""Beyond so many kilometres an access point is taken as out of reach; the map says it more exactly."""


class WayThere(NamedTuple):
    """The key of the route to take (empty: none), how it is reached in words, and what is missing."""

    route: str
    words: str
    missing: str = ""


def way_there(index: PlanIndex, fits: Mapping[str, Fit], net: Net, here: Position | None = None) -> WayThere:
    """How a net is reached: by its own route, else by the nearest one to whom it calls that a radio may send on."""
    known = index.routes.get(net.route)
    whom = index.destinations.get(known.destination if known is not None else net.destination)
    if whom is None:
        return WayThere("", "", "Say whom it calls: choose its destination, or a route.")
    ways = [known] if known is not None else _ways(index, whom, here)
    if not ways:
        return WayThere("", "", _what_is_missing(index, whom))
    sends = {
        channel.route: radio
        for radio, fit in fits.items()
        for channel in fit.memory.channels
        if not channel.receive_only
    }
    best = next((route for route in ways if route.key in sends), ways[0])
    words = index.labels.of(best)
    if best.key not in sends:
        return WayThere(best.key, words, "You can listen: no radio may send on it yet.")
    far = _far(index, best, here)
    missing = f"It is {far:.0f} km away: take another access point along." if far > _NEAR_KM else ""
    fit = fits[sends[best.key]]
    channel = fit.channel_of(best.key)
    held = f", {index.radios[sends[best.key]].name}: {channel.name}" if channel is not None else ""
    return WayThere(best.key, words + held, missing)


def _ways(index: PlanIndex, whom: Destination, here: Position | None) -> list[Route]:
    """The routes to a destination that talk there, the nearest first."""
    found = [route for route in index.plan.routes if route.destination == whom.key]
    pairs = {route.service for route in found if route.slot == 2}
    talking = [
        item for item in found if item.slot != 1 or item.service not in pairs or whom.kind in {"group", "private"}
    ]
    return sorted(talking or found, key=lambda item: _far(index, item, here))


def _far(index: PlanIndex, route: Route, here: Position | None) -> float:
    access = index.parts(route)[0]
    if here is None or access.lat is None or access.lon is None or access.kind in {"hotspot", "simplex"}:
        return 0.0
    return distance_km(here, Position(access.lat, access.lon))


def _what_is_missing(index: PlanIndex, whom: Destination) -> str:
    carriers = [
        access.by_site for access, service in index.services.values() if crossing(index, access, service, whom).possible
    ]
    if carriers:
        return f"No route goes to {whom.name} yet. Punch one, through {_some(carriers)}."
    return f"No access point of the plan carries {whom.name}. Take one in that does, or a hotspot on its network."


def _some(names: list[str]) -> str:
    short = list(dict.fromkeys(names))[:3]
    return " or ".join(short)
