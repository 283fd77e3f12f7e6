"""System Fusion: a DG-ID opens the access point or leads to a room, and the radio sends digital, FM or what fits."""

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from umbra_awl.core.facts.emissions import Emission, emission
from umbra_awl.core.facts.fusion import HEARS_ALL, dgid_fault, shown_dgid
from umbra_awl.core.facts.width import NARROW_HZ
from umbra_awl.core.modes.behaviour import Behaviour, Crossing, no_crossing
from umbra_awl.core.modes.opening import Condition, OnAir
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, FusionAir, Route, Service

if TYPE_CHECKING:
    from umbra_awl.core.radio.memory import Channel, Memory

_AS_FM = frozenset({"FM", "AMS"})


def mapped_dgid(air: FusionAir, destination: Destination) -> int | None:
    """The transmit DG-ID that leads to a destination, where the access point has one for it."""
    return next((item.dgid for item in air.mapped if item.destination == destination.key), None)


def wanted_dgid(air: FusionAir, destination: Destination) -> int:
    """The transmit DG-ID that is asked for on the way to a destination."""
    mapped = mapped_dgid(air, destination)
    return air.dgid_tx if mapped is None else mapped


def takes_dgid(air: FusionAir, destination: Destination, sent: int) -> bool:
    """Whether a transmit DG-ID leads to a destination: an access point of 00 takes all that lead nowhere else."""
    wanted = wanted_dgid(air, destination)
    elsewhere = any(item.dgid == sent for item in air.mapped)
    return sent == wanted or (wanted == HEARS_ALL and mapped_dgid(air, destination) is None and not elsewhere)


def fusion_way(air: FusionAir) -> str:
    """How a radio sends there by rule: automatic where FM is answered too, else the access point's first digital way."""
    return "AMS" if air.auto_mode else next(iter(air.ways), "DN")


class Fusion(Behaviour[FusionAir]):
    """System Fusion (C4FM)."""

    mode = "fusion"
    opened_by = "DG-ID"
    short = "DG-ID "
    kinds = frozenset({"local", "room", "echo", "disconnect"})
    listens_for = "Listens for System Fusion only."

    def word(self) -> str:
        """Short, as people say it."""
        return "Fusion"

    def opener(self, air: FusionAir) -> str:
        """The transmit DG-ID, two digits."""
        return f"{air.dgid_tx:02d}"

    def head(self, air: FusionAir) -> str:
        """With the DG-ID where it is not 00."""
        return f"Fusion {shown_dgid(air.dgid_tx)}" if air.dgid_tx else "Fusion"

    def said(self, channel: "Channel") -> str:
        """The way it sends, and the DG-ID."""
        return f"{channel.way}  DG-ID {channel.dgid_tx:02d}"

    def brief(self, channel: "Channel") -> str:
        """The way and the two digits."""
        return f"{channel.way} {channel.dgid_tx:02d}"

    def channel_fault(self, channel: "Channel") -> str:
        """DG-IDs are 00 to 99."""
        return dgid_fault(channel.dgid_tx) or dgid_fault(channel.dgid_rx)

    def columns(self, air: FusionAir) -> dict[str, str]:
        """DG-ID and network."""
        return {"DG-ID": self.opener(air), "network": air.network}

    def impossible(self, route: Route, air: FusionAir) -> str:
        """A DG-ID that does not exist."""
        told = (route.dgid_tx, route.dgid_rx, air.dgid_tx, air.dgid_rx, *(item.dgid for item in air.mapped))
        return next((fault for number in told if number is not None and (fault := dgid_fault(number))), "")

    def sent(self, service: Service, route: Route | None) -> Emission:
        """What a route sends as FM, or might, takes FM's width."""
        if route is not None and route.way in _AS_FM:
            return emission("fm", service.tx_hz, NARROW_HZ)
        return emission("fusion", service.tx_hz)

    def crossing(self, _index: PlanIndex, where: str, air: FusionAir, destination: Destination) -> Crossing:
        """A room by its DG-ID or by connecting to it; commands only by a DG-ID."""
        if destination.kind == "local" or mapped_dgid(air, destination) is not None:
            return Crossing(True, (0,), "")
        if destination.kind == "room" and air.node:
            return Crossing(True, (0,), "")
        if destination.kind == "room":
            return no_crossing(f"{where} maps no DG-ID to {destination.name} and takes no connect command.")
        return no_crossing(
            f"{destination.name} is a command on the radio's own node page here, not a memory; {where} maps no DG-ID to it."
        )

    def usual(self, _access: AccessPoint, air: FusionAir, destination: Destination, _place: int) -> dict[str, Any]:
        """The way, and the DG-IDs: the one that leads to the destination, else the access point's own."""
        sent = wanted_dgid(air, destination)
        return {"way": fusion_way(air), "dgid_tx": sent, "dgid_rx": air.dgid_rx, "admit": "always"}

    def order_of_use(self, _index: PlanIndex, service: Service, destination: Destination) -> tuple[str, ...]:
        """Connect to a room, talk, disconnect; nothing where a DG-ID leads there."""
        air: FusionAir = service.air  # type: ignore[assignment]
        if destination.kind != "room" or mapped_dgid(air, destination) is not None:
            return ()
        return (
            f"On the radio's node page connect to {destination.number or destination.name}.",
            "Wait until the display shows the room's name.",
            "Talk on this memory. Others of the room answer.",
            "Disconnect on the node page when done; the room's name goes from the display.",
        )

    def on_air(self, _index: PlanIndex, service: Service, destination: Destination, sent: OnAir) -> OnAir:
        """With the DG-ID that was asked for."""
        air: FusionAir = service.air  # type: ignore[assignment]
        return sent._replace(dgid=mapped_dgid(air, destination) or air.dgid_tx)

    def mode_condition(self, channel: "Channel", call: OnAir) -> Condition:
        """Automatic mode select opens for FM too."""
        if channel.way == "AMS" and call.mode == "fm":
            return Condition("yes", "Automatic mode select opens for FM too.")
        return super().mode_condition(channel, call)

    def conditions(self, _memory: "Memory", channel: "Channel", call: OnAir) -> Iterator[Condition]:
        """The receive DG-ID."""
        if channel.dgid_rx in {HEARS_ALL, call.dgid}:
            yield Condition("yes", f"DG-ID {shown_dgid(channel.dgid_rx)} on receive lets it through.")
            return
        text = f"Opens for DG-ID {shown_dgid(channel.dgid_rx)} only, not {shown_dgid(call.dgid)}."
        yield Condition("no", text, ("dg-id-on-receive",))
