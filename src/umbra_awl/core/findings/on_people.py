"""Rules on who transmits: call signs, IDs, the routing field MY, the guard."""

from collections.abc import Iterator, Mapping
from datetime import date

from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.facts.dmr import mask_id, radio_id_fault
from umbra_awl.core.facts.dstar import field_fault
from umbra_awl.core.findings.guarded import each_guarded
from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.findings.on_identity import check_identity_fields, check_shared_ids
from umbra_awl.core.plan.edit.edit_station import set_call, set_guard, set_identity, set_ids
from umbra_awl.core.plan.edit.edits import Edit, set_fields, together
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Hotspot, Identity, Licence, OwnedRadio, RadioId
from umbra_awl.core.plan.parts import HOTSPOTS, RADIOS
from umbra_awl.core.plan.permit import guard_permit
from umbra_awl.core.radio.profile import Profile

BAD_CALL = Rule(
    "call-sign",
    "warn",
    "Call sign missing or malformed",
    "Every transmission is identified by the call sign, and networks refuse a malformed one.",
)
BAD_ID = Rule(
    "dmr-id",
    "warn",
    "DMR ID missing or malformed",
    "Networks know you by your ID. With a digit missing you are nobody, or somebody else.",
)
BLANK_MY = Rule(
    "my-blank",
    "stop",
    "MY is blank or no field",
    "D-STAR sends your call sign in the field MY. With a blank one the header is useless: no gateway passes it on.",
)
SAME_HOTSPOT_ID = Rule(
    "hotspots-same-id",
    "warn",
    "Two hotspots log in with one ID",
    "A network takes the second login with the same ID for the first one moved. A second hotspot of the same owner uses the "
    "ID with a suffix of two digits.",
)
GUARD_ON = Rule(
    "guard-on",
    "note",
    "Everything is receive-only",
    "The receive-only guard keeps a radio from transmitting by accident. It stays on until the licence is granted; "
    "then it is yours to lift.",
)
GUARD_EARLY = Rule(
    "guard-lifted-early",
    "warn",
    "Guard lifted before the licence is granted",
    "Until the licence is granted everything is receive-only, whatever the guard says. Put it back on, so that it is a "
    "decision when the day comes.",
)

NOBODYS = Rule(
    "radio-of-nobody",
    "stop",
    "Programmed for nobody",
    "A radio transmits under the licence of whom it is programmed for. One whose owner is not in the plan only listens, until "
    "it is said whose it is.",
    safety=True,
)
BAD_DAY = Rule(
    "licence-date",
    "warn",
    "Date of the licence is none",
    "A licence counts from the day it is granted. From a date that is none it does not count at all, so everything stays "
    "receive-only.",
)


def check_people(index: PlanIndex, profiles: Mapping[str, Profile]) -> Iterator[Finding]:
    """All findings on identities, their licences and the IDs of hotspots."""
    for identity in index.plan.station.identities:
        target = Target("identity", identity.key)
        yield from each_guarded((_check_identity,), target, index, identity, profiles)
        yield from each_guarded((check_identity_fields,), target, identity)
    yield from each_guarded((check_shared_ids,), Target("licence", ""), index)
    checks = (_check_guards, _check_radios, _check_dates, _check_my, _check_hotspot_ids)
    yield from each_guarded(checks, Target("licence", ""), index, profiles)


def _check_guards(index: PlanIndex, _profiles: Mapping[str, Profile]) -> Iterator[Finding]:
    licence = index.owners.station.licence
    if not guard_permit(licence).allowed:
        yield Finding(GUARD_ON, Target("licence", ""), guard_permit(licence).reason)
    if _early(index.plan.station.licence):
        text = "The licence is not granted and the guard is off."
        yield Finding(GUARD_EARLY, Target("licence", ""), text, Repair("Put the guard on", set_guard(True)))
    for identity in index.plan.station.identities:
        if identity.licence is not None and _early(identity.licence):
            text = f"The licence of {identity.call or identity.name} is not granted and the guard is off."
            repair = Repair("Put the guard on", set_guard(True, identity.key))
            yield Finding(GUARD_EARLY, Target("identity", identity.key), text, repair)


def _check_radios(index: PlanIndex, _profiles: Mapping[str, Profile]) -> Iterator[Finding]:
    """Radios that only listen because of whom they are programmed for."""
    identities = index.plan.station.identities
    for radio in index.plan.radios:
        carried, target = index.owners.identity_of(radio), Target("radio", radio.key)
        if carried is None and radio.identity:
            text = f"{radio.name} is programmed for “{radio.identity}”, who is not in the plan."
            yield Finding(NOBODYS, target, text, _to_owner(radio, identities))
        elif carried is not None and carried is not identities[0]:
            permit = guard_permit(index.owners.station_of(radio).licence)
            if not permit.allowed:
                text = f"{radio.name} is programmed for {carried.call or carried.name or carried.key}. {permit.reason}"
                yield Finding(GUARD_ON, target, text)


def _to_owner(radio: OwnedRadio, identities: tuple[Identity, ...]) -> Repair | None:
    if not identities:
        return None
    owner = identities[0].call or identities[0].name or "the owner"
    edit = set_fields(RADIOS, radio.key, f"Program {radio.name} for {owner}", identity=identities[0].key)
    return Repair(f"It is {owner}'s", edit)


def _check_dates(index: PlanIndex, _profiles: Mapping[str, Profile]) -> Iterator[Finding]:
    """Dates of licences that are none: such a licence does not count."""
    held = [("licence", "", index.plan.station.licence)]
    held += [("identity", item.key, item.licence) for item in index.plan.station.identities if item.licence is not None]
    for kind, key, licence in held:
        if licence.granted_on and not _is_day(licence.granted_on):
            text = f"“{licence.granted_on[:20]}” is no date, so the licence does not count yet. Dates read like 2026-11-24."
            yield Finding(BAD_DAY, Target(kind, key), text)


def _is_day(text: str) -> bool:
    try:
        date.fromisoformat(text)
    except ValueError:
        return False
    return True


def _early(licence: Licence) -> bool:
    return not licence.granted and not licence.guard


def _check_identity(index: PlanIndex, identity: Identity, profiles: Mapping[str, Profile]) -> Iterator[Finding]:
    target = Target("identity", identity.key)
    fault = call_sign_fault(identity.call)
    if fault:
        tidy = tidy_call_sign(identity.call)
        mends = tidy and not call_sign_fault(tidy)
        repair = Repair(f"Write {tidy}", set_call(identity.key, tidy)) if mends else None
        yield Finding(BAD_CALL, target, fault, repair)
    if identity.ids or (
        _speaks_dmr(index, identity, profiles) and any(network.mode == "dmr" for network in index.plan.networks)
    ):
        numbers: list[int | None] = [*(item.number for item in identity.ids)] or [None]
        faults = [text for number in numbers if (text := radio_id_fault(number))]
        if faults:
            yield Finding(BAD_ID, target, faults[0])


def _speaks_dmr(index: PlanIndex, identity: Identity, profiles: Mapping[str, Profile]) -> bool:
    """Whether an identity is the owner's, or a radio that knows DMR carries it."""
    if identity is index.plan.station.identities[0]:
        return True
    carried = [radio for radio in index.plan.radios if index.owners.identity_of(radio) is identity]
    return any(radio.profile in profiles and "dmr" in profiles[radio.profile].modes for radio in carried)


def _check_my(index: PlanIndex, profiles: Mapping[str, Profile]) -> Iterator[Finding]:
    """Whoever carries a D-STAR radio needs a field MY."""
    modes = {key: profile.modes for key, profile in profiles.items()}
    told: set[str] = set()
    for radio in index.plan.radios:
        identity = index.owners.identity_of(radio)
        if identity is None or identity.key in told or "dstar" not in modes.get(radio.profile, ()):
            continue
        told.add(identity.key)
        own = identity.dstar_call or identity.call
        fault = field_fault(own) if own.strip() else "There is no call sign to send as MY."
        if fault:
            repair = None
            if identity.dstar_call and not field_fault(identity.call):
                edit = set_identity(identity.key, f"Send {identity.call} as MY", dstar_call="")
                repair = Repair(f"Send {identity.call}", edit)
            yield Finding(BLANK_MY, Target("identity", identity.key), f"{radio.name}: {fault}", repair)


def _check_hotspot_ids(index: PlanIndex, _profiles: Mapping[str, Profile]) -> Iterator[Finding]:
    identities = index.plan.station.identities
    if len(index.plan.hotspots) < 2 or not identities or not identities[0].ids:
        return
    first: dict[int, Hotspot] = {}
    for hotspot in index.plan.hotspots:
        number = _id_of(identities[0], hotspot).full
        earlier = first.setdefault(number, hotspot)
        if earlier is not hotspot:
            names = [index.access[item.access].site for item in (earlier, hotspot)]
            text = f"{names[0]} and {names[1]} both log in as {mask_id(number)}."
            repair = _other_id(identities[0], hotspot, set(first))
            yield Finding(SAME_HOTSPOT_ID, Target("hotspot", hotspot.key), text, repair)


def _id_of(owner: Identity, hotspot: Hotspot) -> RadioId:
    return next((item for item in owner.ids if item.label == hotspot.id_label), owner.ids[0])


def _other_id(owner: Identity, hotspot: Hotspot, used: set[int]) -> Repair | None:
    """Another ID of the owner's, or a new suffix of two digits."""
    base = owner.ids[0]
    for item in owner.ids:
        if item.full not in used and item.suffix and item.label:
            edit = set_fields(HOTSPOTS, hotspot.key, f"Log in as {item.label}", id_label=item.label)
            return Repair(f"Use the ID “{item.label}”", edit)
    if radio_id_fault(base.number):
        return None
    taken = {item.full for item in owner.ids} | used
    suffix = next((f"{at:02d}" for at in range(1, 100) if int(f"{base.number}{at:02d}") not in taken), "")
    labels = {item.label for item in owner.ids}
    label = next(
        name
        for name in (f"hotspot {suffix}", *(f"hotspot {suffix} {at}" for at in range(2, 200)))
        if name not in labels
    )
    steps: list[Edit] = [
        set_ids(owner.key, (*owner.ids, RadioId(base.number, label, suffix))),
        set_fields(HOTSPOTS, hotspot.key, f"Log in as {label}", id_label=label),
    ]
    return (
        Repair(f"Give it the suffix {suffix}", together(f"Give a hotspot the suffix {suffix}", steps))
        if suffix
        else None
    )
