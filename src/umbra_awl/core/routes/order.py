"""What to do in which order where one key-up is not enough: link before talking, dial, connect to a room."""

from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import FusionAir, Route
from umbra_awl.core.routes.calls import network_reached
from umbra_awl.core.routes.crossing import mapped_dgid
from umbra_awl.core.routes.fields import order_linked


def order_of_use(index: PlanIndex, route: Route) -> tuple[str, ...]:
    """The steps in their order; empty where keying up is all there is to do."""
    _access, service, destination = index.parts(route)
    if service.mode == "dstar":
        return order_linked(destination)
    if destination.kind == "dial":
        network = network_reached(index, service, destination)
        number = (
            destination.number or f"a number from {network.dial_low} to {network.dial_high}" if network else "a number"
        )
        drop = (
            f"Call {network.disconnect.number} to disconnect."
            if network and network.disconnect
            else "Disconnect when done."
        )
        return (
            f"Dial {number}, key up for a second, let go.",
            "Wait until the network says that it is linked.",
            f"Talk on the local talk group{f' {network.local_group}' if network and network.local_group else ''}.",
            drop,
        )
    air = service.air
    if destination.kind == "room" and isinstance(air, FusionAir) and mapped_dgid(air, destination) is None:
        return (
            f"On the radio's node page connect to {destination.number or destination.name}.",
            "Wait until the display shows the room's name.",
            "Talk on this memory.",
            "Disconnect on the node page when done.",
        )
    return ()
