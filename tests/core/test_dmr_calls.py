"""DMR's kinds of call, both schools, group lists by rule and by hand, a second network behind a prefix."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.modes.calls import call_through
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Call, Destination, Network, RadioId, Route
from umbra_awl.core.routes.bulk import apply_school
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.core.routes.order import order_of_use
from umbra_awl.core.routes.punch import punch, set_route

FAR = Network("far", "Farnet", "dmr", echo=Call(9990), prefix="7")


def wide(plan):
    """The plan with a second network behind the home hotspot, a station and a dialled reflector."""
    extra = (
        Destination("far-talk", "Far talk", network="far", number=310),
        Destination("far-echo", "Far echo", "echo", network="far"),
        Destination("odile-dmr", "Odile", "private", network="lattice", number=9994321),
        Destination("ref-5", "Reflector 5", "dial", network="lattice", number=8005),
    )
    plan = replace(plan, networks=(*plan.networks, FAR), destinations=(*plan.destinations, *extra))
    return set_air("home-dmr", "x", also=("far",)).apply(plan)


CALLS = [
    ("blackfell-dmr", "isles-wide", Call(99900)),
    ("blackfell-dmr", "local", Call(8)),
    ("blackfell-dmr", "echo", Call(999097, "private")),
    ("home-dmr", "disconnect", Call(999000)),
    ("home-dmr", "dialled", Call(8)),
    ("home-dmr", "ref-5", Call(8005)),
    ("home-dmr", "odile-dmr", Call(9994321, "private")),
    ("home-dmr", "far-talk", Call(7000310)),
    ("home-dmr", "far-echo", Call(7009990)),
]


@pytest.mark.parametrize(("service", "destination", "call"), CALLS)
def test_the_number_and_kind_that_reach_a_destination(plan, service, destination, call):
    index = PlanIndex(wide(plan), TODAY)
    assert call_through(index, index.services[service][1], index.destinations[destination]) == call


def test_a_second_network_is_reached_only_where_it_is_behind(plan):
    index = PlanIndex(wide(plan), TODAY)
    for service, possible in (("home-dmr", True), ("blackfell-dmr", False)):
        access, found = index.services[service]
        assert crossing(index, access, found, index.destinations["far-talk"]).possible is possible


def test_a_prefixed_call_is_a_contact_of_its_own(plan, profiles):
    index = PlanIndex(wide(plan), TODAY)
    more = punch(index, "home-dmr", "far-talk", 1).apply(index.plan)
    memory = fit(PlanIndex(more, TODAY), more.radios[0], profiles["tarn16"]).memory
    channel = next(item for item in memory.channels if item.route == "home-dmr>far-talk@1")
    assert memory.contacts[channel.contact - 1].call == 7000310


def rules(plan, profiles):
    return {item.rule.name: item for item in findings_of(PlanIndex(plan, TODAY), profiles)}


def test_a_second_network_without_its_prefix_stops(plan, profiles):
    bare = wide(plan)
    bare = replace(bare, networks=tuple(replace(item, prefix="") for item in bare.networks))
    assert "prefix-missing" not in rules(bare, profiles)
    punched = punch(PlanIndex(bare, TODAY), "home-dmr", "far-talk", 1).apply(bare)
    assert "Farnet is reached through Q4WRN" in rules(punched, profiles)["prefix-missing"].text


def test_dialling_wants_something_to_talk_on(plan, profiles):
    bare = replace(wide(plan), routes=(Route("travel-dmr", "ref-5", 2),))
    finding = rules(bare, profiles)["dial-without-local"]
    after = finding.repair.edit.apply(bare)
    assert "dial-without-local" not in rules(after, profiles)
    assert [route.key for route in after.routes] == ["travel-dmr>ref-5@2", "travel-dmr>local@2"]
    steps = order_of_use(PlanIndex(after, TODAY), after.routes[0])
    assert steps[0].startswith("Dial 8005")
    assert "local talk group 8" in steps[2]
    assert "999000" in steps[3]


@pytest.mark.parametrize(
    ("key", "fields", "rule"),
    [
        ("ref-5", {"number": 8200}, "dial-out-of-range"),
        ("echo", {"number": 999079}, "number-off-convention"),
        ("disconnect", {"number": 999001}, "number-off-convention"),
        ("isles-wide", {"number": 9994321}, "id-as-group"),
    ],
)
def test_slips_of_numbers(plan, profiles, key, fields, rule):
    plan = wide(plan)
    plan = replace(plan, routes=(*plan.routes, Route("home-dmr", "ref-5", 1)))
    there = tuple(replace(item, **fields) if item.key == key else item for item in plan.destinations)
    slipped = replace(plan, destinations=there)
    finding = rules(slipped, profiles)[rule]
    if finding.repair is not None:
        assert rule not in rules(finding.repair.edit.apply(slipped), profiles)


def heard(plan, profiles, route):
    memory = fit(PlanIndex(plan, TODAY), plan.radios[0], profiles["tarn16"]).memory
    channel = next(item for item in memory.channels if item.route == route)
    return [memory.contacts[at - 1].call for at in memory.group_lists[channel.group_list - 1].members]


ISLES = "blackfell-dmr>isles-wide@2"


@pytest.mark.parametrize(
    ("rule", "calls"),
    [
        ("own", [99900]),
        ("slot", [99900, 99902, 99905]),
        ("access", [8, 99900, 99901, 99902, 99905, 4200]),
    ],
)
def test_group_lists_by_rule(plan, profiles, rule, calls):
    assert heard(set_air("blackfell-dmr", "x", hears=rule).apply(plan), profiles, ISLES) == calls


def test_channels_of_one_rule_share_one_list(plan, profiles):
    by_slot = set_air("blackfell-dmr", "x", hears="slot").apply(plan)
    memory = fit(PlanIndex(by_slot, TODAY), plan.radios[0], profiles["tarn16"]).memory
    lists = {item.group_list for item in memory.channels if item.route.startswith("blackfell-dmr") and item.slot == 2}
    assert len(lists) == 1


def test_a_group_list_by_hand_stands_against_the_rule(plan, index, profiles):
    by_slot = set_air("blackfell-dmr", "x", hears="slot").apply(plan)
    own = set_route(PlanIndex(by_slot, TODAY), ISLES, "x", hears=("exercise", "isles-wide")).apply(by_slot)
    assert heard(own, profiles, ISLES) == [99905, 99900]


def test_both_schools_on_one_access_point(plan):
    bare = replace(plan, routes=(), zones=(), scans=())
    each = apply_school(PlanIndex(bare, TODAY), "blackfell-dmr", "each").edit.apply(bare)
    both = apply_school(PlanIndex(each, TODAY), "blackfell-dmr", "dial").edit.apply(each)
    assert [route.key for route in each.routes] == [
        "blackfell-dmr>local@1",
        "blackfell-dmr>isles-wide@2",
        "blackfell-dmr>great-velmar@1",
        "blackfell-dmr>echo@1",
        "blackfell-dmr>disconnect@1",
    ]
    assert [route.key for route in both.routes[5:]] == ["blackfell-dmr>dialled@1"]


def test_a_simplex_hotspot_on_two_slots(plan, profiles):
    two = set_air("travel-dmr", "x", slots=(1, 2)).apply(plan)
    two = replace(two, routes=(*two.routes, Route("travel-dmr", "exercise", 1), Route("travel-dmr", "worldwide", 1)))
    finding = rules(two, profiles)["simplex-two-slots"]
    after = finding.repair.edit.apply(two)
    mine = {route.key for route in after.routes if route.service == "travel-dmr"}
    assert "travel-dmr>exercise@2" in mine
    assert not any(key.endswith("@1") for key in mine)
    assert not {"simplex-two-slots", "slot-not-used"} & rules(after, profiles).keys()


def test_two_hotspots_with_one_id(plan, profiles):
    same = replace(plan, hotspots=tuple(replace(item, id_label="") for item in plan.hotspots))
    finding = rules(same, profiles)["hotspots-same-id"]
    assert "9994217" not in finding.text
    after = finding.repair.edit.apply(same)
    assert "hotspots-same-id" not in rules(after, profiles)
    lonely = replace(same.station.identities[0], ids=(RadioId(9994217),))
    one_id = replace(same, station=replace(same.station, identities=(lonely, *same.station.identities[1:])))
    made = rules(one_id, profiles)["hotspots-same-id"].repair.edit.apply(one_id)
    assert made.station.identities[0].ids[-1].full == 999421701


def test_admit_schools_of_a_simplex_hotspot(plan, profiles):
    waiting = set_air("travel-dmr", "x", admit="free").apply(plan)
    assert rules(waiting, profiles)["hotspot-admit"].severity == "note"
    assert "hotspot-admit" not in rules(set_air("home-dmr", "x", admit="color").apply(plan), profiles)
