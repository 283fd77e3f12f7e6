"""Keeping somebody's own channels when a radio is written: behind the plan's, in a zone of their own."""

from msgspec.structs import replace

from umbra_awl.core.plan.model import Station
from umbra_awl.core.plan.permit import transmit_permit
from umbra_awl.core.radio.memory import Channel, Contact, Memory, MemoryList
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.interlock import OWN_ROUTE, sent_on

ZONE = "OWN"


def with_own(memory: Memory, own: tuple[Channel, ...], held: Memory, profile: Profile, station: Station) -> Memory:
    """The plan's memory with a radio's own channels behind it, as far as there is room; one that may not send listens."""
    limits = profile.limits
    room = min(limits.channels - len(memory.channels), limits.zone_channels)
    if not own or room <= 0 or len(memory.zones) >= limits.zones:
        return memory
    contacts, places = _contacts(memory, own[:room], held, limits.contacts)
    first = len(memory.channels) + 1
    kept = tuple(
        replace(
            channel,
            number=first + at,
            contact=places.get(channel.contact, 0),
            group_list=0,
            route=OWN_ROUTE,
            receive_only=channel.receive_only or not transmit_permit(station, sent_on(channel)).allowed,
        )
        for at, channel in enumerate(own[:room])
    )
    zone = MemoryList(len(memory.zones) + 1, ZONE, tuple(channel.number for channel in kept))
    return replace(memory, channels=(*memory.channels, *kept), contacts=contacts, zones=(*memory.zones, zone))


def _contacts(
    memory: Memory, own: tuple[Channel, ...], held: Memory, most: int
) -> tuple[tuple[Contact, ...], dict[int, int]]:
    """The contacts with those that the own channels call, and where each of the radio's old ones went."""
    old = {item.number: item for item in held.contacts}
    contacts = list(memory.contacts)
    places: dict[int, int] = {}
    for channel in own:
        wanted = old.get(channel.contact)
        if wanted is None or channel.contact in places:
            continue
        there = next((item for item in contacts if (item.call, item.kind) == (wanted.call, wanted.kind)), None)
        if there is None and len(contacts) < most:
            there = replace(wanted, number=len(contacts) + 1)
            contacts.append(there)
        if there is not None:
            places[channel.contact] = there.number
    return tuple(contacts), places
