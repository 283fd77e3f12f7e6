"""Editing a profile value by value: what can be changed, how it is shown and how a typed text becomes it."""

import re
from collections.abc import Callable, Iterable
from typing import Any

from msgspec.structs import replace

from umbra_awl.core.facts.connectors import tidy_connector
from umbra_awl.core.radio.profile import (
    Display,
    Image,
    ImageRegion,
    Limits,
    NumberSpan,
    Profile,
    RadioOption,
    SerialSettings,
)
from umbra_awl.core.radio.profile_file import free_profile_key
from umbra_awl.core.radio.profile_values import part_of, value_at
from umbra_awl.core.radio.taken_over import without_parts

SMALL = " ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-+/.,:()#'"


def from_similar(similar: Profile, taken: Iterable[str]) -> Profile:
    """A profile of one's own that begins as another, without anything that has to be confirmed.

    It goes in by files until its keys or apps are told: nothing is known of its own memory's bytes.
    """
    name = f"My {similar.name}"
    empty = Image(0, 0, ImageRegion(0, 0))
    return replace(
        without_parts(similar),
        key=free_profile_key(name, taken),
        name=name,
        summary=f"A radio like the {similar.name}",
        ways_in=("file",),
        image=empty,
        line=SerialSettings(0, 0),
        card=None,
        own_of=similar.key,
    )


def from_nothing(taken: Iterable[str]) -> Profile:
    """A profile of one's own in which nothing is told: each value is a fault until it is typed, so that none is guessed."""
    return Profile(
        key=free_profile_key("My radio", taken),
        name="My radio",
        summary="",
        modes=(),
        knob_positions=0,
        display=Display(0, ""),
        receive=(),
        transmit=(),
        power_watts=(),
        admit=("always",),
        limits=Limits(0, 0, 0),
        ways_in=("file",),
    )


def set_value(profile: Profile, field: str, text: str) -> Profile:
    """The profile with one value set from a typed text; a choice of several is switched. Raises ValueError with a sentence.

    What contradicts other values is left to the check.
    """
    before = value_at(profile, field)
    value = _parsed(field, text, before)
    if field == "power_watts" and len(value) != len(profile.power_watts):
        profile = _without_power(profile)
    if field == "display.upper" and value:
        characters = "".join(dict.fromkeys(profile.display.characters.upper()))
        profile = replace(profile, display=replace(profile.display, characters=characters))
    elif field == "display.upper":
        profile = replace(profile, display=replace(profile.display, characters=SMALL))
    if field == "ways_in" and "keypad" not in value:
        profile = replace(profile, keypad=None)
    made: Profile = _set(profile, field.split("."), value)
    return made


def _without_power(profile: Profile) -> Profile:
    """Without the battery's currents and the keypad's menu, which were for the other power steps."""
    keypad = profile.keypad
    if keypad is not None:
        keypad = replace(keypad, menus=tuple(menu for menu in keypad.menus if menu.field != "power"))
    return replace(profile, battery=None, keypad=keypad)


def _set(thing: Any, path: list[str], value: Any) -> Any:
    if len(path) == 1:
        return replace(thing, **{path[0]: value})
    return replace(thing, **{path[0]: _set(part_of(thing, path[0]), path[1:], value)})


def _parsed(field: str, text: str, before: Any) -> Any:
    if field in {"modes", "ways_in", "admit"}:
        return tuple(item for item in before if item != text) if text in before else (*before, text)
    if field in _PARSERS:
        return _PARSERS[field](text)
    if isinstance(before, bool):
        return text == "yes"
    return _whole(text) if isinstance(before, int) else text


def _parts(text: str) -> list[str]:
    return [part.strip() for part in re.split(r"[,;]", text) if part.strip()]


def _whole(text: str) -> int:
    plain = re.sub(r"[ ,._]", "", text)
    if not plain.isdecimal() or len(plain) > 7:
        raise ValueError(f"“{text}” is not a whole number. Type digits, for example 250.")
    return int(plain)


def _number(text: str) -> float:
    try:
        return float(text.upper().removesuffix("W").strip())
    except ValueError:
        raise ValueError(f"“{text}” is not a power. Type watts, lowest first: 1, 5.") from None


def _spans(text: str) -> tuple[NumberSpan, ...]:
    found: list[NumberSpan] = []
    for part in _parts(text):
        shape = re.fullmatch(
            r"(\d{1,4}(?:\.\d{1,6})?)\s*[-–]\s*(\d{1,4}(?:\.\d{1,6})?)\s*(?:MHz)?", part, re.IGNORECASE
        )
        if shape is None:
            raise ValueError(f"“{part}” is not a range. Type two frequencies in MHz: 136-174.")
        found.append(NumberSpan(round(float(shape[1]) * 1e6), round(float(shape[2]) * 1e6)))
    return tuple(found)


def _menus(text: str) -> tuple[str, ...]:
    return tuple(filter(None, (part.strip() for part in re.split(r"[›>]", text))))


_OPTION = re.compile(r"^([^:]+):\s*(.+?)\s*(?:\(([^()]*)\))?$")


def _options(text: str) -> tuple[RadioOption, ...]:
    made: list[RadioOption] = []
    for part in filter(None, map(str.strip, text.split(";"))):
        shape = _OPTION.match(part)
        values = tuple(filter(None, map(str.strip, shape[2].split(",")))) if shape is not None else ()
        if shape is None or len(values) < 2:
            raise ValueError(
                f"“{part}” is no setting. Type its name, its values, and its keys: Squelch: 0, 1, 2 (MENU 4)."
            )
        made.append(RadioOption(shape[1].strip(), values, tuple((shape[3] or "").split())))
    return tuple(made)


_PARSERS: dict[str, Callable[[str], Any]] = {
    "receive": _spans,
    "transmit": _spans,
    "power_watts": lambda text: tuple(_number(part) for part in _parts(text)),
    "options": _options,
    "card.write_out": _menus,
    "card.read_in": _menus,
    "build.head_apart": {"yes": True, "no": False}.get,
    "build.hands_free": {"yes": True, "no": False}.get,
    "build.antenna": tidy_connector,
    "beside": lambda text: tuple(filter(None, map(str.strip, text.split(";")))),
    "display.characters": lambda text: "".join(dict.fromkeys((" ", *text))) if text else "",
}
