"""What the display must show when a new memory is turned to and keyed: said before it is tried."""

from collections.abc import Callable
from typing import NamedTuple

from umbra_awl.core.facts.dstar import shown
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.modes import ByMode
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.difference import ChangeSheet

MOST = 5


class WriteProof(NamedTuple):
    """A memory to turn to: the name that is shown, the frequency heard, what the display shows while keying, what else to see."""

    name: str
    heard: str
    keyed: str
    beside: str = ""


def proofs(sheet: ChangeSheet, memory: Memory, profile: Profile, most: int = MOST) -> tuple[WriteProof, ...]:
    """What to turn to after a write, the new memories first; one of each kind of service before more of the same."""
    changed = {change.name for change in sheet.of_table("channel") if change.kind != "removed"}
    ranked = sorted(memory.channels, key=lambda item: item.name not in changed)
    fresh = [channel for channel in ranked if channel.name in changed] or list(memory.channels)
    firsts = list({(channel.mode, channel.receive_only): channel for channel in reversed(fresh)}.values())[::-1]
    picked = [*firsts, *(channel for channel in fresh if channel not in firsts)][:most]
    return tuple(_proof(channel, profile) for channel in picked)


def _proof(channel: Channel, profile: Profile) -> WriteProof:
    keyed = format_mhz(channel.tx_hz)
    if channel.receive_only:
        keyed = "refuses: receive-only"
    elif not profile.transmits(channel.tx_hz):
        keyed = "refuses: out of its band"
    return WriteProof(channel.name, format_mhz(channel.rx_hz), keyed, _BESIDE[channel.mode](channel))


def _routed(channel: Channel) -> str:
    return f"UR {shown(channel.ur)}, RPT1 and RPT2 filled" if channel.rpt1.strip() else f"UR {shown(channel.ur)}"


def _toned(channel: Channel) -> str:
    return f"tone {channel.tone_tx}" if channel.tone_tx else ""


_BESIDE: ByMode[Callable[[Channel], str]] = {
    "fm": _toned,
    "dmr": _toned,
    "dstar": _routed,
    "fusion": lambda channel: f"{channel.way}, DG-ID {channel.dgid_tx:02d}",
}
"""What the display shows beside the frequency, as each mode has it."""
