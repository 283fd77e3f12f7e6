"""What to say on a route, in the plan's own words."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.trace.speaking import spelled, spoken_lines


def lines_of(index, service, destination, heard=""):
    route = next(item for item in index.plan.routes if (item.service, item.destination) == (service, destination))
    return dict(spoken_lines(index, route, heard))


def test_call_signs_are_spelled_letter_by_letter():
    assert spelled("q4wrn/p") == "Quebec Four Whiskey Romeo November stroke Papa"
    assert spelled("?!") == ""


def test_a_group_is_called_by_its_name_through_its_site(index):
    said = lines_of(index, "blackfell-dmr", "isles-wide")
    assert said["Call"].startswith("CQ on Isles-wide, this is Q4WRN, Quebec Four Whiskey Romeo November")
    assert "through Blackfell" in said["Call"]
    assert "Answer" not in said


def test_a_call_that_was_heard_is_answered_spelled_and_asked_for_a_report(index):
    said = lines_of(index, "blackfell-dmr", "isles-wide", "q7qby")
    assert said["Answer"].startswith("Q7QBY, this is Q4WRN")
    assert said["Spelled"] == "Q7QBY: Quebec Seven Quebec Bravo Yankee."
    assert "bit error rate" in said["Report?"]
    assert "Answer" not in lines_of(index, "blackfell-dmr", "isles-wide", "HELLO")
    assert "five nine" in lines_of(index, "blackfell-fm", "local", "Q7QBY")["Answer"]


def test_the_echo_is_no_call(index):
    said = lines_of(index, "home-dmr", "echo")
    assert "testing through Home spot" in said["Test"]
    assert "Call" not in said


def test_a_memory_that_links_is_not_called_on(index):
    link = next(item for item in index.plan.routes if (item.destination, item.slot) == ("vlr001-c", 1))
    (line,) = spoken_lines(index, link)
    assert line.when == "Link"
    assert "memory that talks" in line.words


@pytest.mark.parametrize("heard", ["", "Q7QBY", "12", "ü" * 40])
def test_every_route_of_the_plan_has_something_to_say(index, heard):
    for route in index.plan.routes:
        assert all(item.words.strip() for item in spoken_lines(index, route, heard))


def test_the_place_is_not_told_where_it_is_kept_private(index):
    plan = index.plan
    hidden = PlanIndex(replace(plan, station=replace(plan.station, privacy="none")), TODAY)
    assert plan.station.place in lines_of(index, "blackfell-dmr", "isles-wide")["Call"]
    assert plan.station.place not in lines_of(hidden, "blackfell-dmr", "isles-wide")["Call"]
