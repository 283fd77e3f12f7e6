"""From the directory into the plan: an access point with its services, doubles recognised, networks found by name."""

from collections.abc import Iterable
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.directory.doubles import same_as
from umbra_awl.core.directory.store import StoredEntry
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, fresh_key
from umbra_awl.core.plan.model import AccessPoint, Network, Plan, Service


class Match(NamedTuple):
    """The plan's access point that an entry is already, and how that was recognised."""

    access: AccessPoint
    how: str


def match(plan: Plan, entry_key: str, access: AccessPoint) -> Match | None:
    """The plan's access point that is the same as a directory's; None when there is none."""
    for item in plan.access:
        if item.entry and item.entry == entry_key:
            return Match(item, "taken from this entry")
    known = ((item, same_as(item, access)) for item in plan.access)
    return next((Match(item, how) for item, how in known if how), None)


def used_keys(plan: Plan, entries: Iterable[tuple[str, AccessPoint]]) -> set[str]:
    """Those of many entries (key and access point) that the plan holds already."""
    calls = {item.call for item in plan.access if item.call}
    own = {item.entry for item in plan.access if item.entry}
    return {key for key, access in entries if key in own or (access.call in calls and match(plan, key, access))}


class Haul(NamedTuple):
    """What taking would do: new access points, known ones that gain services, and known ones with nothing new."""

    new: tuple[str, ...]
    gained: tuple[str, ...]
    known: tuple[str, ...]

    @property
    def words(self) -> str:
        """The same as a sentence."""
        parts = [
            f"{len(keys)} {word}"
            for keys, word in ((self.new, "taken"), (self.gained, "given more services"), (self.known, "known already"))
            if keys
        ]
        return ", ".join(parts) or "nothing to take"


def take_entries(plan: Plan, entries: Iterable[StoredEntry]) -> tuple[Edit, Haul, dict[str, str]]:
    """The edit that takes entries into a plan, what it does, and entry key to the key in the plan.

    Raises EditRefused when there is nothing new in any of them.
    """
    new: list[str] = []
    gained: list[str] = []
    known: list[str] = []
    keys: dict[str, str] = {}
    after = plan
    label = ""
    for entry in entries:
        found = match(after, entry.key, entry.access)
        label = label or entry.access.call or entry.access.site
        if found is None:
            after, keys[entry.key] = _with_new(after, entry)
            new.append(entry.key)
            continue
        keys[entry.key] = found.access.key
        merged = _with_more(after, found.access, entry)
        (known if merged is after else gained).append(entry.key)
        after = merged
    done = Haul(tuple(new), tuple(gained), tuple(known))
    if not new and not gained:
        raise EditRefused(
            f"Already in the plan: {label or 'all of them'}." if keys else "Nothing is chosen to be taken."
        )
    sentence = (
        f"Take {label} into the plan"
        if len(keys) == 1
        else f"Take {counted(len(new) + len(gained), 'access point')} into the plan"
    )
    return Edit(sentence, lambda old: _unless_moved(old, plan, after)), done, keys


def _unless_moved(old: Plan, before: Plan, after: Plan) -> Plan:
    """The result, if the plan is still the one it was made for; better look again than guess."""
    if old is not before and old != before:
        raise EditRefused("The plan changed meanwhile. Look again and repeat.")
    return after


def _with_new(plan: Plan, entry: StoredEntry) -> tuple[Plan, str]:
    key = fresh_key(entry.access.site or entry.access.call, (item.key for item in plan.access))
    access = replace(entry.access, key=key, entry=entry.key)
    plan, services = _settled(plan, key, access.services)
    access = replace(access, services=services, listed=services)
    return replace(plan, access=(*plan.access, access)), key


def _with_more(plan: Plan, known: AccessPoint, entry: StoredEntry) -> Plan:
    have = {(service.mode, service.rx_hz) for service in known.services}
    fresh = tuple(service for service in entry.access.services if (service.mode, service.rx_hz) not in have)
    if not fresh:
        return plan
    plan, services = _settled(plan, known.key, fresh)
    listed = (*known.listed, *services) if known.entry == entry.key else known.listed
    grown = replace(known, services=(*known.services, *services), listed=listed)
    return replace(plan, access=tuple(grown if item.key == known.key else item for item in plan.access))


def _settled(plan: Plan, key: str, services: tuple[Service, ...]) -> tuple[Plan, tuple[Service, ...]]:
    """Services with keys of their own and networks of the plan; networks not yet there are added by name."""
    taken = {service.key for item in plan.access for service in item.services}
    made: list[Service] = []
    for service in services:
        fresh = fresh_key(f"{key}-{service.mode}", taken)
        taken.add(fresh)
        name = getattr(service.air, "network", "")
        if name:
            plan, network = _network(plan, name, service)
            service = replace(service, air=replace(service.air, network=network))  # noqa: PLW2901
        made.append(replace(service, key=fresh))
    return plan, tuple(made)


def _network(plan: Plan, name: str, service: Service) -> tuple[Plan, str]:
    for item in plan.networks:
        if item.mode == service.mode and name.casefold() in {item.name.casefold(), item.key.casefold()}:
            return plan, item.key
    key = fresh_key(name, (item.key for item in plan.networks))
    quiet = mode_of(service).quiet_minutes
    return replace(plan, networks=(*plan.networks, Network(key, name, service.mode, quiet_minutes=quiet))), key
