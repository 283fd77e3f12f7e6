"""Whether what a radio holds makes sense at all: noise, a fresh memory or one of another maker is told before it is compared."""

from collections.abc import Iterator

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.dmr import ALL_CALL
from umbra_awl.core.radio.memory import Channel, Memory, MemoryList

LOWEST_HZ, HIGHEST_HZ = 100_000, 3_000_000_000
_MOST_WRONG = 0.34


def senseless(memory: Memory) -> str:
    """Why a memory cannot be what somebody programmed, as a sentence; empty when it can.

    A record makes sense when its name can be printed and its numbers exist: frequencies of radios, numbers that can be
    called, members that are there. A memory is taken for senseless when more than a third of its records make none, or
    when it has none at all and even the call sign cannot be printed.
    """
    found = list(_records(memory))
    wrong = found.count(False)
    if not found and not (_printable(memory.call) and 0 <= memory.dmr_id <= ALL_CALL):
        return "This memory holds nothing readable: it is fresh, or another maker's."
    if wrong > _MOST_WRONG * len(found):
        of = f"{wrong} of its {counted(len(found), 'record')}"
        return f"This memory holds nothing readable: {of} make no sense. It is noise, damaged, or another maker's."
    return ""


def _records(memory: Memory) -> Iterator[bool]:
    """For each record whether it makes sense."""
    for channel in memory.channels:
        yield _printable(channel.name) and _in_air(channel)
    for contact in memory.contacts:
        yield _printable(contact.name) and 0 < contact.call <= ALL_CALL
    contacts = {item.number for item in memory.contacts}
    channels = {item.number for item in memory.channels}
    yield from (_list_stands(item, contacts) for item in memory.group_lists)
    yield from (_list_stands(item, channels) for item in (*memory.zones, *memory.scans))


def _printable(text: str) -> bool:
    return text.isascii() and (not text or text.isprintable())


def _in_air(channel: Channel) -> bool:
    return all(LOWEST_HZ <= hz <= HIGHEST_HZ for hz in (channel.rx_hz, channel.tx_hz))


def _list_stands(item: MemoryList, numbers: set[int]) -> bool:
    return _printable(item.name) and numbers.issuperset(item.members)


def emptied(memory: Memory) -> Memory:
    """The memory of the same radio with nothing in it, to begin anew from."""
    return Memory(memory.profile, memory.radio)
