"""The plan: one immutable value that says who, where, whereto, by which routes, into which radios.

Every struct is frozen and compared by value. Frequencies are integer hertz, powers watts, positions degrees. Things are
named by a `key` that stays the same when their shown name changes. Nothing here is checked beyond its type: values that
an operator may type wrongly must be storable, so that a finding can explain them (`check.py` guards the structure).
"""

from typing import ClassVar, Literal

from umbra_awl.core.facts.bands import Band, Region
from umbra_awl.core.facts.modes import Mode as Mode
from umbra_awl.core.plan.air import Admit as Admit
from umbra_awl.core.plan.air import Air as Air
from umbra_awl.core.plan.air import Call as Call
from umbra_awl.core.plan.air import CallKind as CallKind
from umbra_awl.core.plan.air import DataSpeed as DataSpeed
from umbra_awl.core.plan.air import DmrAir as DmrAir
from umbra_awl.core.plan.air import DstarAir as DstarAir
from umbra_awl.core.plan.air import FmAir as FmAir
from umbra_awl.core.plan.air import FusionAir as FusionAir
from umbra_awl.core.plan.air import HearsRule as HearsRule
from umbra_awl.core.plan.air import Mapped as Mapped
from umbra_awl.core.plan.air import Network as Network
from umbra_awl.core.plan.air import Service as Service
from umbra_awl.core.plan.air import Static as Static
from umbra_awl.core.plan.air import Value as Value
from umbra_awl.core.plan.evening import Assumed as Assumed
from umbra_awl.core.plan.evening import Evening as Evening
from umbra_awl.core.plan.evening import Traffic as Traffic
from umbra_awl.core.plan.evening import TrafficKind as TrafficKind
from umbra_awl.core.plan.habits import Habits
from umbra_awl.core.plan.hotspots import HomeWifi as HomeWifi
from umbra_awl.core.plan.hotspots import Hotspot as Hotspot
from umbra_awl.core.plan.hotspots import Listened as Listened
from umbra_awl.core.plan.hotspots import Neighbour as Neighbour
from umbra_awl.core.plan.hotspots import Phone as Phone
from umbra_awl.core.plan.hotspots import Proof as Proof
from umbra_awl.core.plan.hotspots import Reading as Reading
from umbra_awl.core.plan.hotspots import Side as Side
from umbra_awl.core.plan.hotspots import Use as Use
from umbra_awl.core.plan.hotspots import UseKind as UseKind
from umbra_awl.core.plan.hotspots import WifiSchool as WifiSchool
from umbra_awl.core.plan.listening import BandHeard as BandHeard
from umbra_awl.core.plan.nets import Every as Every
from umbra_awl.core.plan.nets import Net as Net
from umbra_awl.core.plan.radios import GivenCode as GivenCode
from umbra_awl.core.plan.radios import KeySetting as KeySetting
from umbra_awl.core.plan.radios import NameLead as NameLead
from umbra_awl.core.plan.radios import NameStyle as NameStyle
from umbra_awl.core.plan.radios import OptionSetting as OptionSetting
from umbra_awl.core.plan.radios import OwnedRadio as OwnedRadio
from umbra_awl.core.plan.radios import PeopleChoice as PeopleChoice
from umbra_awl.core.plan.radios import PeopleSort as PeopleSort
from umbra_awl.core.plan.radios import PinnedName as PinnedName
from umbra_awl.core.plan.radios import PinnedPower as PinnedPower
from umbra_awl.core.plan.radios import PositionSource as PositionSource
from umbra_awl.core.plan.radios import Press as Press
from umbra_awl.core.plan.radios import RadioSettings as RadioSettings
from umbra_awl.core.plan.radios import School as School
from umbra_awl.core.plan.radios import Short as Short

FORMAT = "umbra-awl plan"
VERSION = 1

SiteKind = Literal["repeater", "hotspot", "simplex", "receive"]
DestinationKind = Literal[
    "local",
    "group",
    "private",
    "echo",
    "disconnect",
    "dial",
    "reflector",
    "direct",
    "repeater",
    "station",
    "info",
    "room",
]
GroupBy = Literal["access", "place", "mode", "trip", "home", "everything", "hand"]
Privacy = Literal["exact", "locator", "none"]
Power = Literal["auto", "low", "high"]


class RadioId(Value, frozen=True):
    """A DMR ID with what it is used for; a second hotspot of the same owner puts a `suffix` of two digits behind it."""

    number: int
    label: str = ""
    suffix: str = ""

    @property
    def full(self) -> int:
        """The number as it is sent: with its suffix where there is one that is made of digits."""
        sendable = self.suffix.isascii() and self.suffix.isdigit()
        return int(f"{self.number}{self.suffix}") if sendable else self.number


class Licence(Value, frozen=True):
    """What the operator's licence allows, and the guard that keeps everything receive-only until it is lifted."""

    step: str = ""
    granted: bool = False
    granted_on: str = ""
    bands: tuple[str, ...] = ()
    max_watts: float = 0.0
    guard: bool = True


class Identity(Value, frozen=True):
    """A person or club whose call sign and IDs a radio carries.

    The first one is the owner and transmits under the station's licence. Anybody else has a `licence` of their own, not granted
    where none is told, unless it was chosen that `shares_licence` lets them transmit under the station's.

    `dstar_call` is the eight-character field where it is not simply the call sign, `startup` the text a radio shows first,
    `alias` the text a DMR radio sends along while it talks.
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
    alias: str = ""
    shares_licence: bool = False


class Station(Value, frozen=True):
    """Who and where: identities (the first is the owner), licence, region and the operator's own band edges.

    `privacy` says how exactly the position may be sent or exported; `height_m` is the antenna's, 0 when not known.
    `neighbours` are other people's hotspots close by; `uses` what the bands are for, none for the usual table.
    `habits` are what is kept to where practitioners disagree, `heard` is what was heard by tuning through the bands.
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
    phone: Phone | None = None
    home_wifi: HomeWifi | None = None
    neighbours: tuple[Neighbour, ...] = ()
    uses: tuple[Use, ...] = ()
    habits: Habits = Habits()
    heard: tuple[BandHeard, ...] = ()


class AccessPoint(Value, frozen=True):
    """A repeater, hotspot or simplex frequency at one site, with its services.

    `entry` names the directory's entry it was taken from, `listed` its services as that had them then; `watts` and
    `height_m` (of the antenna, in metres) where known.
    """

    called: ClassVar[str] = "access point"

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
    listed: tuple[Service, ...] = ()
    watts: float | None = None
    height_m: float | None = None

    @property
    def by_call(self) -> str:
        """What it is called by: its call sign, or its site where it has none."""
        return self.call or self.site

    @property
    def by_site(self) -> str:
        """What it is called by in places: its site, or its call sign where that is not told."""
        return self.site or self.call


class Destination(Value, frozen=True):
    """Whom one wants to reach. `number` and `call` are for DMR and rooms, `text` for D-STAR: “VLR001 C”, a call sign.

    `time_zone` is the far end's, by its name in the time zone database; empty where it is everywhere or not known. `radio` is
    which radio a person has, by the name of its profile or as they call it.
    """

    called: ClassVar[str] = "destination"
    target: ClassVar[str] = "destination"

    key: str
    name: str
    kind: DestinationKind = "group"
    network: str = ""
    number: int | None = None
    call: CallKind = "group"
    text: str = ""
    time_zone: str = ""
    radio: str = ""


class Route(Value, frozen=True):
    """One punched hole: this destination through that service, at a place of its crossing (`slot`).

    `power` “auto” is the least through one's own hotspot and the most that radio and licence allow elsewhere.
    For DMR the place is the time slot. Where D-STAR links before it talks, 1 is the memory that links and 2 the one that
    talks. It is 0 where there is only one. The optional fields are what a hand-made or copied channel holds in place of the
    access point's own value.
    """

    called: ClassVar[str] = "route"
    target: ClassVar[str] = "route"

    service: str
    destination: str
    slot: int = 0
    name: str = ""
    power: Power = "auto"
    receive_only: bool = False
    promiscuous: bool = False
    encrypted: bool = False
    hears: tuple[str, ...] | None = None
    color_code: int | None = None
    tone_tx: str | None = None
    tone_rx: str | None = None
    width_hz: int | None = None
    admit: Admit | None = None
    ur: str | None = None
    rpt1: str | None = None
    rpt2: str | None = None
    way: str | None = None
    dgid_tx: int | None = None
    dgid_rx: int | None = None

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

    called: ClassVar[str] = "zone"
    target: ClassVar[str] = "zone"


class ScanList(RouteList, frozen=True):
    """A scan list: the routes a radio steps through while nobody talks.

    `priority` is the route it looks at between all others; `hang_s` the seconds it stays after a call has ended.
    """

    called: ClassVar[str] = "scan list"
    target: ClassVar[str] = "scan"

    priority: str = ""
    hang_s: float = 3.0


class Step(Value, frozen=True):
    """A step on the way to the air: its days from start to end (shortest, likely, longest), what it waits for, when done.

    `who` is the identity it is for; `office` steps go on only Monday to Friday; dates are ISO texts, empty for none.
    """

    called: ClassVar[str] = "step"
    target: ClassVar[str] = "step"

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
    """A place and dates with what goes along: access points, a zone that gathers them, the time zone, reminders.

    `rehearsed` says when leaving home was rehearsed for it, how it went, and by what print of the names. `packed` are the things
    of its kit that lie ready.
    """

    called: ClassVar[str] = "trip"
    target: ClassVar[str] = "trip"

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
    rehearsed: str = ""
    packed: tuple[str, ...] = ()


class Silence(Value, frozen=True):
    """A finding that the operator has looked at and put aside, with the reason; named by rule, thing and part."""

    called: ClassVar[str] = "finding put aside"
    keyed: ClassVar[bool] = False

    rule: str
    kind: str
    thing: str
    part: str = ""
    reason: str = ""

    @property
    def key(self) -> tuple[str, str, str, str]:
        """The key of the finding it silences."""
        return (self.rule, self.kind, self.thing, self.part)


class Plan(Value, frozen=True):
    """The whole document."""

    format: str = FORMAT
    version: int = VERSION
    name: str = "New plan"
    station: Station = Station()
    names: NameStyle = NameStyle()
    networks: tuple[Network, ...] = ()
    access: tuple[AccessPoint, ...] = ()
    destinations: tuple[Destination, ...] = ()
    routes: tuple[Route, ...] = ()
    zones: tuple[Zone, ...] = ()
    scans: tuple[ScanList, ...] = ()
    radios: tuple[OwnedRadio, ...] = ()
    hotspots: tuple[Hotspot, ...] = ()
    trips: tuple[Trip, ...] = ()
    nets: tuple[Net, ...] = ()
    steps: tuple[Step, ...] = ()
    silenced: tuple[Silence, ...] = ()
    evening: Evening = Evening()
