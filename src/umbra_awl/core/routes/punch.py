"""Edits of the punch sheet: holes punched, filled, moved to another slot, and the fields of a route."""

from collections.abc import Iterable
from typing import Any

from msgspec.structs import replace

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.modes.behaviour import Crossing
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, drop_routes
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan, Route, RouteList, ScanList
from umbra_awl.core.plan.places import is_pair
from umbra_awl.core.routes.crossing import crossing


def punch(index: PlanIndex, service: str, destination: str, slot: int | None = None) -> Edit:
    """Punch a hole; without a slot the first usable one that is still whole, or a pair's link and talk together.

    Raises EditRefused with the reason.
    """
    access, found = index.services[service]
    target = index.destinations[destination]
    verdict = crossing(index, access, found, target)
    if not verdict.possible:
        raise EditRefused(verdict.reason)
    taken = {route.slot for route in index.by_crossing.get((service, destination), ())}
    if slot is None and is_pair(found, target):
        return _punch_pair(index, [Route(service, destination, place) for place in verdict.slots if place not in taken])
    chosen = slot if slot is not None else next((item for item in verdict.slots if item not in taken), verdict.slots[0])
    if chosen not in verdict.slots:
        usable = " and ".join(str(item) for item in verdict.slots if item) or "no slots"
        raise EditRefused(f"{access.by_call} uses {usable} here, not slot {chosen}.")
    route = Route(service, destination, chosen)
    return Edit(f"Punch {index.labels.of(route)}", lambda plan: _with_routes(plan, [route]))


def _punch_pair(index: PlanIndex, fresh: list[Route]) -> Edit:
    if not fresh:
        raise EditRefused("Link and talk memory are both punched already.")
    label = index.labels.of(fresh[-1]).replace(" talk to ", " link and talk to " if len(fresh) > 1 else " talk to ")
    return Edit(f"Punch {label}", lambda plan: _with_routes(plan, fresh))


def _with_routes(plan: Plan, routes: Iterable[Route]) -> Plan:
    there = {item.key for item in plan.routes}
    fresh = tuple(route for route in routes if route.key not in there)
    return replace(plan, routes=(*plan.routes, *fresh)) if fresh else plan


def usual_routes(index: PlanIndex, service: str, destination: str, verdict: Crossing) -> list[Route]:
    """What punching a whole crossing makes: one route, or a pair's link and talk."""
    pair = is_pair(index.services[service][1], index.destinations[destination])
    return [Route(service, destination, place) for place in (verdict.slots if pair else verdict.slots[:1])]


def fill(index: PlanIndex, routes: Iterable[Route]) -> Edit:
    """Take holes out again."""
    gone = {(route.service, route.destination, route.slot): route for route in routes}
    first = next(iter(gone.values()), None)
    what = index.labels.of(first) if first and len(gone) == 1 else counted(len(gone), "route")
    filled = lambda route: (route.service, route.destination, route.slot) in gone  # noqa: E731
    return Edit(f"Fill {what}", lambda plan: drop_routes(plan, filled))


def toggle(index: PlanIndex, service: str, destination: str, slot: int | None = None) -> Edit:
    """Punch a crossing that has no hole (on that slot); fill it where it has."""
    here = index.by_crossing.get((service, destination), ())
    hit = [route for route in here if slot is None or route.slot == slot]
    return fill(index, hit) if hit else punch(index, service, destination, slot)


def paint(index: PlanIndex, crossings: Iterable[tuple[str, str]], *, holes: bool) -> Edit:
    """Punch (or fill) a run of crossings in one step; impossible ones are passed over and counted in the sentence."""
    wanted = tuple(crossings)
    if not holes:
        return fill(index, [route for at in wanted for route in index.by_crossing.get(at, ())])
    fresh: list[Route] = []
    passed = 0
    for service, destination in wanted:
        access, found = index.services[service]
        verdict = crossing(index, access, found, index.destinations[destination])
        if not verdict.possible:
            passed += 1
        elif (service, destination) not in index.by_crossing:
            fresh.extend(usual_routes(index, service, destination, verdict))
    if not fresh:
        raise EditRefused("There is nothing to punch in this run: the crossings are punched already, or impossible.")
    note = f"; {passed} cannot be reached" if passed else ""
    holes_word = "crossing" if len(fresh) == 1 else "crossings"
    return Edit(f"Punch {len(fresh)} {holes_word}{note}", lambda plan: replace(plan, routes=(*plan.routes, *fresh)))


def set_route(index: PlanIndex, key: str, sentence: str, **fields: Any) -> Edit:
    """Change fields of a route. A change of slot keeps its place in zones and scan lists."""
    route = index.routes[key]
    changed = replace(route, **fields)

    def apply(plan: Plan) -> Plan:
        if changed.key != key and any(item.key == changed.key for item in plan.routes):
            raise EditRefused(f"Slot {changed.slot} of this crossing is punched already.")
        routes = list(plan.routes)
        routes[_place(plan.routes, route)] = changed
        plan = replace(plan, routes=tuple(routes))
        return plan if changed.key == key else _renamed(plan, key, changed.key)

    return Edit(f"{sentence} on {index.labels.of(route)}", apply)


def _place(routes: tuple[Route, ...], route: Route) -> int:
    """Where a route stands: the very value first, then one of the same key. Raises EditRefused when it is gone."""
    for at, item in enumerate(routes):
        if item is route:
            return at
    for at, item in enumerate(routes):
        if item.key == route.key:
            return at
    raise EditRefused("This route is no longer in the plan.")


def _renamed(plan: Plan, old: str, new: str) -> Plan:
    def swap(item: RouteList) -> Any:
        if isinstance(item, ScanList) and item.priority == old:
            item = replace(item, priority=new)
        if old not in item.members:
            return item
        return replace(item, members=tuple(new if member == old else member for member in item.members))

    return replace(plan, zones=tuple(map(swap, plan.zones)), scans=tuple(map(swap, plan.scans)))
