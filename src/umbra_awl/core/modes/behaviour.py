"""What every mode answers for itself, and what holds where a mode has nothing of its own to say."""

from abc import ABC, abstractmethod
from collections.abc import Iterator
from typing import TYPE_CHECKING, Any, ClassVar, Generic, NamedTuple, TypeVar

from umbra_awl.core.facts.emissions import Emission, emission
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.modes.opening import Condition, OnAir
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, Mode, Route, Service

if TYPE_CHECKING:
    from umbra_awl.core.radio.memory import Channel, Memory

A = TypeVar("A")


class Crossing(NamedTuple):
    """Whether a hole can be punched, at which places (0: one without a slot), and the reason when it cannot."""

    possible: bool
    slots: tuple[int, ...]
    reason: str


class AirFault(NamedTuple):
    """A value that the mode does not have: which rule says so, the sentence, and the field with a better value, if known."""

    rule: str
    text: str
    field: str = ""
    better: object = None


def no_crossing(reason: str) -> Crossing:
    """A crossing that cannot be punched, with the reason as a sentence."""
    return Crossing(False, (), reason)


class Behaviour(ABC, Generic[A]):
    """One mode. `A` is the air side of its services.

    `opened_by` names what opens an access point inside a sentence, `short` the word that stands before its value in a row;
    `kinds` are the destinations that the mode reaches, `listens_for` what a channel says of a call in another mode,
    `asks_alike` whether a service asks the same of a channel whatever it reaches.
    """

    mode: ClassVar[Mode]
    opened_by: ClassVar[str]
    short: ClassVar[str] = ""
    kinds: ClassVar[frozenset[str]]
    listens_for: ClassVar[str]
    quiet_minutes: ClassVar[int] = 0
    color_coded: ClassVar[bool] = False
    asks_alike: ClassVar[bool] = False

    @abstractmethod
    def opener(self, air: A) -> str:
        """The value that opens the access point; empty where it is open to all."""

    @abstractmethod
    def columns(self, air: A) -> dict[str, str]:
        """The cells of an exported row that only this mode fills."""

    @abstractmethod
    def usual(self, access: AccessPoint, air: A, destination: Destination, place: int) -> dict[str, Any]:
        """The values of a channel as the access point asks for them, by the names that channel and route share."""

    def order_of_use(self, _index: PlanIndex, _service: Service, _destination: Destination) -> tuple[str, ...]:
        """The steps that lead to a destination; empty where keying up is all there is to do."""
        return ()

    @abstractmethod
    def on_air(self, index: PlanIndex, service: Service, destination: Destination, sent: OnAir) -> OnAir:
        """A call to a destination as the access point sends it on: `sent` with what the mode adds."""

    def word(self) -> str:
        """The mode in a row of a list."""
        return MODE_WORDS[self.mode]

    def head(self, air: A) -> str:
        """The mode with what opens it, as the head of a column: “DMR cc 6”."""
        return " ".join(filter(None, (self.word(), self.opener(air) and self.short, self.opener(air))))

    def line(self, air: A) -> str:
        """The same on one line of a public text, where each character counts."""
        return f"{self.word()} {self.short}{self.opener(air)}".strip()

    @abstractmethod
    def said(self, channel: "Channel") -> str:
        """What a channel opens or asks for, in a few words."""

    @abstractmethod
    def brief(self, channel: "Channel") -> str:
        """What a channel opens, as short as paper wants it."""

    def asked(self, _channel: "Channel") -> str:
        """The opener by which a channel tells two access points on one frequency apart; empty where it tells none."""
        return ""

    def channel_fault(self, _channel: "Channel") -> str:
        """Why a channel that was read cannot be one of this mode, as a sentence; empty when it can."""
        return ""

    def slots(self, _air: A) -> tuple[int, ...]:
        """The time slots that may be used; none where the mode has none."""
        return ()

    def networks(self, air: A) -> tuple[str, ...]:
        """The keys of the networks that are reached, the service's own first."""
        return (air.network,) if air.network else ()  # type: ignore[attr-defined]

    def color(self, _air: A) -> int:
        """The color code of the access point, 0 where the mode has none."""
        return 0

    def faults(self, _air: A) -> Iterator[AirFault]:
        """Values of the air side that do not exist in this mode."""
        return iter(())

    def impossible(self, _route: Route, _air: A) -> str:
        """Why no radio can hold a route's values, as a sentence; empty when one can."""
        return ""

    def sent(self, service: Service, _route: Route | None) -> Emission:
        """What a radio sends on a service, by the values of a route where it has its own."""
        return emission(self.mode, service.tx_hz)

    def crossing(self, _index: PlanIndex, _where: str, _air: A, _destination: Destination) -> Crossing:
        """The crossing with a destination of a kind that the mode reaches; `where` names the access point."""
        return Crossing(True, (0,), "")

    def written(self, _field: str, value: Any) -> Any:
        """A route's own value as it goes into a channel."""
        return value

    def values(self, route: Route, usual: dict[str, Any]) -> dict[str, Any]:
        """A channel's values: the route's own where it has them, the usual ones elsewhere."""
        own = {field: self.written(field, value) for field in usual if (value := getattr(route, field)) is not None}
        return usual | own

    def mode_condition(self, channel: "Channel", call: OnAir) -> Condition:
        """Whether a channel of this mode hears a call by its mode."""
        if call.mode == channel.mode:
            return Condition("yes", "The mode is the same.")
        return Condition("no", self.listens_for)

    def conditions(self, _memory: "Memory", _channel: "Channel", _call: OnAir) -> Iterator[Condition]:
        """What else opens the speaker for a call of the same mode, in the order the radio meets it."""
        return iter(())
