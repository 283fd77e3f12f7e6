"""Look-ups over one plan, built once for a plan and handed to whatever reads it."""

from collections.abc import Callable, Iterator
from datetime import date
from functools import cached_property
from typing import TypeVar, cast

from umbra_awl.core.facts.bands import Band, bands_for
from umbra_awl.core.plan.edit.moved import middles
from umbra_awl.core.plan.labels import Labels
from umbra_awl.core.plan.model import (
    AccessPoint,
    Call,
    Destination,
    Network,
    OwnedRadio,
    Plan,
    Route,
    Service,
)
from umbra_awl.core.plan.owners import Owners

_SOURCES = {
    "services": "access",
    "access": "access",
    "destinations": "destinations",
    "by_kind": "destinations",
    "networks": "networks",
    "routes": "routes",
    "by_crossing": "routes",
    "by_service": "routes",
    "radios": "radios",
}
_T = TypeVar("_T")
_K = TypeVar("_K")


_MOST_MOVED = 64


def _moved_routes(before: "PlanIndex", routes: tuple[Route, ...]) -> dict[str, object]:
    """The look-ups of an edited plan's routes, made of those before where only a few routes moved and none came in between."""
    if not {"routes", "by_crossing", "by_service"} <= before.__dict__.keys():
        return {}
    start, was, now = middles(before.plan.routes, routes)
    in_place = len(was) == len(now) and all(one.key == other.key for one, other in zip(was, now, strict=True))
    at_end = not now or start + len(now) == len(routes)
    if max(len(was), len(now)) > _MOST_MOVED or not (in_place or at_end):
        return {}
    by_key = dict(before.routes)
    for route in () if in_place else was:
        del by_key[route.key]
    by_key.update((route.key, route) for route in now)
    services = {route.service for route in (*was, *now)}
    crossings = {(route.service, route.destination) for route in (*was, *now)}
    return {
        "routes": by_key,
        "by_service": _patched(before.by_service, services, was, now, lambda route: route.service),
        "by_crossing": _patched(
            before.by_crossing, crossings, was, now, lambda route: (route.service, route.destination)
        ),
    }


def _patched(
    groups: dict[_K, tuple[Route, ...]],
    touched: set[_K],
    was: tuple[Route, ...],
    now: tuple[Route, ...],
    group_of: Callable[[Route], _K],
) -> dict[_K, tuple[Route, ...]]:
    """Groups of routes in their order, with a few routes gone and others in their place or behind all."""
    made = dict(groups)
    new = {route.key: route for route in now}
    gone = {route.key for route in was} - new.keys()
    for key in touched:
        held = tuple(new.pop(route.key, route) for route in groups.get(key, ()) if route.key not in gone)
        made[key] = (*held, *(route for route in tuple(new.values()) if group_of(route) == key))
        if not made[key]:
            del made[key]
    return made


NO_DAY = date.min
"""For look-ups alone: on this day no licence that has a day counts yet."""


class PlanIndex:
    """A plan with its things findable by key, on a day. The plan is a value, so the look-ups never go stale.

    The day decides whether a licence is granted yet.
    """

    def __init__(self, plan: Plan, today: date) -> None:
        self.plan = plan
        self.labels = Labels(self)
        self.owners = Owners(self)
        self.today = today
        self._memo: dict[object, tuple[tuple[str, ...], object]] = {}

    def memo(self, name: object, make: Callable[[], _T], of: tuple[str, ...] = ("routes", "access", "trips")) -> _T:
        """What `make` gives, worked out once and kept through edits as long as the parts of the plan it is made of stay.

        `name` says what it is and what it depends on besides; `of` are the names of the plan's parts.
        """
        held = self._memo.get(name)
        if held is None:
            held = self._memo[name] = (of, make())
        return cast("_T", held[1])

    def after(self, plan: Plan) -> "PlanIndex":
        """The index of an edited plan; look-ups of collections that are the very same are carried over."""
        index = PlanIndex(plan, self.today)
        for name, source in _SOURCES.items():
            if name in self.__dict__ and getattr(plan, source) is getattr(self.plan, source):
                index.__dict__[name] = self.__dict__[name]
        if plan.routes is not self.plan.routes:
            index.__dict__.update(_moved_routes(self, plan.routes))
        same = {name for name in plan.__struct_fields__ if getattr(plan, name) is getattr(self.plan, name)}
        index._memo = {name: held for name, held in tuple(self._memo.items()) if same.issuperset(held[0])}
        return index

    @cached_property
    def services(self) -> dict[str, tuple[AccessPoint, Service]]:
        """Service key to its access point and itself, in plan order."""
        return {service.key: (access, service) for access in self.plan.access for service in access.services}

    @cached_property
    def destinations(self) -> dict[str, Destination]:
        """Destination key to destination, in plan order."""
        return {item.key: item for item in self.plan.destinations}

    @cached_property
    def by_kind(self) -> dict[str, tuple[Destination, ...]]:
        """Destinations by their kind, in plan order."""
        found: dict[str, list[Destination]] = {}
        for item in self.plan.destinations:
            found.setdefault(item.kind, []).append(item)
        return {kind: tuple(items) for kind, items in found.items()}

    @cached_property
    def networks(self) -> dict[str, Network]:
        """Network key to network."""
        return {item.key: item for item in self.plan.networks}

    @cached_property
    def routes(self) -> dict[str, Route]:
        """Route key to route, in the order they were punched."""
        return {item.key: item for item in self.plan.routes}

    @cached_property
    def access(self) -> dict[str, AccessPoint]:
        """Access point key to access point."""
        return {item.key: item for item in self.plan.access}

    @cached_property
    def radios(self) -> dict[str, OwnedRadio]:
        """Radio key to owned radio."""
        return {item.key: item for item in self.plan.radios}

    @cached_property
    def bands(self) -> tuple[Band, ...]:
        """The band edges in force: the operator's own or the region's."""
        return bands_for(self.plan.station.region, self.plan.station.bands)

    @cached_property
    def by_crossing(self) -> dict[tuple[str, str], tuple[Route, ...]]:
        """(service key, destination key) to the one or two routes punched there."""
        found: dict[tuple[str, str], tuple[Route, ...]] = {}
        for route in self.plan.routes:
            at = (route.service, route.destination)
            found[at] = (*found[at], route) if at in found else (route,)
        return found

    @cached_property
    def by_service(self) -> dict[str, tuple[Route, ...]]:
        """Service key to the routes through it, in the order they were punched; a service without any is not in it."""
        found: dict[str, list[Route]] = {}
        for route in self.plan.routes:
            found.setdefault(route.service, []).append(route)
        return {key: tuple(routes) for key, routes in found.items()}

    def parts(self, route: Route) -> tuple[AccessPoint, Service, Destination]:
        """Access point, service and destination of a route. Raises KeyError when one is not in the plan."""
        access, service = self.services[route.service]
        return access, service, self.destinations[route.destination]

    def network_of(self, service: Service) -> Network | None:
        """The network behind a service, if it names one that is in the plan."""
        return self.networks.get(getattr(service.air, "network", ""))

    @cached_property
    def known_calls(self) -> dict[tuple[str, str], Call | None]:
        """The DMR calls worked out so far, by service and destination key; filled by those who work them out."""
        made: dict[tuple[str, str], Call | None] = {}
        return self.memo("calls", lambda: made, ("access", "destinations", "networks"))

    def all_services(self) -> Iterator[tuple[AccessPoint, Service]]:
        """Every service with its access point, in plan order."""
        return iter(self.services.values())

    def services_with(self, kind: type[_T]) -> Iterator[tuple[AccessPoint, Service, _T]]:
        """Every service of one mode with its access point and its air side, in plan order."""
        for access, service in self.services.values():
            if isinstance(service.air, kind):
                yield access, service, service.air
