"""What is selected in the window, and how it belongs to the things of a plan."""

from collections.abc import Callable
from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.findings.model import Target
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio, Route

if TYPE_CHECKING:
    from umbra_awl.core.radio.profile import Profile


class Selection(NamedTuple):
    """What is selected: a crossing with the slot looked at, many crossings, or any other thing by its target."""

    service: str = ""
    destination: str = ""
    slot: int = 0
    target: Target | None = None
    many: tuple[tuple[str, str], ...] = ()


def carrier_of(
    index: PlanIndex, profile_of: "Callable[[str], Profile | None]", chosen: OwnedRadio | None, selection: Selection
) -> OwnedRadio | None:
    """The radio that the selected route is followed on: the chosen one, or the first that has the mode where it lacks it."""
    service = index.services.get(selection.service)

    def able(radio: OwnedRadio) -> bool:
        profile = profile_of(radio.profile)
        return service is None or (profile is not None and service[1].mode in profile.modes)

    if chosen is not None and able(chosen):
        return chosen
    return next(filter(able, index.plan.radios), chosen)


def targets_of(selection: Selection, route: Route | None) -> set[Target]:
    """The targets that a selection touches; `route` is the one it means."""
    found = {selection.target} if selection.target is not None else set[Target]()
    if selection.service:
        found.add(Target("service", selection.service))
    if selection.destination:
        found.add(Target("destination", selection.destination))
    if route is not None:
        found.add(Target("route", route.key))
    return found


def selection_of(index: PlanIndex, target: Target) -> Selection:
    """The selection that shows a thing: a route by its crossing, a hotspot by its first service."""
    route = index.routes.get(target.key) if target.kind == "route" else None
    if route is not None:
        return Selection(route.service, route.destination, route.slot, target)
    if target.kind == "service":
        return Selection(service=target.key, target=target)
    if target.kind == "hotspot":
        hotspot = next((item for item in index.plan.hotspots if item.key == target.key), None)
        access = index.access.get(hotspot.access) if hotspot else None
        return Selection(service=access.services[0].key if access and access.services else "", target=target)
    return Selection(target=target)
