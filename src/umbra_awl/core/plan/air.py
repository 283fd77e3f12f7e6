"""Networks, and the air side of an access point: what each mode needs to be opened. Part of the plan's model."""

from typing import ClassVar, Literal

import msgspec

from umbra_awl.core.facts.modes import Mode

CallKind = Literal["group", "private"]
Admit = Literal["always", "free", "color"]
HearsRule = Literal["own", "slot", "access"]
DataSpeed = Literal["none", "slow", "fast"]


class Value(msgspec.Struct, frozen=True, gc=False, omit_defaults=True, forbid_unknown_fields=True):
    """Base of all that a plan holds: frozen, hashable, written without its defaults.

    `called` is what one is called in a sentence, where the plan has a collection of them; `keyed` whether each has a key of
    its own; `target` the word by which findings and the window point at one.
    """

    called: ClassVar[str] = ""
    keyed: ClassVar[bool] = True
    target: ClassVar[str] = ""


class Call(Value, frozen=True):
    """A DMR number together with how it is called."""

    number: int
    kind: CallKind = "group"


class Network(Value, frozen=True):
    """A network and its conventions: echo, disconnect, local talk group, dialled range, quiet time in minutes.

    `prefix` stands before a six-digit number where the network is reached through another network's hotspot.
    """

    called: ClassVar[str] = "network"
    target: ClassVar[str] = "network"

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
    prefix: str = ""


class FmAir(Value, frozen=True, tag="fm"):
    """FM: the tone that opens the repeater, the tone it sends back (“” for none), and the width in hertz.

    `burst`: it wants a burst of 1750 Hz before it opens, which a key of the radio sends.
    """

    tone_tx: str = ""
    tone_rx: str = ""
    width_hz: int = 12_500
    burst: bool = False


class Static(Value, frozen=True):
    """A talk group that the repeater always carries on one slot."""

    slot: int
    destination: str


class DmrAir(Value, frozen=True, tag="dmr"):
    """DMR: color code, network, usable slots, what is always carried, and when a radio may key up.

    `hears` is the rule for receive group lists: its own talk group, all of the slot, all of the access point. `also` names
    further networks that are reached through this one by their number prefix.
    """

    color_code: int = 1
    network: str = ""
    slots: tuple[int, ...] = (1, 2)
    static: tuple[Static, ...] = ()
    admit: Admit = "color"
    hears: HearsRule = "own"
    also: tuple[str, ...] = ()


class DstarAir(Value, frozen=True, tag="dstar"):
    """D-STAR: the module letter, whether it has a gateway, the network behind it, and how fast data may go."""

    module: str = "B"
    gateway: bool = True
    network: str = ""
    data: DataSpeed = "slow"


class Mapped(Value, frozen=True):
    """A destination that an access point reaches under one transmit DG-ID."""

    dgid: int
    destination: str


class FusionAir(Value, frozen=True, tag="fusion"):
    """System Fusion: digital ways, DG-IDs 0-99, whether it also answers in FM, and the network behind it.

    `mapped` says which DG-ID leads where; `node` whether rooms can be connected to by number.
    """

    ways: tuple[str, ...] = ("DN",)
    dgid_tx: int = 0
    dgid_rx: int = 0
    auto_mode: bool = False
    network: str = ""
    mapped: tuple[Mapped, ...] = ()
    node: bool = True


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
