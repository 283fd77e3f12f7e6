"""What to do next, from an empty plan to a proven radio: each step with its reason and the very field where it is done.

A step is done by what the plan holds and what radios were proven to hold, never by a click.
"""

from collections.abc import Iterable, Iterator, Mapping
from datetime import date
from types import MappingProxyType
from typing import NamedTuple

from umbra_awl.core.facts.callsign import call_sign_fault
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.dmr import radio_id_fault
from umbra_awl.core.findings.model import Finding
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.permit import in_force


class Where(NamedTuple):
    """A place in the window: the stage's key, the page's name, the field's label or what stands for it on that page."""

    stage: str
    page: str
    field: str = ""


class NextStep(NamedTuple):
    """A step: whether it is done, its words, why it is needed, where it is done.

    `finding` is what is to be repaired, where that is the step; `radio` the key of the radio it is about.
    """

    done: bool
    words: str
    why: str
    where: Where
    finding: Finding | None = None
    radio: str = ""


class WaysIn(NamedTuple):
    """The page of Transfer by which each radio is fed, by its key, and the keys of those that were found to hold the plan.

    `loads` are those that take firmware.
    """

    pages: Mapping[str, str] = MappingProxyType({})
    proven: frozenset[str] = frozenset()
    loads: frozenset[str] = frozenset()


NO_WAYS = WaysIn()


def next_steps(
    index: PlanIndex, today: date, stops: Iterable[Finding] = (), ways: WaysIn = NO_WAYS
) -> tuple[NextStep, ...]:
    """The steps in working order. `stops` are findings that stop something."""
    plan = index.plan
    return (
        *_of_station(plan),
        *_of_plan(plan),
        *_of_radios(plan, tuple(stops), ways),
        *_of_hotspots(index),
        *_of_licence(plan, today),
    )


def first_open(steps: Iterable[NextStep]) -> NextStep | None:
    """The first step that is not done; None when all are."""
    return next((step for step in steps if not step.done), None)


def done_shares(steps: Iterable[NextStep]) -> dict[str, float]:
    """How much of each stage's steps is done, from 0 to 1, by the stage's key; stages without steps are not in it."""
    counted: dict[str, list[bool]] = {}
    for step in steps:
        counted.setdefault(step.where.stage, []).append(step.done)
    return {stage: sum(done) / len(done) for stage, done in counted.items()}


def _of_station(plan: Plan) -> Iterator[NextStep]:
    owner = next(iter(plan.station.identities), None)
    yield NextStep(
        bool(owner and not call_sign_fault(owner.call)),
        "Give your call sign",
        "Radios, hotspots and networks know you by it.",
        Where("station", "who", "Call sign"),
    )
    yield NextStep(
        plan.station.lat is not None,
        "Say where you are",
        "The map, the distances and who is in reach begin there.",
        Where("station", "place", "Position"),
    )
    licence = plan.station.licence
    yield NextStep(
        bool(licence.step) or licence.granted,
        "Say which licence you hold, or wait for",
        "Its bands and its power are what channels are made for. Nothing transmits before it is granted.",
        Where("station", "licence", "Class"),
    )


def _of_plan(plan: Plan) -> Iterator[NextStep]:
    yield NextStep(
        bool(plan.access),
        "Take the access points around you",
        "A repeater, hotspot or frequency is where a route begins.",
        Where("access", "around", "list"),
    )
    yield NextStep(
        bool(plan.destinations),
        "Add whom you want to reach",
        "Talk groups, reflectors, rooms, stations; “Local” is whoever listens there.",
        Where("routes", "sheet", "add destination"),
    )
    yield NextStep(
        bool(plan.routes),
        "Punch the routes you use",
        "Each hole becomes a channel in every radio that can hold it.",
        Where("routes", "sheet", "sheet"),
    )


def _of_radios(plan: Plan, stops: tuple[Finding, ...], ways: WaysIn) -> Iterator[NextStep]:
    yield NextStep(
        bool(plan.radios),
        "Say which radios you own",
        "The plan is fitted to each: its limits, its display, its keys.",
        Where("radios", "memory", "add radio"),
    )
    if plan.routes or stops:
        yield _repair(stops)
    for radio in (item for item in plan.radios if item.key in ways.pages):
        if plan.station.habits.updates == "first" and radio.key in ways.loads:
            yield NextStep(
                bool(radio.updated),
                f"Look whether {radio.name} has the newest firmware",
                "You chose newest first: a memory written afterwards is not lost by a later update.",
                Where("transfer", "ports", "looked"),
                radio=radio.key,
            )
        yield NextStep(
            radio.key in ways.proven,
            f"Write {radio.name}, and prove it",
            "It is read first and a backup kept; afterwards it is read back and compared.",
            Where("transfer", ways.pages[radio.key], "act"),
            radio=radio.key,
        )


def _of_hotspots(index: PlanIndex) -> Iterator[NextStep]:
    for hotspot in index.plan.hotspots:
        site = index.access[hotspot.access].by_site
        reached = {item.rung for item in hotspot.proofs}
        yield NextStep(
            bool(hotspot.listened),
            f"Listen where {site} is to stand",
            "A frequency that looks free may be somebody's. Three quiet days are enough.",
            Where("hotspots", "place", "listen"),
        )
        yield NextStep(
            bool(hotspot.rx_correction_hz or hotspot.readings),
            f"Calibrate {site}",
            "Small boards are off by hundreds of hertz; six readings tell by how much.",
            Where("hotspots", "calibrate", "act"),
        )
        yield NextStep(
            bool(reached & {"echo", "answered"}),
            f"Prove {site}, up to the echo",
            "From its display to your own voice: the first rung that fails says where to look.",
            Where("hotspots", "path", "ladder"),
        )


def _repair(stops: tuple[Finding, ...]) -> NextStep:
    count = len(stops)
    return NextStep(
        not stops,
        f"Repair what stops: {counted(count, 'finding')}" if stops else "Nothing stops the plan",
        stops[0].text if stops else "What stops would not work or must not be.",
        Where("routes", "sheet"),
        stops[0] if stops else None,
    )


def _of_licence(plan: Plan, today: date) -> Iterator[NextStep]:
    """What is left until one may transmit: a licence can be long in coming, and everything before it can be done meanwhile."""
    owner = next(iter(plan.station.identities), None)
    licence = in_force(plan.station.licence, today)
    yield NextStep(
        licence.granted,
        "Say when the licence is granted",
        "Until then every channel only listens. You can plan, program and listen meanwhile.",
        Where("station", "licence", "Granted"),
    )
    if any(mode_of(service).color_coded for access in plan.access for service in access.services):
        ids = [item.number for item in owner.ids] if owner else []
        yield NextStep(
            bool(ids) and not any(map(radio_id_fault, ids)),
            "Give your DMR ID, once you have it",
            "A DMR radio sends it with every key-up; a registry gives it, in a day or more.",
            Where("station", "who", "DMR ID"),
        )
    yield NextStep(
        licence.granted and not licence.guard,
        "Lift the guard when you are ready to transmit",
        "Listen first. While the guard is on, every channel only listens.",
        Where("station", "licence", "Guard"),
    )
