"""What opens a channel's speaker: condition by condition, from what an access point sends to what the radio lets through."""

from collections.abc import Iterator
from typing import Literal, NamedTuple

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.fusion import HEARS_ALL, shown_dgid
from umbra_awl.core.plan.model import CallKind, Mode
from umbra_awl.core.radio.memory import Channel, Memory

Verdict = Literal["yes", "no", "perhaps"]


class OnAir(NamedTuple):
    """A call as it leaves the access point: hertz, mode and what that mode sends along."""

    hz: int
    mode: Mode
    color_code: int = 0
    slot: int = 0
    number: int = 0
    kind: CallKind = "group"
    tone: str = ""
    dgid: int = 0


class Condition(NamedTuple):
    """One condition: whether it holds, what is so, and the rules whose repair would help."""

    verdict: Verdict
    text: str
    mends: tuple[str, ...] = ()


def conditions(memory: Memory, channel: Channel, call: OnAir) -> tuple[Condition, ...]:
    """Every condition between the air and the speaker, in the order the radio meets them; the first “no” keeps it shut."""
    return tuple(_conditions(memory, channel, call))


def first_shut(found: tuple[Condition, ...]) -> Condition | None:
    """The first condition that keeps the speaker shut."""
    return next((item for item in found if item.verdict == "no"), None)


def _conditions(memory: Memory, channel: Channel, call: OnAir) -> Iterator[Condition]:
    if channel.rx_hz != call.hz:
        text = f"Listens on {format_mhz(channel.rx_hz)}, and the call comes on {format_mhz(call.hz)}."
        yield Condition("no", text, ("hotspot-differs", "off-raster"))
        return
    yield Condition("yes", f"Listens on {format_mhz(channel.rx_hz)}, where the call comes.")
    yield _mode_condition(channel, call)
    if channel.mode == "dmr" == call.mode:
        yield from _dmr_conditions(memory, channel, call)
    elif channel.mode == "fm" == call.mode:
        yield _tone_condition(channel, call)
    elif channel.mode == "fusion" == call.mode:
        yield _dgid_condition(channel, call)


_LISTENS = {
    "dmr": "Listens for DMR only.",
    "dstar": "Listens for D-STAR only.",
    "fusion": "Listens for System Fusion only.",
}


def _mode_condition(channel: Channel, call: OnAir) -> Condition:
    if channel.mode == call.mode:
        return Condition("yes", "The mode is the same.")
    if channel.mode == "fm":
        return Condition("no", "An FM listener hears a burst of noise.")
    if channel.mode == "fusion" and channel.way == "AMS" and call.mode == "fm":
        return Condition("yes", "Automatic mode select opens for FM too.")
    return Condition("no", _LISTENS[channel.mode])


def _tone_condition(channel: Channel, call: OnAir) -> Condition:
    if not channel.tone_rx:
        return Condition("yes", "No receive tone: it opens for any signal.")
    if channel.tone_rx == call.tone:
        return Condition("yes", f"Waits for the tone {channel.tone_rx}, and it is sent.")
    return Condition("no", f"Waits for the tone {channel.tone_rx}.", ("tone-on-receive", "unknown-tone"))


def _dgid_condition(channel: Channel, call: OnAir) -> Condition:
    if channel.dgid_rx in {HEARS_ALL, call.dgid}:
        return Condition("yes", f"DG-ID {shown_dgid(channel.dgid_rx)} on receive lets it through.")
    text = f"Opens for DG-ID {shown_dgid(channel.dgid_rx)} only, not {shown_dgid(call.dgid)}."
    return Condition("no", text, ("dg-id-on-receive",))


def _dmr_conditions(memory: Memory, channel: Channel, call: OnAir) -> Iterator[Condition]:
    same = channel.color_code == call.color_code
    text = f"Listens with color code {channel.color_code}" + ("." if same else f", not {call.color_code}.")
    yield Condition("yes" if same else "no", text, ("color-code-differs", "hotspot-color-differs"))
    same = channel.slot == call.slot
    text = f"Listens on slot {channel.slot}" + ("." if same else f", not {call.slot}.")
    yield Condition("yes" if same else "no", text, ("slot-not-used", "static-on-other-slot"))
    if channel.promiscuous:
        yield Condition("yes", "Promiscuous: it opens for anything on the slot.")
    elif call.kind == "private":
        mine = call.number == memory.dmr_id
        text = (
            "The private call is for this radio's ID."
            if mine
            else "A private call to another ID: only that radio opens."
        )
        yield Condition("yes" if mine else "no", text)
    elif call.number in _heard(memory, channel):
        yield Condition("yes", f"{call.number} is in its receive group list.")
    else:
        text = f"{call.number or 'The call'} is not in its receive group list."
        yield Condition("no", text, ("group-list-lacks-own",))


def _heard(memory: Memory, channel: Channel) -> set[int]:
    numbers = memory.group_lists[channel.group_list - 1].members if channel.group_list else ()
    return {memory.contacts[number - 1].call for number in (*numbers, channel.contact) if number}
