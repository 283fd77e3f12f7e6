"""Which crossings of a service and a destination are possible and, if not, why."""

from typing import NamedTuple

from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Call, Destination, DmrAir, Network, Service

_DMR_KINDS = frozenset({"group", "private", "echo", "disconnect", "dial", "local"})


class Crossing(NamedTuple):
    """Whether a hole can be punched, on which slots (0: no slots), and the reason when it cannot."""

    possible: bool
    slots: tuple[int, ...]
    reason: str


def crossing(index: PlanIndex, access: AccessPoint, service: Service, destination: Destination) -> Crossing:
    """The crossing of a service with a destination."""
    if service.mode == "fm":
        return _fm_crossing(access, destination)
    if isinstance(service.air, DmrAir):
        return _dmr_crossing(index, access, service.air, destination)
    word = MODE_WORDS[service.mode]
    return _no(f"{word} services are kept in the plan, but this version routes FM and DMR only.")


def _no(reason: str) -> Crossing:
    return Crossing(False, (), reason)


def _fm_crossing(access: AccessPoint, destination: Destination) -> Crossing:
    if destination.kind == "local":
        return Crossing(True, (0,), "")
    where = access.call or access.site
    return _no(f"{where} is FM here: it reaches whoever listens to it, not {destination.name}. Choose a DMR service.")


def _dmr_crossing(index: PlanIndex, access: AccessPoint, air: DmrAir, destination: Destination) -> Crossing:
    where = access.call or access.site
    if destination.kind not in _DMR_KINDS:
        return _no(f"{destination.name} is not reached by DMR.")
    network = index.networks.get(air.network)
    if destination.network and destination.network != air.network:
        theirs = (
            index.networks[destination.network].name if destination.network in index.networks else destination.network
        )
        ours = f"on {network.name}" if network else "on no network"
        return _no(f"{destination.name} is on {theirs}; {where} is {ours}.")
    if destination.kind == "dial" and (network is None or network.dial_low is None):
        return _no(f"{network.name if network else where} has no dialled reflectors.")
    if not air.slots:
        return _no(f"No time slot of {where} may be used. Allow one in its settings.")
    return Crossing(True, air.slots, "")


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
