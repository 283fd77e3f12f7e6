"""The D-STAR routing fields of a route: computed from access point and destination, or as a hand has written them."""

from umbra_awl.core.facts.dstar import Fields, padded, whole
from umbra_awl.core.modes.dstar import computed_rpt, computed_ur
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DstarAir, Identity, Route


def routing_fields(
    access: AccessPoint, air: DstarAir, destination: Destination, route: Route, identity: Identity | None
) -> Fields:
    """The four fields and the note as a radio of that identity sends them; a route's own text stands as it was typed."""
    rpt1, rpt2 = computed_rpt(access, air)
    own = (identity.dstar_call or identity.call) if identity is not None else ""
    return Fields(
        padded(own),
        identity.dstar_note[:4] if identity is not None else "",
        _own(route.ur, computed_ur(destination, route.slot)),
        _own(route.rpt1, rpt1),
        _own(route.rpt2, rpt2),
    )


def _own(text: str | None, computed: str) -> str:
    return computed if text is None else whole(text)


def fields_of(index: PlanIndex, route: Route, identity: Identity | None = None) -> Fields | None:
    """The fields of a route for an identity (the owner's when None); None where the route is not D-STAR."""
    access, service, destination = index.parts(route)
    if not isinstance(service.air, DstarAir):
        return None
    identities = index.plan.station.identities
    owner = identity if identity is not None else identities[0] if identities else None
    return routing_fields(access, service.air, destination, route, owner)
