"""Where to begin listening: the band from its edge up, groups in the order of their worth, hours by one's own ears."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.agenda.listening import (
    HOURS,
    OWN_HOTSPOT,
    busiest_words,
    busy_hours,
    group_lines,
    scan_lines,
)
from umbra_awl.core.estimate.reach import Reach
from umbra_awl.core.estimate.survey import SurveySpot
from umbra_awl.core.facts.repeaters import CALLING
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.paper.scan_sheet import scan_pdf
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import BandHeard, Traffic


def spot(access, verdict="likely"):
    reach = Reach(verdict, 100.0, 90.0, 20.0, -80.0, -80.0, 30.0, verdict)
    return SurveySpot(access.key, access, None, True, 5.0, 0.0, reach, (), "")


def hearing(plan, *heard):
    return PlanIndex(replace(plan, station=replace(plan.station, heard=heard)), TODAY)


def test_the_scan_goes_up_through_the_band_with_what_is_known_there(plan):
    index = hearing(plan, BandHeard(145_612_500, "2026-11-20T19:05:00Z", "two in Velmarish"))
    spots = [spot(access) for access in plan.access if access.kind == "repeater"]
    lines = scan_lines(index, spots)
    assert [item.hz for item in lines] == sorted({item.hz for item in lines})
    by_hz = {item.hz: item for item in lines}
    for calling in CALLING[1]:
        assert calling.words in by_hz[calling.hz].what
    for access in plan.access:
        for service in access.services if access.kind == "repeater" else ():
            assert access.call in by_hz[service.rx_hz].what
            assert by_hz[service.rx_hz].reach == "likely"
    assert by_hz[145_612_500].what == "nothing known stands here"
    assert by_hz[145_612_500].heard_words == "two in Velmarish on 2026-11-20"


def test_what_is_out_of_reach_or_a_hotspot_is_no_line(plan):
    repeater = next(item for item in plan.access if item.kind == "repeater")
    hotspot = next(item for item in plan.access if item.kind == "hotspot")
    index = hearing(plan)
    none = {item.hz for item in scan_lines(index, [spot(repeater, "unlikely"), spot(hotspot)])}
    assert none == {item.hz for item in CALLING[1]}
    both = scan_lines(index, [spot(repeater, "marginal"), spot(repeater, "likely")])
    assert {item.reach for item in both if item.hz == repeater.services[0].rx_hz} == {"likely"}


def test_heard_twice_says_the_last_and_how_often(plan):
    hz = 145_500_000
    index = hearing(plan, BandHeard(hz, "2026-11-20T19:05:00Z", "Q3AMB"), BandHeard(hz, "2026-11-21T19:05:00Z"))
    line = next(item for item in scan_lines(index, ()) if item.hz == hz)
    assert line.heard_words == "something on 2026-11-21, 2 times"


def test_groups_come_local_and_quiet_first_and_ones_own_hotspot_last(index):
    lines = group_lines(index)
    own = [item.why == OWN_HOTSPOT for item in lines]
    assert own == sorted(own)
    assert any(own)
    kinds = [item.kind for item in lines if item.why != OWN_HOTSPOT]
    order = ["local", "quiet", "regional", "net", "wide"]
    assert kinds == sorted(kinds, key=order.index)
    assert kinds[0] == "local"
    assert not {index.parts(index.routes[item.route])[2].kind for item in lines} & {"echo", "disconnect", "dial"}


def test_what_the_owner_said_of_a_group_decides_its_place(plan, index):
    lines = group_lines(index)
    own = sum(item.why == OWN_HOTSPOT for item in lines)
    one = next(item for item in lines if item.kind == "regional")
    key = index.parts(index.routes[one.route])[2].key
    said = replace(plan, evening=replace(plan.evening, traffic=(Traffic(key, "wide"),)))
    after = group_lines(PlanIndex(said, TODAY))
    moved = {item.route for item in after if item.kind == "wide"}
    assert one.route in moved
    assert {item.route for item in after[len(after) - own - len(moved) : len(after) - own]} == moved, (
        "behind all but the hotspot"
    )


def test_hours_are_counted_on_the_listeners_own_clock(plan):
    index = hearing(plan, BandHeard(145_500_000, "2026-11-20T19:05:00Z"), BandHeard(145_500_000, "not a moment"))
    entries = [
        Entry("1", "2026-11-20T19:40:00Z", call="Q3AMB"),
        Entry("2", "2026-11-20T08:40:00Z", call="Q3AMB", grade="failed"),
        Entry("3", "2026-11-20T08:40:00Z", grade="echo"),
    ]
    utc = busy_hours(index, entries, "Etc/UTC")
    assert len(utc) == HOURS
    assert {item.hour: item.own for item in utc if item.own} == {19: 2}
    west = busy_hours(index, entries, "Etc/GMT+3")
    assert {item.hour: item.own for item in west if item.own} == {16: 2}
    assert "from 16 to 17 h: 2 times" in busiest_words(west)
    assert "Nothing is written down yet" in busiest_words(busy_hours(hearing(plan), (), "Etc/UTC"))


@pytest.mark.parametrize("many", [0, 30, 120])
def test_the_sheet_takes_as_many_pages_as_it_needs(plan, many):
    heard = [BandHeard(145_000_000 + 12_500 * at, "2026-11-20T19:05:00Z", "somebody") for at in range(many)]
    index = hearing(plan, *heard)
    made = scan_pdf("Home", scan_lines(index, ()), group_lines(index), "", "2026-11-25")
    assert made.startswith(b"%PDF")
    assert made.count(b"/Type /Page\n") >= 1 + many // 40
