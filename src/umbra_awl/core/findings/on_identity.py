"""Rules on what names a person to networks: MY and its note, IDs shared or with a malformed suffix."""

from collections.abc import Iterator

from msgspec.structs import replace

from umbra_awl.core.facts.callsign import base_call, call_sign_fault
from umbra_awl.core.facts.dmr import mask_id
from umbra_awl.core.facts.dstar import note_fault
from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.plan.edit.edit_station import set_identity, set_ids
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Identity

OTHER_MY = Rule(
    "my-differs",
    "warn",
    "MY is not the call sign",
    "A gateway knows you by the call sign that was registered. Under another one it passes nothing on, or names somebody else.",
)
BAD_NOTE = Rule(
    "my-note",
    "warn",
    "Note behind MY is malformed",
    "The note behind one's own call sign has at most four capitals or digits. A longer one is cut by the radio.",
)
SHARED_ID = Rule(
    "id-shared",
    "warn",
    "Two people with one ID",
    "Two stations with one ID disturb each other: networks send what is for the one to the other. Each has an ID of their own.",
)
BAD_SUFFIX = Rule(
    "id-suffix",
    "warn",
    "Suffix is not two digits",
    "A second hotspot logs in with the seven digits of the ID and two more. With one digit or three it is another ID.",
)


def check_identity_fields(identity: Identity) -> Iterator[Finding]:
    """All findings on one identity's MY, note and suffixes."""
    target = Target("identity", identity.key)
    own = identity.dstar_call.strip()
    if own and own != base_call(identity.call) and not call_sign_fault(identity.call):
        edit = set_identity(identity.key, f"Send {identity.call} as MY", dstar_call="")
        text = f"MY is {own}, the call sign {identity.call}."
        yield Finding(OTHER_MY, target, text, Repair(f"Send {identity.call}", edit))
    fault = note_fault(identity.dstar_note) if identity.dstar_note else ""
    if fault:
        edit = set_identity(identity.key, "Take the note off", dstar_note="")
        yield Finding(BAD_NOTE, target, fault, Repair("Take the note off", edit))
    for at, item in enumerate(identity.ids):
        if item.suffix and not (len(item.suffix) == 2 and item.suffix.isdigit()):
            good = item.suffix.zfill(2) if item.suffix.isdigit() and len(item.suffix) == 1 else ""
            ids = (*identity.ids[:at], replace(item, suffix=good), *identity.ids[at + 1 :])
            repair = Repair(f"Make it {good}", set_ids(identity.key, ids)) if good else None
            text = f"{mask_id(item.number)} has the suffix “{item.suffix}”; it takes two digits."
            yield Finding(BAD_SUFFIX, target, text, repair, str(at))


def check_shared_ids(index: PlanIndex) -> Iterator[Finding]:
    """IDs that two people of a plan have."""
    first: dict[tuple[int, str], Identity] = {}
    for identity in index.plan.station.identities:
        for item in identity.ids:
            earlier = first.setdefault((item.number, item.suffix), identity)
            if earlier is not identity:
                names = [who.call or who.name or who.key for who in (earlier, identity)]
                text = f"{names[0]} and {names[1]} both have {mask_id(item.number)}."
                yield Finding(SHARED_ID, Target("identity", identity.key), text)
