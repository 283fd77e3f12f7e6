"""Editing a profile value by value: what can be changed, how it is shown and how a typed text becomes it."""

import re
from collections.abc import Callable, Iterable, Mapping
from typing import Any, NamedTuple

from msgspec.structs import replace

from umbra_awl.core.facts.connectors import tidy_connector
from umbra_awl.core.facts.modes import MODE_WORDS, by_mode
from umbra_awl.core.radio.profile import (
    WAY_WORDS,
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
from umbra_awl.core.radio.taken_over import without_parts

SMALL = " ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-+/.,:()#'"


class ValueSpec(NamedTuple):
    """One value: its field (“limits.zones”), its label, its choices where it has some (several may be on), and a tip."""

    field: str
    label: str
    options: Mapping[Any, str] = {}
    tip: str = ""


_LIMITS = {
    "channels": "Channels",
    "zones": "Zones or banks",
    "zone_channels": "Channels a zone",
    "contacts": "Contacts",
    "group_lists": "Group lists",
    "group_list_members": "Members a list",
    "scan_lists": "Scan lists",
    "scan_members": "Members a scan",
    "access_list": "Access list",
    "call_signs": "Call signs",
    "rooms": "Rooms",
}
_OF_MODE = {
    "contacts": "dmr",
    "group_lists": "dmr",
    "group_list_members": "dmr",
    "access_list": "dstar",
    "call_signs": "dstar",
    "rooms": "fusion",
}
_ADMITS = {"always": "always", "free": "channel free", "color": "color code free"}
_YES = {"yes": "yes", "no": "no"}
_YES_OR_NOT_KNOWN = {"": "not known", **_YES}
_BUILD = (
    ValueSpec("build.speaker_mw", "Loudspeaker, mW", tip="How loud it gets; 0 where nobody knows"),
    ValueSpec(
        "build.sturdy",
        "Built for",
        {
            "": "not known",
            "indoors": "indoors",
            "splashes": "splashes",
            "drops": "drops",
            "drops and splashes": "drops and splashes",
        },
    ),
    ValueSpec(
        "build.gauge",
        "Battery gauge",
        {"": "not known", "honest": "tells what is left", "late": "looks full until the end"},
    ),
    ValueSpec("build.head_apart", "Head apart", _YES_OR_NOT_KNOWN, "The head can be mounted away from the box"),
    ValueSpec("build.hands_free", "Hands free", _YES_OR_NOT_KNOWN),
    ValueSpec("build.antenna", "Antenna", tip="Its connector: SMA socket, BNC socket, UHF socket; or fixed"),
)


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


def values_of(profile: Profile) -> list[ValueSpec]:
    """What can be changed of a profile, in the order of its sheet."""
    found = [
        ValueSpec("name", "Name"),
        ValueSpec("summary", "In a line"),
        ValueSpec("modes", "Modes", dict(by_mode(MODE_WORDS))),
        ValueSpec("receive", "Receives, MHz", tip="Ranges: 136-174, 400-480"),
        ValueSpec("transmit", "Transmits, MHz", tip="Ranges inside what it receives: 144-148, 430-440"),
        ValueSpec("power_watts", "Power, W", tip="Lowest first: 1, 5"),
        ValueSpec("display.length", "Name length", tip="Characters of a channel's name"),
        ValueSpec("display.upper", "Capitals only", _YES),
        ValueSpec("display.characters", "Characters", tip="Every character that the display knows, the blank too"),
        ValueSpec("knob_positions", "Knob positions", tip="0 where it turns on and on"),
    ]
    found += [
        ValueSpec(f"limits.{name}", label)
        for name, label in _LIMITS.items()
        if _OF_MODE.get(name, profile.modes[0] if profile.modes else "") in profile.modes or name not in _OF_MODE
    ]
    found.append(ValueSpec("ways_in", "Ways in", WAY_WORDS))
    found.append(
        ValueSpec("codec", "Driver, memory", tip="Name of an installed driver for the bytes of its memory; empty: none")
    )
    found.append(ValueSpec("way", "Driver, line", tip="Name of an installed driver for its line; empty: none"))
    if profile.codec or profile.way:
        found.append(ValueSpec("image.size", "Bytes of memory", tip="As its driver's description says"))
        found.append(ValueSpec("line.block", "Bytes a block", tip="As its driver's description says"))
    if "dmr" in profile.modes:
        found.append(ValueSpec("admit", "Transmits when", _ADMITS))
        found.append(ValueSpec("extras.alias", "Talker alias", tip="Characters sent along while talking; 0 for none"))
        found.append(ValueSpec("extras.one_touch", "Call key", _YES))
    if "dstar" in profile.modes:
        found.append(ValueSpec("needs.zero_offset", "Needs offset 0", _YES, "RPT fields only in duplex memories"))
        found.append(ValueSpec("needs.one_entry", "One entry a call", _YES, "Refuses a call sign and module twice"))
    found.append(ValueSpec("extras.halves", "Halves shown", tip="1, or 2 where it shows two memories at once"))
    found.append(ValueSpec("extras.startup", "Start-up text", tip="Characters; 0 for none"))
    found.append(
        ValueSpec("options", "Settings of its own", tip="Squelch: 0, 1, 2 (MENU 4); Back-light: off, 5 s (MENU 6)")
    )
    found += _BUILD
    found.append(ValueSpec("beside", "Needs beside it", tip="What must be bought too, separated by semicolons"))
    return found


def printed(profile: Profile, spec: ValueSpec) -> str:
    """A value as it is shown and typed."""
    value = _get(profile, spec.field)
    if spec.field in {"receive", "transmit"}:
        return ", ".join(f"{span.low_hz / 1e6:g}-{span.high_hz / 1e6:g}" for span in value)
    if value is None or isinstance(value, bool):
        return {None: "", True: "yes", False: "no"}[value]
    if spec.field == "options":
        return "; ".join(map(_option_text, value))
    if spec.field == "beside":
        return "; ".join(value)
    if isinstance(value, tuple):
        return ", ".join(f"{item:g}" if isinstance(item, float) else str(item) for item in value)
    return str(value)


def _get(profile: Profile, field: str) -> Any:
    value: Any = profile
    for part in field.split("."):
        value = getattr(value, part)
    return value


def set_value(profile: Profile, field: str, text: str) -> Profile:
    """The profile with one value set from a typed text; a choice of several is switched. Raises ValueError with a sentence.

    What contradicts other values is left to the check.
    """
    before = _get(profile, field)
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
    return replace(thing, **{path[0]: _set(getattr(thing, path[0]), path[1:], value)})


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


_OPTION = re.compile(r"^([^:]+):\s*(.+?)\s*(?:\(([^()]*)\))?$")


def _option_text(option: RadioOption) -> str:
    keys = f" ({' '.join(option.keys)})" if option.keys else ""
    return f"{option.label}: {', '.join(option.values)}{keys}"


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
    "build.head_apart": {"yes": True, "no": False}.get,
    "build.hands_free": {"yes": True, "no": False}.get,
    "build.antenna": tidy_connector,
    "beside": lambda text: tuple(filter(None, map(str.strip, text.split(";")))),
    "display.characters": lambda text: "".join(dict.fromkeys((" ", *text))) if text else "",
}
