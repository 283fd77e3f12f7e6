"""What the inspector says of a selected destination: fields with their edits."""

from collections.abc import Callable
from functools import partial

from umbra_awl.core.agenda.trips import zone_fault, zone_typed, zone_words
from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.facts.dmr import talk_group_fault
from umbra_awl.core.facts.dstar import module_fault, target_of
from umbra_awl.core.facts.fusion import room_fault
from umbra_awl.core.modes.calls import called
from umbra_awl.core.modes.table import KIND_WORDS
from umbra_awl.core.plan.edit.edits import Edit, set_fields
from umbra_awl.core.plan.model import Destination
from umbra_awl.core.plan.parts import DESTINATIONS
from umbra_awl.core.plan.privacy import is_person
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Choice, Field
from umbra_awl.desk.parts.cards.text_fields import text_field

_HERE = frozenset({"local", "echo", "disconnect", "info", "dial"})
TARGETS = frozenset({"reflector", "direct", "repeater"})


def destination_fields(bench: Workbench, destination: Destination) -> list[Field]:
    """The fields of a destination."""
    network = bench.index.networks.get(destination.network)
    fields = [
        text_field(bench, DESTINATIONS, destination.key, "Name", "name", destination.name),
        Field("Kind", KIND_WORDS[destination.kind]),
        Field("Network", network.name if network else "none: whoever listens there"),
    ]
    if destination.kind in TARGETS or destination.kind == "station":
        label = "Call sign" if destination.kind == "station" else "Module"
        commit = _target(bench, destination)
        fields.append(Field(label, destination.text or "none", True, commit=commit, text=destination.text))
    elif destination.kind == "room":
        number = str(destination.number or "")
        fields.append(Field("Number", number or "none", True, commit=_room(bench, destination), text=number))
    elif network is None or network.mode == "dmr":
        fields += _dmr_fields(bench, destination)
    if is_person(destination):
        fields.append(_radio(bench, destination))
    if destination.kind not in _HERE:
        shown = zone_words(destination.time_zone) or "everywhere, or not known"
        fields.append(
            Field("Time zone", shown, True, commit=_zone(bench, destination), text=zone_words(destination.time_zone))
        )
    return fields


def _radio(bench: Workbench, destination: Destination) -> Field:
    """Which radio somebody has: a profile that is known, or as they call it."""
    profiles = bench.profiles
    known = next(
        (item.name for key, item in profiles.items() if destination.radio in {key, item.name}), destination.radio
    )

    def commit(text: str) -> str:
        words = f"Say that {destination.name} has a {text}" if text else f"Forget which radio {destination.name} has"
        bench.do(set_fields(DESTINATIONS, destination.key, words, radio=text))
        return ""

    names = [item.name for item in profiles.values()]
    tip = f"Data features meet among alike radios only. Known here: {', '.join(names)}"
    return Field("Their radio", known or "not known", True, commit=commit, text=known, tip=tip)


def _zone(bench: Workbench, destination: Destination) -> Callable[[str], str]:
    def commit(text: str) -> str:
        wanted = zone_typed(text)
        fault = zone_fault(wanted) if wanted else ""
        if not fault:
            words = f"Say that {destination.name} is in {zone_words(wanted) or 'no time zone of its own'}"
            bench.do(set_fields(DESTINATIONS, destination.key, words, time_zone=wanted))
        return fault

    return commit


def _dmr_fields(bench: Workbench, destination: Destination) -> list[Field]:
    call = called(destination, bench.index.networks.get(destination.network))
    number = str(call.number) if call else ""
    kinds = [
        Choice(f"{kind} call", partial(bench.do, _call_kind(destination, kind)), bool(call and call.kind == kind))
        for kind in ("group", "private")
    ]
    return [
        Field("Number", number or "none", True, commit=_number(bench, destination), text=number),
        Field("Called as", f"{call.kind} call" if call else "–", choices=kinds),
    ]


def _call_kind(destination: Destination, kind: str) -> Edit:
    return set_fields(DESTINATIONS, destination.key, f"Make {destination.name} a {kind} call", call=kind)


def target_fault(kind: str, text: str) -> str:
    """Why a text cannot be the target of a D-STAR destination; empty when it can."""
    if kind == "station":
        return call_sign_fault(text)
    call, module = target_of(text)
    if not call:
        return f"“{text}” is not a call with its module. Write it as VLR001 C or Q0SIG B."
    return "" if kind == "reflector" else module_fault(module)


def tidy_target(kind: str, text: str) -> str:
    """A target as the plan keeps it: capitals, one blank before the module."""
    if kind == "station":
        return tidy_call_sign(text)
    call, module = target_of(text)
    return f"{call} {module}" if call else text.strip().upper()


def _target(bench: Workbench, destination: Destination) -> Callable[[str], str]:
    def commit(text: str) -> str:
        wanted = tidy_target(destination.kind, text)
        fault = target_fault(destination.kind, wanted)
        if not fault:
            bench.do(set_fields(DESTINATIONS, destination.key, f"Lead {destination.name} to {wanted}", text=wanted))
        return fault

    return commit


def _room(bench: Workbench, destination: Destination) -> Callable[[str], str]:
    def commit(text: str) -> str:
        number = int(text) if text.isascii() and text.isdigit() else None
        fault = room_fault(number)
        if not fault:
            bench.do(set_fields(DESTINATIONS, destination.key, f"Make {destination.name} room {text}", number=number))
        return fault

    return commit


def _number(bench: Workbench, destination: Destination) -> Callable[[str], str]:
    def commit(text: str) -> str:
        if not text.isascii() or not text.isdigit():
            return f"“{text}” is not a number. Type digits only, for example 99900."
        fault = talk_group_fault(int(text))
        if fault:
            return fault
        bench.do(
            set_fields(
                DESTINATIONS, destination.key, f"Set the number of {destination.name} to {text}", number=int(text)
            )
        )
        return ""

    return commit
