"""Edits of many holes: rows, columns, patterns, templates, selections; each one step, nothing done in silence."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from tests.strategies import plans
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.edit.history import History
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.routes.bulk import (
    SCHOOLS,
    apply_school,
    copy_pattern,
    fill_column,
    fill_row,
    put_into,
    schools_for,
    set_many,
)
from umbra_awl.core.routes.crossing import crossing


def fresh_of(before, after):
    known = {route.key for route in before.routes}
    return [route for route in after.routes if route.key not in known]


def impossible(plan, routes):
    index = PlanIndex(plan, TODAY)
    for route in routes:
        verdict = crossing(index, *index.services[route.service], index.destinations[route.destination])
        if not verdict.possible or route.slot not in verdict.slots:
            yield route.key


@given(plans(), st.data())
def test_copying_a_pattern_never_makes_an_impossible_crossing(plan, data):
    index = PlanIndex(plan, TODAY)
    keys = list(index.services)
    source, target = data.draw(st.sampled_from(keys)), data.draw(st.sampled_from(keys))
    try:
        made = copy_pattern(index, source, target)
    except EditRefused as error:
        assert str(error).endswith(".")
        return
    history = History(plan).after(made.edit)
    fresh = fresh_of(plan, history.plan)
    assert fresh
    assert not list(impossible(history.plan, fresh))
    assert not structure_faults(history.plan)
    pattern = [route for route in plan.routes if route.service == source]
    assert len(fresh) + len(made.left) == len(pattern)
    assert all(item.reason for item in made.left)
    assert history.undone().plan == plan


@given(plans(), st.data())
def test_rows_columns_and_templates_punch_only_what_is_possible(plan, data):
    index = PlanIndex(plan, TODAY)
    service = data.draw(st.sampled_from(list(index.services)))
    for make in (
        lambda: fill_row(index, data.draw(st.sampled_from(list(index.destinations)))),
        lambda: fill_column(index, service, index.destinations),
        *(lambda school=school: apply_school(index, service, school) for school in schools_for(index, service)),
    ):
        try:
            after = make().edit.apply(plan)
        except EditRefused:
            continue
        assert not list(impossible(after, fresh_of(plan, after)))
        assert not structure_faults(after)


@given(plans(tidy=True), st.data())
def test_changing_a_selection_keeps_every_crossing_possible(plan, data):
    if not plan.routes:
        return
    keys = data.draw(st.lists(st.sampled_from([route.key for route in plan.routes]), unique=True, min_size=1))
    fields = data.draw(
        st.sampled_from([{"slot": 1}, {"slot": 2}, {"power": "low"}, {"receive_only": True}, {"admit": "free"}])
    )
    try:
        made = set_many(PlanIndex(plan, TODAY), keys, "Change", **fields)
    except EditRefused:
        return
    after = made.edit.apply(plan)
    assert len(after.routes) == len(plan.routes)
    assert not list(impossible(after, after.routes))
    changed = sum(one != other for one, other in zip(plan.routes, after.routes, strict=True))
    assert changed + len(made.left) <= len(keys)


def test_what_a_copied_pattern_leaves_behind(plan, index):
    made = copy_pattern(index, "cairnlow-dmr", "travel-dmr")
    after = made.edit.apply(plan)
    assert made.edit.sentence == "Copy the pattern of Q0NES to Q4WRN: 2 routes, 2 left out"
    assert [route.key for route in fresh_of(plan, after)] == [
        "travel-dmr>nessa-torrick@2",
        "travel-dmr>exercise@2",
    ]
    assert fresh_of(plan, after)[1].color_code is None
    assert [item.reason for item in made.left] == ["It is punched there already."] * 2


def test_a_pattern_across_modes_says_why_not(index):
    made = copy_pattern(index, "signal-b", "home-fusion")
    assert [route.destination for route in fresh_of(index.plan, made.edit.apply(index.plan))] == ["local"]
    assert "Velmar" not in made.summary
    assert "link VLR001 A: VLR001 A (reflector module) is not reached by System Fusion." in made.summary
    assert "more" in made.summary
    with pytest.raises(EditRefused, match="no routes to copy"):
        copy_pattern(PlanIndex(replace(index.plan, routes=()), TODAY), "signal-b", "signal-c")
    with pytest.raises(EditRefused, match="another service"):
        copy_pattern(index, "signal-b", "signal-b")


def test_dstar_pairs_come_along_as_pairs(plan, index):
    after = copy_pattern(index, "signal-b", "signal-c").edit.apply(plan)
    made = {(route.destination, route.slot) for route in after.routes if route.service == "signal-c"}
    assert {("vlr001-a", 1), ("vlr001-a", 2), ("vlr001-c", 1), ("vlr001-c", 2)} <= made
    assert all(route.ur is None for route in after.routes if route.service == "signal-c")


def test_templates_by_mode(index):
    assert [schools_for(index, key) for key in ("home-dmr", "home-dstar", "home-fusion", "blackfell-fm")] == [
        ("each", "dial"),
        ("links",),
        ("rooms",),
        (),
    ]
    assert all(school.hint for school in SCHOOLS.values())
    linked = apply_school(index, "travel-dstar", "links").edit.apply(index.plan)
    made = {(route.destination, route.slot) for route in linked.routes if route.service == "travel-dstar"}
    assert {("vlr001-e", 1), ("vlr001-e", 2), ("ds-info", 0), ("local", 0)} <= made


def test_a_row_and_a_column(plan, index):
    row = fill_row(index, "vlr001-e")
    assert "8 routes" in row.edit.sentence
    column = fill_column(index, "home-fusion", index.destinations)
    assert [route.destination for route in fresh_of(plan, column.edit.apply(plan))] == ["local", "torrick-watch"]
    with pytest.raises(EditRefused, match="nothing to punch"):
        fill_column(index, "blackfell-fm", ["isles-wide"])


def test_a_selection_tells_what_it_left_out(plan, index):
    keys = ["blackfell-dmr>isles-wide@2", "travel-dmr>isles-wide@2", "blackfell-fm>local@0"]
    made = set_many(index, keys, "Move to slot 1", slot=1)
    assert made.edit.sentence == "Move to slot 1 on 1 route, 2 left out"
    assert [item.reason for item in made.left] == ["Q4WRN does not use slot 1.", "Only DMR has time slots."]
    with pytest.raises(EditRefused, match="so already"):
        set_many(index, keys, "Power", power="auto")
    assert plan.routes != made.edit.apply(plan).routes


def test_two_routes_never_meet_on_one_slot(plan, index):
    more = fill_row(index, "exercise").edit.apply(plan)
    both = [route.key for route in more.routes if route.destination == "exercise" and route.service == "home-dmr"]
    once = set_many(PlanIndex(more, TODAY), both, "Slot 2", slot=2).edit.apply(more)
    assert not structure_faults(once)


def test_many_into_a_zone(plan, index):
    zone = next(item for item in plan.zones if item.key == "fm")
    after = put_into(index, zone, ["blackfell-fm>local@0", "signal-b>local@0"]).apply(plan)
    assert next(item for item in after.zones if item.key == "fm").members == ("signal-b>local@0",)
    with pytest.raises(EditRefused, match="all in FM already"):
        put_into(index, zone, ["blackfell-fm>local@0"])
