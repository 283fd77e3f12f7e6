"""Edits of many holes at once: along a row or column, from one service to another, by a template, for a selection.

Each is one step of the history with a sentence, and tells what could not be done and why.
"""

from collections.abc import Iterable
from typing import Any, NamedTuple

from msgspec.structs import replace

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.modes import ByMode
from umbra_awl.core.modes.behaviour import Crossing
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, together
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import DmrAir, Plan, Route, Zone
from umbra_awl.core.plan.places import place_word
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.core.routes.lists import members_of_all
from umbra_awl.core.routes.punch import set_route, usual_routes


class Left(NamedTuple):
    """Something that could not be done, and why."""

    what: str
    reason: str


class Bulk(NamedTuple):
    """An edit of many holes; `left` is what it leaves out."""

    edit: Edit
    left: tuple[Left, ...]

    @property
    def summary(self) -> str:
        """The sentence with the first reasons, for telling."""
        if not self.left:
            return self.edit.sentence
        told = "; ".join(f"{item.what}: {item.reason}" for item in self.left[:3])
        more = f" And {len(self.left) - 3} more." if len(self.left) > 3 else ""
        return f"{self.edit.sentence}. Not done: {told}{more}"


def _verdict(index: PlanIndex, service: str, destination: str) -> Crossing:
    access, found = index.services[service]
    return crossing(index, access, found, index.destinations[destination])


def _where(index: PlanIndex, service: str) -> str:
    access, _service = index.services[service]
    return access.by_call


def _adding(sentence: str, fresh: list[Route], left: list[Left]) -> Bulk:
    if not fresh:
        reason = left[0].reason if left else "Everything is punched already."
        raise EditRefused(f"There is nothing to punch. {reason}")

    def apply(plan: Plan) -> Plan:
        there = {item.key for item in plan.routes}
        return replace(plan, routes=(*plan.routes, *(route for route in fresh if route.key not in there)))

    return Bulk(Edit(sentence, apply), tuple(left))


def fill_row(index: PlanIndex, destination: str) -> Bulk:
    """Punch a destination through every service that reaches it and has no hole there. Raises EditRefused."""
    fresh: list[Route] = []
    for service in index.services:
        verdict = _verdict(index, service, destination)
        if verdict.possible and (service, destination) not in index.by_crossing:
            fresh.extend(usual_routes(index, service, destination, verdict))
    name = index.destinations[destination].name
    return _adding(f"Punch {name} through every service that reaches it: {counted(len(fresh), 'route')}", fresh, [])


def fill_column(index: PlanIndex, service: str, destinations: Iterable[str]) -> Bulk:
    """Punch these destinations through one service, where it reaches them and has no hole. Raises EditRefused."""
    fresh: list[Route] = []
    for destination in destinations:
        verdict = _verdict(index, service, destination)
        if verdict.possible and (service, destination) not in index.by_crossing:
            fresh.extend(usual_routes(index, service, destination, verdict))
    return _adding(f"Punch all that {_where(index, service)} reaches: {counted(len(fresh), 'route')}", fresh, [])


_CARRIED_OVER = ("power", "receive_only", "promiscuous", "hears", "admit")


def copy_pattern(index: PlanIndex, source: str, target: str) -> Bulk:
    """Punch through one service what is punched through another, on the same slots where it has them.

    What belongs to the old access point (color code, tones, widths, routing fields, DG-IDs, names) is left behind. Raises
    EditRefused when nothing can be copied.
    """
    if source == target:
        raise EditRefused("Choose another service: this is the one the pattern comes from.")
    pattern = [route for route in index.plan.routes if route.service == source]
    if not pattern:
        raise EditRefused(f"{_where(index, source)} has no routes to copy.")
    fresh: list[Route] = []
    left: list[Left] = []
    for route in pattern:
        made = _copied(index, route, target, {item.key for item in fresh})
        if isinstance(made, Left):
            left.append(made)
        else:
            fresh.append(made)
    sentence = f"Copy the pattern of {_where(index, source)} to {_where(index, target)}: {counted(len(fresh), 'route')}"
    return _adding(f"{sentence}{f', {len(left)} left out' if left else ''}", fresh, left)


def _copied(index: PlanIndex, route: Route, target: str, fresh: set[str]) -> Route | Left:
    destination = index.destinations[route.destination]
    place = place_word(index.services[route.service][1], destination, route.slot)
    name = " ".join(filter(None, (place, destination.name)))
    verdict = _verdict(index, target, route.destination)
    if not verdict.possible:
        return Left(name, verdict.reason)
    slot = route.slot if route.slot in verdict.slots else verdict.slots[0]
    made = Route(target, route.destination, slot)
    if index.services[route.service][1].mode == index.services[target][1].mode:
        made = replace(made, **{field: getattr(route, field) for field in _CARRIED_OVER})
    if made.key in index.routes or made.key in fresh:
        return Left(name, "It is punched there already.")
    return made


class School(NamedTuple):
    """A template for a service: its words and the kinds of destination it punches."""

    words: str
    hint: str
    kinds: frozenset[str]
    static: bool = False


SCHOOLS: dict[str, School] = {
    "each": School(
        "A channel for each talk group it always carries",
        "The local talk group, what is static here, echo test and disconnect",
        frozenset({"local", "echo", "disconnect"}),
        static=True,
    ),
    "dial": School(
        "One channel, and dial the rest",
        "The local talk group, dialled reflectors through it, echo test and disconnect",
        frozenset({"local", "dial", "echo", "disconnect"}),
    ),
    "links": School(
        "Link, talk, unlink",
        "Local, every reflector as a pair, unlink, echo and information",
        frozenset({"local", "reflector", "disconnect", "echo", "info"}),
    ),
    "rooms": School("Every room", "Local and every room it reaches", frozenset({"local", "room", "disconnect"})),
}
_SCHOOLS_OF: ByMode[tuple[str, ...]] = {"dmr": ("each", "dial"), "dstar": ("links",), "fusion": ("rooms",), "fm": ()}


def schools_for(index: PlanIndex, service: str) -> tuple[str, ...]:
    """The templates that suit a service's mode."""
    return _SCHOOLS_OF[index.services[service][1].mode]


def apply_school(index: PlanIndex, service: str, school: str) -> Bulk:
    """Punch what a school has on a service; what is punched stays, so schools can be mixed. Raises EditRefused."""
    wanted, air = SCHOOLS[school], index.services[service][1].air
    static = {item.destination: item.slot for item in air.static} if isinstance(air, DmrAir) and wanted.static else {}
    fresh: list[Route] = []
    for key, destination in index.destinations.items():
        if destination.kind not in wanted.kinds and key not in static:
            continue
        verdict = _verdict(index, service, key)
        if not verdict.possible or (service, key) in index.by_crossing:
            continue
        slot = static.get(key)
        fresh.extend(
            [Route(service, key, slot)]
            if slot in verdict.slots and slot
            else usual_routes(index, service, key, verdict)
        )
    return _adding(f"{wanted.words} on {_where(index, service)}: {counted(len(fresh), 'route')}", fresh, [])


def set_many(index: PlanIndex, keys: Iterable[str], words: str, **fields: Any) -> Bulk:
    """Change fields of many routes in one step; those where it does not apply are left out. Raises EditRefused."""
    steps: list[Edit] = []
    left: list[Left] = []
    moved: set[str] = set()
    for key in keys:
        route = index.routes[key]
        reason = _not_for(index, route, fields, moved)
        changed = replace(route, **fields)
        if reason:
            left.append(Left(index.labels.of(route), reason))
        elif changed != route:
            steps.append(set_route(index, key, words, **fields))
            moved.add(changed.key)
    if not steps:
        raise EditRefused(f"There is nothing to change. {left[0].reason if left else 'All of them are so already.'}")
    edit = together(f"{words} on {counted(len(steps), 'route')}{f', {len(left)} left out' if left else ''}", steps)
    return Bulk(edit, tuple(left))


def _not_for(index: PlanIndex, route: Route, fields: dict[str, Any], moved: set[str]) -> str:
    """Why a change does not apply to a route; empty when it does."""
    mode = index.services[route.service][1].mode
    if mode != "dmr" and fields.keys() & {"admit", "promiscuous", "hears"}:
        return "Only DMR channels have that."
    if "slot" in fields and fields["slot"] != route.slot:
        if mode != "dmr":
            return "Only DMR has time slots."
        verdict = _verdict(index, route.service, route.destination)
        if fields["slot"] not in verdict.slots:
            return f"{_where(index, route.service)} does not use slot {fields['slot']}."
        key = replace(route, slot=fields["slot"]).key
        if key in index.routes or key in moved:
            return f"Slot {fields['slot']} is punched there already."
    return ""


def put_into(index: PlanIndex, zone: Zone, keys: Iterable[str]) -> Edit:
    """Put many routes into a zone, after those it holds by hand; those in it stay where they are. Raises EditRefused."""
    there = set(members_of_all(index, (zone,))[zone.key])
    fresh = tuple(key for key in keys if key not in there)
    if not fresh:
        raise EditRefused(f"They are all in {zone.name} already.")

    def apply(plan: Plan) -> Plan:
        zones = tuple(
            replace(item, members=(*item.members, *fresh)) if item.key == zone.key else item for item in plan.zones
        )
        return replace(plan, zones=zones)

    return Edit(f"Put {counted(len(fresh), 'route')} into {zone.name}", apply)
