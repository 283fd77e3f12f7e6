"""Far ends chosen where one sees them: a repeater of the map, a person of the directory."""

from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.directory.far_ends import far_ends_of_access, far_ends_of_person, reach_edit
from umbra_awl.core.directory.people_search import Person
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.routes.crossing import crossing

AMBER = Person(9_995_151, "Q3AMB", "Amber", "Stenby", "Velmar")


def added(index, end):
    return PlanIndex(reach_edit(index, end).apply(index.plan), TODAY)


def test_a_site_of_dstar_is_a_far_end_of_its_own_by_routing_and_by_link(index):
    access = next(item for item in index.plan.access if item.call == "Q0SIG")
    ends = far_ends_of_access(index, access)
    modules = [service.air.module for service in access.services if service.mode == "dstar"]
    assert [(end.destination.kind, end.destination.text) for end in ends] == [
        (kind, f"Q0SIG {module}") for module in modules for kind in ("repeater", "direct")
    ]
    bare = PlanIndex(
        replace(index.plan, destinations=(), routes=(), zones=(), scans=(), radios=(), nets=(), trips=()), TODAY
    )
    end = far_ends_of_access(bare, access)[0]
    after = added(bare, end)
    made = after.destinations[end.destination.key]
    from_elsewhere = next(
        (item, service)
        for item in after.plan.access
        for service in item.services
        if service.mode == "dstar" and item != access
    )
    assert crossing(after, *from_elsewhere, made).possible


def test_what_has_no_gateway_or_module_is_none(index):
    for access in index.plan.access:
        if all(service.mode != "dstar" for service in access.services):
            assert far_ends_of_access(index, access) == ()


def test_a_person_is_reached_by_id_and_by_call_sign(index):
    dmr, dstar = far_ends_of_person(index, AMBER)
    assert (dmr.destination.kind, dmr.destination.number, dmr.destination.call) == ("private", 9_995_151, "private")
    assert (dstar.destination.kind, dstar.destination.text) == ("station", "Q3AMB")
    assert index.networks[dmr.destination.network].mode == "dmr"
    assert index.networks[dstar.destination.network].mode == "dstar"
    assert "9995151" not in dmr.words, "an ID stays masked"


def test_who_is_there_already_is_not_added_twice(index):
    after = added(index, far_ends_of_person(index, AMBER)[1])
    again = far_ends_of_person(after, AMBER)[1]
    assert again.destination.key in after.destinations
    assert reach_edit(after, again) is None


def test_without_a_network_it_says_what_to_do(index):
    plan = index.plan
    bare = PlanIndex(
        replace(
            plan,
            networks=(),
            destinations=(),
            routes=(),
            access=(),
            hotspots=(),
            zones=(),
            scans=(),
            radios=(),
            nets=(),
            trips=(),
        ),
        TODAY,
    )
    for end in far_ends_of_person(bare, AMBER):
        assert end.destination is None
        assert "Add one at Station, Networks" in end.fault
        assert reach_edit(bare, end) is None


def test_a_far_end_is_said_with_how_it_is_reached(index):
    access = next(item for item in index.plan.access if item.call == "Q0SIG")
    routed, linked, *_more = far_ends_of_access(index, access)
    target = routed.destination.text
    assert (routed.words, routed.destination.name) == (f"{target}, routed to by call sign", target)
    assert (linked.words, linked.destination.name) == (f"{target}, linked to directly", f"{target} linked")


def test_a_person_is_reached_by_what_is_known_of_them(index):
    def ways(person):
        return [end.destination.kind for end in far_ends_of_person(index, person)]

    assert ways(AMBER) == ["private", "station"]
    assert ways(AMBER._replace(call="")) == ["private"]
    assert ways(AMBER._replace(id=0)) == ["station"]
    assert ways(AMBER._replace(id=0, call="")) == []
