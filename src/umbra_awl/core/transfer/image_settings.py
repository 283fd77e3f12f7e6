"""The part of a radio's image that holds for the whole radio: time-out, position source, keys, start-up text, quick texts.

Little-endian at `settings_at`: seconds of the time-out u16, position u8, a key press u8 each (keys in the profile's order, short
before long), start-up text, then the quick texts. Position and presses are places in their tables from 1; 0 and seconds 0 are
what the radio chooses. A setting that a memory does not give is left as the radio has it.
"""

import struct

from umbra_awl.core.fit.memory import KeyPress, Settings
from umbra_awl.core.fit.profile import Profile

_HEAD = struct.Struct("<HB")
_POSITIONS = ("", "gps", "fixed", "none")


def settings_span(profile: Profile) -> tuple[int, int]:
    """Where the settings lie: from, length in bytes; no length for radios whose settings are not known."""
    extras, at = profile.extras, profile.image.settings_at
    length = _HEAD.size + len(_presses(profile)) + extras.startup + extras.quick_texts * extras.quick_length
    return at, length if at else 0


def _presses(profile: Profile) -> list[tuple[str, str]]:
    return [(key.name, press) for key in profile.extras.keys for press in key.presses]


def put_settings(merged: bytearray, settings: Settings, profile: Profile) -> None:
    """Write the settings that are given into an image."""
    at, length = settings_span(profile)
    if not length:
        return
    extras = profile.extras
    time_out, position = _HEAD.unpack_from(merged, at)
    position = _POSITIONS.index(settings.position) if settings.position else position
    _HEAD.pack_into(merged, at, settings.time_out_s or time_out, position)
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


def _text(text: str, width: int) -> bytes:
    return text.encode("ascii", "replace")[:width].ljust(width)


def read_settings(image: bytes, profile: Profile) -> Settings:
    """The settings in an image; what makes no sense counts as not given."""
    at, length = settings_span(profile)
    if not length:
        return Settings()
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
    texts = [_plain(image[quick_at + n * width : quick_at + (n + 1) * width]) for n in range(extras.quick_texts)]
    while texts and not texts[-1]:
        texts.pop()
    return Settings(
        _plain(image[text_at : text_at + extras.startup]) or None,
        tuple(texts),
        (_POSITIONS[position] or None) if position < len(_POSITIONS) else None,
        time_out if time_out in extras.time_outs_s else 0,
        keys=keys,
    )


def _plain(raw: bytes) -> str:
    """A text; nothing when it is not one."""
    text = raw.rstrip(b" \0")
    return text.decode("ascii") if all(32 <= byte < 127 for byte in text) else ""
