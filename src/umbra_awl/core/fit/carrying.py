"""Which zones and routes go onto a radio: its zones and trips, its school, what was decided, its modes, bands and room."""

from collections.abc import Iterable

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.fit.possible import impossible, impossible_service
from umbra_awl.core.fit.report import Line, LineKind
from umbra_awl.core.modes.calls import call_through
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio, Route, RouteList, Service
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.routes.lists import members_of_all, zones_in_force

_SCHOOL_REASON = {
    "channels": "This radio has a channel for each talk group and dials none; change its school to take it.",
    "dial": "This radio dials through the local channel; change its school to give each talk group a channel.",
}


def chosen_zones(index: PlanIndex, radio: OwnedRadio) -> tuple[list[RouteList], dict[str, tuple[str, ...]]]:
    """The zones that go onto a radio, and zone key to its route keys."""
    zones: list[RouteList] = [
        zone
        for zone in zones_in_force(index)
        if (radio.zones is None or zone.key in radio.zones)
        and (radio.trips is None or zone.by != "trip" or zone.of in radio.trips)
    ]
    return zones, members_of_all(index, zones)


def carried_routes(
    index: PlanIndex, radio: OwnedRadio, profile: Profile, members: Iterable[tuple[str, ...]], lines: list[Line]
) -> list[Route]:
    """The routes that zones use and the radio can carry, in the order of punching; what stays away goes into the lines."""
    used = {key for keys in members for key in keys}
    left = frozenset(radio.leave)
    able = _Able(index, radio, profile)
    carried: list[Route] = []
    for key, route in index.routes.items():
        kind, reason = able.service(route.service)
        if kind != "other mode":
            if key in left:
                kind, reason = "by choice", "You chose to leave it out of this radio."
            elif key not in used:
                kind, reason = "left out", "It is in no zone of this radio."
            elif not reason:
                reason = able.route(route)
        if reason:
            lines.append(Line(kind, key, index.labels.at(key, route), reason))
        else:
            carried.append(route)
    return carried if len(carried) <= profile.limits.channels else _within(index, profile, radio.first, carried, lines)


class _Able:
    """What a radio can carry at all; each service is looked at once."""

    def __init__(self, index: PlanIndex, radio: OwnedRadio, profile: Profile) -> None:
        self._index, self._radio, self._profile = index, radio, profile
        self._services: dict[str, tuple[LineKind, str]] = {}
        made: dict[tuple[str, str], str] = {}
        name = ("what can be carried", profile, radio.school)
        self._crossings = index.memo(name, lambda: made, ("access", "destinations", "networks"))

    def service(self, key: str) -> tuple[LineKind, str]:
        """Why nothing through a service can be carried; the reason is empty when it can."""
        if key not in self._services:
            self._services[key] = self._service(self._index.services[key][1])
        return self._services[key]

    def _service(self, service: Service) -> tuple[LineKind, str]:
        profile = self._profile
        if service.mode not in profile.modes:
            return "other mode", f"{profile.name} has no {MODE_WORDS[service.mode]}."
        if not profile.receives(service.rx_hz):
            return "left out", f"{profile.name} does not receive on this frequency."
        return "left out", impossible_service(service)

    def route(self, route: Route) -> str:
        """Why a route through a service that can be carried cannot be; what has values of its own is looked at by itself."""
        if route.color_code is not None or route.dgid_tx is not None or route.dgid_rx is not None:
            return self._route(route)
        at = (route.service, route.destination)
        if at not in self._crossings:
            self._crossings[at] = self._route(route)
        return self._crossings[at]

    def _route(self, route: Route) -> str:
        _access, service, destination = self._index.parts(route)
        if service.mode != "dmr":
            return impossible(route, service, None)
        if self._radio.school != "both" and destination.kind == (
            "dial" if self._radio.school == "channels" else "group"
        ):
            return _SCHOOL_REASON[self._radio.school]
        return impossible(route, service, call_through(self._index, service, destination))


def _within(
    index: PlanIndex, profile: Profile, first: tuple[str, ...], carried: list[Route], lines: list[Line]
) -> list[Route]:
    """As many as there is room for: those chosen to come first, then those punched first; in the order of punching."""
    limit, wanted = profile.limits.channels, frozenset(first)
    keys = [route.key for route in carried]
    ranked = sorted(range(len(carried)), key=lambda at: (keys[at] not in wanted, at))
    kept = frozenset(ranked[:limit])
    reason = f"The radio holds {counted(limit, 'channel')} and the plan asks for {len(carried)}; the last punched are left out."
    lines.extend(
        Line("left out", key, index.labels.at(key, carried[at]), reason)
        for at, key in enumerate(keys)
        if at not in kept
    )
    return [route for at, route in enumerate(carried) if at in kept]
