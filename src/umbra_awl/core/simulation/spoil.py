"""The slips that scenes show, made in a copy of the plan: each gives the plan with the slip, and the route to key."""

from collections.abc import Callable, Mapping
from types import MappingProxyType

from msgspec.structs import replace

from umbra_awl.core.facts.fusion import DIGITAL
from umbra_awl.core.modes.dstar import computed_ur
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, FmAir, FusionAir, Plan, Route, Service
from umbra_awl.core.plan.places import LINKS
from umbra_awl.core.trace.path import sends

Spoil = Callable[[PlanIndex, Route], tuple[Plan, str]]
_HIGHEST_DGID = 99


def _exchanged(plan: Plan, route: Route, **fields: object) -> tuple[Plan, str]:
    routes = tuple(replace(item, **fields) if item.key == route.key else item for item in plan.routes)
    return replace(plan, routes=routes), route.key


def _link_left(index: PlanIndex, route: Route) -> tuple[Plan, str]:
    """The talk memory carries the link command."""
    return _exchanged(index.plan, route, ur=computed_ur(index.destinations[route.destination], LINKS))


def _wrong_dgid(index: PlanIndex, route: Route) -> tuple[Plan, str]:
    """The memory sends a DG-ID that nothing there takes, and forces a digital way."""
    _access, service, _destination = index.parts(route)
    air = service.air
    assert isinstance(air, FusionAir)  # noqa: S101  (the scene asks for System Fusion)
    taken = {air.dgid_tx, *(item.dgid for item in air.mapped)}
    plan, key = _exchanged(
        index.plan,
        route,
        dgid_tx=next(number for number in range(_HIGHEST_DGID, 0, -1) if number not in taken),
        way=next((way for way in air.ways if way in DIGITAL), "DN"),
    )
    if air.dgid_tx:
        return plan, key
    closed = replace(service, air=replace(air, dgid_tx=10))  # one that takes every DG-ID has no wrong one
    access = tuple(
        replace(item, services=tuple(closed if one.key == service.key else one for one in item.services))
        for item in plan.access
    )
    return replace(plan, access=access), key


def _fm_ear(index: PlanIndex, route: Route) -> tuple[Plan, str]:
    """An FM memory on the frequency where a digital access point sends; it is only listened to."""
    access, service, _destination = index.parts(route)
    hz, _color = sends(index, access, service)
    made = AccessPoint(
        "fm-ear", "", f"FM beside {access.by_site}", "simplex", services=(Service("fm-ear-fm", hz, hz, FmAir()),)
    )
    local = next((item for item in index.plan.destinations if item.kind == "local" and not item.network), None)
    added = () if local is not None else (Destination("fm-ear-local", "Local", "local"),)
    key = local.key if local is not None else "fm-ear-local"
    heard = Route("fm-ear-fm", key, 0, receive_only=True)
    plan = replace(
        index.plan,
        access=(*index.plan.access, made),
        destinations=(*index.plan.destinations, *added),
        routes=(heard, *index.plan.routes),
    )
    return plan, heard.key


SPOILS: Mapping[str, Spoil] = MappingProxyType({"link-left": _link_left, "wrong-dgid": _wrong_dgid, "fm-ear": _fm_ear})
"""The slips by their names."""
