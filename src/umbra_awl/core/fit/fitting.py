"""Fitting: a plan and one owned radio make a memory and a report. Pure, and the same to the byte every time."""

from typing import NamedTuple

from umbra_awl.core.fit.book import Contacts, GroupLists
from umbra_awl.core.fit.carrying import carried_routes, chosen_zones
from umbra_awl.core.fit.channels import ChannelMaker
from umbra_awl.core.fit.entries import entry_gauges, fit_entries
from umbra_awl.core.fit.placing import fit_scans, fit_zones
from umbra_awl.core.fit.possible import fitted_id
from umbra_awl.core.fit.radio_wide import fit_settings
from umbra_awl.core.fit.report import Gauge, Line, Report
from umbra_awl.core.modes.calls import called
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.display import fold, lost_characters
from umbra_awl.core.radio.memory import Channel, Memory, MemoryList
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.routes.kept import codes_kept
from umbra_awl.core.routes.lists import members_of_all
from umbra_awl.core.routes.names import Named, name_routes


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
    zones, members = chosen_zones(index, radio)
    routes = carried_routes(index, radio, profile, members.values(), lines)
    names = name_routes(index, routes, profile.display.rules, radio.style, _pinned(radio), codes_kept(radio))
    contacts = Contacts(index, profile, routes)
    groups = GroupLists(profile)
    channels = ChannelMaker(index, radio, profile, (contacts, groups), names, lines).make(routes)
    numbers = {channel.route: channel.number for channel in channels}
    kept_zones, first_of = fit_zones(zones, members, numbers, profile, (lines, frozenset(radio.cut)))
    scans = fit_scans(index.plan.scans, members_of_all(index, index.plan.scans), numbers, profile, lines)
    entries = fit_entries(index, profile, routes, channels, lines)
    _say_names(names, profile, lines)
    identity = index.owners.identity_of(radio)
    memory = Memory(
        profile.key,
        radio.key,
        identity.call if identity else "",
        fitted_id(identity, lines),
        tuple(channels),
        tuple(contacts.rows),
        tuple(groups.rows),
        kept_zones,
        scans,
        *_extras(index, radio, profile, contacts, first_of),
        *entries,
        fit_settings(index, radio, profile, channels, lines),
    )
    gauges = (*_gauges(memory, profile), *entry_gauges(entries, profile))
    return Fit(memory, Report((*lines, *contacts.lines, *groups.lines), gauges), names)


def _pinned(radio: OwnedRadio) -> dict[str, str]:
    return {item.route: item.name for item in radio.names}


def _extras(
    index: PlanIndex, radio: OwnedRadio, profile: Profile, contacts: Contacts, first_of: dict[str, int]
) -> tuple[str, str, int, tuple[int, ...]]:
    """Note, talker alias, one-touch contact and the halves' zones, as far as the radio has them."""
    identity, extras = index.owners.identity_of(radio), profile.extras
    note = identity.dstar_note[:4] if identity is not None and "dstar" in profile.modes else ""
    alias = fold(identity.alias, profile.display.rules)[: extras.alias] if identity is not None and extras.alias else ""
    target = index.destinations.get(radio.one_touch) if extras.one_touch else None
    call = called(target, index.networks.get(target.network)) if target is not None else None
    halves = [first_of.get(zone, 0) for zone in radio.halves[: extras.halves]] if extras.halves > 1 else []
    while halves and not halves[-1]:
        halves.pop()
    return note, alias, contacts.number_of(call), tuple(halves)


def _say_names(names: dict[str, Named], profile: Profile, lines: list[Line]) -> None:
    for key, named in names.items():
        if named.name == named.full and not named.told_apart:
            continue
        if not named.full.isascii() and (lost := lost_characters(named.full, profile.display.rules)):
            reason = f"This radio cannot show {' '.join(lost)}; “{named.full}” goes without."
            lines.append(Line("characters", key, named.name, reason))
        elif named.told_apart:
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
