"""Who hears a key-up, who does not, and why: the far repeaters, the echo, and the operator's other radios."""

from collections.abc import Iterator, Mapping

from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DmrAir, FusionAir, OwnedRadio, Route, Service
from umbra_awl.core.plan.places import LINKS, is_pair
from umbra_awl.core.radio.memory import Channel, Contact, Memory
from umbra_awl.core.trace.model import Listener
from umbra_awl.core.trace.opening import OnAir, conditions, first_shut
from umbra_awl.core.trace.path import sends

_STAYS = frozenset({"echo", "disconnect", "info"})


def listeners_of(
    index: PlanIndex, fits: Mapping[str, Fit], radio: OwnedRadio, channel: Channel, route: Route
) -> tuple[Listener, ...]:
    """Everybody the plan knows of who could hear this key-up."""
    access, service, destination = index.parts(route)
    memory = fits[radio.key].memory
    contact = memory.contacts[channel.contact - 1] if channel.contact else None
    found = list(_answers(index, access, service, destination, contact, channel))
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


def _answers(
    index: PlanIndex,
    access: AccessPoint,
    service: Service,
    destination: Destination,
    contact: Contact | None,
    channel: Channel,
) -> Iterator[Listener]:
    where = access.by_site
    if destination.kind in _ANSWERS:
        yield Listener(*_ANSWERS[destination.kind])
    elif service.mode == "fm":
        yield Listener(where, True, "Whoever listens on its output.")
    elif service.mode == "dstar":
        yield from _on_dstar(index, access, service, destination, channel)
    elif isinstance(service.air, FusionAir):
        yield from _in_room(index, access, service, destination, channel)
    elif contact is not None and contact.kind == "private":
        yield Listener(destination.name, True, f"Only a radio with the ID {contact.call} opens for it.")
    else:
        number = contact.call if contact else 0
        yield Listener(where, True, f"Radios on slot {channel.slot} with {number} in their receive group list.")
        yield from _far_repeaters(index, access, service, destination)


_ANSWERS = {
    "echo": ("the echo", True, "It repeats what you said, to you."),
    "disconnect": ("the network", True, "It drops what was joined."),
    "info": ("the gateway", True, "It tells you what is linked."),
}


def _on_dstar(
    index: PlanIndex, own: AccessPoint, service: Service, destination: Destination, channel: Channel
) -> Iterator[Listener]:
    where = f"{own.by_site} {getattr(service.air, 'module', '')}".strip()
    if is_pair(service, destination) and channel.ur.endswith("L"):
        yield Listener("the gateway", True, "It confirms the link by voice or on the display.")
        return
    yield Listener(where, True, "Whoever listens on this module.")
    if destination.kind == "station":
        yield Listener(
            destination.name, True, "On the access point that heard that station last; others there hear it too."
        )
    elif destination.kind == "repeater":
        yield Listener(destination.text or destination.name, True, "Whoever listens on that module.")
    elif is_pair(service, destination):
        yield from _far_modules(index, service, destination)


def _far_modules(index: PlanIndex, service: Service, destination: Destination) -> Iterator[Listener]:
    """Other modules in the plan that link to the same reflector, and everybody the plan does not know."""
    for access, other in index.all_services():
        links = f"{other.key}>{destination.key}@{LINKS}"
        if other is not service and links in index.routes:
            name = f"{access.by_site} {getattr(other.air, 'module', '')}".strip()
            yield Listener(name, True, f"While it is linked to {destination.name}.")
    yield Listener(f"all on {destination.name}", True, "Every module that is linked to it, on all of them at once.")


def _in_room(
    index: PlanIndex, own: AccessPoint, service: Service, destination: Destination, channel: Channel
) -> Iterator[Listener]:
    yield Listener(own.by_site, True, f"Radios that open for DG-ID {channel.dgid_tx:02d} or for all (00).")
    if destination.kind != "room":
        return
    for access, other in index.all_services():
        if other is not service and (other.key, destination.key) in index.by_crossing:
            yield Listener(access.by_site, True, f"While it is connected to {destination.name}.")
    yield Listener(f"all in {destination.name}", True, "Everybody who is connected to that room.")


def _far_repeaters(
    index: PlanIndex, own: AccessPoint, service: Service, destination: Destination
) -> Iterator[Listener]:
    network = index.network_of(service)
    if network is None or destination.kind != "group":
        return
    for access, other in index.all_services():
        if access is own or not isinstance(other.air, DmrAir) or other.air.network != network.key:
            continue
        slots = [static.slot for static in other.air.static if static.destination == destination.key]
        if slots:
            yield Listener(access.by_site, True, f"Always carried there on slot {slots[0]}.")
    yield Listener(f"all on {destination.name}", True, f"Whoever has it joined on {network.name}.")


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
