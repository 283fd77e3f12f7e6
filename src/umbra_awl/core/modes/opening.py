"""What opens a channel's speaker: condition by condition, from what an access point sends to what the radio lets through."""

from typing import TYPE_CHECKING, Literal, NamedTuple

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.plan.model import CallKind, Mode

if TYPE_CHECKING:
    from umbra_awl.core.radio.memory import Channel

Holds = Literal["yes", "no", "perhaps"]


class OnAir(NamedTuple):
    """A call as it leaves the access point: hertz, mode and what that mode sends along."""

    hz: int
    mode: Mode
    color_code: int = 0
    slot: int = 0
    number: int = 0
    kind: CallKind = "group"
    tone: str = ""
    dgid: int = 0


class Condition(NamedTuple):
    """One condition: whether it holds, what is so, and the rules whose repair would help."""

    holds: Holds
    text: str
    mends: tuple[str, ...] = ()


def first_shut(found: tuple[Condition, ...]) -> Condition | None:
    """The first condition that keeps the speaker shut; None when none does."""
    return next((item for item in found if item.holds == "no"), None)


def frequency_condition(channel: "Channel", call: OnAir) -> Condition:
    """Whether the channel listens where the call comes."""
    if channel.rx_hz == call.hz:
        return Condition("yes", f"Listens on {format_mhz(channel.rx_hz)}, where the call comes.")
    text = f"Listens on {format_mhz(channel.rx_hz)}, and the call comes on {format_mhz(call.hz)}."
    return Condition("no", text, ("hotspot-differs", "off-raster"))
