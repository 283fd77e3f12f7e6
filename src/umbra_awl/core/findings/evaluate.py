"""All findings of a plan. After an edit only what it can touch is looked at again: values that are the same are skipped."""

from collections.abc import Mapping

from umbra_awl.core.findings.model import SEVERITY_ORDER, Finding, Target
from umbra_awl.core.findings.on_plan import check_plan
from umbra_awl.core.findings.on_route import check_route, spot_of
from umbra_awl.core.findings.on_service import check_service
from umbra_awl.core.fit.profile import Profile
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan

_Seen = dict[str, tuple[tuple[object, ...], tuple[Finding, ...]]]


class Evaluator:
    """Remembers, for each route and service, the values its findings were made from. Not for use by two threads at once."""

    def __init__(self, profiles: Mapping[str, Profile]) -> None:
        self._profiles = profiles
        self._routes: _Seen = {}
        self._services: _Seen = {}

    def evaluate(self, index: PlanIndex) -> tuple[Finding, ...]:
        """The findings of the plan, gravest first, then in plan order."""
        found: list[Finding] = list(check_plan(index, self._profiles))
        found.extend(self._check_services(index))
        found.extend(self._check_routes(index))
        return tuple(sorted(found, key=lambda item: SEVERITY_ORDER[item.severity]))

    def _check_services(self, index: PlanIndex) -> list[Finding]:
        plan, found, kept = index.plan, list[Finding](), _Seen()
        routes = _by_service(plan)
        for key, (access, service) in index.services.items():
            basis: tuple[object, ...] = (access, service, plan.station, plan.hotspots, *routes.get(key, ()))
            if access.kind == "hotspot":
                basis = (*basis, plan.access)
            findings = _remembered(self._services, key, basis)
            if findings is None:
                findings = tuple(check_service(index, access, service))
            kept[key] = (basis, findings)
            found.extend(findings)
        self._services = kept
        return found

    def _check_routes(self, index: PlanIndex) -> list[Finding]:
        plan, found, kept = index.plan, list[Finding](), _Seen()
        services, destinations, crossings = index.services, index.destinations, index.by_crossing
        for key, route in index.routes.items():
            here = crossings[route.service, route.destination]
            whole = plan.destinations if route.hears else None
            basis = (route, services[route.service][1], destinations[route.destination], plan.networks, whole, *here)
            findings = _remembered(self._routes, key, basis)
            if findings is None:
                findings = tuple(check_route(index, spot_of(index, route)))
            kept[key] = (basis, findings)
            found.extend(findings)
        self._routes = kept
        return found


def _remembered(seen: _Seen, key: str, basis: tuple[object, ...]) -> tuple[Finding, ...] | None:
    before = seen.get(key)
    if before is None or len(before[0]) != len(basis):
        return None
    for old, new in zip(before[0], basis, strict=True):
        if old is not new:
            return None
    return before[1]


def _by_service(plan: Plan) -> dict[str, list[object]]:
    gathered: dict[str, list[object]] = {}
    for route in plan.routes:
        gathered.setdefault(route.service, []).append(route)
    return gathered


def findings_of(index: PlanIndex, profiles: Mapping[str, Profile]) -> tuple[Finding, ...]:
    """The findings of a plan, all looked at afresh."""
    return Evaluator(profiles).evaluate(index)


def touching(findings: tuple[Finding, ...], targets: set[Target]) -> list[Finding]:
    """The findings, those on one of these targets first."""
    return sorted(findings, key=lambda item: item.target not in targets)
