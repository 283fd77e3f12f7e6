"""Which zones and routes go onto a radio: its zones and trips, its school, what was decided, its modes, bands and room."""

from collections.abc import Iterable

from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.fit.possible import impossible
from umbra_awl.core.fit.profile import Profile
from umbra_awl.core.fit.report import Line
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio, Route, RouteList
from umbra_awl.core.routes.calls import call_through
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
    carried: list[Route] = []
    for key, route in index.routes.items():
        mode = index.services[route.service][1].mode
        if mode not in profile.modes:
            lines.append(Line("other mode", key, index.label(route), f"{profile.name} has no {MODE_WORDS[mode]}."))
            continue
        if key in left:
            lines.append(Line("by choice", key, index.label(route), "You chose to leave it out of this radio."))
            continue
        reason = "It is in no zone of this radio." if key not in used else _unfit(index, radio, profile, route)
        if reason:
            lines.append(Line("left out", key, index.label(route), reason))
        else:
            carried.append(route)
    return carried if len(carried) <= profile.limits.channels else _within(index, radio, profile, carried, lines)


def _within(
    index: PlanIndex, radio: OwnedRadio, profile: Profile, carried: list[Route], lines: list[Line]
) -> list[Route]:
    """As many as there is room for: those chosen to come first, then those punched first; in the order of punching."""
    limit, first = profile.limits.channels, frozenset(radio.first)
    ranked = sorted(range(len(carried)), key=lambda at: (carried[at].key not in first, at))
    kept = frozenset(ranked[:limit])
    reason = f"The radio holds {limit} channels and the plan asks for {len(carried)}; the last punched are left out."
    lines.extend(
        Line("left out", route.key, index.label(route), reason) for at, route in enumerate(carried) if at not in kept
    )
    return [route for at, route in enumerate(carried) if at in kept]


def _unfit(index: PlanIndex, radio: OwnedRadio, profile: Profile, route: Route) -> str:
    _access, service, destination = index.parts(route)
    if not profile.receives(service.rx_hz):
        return f"{profile.name} does not receive on this frequency."
    if radio.school != "both" and service.mode == "dmr":
        kind = destination.kind
        if kind == ("dial" if radio.school == "channels" else "group"):
            return _SCHOOL_REASON[radio.school]
    return impossible(index, route, call_through(index, service, destination) if service.mode == "dmr" else None)
