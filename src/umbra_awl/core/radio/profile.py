"""Radio profiles: what a radio can hold and show, as values. `profile_file.py` reads and writes them as TOML."""

from typing import Literal

import msgspec

from umbra_awl.core.plan.model import Admit, DataSpeed, Mode, PositionSource
from umbra_awl.core.radio.display import NameRules
from umbra_awl.core.radio.keypad import Keypad

FORMAT = "umbra-awl profile"
VERSION = 1
WayIn = Literal["cable", "card", "app", "keypad", "file"]
PeopleColumn = Literal["id", "call", "name", "place", "country"]
KeyAction = Literal[
    "one-touch", "zone up", "zone down", "power", "monitor", "scan", "battery", "reverse", "lock", "none"
]
WAY_WORDS: dict[WayIn, str] = {
    "cable": "cable",
    "card": "memory card",
    "app": "phone app",
    "keypad": "its keypad",
    "file": "another program",
}


class _Part(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """Base of a profile's parts."""


class Span(_Part, frozen=True):
    """A tuning range in hertz, edges inside."""

    low_hz: int
    high_hz: int


class Display(_Part, frozen=True):
    """What a name may be: length in characters, the characters known, capitals only."""

    length: int
    characters: str
    upper: bool = False

    @property
    def rules(self) -> NameRules:
        """The display as naming rules."""
        return NameRules(self.length, self.characters, self.upper)


class Limits(_Part, frozen=True):
    """How many of each thing the radio holds; `access_list`, `call_signs` and `rooms` are kinds of memories of their own."""

    channels: int
    zones: int
    zone_channels: int
    contacts: int = 1
    group_lists: int = 1
    group_list_members: int = 1
    scan_lists: int = 1
    scan_members: int = 1
    scan_hang_s: float = 10.0
    access_list: int = 0
    call_signs: int = 0
    rooms: int = 0


class Line(_Part, frozen=True):
    """The programming line: bits per second and bytes a block."""

    baud: int
    block: int


class ImageRegion(_Part, frozen=True):
    """A table in the radio's image: where it begins and how long a record is, in bytes."""

    at: int
    record: int


class Bytes(_Part, frozen=True):
    """Some bytes of the radio's image: where they begin, and how many."""

    at: int
    length: int


class Image(_Part, frozen=True):
    """Where in the radio's memory our tables lie, in bytes; `settings_at` 0: it has none. All other bytes are the radio's own.

    `unit` are bytes that each single radio has otherwise and never changes, such as what the factory adjusted; length 0: none.
    """

    size: int
    identity_at: int
    channels: ImageRegion
    contacts: ImageRegion
    group_lists: ImageRegion
    zones: ImageRegion
    scans: ImageRegion
    settings_at: int = 0
    unit: Bytes = Bytes(0, 0)


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
    `separate_pages`: its digital settings stand on pages of their own, away from the memory's.
    """

    zero_offset: bool = False
    one_entry: bool = False
    separate_pages: bool = False


class Key(_Part, frozen=True):
    """A key that the owner may set, and which presses of it count as two."""

    name: str
    presses: tuple[Literal["short", "long"], ...] = ("short", "long")


class Extras(_Part, frozen=True):
    """What else a radio has.

    `alias`, `startup` and `quick_length` are characters; `halves` those of its display; `decoders` the digital calls it decodes
    at once; `time_outs_s` the choices of its time-out timer; `auto_offset` whether it shifts by itself unless told not to.
    """

    alias: int = 0
    one_touch: bool = False
    halves: int = 1
    decoders: int = 1
    data: DataSpeed = "none"
    startup: int = 0
    quick_texts: int = 0
    quick_length: int = 20
    position: tuple[PositionSource, ...] = ("none",)
    time_outs_s: tuple[int, ...] = ()
    auto_offset: bool = False
    keys: tuple[Key, ...] = ()
    actions: tuple[KeyAction, ...] = ()


class FreeTuning(_Part, frozen=True):
    """Free tuning beside the memories: a channel of its own for each of the `halves` (none: the radio has only memories).

    `how` says which menu keeps it from sending; `by_cable` that the image holds it, a byte for each half.
    """

    halves: tuple[str, ...] = ("A",)
    how: str = ""
    by_cable: bool = False


class Firmware(_Part, frozen=True):
    """A variant of the radio's firmware, trading one thing for another: people against hours of recording."""

    key: str
    name: str
    people: int = 0
    recording_h: float = 0.0


class PeopleTable(_Part, frozen=True):
    """How the radio takes its people list: columns in their order, sorted by what, characters a name, bytes a record."""

    columns: tuple[PeopleColumn, ...] = ("id", "call", "name", "place", "country")
    order: Literal["id", "call", "name"] = "id"
    name_length: int = 16
    record: int = 64


class App(_Part, frozen=True):
    """A phone app that works with the radio on one phone platform; `needs` is what must be bought beside it."""

    platform: str
    needs: str = ""


_NOWHERE = ImageRegion(0, 0)
_NO_IMAGE = Image(0, 0, _NOWHERE, _NOWHERE, _NOWHERE, _NOWHERE, _NOWHERE)
SETTINGS_HEAD = 3
"""Bytes of the image's settings before its keys and texts: the time-out and the position source."""
_NO_LINE = Line(0, 0)


class Profile(_Part, frozen=True):
    """One kind of radio. `antenna_dbi` is the gain of the antenna that comes with it; only those with a cable have an image.

    `beside` names what must be bought besides, `own_of` the profile that one of the operator's own was made from. `serial`: it
    tells its serial number when it is asked who it is. `free_tuning` None: the profile does not say.
    """

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
    firmware: tuple[Firmware, ...] = ()
    people: PeopleTable | None = None
    apps: tuple[App, ...] = ()
    beside: tuple[str, ...] = ()
    keypad: Keypad | None = None
    free_tuning: FreeTuning | None = None
    shape: Literal["handheld", "mobile", "phone"] = "handheld"
    own_of: str = ""
    serial: bool = False
    format: str = FORMAT
    version: int = VERSION

    @property
    def by_cable(self) -> bool:
        """Whether its memory goes in and out by cable."""
        return "cable" in self.ways_in

    @property
    def free_halves(self) -> int:
        """How many halves have free tuning that the image holds, a byte each."""
        return len(self.free_tuning.halves) if self.free_tuning is not None and self.free_tuning.by_cable else 0

    @property
    def settings_length(self) -> int:
        """How many bytes of the image hold the settings of the whole radio; 0 where they are not known."""
        extras = self.extras
        presses = sum(len(key.presses) for key in extras.keys)
        texts = extras.startup + extras.quick_texts * extras.quick_length
        return SETTINGS_HEAD + presses + texts + self.free_halves if self.image.settings_at else 0

    def receives(self, hz: int) -> bool:
        """Whether the radio tunes to a frequency in hertz."""
        return any(span.low_hz <= hz <= span.high_hz for span in self.receive)

    def transmits(self, hz: int) -> bool:
        """Whether the radio can send on a frequency in hertz."""
        return any(span.low_hz <= hz <= span.high_hz for span in self.transmit)

    def variant(self, key: str) -> Firmware | None:
        """The firmware of a key; the first one when the radio has no such variant, None when it has none."""
        return next((item for item in self.firmware if item.key == key), self.firmware[0] if self.firmware else None)
