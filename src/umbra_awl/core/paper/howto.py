"""What a card says about linking and caution: short sentences, per mode and for the radio's own way."""

from collections.abc import Iterator
from typing import NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.modes.calls import network_reached
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination, Mode
from umbra_awl.core.plan.places import LINKED
from umbra_awl.core.radio.free_tuning import still_sends
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile

CAUTIONS = (
    "Do not program or read this while driving.",
    "Listen first. Key, wait a second, then speak. Identify.",
    "Never transmit without an antenna; keep it away from people.",
    "Only what your licence allows; local rules come first. In an emergency call the emergency number.",
)


def cautions_for(memory: Memory, profile: Profile) -> tuple[str, ...]:
    """The caution lines of a card; that some memories only listen is said where it is so, and what is outside them."""
    held = sum(channel.receive_only for channel in memory.channels)
    silent = (
        (f"{held} of {counted(len(memory.channels), 'memory')} (RX) only listen: the radio does not send there.",)
        if held
        else ()
    )
    free = still_sends(profile) if memory.settings.free_tuning is False or profile.free_tuning is None else ""
    return (*silent, *([free] if free else []), *CAUTIONS)


class _Named(NamedTuple):
    """What a radio holds, to be spoken of by the names its display shows."""

    plan: PlanIndex
    memory: Memory
    profile: Profile

    def of_kind(self, mode: Mode, *kinds: str) -> list[tuple[Channel, Destination]]:
        """The memories of a mode whose destination is of one of some kinds, in their order."""
        found = []
        for channel in self.memory.channels:
            destination = self.plan.destinations[self.plan.routes[channel.route].destination]
            if channel.mode == mode and destination.kind in kinds:
                found.append((channel, destination))
        return found

    def name_of(self, mode: Mode, *kinds: str, beside: Channel | None = None) -> str:
        """The name of the first such memory, of those through the same service as `beside`; empty where there is none."""
        service = self.service_of(beside) if beside is not None else ""
        found = (
            channel for channel, _to in self.of_kind(mode, *kinds) if not service or self.service_of(channel) == service
        )
        return next((channel.name for channel in found), "")

    def names_of(self, mode: Mode, *kinds: str) -> str:
        """The memories of such a kind, each with its access point where there are several: “HOME DISC at Home spot”."""
        found: dict[str, tuple[str, str]] = {}
        for channel, _to in self.of_kind(mode, *kinds):
            access, service = self.plan.services[self.service_of(channel)]
            found.setdefault(service.key, (channel.name, access.by_site))
        if len(found) < 2:
            return next((name for name, _site in found.values()), "")
        return ", ".join(f"{name} at {site}" for name, site in found.values())

    def service_of(self, channel: Channel) -> str:
        """The key of the service that a memory goes through."""
        return self.plan.routes[channel.route].service


Section = tuple[str, tuple[str, ...]]


def how_to(index: PlanIndex, memory: Memory, profile: Profile) -> tuple[Section, ...]:
    """Headings with their steps for what the memory has: each says which memory, and what one hears when it worked."""
    named = _Named(index, memory, profile)
    sections = (*_dmr(named), *_dstar(named), *_fusion(named))
    return tuple((title, tuple(filter(None, steps))) for title, steps in sections)


def _dmr(named: _Named) -> Iterator[Section]:
    if not any(channel.mode == "dmr" for channel in named.memory.channels):
        return
    echo, drop = named.name_of("dmr", "echo"), named.names_of("dmr", "disconnect")
    yield (
        "DMR",
        (
            f"First {echo}: key, say your call sign, let go. Your own voice comes back." if echo else "",
            "A talk group on demand joins at your key-up and stays a while after you; leave gaps.",
            f"To leave it at once key {drop} for a second. The display shows that it was taken." if drop else "",
            "The call key ends what you called up." if named.memory.one_touch else "",
        ),
    )
    yield from _dialling(named)


def _dialling(named: _Named) -> Iterator[Section]:
    """Reflectors dialled by number through the local talk group, where the radio has a memory for it."""
    for channel, destination in named.of_kind("dmr", "dial")[:1]:
        service = named.plan.services[named.plan.routes[channel.route].service][1]
        network = network_reached(named.plan, service, destination)
        if network is None or network.dial_low is None:
            continue
        talk = named.name_of("dmr", "local", beside=channel) or channel.name
        drop = named.name_of("dmr", "disconnect", beside=channel)
        off = (
            f"key {drop}"
            if drop
            else f"dial {network.disconnect.number}"
            if network.disconnect
            else "dial its disconnect number"
        )
        yield (
            "DMR: dialled reflectors",
            (
                f"Turn to {channel.name}. Type {network.dial_low} to {network.dial_high} as a call and key for a second.",
                "A voice or the display says that it is linked. Silence: dial again.",
                f"Talk on {talk}. Others of the reflector answer there.",
                f"When done, {off} for a second. A voice says that nothing is linked.",
            ),
        )


def _dstar(named: _Named) -> Iterator[Section]:
    if not any(channel.mode == "dstar" for channel in named.memory.channels):
        return
    links = [channel for channel, _to in named.of_kind("dstar", *LINKED) if channel.ur.endswith("L")]
    talks = [channel for channel, _to in named.of_kind("dstar", *LINKED) if channel.ur.startswith("CQCQCQ")]
    beside = links[0] if links else None
    drop = named.name_of("dstar", "disconnect", beside=beside) if beside else named.names_of("dstar", "disconnect")
    echo = named.name_of("dstar", "echo", beside=beside)
    lists = "Or from the lists: the target as UR from the call-sign memories, the repeater from the access list."
    yield (
        "D-STAR: link, talk, unlink",
        (
            f"First {echo}: key, say your call sign, let go. Your own voice comes back." if echo else "",
            f"Link: turn to {links[0].name}, key for a second, let go. A voice or the display says linked."
            if links
            else "",
            f"Talk: turn to {talks[0].name} (CQCQCQ). Others answer, and the display shows their call signs."
            if talks
            else "",
            "Left on the memory that links, every key-up links again, and nobody hears you." if links else "",
            f"When done, key {drop}. A voice says that nothing is linked." if drop else "",
            lists if named.profile.limits.call_signs else "",
        ),
    )


def _fusion(named: _Named) -> Iterator[Section]:
    if not any(channel.mode == "fusion" for channel in named.memory.channels):
        return
    rooms = ", ".join(f"{room.room} {room.name}" for room in named.memory.rooms[:6])
    drop = named.names_of("fusion", "disconnect")
    yield (
        "System Fusion: rooms",
        (
            "With a DG-ID of its own: choose that memory and talk. Others of the room answer.",
            "By number: open the node page, connect, type the room's number. Its name on the display says that it is connected.",
            f"Rooms: {rooms}." if rooms else "",
            f"When done, key {drop}; its name goes from the display."
            if drop
            else "When done, disconnect on the node page.",
        ),
    )
