import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from tests.strategies import plans
from umbra_awl.core.modes.calls import called
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.edit.edit_access import remove_access, remove_destination, swap_offset
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Call, Network, ScanList, Zone
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.core.routes.lists import (
    add_list,
    make_zones,
    members_of_all,
    move_member,
    remove_list,
    rename_list,
    toggle_member,
    zones_in_force,
)
from umbra_awl.core.routes.punch import fill, paint, punch, set_route, toggle


def cross(index, service, destination):
    access, found = index.services[service]
    return crossing(index, access, found, index.destinations[destination])


def test_fm_reaches_local_and_nothing_else(index):
    assert cross(index, "blackfell-fm", "local").slots == (0,)
    verdict = cross(index, "blackfell-fm", "isles-wide")
    assert not verdict.possible
    assert "Q0BLK is FM here" in verdict.reason


def test_dmr_reaches_the_destinations_of_its_own_network(index, plan):
    assert cross(index, "blackfell-dmr", "isles-wide").slots == (1, 2)
    assert cross(index, "travel-dmr", "isles-wide").slots == (2,)
    other = replace(plan, networks=(*plan.networks, Network("far", "Farnet", "dmr")))
    other = replace(other, destinations=(*other.destinations, replace(plan.destinations[1], key="x", network="far")))
    verdict = cross(PlanIndex(other, TODAY), "blackfell-dmr", "x")
    assert verdict.reason == "Isles-wide is on Farnet; Q0BLK is on Lattice."


def test_conventions_give_the_numbers(index):
    network = index.networks["lattice"]
    assert called(index.destinations["local"], network) == Call(8)
    assert called(index.destinations["dialled"], network) == Call(8)
    assert called(index.destinations["echo"], network) == Call(999097, "private")
    assert called(index.destinations["disconnect"], network) == Call(999000)
    assert called(index.destinations["local"], None) is None


def test_punching_takes_the_first_slot_that_is_whole(index, plan):
    once = punch(index, "blackfell-dmr", "worldwide").apply(plan)
    assert once.routes[-1].slot == 1
    twice = punch(PlanIndex(once, TODAY), "blackfell-dmr", "worldwide").apply(once)
    assert twice.routes[-1].slot == 2


def test_an_impossible_punch_is_refused_with_the_reason(index):
    with pytest.raises(EditRefused, match="Choose a digital service"):
        punch(index, "harrowquay-fm", "worldwide")
    with pytest.raises(EditRefused, match="uses 2 here, not slot 1"):
        punch(index, "travel-dmr", "worldwide", 1)


def test_toggle_fills_what_is_punched(index, plan):
    edit = toggle(index, "cairnlow-dmr", "exercise")
    assert edit.sentence == "Fill Q0NES slot 2 to Exercise"
    assert len(edit.apply(plan).routes) == len(plan.routes) - 1


def test_painting_a_run_is_one_edit_that_passes_over_shade(index, plan):
    run = [(key, "worldwide") for key in index.services]
    edit = paint(index, run, holes=True)
    assert "11 cannot be reached" in edit.sentence
    after = edit.apply(plan)
    assert {route.service for route in after.routes[len(plan.routes) :]} == {"blackfell-dmr", "cairnlow-dmr"}
    with pytest.raises(EditRefused, match="nothing to punch"):
        paint(PlanIndex(after, TODAY), run, holes=True)
    emptied = paint(PlanIndex(after, TODAY), run, holes=False).apply(after)
    assert not [route for route in emptied.routes if route.destination == "worldwide"]


def test_changing_the_slot_keeps_the_place_in_a_zone(index, plan):
    key = "blackfell-dmr>exercise@2"
    plan = add_list(index, Zone, "Mine", [index.routes[key]]).apply(plan)
    moved = set_route(PlanIndex(plan, TODAY), key, "Move", slot=1).apply(plan)
    assert moved.zones[-1].members == ("blackfell-dmr>exercise@1",)
    assert not structure_faults(moved)


def test_changing_to_a_slot_that_is_punched_is_refused(index, plan):
    both = punch(index, "blackfell-dmr", "exercise", 1).apply(plan)
    with pytest.raises(EditRefused, match="punched already"):
        set_route(PlanIndex(both, TODAY), "blackfell-dmr>exercise@2", "Move", slot=1).apply(both)


@given(plans(), st.data())
def test_removing_things_leaves_a_sound_structure(plan, data):
    index = PlanIndex(plan, TODAY)
    if plan.routes:
        plan = add_list(index, Zone, "Hand", plan.routes[:3]).apply(plan)
        plan = fill(PlanIndex(plan, TODAY), [data.draw(st.sampled_from(plan.routes))]).apply(plan)
    plan = remove_destination(plan.destinations[0].key, "x").apply(plan)
    assert not structure_faults(plan)
    plan = remove_access(plan.access[0]).apply(plan)
    assert not structure_faults(plan)


@given(plans())
def test_swapping_the_sign_twice_is_where_one_was(plan):
    access = plan.access[0]
    once = swap_offset(access, access.services[0]).apply(plan)
    again = swap_offset(once.access[0], once.access[0].services[0]).apply(once)
    assert again == plan


@pytest.mark.parametrize(("by", "names"), [
    ("access", [
        "Blackfell", "Harrowquay", "Little Oss", "Calling", "Cairnlow", "Home spot", "Travel spot", "Weather", "Signal Down",
        "Torrick Head",
    ]),
    ("place", ["Great Velmar", "Little Oss", "Calling", "Nessa", "Travel spot", "Weather", "Torrick"]),
    ("mode", ["FM", "DMR", "D-STAR", "System Fusion"]),
    ("everything", ["Everything"]),
])  # fmt: skip
def test_zones_by_rule(plan, by, names):
    made = make_zones(by).apply(plan)
    assert [zone.name for zone in made.zones] == names
    members = members_of_all(PlanIndex(made, TODAY), made.zones)
    assert sorted(key for keys in members.values() for key in keys) == sorted(route.key for route in plan.routes)


def test_a_rule_gathers_later_routes_and_the_hand_orders_them(index, plan):
    zone = plan.zones[0]
    first = members_of_all(index, plan.zones)[zone.key][-1]
    moved = move_member(index, zone, first, -100).apply(plan)
    later = punch(PlanIndex(moved, TODAY), "blackfell-dmr", "worldwide").apply(moved)
    order = members_of_all(PlanIndex(later, TODAY), later.zones)[zone.key]
    assert order[0] == first
    assert order[-1] == "blackfell-dmr>worldwide@1"


def test_making_zones_keeps_those_made_by_hand(index, plan):
    mine = add_list(index, Zone, "Mine").apply(plan)
    assert [zone.name for zone in make_zones("everything").apply(mine).zones] == ["Everything", "Mine"]


def test_taking_a_route_out_of_a_rule_made_zone_is_refused(index, plan):
    with pytest.raises(EditRefused, match="by rule"):
        toggle_member(index, plan.zones[0], index.routes["blackfell-fm>local@0"])


def test_in_and_out_of_a_zone_by_hand(index, plan):
    mine = add_list(index, Zone, "Mine").apply(plan)
    route = index.routes["blackfell-fm>local@0"]
    inside = toggle_member(PlanIndex(mine, TODAY), mine.zones[-1], route).apply(mine)
    assert inside.zones[-1].members == (route.key,)
    assert toggle_member(PlanIndex(inside, TODAY), inside.zones[-1], route).apply(inside) == mine


def test_without_zones_each_access_point_gets_one(index, plan):
    bare = plan
    for zone in plan.zones:
        bare = remove_list(zone).apply(bare)
    assert len(zones_in_force(PlanIndex(bare, TODAY))) == 10
    assert isinstance(zones_in_force(PlanIndex(bare, TODAY))[0], Zone)


def test_scan_lists_are_edited_like_zones(index, plan):
    made = add_list(index, ScanList, "Walks", plan.routes[:1]).apply(plan)
    assert made.scans[-1].members == (plan.routes[0].key,)
    renamed = rename_list(made.scans[-1], "Long walks").apply(made)
    assert [scan.name for scan in renamed.scans] == ["FM watch", "Long walks"]
    assert remove_list(renamed.scans[-1]).apply(renamed) == plan
    with pytest.raises(EditRefused, match="scan list needs a name"):
        rename_list(made.scans[-1], " ")


def test_removing_a_zone_takes_it_off_the_radios(plan):
    chosen = replace(plan, radios=(replace(plan.radios[0], zones=("fm", "nessa")), plan.radios[1]))
    nessa = next(zone for zone in plan.zones if zone.key == "nessa")
    gone = remove_list(nessa).apply(chosen)
    assert gone.radios[0].zones == ("fm",)
    assert not structure_faults(gone)
