"""Which crossings of a service and a destination are possible and, if not, why."""

from typing import NamedTuple

from umbra_awl.core.facts.dstar import target_of
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    AccessPoint,
    Destination,
    DmrAir,
    DstarAir,
    FmAir,
    FusionAir,
    Service,
)
from umbra_awl.core.plan.places import LINKED, PAIR
from umbra_awl.core.routes.calls import further

KIND_WORDS = {
    "local": "local",
    "group": "talk group",
    "private": "private call",
    "echo": "echo test",
    "disconnect": "disconnect or unlink",
    "dial": "dialled reflector",
    "reflector": "reflector module",
    "direct": "repeater, linked directly",
    "repeater": "repeater, by routing",
    "station": "single station",
    "info": "information",
    "room": "room",
}
KINDS_OF = {
    "fm": frozenset({"local"}),
    "dmr": frozenset({"local", "group", "private", "echo", "disconnect", "dial"}),
    "dstar": frozenset({"local", "reflector", "direct", "repeater", "station", "echo", "info", "disconnect"}),
    "fusion": frozenset({"local", "room", "echo", "disconnect"}),
}


class Crossing(NamedTuple):
    """Whether a hole can be punched, at which places (0: one without a slot), and the reason when it cannot."""

    possible: bool
    slots: tuple[int, ...]
    reason: str


def crossing(index: PlanIndex, access: AccessPoint, service: Service, destination: Destination) -> Crossing:
    """The crossing of a service with a destination."""
    where = access.by_call
    reason = _not_together(index, access, service, destination)
    if reason:
        return _no(reason)
    air = service.air
    if isinstance(air, FmAir):
        return Crossing(True, (0,), "")
    if isinstance(air, DmrAir):
        return _dmr_crossing(index, where, air, destination)
    if isinstance(air, DstarAir):
        return _dstar_crossing(where, air, destination)
    return _fusion_crossing(where, air, destination)


def _not_together(index: PlanIndex, access: AccessPoint, service: Service, destination: Destination) -> str:
    """Why mode or network keep the two apart, whatever the access point is set to; empty when they do not."""
    where = access.by_call
    if destination.kind not in KINDS_OF[service.mode]:
        return _other_mode(where, service, destination)
    if access.kind == "receive" and destination.kind != "local":
        return f"{where} is only listened to. “Local” gives it a channel."
    if destination.network and destination.network not in {getattr(service.air, "network", ""), *further(service)}:
        return _other_network(index, where, service, destination)
    return ""


def _no(reason: str) -> Crossing:
    return Crossing(False, (), reason)


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


def _dmr_crossing(index: PlanIndex, where: str, air: DmrAir, destination: Destination) -> Crossing:
    network = index.networks.get(destination.network if destination.network in air.also else air.network)
    if destination.kind == "dial" and (network is None or network.dial_low is None):
        return _no(f"{network.name if network else where} has no dialled reflectors.")
    if not air.slots:
        return _no(f"No time slot of {where} may be used. Allow one in its settings.")
    return Crossing(True, air.slots, "")


def _dstar_crossing(where: str, air: DstarAir, destination: Destination) -> Crossing:
    if destination.kind == "local":
        return Crossing(True, (0,), "")
    if not air.gateway:
        return _no(f"{where} module {air.module} has no gateway; it reaches only who listens to it.")
    if destination.kind in LINKED | {"repeater"} and not target_of(destination.text or destination.name)[1]:
        return _no(f"{destination.name} has no call and module, such as “VLR001 C”. Give them at the destination.")
    return Crossing(True, PAIR if destination.kind in LINKED else (0,), "")


def mapped_dgid(air: FusionAir, destination: Destination) -> int | None:
    """The transmit DG-ID that leads to a destination, where the access point has one for it."""
    return next((item.dgid for item in air.mapped if item.destination == destination.key), None)


def fusion_way(air: FusionAir) -> str:
    """How a radio sends there by rule: automatic where FM is answered too, else the access point's first digital way."""
    return "AMS" if air.auto_mode else next(iter(air.ways), "DN")


def _fusion_crossing(where: str, air: FusionAir, destination: Destination) -> Crossing:
    if destination.kind == "local" or mapped_dgid(air, destination) is not None:
        return Crossing(True, (0,), "")
    if destination.kind == "room" and air.node:
        return Crossing(True, (0,), "")
    if destination.kind == "room":
        return _no(f"{where} maps no DG-ID to {destination.name} and takes no connect command.")
    return _no(
        f"{destination.name} is a command on the radio's own node page here, not a memory; {where} maps no DG-ID to it."
    )
