"""Whose a radio is that was plugged in: by what it says of itself, else by what it holds, else the next who waits."""

from collections.abc import Sequence
from typing import Literal, NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.transfer.table.roster import Roster, Seat

How = Literal["unit", "call", "next", "none"]


class Recognised(NamedTuple):
    """The seat that is offered, how it was told, a sentence on it, what to look out for, channels that are in no plan."""

    seat: Seat | None
    how: How
    text: str
    beware: str = ""
    own: tuple[Channel, ...] = ()


def recognise(
    unit: str, memory: Memory, roster: Roster, there: Sequence[Seat], planned: Sequence[Memory]
) -> Recognised:
    """Offer a seat for a radio. `there` are the seats of its kind, `planned` the memories that the plan means for them."""
    own = own_channels(memory, planned)
    waiting = [seat for seat in there if seat.state != "done"]
    known = next((seat for seat in there if seat.radio == roster.whose(unit)), None)
    if known is not None:
        return Recognised(known, "unit", _known(known), _own_words(own), own)
    by_call = next((seat for seat in there if memory.call and seat.call == memory.call), None)
    if by_call is not None and by_call.state != "done":
        text = f"It holds the call sign of {by_call.call}: it is offered for {by_call.name}."
        return Recognised(by_call, "call", text, _own_words(own), own)
    chosen = next(iter(waiting), None)
    if chosen is None:
        return Recognised(
            None, "none", "Nobody waits for a radio of this kind: all of them are done.", _own_words(own), own
        )
    beware = _someone_elses(memory, by_call)
    return Recognised(
        chosen, "next", f"Next is {chosen.call}, {chosen.name}.", f"{beware} {_own_words(own)}".strip(), own
    )


def _known(seat: Seat) -> str:
    if seat.state == "done":
        return f"This is the radio of {seat.call}, and it is done. Take the next one."
    return f"This is the radio of {seat.call}. The plan has changed since it was written."


def _someone_elses(memory: Memory, by_call: Seat | None) -> str:
    if by_call is not None:
        return (
            f"It holds the call sign of {by_call.call}, whose radio is done: this is a second one, or it changed hands."
        )
    if memory.call:
        return f"It was the radio of {memory.call}, who is not at this table."
    return ""


def _own_words(own: tuple[Channel, ...]) -> str:
    if not own:
        return ""
    names = ", ".join(channel.name for channel in own[:3])
    more = f" and {len(own) - 3} more" if len(own) > 3 else ""
    count = counted(len(own), "channel in it is", "channels in it are")
    return f"{count} somebody's own: {names}{more}."


def own_channels(memory: Memory, planned: Sequence[Memory]) -> tuple[Channel, ...]:
    """Channels of a radio that no memory of the plan has: neither by name nor by what they do."""
    known: set[object] = set()
    for item in planned:
        known |= {channel.name for channel in item.channels}
        known |= {_sense(channel) for channel in item.channels}
    return tuple(channel for channel in memory.channels if channel.name not in known and _sense(channel) not in known)


def _sense(channel: Channel) -> tuple[object, ...]:
    return (channel.mode, channel.rx_hz, channel.tx_hz, channel.color_code, channel.slot, channel.tone_tx, channel.ur)


class Difference(NamedTuple):
    """What is otherwise in one radio of the table than in another: the field and both values."""

    field: str
    mine: str
    theirs: str


def differs(mine: Memory, theirs: Memory) -> tuple[Difference, ...]:
    """What two memories of the same plan differ in, said without IDs."""
    found: list[Difference] = []
    for field, word in (("call", "call sign"), ("alias", "talker alias"), ("note", "note")):
        if getattr(mine, field) != getattr(theirs, field):
            found.append(Difference(word, getattr(mine, field) or "none", getattr(theirs, field) or "none"))
    if mine.dmr_id != theirs.dmr_id:
        found.append(Difference("DMR ID", "own" if mine.dmr_id else "none yet", "own" if theirs.dmr_id else "none yet"))
    if mine.settings.startup != theirs.settings.startup:
        found.append(Difference("start-up text", mine.settings.startup or "–", theirs.settings.startup or "–"))
    silent = [sum(channel.receive_only for channel in item.channels) for item in (mine, theirs)]
    if silent[0] != silent[1]:
        found.append(Difference("receive-only channels", str(silent[0]), str(silent[1])))
    return tuple(found)
