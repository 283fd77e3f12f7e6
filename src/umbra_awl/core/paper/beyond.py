"""Why a memory must not be entered by a radio's keys: something that decides what it sends has no menu, and stays as it was."""

from collections.abc import Iterator

from umbra_awl.core.facts.modes import ByMode
from umbra_awl.core.radio.keypad import Keypad
from umbra_awl.core.radio.memory import Channel
from umbra_awl.core.radio.profile import Profile

_WORDS = {
    "mode": "the mode",
    "shift": "the shift",
    "offset": "the shift frequency",
    "tone_tx": "the tone that is sent",
    "color_code": "the color code",
    "slot": "the time slot",
    "contact": "the number called",
    "power": "the power",
    "ur": "UR",
    "rpt1": "RPT1",
    "rpt2": "RPT2",
    "way": "the digital way",
    "dgid_tx": "the DG-ID that is sent",
}


def beyond_keys(channel: Channel, profile: Profile, keypad: Keypad) -> str:
    """Why a channel cannot be entered safely; empty when every menu that decides what it sends is there."""
    return beyond_fields(channel, profile, frozenset(menu.field for menu in keypad.menus if channel.mode in menu.modes))


def beyond_fields(channel: Channel, profile: Profile, there: frozenset[str]) -> str:
    """The same by the fields that can be set, whether by menus that are described or as lessons showed it."""
    if channel.receive_only:
        return (
            ""
            if "receive_only" in there
            else "It must not transmit, and nothing known of this radio sets receive only."
        )
    if channel.mode == "dmr" and not channel.contact:
        return "It has nobody to call; the radio would call whoever it called last. Give it a destination or let it only listen."
    lost = next((field for field in _needed(channel, profile, in_full="tx" in there) if field not in there), None)
    return (
        f"Nothing known of this radio sets {_WORDS[lost]}; it would send with what it held." if lost is not None else ""
    )


_OF_MODE: ByMode[tuple[str, ...]] = {
    "fm": (),
    "dmr": ("color_code", "slot", "contact"),
    "dstar": ("ur", "rpt1", "rpt2"),
    "fusion": ("way", "dgid_tx"),
}
"""What a channel of each mode cannot do without, beside its frequencies and its tone."""


def _needed(channel: Channel, profile: Profile, *, in_full: bool) -> Iterator[str]:
    if len(profile.modes) > 1:
        yield "mode"
    if channel.tx_hz != channel.rx_hz and not in_full:
        yield from ("shift", "offset")
    yield from _OF_MODE[channel.mode]
    if channel.tone_tx:
        yield "tone_tx"
    if channel.power < len(profile.power_watts) - 1:
        yield "power"
