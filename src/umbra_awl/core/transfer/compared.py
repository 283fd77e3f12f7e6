"""What is compared of a memory, field by field and table by table, and how each is said; a test holds it to every field."""

from collections.abc import Callable
from typing import Any, Literal, NamedTuple

from umbra_awl.core.facts.dmr import mask_id
from umbra_awl.core.facts.dstar import shown
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.fusion import shown_dgid
from umbra_awl.core.facts.modes import MODE_WORDS, of_mode
from umbra_awl.core.facts.width import width_word
from umbra_awl.core.plan.radios import TIME_OUT_OFF
from umbra_awl.core.radio.memory import Channel, HeldSettings, Memory

Table = Literal[
    "identity", "settings", "channel", "zone", "scan list", "contact", "access list", "call sign", "room",
]  # fmt: skip
TABLES: dict[Table, str] = {
    "identity": "Identity",
    "settings": "Settings",
    "channel": "Channels",
    "zone": "Zones",
    "scan list": "Scan lists",
    "contact": "Contacts",
    "access list": "Access list",
    "call sign": "Call signs",
    "room": "Rooms",
}
"""The tables in the order they are shown, with their headings."""


class ComparedSide:
    """One memory with its numbers resolved to what they stand for."""

    def __init__(self, memory: Memory) -> None:
        self.memory = memory
        self.calls = {item.number: (item.call, item.kind) for item in memory.contacts}
        self.contacts = {item.number: item.name for item in memory.contacts}
        self.zones = {item.number: item.name for item in memory.zones}
        self.names = {item.number: item.name for item in memory.channels}
        self.groups = {
            item.number: frozenset(self.calls.get(member) for member in item.members) for item in memory.group_lists
        }


class ComparedField(NamedTuple):
    """One thing compared: the field of the value it is read from, the word for it, how it is said, and in which modes it counts.

    What does not count in a channel's mode is said as nothing, so that what is left over there is no change.
    """

    field: str
    word: str
    say: Callable[[Any, ComparedSide], object]
    modes: frozenset[str] = frozenset(MODE_WORDS)


def _of(field: str) -> Callable[[Any, ComparedSide], object]:
    return lambda item, _side: getattr(item, field)


def _yes(field: str, words: tuple[str, str] = ("no", "yes")) -> Callable[[Any, ComparedSide], object]:
    return lambda item, _side: words[bool(getattr(item, field))]


def _or_none(field: str) -> Callable[[Any, ComparedSide], object]:
    return lambda item, _side: getattr(item, field) or "none"


def _calls(channel: Channel, side: ComparedSide) -> str:
    call = side.calls.get(channel.contact)
    return f"{call[0]} {call[1]}" if call else "nobody"


def _hears(channel: Channel, side: ComparedSide) -> str:
    numbers = sorted(call[0] for call in side.groups.get(channel.group_list, frozenset()) if call)
    return " ".join(map(str, numbers)) or "its contact only"


def _halves(memory: Memory, side: ComparedSide) -> str:
    return ", ".join(side.zones.get(number, "none") for number in memory.halves) or "none"


_FM, _DMR, _DSTAR, _FUSION = (frozenset({mode}) for mode in ("fm", "dmr", "dstar", "fusion"))
CHANNEL: tuple[ComparedField, ...] = (
    ComparedField("rx_hz", "receive", lambda item, _side: format_mhz(item.rx_hz)),
    ComparedField("tx_hz", "transmit", lambda item, _side: format_mhz(item.tx_hz)),
    ComparedField("mode", "mode", lambda item, _side: of_mode(MODE_WORDS, item.mode)),
    ComparedField("receive_only", "receive-only", _yes("receive_only")),
    ComparedField("tone_tx", "tone", _or_none("tone_tx")),
    ComparedField("tone_rx", "receive tone", _or_none("tone_rx")),
    ComparedField("width_hz", "width", lambda item, _side: width_word(item.width_hz), _FM),
    ComparedField("power", "power", lambda item, _side: f"step {item.power + 1}"),
    ComparedField("color_code", "color code", _of("color_code"), _DMR),
    ComparedField("slot", "slot", _of("slot"), _DMR),
    ComparedField("contact", "calls", _calls, _DMR),
    ComparedField("group_list", "hears", _hears, _DMR),
    ComparedField("admit", "admit", _of("admit")),
    ComparedField("promiscuous", "promiscuous", _yes("promiscuous", ("off", "on"))),
    ComparedField("encrypted", "encryption", _yes("encrypted", ("off", "on"))),
    ComparedField("ur", "UR", lambda item, _side: shown(item.ur), _DSTAR),
    ComparedField("rpt1", "RPT1", lambda item, _side: shown(item.rpt1), _DSTAR),
    ComparedField("rpt2", "RPT2", lambda item, _side: shown(item.rpt2), _DSTAR),
    ComparedField("zero_offset", "duplex with offset 0", _yes("zero_offset"), _DSTAR),
    ComparedField("way", "sends", _or_none("way"), _FUSION),
    ComparedField("dgid_tx", "DG-ID", lambda item, _side: shown_dgid(item.dgid_tx), _FUSION),
    ComparedField("dgid_rx", "DG-ID on receive", lambda item, _side: shown_dgid(item.dgid_rx), _FUSION),
)
NOT_COMPARED = frozenset({"number", "name", "route"})
"""What of a channel is no value of its own: where it lies, what it is matched by, where it comes from."""
IDENTITY: tuple[ComparedField, ...] = (
    ComparedField("call", "call sign", _or_none("call")),
    ComparedField("dmr_id", "DMR ID", lambda item, _side: mask_id(item.dmr_id or None)),
    ComparedField("note", "note behind the call sign", _or_none("note")),
    ComparedField("alias", "talker alias", _or_none("alias")),
    ComparedField("one_touch", "call key", lambda item, side: side.contacts.get(item.one_touch, "none")),
    ComparedField("halves", "zones of the halves", _halves),
)
_FREE = {True: "sends", False: "listens only", None: "unknown"}
_ON = {True: "on", False: "off", None: "unknown"}


def _seconds(time_out_s: int) -> str:
    return "off" if time_out_s == TIME_OUT_OFF else f"{time_out_s or '?'} s"


SETTINGS: tuple[ComparedField, ...] = (
    ComparedField("startup", "start-up text", _or_none("startup")),
    ComparedField("position", "position", lambda item, _side: item.position or "unknown"),
    ComparedField("time_out_s", "time-out timer", lambda item, _side: _seconds(item.time_out_s)),
    ComparedField("quick_texts", "quick texts", lambda item, _side: len(item.quick_texts)),
    ComparedField("auto_offset", "automatic offset", lambda item, _side: _ON[item.auto_offset]),
    ComparedField("free_tuning", "free tuning", lambda item, _side: _FREE[item.free_tuning]),
)
"""What holds for the whole radio, without its keys, which are compared one by one."""
UNSET = HeldSettings()


class Rows(NamedTuple):
    """A table of rows that are matched by what they are: the memory's field, and how a row is known, named and said."""

    field: str
    table: Table
    known: Callable[[Any], object]
    say: Callable[[Any], str]


ROWS: tuple[Rows, ...] = (
    Rows("contacts", "contact", lambda item: (item.call, item.kind), lambda item: f"{item.call} {item.kind}"),
    Rows(
        "access_list", "access list", lambda item: (item.rpt1, item.rpt2, item.rx_hz, item.tx_hz),
        lambda item: f"{shown(item.rpt1)} {format_mhz(item.rx_hz)}",
    ),
    Rows("call_signs", "call sign", lambda item: item.ur, lambda item: shown(item.ur)),
    Rows("rooms", "room", lambda item: item.room, lambda item: f"room {item.room}"),
)  # fmt: skip
LISTS: tuple[tuple[str, Table], ...] = (("zones", "zone"), ("scans", "scan list"))
"""Lists of channels, matched by name; what a receive group list holds is said at each channel that uses it."""
