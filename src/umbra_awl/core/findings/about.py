"""What a finding is about, in the words people use for the thing."""

from collections.abc import Callable
from typing import Any

from umbra_awl.core.findings.model import Target
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.parts import PARTS


def about(index: PlanIndex, target: Target) -> str:
    """The thing that a target names: a route by its ends, others by name; empty where the plan does not know it."""
    say = _SAID.get(target.kind)
    return say(index, target.key) if say is not None else _by_name(index, target)


def _route(index: PlanIndex, key: str) -> str:
    route = index.routes.get(key)
    return index.labels.of(route) if route is not None else ""


def _service(index: PlanIndex, key: str) -> str:
    found = index.services.get(key)
    return found[0].by_call if found is not None else ""


def _hotspot(index: PlanIndex, key: str) -> str:
    hotspot = next((item for item in index.plan.hotspots if item.key == key), None)
    access = index.access.get(hotspot.access) if hotspot is not None else None
    return access.by_site if access is not None else ""


def _identity(index: PlanIndex, key: str) -> str:
    found = next((item for item in index.plan.station.identities if item.key == key), None)
    return (found.call or found.name) if found is not None else ""


def _by_name(index: PlanIndex, target: Target) -> str:
    part = next((item for item in PARTS.values() if item.target == target.kind), None)
    items: tuple[Any, ...] = part.of(index.plan) if part is not None else ()
    return next((str(getattr(item, "name", "")) for item in items if item.key == target.key), "")


_SAID: dict[str, Callable[[PlanIndex, str], str]] = {
    "route": _route,
    "service": _service,
    "hotspot": _hotspot,
    "identity": _identity,
}
