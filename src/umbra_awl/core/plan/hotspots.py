"""Hotspots and what stands around them: how one is set, what was measured and heard; part of the plan's model.

Frequencies and corrections are integer hertz, days ISO texts, temperatures degrees Celsius. A password is never part of a plan.
"""

from typing import ClassVar, Literal

from umbra_awl.core.plan.air import Value

Side = Literal["receive", "transmit"]
WifiSchool = Literal["teach", "pose"]
UseKind = Literal["hotspots", "calling", "beacons", "weak", "links", "satellites", "other"]


MOST_CORRECTION_HZ = 5_000
"""Oscillators of hotspot boards are off by some hundred hertz, the worst by a few thousand; more is another frequency."""


class Reading(Value, frozen=True):
    """A bit error rate as it was counted at one correction: `errors` in `bits`; no bits at all where nothing was decoded."""

    offset_hz: int
    errors: int = 0
    bits: int = 0
    side: Side = "receive"
    day: str = ""
    celsius: float | None = None
    left_out: bool = False


class Listened(Value, frozen=True):
    """What was heard on a frequency on one day; nothing where `heard` is empty."""

    hz: int
    day: str
    heard: str = ""


class Proof(Value, frozen=True):
    """A rung of the ladder of proof that was reached, and when."""

    rung: str
    day: str = ""


class Hotspot(Value, frozen=True):
    """What a hotspot itself is set to; it must agree with its access point to the hertz.

    `id_label` names the ID it logs in with; `wifi` are the names of the Wi-Fi networks it knows (never a password).
    `rx_correction_hz` and `tx_correction_hz` are put right in its settings for its own oscillator; `modem` is its modem type,
    `startup` the key of the destination it links to by itself, `host` its name on the network; board, computer and image are
    keys of parts. `locked`: its page no longer has the key it came with. `public_place` and `about` are what everybody reads
    of it, on its page and in lists. `by_eye` are steps of its path that were seen by eye, where its page cannot be asked.
    """

    called: ClassVar[str] = "hotspot"
    target: ClassVar[str] = "hotspot"

    key: str
    access: str
    transmit_hz: int
    receive_hz: int
    color_code: int = 1
    duplex: bool = False
    id_label: str = ""
    wifi: tuple[str, ...] = ()
    rx_correction_hz: int = 0
    tx_correction_hz: int = 0
    modem: str = ""
    startup: str = ""
    time_zone: str = ""
    display: str = ""
    host: str = ""
    board: str = ""
    computer: str = ""
    image: str = ""
    school: WifiSchool = "teach"
    locked: bool = False
    readings: tuple[Reading, ...] = ()
    listened: tuple[Listened, ...] = ()
    proofs: tuple[Proof, ...] = ()
    by_eye: tuple[Proof, ...] = ()
    public_place: str = ""
    about: str = ""

    @property
    def deaf(self) -> bool:
        """Whether duplex is set against the frequencies: on with one frequency, or off with two."""
        return self.duplex == (self.transmit_hz == self.receive_hz)


class Neighbour(Value, frozen=True):
    """Somebody else's hotspot close by: its frequency, or its pair."""

    hz: int
    other_hz: int = 0
    note: str = ""


class Use(Value, frozen=True):
    """What a stretch of a band is for, as a national plan has it; both edges inside."""

    low_hz: int
    high_hz: int
    kind: UseKind
    words: str = ""
    source: str = ""


class Phone(Value, frozen=True):
    """The operator's phone when it shares its connection: the name it gives its Wi-Fi, and the band in GHz.

    `sleeps`: it stops sharing when nobody looks at it; `platform` is the kind of phone, for what apps there are. `menu` is where
    its sharing sits and `page` the address of the hotspot's page on it, as its owner has seen them.
    """

    sharing: str = ""
    band_ghz: float = 2.4
    sleeps: bool = False
    platform: str = ""
    menu: str = ""
    page: str = ""


class HomeWifi(Value, frozen=True):
    """The Wi-Fi at home by its name, and its band in GHz; never its password."""

    name: str = ""
    band_ghz: float = 2.4
