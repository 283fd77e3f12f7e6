"""Rules on a DMR service: its color code, its slots, what is dialled through it, what lies behind a prefix."""

from collections.abc import Iterator

from msgspec.structs import replace

from umbra_awl.core.facts.dmr import COLOR_CODES
from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.modes.calls import is_prefix
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.core.plan.edit.edits import together
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, DmrAir, Route, Service
from umbra_awl.core.routes.punch import fill, punch, set_route

BAD_COLOR = Rule(
    "unknown-color-code",
    "stop",
    "Not a color code",
    "DMR has the color codes 0 to 15. With a wrong one the repeater neither hears you nor opens your speaker.",
)
TWO_SLOTS = Rule(
    "simplex-two-slots",
    "warn",
    "Two slots on one frequency",
    "A simplex hotspot uses one time slot. Many radios ignore the setting there and some do not; with both in use, half of "
    "the channels may stay silent.",
)
DIAL_NO_LOCAL = Rule(
    "dial-without-local",
    "warn",
    "Dials and has nothing to talk on",
    "A dialled reflector is joined by its number and then spoken to through the local talk group. Without a channel on that "
    "talk group you link and cannot talk.",
)
NO_PREFIX = Rule(
    "prefix-missing",
    "stop",
    "Second network without a prefix",
    "A second network on the same hotspot is told apart by a prefix before its numbers. Without one the first network gets "
    "the call.",
)


def check_dmr_service(index: PlanIndex, access: AccessPoint, service: Service, air: DmrAir) -> Iterator[Finding]:
    """All findings of a DMR service that its frequencies do not tell."""
    target = Target("service", service.key)
    if air.color_code not in COLOR_CODES:
        yield Finding(BAD_COLOR, target, f"{access.call} has the color code {air.color_code}; 0 to 15 exist.")
    if access.kind == "hotspot" and service.rx_hz == service.tx_hz and len(air.slots) > 1:
        text = f"{access.site} hears and sends on one frequency, and both slots are in use."
        yield Finding(TWO_SLOTS, target, text, _one_slot(index, access, service, air))
    for key in air.also:
        network = index.networks.get(key)
        if network is not None and not is_prefix(network.prefix) and _reaches(index, service, key):
            text = f"{network.name} is reached through {access.by_call} and has no prefix in the plan."
            yield Finding(NO_PREFIX, target, text, part=key)
    yield from _check_dialling(index, access, service, air)


def _reaches(index: PlanIndex, service: Service, network: str) -> bool:
    crossings = index.by_crossing
    return any((service.key, item.key) in crossings for item in index.plan.destinations if item.network == network)


def _one_slot(index: PlanIndex, access: AccessPoint, service: Service, air: DmrAir) -> Repair:
    """Everything on slot 2: routes move there, or are filled where slot 2 is punched already."""
    routes = [route for route in index.plan.routes if route.service == service.key and route.slot == 1]
    doubled = [route for route in routes if _has_other(index, route)]
    label = "Use slot 2 only"
    static = tuple({item.destination: replace(item, slot=2) for item in air.static}.values())
    steps = [set_air(service.key, label, slots=(2,), static=static)]
    steps += [set_route(index, route.key, label, slot=2) for route in routes if route not in doubled]
    if doubled:
        steps.append(fill(index, doubled))
    return Repair(label, together(f"Use slot 2 only on {access.site}", steps))


def _has_other(index: PlanIndex, route: Route) -> bool:
    return any(item.slot == 2 for item in index.by_crossing[route.service, route.destination])


def _check_dialling(index: PlanIndex, access: AccessPoint, service: Service, air: DmrAir) -> Iterator[Finding]:
    crossings = index.by_crossing
    talking = (*index.by_kind.get("dial", ()), *index.by_kind.get("local", ()))
    mine = [item for item in talking if (service.key, item.key) in crossings]
    dialled = [item for item in mine if item.kind == "dial" and item.number is not None]
    if not dialled or len(dialled) < len(mine):
        return
    where = access.by_call
    text = f"{dialled[0].name} is dialled through {where}, and no channel there talks on the local talk group."
    local = next((item for item in index.plan.destinations if item.kind == "local"), None)
    slot = crossings[service.key, dialled[0].key][0].slot
    repair = None
    if local is not None and slot in air.slots and local.network in {"", air.network}:
        repair = Repair(f"Punch {local.name}", punch(index, service.key, local.key, slot))
    yield Finding(DIAL_NO_LOCAL, Target("service", service.key), text, repair)
