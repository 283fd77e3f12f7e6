"""A radio's image: our tables packed into it and read out of it, everything else left alone.

`image_records.py` has the records. The identity: call sign of 8, ID u32; where the radio has them the one-touch contact u16, the
zones of the halves A and B u16, the talker alias; of a D-STAR radio the note of 4. The tail of each record is the radio's own.
"""

import struct
from typing import Any

from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.errors import ImageError
from umbra_awl.core.transfer.image_records import ImageTable, name_bytes, tables_of, text_of
from umbra_awl.core.transfer.image_settings import put_settings, read_settings, settings_span

_IDENTITY = struct.Struct("<8sI")
_EXTRAS = struct.Struct("<HHH")
_NOTE = 4


def merge(image: bytes, memory: Memory, profile: Profile) -> bytes:
    """The image with our tables replaced by a memory; every byte that is not ours stays. Raises ImageError."""
    _check_size(image, profile)
    try:
        return _merged(image, memory, profile)
    except (struct.error, ValueError) as error:
        raise ImageError(f"The memory holds a value that the radio's bytes cannot: {error}.") from None


def _merged(image: bytes, memory: Memory, profile: Profile) -> bytes:
    merged = bytearray(image)
    call = memory.call.encode("ascii", "replace")[:8].ljust(8)
    _IDENTITY.pack_into(merged, profile.image.identity_at, call, memory.dmr_id)
    _put_extras(merged, memory, profile)
    put_settings(merged, memory.settings, profile)
    for table in tables_of(profile):
        _put(merged, table, [table.pack(row) for row in getattr(memory, table.field)])
    return bytes(merged)


def _extras_length(profile: Profile) -> int:
    """How many bytes the one-touch contact, the halves and the alias take; none for radios that have none of them."""
    extras = profile.extras
    return _EXTRAS.size + extras.alias if extras.one_touch or extras.alias or extras.halves > 1 else 0


def _note_length(profile: Profile) -> int:
    return _NOTE if "dstar" in profile.modes else 0


def _extras_at(profile: Profile) -> int:
    return profile.image.identity_at + _IDENTITY.size


def _put_extras(merged: bytearray, memory: Memory, profile: Profile) -> None:
    at, length, note = _extras_at(profile), _extras_length(profile), _note_length(profile)
    if length:
        halves = (*memory.halves, 0, 0)
        _EXTRAS.pack_into(merged, at, memory.one_touch, halves[0], halves[1])
        merged[at + _EXTRAS.size : at + length] = name_bytes(memory.alias, profile.extras.alias)
    merged[at + length : at + length + note] = name_bytes(memory.note, note)


def _read_extras(image: bytes, profile: Profile) -> dict[str, Any]:
    """Talker alias, one-touch contact, zones of the halves and the note, by the memory's field."""
    at, length, note = _extras_at(profile), _extras_length(profile), _note_length(profile)
    found: dict[str, Any] = {"note": text_of(image[at + length : at + length + note])}
    if length:
        found["one_touch"], half_a, half_b = _EXTRAS.unpack_from(image, at)
        found["halves"] = (half_a, half_b) if half_b else (half_a,) if half_a else ()
        found["alias"] = text_of(image[at + _EXTRAS.size : at + length])
    return found


def _check_size(image: bytes, profile: Profile) -> None:
    if len(image) != profile.image.size:
        raise ImageError(f"The image has {len(image)} bytes; a {profile.name} has {profile.image.size}.")


def _put(merged: bytearray, table: ImageTable, rows: list[bytes]) -> None:
    blank = bytes(table.owned)
    for place, (start, end) in enumerate(table.spans()):
        merged[start:end] = rows[place] if place < len(rows) else blank


def decode(image: bytes, profile: Profile) -> Memory:
    """The memory that an image holds; records that make no sense are passed over. Raises ImageError."""
    _check_size(image, profile)
    call, dmr_id = _IDENTITY.unpack_from(image, profile.image.identity_at)
    tables: dict[str, Any] = {table.field: _rows(image, table) for table in tables_of(profile)}
    return Memory(
        profile.key,
        call=text_of(call),
        dmr_id=dmr_id,
        settings=read_settings(image, profile),
        **_read_extras(image, profile),
        **tables,
    )


def _rows(image: bytes, table: ImageTable) -> tuple[Any, ...]:
    found = (table.read(image[start:end], place) for place, (start, end) in enumerate(table.spans(), 1))
    return tuple(row for row in found if row is not None)


def owned_spans(profile: Profile) -> list[tuple[int, int]]:
    """The byte spans (start, end) that are ours; all else is the radio's own. A driver's are not known."""
    if profile.codec:
        return []
    extras_end = _extras_at(profile) + _extras_length(profile) + _note_length(profile)
    settings_at, settings_length = settings_span(profile)
    spans = [(profile.image.identity_at, extras_end), (settings_at, settings_at + settings_length)]
    return spans + [span for table in tables_of(profile) for span in table.spans()]
