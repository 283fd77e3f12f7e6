"""Rules on System Fusion: ways to send, DG-IDs, rooms."""

from collections.abc import Iterator

from umbra_awl.core.facts.fusion import DIGITAL, HEARS_ALL, WAY_WORDS, dgid_fault, room_fault, shown_dgid
from umbra_awl.core.findings.model import Finding, Repair, Rule, RuleSpot, Target
from umbra_awl.core.modes.fusion import mapped_dgid, takes_dgid, wanted_dgid
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, FusionAir, Service
from umbra_awl.core.routes.punch import set_route

BAD_DGID = Rule(
    "unknown-dg-id",
    "stop",
    "Not a DG-ID",
    "DG-IDs run from 00 to 99. Radios take no other.",
)
BAD_WAY = Rule(
    "unknown-way",
    "stop",
    "Not a way to send",
    "System Fusion sends in DN, VW or FM, or chooses by itself (AMS). A digital access point needs a digital way.",
)
DGID_DIFFERS = Rule(
    "dg-id-differs",
    "warn",
    "Another DG-ID than the access point wants",
    "A repeater or hotspot may demand a particular transmit DG-ID and may map DG-IDs to rooms. With another one it stays "
    "closed, or leads elsewhere.",
)
DGID_DEAF = Rule(
    "dg-id-on-receive",
    "warn",
    "Waits for one DG-ID only",
    "A receive DG-ID other than 00 keeps the speaker shut for everybody who sends another one. 00 hears them all.",
)
WAY_DIFFERS = Rule(
    "way-differs",
    "warn",
    "Would answer in the wrong way",
    "On digital-only access a forced digital mode is safer: with automatic mode select or FM, a radio may answer in a way "
    "that the access point does not take.",
)
BAD_ROOM = Rule(
    "room-number",
    "warn",
    "Room without a usable number",
    "One connects to a room by typing its number.",
)


def check_fusion_service(_index: PlanIndex, access: AccessPoint, service: Service, air: FusionAir) -> Iterator[Finding]:
    """All findings of a System Fusion service that its frequencies do not tell."""
    target, where = Target("service", service.key), access.by_call
    numbers = [
        ("dgid_tx", air.dgid_tx),
        ("dgid_rx", air.dgid_rx),
        *((f"map {item.destination}", item.dgid) for item in air.mapped),
    ]
    for part, number in numbers:
        fault = dgid_fault(number)
        if fault:
            repair = None
            if part in {"dgid_tx", "dgid_rx"}:
                repair = Repair("Use 00", set_air(service.key, f"Use DG-ID 00 on {where}", **{part: HEARS_ALL}))
            yield Finding(BAD_DGID, target, f"{where}: {fault}", repair, part)
    if not air.ways or not DIGITAL.issuperset(air.ways):
        text = f"{where} lists {', '.join(air.ways) or 'no way to send'}; the digital ways are DN and VW."
        yield Finding(BAD_WAY, target, text, Repair("Use DN", set_air(service.key, f"Use DN on {where}", ways=("DN",))))


def check_fusion_route(index: PlanIndex, spot: RuleSpot, air: FusionAir) -> Iterator[Finding]:
    """All findings of a route through System Fusion."""
    route, target = spot.route, spot.target
    fault = room_fault(spot.destination.number) if spot.destination.kind == "room" and _by_number(spot, air) else ""
    if fault:
        yield Finding(BAD_ROOM, target, f"{spot.destination.name}: {fault}")
    yield from _check_dgids(index, spot, air)
    if route.way is None:
        return
    reset = set_route(index, route.key, "Send as the access point takes it", way=None)
    repair = Repair("Send as it takes it", reset)
    if route.way not in WAY_WORDS:
        yield Finding(BAD_WAY, target, f"“{route.way}” is not a way to send: DN, VW, FM or AMS.", repair)
    elif not air.auto_mode and route.way not in air.ways:
        text = f"{spot.where} takes {' and '.join(air.ways)} only; the channel sends {WAY_WORDS[route.way]}."
        yield Finding(WAY_DIFFERS, target, text, repair)


def _by_number(spot: RuleSpot, air: FusionAir) -> bool:
    return mapped_dgid(air, spot.destination) is None


def _check_dgids(index: PlanIndex, spot: RuleSpot, air: FusionAir) -> Iterator[Finding]:
    route = spot.route
    mapped, wanted = mapped_dgid(air, spot.destination), wanted_dgid(air, spot.destination)
    if route.dgid_tx is not None and not takes_dgid(air, spot.destination, route.dgid_tx):
        text = f"The channel sends DG-ID {shown_dgid(route.dgid_tx)}; {spot.where} wants {shown_dgid(wanted)}"
        text += f" for {spot.destination.name}." if mapped is not None else "."
        edit = set_route(index, route.key, f"Send DG-ID {shown_dgid(wanted)}", dgid_tx=None)
        yield Finding(DGID_DIFFERS, spot.target, text, Repair(f"Send DG-ID {shown_dgid(wanted)}", edit))
    if route.dgid_rx is not None and route.dgid_rx not in {HEARS_ALL, air.dgid_rx}:
        text = f"The channel opens for DG-ID {shown_dgid(route.dgid_rx)} only."
        edit = set_route(index, route.key, "Hear as the access point sends", dgid_rx=None)
        yield Finding(DGID_DEAF, spot.target, text, Repair("Hear as it sends", edit))
