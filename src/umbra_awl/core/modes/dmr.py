"""DMR: a color code opens the repeater, two time slots carry two calls, a receive group list opens the speaker."""

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from umbra_awl.core.facts.dmr import COLOR_CODES
from umbra_awl.core.modes.behaviour import AirFault, Behaviour, Crossing, no_crossing
from umbra_awl.core.modes.calls import call_through, network_reached
from umbra_awl.core.modes.opening import Condition, OnAir
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DmrAir, Route, Service

if TYPE_CHECKING:
    from umbra_awl.core.radio.memory import Channel, Memory


class Dmr(Behaviour[DmrAir]):
    """DMR, tier II."""

    mode = "dmr"
    opened_by = "color code"
    short = "cc"
    kinds = frozenset({"local", "group", "private", "echo", "disconnect", "dial"})
    listens_for = "Listens for DMR only."
    quiet_minutes = 15
    color_coded = True
    asks_alike = True

    def opener(self, air: DmrAir) -> str:
        """The color code."""
        return str(air.color_code)

    def said(self, channel: "Channel") -> str:
        """Color code and slot."""
        return f"cc {channel.color_code}  slot {channel.slot}"

    def brief(self, channel: "Channel") -> str:
        """Color code and slot without blanks."""
        return f"cc{channel.color_code} s{channel.slot}"

    def asked(self, channel: "Channel") -> str:
        """The color code."""
        return str(channel.color_code)

    def channel_fault(self, channel: "Channel") -> str:
        """Slots are 1 and 2, color codes 0 to 15."""
        if channel.slot not in {0, 1, 2}:
            return f"It has slot {channel.slot}; only 1 and 2 exist."
        return "" if channel.color_code in COLOR_CODES else f"It has color code {channel.color_code}; 0 to 15 exist."

    def columns(self, air: DmrAir) -> dict[str, str]:
        """Color code, slots, network."""
        return {"color code": str(air.color_code), "slots": " ".join(map(str, air.slots)), "network": air.network}

    def slots(self, air: DmrAir) -> tuple[int, ...]:
        """The slots that may be used."""
        return air.slots

    def networks(self, air: DmrAir) -> tuple[str, ...]:
        """The network behind it, and those reached through it by their prefix."""
        return (*((air.network,) if air.network else ()), *air.also)

    def color(self, air: DmrAir) -> int:
        """The color code as a number."""
        return air.color_code

    def faults(self, air: DmrAir) -> Iterator[AirFault]:
        """A color code that does not exist."""
        if air.color_code not in COLOR_CODES:
            yield AirFault("color-code", f"{air.color_code} is not a color code; 0 to 15 exist.")

    def impossible(self, route: Route, air: DmrAir) -> str:
        """A color code that would be cut to bits."""
        code = air.color_code if route.color_code is None else route.color_code
        return "" if code in COLOR_CODES else f"{code} is not a color code: 0 to 15 exist."

    def crossing(self, index: PlanIndex, where: str, air: DmrAir, destination: Destination) -> Crossing:
        """At the slots that may be used; dialling needs a network that has it."""
        network = index.networks.get(destination.network if destination.network in air.also else air.network)
        if destination.kind == "dial" and (network is None or network.dial_low is None):
            return no_crossing(f"{network.name if network else where} has no dialled reflectors.")
        if not air.slots:
            return no_crossing(f"No time slot of {where} may be used. Allow one in its settings.")
        return Crossing(True, air.slots, "")

    def usual(self, _access: AccessPoint, air: DmrAir, _destination: Destination, _place: int) -> dict[str, Any]:
        """Color code, and when a radio may key up."""
        return {"color_code": air.color_code, "admit": air.admit}

    def order_of_use(self, index: PlanIndex, service: Service, destination: Destination) -> tuple[str, ...]:
        """Dial, wait, talk on the local talk group, disconnect."""
        if destination.kind != "dial":
            return ()
        network = network_reached(index, service, destination)
        span = f"a number from {network.dial_low} to {network.dial_high}" if network else "a number"
        local = f" {network.local_group}" if network and network.local_group else ""
        drop = network.disconnect if network else None
        return (
            f"Dial {destination.number or span}, key up for a second, let go.",
            "Wait until a voice or the display says that it is linked; silence means dial again.",
            f"Talk on the local talk group{local}. Others of the reflector answer there.",
            f"Call {drop.number} to disconnect; a voice says that nothing is linked."
            if drop
            else "Disconnect when done.",
        )

    def on_air(self, index: PlanIndex, service: Service, destination: Destination, sent: OnAir) -> OnAir:
        """With the number that is called, on the slot or the first that may be used."""
        call = call_through(index, service, destination)
        number, kind = (call.number, call.kind) if call is not None else (0, "group")
        slots = service.air.slots  # type: ignore[union-attr]
        return sent._replace(slot=sent.slot or next(iter(slots), 0), number=number, kind=kind)

    def conditions(self, memory: "Memory", channel: "Channel", call: OnAir) -> Iterator[Condition]:
        """Color code, slot, and the receive group list as the radio holds it."""
        same = channel.color_code == call.color_code
        text = f"Listens with color code {channel.color_code}" + ("." if same else f", not {call.color_code}.")
        yield Condition("yes" if same else "no", text, ("color-code-differs", "hotspot-color-differs"))
        same = channel.slot == call.slot
        text = f"Listens on slot {channel.slot}" + ("." if same else f", not {call.slot}.")
        yield Condition("yes" if same else "no", text, ("slot-not-used", "static-on-other-slot"))
        yield _called_condition(memory, channel, call)


def _called_condition(memory: "Memory", channel: "Channel", call: OnAir) -> Condition:
    if channel.promiscuous:
        return Condition("yes", "Promiscuous: it opens for anything on the slot.")
    if call.kind == "private":
        if call.number == memory.dmr_id:
            return Condition("yes", "The private call is for this radio's ID.")
        return Condition("no", "A private call to another ID: only that radio opens.")
    return _group_condition(memory, channel, call.number)


def _group_condition(memory: "Memory", channel: "Channel", number: int) -> Condition:
    """Whether a group opens the speaker: by the receive group list; whether the channel's own does without it, radios differ."""
    listed = memory.group_lists[channel.group_list - 1].members if channel.group_list else ()
    if number in {memory.contacts[at - 1].call for at in listed if at}:
        return Condition("yes", f"{number} is in its receive group list.")
    if not channel.contact or number != memory.contacts[channel.contact - 1].call:
        return Condition("no", f"{number or 'The call'} is not in its receive group list.", ("group-list-lacks-own",))
    lacks = (
        "does not have it: the answer stays silent on many radios" if listed else "is empty: many radios open for it"
    )
    text = f"{number} is the group that it calls. Its receive group list {lacks}."
    return Condition("perhaps", text, ("group-list-lacks-own",))
