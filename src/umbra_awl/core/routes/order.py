"""What to do in which order where one key-up is not enough: link before talking, dial, connect to a room."""

from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Route


def order_of_use(index: PlanIndex, route: Route) -> tuple[str, ...]:
    """The steps in their order; empty where keying up is all there is to do."""
    _access, service, destination = index.parts(route)
    return mode_of(service).order_of_use(index, service, destination)
