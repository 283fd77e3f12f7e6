"""The D-STAR routing fields of a route: computed from access point and destination, or as a hand has written them."""

from umbra_awl.core.facts.dstar import (
    CQ,
    ECHO,
    FIELD_LENGTH,
    INFO,
    UNLINK,
    Fields,
    Ur,
    padded,
    rpt_field,
    target_of,
    ur_field,
)
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DstarAir, Identity, Route
from umbra_awl.core.plan.places import LINKED, LINKS


def computed_ur(destination: Destination, slot: int) -> str:
    """The eight characters of UR that ask for a destination; a pair's second place talks through what the first linked."""
    kind = destination.kind
    if kind in LINKED:
        return ur_field(Ur("link", *target_of(destination.text or destination.name))) if slot == LINKS else CQ
    if kind == "repeater":
        return ur_field(Ur("repeater", *target_of(destination.text or destination.name)))
    if kind == "station":
        return padded(destination.text.strip().upper() or destination.name.strip().upper())
    return {"disconnect": UNLINK, "echo": ECHO, "info": INFO}.get(kind, CQ)


def computed_rpt(access: AccessPoint, air: DstarAir) -> tuple[str, str]:
    """RPT1, the access module, and RPT2, its gateway; without a gateway RPT2 names the module itself.

    G stands in RPT2 for local calls too: then whatever is linked hears them, and one memory serves both.
    """
    return rpt_field(access.call, air.module), rpt_field(access.call, "G" if air.gateway else air.module)


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
    if text is None:
        return computed
    return padded(text) if len(text) <= FIELD_LENGTH else text


def fields_of(index: PlanIndex, route: Route, identity: Identity | None = None) -> Fields | None:
    """The fields of a route for an identity (the owner's when None); None where the route is not D-STAR."""
    access, service, destination = index.parts(route)
    if not isinstance(service.air, DstarAir):
        return None
    identities = index.plan.station.identities
    owner = identity if identity is not None else identities[0] if identities else None
    return routing_fields(access, service.air, destination, route, owner)


ORDER_LINKED = (
    "Key the link memory for a second, then let go.",
    "Wait until the voice or the display confirms the link.",
    "Change to the talk memory (CQCQCQ), listen, then call.",
    "When done, key the unlink memory.",
)


def order_linked(destination: Destination) -> tuple[str, ...]:
    """What to do in which order to talk to a linked destination; empty where nothing is linked."""
    return ORDER_LINKED if destination.kind in LINKED else ()
