"""The field card of one radio as a value: zones and channels as the display shows them, how-to, cautions, the code's text."""

from typing import NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.dmr import mask_id
from umbra_awl.core.facts.dstar import shown
from umbra_awl.core.facts.frequency import format_mhz, format_offset
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.modes.table import MODES, mode_of
from umbra_awl.core.paper.howto import Section, cautions_for, how_to
from umbra_awl.core.paper.kept_to import kept_to
from umbra_awl.core.paper.loading import loaded_how
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, OwnedRadio, Service
from umbra_awl.core.plan.privacy import is_person
from umbra_awl.core.radio.memory import Channel, Contact, MemoryList
from umbra_awl.core.radio.profile import Profile

CODE_BYTES = 1_100
"""How much text the code carries: more makes its squares too small for a phone at arm's length."""


class CardRow(NamedTuple):
    """One knob position: number in the zone, name as shown, frequency heard in MHz, what opens it, whom it calls."""

    place: int
    name: str
    mhz: str
    opens: str
    calls: str
    receive_only: bool


class CardZone(NamedTuple):
    """One zone."""

    name: str
    rows: tuple[CardRow, ...]


class FieldCard(NamedTuple):
    """All that stands on a card. `code` is the text of its QR code: the plan's public part, without IDs."""

    title: str
    owner: str
    plan: str
    day: str
    zones: tuple[CardZone, ...]
    how_to: tuple[tuple[str, tuple[str, ...]], ...]
    cautions: tuple[str, ...]
    code: str
    code_note: str


def field_card(index: PlanIndex, radio: OwnedRadio, profile: Profile, made: Fit, day: str) -> FieldCard:
    """The card of a radio as the plan fits it now; `day` is the date it is made, as an ISO text."""
    memory = made.memory
    persons = {
        channel.contact
        for channel in memory.channels
        if channel.contact and is_person(index.destinations[index.routes[channel.route].destination])
    }
    called = {item.number: _called(item, item.number in persons) for item in memory.contacts}
    zones = memory.zones or (MemoryList(1, "All", tuple(channel.number for channel in memory.channels)),)
    identity = index.owners.identity_of(radio)
    number = identity.ids[0].number if identity and identity.ids and "dmr" in profile.modes else None
    owner = " ".join(filter(None, (memory.call, f"ID {mask_id(number)}" if number else "")))
    code, note = public_text(index, made)
    return FieldCard(
        radio.name,
        owner,
        index.plan.name,
        day,
        tuple(_zone(zone, memory.channels, called) for zone in zones if zone.members),
        (*how_to(index, memory, profile), *_kept(index, radio, profile), ("How it is loaded", loaded_how(profile))),
        cautions_for(memory, profile),
        code,
        note,
    )


def _kept(index: PlanIndex, radio: OwnedRadio, profile: Profile) -> tuple[Section, ...]:
    lines = kept_to(index, radio, profile)
    return (("What you keep to", lines),) if lines else ()


def _called(contact: Contact, person: bool) -> str:
    """Who is called, as a card may show it: somebody's own number is masked."""
    number = mask_id(contact.call) if person else str(contact.call)
    return f"{number}{' private' if contact.kind == 'private' else ''}"


def _zone(zone: MemoryList, channels: tuple[Channel, ...], called: dict[int, str]) -> CardZone:
    rows = tuple(_row(place, channels[number - 1], called) for place, number in enumerate(zone.members, 1))
    return CardZone(zone.name, rows)


def _row(place: int, channel: Channel, called: dict[int, str]) -> CardRow:
    calls = shown(channel.ur) if channel.mode == "dstar" else called.get(channel.contact, "")
    return CardRow(place, channel.name, format_mhz(channel.rx_hz), opens(channel), calls, channel.receive_only)


def opens(channel: Channel) -> str:
    """What opens the access point: offset, and color code and slot, tone, module or DG-ID."""
    offset = channel.tx_hz - channel.rx_hz
    shift = format_offset(offset).rstrip("0").rstrip(".") if offset else ""
    return f"{shift} {MODES[channel.mode].brief(channel)}".strip()


def public_text(index: PlanIndex, made: Fit) -> tuple[str, str]:
    """The plan's public part as lines anybody may read off a phone, and a note when not all of it finds room.

    Access points with frequencies and what opens them, then the talk groups; no person's ID, no position, no hotspot.
    """
    used = {index.routes[channel.route].service for channel in made.memory.channels}
    lines = [
        _public(access, service)
        for access, service in index.all_services()
        if service.key in used and access.kind != "hotspot"
    ]
    groups = [f"TG {item.call} {item.name}" for item in made.memory.contacts if item.kind == "group"]
    wanted = [index.plan.name, *lines, *groups]
    kept: list[str] = []
    for line in wanted:
        if len("\n".join([*kept, line]).encode()) > CODE_BYTES:
            break
        kept.append(line)
    lost = len(wanted) - len(kept)
    return "\n".join(kept), f"The code holds {len(kept) - 1} of {counted(len(wanted) - 1, 'line')}." if lost else ""


def _public(access: AccessPoint, service: Service) -> str:
    offset = service.tx_hz - service.rx_hz
    shift = f" {format_offset(offset)}" if offset else ""
    return (
        f"{access.call} {access.site} {format_mhz(service.rx_hz)}{shift} {mode_of(service).line(service.air)}".strip()
    )
