"""Rules on D-STAR: modules, the four routing fields, links that are left on, links without an unlink."""

from collections.abc import Iterator

from umbra_awl.core.facts.bands import band_at
from umbra_awl.core.facts.dstar import (
    KEPT_LETTERS,
    MODULE_BANDS,
    RPT_CALL,
    module_fault,
    read_rpt,
    read_ur,
    room_fault,
    shown,
    whole,
)
from umbra_awl.core.findings.model import Finding, Repair, Rule, RuleSpot, Target
from umbra_awl.core.modes.dstar import computed_rpt, computed_ur
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, DstarAir, Service
from umbra_awl.core.plan.places import LINKED, LINKS
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.core.routes.punch import punch, set_route

BAD_MODULE = Rule(
    "module-letter",
    "stop",
    "Not a letter for a module",
    "The module stands in position 8 of RPT1. G is the gateway there, and L, U, E, I and S are commands; as a module they "
    "are taken for those. By custom A is 1.2 GHz, B 70 cm and C 2 m.",
)
NO_ACCESS_CALL = Rule(
    "access-call-missing",
    "stop",
    "D-STAR access without a call sign",
    "RPT1 and RPT2 are made of the access point's call sign. Without one nothing is addressed to it.",
)
LONG_CALL = Rule(
    "access-call-long",
    "stop",
    "Call sign has no room before its module",
    "RPT1 and RPT2 have seven characters for the call sign and one for the module. A longer call sign is never cut, for what is "
    "left would be somebody else's; nothing is addressed to it.",
)
LOCAL_ONLY = Rule(
    "rpt2-local",
    "note",
    "Heard on the module only",
    "RPT2 that does not lead to the gateway keeps a call on the module. Who means a local memory may leave it so; through a link "
    "nobody hears it.",
)
FIELD_WRONG = Rule(
    "field-padding",
    "stop",
    "Routing field is padded or spelled wrongly",
    "A routing field has exactly eight characters, padded with blanks: the module or G in position 8 of RPT1 and RPT2; in UR "
    "a command in position 8, and for a link the module in position 7. One place off, and it means something else.",
)
LINK_LEFT = Rule(
    "command-left-on",
    "stop",
    "Talk memory still carries a command",
    "After linking, UR goes back to CQCQCQ. While a command stays in UR, every key-up gives it again and nobody hears you.",
)
UR_DIFFERS = Rule(
    "ur-differs",
    "warn",
    "UR asks for something else",
    "The memory's UR does not ask for the destination that the hole stands for.",
)
BLANK_RPT = Rule(
    "rpt-blank",
    "stop",
    "RPT1 or RPT2 is blank",
    "Blank RPT fields are the sign that a memory was made simplex, or not in D-STAR mode. Some radios fill them only in "
    "duplex memories. A hotspot's memory must then be duplex with an offset of zero, whichever sign.",
)
RPT_DIFFERS = Rule(
    "rpt-differs",
    "warn",
    "RPT fields of another access point",
    "A copied memory keeps the RPT fields of where it came from; this access point passes on only what names it.",
)
NO_UNLINK = Rule(
    "no-unlink",
    "note",
    "Links and cannot unlink",
    "A link stays until somebody drops it. Have an unlink memory beside the one that links.",
)
DIRECT_LINK = Rule(
    "direct-link",
    "note",
    "Links two repeaters directly",
    "A direct link uses up both repeaters for everybody on them. A reflector joins many without tying any up; prefer it.",
)

_LETTERS = "BCADFHJKMNOPQRTVWXYZ"


def free_letter(index: PlanIndex, access: AccessPoint, service: Service) -> str:
    """A module letter nobody with this call sign uses, the customary one for the band first; empty when all are taken."""
    used = {
        air.module
        for other, item, air in index.services_with(DstarAir)
        if other.call == access.call and item.key != service.key
    }
    band = band_at(index.bands, service.rx_hz)
    custom = [letter for letter, name in MODULE_BANDS.items() if band is not None and name == band.name]
    return next((letter for letter in (*custom, *_LETTERS) if letter not in used | KEPT_LETTERS), "")


def check_dstar_service(index: PlanIndex, access: AccessPoint, service: Service, air: DstarAir) -> Iterator[Finding]:
    """All findings of a D-STAR module that its frequencies do not tell."""
    target, where = Target("service", service.key), access.by_call
    fault = module_fault(air.module)
    if fault:
        capital = air.module.upper()
        letter = free_letter(index, access, service) if module_fault(capital) else capital
        edit = set_air(service.key, f"Give {where} the module {letter}", module=letter)
        yield Finding(BAD_MODULE, target, f"{where}: {fault}", Repair(f"Use module {letter}", edit) if letter else None)
    if not access.call and access.kind in {"repeater", "hotspot"}:
        yield Finding(NO_ACCESS_CALL, target, f"{access.site} has no call sign, so RPT1 and RPT2 are blank.")
    if fault := room_fault(access.call, RPT_CALL):
        yield Finding(LONG_CALL, target, f"{access.site}: {fault}")
    yield from _check_unlink(index, access, service)


def _check_unlink(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    crossings, kinds = index.by_crossing, index.by_kind
    linking = [
        item.name
        for kind in sorted(LINKED)
        for item in kinds.get(kind, ())
        if any(route.slot == LINKS for route in crossings.get((service.key, item.key), ()))
    ]
    drops = [item for item in kinds.get("disconnect", ()) if crossing(index, access, service, item).possible]
    if not linking or any((service.key, item.key) in crossings for item in drops):
        return
    text = f"{access.by_call} {linking[0]} is linked by a memory, and none unlinks there."
    repair = Repair(f"Punch {drops[0].name}", punch(index, service.key, drops[0].key)) if drops else None
    yield Finding(NO_UNLINK, Target("service", service.key), text, repair)


def check_dstar_route(index: PlanIndex, spot: RuleSpot, air: DstarAir) -> Iterator[Finding]:
    """All findings of a route through D-STAR: its fields, and what it does to others."""
    yield from _check_ur(index, spot)
    if spot.access.kind in {"repeater", "hotspot"}:
        yield from _check_rpt(index, spot, air)
    if spot.destination.kind == "direct" and spot.route.slot == LINKS:
        text = f"{spot.where} and {spot.destination.text or spot.destination.name} would hear only each other."
        yield Finding(DIRECT_LINK, spot.target, text)


def _check_ur(index: PlanIndex, spot: RuleSpot) -> Iterator[Finding]:
    route = spot.route
    right = computed_ur(spot.destination, route.slot)
    wanted = read_ur(right)
    if route.ur is None:
        if wanted.kind == "wrong":
            yield Finding(FIELD_WRONG, spot.target, f"{spot.destination.name}: {wanted.fault}", part="ur")
        return
    got = read_ur(route.ur)
    label = "Put UR back to CQCQCQ" if wanted.kind == "cq" else f"Write UR as {shown(right)}"
    repair = Repair(label, set_route(index, route.key, label, ur=None))
    if wanted.kind == "wrong":
        return
    if got.kind in {"wrong", "blank"}:
        yield Finding(FIELD_WRONG, spot.target, f"UR is {shown(route.ur)}. {got.fault}", repair, "ur")
    elif got.is_command and not wanted.is_command:
        text = f"UR is {shown(route.ur)}: every key-up would {_DOES[got.kind]}; this memory should send {shown(right)}."
        yield Finding(LINK_LEFT, spot.target, text, repair)
    elif got != wanted:
        text = f"UR is {shown(route.ur)}; to reach {spot.destination.name} it is {shown(right)}."
        yield Finding(UR_DIFFERS, spot.target, text, repair)


_DOES = {"link": "link again", "unlink": "unlink", "echo": "ask for an echo", "info": "ask for information"}


def _check_rpt(index: PlanIndex, spot: RuleSpot, air: DstarAir) -> Iterator[Finding]:
    route, right = spot.route, computed_rpt(spot.access, air)
    own = {"rpt1": route.rpt1, "rpt2": route.rpt2}
    blank = [name.upper() for name, text in own.items() if text is not None and not text.strip()]
    if blank and (blank != ["RPT2"] or spot.destination.kind != "local"):
        simplex = spot.service.rx_hz == spot.service.tx_hz
        how = " Make it duplex with an offset of zero where the radio needs that." if simplex else ""
        label = "Fill RPT1 and RPT2"
        edit = set_route(index, route.key, label, rpt1=None, rpt2=None)
        belong = f"{shown(right[0])} and {shown(right[1])} belong there.{how}"
        told = f"{' and '.join(blank)} {'are' if len(blank) > 1 else 'is'} blank; {belong}"
        yield Finding(BLANK_RPT, spot.target, told, Repair(label, edit))
        return
    for (name, typed), usual in zip(own.items(), right, strict=True):
        if typed is None or whole(typed) == usual:
            continue
        fault = read_rpt(typed, name.upper()).fault if typed.strip() else ""
        label = f"Write {name.upper()} as {shown(usual)}"
        repair = Repair(label, set_route(index, route.key, label, **{name: None}))
        if fault:
            yield Finding(FIELD_WRONG, spot.target, fault, repair, name)
            continue
        told = f"{name.upper()} is {shown(typed)}; {spot.where} is addressed as {shown(usual)}."
        rule = LOCAL_ONLY if name == "rpt2" and spot.destination.kind == "local" else RPT_DIFFERS
        yield Finding(rule, spot.target, told, repair, name)
