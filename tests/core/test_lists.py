"""Zones and scan lists: rule and hand together, home and away, radios and halves, priority and waiting."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import ScanList, Zone
from umbra_awl.core.routes.lists import (
    counts_of_all,
    drop_hand_order,
    make_zones,
    members_of_all,
    place_member,
    remove_list,
    set_half,
    set_radio_zones,
    set_scan,
)
from umbra_awl.core.routes.punch import fill, set_route


def test_home_and_away_from_the_trips(plan):
    made = make_zones("home").apply(plan)
    index = PlanIndex(made, TODAY)
    members = members_of_all(index, made.zones)
    home, away = made.zones[:2]
    assert [zone.name for zone in made.zones[:2]] == ["Home", "Nessa"]
    services = {index.routes[key].service for key in members[away.key]}
    assert services == {"cairnlow-dmr", "travel-dmr", "travel-dstar"}
    assert not services & {index.routes[key].service for key in members[home.key]}


def test_a_dragged_route_keeps_its_place_and_the_rule_goes_on(plan, index):
    zone = plan.zones[0]
    keys = members_of_all(index, (zone,))[zone.key]
    moved = place_member(index, zone, keys[-1], 1).apply(plan)
    after = PlanIndex(moved, TODAY)
    order = members_of_all(after, moved.zones)[zone.key]
    assert order == (keys[0], keys[-1], *keys[1:-1])
    again = drop_hand_order(moved.zones[0]).apply(moved)
    assert again == plan
    with pytest.raises(EditRefused, match="made by hand"):
        drop_hand_order(Zone("z", "Mine", members=keys[:1]))


def test_a_zone_off_one_radio_and_on_again(plan, index, profiles):
    tarn, nessa = plan.radios[0], next(zone for zone in plan.zones if zone.key == "nessa")
    off = set_radio_zones(index, tarn, nessa, on=False).apply(plan)
    assert "NESSA" not in [
        zone.name for zone in fit(PlanIndex(off, TODAY), off.radios[0], profiles["tarn16"]).memory.zones
    ]
    back = set_radio_zones(PlanIndex(off, TODAY), off.radios[0], nessa, on=True).apply(off)
    assert back == plan


def test_halves_of_the_display(plan, profiles):
    moor = plan.radios[1]
    nessa = next(zone for zone in plan.zones if zone.key == "nessa")
    shown = set_half(moor, 1, nessa).apply(plan)
    memory = fit(PlanIndex(shown, TODAY), shown.radios[1], profiles["moor4k"]).memory
    assert [memory.zones[at - 1].name for at in memory.halves] == ["Home spot", "Nessa"]
    gone = remove_list(nessa).apply(shown)
    assert gone.radios[1].halves == ("home", "")
    assert not structure_faults(gone)
    assert set_half(shown.radios[1], 0, None).apply(shown).radios[1].halves == ("", "nessa")


def test_scan_priority_and_waiting(plan, index, profiles):
    scan = plan.scans[0]
    slow = set_scan(scan, hang_s=15.0).apply(plan)
    found = [item for item in findings_of(PlanIndex(slow, TODAY), profiles) if item.rule.name == "scan-hang-over-limit"]
    assert {item.part for item in found} == {"tarn", "crag"}  # Moor 4K and Fell D2 can wait 20 s
    memory = fit(PlanIndex(slow, TODAY), slow.radios[0], profiles["tarn16"]).memory
    assert memory.scans[0].hang_ms == 10_000
    with pytest.raises(EditRefused, match="not a time to wait"):
        set_scan(scan, hang_s=-1.0)
    none = set_scan(scan, priority="").apply(plan)
    assert fit(PlanIndex(none, TODAY), none.radios[0], profiles["tarn16"]).memory.scans[0].priority == 0


def test_a_priority_outside_its_list_is_told(plan, profiles):
    wrong = replace(plan, scans=(replace(plan.scans[0], priority="blackfell-dmr>echo@2"),))
    finding = next(
        item for item in findings_of(PlanIndex(wrong, TODAY), profiles) if item.rule.name == "scan-priority-outside"
    )
    assert finding.repair.edit.apply(wrong).scans[0].priority == ""


def test_filling_or_moving_the_priority_route_takes_the_priority_along(plan, index):
    key = "blackfell-dmr>exercise@2"
    plan = replace(plan, scans=(ScanList("s", "S", "everything", priority=key),))
    index = PlanIndex(plan, TODAY)
    assert set_route(index, key, "x", slot=1).apply(plan).scans[0].priority == "blackfell-dmr>exercise@1"
    assert fill(index, [index.routes[key]]).apply(plan).scans[0].priority == ""


def test_counts_are_those_a_radio_carries(plan, index):
    zone = next(item for item in plan.zones if item.key == "home")
    every = counts_of_all(index, (zone,))["home"]
    each = [counts_of_all(index, (zone,), (mode,))["home"] for mode in ("fm", "dmr", "dstar", "fusion")]
    assert every == sum(each) == len(members_of_all(index, (zone,))["home"])
    assert each == [0, 9, 6, 2]
