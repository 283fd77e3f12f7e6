"""What a card says about linking and caution: short sentences, per mode and for the radio's own way."""

from umbra_awl.core.radio.free_tuning import still_sends
from umbra_awl.core.radio.memory import Memory
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
        (f"{held} of {len(memory.channels)} memories (RX) only listen: the radio does not send there.",) if held else ()
    )
    free = still_sends(profile) if memory.settings.free_tuning is False or profile.free_tuning is None else ""
    return (*silent, *([free] if free else []), *CAUTIONS)


def how_to(memory: Memory, profile: Profile) -> tuple[tuple[str, tuple[str, ...]], ...]:
    """Headings with their steps, for the modes that the memory has."""
    modes = {channel.mode for channel in memory.channels}
    made: list[tuple[str, tuple[str, ...]]] = []
    if "dmr" in modes:
        made.append(("DMR", _dmr(memory)))
    if "dstar" in modes:
        made.append(("D-STAR: link, talk, unlink", _dstar(profile)))
    if "fusion" in modes:
        made.append(("System Fusion: rooms", _fusion(memory)))
    return tuple(made)


def _dmr(memory: Memory) -> tuple[str, ...]:
    one = ("The call key ends what you called up.",) if memory.one_touch else ()
    return ("Try the echo memory before you call.", "A talk group on demand stays a while after you; leave gaps.", *one)


def _dstar(profile: Profile) -> tuple[str, ...]:
    page = (
        "Take the target from the call-sign memories (UR), the repeater from the access list."
        if profile.limits.call_signs
        else "Take the memory that links."
    )
    return (
        page,
        "Link: key the memory with L at the end for a second, let go, wait for the confirmation.",
        "Talk: change to the memory with CQCQCQ. Left on L, every key-up links again.",
        "When done, key the unlink memory (U).",
    )


def _fusion(memory: Memory) -> tuple[str, ...]:
    rooms = ", ".join(f"{room.room} {room.name}" for room in memory.rooms[:6])
    numbers = (f"Rooms: {rooms}.",) if rooms else ()
    return (
        "With a DG-ID of its own: choose that memory and talk.",
        "By number: open the node page, connect, type the room's number, wait for its name.",
        *numbers,
        "When done, disconnect on the node page.",
    )
