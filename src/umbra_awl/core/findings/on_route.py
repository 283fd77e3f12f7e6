"""Rules on one route: the crossing is possible, and what the channel holds agrees with its access point."""

from collections.abc import Callable, Iterator
from typing import Any

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.dmr import COLOR_CODES
from umbra_awl.core.facts.modes import MODE_WORDS, ByMode, by_mode
from umbra_awl.core.facts.tones import is_tone
from umbra_awl.core.facts.width import width_word
from umbra_awl.core.findings.guarded import each_guarded
from umbra_awl.core.findings.model import Finding, Repair, Rule, RuleSpot
from umbra_awl.core.findings.on_call import check_call
from umbra_awl.core.findings.on_dmr import BAD_COLOR
from umbra_awl.core.findings.on_dstar import check_dstar_route
from umbra_awl.core.findings.on_fusion import check_fusion_route
from umbra_awl.core.findings.on_hotspot import own_admit
from umbra_awl.core.findings.on_service import OVER_EDGE, tone_finding
from umbra_awl.core.modes.calls import call_through, network_reached
from umbra_awl.core.modes.table import sent_by
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Air, Call, DmrAir, FmAir, Route
from umbra_awl.core.plan.permit import band_permit
from umbra_awl.core.plan.places import is_pair, place_word
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.core.routes.punch import fill, set_route

NOT_POSSIBLE = Rule(
    "no-such-crossing",
    "stop",
    "This crossing leads nowhere",
    "The service does not carry this destination: it is on another network, or in another mode. Nobody would hear it.",
)
WRONG_SLOT = Rule(
    "slot-not-used",
    "stop",
    "Slot not used here",
    "A repeater carries two conversations, one on each time slot; a simplex hotspot uses one. On another slot nobody answers.",
)
OTHER_SLOT = Rule(
    "static-on-other-slot",
    "warn",
    "Carried on the other slot",
    "A talk group that a repeater always carries is carried on one slot. Keyed up on the other it occupies both.",
)
COLOR_DIFFERS = Rule(
    "color-code-differs",
    "warn",
    "Another color code than the access point",
    "A copied channel keeps the color code of where it came from. With a wrong color code the repeater neither hears you "
    "nor opens your speaker.",
)
TONE_DIFFERS = Rule(
    "tone-differs",
    "warn",
    "Another tone than the access point",
    "The transmit tone opens the repeater. With another tone it stays closed.",
)
RECEIVE_TONE = Rule(
    "tone-on-receive",
    "warn",
    "Waits for a tone that is not sent",
    "A receive tone only mutes your own receiver. On a repeater that sends none back, the channel stays silent.",
)
WIDTH_DIFFERS = Rule(
    "width-differs",
    "warn",
    "Wide and narrow do not match",
    "A wide transmission on a narrow channel splashes into its neighbours and sounds clipped; the other way it is faint.",
)
ENCRYPTED = Rule(
    "encryption-on",
    "stop",
    "Encryption is on",
    "Amateur stations do not obscure the meaning of what they send. Switched on by accident, nobody understands you.",
    safety=True,
)
FOREIGN = Rule(
    "other-modes-settings",
    "warn",
    "Settings of another mode",
    "Digital settings on an FM channel, or a tone on a digital one, are left over from copying. They do nothing here and mislead "
    "whoever looks.",
)
DEAF = Rule(
    "group-list-lacks-own",
    "warn",
    "Would call and not hear the answer",
    "The receive group list names the talk groups that open the speaker. Without the channel's own one, the display shows "
    "a call and the radio stays silent.",
)


def spot_of(index: PlanIndex, route: Route) -> RuleSpot:
    """The route's surroundings."""
    access, service = index.services[route.service]
    destination = index.destinations[route.destination]
    return RuleSpot(route, access, service, destination, network_reached(index, service, destination))


def check_route(index: PlanIndex, spot: RuleSpot) -> Iterator[Finding]:
    """All findings of one route; where the crossing is not possible, only that."""
    impossible = tuple(each_guarded((_check_crossing,), spot.target, index, spot))
    if impossible:
        yield from impossible
    else:
        yield from each_guarded(_CHECKS[spot.service.mode], spot.target, index, spot, spot.service.air)


def _check_crossing(index: PlanIndex, spot: RuleSpot) -> Iterator[Finding]:
    verdict = crossing(index, spot.access, spot.service, spot.destination)
    if not verdict.possible:
        yield Finding(NOT_POSSIBLE, spot.target, verdict.reason, Repair("Remove the route", fill(index, [spot.route])))


def _check_sent(index: PlanIndex, spot: RuleSpot, _air: Air) -> Iterator[Finding]:
    """What the channel sends where it is wider than its access point's own; the rest is told at the service."""
    sent = sent_by(spot.service, spot.route)
    quiet = spot.route.receive_only or spot.access.kind == "receive"
    if quiet or sent == sent_by(spot.service):
        return
    permit = band_permit(index.plan.station, sent)
    if permit.kind == "edge":
        listen = set_route(index, spot.route.key, f"Only listen to {spot.where}", receive_only=True)
        yield Finding(OVER_EDGE, spot.target, permit.reason, Repair("Only listen", listen))


def _check_slot(index: PlanIndex, spot: RuleSpot, _air: Air) -> Iterator[Finding]:
    slots = crossing(index, spot.access, spot.service, spot.destination).slots
    if spot.route.slot not in slots:
        yield _slot_finding(index, spot, slots)


_OWN_OF: ByMode[tuple[str, ...]] = {
    "fm": ("tone_tx", "tone_rx", "width_hz"),
    "dmr": ("promiscuous", "encrypted", "hears", "color_code"),
    "dstar": ("ur", "rpt1", "rpt2"),
    "fusion": ("way", "dgid_tx", "dgid_rx"),
}
_UNSET = Route("", "")
_SAID = {
    "tone_tx": "a tone",
    "tone_rx": "a receive tone",
    "width_hz": "a width",
    "hears": "a receive group list",
    "color_code": "a color code",
    "promiscuous": "promiscuous",
    "encrypted": "encryption",
    "ur": "UR",
    "rpt1": "RPT1",
    "rpt2": "RPT2",
    "way": "a way to send",
    "dgid_tx": "a DG-ID",
    "dgid_rx": "a receive DG-ID",
}


def _check_foreign(index: PlanIndex, spot: RuleSpot, _air: Air) -> Iterator[Finding]:
    """Settings that only another mode has."""
    route = spot.route
    held = {
        field: getattr(_UNSET, field)
        for mode, fields in by_mode(_OWN_OF)
        if mode != spot.service.mode
        for field in fields
        if getattr(route, field) != getattr(_UNSET, field)
    }
    if held:
        said = ", ".join(_SAID[field] for field in held)
        text = f"The channel is {MODE_WORDS[spot.service.mode]} and holds {said}."
        edit = set_route(index, route.key, "Take other modes' settings off", **held)
        yield Finding(FOREIGN, spot.target, text, Repair("Take them off", edit))


def _slot_finding(index: PlanIndex, spot: RuleSpot, slots: tuple[int, ...]) -> Finding:
    usable = " and ".join(map(str, slots))
    text = f"{spot.where} uses {'slot ' + usable if any(slots) else 'no slots'}; the route has slot {spot.route.slot}."
    pair = is_pair(spot.service, spot.destination)
    if pair:
        text = f"{spot.destination.name} takes a memory that links and one that talks; this one is neither."
    taken = {route.slot for route in index.by_crossing[spot.route.service, spot.route.destination]}
    free = next((slot for slot in slots if slot not in taken), None)
    if free is None:
        return Finding(WRONG_SLOT, spot.target, text, Repair("Remove the route", fill(index, [spot.route])))
    label = f"Move to slot {free}" if free else "Take the slot away"
    if pair:
        label = f"Make it the memory that {place_word(spot.service, spot.destination, free)}s"
    return Finding(WRONG_SLOT, spot.target, text, Repair(label, set_route(index, spot.route.key, label, slot=free)))


def _check_fm(index: PlanIndex, spot: RuleSpot, air: FmAir) -> Iterator[Finding]:
    route = spot.route
    for field in ("tone_tx", "tone_rx"):
        tone = getattr(route, field)
        if tone and not is_tone(tone):
            lead = f"The channel has the tone “{tone}”."
            yield tone_finding(
                spot.target, tone, lead, lambda good, f=field: _own(index, spot, f"Take {good} Hz", {f: good}), field
            )
    if route.tone_tx is not None and is_tone(route.tone_tx) and route.tone_tx != air.tone_tx:
        text = f"The channel sends {_tone_words(route.tone_tx)}; {spot.where} wants {_tone_words(air.tone_tx)}."
        yield Finding(TONE_DIFFERS, spot.target, text, _as_access(index, spot, "Take its tone", "tone_tx"))
    if route.tone_rx and is_tone(route.tone_rx) and route.tone_rx != air.tone_rx:
        text = f"The channel waits for {_tone_words(route.tone_rx)}; {spot.where} sends {_tone_words(air.tone_rx)}."
        yield Finding(RECEIVE_TONE, spot.target, text, _as_access(index, spot, "Hear without a tone", "tone_rx"))
    if route.width_hz is not None and route.width_hz != air.width_hz:
        text = f"The channel is {width_word(route.width_hz)}, {spot.where} is {width_word(air.width_hz)}."
        yield Finding(
            WIDTH_DIFFERS, spot.target, text, _as_access(index, spot, f"Make it {width_word(air.width_hz)}", "width_hz")
        )


def _tone_words(tone: str) -> str:
    return f"{tone} Hz" if tone[:1].isdigit() else tone or "no tone"


def _own(index: PlanIndex, spot: RuleSpot, sentence: str, fields: dict[str, str]) -> object:
    return set_route(index, spot.route.key, sentence, **fields)


def _as_access(index: PlanIndex, spot: RuleSpot, label: str, field: str) -> Repair:
    return Repair(label, set_route(index, spot.route.key, label, **{field: None}))


def _check_color(index: PlanIndex, spot: RuleSpot, air: DmrAir) -> Iterator[Finding]:
    route = spot.route
    if route.color_code not in {None, air.color_code}:
        rule = COLOR_DIFFERS if route.color_code in COLOR_CODES else BAD_COLOR
        text = f"The channel has color code {route.color_code}; {spot.where} has {air.color_code}."
        yield Finding(
            rule, spot.target, text, _as_access(index, spot, f"Use color code {air.color_code}", "color_code")
        )


def _check_encrypted(index: PlanIndex, spot: RuleSpot, _air: DmrAir) -> Iterator[Finding]:
    route = spot.route
    if route.encrypted:
        text = "The channel would send encrypted."
        off = Repair("Switch it off", set_route(index, route.key, "Switch encryption off", encrypted=False))
        yield Finding(ENCRYPTED, spot.target, text, off)


def _check_called(index: PlanIndex, spot: RuleSpot, _air: DmrAir) -> Iterator[Finding]:
    call = call_through(index, spot.service, spot.destination)
    yield from check_call(index, spot, call)
    if call is not None and call.kind == "group":
        yield from _check_hears(index, spot, call)


def _check_admit(index: PlanIndex, spot: RuleSpot, _air: DmrAir) -> Iterator[Finding]:
    yield from own_admit(index, spot.access, spot.service, spot.route)


def _check_static(index: PlanIndex, spot: RuleSpot, air: DmrAir) -> Iterator[Finding]:
    carried = [static.slot for static in air.static if static.destination == spot.destination.key]
    if not carried or spot.route.slot in carried:
        return
    text = f"{spot.where} always carries {spot.destination.name} on slot {carried[0]}; the route has slot {spot.route.slot}."
    taken = {route.slot for route in index.by_crossing[spot.route.service, spot.route.destination]}
    repair = None
    if carried[0] not in taken and carried[0] in air.slots:
        label = f"Move to slot {carried[0]}"
        repair = Repair(label, set_route(index, spot.route.key, label, slot=carried[0]))
    yield Finding(OTHER_SLOT, spot.target, text, repair)


def _check_hears(index: PlanIndex, spot: RuleSpot, call: Call) -> Iterator[Finding]:
    route = spot.route
    if route.hears is None or route.promiscuous:
        return
    there = index.destinations
    heard = [call_through(index, spot.service, there[key]) for key in route.hears if key in there]
    if any(item is not None and item.number == call.number for item in heard):
        return
    text = f"The receive group list has {counted(len(heard), 'talk group')}, and not {call.number}."
    label = f"Add {call.number} to the list"
    edit = set_route(index, route.key, label, hears=(spot.destination.key, *route.hears))
    yield Finding(DEAF, spot.target, text, Repair(label, edit))


_Check = Callable[[PlanIndex, RuleSpot, Any], Iterator[Finding]]
_CHECKS: ByMode[tuple[_Check, ...]] = {
    "fm": (_check_slot, _check_sent, _check_fm, _check_foreign),
    "dmr": (_check_slot, _check_color, _check_encrypted, _check_admit, _check_static, _check_called, _check_foreign),
    "dstar": (_check_slot, check_dstar_route, _check_foreign),
    "fusion": (_check_slot, _check_sent, check_fusion_route, _check_foreign),
}
