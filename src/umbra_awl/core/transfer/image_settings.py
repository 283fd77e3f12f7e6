"""The part of a radio's image that holds for the whole radio: time-out, position source, keys, start-up text, quick texts.

Little-endian at `settings_at`: seconds of the time-out u16 (65535: off), position u8, a key press u8 each (keys in the profile's
order, short before long), start-up text, the quick texts, then a byte for each half that may be tuned freely: 1 it sends there,
2 it only listens; of radios that shift by themselves a byte for that: 1 on, 2 off. Position and presses are places in their
tables from 1; 0 and seconds 0 are what the radio chooses. A setting that a memory does not give is left as the radio has it.
"""

import struct

from umbra_awl.core.plan.radios import TIME_OUT_OFF
from umbra_awl.core.radio.memory import HeldSettings, KeyPress
from umbra_awl.core.radio.profile import Extras, Profile

_HEAD = struct.Struct("<HB")
_SENDS, _LISTENS = 1, 2
_OFF = 0xFFFF
_SHIFTS = (None, True, False)
_POSITIONS = ("", "gps", "fixed", "none")


def settings_span(profile: Profile) -> tuple[int, int]:
    """Where the settings lie: from, length in bytes; no length for radios whose settings are not known."""
    return profile.image.settings_at, profile.settings_length


def _presses(profile: Profile) -> list[tuple[str, str]]:
    return [(key.name, press) for key in profile.extras.keys for press in key.presses]


def put_settings(merged: bytearray, settings: HeldSettings, profile: Profile) -> None:
    """Write the settings that are given into an image."""
    at, length = settings_span(profile)
    if not length:
        return
    extras = profile.extras
    time_out, position = _HEAD.unpack_from(merged, at)
    position = _POSITIONS.index(settings.position) if settings.position else position
    wanted = _OFF if settings.time_out_s == TIME_OUT_OFF else settings.time_out_s
    _HEAD.pack_into(merged, at, wanted or time_out, position)
    presses_at = at + _HEAD.size
    places: dict[str, int] = {action: place for place, action in enumerate(extras.actions, 1)}
    actions = {(item.key, item.press): places.get(item.action, 0) for item in settings.keys}
    for place, press in enumerate(_presses(profile)):
        if actions.get(press):
            merged[presses_at + place] = actions[press]
    text_at = presses_at + len(_presses(profile))
    if settings.startup is not None:
        merged[text_at : text_at + extras.startup] = _text(settings.startup, extras.startup)
    quick_at, width = text_at + extras.startup, extras.quick_length
    if settings.quick_texts:
        texts = (*settings.quick_texts, *[""] * extras.quick_texts)[: extras.quick_texts]
        merged[quick_at : quick_at + extras.quick_texts * width] = b"".join(_text(text, width) for text in texts)
    free_at, halves = quick_at + extras.quick_texts * width, profile.free_halves
    if settings.free_tuning is not None:
        merged[free_at : free_at + halves] = bytes([_SENDS if settings.free_tuning else _LISTENS]) * halves
    if extras.auto_offset and settings.auto_offset is not None:
        merged[free_at + halves] = _SHIFTS.index(settings.auto_offset)


def _text(text: str, width: int) -> bytes:
    return text.encode("ascii", "replace")[:width].ljust(width)


def read_settings(image: bytes, profile: Profile) -> HeldSettings:
    """The settings in an image; what makes no sense counts as not given."""
    at, length = settings_span(profile)
    if not length:
        return HeldSettings()
    extras = profile.extras
    time_out, position = _HEAD.unpack_from(image, at)
    presses_at = at + _HEAD.size
    keys = tuple(
        KeyPress(name, press, extras.actions[image[presses_at + place] - 1])
        for place, (name, press) in enumerate(_presses(profile))
        if 0 < image[presses_at + place] <= len(extras.actions)
    )
    text_at = presses_at + len(_presses(profile))
    quick_at, width = text_at + extras.startup, extras.quick_length
    free_at = quick_at + extras.quick_texts * width
    texts = [_plain(image[quick_at + n * width : quick_at + (n + 1) * width]) for n in range(extras.quick_texts)]
    while texts and not texts[-1]:
        texts.pop()
    return HeldSettings(
        _plain(image[text_at : text_at + extras.startup]) or None,
        tuple(texts),
        (_POSITIONS[position] or None) if position < len(_POSITIONS) else None,
        _time_out(time_out, extras),
        _shifts(image[free_at + profile.free_halves : at + length]),
        keys,
        _free_tuning(image[free_at : free_at + profile.free_halves]),
    )


def _time_out(seconds: int, extras: Extras) -> int:
    """A time-out that the radio offers, off where it can be off; 0 for what makes no sense."""
    if seconds == _OFF and extras.time_out_off:
        return TIME_OUT_OFF
    return seconds if seconds in extras.time_outs_s else 0


def _free_tuning(halves: bytes) -> bool | None:
    """Whether free tuning sends: on every half, on none; None where they differ or it is not known."""
    return {frozenset({_SENDS}): True, frozenset({_LISTENS}): False}.get(frozenset(halves))


def _shifts(raw: bytes) -> bool | None:
    """Whether the radio shifts by itself; None where it is not known, or it never does."""
    return _SHIFTS[raw[0]] if raw and raw[0] < len(_SHIFTS) else None


def _plain(raw: bytes) -> str:
    """A text; nothing when it is not one."""
    text = raw.rstrip(b" \0")
    return text.decode("ascii") if all(32 <= byte < 127 for byte in text) else ""
