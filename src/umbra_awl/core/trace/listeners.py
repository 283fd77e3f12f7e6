"""Who hears a key-up, who does not, and why: the far repeaters, the echo, and the operator's other radios."""

from collections.abc import Iterator, Mapping

from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.fit.memory import Channel, Contact, Memory
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DmrAir, OwnedRadio, Route, Service
from umbra_awl.core.trace.model import Listener

_STAYS = frozenset({"echo", "disconnect"})


def listeners_of(
    index: PlanIndex, fits: Mapping[str, Fit], radio: OwnedRadio, channel: Channel, route: Route
) -> tuple[Listener, ...]:
    """Everybody the plan knows of who could hear this key-up."""
    access, service, destination = index.parts(route)
    memory = fits[radio.key].memory
    contact = memory.contacts[channel.contact - 1] if channel.contact else None
    found = list(_answers(index, access, service, destination, contact, channel))
    if destination.kind not in _STAYS:
        for key, other in index.radios.items():
            if key != radio.key and key in fits:
                found.extend(_other_radio(other, fits[key].memory, channel, contact))
    return tuple(found)


def _answers(
    index: PlanIndex,
    access: AccessPoint,
    service: Service,
    destination: Destination,
    contact: Contact | None,
    channel: Channel,
) -> Iterator[Listener]:
    where = access.site or access.call
    if destination.kind == "echo":
        yield Listener("the echo", True, "It repeats what you said, to you.")
    elif destination.kind == "disconnect":
        yield Listener("the network", True, "It drops what was joined.")
    elif service.mode == "fm":
        yield Listener(where, True, "Whoever listens on its output.")
    else:
        number = contact.call if contact else 0
        yield Listener(where, True, f"Radios on slot {channel.slot} with {number} in their receive group list.")
        yield from _far_repeaters(index, access, service, destination)


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
            yield Listener(access.site or access.call, True, f"Always carried there on slot {slots[0]}.")
    yield Listener(f"all on {destination.name}", True, f"Whoever has it joined on {network.name}.")


def _other_radio(radio: OwnedRadio, memory: Memory, sent: Channel, contact: Contact | None) -> Iterator[Listener]:
    """The operator's other radio: the best of its channels on this output decides."""
    tuned = [channel for channel in memory.channels if channel.rx_hz == sent.rx_hz]
    verdicts = [_on_channel(memory, channel, sent, contact) for channel in tuned]
    if not verdicts:
        return
    hears, name, why = next((item for item in verdicts if item[0]), verdicts[0])
    yield Listener(f"{radio.name} on {name}", hears, why)


def _on_channel(memory: Memory, channel: Channel, sent: Channel, contact: Contact | None) -> tuple[bool, str, str]:
    if channel.mode != sent.mode:
        return (
            False,
            channel.name,
            "An FM listener hears a burst of noise." if channel.mode == "fm" else "Listens for DMR only.",
        )
    if channel.mode == "fm":
        open_ = not channel.tone_rx or channel.tone_rx == sent.tone_tx
        return open_, channel.name, "Same frequency." if open_ else f"Waits for the tone {channel.tone_rx}."
    return _on_dmr(memory, channel, sent, contact)


def _on_dmr(memory: Memory, channel: Channel, sent: Channel, contact: Contact | None) -> tuple[bool, str, str]:
    if channel.color_code != sent.color_code:
        return False, channel.name, f"Listens with color code {channel.color_code}, not {sent.color_code}."
    if channel.slot != sent.slot:
        return False, channel.name, f"Listens on slot {channel.slot}, not {sent.slot}."
    if channel.promiscuous:
        return True, channel.name, "Promiscuous: it opens for anything on the slot."
    if contact is not None and contact.call in _heard(memory, channel):
        return True, channel.name, f"{contact.call} is in its receive group list."
    return False, channel.name, f"{contact.call if contact else 'The call'} is not in its receive group list."


def _heard(memory: Memory, channel: Channel) -> set[int]:
    numbers = memory.group_lists[channel.group_list - 1].members if channel.group_list else ()
    return {memory.contacts[number - 1].call for number in (*numbers, channel.contact) if number}
