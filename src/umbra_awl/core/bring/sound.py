"""What of a memory can be a plan's at all: a radio's bytes and other people's files may hold values that no plan may have."""

from msgspec.structs import replace

from umbra_awl.core.bring.notes import Note
from umbra_awl.core.facts.frequency import HIGHEST_HZ, format_mhz
from umbra_awl.core.fit.possible import impossible_call
from umbra_awl.core.modes.table import MODES
from umbra_awl.core.radio.memory import Channel, Memory


def sound_part(memory: Memory, notes: list[Note]) -> Memory:
    """The memory without the channels and contacts that cannot be in a plan; each is said in the notes."""
    faults = {channel.number: _fault(channel) for channel in memory.channels}
    notes.extend(
        Note("not understood", item.name, faults[item.number]) for item in memory.channels if faults[item.number]
    )
    wrong = {item.number: fault for item in memory.contacts if (fault := impossible_call(item.call))}
    held = "Channels that call it are brought in as receive-only."
    notes.extend(
        Note("not understood", item.name, f"{wrong[item.number]} {held}")
        for item in memory.contacts
        if item.number in wrong
    )
    return replace(
        memory,
        channels=tuple(_without(channel, wrong) for channel in memory.channels if not faults[channel.number]),
        contacts=tuple(item for item in memory.contacts if item.number not in wrong),
    )


def _without(channel: Channel, wrong: dict[int, str]) -> Channel:
    """A channel whose contact is not understood reaches nobody that is known, and only listens."""
    return replace(channel, contact=0, receive_only=True) if channel.contact in wrong else channel


def _fault(channel: Channel) -> str:
    """Why a channel cannot be a route; empty when it can."""
    for hz in (channel.rx_hz, channel.tx_hz):
        if not 0 < hz <= HIGHEST_HZ:
            return f"{format_mhz(hz)} MHz is no frequency of a radio."
    return MODES[channel.mode].channel_fault(channel)
