"""Rules on what the directory says today of what the plan took from it: changed, gone, a number that is on no list.

The findings stay pure: what the directory says comes in as a value. A directory that was wrong when an entry was taken, and
still says the same, is no finding; the operator's own correction stays.
"""

from collections.abc import Iterator

from msgspec.structs import replace

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.plan.edit.edits import Edit, swap_item
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.known import Known
from umbra_awl.core.plan.model import AccessPoint, Destination, Plan, Service

CHANGED = Rule(
    "entry-changed",
    "warn",
    "The directory has changed",
    "A repeater was moved, or its color code or tone changed, after you took it into the plan. The directory has the newer "
    "value, unless you know better: then put this aside with the reason.",
)
GONE = Rule(
    "entry-gone",
    "warn",
    "No longer in the directory",
    "The entry this was taken from has vanished from its directory. The repeater may be off the air: listen before you rely "
    "on it.",
)
NOT_LISTED = Rule(
    "number-not-listed",
    "warn",
    "Not among the network's talk groups",
    "The directory has a list of this network's talk groups, and this number is not on it. One digit off, and nobody answers.",
)


def check_directory(index: PlanIndex, known: Known) -> Iterator[Finding]:
    """All findings of the plan against the directory."""
    for access in index.plan.access if known.entries else ():
        if access.entry in known.entries:
            yield from _check_entry(access, known.entries[access.entry])
    if known.numbers:
        yield from _check_numbers(index, known)


def _check_entry(access: AccessPoint, listed: AccessPoint | None) -> Iterator[Finding]:
    if listed is None:
        text = f"{access.by_call} is no longer in the directory it was taken from."
        yield Finding(
            GONE, Target("service", access.services[0].key) if access.services else Target("licence", ""), text
        )
        return
    taken = {service.key: service for service in access.listed}
    for service in access.services:
        now = _same(service, access, listed)
        before = taken.get(service.key)
        if now is None or (before is not None and _values(before) == _values(now)):
            continue
        differs = {word: value for word, value in _values(now).items() if _values(service).get(word) != value}
        if differs:
            said = ", ".join(f"{word} {_shown(value)}" for word, value in differs.items())
            text = f"The directory has {access.by_call} {MODE_WORDS[service.mode]} with {said} now."
            repair = Repair("Take the new value", _take(access, service, now))
            yield Finding(CHANGED, Target("service", service.key), text, repair)


def _same(service: Service, access: AccessPoint, listed: AccessPoint) -> Service | None:
    """The directory's service that is this one: of the same mode, on the same frequency or the only one of it."""
    alike = [item for item in listed.services if item.mode == service.mode]
    on = [item for item in alike if item.rx_hz == service.rx_hz]
    if len(on) == 1:
        return on[0]
    mine = [item for item in access.services if item.mode == service.mode]
    return alike[0] if len(alike) == len(mine) == 1 else None


def _values(service: Service) -> dict[str, object]:
    """What a directory tells of a service, by the words for it."""
    found: dict[str, object] = {"output": service.rx_hz, "input": service.tx_hz}
    for word, field in (("color code", "color_code"), ("tone", "tone_tx"), ("module", "module")):
        if hasattr(service.air, field):
            found[word] = getattr(service.air, field)
    return found


def _shown(value: object) -> str:
    return format_mhz(value) if isinstance(value, int) and value > 1_000 else str(value) or "none"


def _take(access: AccessPoint, service: Service, now: Service) -> Edit:
    """Take the directory's values of a service over, and remember them as taken."""
    fields = {name: getattr(now.air, name) for name in ("color_code", "tone_tx", "module") if hasattr(now.air, name)}
    fresh = replace(service, rx_hz=now.rx_hz, tx_hz=now.tx_hz, air=replace(service.air, **fields))

    def change(item: AccessPoint) -> AccessPoint:
        services = tuple(fresh if one.key == service.key else one for one in item.services)
        others = tuple(one for one in item.listed if one.key != service.key)
        return replace(item, services=services, listed=(*others, fresh))

    def apply(plan: Plan) -> Plan:
        return replace(plan, access=swap_item(plan.access, access.key, change))

    return Edit(f"Take the directory's values of {access.by_call}", apply)


def _check_numbers(index: PlanIndex, known: Known) -> Iterator[Finding]:
    """Talk groups that are on no list; a list that lacks most of a plan's is no list of that network, and says nothing."""
    for network in index.plan.networks:
        listed = known.numbers.get(network.name.casefold(), frozenset())
        groups = [item for item in index.plan.destinations if item.network == network.key and _is_group(item)]
        lost = [item for item in groups if item.number not in listed]
        for item in lost if len(lost) * 2 < len(groups) else ():
            text = f"{item.name} is {item.number}; the directory's list of {network.name} does not have it."
            yield Finding(NOT_LISTED, Target("destination", item.key), text)


def _is_group(item: Destination) -> bool:
    return item.kind == "group" and item.call == "group" and item.number is not None
