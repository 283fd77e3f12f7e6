"""Rules on the number that a DMR route calls, and how."""

from collections.abc import Iterator

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.dmr import ID_DIGITS, talk_group_fault
from umbra_awl.core.findings.model import Finding, Repair, Rule, RuleSpot
from umbra_awl.core.modes.calls import convention_call, kept_for
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Call
from umbra_awl.core.plan.parts import DESTINATIONS

NO_CONTACT = Rule(
    "contact-missing",
    "stop",
    "No contact to call",
    "A DMR channel needs the number it calls. Without one the radio sends nothing that a network could carry.",
)
BAD_NUMBER = Rule(
    "number-out-of-range",
    "stop",
    "Not a number one can call",
    "Talk groups and IDs are 24-bit numbers with a few kept apart. A digit too many is the usual slip.",
)
WRONG_KIND = Rule(
    "wrong-call-kind",
    "warn",
    "Group and private call mixed up",
    "Whether an echo test or a disconnect is a private or a group call differs from network to network. The wrong kind "
    "is not answered.",
)
OFF_CONVENTION = Rule(
    "number-off-convention",
    "warn",
    "Not the number the network uses",
    "Echo test and disconnect have one number on each network. One digit off, and nobody answers.",
)
ID_AS_GROUP = Rule(
    "id-as-group",
    "warn",
    "Looks like a station called as a group",
    "Seven digits are most often one station's ID. Called as a talk group, that station does not hear it; a private call "
    "reaches it.",
)
PRIVATE_NUMBER = Rule(
    "private-number",
    "warn",
    "Not a station's ID",
    "A private call goes to one station, whose ID has seven digits. Fewer are a digit missing, or a talk group called as if it "
    "were a station; nobody hears either.",
)
KEPT_NUMBER = Rule(
    "number-kept",
    "stop",
    "Number that the network keeps",
    "Echo test and disconnect have a number each on a network. A talk group or a station with that number is never reached: the "
    "network takes the call for its own.",
)
OUT_OF_DIAL = Rule(
    "dial-out-of-range",
    "stop",
    "Not a number one can dial",
    "Dialled reflectors have a range of numbers on their network. Outside it nothing is linked.",
)


def check_call(index: PlanIndex, spot: RuleSpot, call: Call | None) -> Iterator[Finding]:
    """All findings on the call of a route."""
    destination, network = spot.destination, spot.network
    if call is None:
        text = f"{destination.name} has no number, and {network.name if network else 'no network'} gives none for it."
        yield Finding(NO_CONTACT, spot.target, text)
        return
    fault = talk_group_fault(call.number)
    if fault:
        yield Finding(BAD_NUMBER, spot.target, f"{destination.name}: {fault}")
    if (kept := kept_for(index, spot.service, destination, call.number)) and network:
        text = (
            f"{network.name} keeps {call.number} for {kept.removeprefix('to ')}; {destination.name} has another number."
        )
        yield Finding(KEPT_NUMBER, spot.target, text)
    yield from _check_convention(spot)
    yield from _check_dialled(spot)
    yield from _check_private(spot, call)
    if destination.kind == "group" and call.kind == "group" and len(str(destination.number)) == ID_DIGITS:
        text = f"{destination.name} has seven digits and is called as a talk group."
        edit = set_fields(DESTINATIONS, destination.key, f"Call {destination.name} privately", kind="private")
        yield Finding(ID_AS_GROUP, spot.target, text, Repair("Make it a private call", edit))


def _check_convention(spot: RuleSpot) -> Iterator[Finding]:
    destination, network = spot.destination, spot.network
    usual = convention_call(destination, network)
    if usual is None or network is None or destination.number is None or destination.kind in {"private", "dial"}:
        return
    if usual.number != destination.number and not talk_group_fault(usual.number):
        text = f"{destination.name} is {usual.number} on {network.name}; the plan calls {destination.number}."
        label = f"Call {usual.number}"
        edit = set_fields(
            DESTINATIONS, destination.key, f"{label}: {destination.name}", number=usual.number, call=usual.kind
        )
        yield Finding(OFF_CONVENTION, spot.target, text, Repair(label, edit))
    elif usual.number == destination.number and usual.kind != destination.call:
        text = f"{usual.number} is a {usual.kind} call on {network.name}; the plan makes a {destination.call} call."
        label = f"Make it a {usual.kind} call"
        edit = set_fields(DESTINATIONS, destination.key, f"{label}: {destination.name}", call=usual.kind)
        yield Finding(WRONG_KIND, spot.target, text, Repair(label, edit))


def _check_private(spot: RuleSpot, call: Call) -> Iterator[Finding]:
    """A private call to a number that is no station's."""
    destination, network = spot.destination, spot.network
    usual = {item.number for item in (network.echo, network.disconnect) if item is not None} if network else set()
    number = destination.number
    if call.kind != "private" or number is None or destination.kind not in {"private", "group"} or number in usual:
        return
    digits = len(str(number))
    if digits >= ID_DIGITS:
        return
    repair = None
    if destination.kind == "group":
        edit = set_fields(DESTINATIONS, destination.key, f"Call {destination.name} as a group", call="group")
        repair = Repair("Make it a group call", edit)
    text = f"{destination.name} is {number}, of {counted(digits, 'digit')}, and called privately."
    yield Finding(PRIVATE_NUMBER, spot.target, text, repair)


def _check_dialled(spot: RuleSpot) -> Iterator[Finding]:
    number, network = spot.destination.number, spot.network
    if spot.destination.kind != "dial" or number is None or network is None or network.dial_low is None:
        return
    high = network.dial_high if network.dial_high is not None else network.dial_low
    if not network.dial_low <= number <= high:
        text = f"{spot.destination.name} is {number}; {network.name} dials {network.dial_low} to {high}."
        yield Finding(OUT_OF_DIAL, spot.target, text)
