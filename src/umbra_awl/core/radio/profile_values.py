"""What can be changed of a profile, value by value, and how each is shown and typed."""

from collections.abc import Mapping
from typing import Any, NamedTuple

from umbra_awl.core.facts.modes import MODE_WORDS, by_mode
from umbra_awl.core.radio.profile import WAY_WORDS, Profile, RadioOption
from umbra_awl.core.radio.ways_in import Card


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
_JOINED = {"options": "; ", "beside": "; ", "card.write_out": " › ", "card.read_in": " › "}
"""What stands between the items of a value that has several, where it is no comma."""
_YES_OR_NOT_KNOWN = {"": "not known", **_YES}
_CARD = (
    ValueSpec("card.write_out", "Card, out", tip="Menus that write everything out: SET › CARD › SAVE ALL"),
    ValueSpec("card.done", "Card, done", tip="What its display says at the end"),
    ValueSpec("card.folder", "Card, folder", tip="The radio's own folder on its card"),
    ValueSpec("card.backup", "Card, files in", tip="The folder inside that one where its files lie"),
    ValueSpec("card.read_in", "Card, in", tip="Menus that read everything in: SET › CARD › LOAD ALL"),
    ValueSpec("card.yes", "Card, asks", tip="How often it asks for a yes before it reads in: 1 to 5"),
    ValueSpec("card.restarts", "Card, restarts", _YES),
)
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
    found += _CARD if "card" in profile.ways_in else ()
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
    value = value_at(profile, spec.field)
    if spec.field in {"receive", "transmit"}:
        return ", ".join(f"{span.low_hz / 1e6:g}-{span.high_hz / 1e6:g}" for span in value)
    if value is None or isinstance(value, bool):
        return {None: "", True: "yes", False: "no"}[value]
    if isinstance(value, tuple):
        return _JOINED.get(spec.field, ", ").join(map(_item_text, value))
    return str(value)


def _item_text(item: object) -> str:
    if isinstance(item, RadioOption):
        return _option_text(item)
    return f"{item:g}" if isinstance(item, float) else str(item)


def value_at(profile: Profile, field: str) -> Any:
    """The value of a field such as “limits.zones”."""
    value: Any = profile
    for part in field.split("."):
        value = part_of(value, part)
    return value


def part_of(thing: Any, name: str) -> Any:
    """A part of a profile; a card of which nothing is known yet where there is none."""
    value = getattr(thing, name)
    return Card("", (), ()) if name == "card" and value is None else value


def _option_text(option: RadioOption) -> str:
    keys = f" ({' '.join(option.keys)})" if option.keys else ""
    return f"{option.label}: {', '.join(option.values)}{keys}"
