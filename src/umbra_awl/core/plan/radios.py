"""The operator's radios, each with its own choices, and the house style of names. Part of the plan's model."""

from typing import ClassVar, Literal

from umbra_awl.core.plan.air import Value

NameLead = Literal["site", "call", "destination"]
PositionSource = Literal["gps", "fixed", "none"]
Press = Literal["short", "long"]
School = Literal["both", "channels", "dial"]
PeopleSort = Literal["near", "id", "call"]
CodeKind = Literal["site", "to", "tag", "mark"]


class Short(Value, frozen=True):
    """An abbreviation of the operator's own."""

    word: str
    short: str


class NameStyle(Value, frozen=True):
    """The house style of channel names: what leads, what stands between, capitals, talk groups by number, own abbreviations."""

    lead: NameLead = "site"
    separator: str = " "
    capitals: bool = False
    numbers: bool = False
    shorts: tuple[Short, ...] = ()


class KeySetting(Value, frozen=True):
    """What one press of a radio's key does."""

    key: str
    press: Press
    action: str


class PinnedName(Value, frozen=True):
    """A route's name on one radio only."""

    route: str
    name: str


class PinnedPower(Value, frozen=True):
    """A route's power on one radio only, as the place of its power step, 0 the lowest."""

    route: str
    step: int


class GivenCode(Value, frozen=True):
    """What a radio's names say for a site, a destination, a service's module or band, or the mark of memories that link.

    `key` is the access point's, the destination's or the service's key, “link” for the mark. A code once given stays.
    """

    kind: CodeKind
    key: str
    said: str


class OptionSetting(Value, frozen=True):
    """What a setting that only this kind of radio has is to be."""

    option: str
    value: str


class PeopleChoice(Value, frozen=True):
    """Which people go onto a radio, besides those picked by hand, who always do.

    `countries` and `regions` are words as the store spells them, `within_km` counts from the station, `by_talk_groups` takes
    the countries whose talk groups the radio calls, `from_log` the call signs of one's own log. Nothing chosen: nobody.
    """

    countries: tuple[str, ...] = ()
    regions: tuple[str, ...] = ()
    within_km: float = 0.0
    by_talk_groups: bool = False
    from_log: bool = False
    log_calls: tuple[str, ...] = ()
    picked: tuple[int, ...] = ()
    everybody: bool = False
    sort: PeopleSort = "near"


TIME_OUT_OFF = -1
"""A time-out in seconds that says: off, never stop by itself."""


class RadioSettings(Value, frozen=True):
    """What is set once for the whole radio: keys, texts, position, time-out; None, 0 or empty leaves the radio as it is.

    `free_tuning` is whether it may send where it is tuned freely; it never may while its person's guard is on. A phone app sets
    the `message` on others' displays, `data_by_itself` or only with the key, `fast_data`, `units` of speed. `options` are
    settings that only its profile knows.
    """

    keys: tuple[KeySetting, ...] = ()
    startup: str | None = None
    quick_texts: tuple[str, ...] = ()
    position: PositionSource | None = None
    time_out_s: int = 0
    auto_offset: bool | None = None
    free_tuning: bool | None = None
    message: str | None = None
    data_by_itself: bool | None = None
    fast_data: bool | None = None
    units: Literal["km/h", "knots"] | None = None
    options: tuple[OptionSetting, ...] = ()


class OwnedRadio(Value, frozen=True):
    """A radio the operator owns: its profile, whose identity it carries, and what goes on it.

    `zones` and `trips` go along (None: all). `one_touch` is the destination that its one-touch key calls; `halves` the zones
    that its display's halves A and B show. `school` takes a channel per talk group, or one channel that dials the rest.
    What did not fit and was decided: `leave` (routes left out), `first` (routes kept when there is no room for all), `cut`
    (zones cut rather than split), `names` and `powers` (of routes on this radio). `codes` are how its names say sites and
    destinations, kept from the first time they left the plan. `firmware` is the variant it runs,
    `hardware` the mark of its make, where makes of it take different firmware, and `updated` the day (ISO) on which it was looked
    for a newer one.
    """

    called: ClassVar[str] = "radio"
    target: ClassVar[str] = "radio"

    key: str
    name: str
    profile: str
    identity: str = ""
    zones: tuple[str, ...] | None = None
    one_touch: str = ""
    halves: tuple[str, ...] = ()
    trips: tuple[str, ...] | None = None
    school: School = "both"
    style: NameStyle | None = None
    leave: tuple[str, ...] = ()
    first: tuple[str, ...] = ()
    cut: tuple[str, ...] = ()
    names: tuple[PinnedName, ...] = ()
    powers: tuple[PinnedPower, ...] = ()
    codes: tuple[GivenCode, ...] = ()
    firmware: str = ""
    hardware: str = ""
    updated: str = ""
    settings: RadioSettings = RadioSettings()
    people: PeopleChoice | None = None
