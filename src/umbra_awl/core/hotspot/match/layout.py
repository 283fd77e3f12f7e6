"""Settings layouts: under which key somebody's settings file has each of our fields, and how its values are written; TOML."""

from collections.abc import Iterable
from functools import cache
from pathlib import Path
from typing import Literal, NamedTuple

import msgspec

from umbra_awl.core.facts.frequency import FrequencyError, parse_hz
from umbra_awl.core.hotspot.match.fields import BY_KEY, FIELDS, MatchField, Values, plain, same
from umbra_awl.core.hotspot.match.form_error import FormError
from umbra_awl.core.hotspot.match.forms import BOM, Form, form_of, read_pairs, write_pairs
from umbra_awl.core.hotspot.match.notation import as_written
from umbra_awl.core.keep.toml_form import from_toml, text_of, to_toml

FORMAT = "umbra-awl settings layout"
VERSION = 1
SHIPPED = Path(__file__).parent / "layouts"
Unit = Literal["", "Hz", "kHz", "MHz"]
NO_WORDS = frozenset(
    {item.key for item in FIELDS if item.kind in {"hz", "offset", "number"}} | {"call", "module", "rpt1", "rpt2"}
)
"""What says where and as whom a transmitter sends: a layout must not exchange its values for others."""
_UNIT_HZ = {"": 1, "Hz": 1, "kHz": 1_000, "MHz": 1_000_000}


class SettingsLayoutError(ValueError):
    """A settings layout that cannot be used; the message says why."""


class SettingKey(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """One setting: our field, their key, the unit of a frequency, our words to theirs.

    `asked` marks a key that was guessed and that nobody confirmed: it is read, and never written. `mode` makes it a switch for
    one mode, as where each mode has a key of its own; a password is only read as set or not.
    """

    field: str
    at: str
    unit: Unit = ""
    words: dict[str, str] = {}
    mode: str = ""
    asked: bool = False


class SettingsLayout(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """A layout by its name, with the form of the file."""

    name: str
    form: Form
    key: tuple[SettingKey, ...]
    format: str = FORMAT
    version: int = VERSION


class Lost(NamedTuple):
    """A field that did not come back as it went out."""

    field: MatchField
    sent: str
    came: str


def parse_layout(text: str, source: str = "The layout") -> SettingsLayout:
    """The layout in a TOML text. Raises LayoutError."""
    made = from_toml(text, SettingsLayout, (FORMAT, VERSION), source, SettingsLayoutError)
    unknown = [item.field for item in made.key if item.field not in BY_KEY]
    if unknown:
        raise SettingsLayoutError(f"{source}: there is no field “{unknown[0]}”. There are {', '.join(BY_KEY)}.")
    bare = next((item for item in made.key if BY_KEY[item.field].kind == "hz" and not item.unit), None)
    if bare is not None:
        raise SettingsLayoutError(
            f"{source}: “{bare.at}” is a frequency, and its unit is not told. Give it Hz, kHz or MHz; it is never guessed."
        )
    worded = next((item for item in made.key if item.words and item.field in NO_WORDS), None)
    if worded is not None:
        raise SettingsLayoutError(
            f"{source}: {BY_KEY[worded.field].words} is a number or a letter of its own, and no words stand for it. What is "
            "written must be what the plan shows."
        )
    switches = [item.at for item in made.key]
    if len(set(switches)) < len(switches):
        raise SettingsLayoutError(f"{source}: two fields would stand under one key.")
    return made


def layout_text(layout: SettingsLayout) -> str:
    """A layout as TOML."""
    return to_toml(layout, (FORMAT, VERSION))


@cache
def shipped_layouts() -> tuple[SettingsLayout, ...]:
    """The layouts that come with the application: those of the simulated hotspot, one for each form."""
    return tuple(parse_layout(path.read_text("utf-8"), path.name) for path in sorted(SHIPPED.glob("*.toml")))


def own_layouts(folder: Path) -> tuple[SettingsLayout, ...]:
    """The layouts that lie in a folder; those that cannot be used are passed over."""
    found = []
    for path in sorted(folder.glob("*.toml")):
        try:
            found.append(parse_layout(text_of(path), path.name))
        except (SettingsLayoutError, OSError, UnicodeDecodeError):
            continue
    return tuple(found)


def read_settings(text: str, layout: SettingsLayout) -> Values:
    """Our fields from somebody's settings file; keys that are not there give no field. Raises FormError."""
    pairs = read_pairs(text, layout.form)
    names = {name.casefold(): name for name in pairs}
    made: Values = {}
    modes: list[str] = []
    switched = False
    for key in layout.key:
        at = key.at if key.at in pairs else names.get(key.at.casefold(), "")
        if not at:
            continue
        if key.mode:
            switched = True
            modes += [key.mode] if plain(BY_KEY["duplex"], _ours(key, pairs[at])) == "yes" else []
        else:
            made[key.field] = _ours(key, pairs[at])
    return made | ({"modes": " ".join(modes)} if switched else {})


def _ours(key: SettingKey, value: str) -> str:
    """Their value in our words."""
    field = BY_KEY[key.field]
    for ours, theirs in key.words.items():
        if value.strip().casefold() == theirs.casefold():
            return ours
    if field.kind == "secret":
        return "set" if value.strip() else "default"
    if field.kind == "hz" and value.strip():
        try:
            return str(parse_hz(f"{value.strip()} {key.unit}"))
        except FrequencyError:
            return value
    return value


def _state(key: SettingKey, before: str | None, *, on: bool) -> str:
    """On or off in the words that stand there. Raises FormError where the other word of two is not known."""
    told = "yes" if on else "no"
    if told in key.words:
        return key.words[told]
    if not before:
        return "1" if on else "0"
    pair = next((pair for pair in STATES if before.strip().casefold() in pair), None)
    if pair is None:
        raise FormError(f"“{key.at}” says “{before[:20]}”, and what the opposite is called there is not known.")
    word = pair[0 if on else 1]
    return word.upper() if before.isupper() and before.isalpha() else word.title() if before.istitle() else word


STATES = (
    ("1", "0"), ("true", "false"), ("yes", "no"), ("on", "off"), ("enabled", "disabled"), ("enable", "disable"),
    ("duplex", "simplex"), ("active", "inactive"), ("y", "n"), ("t", "f"),
)  # fmt: skip
"""Words of two states that belong together: on before off."""


def _theirs(key: SettingKey, value: str, before: str | None = None) -> str:
    """Our value in their words. Raises FormError for a frequency that is none, and a state without a word."""
    field = BY_KEY[key.field]
    told = plain(field, value)
    if told in key.words:
        return key.words[told]
    if field.kind == "yes" and told in {"yes", "no"}:
        return _state(key, before, on=told == "yes")
    if field.kind == "hz":
        if not told.isdecimal():
            raise FormError(f"{field.words}: “{value}” is no frequency.")
        unit = _UNIT_HZ[key.unit]
        whole, rest = divmod(int(told), unit)
        return as_written(field, str(whole) if not rest else f"{int(told) / unit:.6f}".rstrip("0"), before)
    return as_written(field, told if field.kind in {"offset", "number"} else value, before)


def write_settings(text: str, layout: SettingsLayout, values: Values) -> str:
    """A settings file with our fields in it, all else as it was: only keys that nobody has to confirm, and only what differs.

    A password is never among them. Raises FormError, also for a file that is there and cannot be read.
    """
    held = read_pairs(text, layout.form) if text.removeprefix(BOM).strip(" \t\r\n{}") else {}
    names = {name.casefold(): name for name in held}
    pairs: dict[str, str] = {}
    for key in layout.key:
        field = BY_KEY[key.field]
        if field.kind == "secret" or key.asked:
            continue
        at = key.at if key.at in held else names.get(key.at.casefold(), key.at)
        before = held.get(at)
        told = _told(key, before, values)
        if told is not None:
            pairs[at] = told
    return write_pairs(text, layout.form, pairs) if pairs else text


def _told(key: SettingKey, before: str | None, values: Values) -> str | None:
    """What a key is to hold in their words; None where nothing is planned for it, or it holds that already."""
    if key.mode:
        if "modes" not in values:
            return None
        on = key.mode in plain(BY_KEY["modes"], values["modes"]).split()
        held = before is not None and (plain(BY_KEY["duplex"], _ours(key, before)) == "yes") == on
        return None if held else _state(key, before, on=on)
    if key.field not in values:
        return None
    held = before is not None and same(BY_KEY[key.field], _ours(key, before), values[key.field])
    return None if held else _theirs(key, values[key.field], before)


def unreached(layout: SettingsLayout, values: Values) -> tuple[str, ...]:
    """The fields of a plan's values that no key of a layout takes, in words."""
    taken = {key.field for key in layout.key if not key.asked}
    return tuple(
        item.words for item in FIELDS if item.key in values and item.key not in taken and item.kind != "secret"
    )


def words_of(key: SettingKey) -> str:
    """What a key stands for, in words, a frequency with its unit."""
    unit = f" in {key.unit}" if key.unit else ""
    return f"{key.mode} on" if key.mode else f"{BY_KEY[key.field].words}{unit}"


def asked_keys(layout: SettingsLayout) -> tuple[SettingKey, ...]:
    """The keys that were guessed and that somebody has to confirm before they are written; passwords are never written."""
    return tuple(key for key in layout.key if key.asked and BY_KEY[key.field].kind != "secret")


def confirmed(layout: SettingsLayout, wanted: Iterable[str]) -> SettingsLayout:
    """The layout with the keys of these names confirmed, and the other guessed ones left out."""
    names = set(wanted)
    kept = [key for key in layout.key if not key.asked or key.at in names or BY_KEY[key.field].kind == "secret"]
    return msgspec.structs.replace(layout, key=tuple(msgspec.structs.replace(key, asked=False) for key in kept))


def tried(text: str, layout: SettingsLayout, values: Values) -> tuple[Lost, ...]:
    """What did not come back when these values were written into a file and read again. Raises FormError."""
    layout = confirmed(layout, [key.at for key in layout.key])
    back = read_settings(write_settings(text, layout, values), layout)
    reached = {key.field for key in layout.key if BY_KEY[key.field].kind != "secret"}
    return tuple(
        Lost(field, values[field.key], back.get(field.key, ""))
        for field in FIELDS
        if field.key in values and field.key in reached and not same(field, values[field.key], back.get(field.key, ""))
    )


def guessed(text: str, name: str = "My hotspot", planned: Values | None = None) -> SettingsLayout:
    """A layout made from a sample: its form, and the key that looks most like each field. Raises FormError.

    `planned` is what the plan has for the hotspot that the sample is of; what holds that is it, else name and value tell.
    """
    from umbra_awl.core.hotspot.match.guess import guess_keys

    form = form_of(text)
    return SettingsLayout(name, form, guess_keys(read_pairs(text, form), planned))
