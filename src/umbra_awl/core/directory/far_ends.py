"""Whom one may want to reach, chosen where one sees them: a repeater of the map as far end, a node, a person of the directory."""

from collections.abc import Iterator
from typing import NamedTuple

from umbra_awl.core.directory.people_search import Person
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.plan.edit.edits import Edit, add_item, fresh_key
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DstarAir, Mode, Service
from umbra_awl.core.plan.parts import DESTINATIONS


class FarEnd(NamedTuple):
    """One way to reach somebody: in words, and the destination it makes; with a `fault` it cannot be had yet, and why."""

    words: str
    destination: Destination | None
    fault: str = ""


def far_ends_of_access(index: PlanIndex, access: AccessPoint) -> tuple[FarEnd, ...]:
    """The ways to reach whoever is at an access point, from elsewhere."""
    return tuple(end for service in access.services for end in _of_service(index, access, service))


def _of_service(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[FarEnd]:
    air = service.air
    if not isinstance(air, DstarAir) or not access.call or not air.module or not air.gateway:
        return
    target = f"{access.call} {air.module}"
    for kind, said in (("repeater", "routed to"), ("direct", "linked to")):
        name = target if kind == "repeater" else f"{target} linked"
        words = f"{target}, {said} by call sign" if kind == "repeater" else f"{target}, {said} directly"
        yield _on_network(index, "dstar", words, Destination("", name, kind, text=target))  # type: ignore[arg-type]


def far_ends_of_person(index: PlanIndex, person: Person) -> tuple[FarEnd, ...]:
    """The ways to reach a person: by ID on DMR, by call sign on D-STAR."""
    who = " ".join(filter(None, (person.call, person.name)))
    ends = []
    if person.id:
        called = Destination("", who, "private", number=person.id, call="private")
        ends.append(_on_network(index, "dmr", f"{who}, by a private call on DMR", called))
    if person.call:
        called = Destination("", who, "station", text=person.call)
        ends.append(_on_network(index, "dstar", f"{who}, by call sign on D-STAR", called))
    return tuple(ends)


def _on_network(index: PlanIndex, mode: Mode, words: str, wanted: Destination) -> FarEnd:
    """A far end on the plan's first network of a mode."""
    network = next((item.key for item in index.plan.networks if item.mode == mode), None)
    if network is None:
        return FarEnd(words, None, f"The plan has no {MODE_WORDS[mode]} network yet. Add one at Station, Networks.")
    there = next((item for item in index.plan.destinations if _same(item, wanted)), None)
    if there is not None:
        return FarEnd(words, there)
    key = fresh_key(wanted.name, index.destinations)
    made = Destination(
        key, wanted.name, wanted.kind, network, wanted.number, wanted.call, wanted.text, wanted.time_zone
    )
    return FarEnd(words, made)


def _same(one: Destination, other: Destination) -> bool:
    return (one.kind, one.number, one.text) == (other.kind, other.number, other.text)


def reach_edit(index: PlanIndex, end: FarEnd) -> Edit | None:
    """The edit that adds a far end; None where the plan has it already, or where it cannot be had."""
    if end.destination is None or end.destination.key in index.destinations:
        return None
    return add_item(DESTINATIONS, end.destination, f"Reach {end.destination.name}")
