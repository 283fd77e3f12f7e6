"""The plan: one immutable value that says who, where, whereto, by which routes, into which radios.

Every struct is frozen and compared by value. Frequencies are integer hertz, powers watts, positions degrees. Things are
named by a `key` that stays the same when their shown name changes. Nothing here is checked beyond its type: values that
an operator may type wrongly must be storable, so that a finding can explain them (`check.py` guards the structure).
"""

from typing import Literal

import msgspec

from umbra_awl.core.facts.bands import Band, Region

FORMAT = "umbra-awl plan"
VERSION = 1

Mode = Literal["fm", "dmr", "dstar", "fusion"]
CallKind = Literal["group", "private"]
Admit = Literal["always", "free", "color"]
SiteKind = Literal["repeater", "hotspot", "simplex"]
DestinationKind = Literal[
    "local", "group", "private", "echo", "disconnect", "dial", "reflector", "room", "station", "command"
]
GroupBy = Literal["access", "place", "mode", "trip", "everything", "hand"]
Privacy = Literal["exact", "locator", "none"]
Power = Literal["low", "high"]


class Value(msgspec.Struct, frozen=True, gc=False, omit_defaults=True, forbid_unknown_fields=True):
    """Base of all that a plan holds: frozen, hashable, written without its defaults."""


class RadioId(Value, frozen=True):
    """A DMR ID with what it is used for; a second hotspot of the same owner puts a `suffix` of two digits behind it."""

    number: int
    label: str = ""
    suffix: str = ""

    @property
    def full(self) -> int:
        """The number as it is sent: with its suffix where there is one."""
        return int(f"{self.number}{self.suffix}")


class Licence(Value, frozen=True):
    """What the operator's licence allows, and the guard that keeps everything receive-only until it is lifted."""

    step: str = ""
    granted: bool = False
    granted_on: str = ""
    bands: tuple[str, ...] = ()
    max_watts: float = 0.0
    guard: bool = True


class Identity(Value, frozen=True):
    """A person or club whose call sign and IDs a radio carries; without a licence of its own it has the station's.

    `dstar_call` is the eight-character field where it is not simply the call sign, `startup` the text a radio shows first.
    """

    key: str
    call: str = ""
    name: str = ""
    ids: tuple[RadioId, ...] = ()
    dstar_call: str = ""
    dstar_note: str = ""
    fusion_name: str = ""
    startup: str = ""
    licence: Licence | None = None


class Station(Value, frozen=True):
    """Who and where: identities (the first is the owner), licence, region and the operator's own band edges.

    `privacy` says how exactly the position may be sent or exported; `height_m` is the antenna's, 0 when not known.
    """

    identities: tuple[Identity, ...] = ()
    licence: Licence = Licence()
    region: Region = 1
    bands: tuple[Band, ...] = ()
    lat: float | None = None
    lon: float | None = None
    place: str = ""
    height_m: float = 0.0
    privacy: Privacy = "locator"


class Call(Value, frozen=True):
    """A DMR number together with how it is called."""

    number: int
    kind: CallKind = "group"


class Network(Value, frozen=True):
    """A network and its conventions: echo, disconnect, local talk group, dialled range, quiet time in minutes."""

    key: str
    name: str
    mode: Mode
    master: str = ""
    echo: Call | None = None
    disconnect: Call | None = None
    local_group: int | None = None
    dial_low: int | None = None
    dial_high: int | None = None
    quiet_minutes: int = 0


class FmAir(Value, frozen=True, tag="fm"):
    """FM: the tone that opens the repeater, the tone it sends back (“” for none), and the width in hertz."""

    tone_tx: str = ""
    tone_rx: str = ""
    width_hz: int = 12_500


class Static(Value, frozen=True):
    """A talk group that the repeater always carries on one slot."""

    slot: int
    destination: str


class DmrAir(Value, frozen=True, tag="dmr"):
    """DMR: color code, network, usable slots, what is always carried, and when a radio may key up."""

    color_code: int = 1
    network: str = ""
    slots: tuple[int, ...] = (1, 2)
    static: tuple[Static, ...] = ()
    admit: Admit = "color"


class DstarAir(Value, frozen=True, tag="dstar"):
    """D-STAR: the module letter, whether it has a gateway, and the network behind it."""

    module: str = "B"
    gateway: bool = True
    network: str = ""


class FusionAir(Value, frozen=True, tag="fusion"):
    """System Fusion: digital ways, DG-IDs 0-99, whether it also answers in FM, and the network behind it."""

    ways: tuple[str, ...] = ("DN",)
    dgid_tx: int = 0
    dgid_rx: int = 0
    auto_mode: bool = False
    network: str = ""


Air = FmAir | DmrAir | DstarAir | FusionAir


class Service(Value, frozen=True):
    """One mode on one frequency pair, named from the radio's side: `rx_hz` is heard, `tx_hz` is sent on."""

    key: str
    rx_hz: int
    tx_hz: int
    air: Air
    note: str = ""

    @property
    def mode(self) -> Mode:
        """The mode, read from what the air side holds."""
        return _MODE_OF[type(self.air)]


_MODE_OF: dict[type, Mode] = {FmAir: "fm", DmrAir: "dmr", DstarAir: "dstar", FusionAir: "fusion"}


class AccessPoint(Value, frozen=True):
    """A repeater, hotspot or simplex frequency at one site, with its services.

    `entry` names the directory's entry it was taken from; `watts` and `height_m` (of the antenna, in metres) where known.
    """

    key: str
    call: str
    site: str
    kind: SiteKind = "repeater"
    place: str = ""
    services: tuple[Service, ...] = ()
    lat: float | None = None
    lon: float | None = None
    confirmed: str = ""
    note: str = ""
    entry: str = ""
    watts: float | None = None
    height_m: float | None = None


class Destination(Value, frozen=True):
    """Whom one wants to reach. `number` and `call` are for DMR, `text` for fields of other modes."""

    key: str
    name: str
    kind: DestinationKind = "group"
    network: str = ""
    number: int | None = None
    call: CallKind = "group"
    text: str = ""


class Route(Value, frozen=True):
    """One punched hole: this destination through that service, on a slot (0 where there are none).

    The optional fields are what a hand-made or copied channel holds in place of the access point's own value.
    """

    service: str
    destination: str
    slot: int = 0
    name: str = ""
    power: Power = "high"
    receive_only: bool = False
    promiscuous: bool = False
    encrypted: bool = False
    hears: tuple[str, ...] | None = None
    color_code: int | None = None
    tone_tx: str | None = None
    tone_rx: str | None = None
    width_hz: int | None = None
    admit: Admit | None = None

    @property
    def key(self) -> str:
        """What names this route: service, destination and slot."""
        return f"{self.service}>{self.destination}@{self.slot}"


class RouteList(Value, frozen=True):
    """Routes gathered by a rule (`by`, `of`) or by hand; `members` are route keys, in hand order, before the rule's."""

    key: str
    name: str
    by: GroupBy = "hand"
    of: str = ""
    members: tuple[str, ...] = ()


class Zone(RouteList, frozen=True):
    """A zone: the routes one knob position after another."""


class ScanList(RouteList, frozen=True):
    """A scan list: the routes a radio steps through while nobody talks."""


class OwnedRadio(Value, frozen=True):
    """A radio the operator owns: its profile, whose identity it carries, and which zones go on it (None: all)."""

    key: str
    name: str
    profile: str
    identity: str = ""
    zones: tuple[str, ...] | None = None


class Hotspot(Value, frozen=True):
    """What a hotspot itself is set to; it must agree with its access point to the hertz."""

    key: str
    access: str
    transmit_hz: int
    receive_hz: int
    color_code: int = 1
    duplex: bool = False


class Step(Value, frozen=True):
    """A step on the way to the air: its days from start to end (shortest, likely, longest), what it waits for, when done.

    `who` is the identity it is for; `office` steps go on only Monday to Friday; dates are ISO texts, empty for none.
    """

    key: str
    name: str
    low: float = 0.0
    likely: float = 1.0
    high: float = 2.0
    after: tuple[str, ...] = ()
    office: bool = False
    waiting: bool = False
    needs: str = ""
    who: str = ""
    started: str = ""
    done: str = ""


class Reminder(Value, frozen=True):
    """Something to do before or on a trip: so many days before it begins, and whether it is done."""

    text: str
    days_before: int = 1
    done: bool = False


class Trip(Value, frozen=True):
    """A place and dates with what goes along: access points, a zone that gathers them, the time zone, reminders."""

    key: str
    name: str
    lat: float
    lon: float
    begins: str = ""
    ends: str = ""
    zone: str = ""
    access: tuple[str, ...] = ()
    time_zone: str = ""
    reminders: tuple[Reminder, ...] = ()


class Plan(Value, frozen=True):
    """The whole document."""

    format: str = FORMAT
    version: int = VERSION
    name: str = "New plan"
    station: Station = Station()
    networks: tuple[Network, ...] = ()
    access: tuple[AccessPoint, ...] = ()
    destinations: tuple[Destination, ...] = ()
    routes: tuple[Route, ...] = ()
    zones: tuple[Zone, ...] = ()
    scans: tuple[ScanList, ...] = ()
    radios: tuple[OwnedRadio, ...] = ()
    hotspots: tuple[Hotspot, ...] = ()
    trips: tuple[Trip, ...] = ()
    steps: tuple[Step, ...] = ()
