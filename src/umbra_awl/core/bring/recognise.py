"""From a memory to what a plan would hold for it: access points, destinations, routes, zones, the radio and whose it is."""

from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.bring.notes import Note
from umbra_awl.core.bring.routing import Router
from umbra_awl.core.bring.services import Group, air_of, call_of, groups_of, known_service, site_kind
from umbra_awl.core.bring.sound import sound_part
from umbra_awl.core.bring.targets import Targets
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.plan.edit.edits import fresh_key
from umbra_awl.core.plan.index import NO_DAY, PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, PinnedPower, Plan, Route, ScanList, Service, Zone
from umbra_awl.core.radio.memory import Memory, MemoryList
from umbra_awl.core.radio.profile import Profile

_EMPTY = PlanIndex(Plan(), NO_DAY)


class RecognisedMemory(NamedTuple):
    """What a memory holds that a plan does not have yet, and how it was understood.

    `routes` lists every channel's route by channel number, `fresh` those that are new; `access` are new access points,
    `matched` how many services the plan had already, `powers` what sends with neither the lowest nor the highest step.
    """

    memory: Memory
    access: tuple[AccessPoint, ...]
    destinations: tuple[Destination, ...]
    routes: dict[int, Route]
    fresh: tuple[Route, ...]
    zones: tuple[Zone, ...]
    scans: tuple[ScanList, ...]
    notes: tuple[Note, ...]
    matched: int
    powers: tuple[PinnedPower, ...] = ()


def recognise(memory: Memory, profile: Profile | None = None, index: PlanIndex = _EMPTY) -> RecognisedMemory:
    """Understand a memory, against a plan whose things are used where they are the same."""
    notes: list[Note] = []
    whole = len(memory.channels)
    memory = sound_part(memory, notes)
    targets = Targets(index, notes)
    sites = _Sites(index)
    router = Router(memory, profile, index, notes)
    matched = 0
    for group in groups_of(memory.channels, notes):
        service = known_service(group, index)
        matched += service is not None
        if service is None:
            service = sites.add(group)
        service = router.take(group, service, targets)
        sites.put(service)
    _say_counts(whole, router, sites, matched, notes)
    fresh = tuple(route for key, route in router.by_key.items() if key not in index.routes)
    return RecognisedMemory(
        memory,
        sites.new_access(),
        tuple(targets.made.values()),
        router.by_channel,
        fresh,
        tuple(_zones(memory, router, index, notes)),
        tuple(_scans(memory, router, index)),
        tuple(notes),
        matched,
        tuple(PinnedPower(key, step) for key, step in router.powers.items()),
    )


class _Sites:
    """Access points in the making: services whose names speak of the same site, or that have one call sign, are put together."""

    def __init__(self, index: PlanIndex) -> None:
        self._index = index
        self._access: dict[str, AccessPoint] = {}
        self._at: dict[str, str] = {}
        self._by_site: dict[tuple[str, str], str] = {}

    def add(self, group: Group) -> Service:
        """The new service of a group, at its site."""
        kind, call = site_kind(group, self._index), call_of(group)
        at = (group.site.casefold(), kind)
        key = self._by_site.get(at) or next(
            (item.key for item in self._access.values() if call and item.call == call and item.kind == kind), ""
        )
        if not key:
            key = fresh_key(group.site or call or "site", (*self._index.access, *self._access))
            self._access[key] = AccessPoint(key, call, group.site or call, kind)
        self._by_site[at] = key
        if call and not self._access[key].call:
            self._access[key] = replace(self._access[key], call=call)
        wanted = f"{key}-{group.mode}"
        taken = fresh_key(wanted, (*self._index.services, *self._at))
        service = Service(taken, group.pair[1], group.pair[2], air_of(group))
        self._at[taken] = key
        return service

    def put(self, service: Service) -> None:
        """Put a service to its access point; known ones are where they are."""
        key = self._at.get(service.key)
        if key is not None:
            access = self._access[key]
            self._access[key] = replace(access, services=(*access.services, service))

    def new_access(self) -> tuple[AccessPoint, ...]:
        """The access points that the plan lacks."""
        return tuple(self._access.values())


def _zones(memory: Memory, router: Router, index: PlanIndex, notes: list[Note]) -> list[Zone]:
    made: list[Zone] = []
    for item in memory.zones:
        members = _members(item, router)
        if not members:
            notes.append(Note("not understood", item.name, "The zone holds no channel that was understood."))
            continue
        key = fresh_key(item.name or "zone", (*(zone.key for zone in index.plan.zones), *(zone.key for zone in made)))
        made.append(Zone(key, item.name, "hand", members=members))
    return made


def _scans(memory: Memory, router: Router, index: PlanIndex) -> list[ScanList]:
    made: list[ScanList] = []
    for item in memory.scans:
        members = _members(item, router)
        if members:
            taken = (*(scan.key for scan in index.plan.scans), *(scan.key for scan in made))
            priority = router.by_channel.get(item.priority)
            made.append(
                ScanList(
                    fresh_key(item.name or "scan", taken),
                    item.name,
                    "hand",
                    members=members,
                    priority=priority.key if priority is not None else "",
                    hang_s=item.hang_ms / 1000,
                )
            )
    return made


def _members(item: MemoryList, router: Router) -> tuple[str, ...]:
    routes = (router.by_channel.get(number) for number in item.members)
    return tuple(dict.fromkeys(route.key for route in routes if route is not None))


def _say_counts(whole: int, router: Router, sites: _Sites, matched: int, notes: list[Note]) -> None:
    new = sum(len(access.services) for access in sites.new_access())
    text = f"{len(router.by_channel)} of {counted(whole, 'channel')} became routes through {counted(matched + new, 'service')}"
    known = f", {matched} of which the plan has" if matched else ""
    notes.insert(0, Note("understood", "channels", f"{text}{known}."))
    hotspots = [access.site for access in sites.new_access() if access.kind == "hotspot"]
    taken = "Digital on one frequency: taken for a hotspot. Change its kind if it is simplex."
    notes.extend(Note("doubtful", site, taken) for site in hotspots)
