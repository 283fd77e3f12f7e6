"""The over that asks for the echo: what a radio sends when its channel for the echo through a hotspot is keyed."""

from typing import NamedTuple

from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Route
from umbra_awl.core.radio.memory import Channel, Memory


class EchoOver(NamedTuple):
    """The channel that is keyed, and the over as a simulated hotspot is told of it."""

    channel: Channel
    told: dict[str, str]


def echo_routes(index: PlanIndex, access: AccessPoint) -> list[Route]:
    """The plan's routes to an echo through a hotspot."""
    services = {item.key for item in access.services}
    return [
        route
        for route in index.plan.routes
        if route.service in services and index.destinations[route.destination].kind == "echo"
    ]


def echo_over(index: PlanIndex, access: AccessPoint, memory: Memory, seconds: int = 3) -> EchoOver | None:
    """What a radio with this memory sends for the echo; None where it has no channel that sends to it."""
    wanted = {route.key: route for route in echo_routes(index, access)}
    owner = next(iter(index.plan.station.identities), None)
    for channel in memory.channels:
        route = wanted.get(channel.route)
        if route is None or channel.receive_only:
            continue
        contact = next((item for item in memory.contacts if item.number == channel.contact), None)
        to = str(contact.call) if contact is not None else channel.ur.strip() or "echo"
        told = {
            "mode": channel.mode,
            "tx_hz": str(channel.tx_hz),
            "seconds": str(seconds),
            "call": owner.call if owner is not None else "",
            "to": to,
            "echo": _answered(index, route, to),
            "slot": str(channel.slot or 2),
            "color_code": str(channel.color_code),
        }
        return EchoOver(channel, told)
    return None


def _answered(index: PlanIndex, route: Route, to: str) -> str:
    """What the echo of the route's network is called by: a radio that calls another number gets none."""
    destination = index.destinations[route.destination]
    network = index.networks.get(destination.network)
    number = network.echo.number if network is not None and network.echo is not None else destination.number
    return str(number) if number is not None else to
