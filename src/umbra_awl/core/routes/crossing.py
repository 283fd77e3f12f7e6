"""Which crossings of a service and a destination are possible and, if not, why."""

from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.modes.behaviour import Crossing, no_crossing
from umbra_awl.core.modes.table import KIND_WORDS, mode_of, networks_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, Service


def crossing(index: PlanIndex, access: AccessPoint, service: Service, destination: Destination) -> Crossing:
    """The crossing of a service with a destination."""
    reason = _not_together(index, access, service, destination)
    if reason:
        return no_crossing(reason)
    return mode_of(service).crossing(index, access.by_call, service.air, destination)


def _not_together(index: PlanIndex, access: AccessPoint, service: Service, destination: Destination) -> str:
    """Why mode or network keep the two apart, whatever the access point is set to; empty when they do not."""
    where = access.by_call
    if destination.kind not in mode_of(service).kinds:
        return _other_mode(where, service, destination)
    if access.kind == "receive" and destination.kind != "local":
        return f"{where} is only listened to. “Local” gives it a channel."
    if destination.network and destination.network not in networks_of(service):
        return _other_network(index, where, service, destination)
    return ""


def _other_mode(where: str, service: Service, destination: Destination) -> str:
    if service.mode == "fm":
        return (
            f"{where} is FM here: it reaches whoever listens to it, not {destination.name}. Choose a digital service."
        )
    return f"{destination.name} ({KIND_WORDS[destination.kind]}) is not reached by {MODE_WORDS[service.mode]}."


def _other_network(index: PlanIndex, where: str, service: Service, destination: Destination) -> str:
    theirs = index.networks.get(destination.network)
    ours = index.network_of(service)
    on = f"on {ours.name}" if ours else "on no network"
    return f"{destination.name} is on {theirs.name if theirs else destination.network}; {where} is {on}."
