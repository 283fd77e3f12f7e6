"""The number and call kind that a DMR route keys up with: the destination's own, or what its network's conventions say."""

from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Call, Destination, DmrAir, Network, Service

PREFIXED_DIGITS = 6


def called(destination: Destination, network: Network | None) -> Call | None:
    """The number and call kind that a DMR route keys up with; None when neither plan nor network gives one."""
    if destination.number is not None:
        kind = "private" if destination.kind == "private" else destination.call
        return Call(destination.number, kind)
    return convention_call(destination, network)


def convention_call(destination: Destination, network: Network | None) -> Call | None:
    """What the network's conventions say for a destination of this kind, if anything."""
    if network is None:
        return None
    if destination.kind in {"local", "dial"}:
        return Call(network.local_group) if network.local_group is not None else None
    if destination.kind == "echo":
        return network.echo
    return network.disconnect if destination.kind == "disconnect" else None


def kept_for(index: PlanIndex, service: Service, destination: Destination, number: int) -> str:
    """What a number that a talk group or a station is called by is kept for on the network: the echo test or to disconnect."""
    network = network_reached(index, service, destination)
    if network is None or destination.kind not in {"group", "private"}:
        return ""
    kept = {"the echo test": network.echo, "to disconnect": network.disconnect}
    return next(
        (
            what
            for what, call in kept.items()
            if (dialled := behind_prefix(index, service, network, call)) is not None and dialled.number == number
        ),
        "",
    )


def network_reached(index: PlanIndex, service: Service, destination: Destination) -> Network | None:
    """The network that a route ends on: the service's, or a further one reached through it."""
    if destination.network in further(service):
        return index.networks.get(destination.network)
    return index.network_of(service)


def further(service: Service) -> tuple[str, ...]:
    """The keys of the networks that a service reaches beside its own."""
    return service.air.also if isinstance(service.air, DmrAir) else ()


def is_prefix(text: str) -> bool:
    """Whether a text can stand before a number."""
    return text.isascii() and text.isdigit() and len(text) <= PREFIXED_DIGITS


def call_through(index: PlanIndex, service: Service, destination: Destination) -> Call | None:
    """The call that reaches a destination through a service; a further network's number stands behind its prefix."""
    known = index.known_calls
    at = (service.key, destination.key)
    if at not in known:
        known[at] = _call_through(index, service, destination)
    return known[at]


def _call_through(index: PlanIndex, service: Service, destination: Destination) -> Call | None:
    network = network_reached(index, service, destination)
    return behind_prefix(index, service, network, called(destination, network))


def behind_prefix(index: PlanIndex, service: Service, network: Network | None, call: Call | None) -> Call | None:
    """A network's call as it is dialled through a service: behind the prefix where it is a further network."""
    if call is None or network is None or network is index.network_of(service) or not is_prefix(network.prefix):
        return call
    return Call(int(f"{network.prefix}{call.number:0{PREFIXED_DIGITS}d}"), call.kind)
