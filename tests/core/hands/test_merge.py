"""Two plans made one: the laws of merging, what is asked, what is put back, and that the result can be opened."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from tests.examples import examples
from tests.slips import slipped, slips, sound_plan
from umbra_awl.core.hands.refer import references
from umbra_awl.core.hands.rows import in_order
from umbra_awl.core.hands.threeway import ORDER
from umbra_awl.core.hands.threeway import joined as merge
from umbra_awl.core.hands.words import Wordings
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.edit.edit_access import remove_destination, set_air
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.model import Destination, Mapped, Plan, Route, Static
from umbra_awl.core.plan.parts import PARTS
from umbra_awl.core.plan.radios import PinnedName
from umbra_awl.demo.fresh import demo_plan

BASE = demo_plan(TODAY)
FILLED = tuple(name for name in PARTS if getattr(BASE, name))


@st.composite
def changed(draw, plan=BASE, parts=FILLED):
    """The plan with some things of some parts gone, turned round, renamed, or moved."""
    for name in draw(st.lists(st.sampled_from(parts), min_size=1, max_size=3, unique=True)):
        rows = list(getattr(plan, name))
        for _change in range(draw(st.integers(1, 3))):
            what = draw(st.sampled_from(["move", "field", "field"]))
            at = draw(st.integers(0, len(rows) - 1))
            if what == "move":
                rows.insert(draw(st.integers(0, len(rows) - 1)), rows.pop(at))
            elif "name" in rows[at].__struct_fields__:
                rows[at] = replace(rows[at], name=draw(st.sampled_from(["One", "Two", "Three"])))
        plan = replace(plan, **{name: tuple(rows)})
    return plan


@given(changed())
@settings(max_examples=25)
def test_what_one_side_alone_changed_is_taken_and_what_both_did_alike_is_not_asked(other):
    for mine, theirs in ((BASE, other), (other, BASE), (other, other)):
        found = merge(BASE, mine, theirs)
        assert found.plan == other
        assert found.questions == ()
        assert found.faults == ()
    assert merge(None, other, other).plan == other


@given(
    changed(parts=("networks", "routes", "zones", "radios")),
    changed(parts=("access", "destinations", "trips", "steps")),
)
@settings(max_examples=25)
def test_changes_of_different_things_are_joined_whoever_is_mine(one, two):
    found, turned = merge(BASE, one, two), merge(BASE, two, one)
    assert found.questions == ()
    assert found.plan == turned.plan
    for name in ("networks", "routes", "zones", "radios"):
        assert getattr(found.plan, name) == getattr(one, name)
    for name in ("access", "destinations", "trips", "steps"):
        assert getattr(found.plan, name) == getattr(two, name)


@given(changed(), changed())
@examples(40)
def test_whatever_both_did_is_there_or_asked_and_the_result_opens(mine, theirs):
    found = merge(BASE, mine, theirs)
    assert found.faults == ()
    assert parse_plan(plan_bytes(found.plan)) == found.plan
    paths = {item.path for item in found.questions}
    for name, part in PARTS.items():
        if any(path[0] == name for path in paths):
            continue
        for item in part.of(found.plan):
            key = item.key
            sides = (
                {one.key: one for one in getattr(mine, name)}[key],
                {one.key: one for one in getattr(theirs, name)}[key],
            )
            assert item in sides or getattr(item, "name", "") in {one.name for one in sides}
    theirs_all = merge(BASE, mine, theirs, dict.fromkeys(paths, "theirs"))
    assert theirs_all.open_questions == ()
    mine_all = merge(BASE, mine, theirs, dict.fromkeys(paths, "mine"))
    assert mine_all.plan == found.plan


@given(slips, slips)
@settings(max_examples=25)
def test_slips_of_two_hands_meet_in_one_plan(one, two):
    base, mine, theirs = sound_plan(), slipped(one), slipped(two)
    found = merge(base, mine, theirs)
    assert structure_faults(found.plan) == list(found.faults) == []
    assert {item.path for item in found.questions} == {item.path for item in merge(base, theirs, mine).questions}


def test_a_field_that_both_changed_is_asked_alone_and_answered():
    mine = set_air("blackfell-dmr", "x", color_code=7).apply(BASE)
    theirs = set_air("blackfell-dmr", "x", color_code=8, slots=(2,)).apply(rename_plan("Theirs").apply(BASE))
    found = merge(BASE, mine, theirs)
    (asked,) = found.questions
    assert asked.path == ("access", "blackfell", "services", "blackfell-dmr", "air", "color_code")
    assert (asked.mine, asked.theirs, asked.base) == (7, 8, 6)
    air = next(s.air for a in found.plan.access for s in a.services if s.key == "blackfell-dmr")
    assert (air.color_code, air.slots) == (7, (2,))
    assert found.plan.name == "Theirs"
    answered = merge(BASE, mine, theirs, {asked.path: "theirs"})
    assert answered.open_questions == ()
    assert next(s.air for a in answered.plan.access for s in a.services if s.key == "blackfell-dmr").color_code == 8


def test_what_one_removed_and_the_other_changed_is_asked():
    mine = remove_destination("exercise", "Exercise").apply(BASE)
    theirs = replace(
        BASE, destinations=tuple(replace(d, number=99906) if d.key == "exercise" else d for d in BASE.destinations)
    )
    found = merge(BASE, mine, theirs)
    assert [item.path for item in found.questions] == [("destinations", "exercise")]
    assert "exercise" not in {item.key for item in found.plan.destinations}
    kept = merge(BASE, mine, theirs, {("destinations", "exercise"): "theirs"})
    assert 99906 in {item.number for item in kept.plan.destinations}


@pytest.mark.parametrize("turned", [False, True])
def test_what_one_removed_and_the_other_needs_is_put_back_and_told(turned):
    removed = remove_destination("exercise", "Exercise").apply(BASE)
    needed = replace(BASE, routes=(*BASE.routes, Route("blackfell-dmr", "exercise", 1)))
    found = merge(BASE, *((needed, removed) if turned else (removed, needed)))
    assert found.faults == ()
    assert "exercise" in {item.key for item in found.plan.destinations}
    assert "blackfell-dmr>exercise@1" in {item.key for item in found.plan.routes}
    assert [item.path for item in found.taken if item.what == "put back"] == [("destinations", "exercise")]


def test_without_an_ancestor_everything_of_both_stays_and_differences_are_asked():
    theirs = replace(
        BASE,
        destinations=(*BASE.destinations[1:], Destination("new", "New", number=12345)),
        routes=tuple(item for item in BASE.routes if item.destination != BASE.destinations[0].key),
        zones=(), scans=(), radios=(),
    )  # fmt: skip
    found = merge(None, BASE, theirs)
    keys = [item.key for item in found.plan.destinations]
    assert set(keys) == {item.key for item in BASE.destinations} | {"new"}
    assert found.plan.zones == BASE.zones
    assert found.faults == ()
    other = merge(None, BASE, replace(BASE, name="Other"))
    assert [item.path for item in other.questions] == [("name",)]


def test_two_orders_are_asked_for_and_one_is_taken():
    first, second, third, *rest = BASE.destinations
    mine = replace(BASE, destinations=(second, first, third, *rest))
    theirs = replace(BASE, destinations=(third, first, second, *rest))
    (asked,) = merge(BASE, mine, theirs).questions
    assert asked.path == ("destinations", ORDER)
    assert merge(BASE, mine, theirs).plan.destinations == mine.destinations
    assert merge(BASE, mine, theirs, {asked.path: "theirs"}).plan.destinations == theirs.destinations


def test_members_that_both_changed_are_joined():
    one, two, three, left, right = (item.key for item in BASE.routes[:5])
    zone = BASE.zones[0]

    def with_members(*members):
        return replace(BASE, zones=(replace(zone, members=members), *BASE.zones[1:]))

    base, mine, theirs = (
        with_members(one, two, three),
        with_members(one, two, three, left),
        with_members(right, two, three),
    )
    found = merge(base, mine, theirs)
    assert found.questions == ()
    assert found.plan.zones[0].members == (right, two, three, left)
    turned = merge(base, with_members(two, one, three), with_members(three, one, two))
    assert [item.path[-1] for item in turned.questions] == ["members"]


def test_everything_that_a_plan_points_to_is_known():
    there = set(references(BASE.routes)) | set(references(BASE.radios)) | set(references(BASE.trips))
    assert {"service", "destination", "zone", "access"} <= {kind for kind, _key in there}
    assert set(references(Plan().routes)) == set()


def _without(plan, name, key):
    return replace(plan, **{name: tuple(item for item in getattr(plan, name) if item.key != key)})


@pytest.mark.parametrize(("name", "key"), [(name, item.key) for name in FILLED for item in getattr(BASE, name)])
def test_whatever_is_gone_and_still_pointed_to_is_put_back(name, key):
    mine = _without(BASE, name, key)
    found = merge(BASE, mine, rename_plan("Theirs").apply(BASE))
    assert found.faults == ()
    back = [item.path for item in found.taken if item.what == "put back"]
    assert back == ([(name, str(key))] if structure_faults(mine) else back)
    assert (key in {item.key for item in getattr(found.plan, name)}) == bool(back)
    if back:
        assert getattr(found.plan, name) == getattr(BASE, name), "where it stood"


@pytest.mark.parametrize("side", ["mine", "theirs"])
def test_what_one_side_did_is_told_thing_by_thing(side):
    first, second, *rest = (item for item in BASE.destinations if item.key != "exercise")
    done = replace(
        remove_destination("exercise", "Exercise").apply(BASE),
        destinations=(replace(second, name="Second"), first, *rest, Destination("new", "New", number=12345)),
    )
    found = merge(BASE, *((done, BASE) if side == "mine" else (BASE, done)))
    told = {(item.path, item.what) for item in found.taken if item.path[0] == "destinations"}
    assert {item.side for item in found.taken} == {side}
    assert told == {
        (("destinations", second.key), "changed"), (("destinations", "exercise"), "removed"), (("destinations", "new"), "added"),
    }  # fmt: skip
    turned = replace(BASE, destinations=(second, first, *BASE.destinations[2:]))
    (order,) = merge(BASE, *((turned, BASE) if side == "mine" else (BASE, turned))).taken
    assert (order.path, order.side, order.what) == (("destinations", ORDER), side, "order")


def test_without_an_ancestor_rows_of_members_are_asked_whole():
    one, two, three = (item.key for item in BASE.routes[:3])
    zone = BASE.zones[0]
    mine, theirs = (
        replace(BASE, zones=(replace(zone, members=members), *BASE.zones[1:])) for members in ((one, two), (two, three))
    )
    (asked,) = merge(None, mine, theirs).questions
    assert (asked.path[-1], asked.mine, asked.theirs) == ("members", (one, two), (two, three))


@pytest.mark.parametrize(
    ("mine", "theirs", "order", "both"),
    [
        ("abc", "cab", "cab", False), ("cab", "abc", "cab", False), ("bac", "bac", "bac", False), ("bac", "cab", "bac", True),
        ("abxc", "cab", "cabx", False), ("cba", "abxc", "cbxa", False), ("xabc", "yabc", "xyabc", False),
        ("abyzc", "abxc", "abxyzc", False), ("abcz", "abcx", "abcxz", False), ("ac", "acb", "acb", False),
        ("ca", "abc", "cab", False),
        ("axc", "ac", "axc", False),
    ],
)  # fmt: skip
def test_an_order_is_that_of_whoever_changed_it_and_additions_stand_beside_their_neighbour(mine, theirs, order, both):
    assert in_order(tuple("abc"), tuple(mine), tuple(theirs)) == (tuple(order), both)


@pytest.mark.parametrize("turned", [False, True])
def test_a_person_that_one_removed_and_the_others_radio_is_for_is_put_back_and_told(turned):
    gone = BASE.station.identities[1].key
    rest = tuple(item for item in BASE.station.identities if item.key != gone)
    removed = replace(
        BASE,
        station=replace(BASE.station, identities=rest),
        steps=tuple(item for item in BASE.steps if item.who != gone),
    )
    needs = replace(BASE, radios=(*BASE.radios, replace(BASE.radios[0], key="new", identity=gone, name="New")))
    found = merge(BASE, *((needs, removed) if turned else (removed, needs)))
    assert gone in {item.key for item in found.plan.station.identities}
    assert [item.path for item in found.taken if item.what == "put back"] == [("station", "identities", gone)]
    told = Wordings(removed, needs, BASE)
    assert "put back" in told.taken(next(item for item in found.taken if item.what == "put back"))
    assert merge(BASE, removed, BASE).plan == removed


def _with_air(plan, key, **fields):
    def there(service):
        return replace(service, air=replace(service.air, **fields)) if service.key == key else service

    access = (replace(item, services=tuple(map(there, item.services))) for item in plan.access)
    return replace(plan, access=tuple(access))


def test_what_stands_deep_inside_of_a_thing_is_needed_too():
    alone = replace(BASE, destinations=(*BASE.destinations, Destination("lone", "Lone", number=99_955)))
    for theirs in (
        _with_air(alone, "blackfell-dmr", static=(Static(2, "lone"),)),
        _with_air(alone, "torrick-fusion", mapped=(Mapped(42, "lone"),)),
    ):
        found = merge(alone, BASE, theirs)
        assert [item.path for item in found.taken if item.what == "put back"] == [("destinations", "lone")]
        assert found.faults == ()
    route = BASE.routes[0].key
    pinned = replace(BASE.radios[0], names=(PinnedName(route, "MINE"),))
    theirs = replace(BASE, radios=(pinned, *BASE.radios[1:]))
    mine = remove_routes(BASE, route)
    found = merge(BASE, mine, theirs)
    assert (("routes", route), "put back") in {(item.path, item.what) for item in found.taken}


def remove_routes(plan, key):
    """The plan without a route, nor what names it in lists."""
    zones = tuple(replace(zone, members=tuple(one for one in zone.members if one != key)) for zone in plan.zones)
    return replace(plan, routes=tuple(item for item in plan.routes if item.key != key), zones=zones)
