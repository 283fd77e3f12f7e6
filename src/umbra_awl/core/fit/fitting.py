"""Fitting: a plan and one owned radio make a memory and a report. Pure, and the same to the byte every time."""

from collections.abc import Iterable
from typing import NamedTuple

from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.fit.book import Contacts, GroupLists
from umbra_awl.core.fit.channels import ChannelMaker
from umbra_awl.core.fit.memory import Channel, Memory, MemoryList
from umbra_awl.core.fit.placing import fit_scans, fit_zones
from umbra_awl.core.fit.profile import Profile
from umbra_awl.core.fit.report import Gauge, Line, Report
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio, Route, RouteList
from umbra_awl.core.routes.calls import called
from umbra_awl.core.routes.lists import members_of_all, zones_in_force
from umbra_awl.core.routes.names import Named, fold, name_routes


class Fit(NamedTuple):
    """A memory with the report on how it came about, and the name given to each route."""

    memory: Memory
    report: Report
    names: dict[str, Named]

    def channel_of(self, route: str) -> Channel | None:
        """The channel that carries a route, or None when it was left out."""
        return next((channel for channel in self.memory.channels if channel.route == route), None)


def fit(index: PlanIndex, radio: OwnedRadio, profile: Profile) -> Fit:
    """Fit a plan to one radio."""
    lines: list[Line] = []
    zones, members = _chosen_zones(index, radio)
    routes = _carried(index, profile, members.values(), lines)
    names = name_routes(index, routes, profile.display.rules)
    contacts = Contacts(index, profile, routes)
    groups = GroupLists(profile)
    channels = ChannelMaker(index, radio, profile, (contacts, groups), names, lines).make(routes)
    numbers = {channel.route: channel.number for channel in channels}
    kept_zones, first_of = fit_zones(zones, members, numbers, profile, lines)
    scans = fit_scans(index.plan.scans, members_of_all(index, index.plan.scans), numbers, profile, lines)
    _say_names(names, numbers, lines)
    identity = index.identity_of(radio)
    memory = Memory(
        profile.key,
        radio.key,
        identity.call if identity else "",
        identity.ids[0].number if identity and identity.ids else 0,
        tuple(channels),
        tuple(contacts.rows),
        tuple(groups.rows),
        kept_zones,
        scans,
        *_extras(index, radio, profile, contacts, first_of),
    )
    return Fit(memory, Report((*lines, *contacts.lines, *groups.lines), _gauges(memory, profile)), names)


def _extras(
    index: PlanIndex, radio: OwnedRadio, profile: Profile, contacts: Contacts, first_of: dict[str, int]
) -> tuple[str, str, int, tuple[int, ...]]:
    """Note, talker alias, one-touch contact and the halves' zones, as far as the radio has them."""
    identity, extras = index.identity_of(radio), profile.extras
    note = identity.dstar_note[:4] if identity is not None and "dstar" in profile.modes else ""
    alias = fold(identity.alias, profile.display.rules)[: extras.alias] if identity is not None and extras.alias else ""
    target = index.destinations.get(radio.one_touch) if extras.one_touch else None
    call = called(target, index.networks.get(target.network)) if target is not None else None
    halves = [first_of.get(zone, 0) for zone in radio.halves[: extras.halves]] if extras.halves > 1 else []
    while halves and not halves[-1]:
        halves.pop()
    return note, alias, contacts.number_of(call), tuple(halves)


def _chosen_zones(index: PlanIndex, radio: OwnedRadio) -> tuple[list[RouteList], dict[str, tuple[str, ...]]]:
    zones: list[RouteList] = [zone for zone in zones_in_force(index) if radio.zones is None or zone.key in radio.zones]
    return zones, members_of_all(index, zones)


def _carried(index: PlanIndex, profile: Profile, members: Iterable[tuple[str, ...]], lines: list[Line]) -> list[Route]:
    """The routes that zones use and the radio can carry, in the order of punching."""
    used = {key for keys in members for key in keys}
    carried: list[Route] = []
    for key, route in index.routes.items():
        mode = index.services[route.service][1].mode
        if mode not in profile.modes:
            lines.append(Line("other mode", key, index.label(route), f"{profile.name} has no {MODE_WORDS[mode]}."))
            continue
        reason = "It is in no zone of this radio." if key not in used else _unfit(index, profile, route)
        if reason:
            lines.append(Line("left out", key, index.label(route), reason))
        else:
            carried.append(route)
    limit = profile.limits.channels
    for route in carried[limit:]:
        reason = (
            f"The radio holds {limit} channels and the plan asks for {len(carried)}; the last punched are left out."
        )
        lines.append(Line("left out", route.key, index.label(route), reason))
    return carried[:limit]


def _unfit(index: PlanIndex, profile: Profile, route: Route) -> str:
    _access, service = index.services[route.service]
    if not profile.receives(service.rx_hz):
        return f"{profile.name} does not receive on this frequency."
    return ""


def _say_names(names: dict[str, Named], numbers: dict[str, int], lines: list[Line]) -> None:
    for key, named in names.items():
        if key not in numbers or (named.name == named.full and not named.told_apart):
            continue
        if named.told_apart:
            lines.append(Line("told apart", key, named.name, f"“{named.full}” shortened would meet another name."))
        elif named.name.upper() != named.full.upper():
            lines.append(Line("shortened", key, named.name, f"for “{named.full}”"))


def _longest(lists: tuple[MemoryList, ...]) -> int:
    return max((len(item.members) for item in lists), default=0)


def _dmr_gauges(memory: Memory, profile: Profile) -> tuple[Gauge, ...]:
    limits = profile.limits
    if "dmr" not in profile.modes:
        return ()
    return (
        Gauge("contacts", len(memory.contacts), limits.contacts),
        Gauge("receive group lists", len(memory.group_lists), limits.group_lists),
    )


def _gauges(memory: Memory, profile: Profile) -> tuple[Gauge, ...]:
    limits = profile.limits
    return (
        Gauge("channels", len(memory.channels), limits.channels),
        Gauge("zones", len(memory.zones), limits.zones),
        Gauge("longest zone", _longest(memory.zones), limits.zone_channels),
        *_dmr_gauges(memory, profile),
        Gauge("scan lists", len(memory.scans), limits.scan_lists),
    )
