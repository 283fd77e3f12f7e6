"""All findings of a plan. After an edit only what it can touch is looked at again.

What an edit touched is read off the values themselves: an edit keeps every value it does not change as the very same
object. A route's findings depend on the route, the other route of its crossing, its service with its access point, its
destination and the networks, and on the station where the route has a width of its own; a service's on itself, its access
point, its routes, the destinations, the station and the hotspots, and where it looks around, on the other services.
"""

from collections.abc import Iterable, Mapping
from itertools import chain
from typing import NamedTuple

from umbra_awl.core.findings.model import SEVERITY_ORDER, Finding
from umbra_awl.core.findings.on_chosen_people import check_chosen_people
from umbra_awl.core.findings.on_directory import check_directory
from umbra_awl.core.findings.on_habits import check_habits
from umbra_awl.core.findings.on_plan import check_plan
from umbra_awl.core.findings.on_radio import check_radios
from umbra_awl.core.findings.on_route import check_route, spot_of
from umbra_awl.core.findings.on_service import check_service
from umbra_awl.core.plan.edit.moved import gone_and_come
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.known import NOTHING_KNOWN, Known
from umbra_awl.core.plan.model import AccessPoint, Plan, Route, Service
from umbra_awl.core.radio.profile import Profile


class _Touched(NamedTuple):
    """What changed between two plans. `gone` are the identities of routes that are no longer there."""

    crossings: frozenset[tuple[str, str]]
    gone: frozenset[int]
    services: frozenset[str]
    destinations: frozenset[str]
    routed_services: frozenset[str]
    everything: bool
    station: bool

    def among(self, routes: tuple[Route, ...]) -> Iterable[Route]:
        """The routes that have to be looked at again."""
        if self.everything:
            return routes
        if not self.services and not self.destinations and not self.station:
            crossings = self.crossings
            return [route for route in routes if (route.service, route.destination) in crossings]
        return [route for route in routes if self._touches(route)]

    def _touches(self, route: Route) -> bool:
        return (
            (route.service, route.destination) in self.crossings
            or route.service in self.services
            or route.destination in self.destinations
            or (bool(route.hears) and bool(self.destinations))
            or (self.station and (route.width_hz is not None or route.way is not None))
        )


class Evaluator:
    """Remembers the last plan and what was found in it. Not for use by two threads at once."""

    def __init__(self, profiles: Mapping[str, Profile]) -> None:
        self._profiles = profiles
        self.silenced: tuple[Finding, ...] = ()
        self._plan: Plan | None = None
        self._routes: dict[int, tuple[Finding, ...]] = {}
        self._services: dict[str, tuple[Finding, ...]] = {}

    def evaluate(self, index: PlanIndex, known: Known = NOTHING_KNOWN) -> tuple[Finding, ...]:
        """The findings of the plan, gravest first, then in plan order; `silenced` holds those the operator has put aside.

        `known` is what the directory says of the plan's things.
        """
        touched = _touched(self._plan, index.plan)
        self._look_at_services(index, touched)
        self._look_at_routes(index, touched)
        self._plan = index.plan  # keeps the routes alive by whose identity findings are remembered
        found = [
            *check_plan(index, self._profiles),
            *check_directory(index, known),
            *check_chosen_people(index, self._profiles, known),
            *check_habits(index, self._profiles),
            *check_radios(index, self._profiles),
        ]
        for service in self._services.values():
            found.extend(service)
        for route in index.plan.routes if self._routes else ():
            found.extend(self._routes.get(id(route), ()))
        ordered = sorted(found, key=lambda item: SEVERITY_ORDER[item.severity])
        aside = {item.key for item in index.plan.silenced}
        self.silenced = tuple(item for item in ordered if item.key in aside and not item.rule.safety)
        return tuple(item for item in ordered if item.key not in aside or item.rule.safety)

    def _look_at_services(self, index: PlanIndex, touched: _Touched) -> None:
        before, kept = self._services, dict[str, tuple[Finding, ...]]()
        for key, (access, service) in index.services.items():
            again = touched.station or touched.destinations or key in touched.services
            again = again or key in touched.routed_services or key not in before
            if again or (touched.services and _looks_around(access, service)):
                kept[key] = tuple(check_service(index, access, service))
            else:
                kept[key] = before[key]
        self._services = kept

    def _look_at_routes(self, index: PlanIndex, touched: _Touched) -> None:
        kept = (
            {} if touched.everything else {key: found for key, found in self._routes.items() if key not in touched.gone}
        )
        for route in touched.among(index.plan.routes):
            findings = tuple(check_route(index, spot_of(index, route)))
            if findings:
                kept[id(route)] = findings
            else:
                kept.pop(id(route), None)
        self._routes = kept


def _looks_around(access: AccessPoint, service: Service) -> bool:
    """Whether a service's findings depend on other services: where a hotspot may stand, which module letters are free."""
    return access.kind in {"hotspot", "repeater"} or service.mode == "dstar"


def _touched(old: Plan | None, new: Plan) -> _Touched:
    if old is None:
        nothing: frozenset[str] = frozenset()
        return _Touched(frozenset(), frozenset(), nothing, nothing, nothing, everything=True, station=True)
    removed, added = gone_and_come(old.routes, new.routes)
    routes = [*removed, *added]
    services = frozenset(
        service.key for access in chain(*gone_and_come(old.access, new.access)) for service in access.services
    )
    station = old.station is not new.station or old.hotspots is not new.hotspots or old.networks is not new.networks
    return _Touched(
        frozenset((route.service, route.destination) for route in routes),
        frozenset(map(id, removed)),
        services,
        frozenset(item.key for item in chain(*gone_and_come(old.destinations, new.destinations))),
        frozenset(route.service for route in routes),
        everything=old.networks is not new.networks,
        station=station,
    )


def findings_of(index: PlanIndex, profiles: Mapping[str, Profile]) -> tuple[Finding, ...]:
    """The findings of a plan, all looked at afresh."""
    return Evaluator(profiles).evaluate(index)
