"""FM: a tone opens the repeater; the width of the channel decides what it takes of the band."""

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from umbra_awl.core.facts.emissions import Emission, emission
from umbra_awl.core.facts.tones import is_tone, nearest_ctcss
from umbra_awl.core.modes.behaviour import AirFault, Behaviour
from umbra_awl.core.modes.opening import Condition, OnAir
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, FmAir, Route, Service

if TYPE_CHECKING:
    from umbra_awl.core.radio.memory import Channel, Memory


BURST = "1750 Hz"
ORDER_BURST = (
    "Key up and send the burst of 1750 Hz for half a second; a key of the radio does it.",
    "Wait until the repeater answers, then speak.",
)


class Fm(Behaviour[FmAir]):
    """Plain FM, beside the digital modes."""

    mode = "fm"
    opened_by = "tone"
    kinds = frozenset({"local"})
    asks_alike = True
    listens_for = "An FM listener hears a burst of noise."

    def opener(self, air: FmAir) -> str:
        """The tone, in hertz or as a DCS code, or the burst."""
        return air.tone_tx or (BURST if air.burst else "")

    def said(self, channel: "Channel") -> str:
        """FM with its tone."""
        return f"FM  tone {channel.tone_tx}" if channel.tone_tx else "FM"

    def brief(self, channel: "Channel") -> str:
        """The tone alone."""
        return channel.tone_tx

    def columns(self, air: FmAir) -> dict[str, str]:
        """Tones and width."""
        return {"tone": self.opener(air), "tone sent back": air.tone_rx, "width kHz": f"{air.width_hz / 1000:g}"}

    def order_of_use(self, _index: PlanIndex, service: Service, _destination: Destination) -> tuple[str, ...]:
        """A burst is sent by hand; a tone goes along by itself."""
        return ORDER_BURST if service.air.burst else ()  # type: ignore[union-attr]

    def networks(self, _air: FmAir) -> tuple[str, ...]:
        """FM reaches whoever listens."""
        return ()

    def faults(self, air: FmAir) -> Iterator[AirFault]:
        """A tone that is not one of the standard ones."""
        if is_tone(air.tone_tx):
            return
        text, near = f"“{air.tone_tx}” is not a standard tone.", ""
        if air.tone_tx.replace(".", "", 1).isdigit():
            near = nearest_ctcss(float(air.tone_tx))
            text += f" The nearest is {near} Hz."
        yield AirFault("tone", text, "tone_tx" if near else "", near)

    def sent(self, service: Service, route: Route | None) -> Emission:
        """Narrow or wide, by the route's own width where it has one."""
        own = route.width_hz if route is not None else None
        return emission("fm", service.tx_hz, own or service.air.width_hz)  # type: ignore[union-attr]

    def usual(self, _access: AccessPoint, air: FmAir, _destination: Destination, _place: int) -> dict[str, Any]:
        """The tone on transmit only: a receive tone is set by hand."""
        return {"tone_tx": air.tone_tx, "tone_rx": "", "width_hz": air.width_hz, "admit": "always"}

    def on_air(self, _index: PlanIndex, service: Service, _destination: Destination, sent: OnAir) -> OnAir:
        """With the tone that the access point sends back."""
        return sent._replace(tone=service.air.tone_rx)  # type: ignore[union-attr]

    def conditions(self, _memory: "Memory", channel: "Channel", call: OnAir) -> Iterator[Condition]:
        """The receive tone, where the channel waits for one."""
        if not channel.tone_rx:
            yield Condition("yes", "No receive tone: it opens for any signal.")
        elif channel.tone_rx == call.tone:
            yield Condition("yes", f"Waits for the tone {channel.tone_rx}, and it is sent.")
        else:
            yield Condition("no", f"Waits for the tone {channel.tone_rx}.", ("tone-on-receive", "unknown-tone"))
