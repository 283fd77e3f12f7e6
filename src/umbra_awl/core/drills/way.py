"""Slips that lie beside the plan: on the way into a radio, a hotspot, a phone, a card. What is seen is made by the very checks.

Each case shows what one would look at, and is explained by what the program's own check says of it.
"""

import random
from collections.abc import Callable, Mapping
from pathlib import Path
from types import MappingProxyType
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.directory.private import differences, field_words
from umbra_awl.core.drills.fault import NoCaseError
from umbra_awl.core.drills.slips import Slip, shipped_slips
from umbra_awl.core.findings.on_chosen_people import check_chosen_people
from umbra_awl.core.findings.on_directory import check_directory
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.hotspot.logs.reading import read_log
from umbra_awl.core.hotspot.logs.rules import shipped_rules
from umbra_awl.core.hotspot.pairing.devices import device_for, shipped_devices
from umbra_awl.core.hotspot.pairing.machine import PairingSides, proof_words
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.known import Known, PeopleKnown
from umbra_awl.core.plan.model import DmrAir, OwnedRadio
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.card.form import CardFile, CardHeader, pack, parse
from umbra_awl.core.transfer.card.look import CardView, OnCard
from umbra_awl.core.transfer.card.steps import Past, found_out
from umbra_awl.core.transfer.carry import STATE_WORDS, state_of
from umbra_awl.core.transfer.difference import difference
from umbra_awl.core.transfer.errors import CardFileError, ImageError
from umbra_awl.core.transfer.image import decode
from umbra_awl.core.transfer.ports.checks import first_trouble, seen_of
from umbra_awl.core.transfer.ports.described import Described, Usb
from umbra_awl.core.transfer.shelf import Unfinished, digest


class Look(NamedTuple):
    """Something to look at: its title, and what is seen there."""

    title: str
    text: str


class WayCase(NamedTuple):
    """A drill beside the plan: the slip, what is noticed, what can be looked at, what the check says, and ways to go on.

    `right` is the place of the right way among `repairs`.
    """

    slip: Slip
    symptom: str
    looks: tuple[Look, ...]
    finding: str
    repairs: tuple[str, ...]
    right: int


class _Seen(NamedTuple):
    looks: tuple[Look, ...]
    finding: str
    site: str = "the repeater"


Scene = Callable[[PlanIndex, random.Random], _Seen]


def _radio(index: PlanIndex, fitting: Callable[[Profile], bool]) -> tuple[OwnedRadio, Profile]:
    """A radio of the plan that is of a kind, or one that ships where it has none."""
    profiles = shipped_profiles()
    for radio in index.plan.radios:
        profile = profiles.get(radio.profile)
        if profile is not None and fitting(profile):
            return radio, profile
    profile = next(item for item in profiles.values() if fitting(item))
    return OwnedRadio(profile.key, profile.name, profile.key, ""), profile


def _entry_outdated(index: PlanIndex, chance: random.Random) -> _Seen:
    there = [
        (access, service) for access, service in index.services.values()
        if access.kind == "repeater" and isinstance(service.air, DmrAir)
    ]  # fmt: skip
    if not there:
        raise NoCaseError("The plan has no DMR repeater.")
    access, service = chance.choice(there)
    assert isinstance(service.air, DmrAir)  # noqa: S101  (chosen so)
    code = (service.air.color_code + 3) % 16
    now = replace(access, services=(replace(service, air=replace(service.air, color_code=code)),))
    taken = replace(access, entry="drill", services=(service,), listed=(service,))
    found = next(
        check_directory(PlanIndex(replace(index.plan, access=(taken,), routes=()), index.today), Known({"drill": now}))
    )
    looks = (
        Look("Your plan", f"{access.by_site}: color code {service.air.color_code}"),
        Look("The directory, when you took it", f"color code {service.air.color_code}"),
        Look("The directory of today", f"color code {code}, confirmed last week"),
    )
    return _Seen(looks, found.text, access.by_site)


def _name_and_save(index: PlanIndex, chance: random.Random) -> _Seen:
    radio, profile = _radio(index, lambda item: item.keypad is not None)
    memory = fit(index, radio, profile).memory if radio.key in index.radios else None
    if memory is None or not memory.channels:
        raise NoCaseError("The plan has no radio that is programmed by keys.")
    at = chance.randrange(len(memory.channels))
    held = replace(memory.channels[at], name="CH000001"[: len(memory.channels[at].name)] or "CH1")
    old = replace(memory, channels=(*memory.channels[:at], held, *memory.channels[at + 1 :]))
    change = next(iter(difference(old, memory).changes))
    looks = (
        Look("The radio's display", held.name),
        Look("Your plan", memory.channels[at].name),
        Look("What you remember", "You typed the name, and turned the knob to see it."),
    )
    return _Seen(looks, f"{change.name}: {change.detail}")


def _master_or_password(_index: PlanIndex, _chance: random.Random) -> _Seen:
    rule = next(item for item in shipped_rules().rule if item.kind == "fault" and "login" in item.key)
    starts = next(item for item in shipped_rules().rule if item.key == "starts")
    log = f"{starts.example}\n{rule.example}\n{rule.example}\n"
    cause = read_log(log).cause
    assert cause is not None  # noqa: S101  (the rule's own example)
    looks = (
        Look("The hotspot's display", "Wi-Fi: connected"),
        Look("Its page", "Modem ready. Network: —"),
        Look("Its log", log.strip()),
    )
    return _Seen(looks, f"{cause.rule.means} {cause.rule.todo}".strip())


def _paired_wrong(_index: PlanIndex, _chance: random.Random) -> _Seen:
    device = next((item for item in shipped_devices().device if item.starts == "app"), device_for(""))
    sides = PairingSides({item.key: item.want for item in device.settings}, paired_in="phone", stuck=True)
    looks = (
        Look("The phone's settings", "The radio is listed as paired."),
        Look("The radio's list of phones", "empty"),
        Look("The app", "Connecting … no answer"),
    )
    return _Seen(looks, proof_words(sides))


def _cable_or_port(index: PlanIndex, _chance: random.Random) -> _Seen:
    _owned, profile = _radio(index, lambda item: item.by_cable)
    cable = Usb("1-2", "10c4", "ea60")
    seen = seen_of(Described(), Described(usb=(cable,), user="wren", groups=("dialout",)), profile)
    found = first_trouble(seen)
    assert found is not None  # noqa: S101  (a chip without its driver)
    looks = (
        Look("What came on USB", f"{cable.vendor}:{cable.product}"),
        Look("Ports that are offered", "none"),
        Look("Your groups", "dialout"),
    )
    return _Seen(looks, f"{found.text} {found.line}".strip())


def _wrong_model(index: PlanIndex, _chance: random.Random) -> _Seen:
    _owned, profile = _radio(index, lambda item: item.by_cable)
    other = next(item for item in shipped_profiles().values() if item.image.size != profile.image.size)
    try:
        decode(bytes(other.image.size), profile)
        said = ""
    except ImageError as error:
        said = str(error)
    looks = (
        Look("The file", f"memory of a friend's radio, {other.image.size:,} bytes"),
        Look("Your radio", f"{profile.name}, {profile.image.size:,} bytes"),
        Look("What the friend says", "“It is nearly the same radio.”"),
    )
    return _Seen(looks, said)


def _off_during_write(_index: PlanIndex, _chance: random.Random) -> _Seen:
    old, new = b"a" * 64, b"b" * 64
    state = state_of(old[:32] + new[32:], Unfinished("backup", digest(old), digest(new), "unit"))
    looks = (
        Look("The last message", "The line went away in the middle of the write."),
        Look("Digest of the radio's memory now", digest(old[:32] + new[32:])[:12]),
        Look("Digests before and after the write", f"{digest(old)[:12]} and {digest(new)[:12]}"),
    )
    return _Seen(looks, STATE_WORDS[state])


def _contacts_apart(index: PlanIndex, _chance: random.Random) -> _Seen:
    radio, profile = _radio(index, lambda item: item.people is not None)
    known = Known(people={radio.key: PeopleKnown(0)})
    plan = replace(index.plan, radios=(radio,))
    found = next(check_chosen_people(PlanIndex(plan, index.today), {profile.key: profile}, known))
    looks = (
        Look("The radio's memory", "Proven: byte for byte what was written."),
        Look("The radio's people list", "0 people"),
        Look("The display while somebody talks", "9990001"),
    )
    return _Seen(looks, found.text)


def _card_pulled(index: PlanIndex, _chance: random.Random) -> _Seen:
    _owned, profile = _radio(index, lambda item: item.by_card)
    whole = pack(CardFile(CardHeader(profile.key, number=7, unit="a"), b"memory" * 40))
    try:
        parse(whole[: len(whole) // 2])
        fault = ""
    except CardFileError as error:
        fault = str(error).rstrip(".")
    name = "SAVE0007.AWC"
    view = CardView(_NOWHERE, present=True, folder=profile.key, files=(OnCard(name, None, fault=fault),), free=10**9)
    found = found_out(view, profile, Past())
    looks = (
        Look("The radio's display as you pulled it", "WRITING …"),
        Look("On the card", f"{name}, {len(whole) // 2} bytes"),
        Look("The radio's earlier saves", f"{len(whole)} bytes each"),
    )
    return _Seen(looks, f"{found.text} {found.todo}")


def _saved_not_sent(index: PlanIndex, _chance: random.Random) -> _Seen:
    _owned, profile = _radio(index, lambda item: item.by_card)
    found = found_out(CardView(_NOWHERE), profile, Past(unit="a", compared="done"))
    looks = (
        Look("Your plan", "saved, with the new channels"),
        Look("The shelf", "a copy of what the radio held"),
        Look("The card", "in the radio; what is on it the radio wrote itself"),
    )
    return _Seen(looks, f"{found.text} {found.todo}")


def _old_over_own(index: PlanIndex, chance: random.Random) -> _Seen:
    there = [access for access in index.plan.access if access.kind == "repeater" and access.services]
    if not there:
        raise NoCaseError("The plan has no repeater.")
    access = chance.choice(there)
    service = access.services[0]
    old = replace(access, services=(replace(service, tx_hz=2 * service.rx_hz - service.tx_hz), *access.services[1:]))
    told = ", ".join(field_words(path.replace(service.key, f"{service.mode}-")) for path in differences(access, old))
    looks = (
        Look("Your own value", f"{access.by_site}: corrected on the air"),
        Look("The friend's list", "made two years ago"),
        Look("What the import would have shown", f"{access.by_site}: {told} changed"),
    )
    return _Seen(looks, f"{access.by_site}: {told} would be changed by the import; look at it before you take it.")


_NOWHERE = Path("card")
SCENES: Mapping[str, Scene] = MappingProxyType({
    "entry-outdated": _entry_outdated,
    "name-and-save": _name_and_save,
    "master-or-password": _master_or_password,
    "paired-wrong": _paired_wrong,
    "cable-or-port": _cable_or_port,
    "wrong-model": _wrong_model,
    "off-during-write": _off_during_write,
    "contacts-apart": _contacts_apart,
    "card-pulled": _card_pulled,
    "saved-not-sent": _saved_not_sent,
    "old-over-own": _old_over_own,
})  # fmt: skip
"""How each slip beside the plan looks, by its key."""


def way_case(index: PlanIndex, key: str, seed: int) -> WayCase:
    """A case of a slip. Raises NoCaseError where the plan has nothing for it, KeyError for a slip that is none of these."""
    chance = random.Random(seed)  # noqa: S311  (a drill)
    seen, slip = SCENES[key](index, chance), shipped_slips()[key]
    repairs = list(slip.repairs)
    chance.shuffle(repairs)
    symptom = slip.symptom.format(site=seen.site, route="", name="", radio="")
    return WayCase(slip, symptom, seen.looks, seen.finding, tuple(repairs), repairs.index(slip.repairs[0]))
