"""Radio profiles: what a radio can hold and show, as values. `profile_file.py` reads and writes them as TOML."""

from typing import Literal

from umbra_awl.core.plan.model import Admit, DataSpeed, Mode, PositionSource
from umbra_awl.core.radio.body import RadioBuild
from umbra_awl.core.radio.display import NameRules
from umbra_awl.core.radio.keypad import Keypad
from umbra_awl.core.radio.taught import TaughtKeys
from umbra_awl.core.radio.ways_in import App, Card, Firmware, LoadingWay, MenuPart, PeopleTable

FORMAT = "umbra-awl profile"
VERSION = 1
WayIn = Literal["cable", "card", "app", "keypad", "file"]
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


class NumberSpan(MenuPart, frozen=True):
    """A tuning range in hertz, edges inside."""

    low_hz: int
    high_hz: int


class Display(MenuPart, frozen=True):
    """What a name may be: length in characters, the characters known, capitals only."""

    length: int
    characters: str
    upper: bool = False

    @property
    def rules(self) -> NameRules:
        """The display as naming rules."""
        return NameRules(self.length, self.characters, self.upper)


class Limits(MenuPart, frozen=True):
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


class SerialSettings(MenuPart, frozen=True):
    """The programming line: bits per second and bytes a block."""

    baud: int
    block: int


class ImageRegion(MenuPart, frozen=True):
    """A table in the radio's image: where it begins and how long a record is, in bytes."""

    at: int
    record: int


class Bytes(MenuPart, frozen=True):
    """Some bytes of the radio's image: where they begin, and how many."""

    at: int
    length: int


_NOWHERE = ImageRegion(0, 0)


class Image(MenuPart, frozen=True):
    """Where in the radio's memory our tables lie, in bytes; `settings_at` 0: it has none. All other bytes are the radio's own.

    A table whose record is 0 bytes long is not there. `unit` are bytes that each single radio has otherwise and never changes,
    such as what the factory adjusted; length 0: none.
    """

    size: int
    identity_at: int
    channels: ImageRegion
    contacts: ImageRegion = _NOWHERE
    group_lists: ImageRegion = _NOWHERE
    zones: ImageRegion = _NOWHERE
    scans: ImageRegion = _NOWHERE
    settings_at: int = 0
    unit: Bytes = Bytes(0, 0)
    access_list: ImageRegion = _NOWHERE
    call_signs: ImageRegion = _NOWHERE
    rooms: ImageRegion = _NOWHERE


class Battery(MenuPart, frozen=True):
    """The battery and what is drawn from it, in mAh and mA; `transmit_ma` for each power step."""

    capacity_mah: float
    transmit_ma: tuple[float, ...]
    receive_ma: float
    idle_ma: float


class Needs(MenuPart, frozen=True):
    """What a D-STAR radio insists on.

    `zero_offset`: it fills RPT1 and RPT2 only in duplex memories, so a simplex hotspot's memory is duplex with an offset of 0.
    `one_entry`: it refuses two access entries with the same call sign and module.
    `separate_pages`: its digital settings stand on pages of their own, away from the memory's.
    """

    zero_offset: bool = False
    one_entry: bool = False
    separate_pages: bool = False


class Key(MenuPart, frozen=True):
    """A key that the owner may set, and which presses of it count as two."""

    name: str
    presses: tuple[Literal["short", "long"], ...] = ("short", "long")


class Extras(MenuPart, frozen=True):
    """What else a radio has.

    `alias`, `startup` and `quick_length` are characters; `halves` those of its display; `decoders` the digital calls it decodes
    at once; `time_outs_s` the choices of its time-out timer, `time_out_off` whether it can be off; `auto_offset` whether it
    shifts by itself unless told not to.
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
    time_out_off: bool = False
    auto_offset: bool = False
    keys: tuple[Key, ...] = ()
    actions: tuple[KeyAction, ...] = ()


class RadioOption(MenuPart, frozen=True):
    """A setting that only this kind of radio has: its name, its values in the radio's words, the keys that lead to it."""

    label: str
    values: tuple[str, ...]
    keys: tuple[str, ...] = ()


class FreeTuning(MenuPart, frozen=True):
    """Free tuning beside the memories: a channel of its own for each of the `halves` (none: the radio has only memories).

    `how` says which menu keeps it from sending; `by_cable` that the image holds it, a byte for each half.
    """

    halves: tuple[str, ...] = ("A",)
    how: str = ""
    by_cable: bool = False


_NO_IMAGE = Image(0, 0, _NOWHERE)
SETTINGS_HEAD = 3
"""Bytes of the image's settings before its keys and texts: the time-out and the position source."""
_NO_LINE = SerialSettings(0, 0)


class Profile(MenuPart, frozen=True):
    """One kind of radio. `antenna_dbi` is the gain of the antenna that comes with it; those with a cable or a card have an image.

    `beside` names what must be bought besides, `own_of` the profile that one of the operator's own was made from, `confirmed` the
    parts of that one that were said to be the same (`taken_over.py`). `serial`: it tells its serial number when it is asked who
    it is. `free_tuning` None: the profile does not say. `taught` is what was learnt of it by doing, `options` are settings of
    its own, which nothing changes unless the plan says so and `build` how it is built. `codec` and `way`
    name drivers that serve it in place of what is here.
    """

    key: str
    name: str
    summary: str
    modes: tuple[Mode, ...]
    knob_positions: int
    display: Display
    receive: tuple[NumberSpan, ...]
    transmit: tuple[NumberSpan, ...]
    power_watts: tuple[float, ...]
    admit: tuple[Admit, ...]
    limits: Limits
    line: SerialSettings = _NO_LINE
    image: Image = _NO_IMAGE
    battery: Battery | None = None
    antenna_dbi: float = 0.0
    ways_in: tuple[WayIn, ...] = ("cable",)
    needs: Needs = Needs()
    extras: Extras = Extras()
    firmware: tuple[Firmware, ...] = ()
    loading: LoadingWay | None = None
    people: PeopleTable | None = None
    card: Card | None = None
    apps: tuple[App, ...] = ()
    beside: tuple[str, ...] = ()
    keypad: Keypad | None = None
    taught: TaughtKeys | None = None
    free_tuning: FreeTuning | None = None
    options: tuple[RadioOption, ...] = ()
    build: RadioBuild = RadioBuild()
    shape: Literal["handheld", "mobile", "phone"] = "handheld"
    own_of: str = ""
    confirmed: tuple[str, ...] = ()
    serial: bool = False
    codec: str = ""
    way: str = ""
    format: str = FORMAT
    version: int = VERSION

    @property
    def by_cable(self) -> bool:
        """Whether its memory goes in and out by cable."""
        return "cable" in self.ways_in

    @property
    def by_keys(self) -> bool:
        """Whether a key sheet can be made: its menus are described, or its keys were learnt by doing."""
        return self.keypad is not None or (self.taught is not None and self.taught.saves)

    @property
    def by_card(self) -> bool:
        """Whether its memory goes in and out by memory card, and its bytes are known."""
        return "card" in self.ways_in and self.card is not None and bool(self.image.size)

    @property
    def keeps_lists(self) -> bool:
        """Whether it keeps a list of people, or of access points around, apart from its memory."""
        return self.people is not None or (self.card is not None and self.card.around is not None)

    def fed_by(self, way: WayIn) -> bool:
        """Whether it can be fed by a way here: by what of it is described."""
        if way == "card":
            return self.by_card
        return way in self.ways_in and (way != "app" or any(app.carries for app in self.apps))

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
        return (
            SETTINGS_HEAD + presses + texts + self.free_halves + int(extras.auto_offset)
            if self.image.settings_at
            else 0
        )

    def receives(self, hz: int) -> bool:
        """Whether the radio tunes to a frequency in hertz."""
        return any(span.low_hz <= hz <= span.high_hz for span in self.receive)

    def transmits(self, hz: int) -> bool:
        """Whether the radio can send on a frequency in hertz."""
        return any(span.low_hz <= hz <= span.high_hz for span in self.transmit)

    def variant(self, key: str) -> Firmware | None:
        """The firmware of a key; the first one when the radio has no such variant, None when it has none."""
        return next((item for item in self.firmware if item.key == key), self.firmware[0] if self.firmware else None)
