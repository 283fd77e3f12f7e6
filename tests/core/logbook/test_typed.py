"""A line typed into the log means one route or none, and never another."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.days import TODAY
from umbra_awl.core.logbook.typed import call_refusal, grade_for, matching, meant, named
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.demo.fresh import demo_plan

INDEX = PlanIndex(demo_plan(TODAY), TODAY)


@pytest.mark.parametrize(
    ("typed", "route"),
    [
        ("home spot echo dmr", "home-dmr>echo@2"),
        ("Q0BLK isles-wide", "blackfell-dmr>isles-wide@2"),
        ("blackfell fm local", "blackfell-fm>local@0"),
        ("echo HOME dmr", "home-dmr>echo@2"),
    ],
)
def test_one_line_is_understood_by_site_call_and_destination(typed, route):
    assert meant(INDEX, typed).route == route


def test_what_means_several_or_none_means_nothing_and_says_so():
    several = meant(INDEX, "echo")
    assert several.route == ""
    assert "routes are called so: " in several.words
    none = meant(INDEX, "moonbase echo")
    assert none.route == ""
    assert "no route of the plan is called so" in none.words
    assert meant(INDEX, "  ").route == ""


@given(st.sampled_from(INDEX.plan.routes))
def test_each_route_is_meant_by_its_own_name(route):
    assert meant(INDEX, named(INDEX, route).upper()).route == route.key


@given(st.text(max_size=20))
def test_whatever_is_typed_it_means_a_route_that_holds_every_word_or_none(typed):
    found = meant(INDEX, typed)
    if found.route:
        assert [item.key for item in matching(INDEX, typed)] == [found.route]
    else:
        assert found.words


@pytest.mark.parametrize(
    ("route", "grade"),
    [
        ("home-dmr>echo@2", "echo"),
        ("blackfell-fm>local@0", "answered"),
        ("home-dmr>disconnect@1", "own-key"),
        ("little-oss-fm>local@0", "heard-it"),
    ],
)
def test_the_grade_follows_the_kind_of_route(route, grade):
    assert grade_for(INDEX, INDEX.routes[route]) == grade


@pytest.mark.parametrize(
    ("call", "refused"), [("", False), ("Q3AMB", False), ("Q3AMB/P", False), ("AMBER", True), ("Q3", True)]
)
def test_what_is_no_call_sign_is_refused(call, refused):
    assert bool(call_refusal(call)) == refused
