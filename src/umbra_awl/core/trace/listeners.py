"""Who hears a key-up, who does not, and why: the far repeaters, the echo, and the operator's other radios."""

from collections.abc import Callable, Iterator, Mapping
from typing import NamedTuple

from umbra_awl.core.facts.modes import ByMode
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.modes.calls import network_reached
from umbra_awl.core.modes.opening import OnAir, first_shut
from umbra_awl.core.modes.table import conditions
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, OwnedRadio, Route, Service
from umbra_awl.core.plan.places import LINKS, is_pair, module_word
from umbra_awl.core.radio.memory import Channel, Contact, Memory
from umbra_awl.core.trace.model import Listener
from umbra_awl.core.trace.path import sends

_STAYS = frozenset({"echo", "disconnect", "info"})


def listeners_of(
    index: PlanIndex, fits: Mapping[str, Fit], radio: OwnedRadio, channel: Channel, route: Route
) -> tuple[Listener, ...]:
    """Everybody the plan knows of who could hear this key-up."""
    access, service, destination = index.parts(route)
    memory = fits[radio.key].memory
    contact = memory.contacts[channel.contact - 1] if channel.contact else None
    found = list(_answers(_Call(index, access, service, destination, channel, contact)))
    if destination.kind not in _STAYS and not (is_pair(service, destination) and route.slot == LINKS):
        call = _repeated(index, access, service, channel, contact)
        for key, other in index.radios.items():
            if key != radio.key and key in fits:
                found.extend(_other_radio(other, fits[key].memory, call))
    return tuple(found)


def _repeated(
    index: PlanIndex, access: AccessPoint, service: Service, channel: Channel, contact: Contact | None
) -> OnAir:
    """The key-up as the access point sends it on."""
    hz, color = sends(index, access, service)
    number, kind = (contact.call, contact.kind) if contact is not None else (0, "group")
    tone = getattr(service.air, "tone_rx", "") if access.kind != "simplex" else channel.tone_tx
    color = color if access.kind != "simplex" else channel.color_code
    return OnAir(hz, channel.mode, color, channel.slot, number, kind, tone, channel.dgid_tx)


class _Call(NamedTuple):
    """A key-up that got through."""

    plan: PlanIndex
    access: AccessPoint
    service: Service
    destination: Destination
    channel: Channel
    contact: Contact | None

    def others(self) -> Iterator[tuple[AccessPoint, Service]]:
        """The other services of the same mode."""
        mode, own = self.service.mode, self.service
        return (pair for pair in self.plan.all_services() if pair[1] is not own and pair[1].mode == mode)


def _answers(call: _Call) -> Iterator[Listener]:
    kind = call.destination.kind
    if kind in _ANSWERS:
        yield Listener(*_ANSWERS[kind])
    else:
        yield from _HEARING[call.service.mode](call)


_ANSWERS = {
    "echo": ("the echo", True, "It repeats what you said, to you."),
    "disconnect": ("the network", True, "It drops what was joined."),
    "info": ("the gateway", True, "It tells you what is linked."),
}


def _on_output(call: _Call) -> Iterator[Listener]:
    yield Listener(call.access.by_site, True, "Whoever listens on its output.")


def _on_talk_group(call: _Call) -> Iterator[Listener]:
    if call.contact is not None and call.contact.kind == "private":
        yield Listener(call.destination.name, True, f"Only a radio with the ID {call.contact.call} opens for it.")
        return
    number = call.contact.call if call.contact else 0
    why = f"Radios on slot {call.channel.slot} with {number} in their receive group list."
    yield Listener(call.access.by_site, True, why)
    yield from _far_repeaters(call)


def _far_repeaters(call: _Call) -> Iterator[Listener]:
    destination = call.destination
    network = network_reached(call.plan, call.service, destination)
    stays = network is not None and call.contact is not None and call.contact.call == network.local_group
    if network is None or destination.kind != "group" or stays:
        return
    for access, other in call.others():
        if access is call.access or network.key != getattr(other.air, "network", ""):
            continue
        slots = [item.slot for item in getattr(other.air, "static", ()) if item.destination == destination.key]
        if slots:
            yield Listener(access.by_site, True, f"Always carried there on slot {slots[0]}.")
    yield Listener(f"all on {destination.name}", True, f"Whoever has it joined on {network.name}.")


def _on_module(call: _Call) -> Iterator[Listener]:
    destination = call.destination
    pair = is_pair(call.service, destination)
    if pair and call.channel.ur.endswith("L"):
        yield Listener("the gateway", True, "It confirms the link by voice or on the display.")
        return
    yield Listener(_module_name(call.access, call.service), True, "Whoever listens on this module.")
    if destination.kind == "station":
        why = "On the access point that heard that station last; others there hear it too."
        yield Listener(destination.name, True, why)
    elif destination.kind == "repeater":
        yield Listener(destination.text or destination.name, True, "Whoever listens on that module.")
    elif pair:
        yield from _far_modules(call)


def _module_name(access: AccessPoint, service: Service) -> str:
    return f"{access.by_site} {module_word(service)}".strip()


def _far_modules(call: _Call) -> Iterator[Listener]:
    """Other modules in the plan that link to the same reflector, and everybody the plan does not know."""
    destination = call.destination
    for access, other in call.others():
        if f"{other.key}>{destination.key}@{LINKS}" in call.plan.routes:
            yield Listener(_module_name(access, other), True, f"While it is linked to {destination.name}.")
    yield Listener(f"all on {destination.name}", True, "Every module that is linked to it, on all of them at once.")


def _in_room(call: _Call) -> Iterator[Listener]:
    own, destination = call.access, call.destination
    why = f"Radios that open for DG-ID {call.channel.dgid_tx:02d} or for all (00)."
    yield Listener(own.by_site, True, why)
    if destination.kind != "room":
        return
    for access, other in call.others():
        if (other.key, destination.key) in call.plan.by_crossing:
            yield Listener(access.by_site, True, f"While it is connected to {destination.name}.")
    yield Listener(f"all in {destination.name}", True, "Everybody who is connected to that room.")


_HEARING: ByMode[Callable[[_Call], Iterator[Listener]]] = {
    "fm": _on_output,
    "dmr": _on_talk_group,
    "dstar": _on_module,
    "fusion": _in_room,
}
"""Who hears it at the far end, as each mode has it."""


def _other_radio(radio: OwnedRadio, memory: Memory, call: OnAir) -> Iterator[Listener]:
    """The operator's other radio: the best of its channels on this output decides."""
    verdicts = [_on_channel(memory, channel, call) for channel in memory.channels if channel.rx_hz == call.hz]
    if not verdicts:
        return
    hears, name, why = next((item for item in verdicts if item[0]), verdicts[0])
    yield Listener(f"{radio.name} on {name}", hears, why)


def _on_channel(memory: Memory, channel: Channel, call: OnAir) -> tuple[bool, str, str]:
    found = conditions(memory, channel, call)
    shut = first_shut(found)
    return shut is None, channel.name, (shut or found[-1]).text
