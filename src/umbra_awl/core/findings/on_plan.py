"""Rules on the plan as a whole: identity and licence, names that meet when cut, lists over a radio's limits."""

from collections.abc import Iterator, Mapping
from functools import cached_property

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.findings.guarded import each_guarded
from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.findings.on_dstar import free_letter
from umbra_awl.core.findings.on_people import check_people
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DstarAir, OwnedRadio, Route, ScanList, Zone
from umbra_awl.core.plan.parts import RADIOS, SCANS
from umbra_awl.core.radio.display import fold
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.routes.lists import counts_of_all, members_of_all, zones_in_force
from umbra_awl.core.routes.punch import set_route

NAMES_MEET = Rule(
    "names-meet",
    "warn",
    "Names meet when cut",
    "Two names made by hand are the same as far as a display reaches. They are shortened word by word there, so that they "
    "differ, but not as they were meant. Shorter names read better.",
)
TWICE = Rule(
    "number-twice",
    "warn",
    "One number under two names",
    "Two destinations with one number are one destination: whoever hears the one hears the other. A digit slipped, or one of "
    "the two is not needed.",
)
SAME_ENTRY = Rule(
    "same-call-and-module",
    "warn",
    "Two entries with one call sign and module",
    "Some radios refuse a second access entry with the same call sign and module. A gateway cannot tell the two apart. Give "
    "each hotspot a module letter of its own.",
)
SCAN_HANG = Rule(
    "scan-hang-over-limit",
    "note",
    "Scan waits longer than the radio can",
    "After a call a scanning radio stays for a while, so that the answer is heard. Each radio has a longest time.",
)
SCAN_PRIORITY = Rule(
    "scan-priority-outside",
    "note",
    "Priority channel is not in its scan list",
    "A radio looks at the priority channel between all others. It has to be one of the list.",
)
ZONE_LONG = Rule(
    "zone-over-limit",
    "note",
    "Zone longer than the knob",
    "A zone that does not fit the radio is split into several, in its order.",
)
SCAN_LONG = Rule(
    "scan-over-limit",
    "warn",
    "Scan list over its limit",
    "A radio scans a limited number of channels in one list; the rest is not scanned.",
)
UNKNOWN_PROFILE = Rule(
    "unknown-profile",
    "stop",
    "No profile for this radio",
    "The profile tells what a radio can hold. Without one it cannot be fitted.",
)


def check_plan(index: PlanIndex, profiles: Mapping[str, Profile]) -> Iterator[Finding]:
    """All findings that need the whole plan."""
    yield from check_people(index, profiles)
    yield from each_guarded((_check_entries, _check_numbers), Target("licence", ""), index)
    lists = _Lists(index)
    for radio in index.plan.radios:
        yield from each_guarded((_check_radio,), Target("radio", radio.key), lists, radio, profiles)


class _Lists:
    """What all radios' checks look at: zones in force, named routes, how many routes of a list each radio's modes carry."""

    def __init__(self, index: PlanIndex) -> None:
        self.index = index
        self._counted: dict[tuple[str, ...], dict[str, int]] = {}

    @cached_property
    def zones(self) -> tuple[Zone, ...]:
        """The zones in force."""
        return zones_in_force(self.index)

    @cached_property
    def pinned(self) -> list[Route]:
        """The routes that were named by hand."""
        return [route for route in self.index.plan.routes if route.name]

    def carried(self, profile: Profile) -> frozenset[str]:
        """The services that a radio of these modes carries."""
        modes = frozenset(profile.modes)
        return self.index.memo(
            ("services of modes", modes),
            lambda: frozenset(key for key, (_access, item) in self.index.services.items() if item.mode in modes),
            ("access",),
        )

    def first_of(self, scan: ScanList, profile: Profile) -> tuple[str, ...]:
        """The routes of a scan list without those that a radio carries beyond its limit."""
        at = ("first of a scan list", scan.key, profile.modes, profile.limits.scan_members)
        return self.index.memo(at, lambda: self._first_of(scan, profile), ("routes", "access", "scans", "trips"))

    def _first_of(self, scan: ScanList, profile: Profile) -> tuple[str, ...]:
        services, routes = self.carried(profile), self.index.routes
        keys = members_of_all(self.index, (scan,))[scan.key]
        carried = [key for key in keys if routes[key].service in services]
        gone = frozenset(carried[profile.limits.scan_members :])
        return tuple(key for key in keys if key not in gone)

    def counts(self, profile: Profile) -> dict[str, int]:
        """List key to how many of its routes a radio carries."""
        if profile.modes not in self._counted:
            lists = (*self.zones, *self.index.plan.scans)
            self._counted[profile.modes] = counts_of_all(self.index, lists, profile.modes)
        return self._counted[profile.modes]


def _check_radio(lists: _Lists, radio: OwnedRadio, profiles: Mapping[str, Profile]) -> Iterator[Finding]:
    """What a radio's names, zones and scan lists come to."""
    index, profile = lists.index, profiles.get(radio.profile)
    if profile is None:
        text = f"“{radio.name}” wants the profile “{radio.profile}”, which is not here."
        yield Finding(UNKNOWN_PROFILE, Target("radio", radio.key), text)
        return
    services = lists.carried(profile)
    yield from _check_names(index, radio, profile, [route for route in lists.pinned if route.service in services])
    counts = lists.counts(profile)
    yield from _check_zones(radio, profile, lists.zones, counts)
    yield from _check_scans(lists, radio, profile, counts)


def _check_entries(index: PlanIndex) -> Iterator[Finding]:
    """Two D-STAR entries with one call sign and module."""
    first: dict[tuple[str, str], AccessPoint] = {}
    for access, service, air in index.services_with(DstarAir):
        if not access.call:
            continue
        earlier = first.setdefault((access.call, air.module), access)
        if earlier is not access:
            letter = free_letter(index, access, service)
            edit = set_air(service.key, f"Give {access.site} the module {letter}", module=letter)
            text = f"{earlier.site} and {access.site} are both {access.call} {air.module}."
            repair = Repair(f"Make {access.site} module {letter}", edit) if letter else None
            yield Finding(SAME_ENTRY, Target("service", service.key), text, repair)


def _check_numbers(index: PlanIndex) -> Iterator[Finding]:
    """One number under two names on one network."""
    first: dict[tuple[str, int, str], Destination] = {}
    for item in index.plan.destinations:
        if item.number is None or item.kind not in {"group", "private", "room"}:
            continue
        earlier = first.setdefault((item.network, item.number, item.call), item)
        if earlier is not item:
            text = f"{earlier.name} and {item.name} are both {item.number}."
            yield Finding(TWICE, Target("destination", item.key), text)


def _check_names(index: PlanIndex, radio: OwnedRadio, profile: Profile, pinned: list[Route]) -> Iterator[Finding]:
    rules = profile.display.rules
    first: dict[str, Route] = {}
    for route in pinned:
        cut = fold(route.name, rules)[: rules.length].strip()
        earlier = first.setdefault(cut.casefold(), route)
        if earlier is route:
            continue
        text = f"“{earlier.name}” and “{route.name}” are both {cut} where {radio.name} cuts them."
        repair = Repair("Name it by rule", set_route(index, route.key, "Name by rule", name=""))
        yield Finding(NAMES_MEET, Target("route", route.key), text, repair, radio.key)
    yield from _check_pinned(index, radio, first)


def _check_pinned(index: PlanIndex, radio: OwnedRadio, first: dict[str, Route]) -> Iterator[Finding]:
    """Names given by hand on one radio that are another's there."""
    taken = {cut: route.key for cut, route in first.items()}
    for pinned in radio.names:
        holder = taken.setdefault(pinned.name.casefold(), pinned.route)
        if holder != pinned.route and pinned.route in index.routes and holder in index.routes:
            both = " and ".join(index.labels.of(index.routes[key]) for key in (holder, pinned.route))
            text = f"{both} are both {pinned.name}."
            names = tuple(item for item in radio.names if item.route != pinned.route)
            edit = set_fields(RADIOS, radio.key, f"Name by the house style on {radio.name}", names=names)
            yield Finding(NAMES_MEET, Target("route", pinned.route), text, Repair("Name it by rule", edit), radio.key)


def _check_zones(
    radio: OwnedRadio, profile: Profile, zones: tuple[Zone, ...], counts: dict[str, int]
) -> Iterator[Finding]:
    most = profile.limits.zone_channels
    for zone in zones:
        count = counts[zone.key]
        if count > most and (radio.zones is None or zone.key in radio.zones):
            told = f"{zone.name} has {counted(count, 'route')}"
            text = f"{told}; {radio.name} takes {most} in a zone, so it becomes {-(-count // most)}."
            yield Finding(ZONE_LONG, Target("zone", zone.key), text, None, radio.key)


def _check_scans(lists: _Lists, radio: OwnedRadio, profile: Profile, counts: dict[str, int]) -> Iterator[Finding]:
    most, longest_s, index = profile.limits.scan_members, profile.limits.scan_hang_s, lists.index
    for scan in index.plan.scans:
        target = Target("scan", scan.key)
        if counts[scan.key] > most:
            keys = lists.first_of(scan, profile)
            text = f"{scan.name} has {counted(counts[scan.key], 'route')}; {radio.name} scans {most}."
            cut = set_fields(SCANS, scan.key, f"Cut {scan.name} to {most}", by="hand", members=keys)
            yield Finding(SCAN_LONG, target, text, Repair(f"Keep the first {most}", cut), radio.key)
        if scan.hang_s > longest_s:
            text = f"{scan.name} waits {scan.hang_s:g} s; {radio.name} waits at most {longest_s:g} s."
            cut = set_fields(SCANS, scan.key, f"Let {scan.name} wait {longest_s:g} s", hang_s=longest_s)
            yield Finding(SCAN_HANG, target, text, Repair(f"Wait {longest_s:g} s", cut), radio.key)
        if scan.priority and scan.priority not in members_of_all(index, (scan,))[scan.key]:
            text = f"{scan.name} does not hold its priority channel."
            drop = set_fields(SCANS, scan.key, f"No priority channel in {scan.name}", priority="")
            yield Finding(SCAN_PRIORITY, target, text, Repair("No priority", drop), radio.key)
