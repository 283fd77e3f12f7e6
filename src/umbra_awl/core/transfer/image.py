"""A radio's image, byte by byte: our tables packed into it and read out of it, everything else left alone.

Records are little-endian. A channel: rx u32, tx u32 (hertz), mode u8 (0 empty), flags u8, power u8, color code << 4 | slot,
contact u16, group list u16, admit u8, transmit tone u16, receive tone u16 (places in the tone table), name. A contact: call
u32, kind u8 (0 empty), name. A list: count u8 (0 empty), name, members u16; a scan list after them its priority channel u16
and the milliseconds it stays u16. The tail of each record is the radio's own. The identity: call sign of 8, ID u32, and where
the radio has them the one-touch contact u16, the zones of the halves A and B u16, the talker alias.
"""

import struct

from msgspec.structs import replace

from umbra_awl.core.facts.tones import TONES, tone_index
from umbra_awl.core.facts.width import NARROW_HZ, WIDE_HZ
from umbra_awl.core.plan.model import Admit, CallKind, Mode
from umbra_awl.core.radio.memory import Channel, Contact, Memory, MemoryList
from umbra_awl.core.radio.profile import ImageRegion, Profile
from umbra_awl.core.transfer.errors import ImageError
from umbra_awl.core.transfer.image_settings import put_settings, read_settings, settings_span

_CHANNEL = struct.Struct("<IIBBBBHHBHH")
_CONTACT = struct.Struct("<IB")
_IDENTITY = struct.Struct("<8sI")
_EXTRAS = struct.Struct("<HHH")
_SCAN_TAIL = struct.Struct("<HH")
_MODES: tuple[Mode | None, ...] = (None, "fm", "dmr")
_ADMITS: tuple[Admit, ...] = ("always", "free", "color")
_KINDS: tuple[CallKind | None, ...] = (None, "group", "private")
_RECEIVE_ONLY, _PROMISCUOUS, _ENCRYPTED, _WIDE = 1, 2, 4, 8


def merge(image: bytes, memory: Memory, profile: Profile) -> bytes:
    """The image with our tables replaced by a memory; every byte that is not ours stays. Raises ImageError."""
    _check_size(image, profile)
    try:
        return _merged(image, memory, profile)
    except (struct.error, ValueError) as error:
        raise ImageError(f"The memory holds a value that the radio's bytes cannot: {error}.") from None


def _merged(image: bytes, memory: Memory, profile: Profile) -> bytes:
    merged = bytearray(image)
    layout, limits, width = profile.image, profile.limits, profile.display.length
    call = memory.call.encode("ascii", "replace")[:8].ljust(8)
    _IDENTITY.pack_into(merged, layout.identity_at, call, memory.dmr_id)
    _put_extras(merged, memory, profile)
    put_settings(merged, memory.settings, profile)
    channels = [_pack_channel(item, width) for item in memory.channels]
    _put(merged, layout.channels, limits.channels, channels, _CHANNEL.size + width)
    contacts = [_CONTACT.pack(item.call, _KINDS.index(item.kind)) + _name(item.name, width) for item in memory.contacts]
    _put(merged, layout.contacts, limits.contacts, contacts, _CONTACT.size + width)
    for region, count, longest, rows in (
        (layout.group_lists, limits.group_lists, limits.group_list_members, memory.group_lists),
        (layout.zones, limits.zones, limits.zone_channels, memory.zones),
    ):
        packed = [_pack_list(item, width, longest) for item in rows]
        _put(merged, region, count, packed, 1 + width + 2 * longest)
    longest = limits.scan_members
    packed = [
        _pack_list(item, width, longest) + _SCAN_TAIL.pack(item.priority, item.hang_ms & 0xFFFF)
        for item in memory.scans
    ]
    _put(merged, layout.scans, limits.scan_lists, packed, 1 + width + 2 * longest + _SCAN_TAIL.size)
    return bytes(merged)


def _extras_span(profile: Profile) -> tuple[int, int]:
    """Where the one-touch contact, the halves and the alias lie: from, length; no length for radios that have none of them."""
    extras = profile.extras
    has = extras.one_touch or extras.alias or extras.halves > 1
    return profile.image.identity_at + _IDENTITY.size, _EXTRAS.size + extras.alias if has else 0


def _put_extras(merged: bytearray, memory: Memory, profile: Profile) -> None:
    at, length = _extras_span(profile)
    if length:
        halves = (*memory.halves, 0, 0)
        _EXTRAS.pack_into(merged, at, memory.one_touch, halves[0], halves[1])
        merged[at + _EXTRAS.size : at + length] = _name(memory.alias, profile.extras.alias)


def _decode_extras(image: bytes, profile: Profile) -> tuple[str, int, tuple[int, ...]]:
    """Talker alias, one-touch contact, zones of the halves."""
    at, length = _extras_span(profile)
    if not length:
        return "", 0, ()
    one_touch, half_a, half_b = _EXTRAS.unpack_from(image, at)
    halves = (half_a, half_b) if half_b else (half_a,) if half_a else ()
    return _text(image[at + _EXTRAS.size : at + length]), one_touch, halves


def _check_size(image: bytes, profile: Profile) -> None:
    if len(image) != profile.image.size:
        raise ImageError(f"The image has {len(image)} bytes; a {profile.name} has {profile.image.size}.")


def _put(merged: bytearray, region: ImageRegion, count: int, rows: list[bytes], owned: int) -> None:
    blank = bytes(owned)
    for place in range(count):
        at = region.at + place * region.record
        merged[at : at + owned] = rows[place] if place < len(rows) else blank


def _name(name: str, width: int) -> bytes:
    return name.encode("ascii", "replace")[:width].ljust(width)


def _pack_channel(channel: Channel, width: int) -> bytes:
    flags = (
        (_RECEIVE_ONLY if channel.receive_only else 0)
        | (_PROMISCUOUS if channel.promiscuous else 0)
        | (_ENCRYPTED if channel.encrypted else 0)
        | (_WIDE if channel.width_hz > NARROW_HZ else 0)
    )
    head = _CHANNEL.pack(
        channel.rx_hz,
        channel.tx_hz,
        _MODES.index(channel.mode),
        flags,
        channel.power,
        channel.color_code << 4 | channel.slot,
        channel.contact,
        channel.group_list,
        _ADMITS.index(channel.admit),
        _tone_place(channel.tone_tx),
        _tone_place(channel.tone_rx),
    )
    return head + _name(channel.name, width)


def _tone_place(tone: str) -> int:
    return tone_index(tone) if tone in TONES else 0


def _pack_list(item: MemoryList, width: int, longest: int) -> bytes:
    members = item.members[:longest]
    packed = struct.pack(f"<{len(members)}H", *members)
    return bytes([len(members)]) + _name(item.name, width) + packed.ljust(2 * longest, b"\0")


def decode(image: bytes, profile: Profile) -> Memory:
    """The memory that an image holds; records that make no sense are passed over. Raises ImageError."""
    _check_size(image, profile)
    layout, limits, width = profile.image, profile.limits, profile.display.length
    call, dmr_id = _IDENTITY.unpack_from(image, layout.identity_at)
    lists = (
        (layout.group_lists, limits.group_lists, limits.group_list_members),
        (layout.zones, limits.zones, limits.zone_channels),
        (layout.scans, limits.scan_lists, limits.scan_members),
    )
    groups, zones, scans = (_decode_lists(image, region, count, longest, width) for region, count, longest in lists)
    alias, one_touch, halves = _decode_extras(image, profile)
    return Memory(
        profile.key,
        "",
        _text(call),
        dmr_id,
        _decode_channels(image, layout.channels, limits.channels, width),
        _decode_contacts(image, layout.contacts, limits.contacts, width),
        groups,
        zones,
        tuple(_with_tail(item, image, profile) for item in scans),
        alias=alias,
        one_touch=one_touch,
        halves=halves,
        settings=read_settings(image, profile),
    )


def _with_tail(item: MemoryList, image: bytes, profile: Profile) -> MemoryList:
    """A scan list with its priority channel and the time it stays."""
    region, limits = profile.image.scans, profile.limits
    at = region.at + (item.number - 1) * region.record + 1 + profile.display.length + 2 * limits.scan_members
    priority, hang_ms = _SCAN_TAIL.unpack_from(image, at)
    return replace(item, priority=priority, hang_ms=hang_ms)


def _text(raw: bytes) -> str:
    return raw.decode("ascii", "replace").rstrip(" \0")


def _decode_channels(image: bytes, region: ImageRegion, count: int, width: int) -> tuple[Channel, ...]:
    found: list[Channel] = []
    for place in range(count):
        at = region.at + place * region.record
        if 0 < image[at + 8] < len(_MODES):
            found.append(_decode_channel(image, at, place + 1, width))
    return tuple(found)


def _decode_channel(image: bytes, at: int, number: int, width: int) -> Channel:
    rx_hz, tx_hz, mode, flags, power, color_slot, contact, group, admit, tone_tx, tone_rx = _CHANNEL.unpack_from(
        image, at
    )
    name_at = at + _CHANNEL.size
    return Channel(
        number,
        _text(image[name_at : name_at + width]),
        _MODES[mode] or "fm",
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
    )


def _decode_contacts(image: bytes, region: ImageRegion, count: int, width: int) -> tuple[Contact, ...]:
    found: list[Contact] = []
    for place in range(count):
        at = region.at + place * region.record
        call, code = _CONTACT.unpack_from(image, at)
        kind = _KINDS[code] if code < len(_KINDS) else None
        if kind is not None:
            found.append(Contact(place + 1, _text(image[at + _CONTACT.size : at + _CONTACT.size + width]), call, kind))
    return tuple(found)


def _decode_lists(image: bytes, region: ImageRegion, count: int, longest: int, width: int) -> tuple[MemoryList, ...]:
    found: list[MemoryList] = []
    for place in range(count):
        at = region.at + place * region.record
        held = image[at]
        if 0 < held <= longest:
            members = struct.unpack_from(f"<{held}H", image, at + 1 + width)
            found.append(MemoryList(place + 1, _text(image[at + 1 : at + 1 + width]), members))
    return tuple(found)


def owned_spans(profile: Profile) -> list[tuple[int, int]]:
    """The byte spans (start, end) that are ours; everything else belongs to the radio."""
    layout, limits, width = profile.image, profile.limits, profile.display.length
    at, length = _extras_span(profile)
    settings_at, settings_length = settings_span(profile)
    spans = [(layout.identity_at, at + length), (settings_at, settings_at + settings_length)]
    for region, count, owned in (
        (layout.channels, limits.channels, _CHANNEL.size + width),
        (layout.contacts, limits.contacts, _CONTACT.size + width),
        (layout.group_lists, limits.group_lists, 1 + width + 2 * limits.group_list_members),
        (layout.zones, limits.zones, 1 + width + 2 * limits.zone_channels),
        (layout.scans, limits.scan_lists, 1 + width + 2 * limits.scan_members + _SCAN_TAIL.size),
    ):
        spans.extend(
            (region.at + place * region.record, region.at + place * region.record + owned) for place in range(count)
        )
    return spans
