"""The records of a radio's tables, byte by byte: each packed from a row of a memory and read back into it.

Records are little-endian.

- Channel: rx u32, tx u32 (hertz), mode u8 (0 empty), flags u8, power u8, color code << 4 | slot, contact u16, group list u16,
  admit u8, transmit tone u16, receive tone u16 (places in the tone table), name; then of a D-STAR radio UR, RPT1 and RPT2 of
  eight, of a System Fusion radio its way u8 and the two DG-IDs u8.
- Contact: call u32, kind u8 (0 empty), name.
- List: count u8 (0 empty), name, members u16; a scan list after them its priority channel u16 and the milliseconds it stays u16.
- Line of the access list: rx u32 (0 empty), tx u32, RPT1, RPT2, name. Call sign: UR (zeros: empty), name.
- Room: number u32 (0 empty), name.
"""

import struct
from collections.abc import Callable
from typing import Any, NamedTuple

from umbra_awl.core.facts.modes import ByMode, by_mode
from umbra_awl.core.facts.tones import TONES, tone_index
from umbra_awl.core.facts.width import NARROW_HZ, WIDE_HZ
from umbra_awl.core.plan.model import Admit, CallKind, Mode
from umbra_awl.core.radio.memory import AccessEntry, CallSign, Channel, Contact, MemoryList, Room
from umbra_awl.core.radio.profile import ImageRegion, Profile

_CHANNEL = struct.Struct("<IIBBBBHHBHH")
_CONTACT = struct.Struct("<IB")
_SCAN_TAIL = struct.Struct("<HH")
_PAIR = struct.Struct("<II")
_ROOM = struct.Struct("<I")
_FIELD = 8
_NUMBERS: ByMode[int] = {"fm": 1, "dmr": 2, "dstar": 3, "fusion": 4}
_MODES: tuple[Mode | None, ...] = (None, *(mode for mode, _at in sorted(by_mode(_NUMBERS), key=lambda row: row[1])))
_ADMITS: tuple[Admit, ...] = ("always", "free", "color")
_KINDS: tuple[CallKind | None, ...] = (None, "group", "private")
_WAYS = ("", "FM", "AMS", "DN", "VW")
_RECEIVE_ONLY, _PROMISCUOUS, _ENCRYPTED, _WIDE, _ZERO_OFFSET = 1, 2, 4, 8, 16


class ImageTable(NamedTuple):
    """One table of an image: the memory's field, where it lies, how many records, how many bytes of each are ours.

    `pack` makes the bytes of a row; `read` a row of them and its number, or None for an empty record.
    """

    field: str
    region: ImageRegion
    records: int
    owned: int
    pack: Callable[[Any], bytes]
    read: Callable[[bytes, int], Any]

    def spans(self) -> list[tuple[int, int]]:
        """The bytes that are ours, from and to."""
        starts = range(self.region.at, self.region.at + self.records * self.region.record, self.region.record)
        return [(at, at + self.owned) for at in starts]


def tables_of(profile: Profile) -> list[ImageTable]:
    """The tables that a profile's image has."""
    image, limits, width = profile.image, profile.limits, profile.display.length
    lists = _ListForm(width)
    scan = 1 + width + 2 * limits.scan_members
    found = [
        ImageTable("channels", image.channels, limits.channels, channel_size(profile),
              lambda row: _pack_channel(row, profile), lambda raw, at: _read_channel(raw, at, profile)),
        ImageTable("contacts", image.contacts, limits.contacts, _CONTACT.size + width,
              lambda row: _pack_contact(row, width), _read_contact),
        ImageTable("group_lists", image.group_lists, limits.group_lists, 1 + width + 2 * limits.group_list_members,
              lists.pack(limits.group_list_members), lists.read(limits.group_list_members)),
        ImageTable("zones", image.zones, limits.zones, 1 + width + 2 * limits.zone_channels,
              lists.pack(limits.zone_channels), lists.read(limits.zone_channels)),
        ImageTable("scans", image.scans, limits.scan_lists, scan + _SCAN_TAIL.size,
              lists.pack(limits.scan_members, tail=True), lists.read(limits.scan_members, tail=True)),
        ImageTable("access_list", image.access_list, limits.access_list, _PAIR.size + 2 * _FIELD + width,
              lambda row: _pack_access(row, width), _read_access),
        ImageTable("call_signs", image.call_signs, limits.call_signs, _FIELD + width,
              lambda row: _field(row.ur) + name_bytes(row.name, width), _read_call_sign),
        ImageTable("rooms", image.rooms, limits.rooms, _ROOM.size + width,
              lambda row: _ROOM.pack(row.room) + name_bytes(row.name, width), _read_room),
    ]  # fmt: skip
    return [table for table in found if table.region.record]


def name_bytes(name: str, width: int) -> bytes:
    """A text of so many bytes, padded with spaces."""
    return name.encode("ascii", "replace")[:width].ljust(width)


def text_of(raw: bytes) -> str:
    """The text in some bytes, without its padding."""
    return raw.decode("ascii", "replace").rstrip(" \0")


def _field(text: str) -> bytes:
    """A routing field; one that is not given is zeros, which is another thing than eight blanks."""
    return name_bytes(text, _FIELD) if text else bytes(_FIELD)


def _read_field(raw: bytes) -> str:
    return raw.decode("ascii", "replace") if raw.strip(b"\0") else ""


def channel_size(profile: Profile) -> int:
    """How many bytes of a channel's record are ours."""
    return _CHANNEL.size + profile.display.length + _tail_size(profile)


def _tail_size(profile: Profile) -> int:
    return (3 * _FIELD if "dstar" in profile.modes else 0) + (3 if "fusion" in profile.modes else 0)


def _flags(channel: Channel) -> int:
    return (
        (_RECEIVE_ONLY if channel.receive_only else 0)
        | (_PROMISCUOUS if channel.promiscuous else 0)
        | (_ENCRYPTED if channel.encrypted else 0)
        | (_WIDE if channel.width_hz > NARROW_HZ else 0)
        | (_ZERO_OFFSET if channel.zero_offset else 0)
    )


def _pack_channel(channel: Channel, profile: Profile) -> bytes:
    if channel.mode not in profile.modes:
        raise ValueError(f"{channel.mode} is no mode of a {profile.name}")
    if channel.way not in _WAYS:
        raise ValueError(f"“{channel.way[:10]}” is no way of sending; there are FM, AMS, DN and VW")
    head = _CHANNEL.pack(
        channel.rx_hz,
        channel.tx_hz,
        _MODES.index(channel.mode),
        _flags(channel),
        channel.power,
        channel.color_code << 4 | channel.slot,
        channel.contact,
        channel.group_list,
        _ADMITS.index(channel.admit),
        _tone_place(channel.tone_tx),
        _tone_place(channel.tone_rx),
    )
    fields = b"".join(map(_field, (channel.ur, channel.rpt1, channel.rpt2))) if "dstar" in profile.modes else b""
    digital = bytes([_WAYS.index(channel.way), channel.dgid_tx, channel.dgid_rx]) if "fusion" in profile.modes else b""
    return head + name_bytes(channel.name, profile.display.length) + fields + digital


def _tone_place(tone: str) -> int:
    return tone_index(tone) if tone in TONES else 0


def _read_channel(raw: bytes, number: int, profile: Profile) -> Channel | None:
    rx_hz, tx_hz, mode, flags, power, color_slot, contact, group, admit, tone_tx, tone_rx = _CHANNEL.unpack_from(raw)
    spoken = _MODES[mode] if mode < len(_MODES) else None
    if spoken is None or spoken not in profile.modes:
        return None
    name_end = _CHANNEL.size + profile.display.length
    return Channel(
        number,
        text_of(raw[_CHANNEL.size : name_end]),
        spoken,
        rx_hz,
        tx_hz,
        receive_only=bool(flags & _RECEIVE_ONLY),
        tone_tx=TONES[tone_tx] if tone_tx < len(TONES) else "",
        tone_rx=TONES[tone_rx] if tone_rx < len(TONES) else "",
        width_hz=WIDE_HZ if flags & _WIDE else NARROW_HZ,
        power=power,
        color_code=color_slot >> 4,
        slot=color_slot & 0xF,
        contact=contact,
        group_list=group,
        admit=_ADMITS[admit] if admit < len(_ADMITS) else "always",
        promiscuous=bool(flags & _PROMISCUOUS),
        encrypted=bool(flags & _ENCRYPTED),
        zero_offset=bool(flags & _ZERO_OFFSET),
        **_read_tail(raw[name_end:], profile),
    )


def _read_tail(tail: bytes, profile: Profile) -> dict[str, Any]:
    """What of a channel stands behind its name, by field."""
    found: dict[str, Any] = {}
    if "dstar" in profile.modes:
        for place, name in enumerate(("ur", "rpt1", "rpt2")):
            found[name] = _read_field(tail[place * _FIELD : (place + 1) * _FIELD])
        tail = tail[3 * _FIELD :]
    if "fusion" in profile.modes:
        way, found["dgid_tx"], found["dgid_rx"] = tail[:3]
        found["way"] = _WAYS[way] if way < len(_WAYS) else ""
    return found


def _pack_contact(contact: Contact, width: int) -> bytes:
    return _CONTACT.pack(contact.call, _KINDS.index(contact.kind)) + name_bytes(contact.name, width)


def _read_contact(raw: bytes, number: int) -> Contact | None:
    call, code = _CONTACT.unpack_from(raw)
    kind = _KINDS[code] if code < len(_KINDS) else None
    return Contact(number, text_of(raw[_CONTACT.size :]), call, kind) if kind is not None else None


class _ListForm(NamedTuple):
    """The form of a list's record, with names of so many characters; `tail` adds what a scan list has behind its members."""

    width: int

    def pack(self, longest: int, *, tail: bool = False) -> Callable[[MemoryList], bytes]:
        """What packs a list of at most so many members."""

        def packed(item: MemoryList) -> bytes:
            members = item.members[:longest]
            numbers = struct.pack(f"<{len(members)}H", *members).ljust(2 * longest, b"\0")
            end = _SCAN_TAIL.pack(item.priority, item.hang_ms & 0xFFFF) if tail else b""
            return bytes([len(members)]) + name_bytes(item.name, self.width) + numbers + end

        return packed

    def read(self, longest: int, *, tail: bool = False) -> Callable[[bytes, int], MemoryList | None]:
        """What reads such a list."""
        members_at = 1 + self.width

        def found(raw: bytes, number: int) -> MemoryList | None:
            held = raw[0]
            if not 0 < held <= longest:
                return None
            members = struct.unpack_from(f"<{held}H", raw, members_at)
            end = _SCAN_TAIL.unpack_from(raw, members_at + 2 * longest) if tail else (0, 0)
            return MemoryList(number, text_of(raw[1:members_at]), members, *end)

        return found


def _pack_access(entry: AccessEntry, width: int) -> bytes:
    fields = _field(entry.rpt1) + _field(entry.rpt2)
    return _PAIR.pack(entry.rx_hz, entry.tx_hz) + fields + name_bytes(entry.name, width)


def _read_access(raw: bytes, number: int) -> AccessEntry | None:
    rx_hz, tx_hz = _PAIR.unpack_from(raw)
    if not rx_hz:
        return None
    at = _PAIR.size
    rpt1, rpt2 = (_read_field(raw[at + place * _FIELD : at + (place + 1) * _FIELD]) for place in (0, 1))
    return AccessEntry(number, text_of(raw[at + 2 * _FIELD :]), rpt1, rpt2, rx_hz, tx_hz)


def _read_call_sign(raw: bytes, number: int) -> CallSign | None:
    ur = _read_field(raw[:_FIELD])
    return CallSign(number, text_of(raw[_FIELD:]), ur) if ur else None


def _read_room(raw: bytes, number: int) -> Room | None:
    room = _ROOM.unpack_from(raw)[0]
    return Room(number, text_of(raw[_ROOM.size :]), room) if room else None
