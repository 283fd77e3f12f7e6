"""From the plain rows of a layout's files to a memory: names resolved to numbers, what is missing made, faults said."""

import re
from collections.abc import Iterable
from typing import Any

from umbra_awl.core.columns.csv_in import UNREAD, RowFault, Sheets
from umbra_awl.core.columns.fields import BETWEEN, Plain, What
from umbra_awl.core.columns.tones import tones_of
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.modes import MODE_WORDS, code_in, modes_in
from umbra_awl.core.facts.shift import Pair, Shift, ShiftError, pair_told, read_direction, read_shift
from umbra_awl.core.facts.tones import ToneError
from umbra_awl.core.facts.width import NARROW_HZ, parse_width
from umbra_awl.core.radio.memory import AccessEntry, CallSign, Channel, Contact, Memory, MemoryList, Room


class MemoryMaker:
    """Makes one memory from the tables of a layout's files."""

    def __init__(self, sheets: Sheets, profile: str = "") -> None:
        self._tables = sheets.tables
        self._profile = profile
        self.faults: list[RowFault] = []
        self._untold: dict[str, int] = {}
        self._contacts: dict[int, Contact] = {}
        self._by_name: dict[str, int] = {}
        self._by_call: dict[tuple[str, str], int] = {}

    def make(self) -> Memory:
        """The memory. What does not resolve is in `faults` afterwards."""
        for row in self._tables.get("contacts", ()):
            self._contact(row.get("name", ""), row.get("call", "0"), row.get("kind", "group"))
        groups, group_numbers = self._lists("group lists", self._by_name, "contact")
        channels = self._channels(group_numbers)
        self._say_untold()
        names = {channel.name: channel.number for channel in channels}
        zones, _numbers = self._lists("zones", names, "channel")
        scans, _numbers = self._lists("scan lists", names, "channel")
        return Memory(
            self._profile,
            channels=tuple(channels),
            contacts=tuple(self._contacts.values()),
            group_lists=tuple(groups),
            zones=tuple(zones) or tuple(self._named_in_channels("zone", channels)),
            scans=tuple(scans) or tuple(self._named_in_channels("scan", channels)),
            access_list=tuple(self._access_list()),
            call_signs=tuple(
                CallSign(at, row.get("name", ""), row["ur"])
                for at, row in enumerate(self._tables.get("call signs", ()), 1)
            ),
            rooms=tuple(
                Room(at, row.get("name", ""), int(row["room"]))
                for at, row in enumerate(self._tables.get("rooms", ()), 1)
            ),
        )

    def _contact(self, name: str, call: str, kind: str) -> int:
        number = self._by_call.get((call, kind))
        if number is None:
            number = len(self._contacts) + 1
            self._contacts[number] = Contact(
                number, name or call, int(call), "private" if kind == "private" else "group"
            )
            self._by_call[call, kind] = number
        self._by_name.setdefault(name, number)
        return number

    def _lists(self, what: What, names: dict[str, int], noun: str) -> tuple[list[MemoryList], dict[str, int]]:
        made: list[MemoryList] = []
        for row in self._tables.get(what, ()):
            members: list[int] = []
            for name in filter(None, row.get("members", "").split(BETWEEN)):
                if name in names:
                    members.append(names[name])
                else:
                    self.faults.append(
                        RowFault(what, 0, f"“{row.get('name', '')}” holds the {noun} “{name}”, which is not there.")
                    )
            priority = names.get(row.get("priority", ""), 0)
            made.append(
                MemoryList(len(made) + 1, row.get("name", ""), tuple(members), priority, int(row.get("hang", 0)))
            )
        return made, {item.name: item.number for item in made}

    def _channels(self, groups: dict[str, int]) -> list[Channel]:
        made: list[Channel] = []
        taken: set[int] = set()
        for row in self._tables.get("channels", ()):
            number = int(row.get("number", 0))
            while number < 1 or number in taken:
                number = max(taken, default=0) + 1
            taken.add(number)
            made.append(self._channel(row, number, groups))
        return made

    def _channel(self, row: Plain, number: int, groups: dict[str, int]) -> Channel:
        rx_hz = int(row["rx"])
        mode = self._mode(row)
        common: dict[str, Any] = {
            "receive_only": row.get("receive_only") == "on",
            "power": int(row.get("power", 0)),
            "admit": row.get("admit", "always"),
        }
        tx_hz = self._tx_hz(row, rx_hz, common)
        return Channel(number, row["name"], mode, rx_hz, tx_hz, **common, **self._of_mode(row, mode, groups))

    def _mode(self, row: Plain) -> Any:
        """The mode told, in our word or in a text; else what its fields speak of."""
        told = row.get("mode", "")
        if told:
            return told if told in MODE_WORDS else modes_in(told)[0]
        return "dmr" if row.get("color_code") else "dstar" if row.get("rpt1", "").strip() else "fm"

    def _tx_hz(self, row: Plain, rx_hz: int, common: dict[str, Any]) -> int:
        """What is sent on. Where it was not understood, the channel only listens, and that is said."""
        fault = f"“{row[UNREAD]}” was not understood" if UNREAD in row and "tx" not in row else ""
        try:
            pair = pair_told(rx_hz, int(row["tx"]) if "tx" in row else None, *_told(row))
        except ShiftError as error:
            fault, pair = str(error).rstrip("."), Pair(rx_hz, rx_hz)
        if fault:
            common["receive_only"] = True
            self._say(row, f"{fault}, so it only listens.")
        for note in pair.notes:
            self._say(row, f"{note}.")
        return pair.tx_hz

    def _say(self, row: Plain, text: str) -> None:
        self.faults.append(RowFault("channels", 0, f"“{row['name']}”: {text}"))

    def _of_mode(self, row: Plain, mode: str, groups: dict[str, int]) -> dict[str, Any]:
        if mode == "fm":
            sent, awaited = self._tones(row)
            return {"tone_tx": sent, "tone_rx": awaited, "width_hz": self._width(row)}
        if mode == "dmr":
            return self._dmr(row, groups)
        if mode == "dstar":
            fields = {name: row.get(name, "").ljust(8) for name in ("ur", "rpt1", "rpt2")}
            return {**fields, "zero_offset": row.get("zero_offset") == "on"}
        return {"way": row.get("way", ""), "dgid_tx": int(row.get("dgid_tx", 0)), "dgid_rx": int(row.get("dgid_rx", 0))}

    def _tones(self, row: Plain) -> tuple[str, str]:
        """What is sent and what is waited for; where none says which of a tone and a code is in force, that is said."""
        try:
            tones = tones_of(row)
        except ToneError as error:
            self._say(row, str(error))
            return "", ""
        if tones.told:
            self._say(row, tones.told)
        return tones.sent, tones.awaited

    def _dmr(self, row: Plain, groups: dict[str, int]) -> dict[str, Any]:
        return {
            "color_code": self._color(row),
            "slot": int(row.get("slot", 0)),
            "contact": self._called(row),
            "group_list": self._hears(row, groups),
            "promiscuous": row.get("promiscuous") == "on",
            "encrypted": row.get("encrypted") == "on",
        }

    def _hears(self, row: Plain, groups: dict[str, int]) -> int:
        """The receive group list a channel opens for; one that no file given holds is said."""
        name = row.get("group_list", "")
        if name and name not in groups:
            self._say(row, f"opens for “{name}”, which is in no list of groups given.")
        return groups.get(name, 0)

    def _width(self, row: Plain) -> int:
        told = parse_width(row.get("width", "")) or parse_width(row.get("mode", ""), mode=True)
        if told is None:
            self._untold["width"] = self._untold.get("width", 0) + 1
        return told or NARROW_HZ

    def _color(self, row: Plain) -> int:
        told = row.get("color_code") or code_in(row.get("mode", ""))
        if told is None:
            self._untold["color code"] = self._untold.get("color code", 0) + 1
        return int(told if told is not None else 1)

    def _say_untold(self) -> None:
        """What no cell told and was taken all the same, once for all rows."""
        for what, taken in (("width", "narrow"), ("color code", "1")):
            if count := self._untold.get(what):
                of = counted(count, f"channel tells no {what}", f"channels tell no {what}")
                self.faults.append(RowFault("channels", 0, f"{of}; {taken} is taken."))

    def _called(self, row: Plain) -> int:
        """The contact a channel calls: by number where the row gives it, else by name."""
        name, call = row.get("contact", ""), row.get("contact_number")
        if call:
            return self._contact(name, call, row.get("call_kind", "group"))
        if not name:
            return 0
        if name not in self._by_name:
            self.faults.append(
                RowFault("channels", 0, f"“{row['name']}” calls “{name}”, which is in no list of contacts.")
            )
        return self._by_name.get(name, 0)

    def _named_in_channels(self, field: str, channels: Iterable[Channel]) -> list[MemoryList]:
        """Zones or scan lists that only the channels' rows name."""
        held: dict[str, list[int]] = {}
        for row, channel in zip(self._tables.get("channels", ()), channels, strict=True):
            for name in filter(None, row.get(field, "").split(BETWEEN)):
                held.setdefault(name, []).append(channel.number)
        return [MemoryList(at, name, tuple(numbers)) for at, (name, numbers) in enumerate(held.items(), 1)]

    def _access_list(self) -> list[AccessEntry]:
        return [
            AccessEntry(
                at, row.get("name", ""), row["rpt1"], row.get("rpt2", ""), int(row["rx"]), int(row.get("tx", row["rx"]))
            )
            for at, row in enumerate(self._tables.get("access list", ()), 1)
        ]


def _told(row: Plain) -> tuple[Shift, Shift]:
    """What a row tells of the shift: its size, perhaps with the sign, and its direction."""
    size, direction = row.get("offset") or row.get("offset_size", ""), row.get("shift", "")
    way = read_direction(direction if direction != "off" else "simplex")
    told = _in_hertz(size, signed="offset" in row)
    return told if way.sign is None or told.sign == -1 else told._replace(sign=None), way


def _in_hertz(text: str, *, signed: bool) -> Shift:
    """A size in hertz as the columns give it, or a shift told in words."""
    if not re.fullmatch(r"-?\d+", text):
        return read_shift(text)
    hz = int(text)
    sign = (hz > 0) - (hz < 0)
    return Shift(sign if signed or sign < 1 else None, abs(hz))
