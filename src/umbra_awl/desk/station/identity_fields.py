"""Who a radio is programmed for: call sign, IDs with their hotspot suffixes, the fields of the other modes."""

from collections.abc import Callable
from functools import partial

from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.facts.dmr import mask_id, radio_id_fault
from umbra_awl.core.facts.dstar import field_fault, note_fault, padded
from umbra_awl.core.plan.edit.edit_station import (
    own_licence,
    remove_identity,
    set_call,
    set_identity,
    set_ids,
    whose_licence,
)
from umbra_awl.core.plan.model import Identity, RadioId
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Act, Choice, Field

_ID_TIP = "Seven digits, given by a registry; the country's three come first. An empty value takes it away."
_LONGEST_TEXT = 32


def identity_fields(bench: Workbench, identity: Identity) -> list[Field]:
    """Everything one person or club is known by; IDs masked unless they are to be shown."""
    first = identity is bench.plan.station.identities[0]
    fields = [
        Field("Call sign", identity.call, True, commit=_call(bench, identity), text=identity.call),
        Field("Name", identity.name, commit=_text(bench, identity, "name", "name"), text=identity.name),
        *_id_fields(bench, identity),
        _dstar_field(bench, identity),
        Field(
            "D-STAR note",
            identity.dstar_note or "none",
            True,
            commit=_note(bench, identity),
            text=identity.dstar_note,
            tip="Four characters behind your call sign, for example HAND",
        ),
        Field(
            "Fusion name",
            identity.fusion_name or "the call sign",
            True,
            commit=_text(bench, identity, "fusion_name", "Fusion name"),
            text=identity.fusion_name,
            tip="What other radios show of you",
        ),
        Field(
            "Talker alias",
            identity.alias or "none",
            commit=_text(bench, identity, "alias", "talker alias"),
            text=identity.alias,
            tip="What a DMR radio sends along while you talk; cut to what the radio takes",
        ),
        Field(
            "Start-up",
            identity.startup or "none",
            commit=_text(bench, identity, "startup", "start-up text"),
            text=identity.startup,
            tip="What the radio shows when it is switched on",
        ),
    ]
    if not first:
        shared = not whose_licence(bench.plan, identity.key)
        choices = [
            Choice("a licence of their own", partial(bench.do, own_licence(identity.key, True)), not shared),
            Choice("the owner's licence", partial(bench.do, own_licence(identity.key, False)), shared),
        ]
        tip = "Whose licence lets their radios transmit. Until a licence of their own is granted, they only listen"
        shown = "the owner's licence" if shared else "a licence of their own"
        fields.append(Field("Transmits by", shown, choices=choices, tip=tip))
    return fields


def identity_acts(bench: Workbench, identity: Identity) -> list[Act]:
    """Add an ID; remove somebody who is not the owner."""
    acts = [Act("Add an ID", partial(add_id, bench, identity))] if identity.ids else []
    if identity is not bench.plan.station.identities[0]:
        acts.append(
            Act(
                "Remove",
                partial(
                    bench.do_told,
                    remove_identity(identity.key, identity.name or identity.call),
                    "Call sign, IDs and licence went along.",
                ),
            )
        )
    return acts


def add_id(bench: Workbench, identity: Identity) -> None:
    """Add a second hotspot's ID: the first one with the next free suffix."""
    taken = {item.suffix for item in identity.ids}
    suffix = next(f"{number:02d}" for number in range(1, 100) if f"{number:02d}" not in taken)
    bench.do(set_ids(identity.key, (*identity.ids, RadioId(identity.ids[0].number, "hotspot", suffix))))


def _id_fields(bench: Workbench, identity: Identity) -> list[Field]:
    fields: list[Field] = []
    for at, item in enumerate(identity.ids):
        number = str(item.number) if bench.ids_shown else mask_id(item.number)
        suffix = f" {item.suffix}" if item.suffix else ""
        tone = "stop" if radio_id_fault(item.number) else ""
        text = f"{item.number}{suffix} {item.label}".strip() if bench.ids_shown else ""
        label = "DMR ID" if at == 0 else f"DMR ID {at + 1}"
        shown = f"{number}{suffix}  {item.label}".rstrip()
        tip = f"{_ID_TIP} Behind it a suffix of two digits for a second hotspot, and what it is for."
        fields.append(Field(label, shown, True, tone, _id(bench, identity, at), text=text, tip=tip))
    if not identity.ids:
        fields.append(Field("DMR ID", "none yet", True, commit=_id(bench, identity, 0), text="", tip=_ID_TIP))
    return fields


def _dstar_field(bench: Workbench, identity: Identity) -> Field:
    """The eight characters, spaces shown."""
    text = identity.dstar_call or identity.call
    shown = padded(text).replace(" ", "·") if text else "none yet"
    tip = "Eight characters, spaces shown as dots. Usually the call sign; an empty value makes it that."
    return Field(
        "D-STAR",
        f"{shown} /{identity.dstar_note.ljust(4).replace(' ', '·')}",
        True,
        commit=_dstar(bench, identity),
        text=text,
        tip=tip,
    )


def parse_id(text: str) -> RadioId:
    """An ID with its suffix and label: “9994217”, “9994217 02 travel hotspot”, “999421702”. Raises ValueError with a sentence."""
    words = text.replace("-", " ").split()
    digits = words.pop(0) if words else ""
    if not digits.isascii() or not digits.isdigit() or len(digits) > 9:
        raise ValueError("An ID has digits only, seven of them, and perhaps a suffix of two.")
    number, suffix = (digits[:7], digits[7:]) if len(digits) == 9 else (digits, "")
    fault = radio_id_fault(int(number))
    if fault:
        raise ValueError(fault)
    if not suffix and words and words[0].isdecimal() and len(words[0]) == 2:
        suffix = words.pop(0)
    return RadioId(int(number), " ".join(words), suffix)


def _id(bench: Workbench, identity: Identity, at: int) -> Callable[[str], str]:
    def commit(text: str) -> str:
        ids = list(identity.ids)
        if not text:
            bench.do(set_ids(identity.key, tuple(ids[:at] + ids[at + 1 :])))
            return ""
        try:
            made = parse_id(text)
        except ValueError as error:
            return str(error)
        if at < len(ids) and not made.label and not made.suffix:
            made = RadioId(made.number, ids[at].label, ids[at].suffix)
        ids[at : at + 1] = [made]
        if len({item.full for item in ids}) < len(ids):
            return "That ID with that suffix is there already. Two stations with one ID disturb each other."
        bench.do(set_ids(identity.key, tuple(ids)))
        return ""

    return commit


def _call(bench: Workbench, identity: Identity) -> Callable[[str], str]:
    def commit(text: str) -> str:
        call = tidy_call_sign(text)
        fault = call_sign_fault(call) if call else ""
        if not fault:
            bench.do(set_call(identity.key, call))
        return fault

    return commit


def _text(bench: Workbench, identity: Identity, field: str, word: str) -> Callable[[str], str]:
    def commit(text: str) -> str:
        if len(text) > _LONGEST_TEXT:
            return f"That has {len(text)} characters; {_LONGEST_TEXT} are enough for any display."
        bench.do(set_identity(identity.key, f"Set the {word} to {text or 'none'}", **{field: text}))
        return ""

    return commit


def _note(bench: Workbench, identity: Identity) -> Callable[[str], str]:
    def commit(text: str) -> str:
        note = text.upper()
        fault = note_fault(note)
        if not fault:
            bench.do(set_identity(identity.key, f"Set the D-STAR note to {note or 'none'}", dstar_note=note))
        return fault

    return commit


def _dstar(bench: Workbench, identity: Identity) -> Callable[[str], str]:
    def commit(text: str) -> str:
        field = text.upper().replace("·", " ").rstrip()
        fault = field_fault(field) if field else ""
        if not fault:
            kept = "" if field == identity.call else field
            bench.do(set_identity(identity.key, f"Set the D-STAR field to {kept or 'the call sign'}", dstar_call=kept))
        return fault

    return commit
