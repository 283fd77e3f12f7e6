"""Radio profiles: what a radio can hold and show, read from TOML files that a user can copy and edit."""

import tomllib
from functools import cache
from itertools import pairwise
from pathlib import Path
from typing import Literal

import msgspec

from umbra_awl.core.plan.model import Admit, DataSpeed, Mode
from umbra_awl.core.routes.names import NameRules

FORMAT = "umbra-awl profile"
VERSION = 1
WayIn = Literal["cable", "card", "app", "keypad"]
SHIPPED = Path(__file__).parent / "profiles"


class ProfileError(ValueError):
    """A profile that cannot be used; the message names the file, the field and what belongs there."""


class _Part(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Base of a profile's parts."""


class Span(_Part, frozen=True):
    """A tuning range in hertz, edges inside."""

    low_hz: int
    high_hz: int


class Display(_Part, frozen=True):
    """What a name may be: length in characters, the characters known, capitals only."""

    length: int
    characters: str
    upper: bool

    @property
    def rules(self) -> NameRules:
        """The display as naming rules."""
        return NameRules(self.length, self.characters, self.upper)


class Limits(_Part, frozen=True):
    """How many of each thing the radio holds."""

    channels: int
    zones: int
    zone_channels: int
    contacts: int
    group_lists: int
    group_list_members: int
    scan_lists: int
    scan_members: int
    scan_hang_s: float = 10.0


class Line(_Part, frozen=True):
    """The programming line: bits per second and bytes a block."""

    baud: int
    block: int


class Region(_Part, frozen=True):
    """A table in the radio's image: where it begins and how long a record is, in bytes."""

    at: int
    record: int


class Image(_Part, frozen=True):
    """Where in the radio's memory our tables lie. All other bytes are the radio's own."""

    size: int
    identity_at: int
    channels: Region
    contacts: Region
    group_lists: Region
    zones: Region
    scans: Region


class Battery(_Part, frozen=True):
    """The battery and what is drawn from it, in mAh and mA; `transmit_ma` for each power step."""

    capacity_mah: float
    transmit_ma: tuple[float, ...]
    receive_ma: float
    idle_ma: float


class Needs(_Part, frozen=True):
    """What a D-STAR radio insists on.

    `zero_offset`: it fills RPT1 and RPT2 only in duplex memories, so a simplex hotspot's memory is duplex with an offset of 0.
    `one_entry`: it refuses two access entries with the same call sign and module.
    """

    zero_offset: bool = False
    one_entry: bool = False


class Extras(_Part, frozen=True):
    """What else a radio has: characters of talker alias, a one-touch key, halves of its display, how fast its data goes."""

    alias: int = 0
    one_touch: bool = False
    halves: int = 1
    data: DataSpeed = "none"


_NOWHERE = Region(0, 0)
_NO_IMAGE = Image(0, 0, _NOWHERE, _NOWHERE, _NOWHERE, _NOWHERE, _NOWHERE)
_NO_LINE = Line(0, 0)


class Profile(_Part, frozen=True):
    """One kind of radio. `antenna_dbi` is the gain of the antenna that comes with it; only those with a cable have an image."""

    key: str
    name: str
    summary: str
    modes: tuple[Mode, ...]
    knob_positions: int
    display: Display
    receive: tuple[Span, ...]
    transmit: tuple[Span, ...]
    power_watts: tuple[float, ...]
    admit: tuple[Admit, ...]
    limits: Limits
    line: Line = _NO_LINE
    image: Image = _NO_IMAGE
    battery: Battery | None = None
    antenna_dbi: float = 0.0
    ways_in: tuple[WayIn, ...] = ("cable",)
    needs: Needs = Needs()
    extras: Extras = Extras()
    format: str = FORMAT
    version: int = VERSION

    @property
    def by_cable(self) -> bool:
        """Whether its memory goes in and out by cable."""
        return "cable" in self.ways_in

    def receives(self, hz: int) -> bool:
        """Whether the radio tunes to a frequency in hertz."""
        return any(span.low_hz <= hz <= span.high_hz for span in self.receive)

    def transmits(self, hz: int) -> bool:
        """Whether the radio can send on a frequency in hertz."""
        return any(span.low_hz <= hz <= span.high_hz for span in self.transmit)


def parse_profile(text: str, source: str = "the profile") -> Profile:
    """The profile in a TOML text. Raises ProfileError."""
    try:
        profile = msgspec.convert(tomllib.loads(text), Profile)
    except tomllib.TOMLDecodeError as error:
        raise ProfileError(f"{source} is not readable TOML: {error}.") from None
    except msgspec.ValidationError as error:
        raise ProfileError(f"{source} cannot be used. {_plainly(str(error))}") from None
    if profile.format != FORMAT or profile.version != VERSION:
        raise ProfileError(
            f"{source} has the form “{profile.format}” {profile.version}; this version reads “{FORMAT}” {VERSION}."
        )
    fault = _limit_fault(profile)
    if fault:
        raise ProfileError(f"{source} cannot be used. {fault}")
    return profile


def _plainly(detail: str) -> str:
    text, _, where = detail.partition(" - at ")
    place = where.strip("`").removeprefix("$").lstrip(".")
    if "missing required field" in text:
        field = text.split("`")[1]
        return f"The value “{field}” is missing{f' under [{place}]' if place else ''}. Add it; a shipped profile shows how."
    return f"{text}{f' at {place}' if place else ''}."


def _limit_fault(profile: Profile) -> str:
    for name in profile.limits.__struct_fields__:
        if getattr(profile.limits, name) < 1:
            return f"The limit “{name}” must be at least 1."
    if profile.display.length < 4 or len(profile.display.characters) < 11:
        return "The display must show at least 4 characters and know letters and digits."
    if not profile.power_watts or list(profile.power_watts) != sorted(profile.power_watts):
        return "The power steps must be given in watts, lowest first."
    if profile.battery is not None and len(profile.battery.transmit_ma) != len(profile.power_watts):
        return "The battery's transmit currents must be as many as the power steps."
    if not profile.ways_in:
        return "“ways_in” must name at least one of cable, card, app and keypad."
    return _overlap_fault(profile) if profile.by_cable else ""


def _overlap_fault(profile: Profile) -> str:
    image, limits = profile.image, profile.limits
    if not image.size or not profile.line.baud:
        return "A radio with a cable needs [line] and [image]."
    spans = sorted(
        (region.at, region.at + region.record * count, name)
        for name, region, count in (
            ("channels", image.channels, limits.channels),
            ("contacts", image.contacts, limits.contacts),
            ("group_lists", image.group_lists, limits.group_lists),
            ("zones", image.zones, limits.zones),
            ("scans", image.scans, limits.scan_lists),
        )
    )
    for (_low, end, name), (start, _high, other) in pairwise(spans):
        if end > start:
            return f"In the image, “{name}” reaches into “{other}”."
    return "" if spans[-1][1] <= image.size else f"In the image, “{spans[-1][2]}” reaches beyond its size."


@cache
def shipped_profiles() -> dict[str, Profile]:
    """The profiles that come with the application, by key, in the order of their file names."""
    profiles = [parse_profile(path.read_text("utf-8"), path.name) for path in sorted(SHIPPED.glob("*.toml"))]
    return {profile.key: profile for profile in profiles}


def read_profile(path: Path) -> Profile:
    """The profile in a file. Raises ProfileError."""
    try:
        return parse_profile(path.read_text("utf-8"), f"“{path.name}”")
    except (OSError, UnicodeDecodeError) as error:
        raise ProfileError(f"“{path}” cannot be read: {error}.") from None
