"""System Fusion: which crossings a DG-ID or a connect command makes, and what a memory sends and hears."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.facts.fusion import dgid_fault, room_fault, shown_dgid
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Mapped
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.core.routes.order import order_of_use
from umbra_awl.core.routes.punch import punch, set_route
from umbra_awl.core.trace.keyup import trace

COMMONS = "torrick-fusion>velmar-commons@0"
LOCAL = "torrick-fusion>local@0"
SEA = "home-fusion>sea-room@0"


def channel(plan, profiles, route):
    crag = next(radio for radio in plan.radios if radio.key == "crag")
    return fit(PlanIndex(plan, TODAY), crag, profiles["crag-f3"]).channel_of(route)


def traced(plan, profiles, route):
    index = PlanIndex(plan, TODAY)
    fits = {item.key: fit(index, item, profiles[item.profile]) for item in plan.radios}
    return trace(index, fits, "crag", route)


@pytest.mark.parametrize(
    ("service", "destination", "reason"),
    [
        ("torrick-fusion", "local", ""),
        ("torrick-fusion", "velmar-commons", ""),
        ("torrick-fusion", "leave-room", ""),
        ("torrick-fusion", "sea-room", "maps no DG-ID to Sea Room and takes no connect command"),
        ("home-fusion", "sea-room", ""),
        ("home-fusion", "leave-room", "is a command on the radio's own node page here"),
        ("home-fusion", "isles-wide", "is not reached by System Fusion"),
        ("home-fusion", "vlr001-c", "is not reached by System Fusion"),
        ("home-dmr", "velmar-commons", "(room) is not reached by DMR"),
    ],
)
def test_what_a_service_reaches(index, service, destination, reason):
    access, found = index.services[service]
    verdict = crossing(index, access, found, index.destinations[destination])
    assert verdict.possible is (not reason)
    assert reason in verdict.reason


DGIDS = [
    (LOCAL, {}, {}, ("AMS", 10, 0)),
    (COMMONS, {}, {}, ("AMS", 40, 0)),
    ("torrick-fusion>torrick-watch@0", {}, {}, ("AMS", 41, 0)),
    ("torrick-fusion>leave-room@0", {}, {}, ("AMS", 99, 0)),
    (SEA, {}, {}, ("DN", 0, 0)),
    (COMMONS, {"dgid_tx": 7}, {}, ("AMS", 7, 0)),
    (COMMONS, {"dgid_rx": 40, "way": "VW"}, {}, ("VW", 40, 40)),
    (LOCAL, {}, {"dgid_tx": 25, "dgid_rx": 25}, ("AMS", 25, 25)),
    (LOCAL, {}, {"auto_mode": False}, ("DN", 10, 0)),
    (LOCAL, {}, {"auto_mode": False, "ways": ("VW",)}, ("VW", 10, 0)),
    (COMMONS, {}, {"mapped": (Mapped(55, "velmar-commons"),)}, ("AMS", 55, 0)),
]


@pytest.mark.parametrize(("route", "own", "air", "sends"), DGIDS)
def test_way_and_dg_ids_of_a_memory(plan, profiles, route, own, air, sends):
    if own:
        plan = set_route(PlanIndex(plan, TODAY), route, "x", **own).apply(plan)
    if air:
        plan = set_air("torrick-fusion", "x", **air).apply(plan)
    made = channel(plan, profiles, route)
    assert (made.way, made.dgid_tx, made.dgid_rx) == sends


@pytest.mark.parametrize(
    ("route", "own", "air", "text"),
    [
        (COMMONS, {}, {}, None),
        (SEA, {}, {}, None),
        (COMMONS, {"dgid_tx": 7}, {}, "wants DG-ID 40"),
        (LOCAL, {"dgid_tx": 0}, {}, "wants DG-ID 10"),
        (LOCAL, {"way": "FM"}, {"auto_mode": False}, "takes DN and VW only"),
        (LOCAL, {"way": "VW"}, {"ways": ("DN",)}, "takes DN and FM only"),
    ],
)
def test_where_a_key_up_stops(plan, profiles, route, own, air, text):
    if own:
        plan = set_route(PlanIndex(plan, TODAY), route, "x", **own).apply(plan)
    if air:
        plan = set_air("torrick-fusion", "x", **air).apply(plan)
    broken = traced(plan, profiles, route).broken
    assert (broken.text if broken else None) == text


def test_hops_and_listeners_of_a_room(plan, profiles):
    result = traced(plan, profiles, COMMONS)
    assert [hop.title for hop in result.hops] == ["You", "Guard", "Radio", "Q0TRK", "Commons", "Far side"]
    assert result.hops[4].text == "DG-ID 40 leads to Velmar Commons"
    assert [item.who for item in result.listeners] == ["Torrick Head", "Home spot", "all in Velmar Commons"]


def test_a_room_by_number_has_an_order_of_use(plan, index):
    steps = order_of_use(index, index.routes[SEA])
    assert "connect to 40020" in steps[0]
    assert "Disconnect" in steps[-1]
    assert order_of_use(index, index.routes[COMMONS]) == ()


@pytest.mark.parametrize(
    ("own", "air", "rule"),
    [
        ({"dgid_tx": 7}, {}, "dg-id-differs"),
        ({"dgid_rx": 9}, {}, "dg-id-on-receive"),
        ({"way": "AMS"}, {"auto_mode": False}, "way-differs"),
        ({"way": "XX"}, {}, "unknown-way"),
        ({}, {"dgid_tx": 120}, "unknown-dg-id"),
        ({}, {"mapped": (Mapped(140, "velmar-commons"),)}, "unknown-dg-id"),
        ({}, {"ways": ("AM",)}, "unknown-way"),
    ],
)
def test_slips_are_found_and_repaired(plan, profiles, own, air, rule):
    if own:
        plan = set_route(PlanIndex(plan, TODAY), COMMONS, "x", **own).apply(plan)
    if air:
        plan = set_air("torrick-fusion", "x", **air).apply(plan)
    finding = next(item for item in findings_of(PlanIndex(plan, TODAY), profiles) if item.rule.name == rule)
    if finding.repair is not None:
        after = finding.repair.edit.apply(plan)
        assert rule not in {item.rule.name for item in findings_of(PlanIndex(after, TODAY), profiles)}


def test_a_room_without_a_number_is_told(plan, profiles):
    rooms = tuple(replace(item, number=None) if item.key == "sea-room" else item for item in plan.destinations)
    found = findings_of(PlanIndex(replace(plan, destinations=rooms), TODAY), profiles)
    assert [item.target.key for item in found if item.rule.name == "room-number"] == [SEA]


def test_one_hole_and_one_memory(plan, profiles):
    more = punch(PlanIndex(plan, TODAY), "home-fusion", "torrick-watch").apply(plan)
    assert channel(more, profiles, "home-fusion>torrick-watch@0").dgid_tx == 0


def test_numbers():
    assert dgid_fault(99) == ""
    assert dgid_fault(100)
    assert room_fault(40010) == ""
    assert room_fault(None)
    assert room_fault(100_000)
    assert shown_dgid(7) == "07"


def test_a_number_that_is_no_room_goes_into_no_room_memory_and_is_said(plan, profiles):
    """Room 0 would read back as an empty memory."""
    wrong = replace(
        plan, destinations=tuple(replace(d, number=0) if d.key == "velmar-commons" else d for d in plan.destinations)
    )
    radio = next(item for item in wrong.radios if item.profile == "crag-f3")
    made = fit(PlanIndex(wrong, TODAY), radio, profiles["crag-f3"])
    assert all(room.room for room in made.memory.rooms)
    assert any("0 is not a room" in line.reason for line in made.report.lines)
