"""What a memory has to write into columns: for each table its rows, for each row its values by field name."""

from collections.abc import Callable
from functools import cache
from typing import Literal, NamedTuple, cast

from umbra_awl.core.facts.modes import EVERY_MODE
from umbra_awl.core.facts.tone_kinds import TONE_KINDS
from umbra_awl.core.facts.width import NARROW_HZ
from umbra_awl.core.plan.model import Mode
from umbra_awl.core.radio.memory import Channel, Memory, MemoryList

What = Literal[
    "channels", "contacts", "group lists", "zones", "scan lists", "access list", "call signs", "rooms", "people"
]  # fmt: skip
FieldKind = Literal["text", "number", "hz", "word", "names"]
Plain = dict[str, str]
"""A row as field name to value: numbers and hertz as digits, words as ours, names joined by the unit separator."""
BETWEEN = "\x1f"


class ColumnField(NamedTuple):
    """A field of a table: its label, its kind, and our words where it has some."""

    label: str
    kind: FieldKind
    words: tuple[str, ...] = ()


_LIST: dict[str, ColumnField] = {
    "number": ColumnField("Number", "number"),
    "name": ColumnField("Name", "text"),
    "members": ColumnField("Members, joined", "names"),
    "member": ColumnField("Member", "text"),
}
FIELDS: dict[What, dict[str, ColumnField]] = {
    "channels": {
        "number": ColumnField("Number", "number"),
        "name": ColumnField("Name", "text"),
        "mode": ColumnField("Mode", "word", EVERY_MODE),
        "rx": ColumnField("Receive frequency", "hz"),
        "tx": ColumnField("Transmit frequency", "hz"),
        "shift": ColumnField("Shift", "word", ("off", "+", "-")),
        "offset": ColumnField("Offset, signed", "hz"),
        "offset_size": ColumnField("Offset, without sign", "hz"),
        "tone_tx": ColumnField("Tone sent", "text"),
        "tone_rx": ColumnField("Tone waited for", "text"),
        "tone_kind": ColumnField("Kind of tone", "word", TONE_KINDS),
        "code_tx": ColumnField("DCS code sent", "text"),
        "code_rx": ColumnField("DCS code waited for", "text"),
        "code_sense": ColumnField("Sense of the code", "text"),
        "width": ColumnField("Width", "word", ("narrow", "wide")),
        "power": ColumnField("Power step", "word", ("0", "1", "2", "3", "4")),
        "color_code": ColumnField("Color code", "number"),
        "slot": ColumnField("Time slot", "number"),
        "contact": ColumnField("Contact, by name", "text"),
        "contact_number": ColumnField("Contact, by number", "number"),
        "call_kind": ColumnField("Kind of call", "word", ("group", "private")),
        "group_list": ColumnField("Receive group list", "text"),
        "admit": ColumnField("Transmit when", "word", ("always", "free", "color")),
        "receive_only": ColumnField("Receive only", "word", ("off", "on")),
        "promiscuous": ColumnField("Opens for all", "word", ("off", "on")),
        "encrypted": ColumnField("Encryption", "word", ("off", "on")),
        "ur": ColumnField("UR", "text"),
        "rpt1": ColumnField("RPT1", "text"),
        "rpt2": ColumnField("RPT2", "text"),
        "zero_offset": ColumnField("Duplex, offset 0", "word", ("off", "on")),
        "way": ColumnField("Fusion way", "text"),
        "dgid_tx": ColumnField("DG-ID sent", "number"),
        "dgid_rx": ColumnField("DG-ID heard", "number"),
        "zone": ColumnField("Zones", "names"),
        "scan": ColumnField("Scan lists", "names"),
    },
    "contacts": {
        "number": ColumnField("Number in the list", "number"),
        "name": ColumnField("Name", "text"),
        "call": ColumnField("Number called", "number"),
        "kind": ColumnField("Kind of call", "word", ("group", "private")),
    },
    "group lists": _LIST,
    "zones": _LIST,
    "scan lists": {
        **_LIST,
        "priority": ColumnField("Priority channel", "text"),
        "hang": ColumnField("Stays, in ms", "number"),
    },
    "access list": {
        "number": ColumnField("Number", "number"),
        "name": ColumnField("Name", "text"),
        "rpt1": ColumnField("Access (RPT1)", "text"),
        "rpt2": ColumnField("Gateway (RPT2)", "text"),
        "rx": ColumnField("Receive frequency", "hz"),
        "tx": ColumnField("Transmit frequency", "hz"),
    },
    "call signs": {
        "number": ColumnField("Number", "number"),
        "name": ColumnField("Name", "text"),
        "ur": ColumnField("UR", "text"),
    },
    "rooms": {
        "number": ColumnField("Number", "number"),
        "name": ColumnField("Name", "text"),
        "room": ColumnField("Room", "number"),
    },
    "people": {
        "id": ColumnField("DMR ID", "number"),
        "call": ColumnField("Call sign", "text"),
        "name": ColumnField("Name", "text"),
        "place": ColumnField("Place", "text"),
        "country": ColumnField("Country", "text"),
    },
}  # fmt: skip
NEEDED: dict[What, tuple[tuple[str, ...], ...]] = {
    "channels": (("name",), ("rx",)),
    "contacts": (("name",), ("call",)),
    "group lists": (("name",), ("members", "member")),
    "zones": (("name",), ("members", "member")),
    "scan lists": (("name",), ("members", "member")),
    "access list": (("rpt1",), ("rx",)),
    "call signs": (("ur",),),
    "rooms": (("room",),),
    "people": (("id",), ("call",)),
}


def _on(flag: bool) -> str:
    return "on" if flag else "off"


class MemoryRows:
    """A memory's tables as plain rows, with numbers resolved to the names they stand for."""

    def __init__(self, memory: Memory, people: tuple[tuple[int, str, str, str, str], ...] = ()) -> None:
        self._memory = memory
        self._people = people
        self._contacts = {item.number: item for item in memory.contacts}
        self._groups = {item.number: item.name for item in memory.group_lists}
        self._names = {item.number: item.name for item in memory.channels}
        self._zones = _holders(memory.zones)
        self._scans = _holders(memory.scans)

    def rows(self, what: What) -> list[Plain]:
        """The rows of a table."""
        memory = self._memory
        makers: dict[What, Callable[[], list[Plain]]] = {
            "channels": lambda: [self._channel(item) for item in memory.channels],
            "contacts": lambda: [
                {"number": str(item.number), "name": item.name, "call": str(item.call), "kind": item.kind}
                for item in memory.contacts
            ],
            "group lists": lambda: self._lists(
                memory.group_lists, {number: item.name for number, item in self._contacts.items()}
            ),
            "zones": lambda: self._lists(memory.zones, self._names),
            "scan lists": lambda: self._lists(memory.scans, self._names),
            "access list": lambda: [
                {
                    "number": str(item.number),
                    "name": item.name,
                    "rpt1": item.rpt1,
                    "rpt2": item.rpt2,
                    "rx": str(item.rx_hz),
                    "tx": str(item.tx_hz),
                }
                for item in memory.access_list
            ],
            "call signs": lambda: [
                {"number": str(item.number), "name": item.name, "ur": item.ur} for item in memory.call_signs
            ],
            "rooms": lambda: [
                {"number": str(item.number), "name": item.name, "room": str(item.room)} for item in memory.rooms
            ],
            "people": lambda: [
                dict(zip(("id", "call", "name", "place", "country"), map(str, row), strict=True))
                for row in self._people
            ],
        }
        return makers[what]()

    def _lists(self, lists: tuple[MemoryList, ...], names: dict[int, str]) -> list[Plain]:
        return [
            {
                "number": str(item.number),
                "name": item.name,
                "members": BETWEEN.join(names[number] for number in item.members if number in names),
                "priority": names.get(item.priority, ""),
                "hang": str(item.hang_ms),
            }
            for item in lists
        ]

    def _channel(self, channel: Channel) -> Plain:
        shift_hz = channel.tx_hz - channel.rx_hz
        plain = {
            "number": str(channel.number),
            "name": channel.name,
            "mode": channel.mode,
            "rx": str(channel.rx_hz),
            "tx": str(channel.tx_hz),
            "shift": "+" if shift_hz > 0 else "-" if shift_hz else "off",
            "offset": str(shift_hz),
            "offset_size": str(abs(shift_hz)),
            "power": str(channel.power),
            "admit": channel.admit,
            "receive_only": _on(channel.receive_only),
            "zone": BETWEEN.join(self._zones.get(channel.number, ())),
            "scan": BETWEEN.join(self._scans.get(channel.number, ())),
        }
        return plain | self._of_mode(channel)

    def _of_mode(self, channel: Channel) -> Plain:
        if channel.mode == "fm":
            width = "narrow" if channel.width_hz <= NARROW_HZ else "wide"
            return {"tone_tx": channel.tone_tx, "tone_rx": channel.tone_rx, "width": width}
        if channel.mode == "dmr":
            contact = self._contacts.get(channel.contact)
            return {
                "color_code": str(channel.color_code),
                "slot": str(channel.slot),
                "contact": contact.name if contact else "",
                "contact_number": str(contact.call) if contact else "",
                "call_kind": contact.kind if contact else "",
                "group_list": self._groups.get(channel.group_list, ""),
                "promiscuous": _on(channel.promiscuous),
                "encrypted": _on(channel.encrypted),
            }
        if channel.mode == "dstar":
            return {
                "ur": channel.ur,
                "rpt1": channel.rpt1,
                "rpt2": channel.rpt2,
                "zero_offset": _on(channel.zero_offset),
            }
        return {"way": channel.way, "dgid_tx": str(channel.dgid_tx), "dgid_rx": str(channel.dgid_rx)}


@cache
def told_of(mode: str) -> frozenset[str]:
    """The fields that a channel of a mode tells; what others of its row hold is not its business."""
    channel = Channel(1, "x", cast("Mode", mode), 145_500_000, 145_500_000)
    return frozenset(MemoryRows(Memory("", channels=(channel,))).rows("channels")[0])


def _holders(lists: tuple[MemoryList, ...]) -> dict[int, list[str]]:
    """Member number to the names of the lists that hold it."""
    found: dict[int, list[str]] = {}
    for item in lists:
        for number in item.members:
            found.setdefault(number, []).append(item.name)
    return found
