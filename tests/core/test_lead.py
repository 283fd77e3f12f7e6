"""Lead times: dates with weekends, the critical path, the spread; templates, edits, calendars, trips."""

import random
from datetime import UTC, date, datetime
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from icalendar import Calendar
from msgspec.structs import replace

from tests.days import TODAY
from tests.examples import examples
from umbra_awl.core.agenda.calendar import chart_ics, trip_ics
from umbra_awl.core.agenda.lead import chart, day_words, ends, forecast, in_order
from umbra_awl.core.agenda.steps import add_step, remove_step, set_step, steps_for, templates, use_template
from umbra_awl.core.agenda.trips import (
    add_trip,
    dates_fault,
    local_time,
    nautical_zone,
    remove_trip,
    set_trip,
    take_along,
    zone_fault,
)
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan, Step
from umbra_awl.core.routes.lists import members_of_all, zones_by_rule

WEDNESDAY = date(2026, 11, 25)


@st.composite
def step_graphs(draw):
    """Up to seven steps; each may wait for earlier ones."""
    count = draw(st.integers(1, 7))
    made = []
    for at in range(count):
        low, more, most = (draw(st.integers(0, 9)) for _ in range(3))
        after = draw(st.sets(st.integers(0, at - 1))) if at else set()
        made.append(
            Step(f"s{at}", f"Step {at}", low, low + more, low + more + most, tuple(f"s{one}" for one in sorted(after)))
        )
    return made


def paths_of(steps):
    """Every way through the graph, by brute force."""
    followers = {step.key: [other.key for other in steps if step.key in other.after] for step in steps}

    def walk(key):
        if not followers[key]:
            yield [key]
        for after in followers[key]:
            for rest in walk(after):
                yield [key, *rest]

    for step in steps:
        if not step.after:
            yield from walk(step.key)


@examples(30)
@given(step_graphs())
def test_the_critical_path_is_the_longest_by_brute_force(steps):
    days = {step.key: step.likely for step in steps}
    lengths = [(sum(days[key] for key in path), path) for path in paths_of(steps)]
    longest = max(length for length, _path in lengths)
    found = chart(steps, WEDNESDAY)
    assert max(bar.end for bar in found.bars) == pytest.approx(longest)
    critical = {bar.step.key for bar in found.bars if bar.critical}
    on_longest = {key for length, path in lengths if length == pytest.approx(longest) for key in path}
    assert critical == on_longest


@examples(30)
@given(step_graphs())
def test_a_step_may_be_later_by_its_slack_and_no_more(steps):
    found = chart(steps, WEDNESDAY)
    last = max(bar.end for bar in found.bars)
    for bar in found.bars:
        for extra, moved in ((bar.slack, False), (bar.slack + 1, True)):
            longer = [
                replace(step, likely=step.likely + extra, high=step.high + extra) if step.key == bar.step.key else step
                for step in steps
            ]
            times = ends(in_order(longer), WEDNESDAY, lambda step: step.likely)
            end = max(end for _begin, end in times.values())
            assert (end > last + 1e-6) is moved


@examples(30)
@given(step_graphs())
def test_earliest_likely_and_drawn_days_are_in_order(steps):
    found = forecast(in_order(steps), WEDNESDAY)
    assert found.earliest <= found.p10 <= found.p50 <= found.p90 <= found.latest
    assert found.earliest <= found.likely <= found.latest
    assert all(one <= other for one, other in pairwise(found.draws))
    assert forecast(in_order(steps), WEDNESDAY) == found


@examples(30)
@given(step_graphs(), st.randoms())
def test_the_order_of_the_plan_does_not_matter(steps, chance):
    shuffled = list(steps)
    chance.shuffle(shuffled)
    assert {bar.step.key: (bar.start, bar.end) for bar in chart(shuffled, WEDNESDAY).bars} == {
        bar.step.key: (bar.start, bar.end) for bar in chart(steps, WEDNESDAY).bars
    }


@pytest.mark.parametrize(
    ("start_day", "work_days", "end"),
    [
        (25, 1, 1.0),
        (25, 3, 3.0),
        (25, 4, 6.0),
        (25, 5, 7.0),
        (28, 1, 3.0),
        (29, 2, 3.0),
        (27, 1, 1.0),
        (27, 2, 4.0),
        (25, 0, 0.0),
    ],
)
def test_office_steps_rest_at_weekends(start_day, work_days, end):
    """25 November 2026 is a Wednesday, the 28th a Saturday; ends are evenings, counted from the start's morning."""
    step = Step("office", "Office", work_days, work_days, work_days, office=True)
    times = ends([step], date(2026, 11, start_day), lambda item: item.likely)
    assert times["office"][1] == pytest.approx(end)


def test_what_is_done_and_begun_counts_from_its_day():
    steps = [
        Step("a", "A", 1, 5, 9, started="2026-11-20", done="2026-11-23"),
        Step("b", "B", 1, 4, 9, after=("a",), started="2026-11-24"),
        Step("c", "C", 1, 2, 9, after=("b",)),
    ]
    found = {bar.step.key: bar for bar in chart(steps, WEDNESDAY).bars}
    assert (found["a"].start, found["a"].end, found["a"].done) == (-5, -2, True)
    assert (found["b"].start, found["b"].end) == (-1, 3)
    assert (found["c"].start, found["c"].end) == (3, 5)
    assert found["b"].ready
    assert not found["c"].ready


def test_a_step_overdue_does_not_end_in_the_past():
    found = chart([Step("a", "A", 1, 2, 3, started="2026-11-01")], WEDNESDAY)
    assert found.bars[0].end == 0


def test_no_steps_no_chart():
    assert chart([], WEDNESDAY).bars == ()
    assert chart([], WEDNESDAY).forecast is None


def test_dates_are_said_with_their_weekday():
    assert day_words(date(2026, 12, 3)) == "Thu 3 Dec 2026"


@pytest.mark.parametrize("template", templates(), ids=lambda item: item.name)
def test_templates_are_sound_and_carry_what_people_trip_over(plan, template):
    made = use_template(template, "odile", TODAY).apply(plan)
    assert structure_faults(made) == []
    assert parse_plan(plan_bytes(made)) == made
    needs = " ".join(step.needs for step in steps_for(made, "odile"))
    assert "full-size" in needs.lower()
    assert not [step for step in steps_for(made, "odile") if step.done]


def test_a_granted_licence_is_done_from_the_start(plan):
    made = use_template(templates()[0], "wren", TODAY).apply(plan)
    licence = next(step for step in steps_for(made, "wren") if step.name == "Licence")
    assert licence.done == "2024-03-12"
    assert len({step.key for step in made.steps}) == len(made.steps)


def test_steps_can_be_added_changed_and_taken_out(plan):
    made = add_step(plan, "Buy a mast", "odile", ("licence",)).apply(plan)
    key = made.steps[-1].key
    waiting = set_step("call", "x", after=("echo", key)).apply(made)
    gone = remove_step(next(step for step in waiting.steps if step.key == key)).apply(waiting)
    assert next(step for step in gone.steps if step.key == "call").after == ("echo", "licence")
    assert structure_faults(gone) == []


def test_impossible_steps_are_refused(plan):
    with pytest.raises(EditRefused, match="shortest, likely, longest"):
        set_step("call", "x", low=5.0).apply(plan)
    with pytest.raises(EditRefused, match="in a ring"):
        set_step("licence", "x", after=("call",)).apply(plan)
    with pytest.raises(EditRefused, match="no longer"):
        set_step("gone", "x", name="y").apply(plan)


def test_a_ring_or_a_missing_step_in_a_file_is_told():
    ring = Plan(steps=(Step("a", "A", after=("b",)), Step("b", "B", after=("a",))))
    assert "in a ring" in structure_faults(ring)[0]
    assert "'gone'" in structure_faults(Plan(steps=(Step("a", "A", after=("gone",)),)))[0]


def test_steps_go_out_as_a_calendar(plan):
    read = Calendar.from_ical(chart_ics(chart(plan.steps, WEDNESDAY)))
    events = {str(event["summary"]): event for event in read.walk("VEVENT")}
    assert "On the air (likely)" in events
    assert "Radio and cable" not in events  # done
    assert events["DMR ID"]["dtstart"].dt < events["DMR ID"]["dtend"].dt
    assert "wallet card is refused" in str(events["DMR ID"]["description"])


# trips


def test_a_trip_brings_its_zone_and_reminders(plan):
    made = add_trip(plan, "Torrick", Position(46.43, -30.9), "2026-12-10", "2026-12-12", ["blackfell"]).apply(plan)
    trip = made.trips[-1]
    assert structure_faults(made) == []
    assert (trip.time_zone, len(trip.reminders) >= 4) == ("Etc/GMT+2", True)
    zone = next(item for item in made.zones if item.key == trip.zone)
    members = members_of_all(PlanIndex(made, TODAY), (zone,))[zone.key]
    assert members
    assert all(key.startswith("blackfell") for key in members)
    more = take_along(trip, ["calling", "blackfell"]).apply(made)
    assert more.trips[-1].access == ("blackfell", "calling")
    assert len(members_of_all(PlanIndex(more, TODAY), (zone,))[zone.key]) == len(members) + 1
    back = remove_trip(more.trips[-1]).apply(more)
    assert (back.trips, back.zones) == (plan.trips, plan.zones)


def test_zones_can_be_made_one_for_each_trip(plan):
    zones = zones_by_rule(PlanIndex(plan, TODAY), "trip")
    assert [zone.name for zone in zones] == ["Nessa"]
    assert zones[0].by == "trip"


@pytest.mark.parametrize(
    ("begins", "ends_", "words"),
    [
        ("2026-12-05", "2026-12-01", "before it begins"),
        ("soon", "", "2026-12-01"),
        ("", "2026-12-01", "first day"),
        ("2026-12-01", "2026-12-01", ""),
    ],
)
def test_dates_of_a_trip(begins, ends_, words):
    assert words in dates_fault(begins, ends_)
    assert bool(dates_fault(begins, ends_)) == bool(words)


def test_trips_that_cannot_be_are_refused(plan):
    with pytest.raises(EditRefused, match="needs a name"):
        add_trip(plan, " ", Position(0, 0))
    with pytest.raises(EditRefused, match="before it begins"):
        set_trip("nessa", "x", ends="2026-11-01").apply(plan)


@pytest.mark.parametrize(
    ("lon", "zone"), [(-31, "Etc/GMT+2"), (0, "Etc/GMT"), (7, "Etc/GMT"), (8, "Etc/GMT-1"), (179, "Etc/GMT-12")]
)
def test_nautical_zones_exist(lon, zone):
    assert nautical_zone(lon) == zone
    assert zone_fault(zone) == ""


def test_the_local_time_of_a_place():
    noon = datetime(2026, 12, 1, 12, tzinfo=UTC)
    assert local_time("Etc/GMT+2", noon) == "10:00 (UTC−2)"
    assert local_time("Etc/GMT-5", noon) == "17:00 (UTC+5)"
    assert "not a time zone" in zone_fault("Nowhere/Place")


def test_a_trip_goes_out_as_a_calendar(plan):
    read = Calendar.from_ical(trip_ics(plan.trips[0]))
    days = {str(event["summary"]): event["dtstart"].dt for event in read.walk("VEVENT")}
    assert days["Trip: Nessa"] == date(2026, 12, 1)
    assert days["Teach the travel hotspot the phone's sharing, and try it"] == date(2026, 11, 24)
    with pytest.raises(ValueError, match=r".*"):
        trip_ics(replace(plan.trips[0], begins=""))


MONDAY = date(2026, 11, 23)


@pytest.mark.parametrize(
    ("work_days", "last"), [(4, "2026-11-26"), (5, "2026-11-27"), (6, "2026-11-30"), (10, "2026-12-04")]
)
def test_an_office_ends_its_step_on_a_working_day(work_days, last):
    step = Step("licence", "Licence", work_days, work_days, work_days, office=True)
    found = forecast([step], MONDAY)
    assert {found.earliest.isoformat(), found.p50.isoformat(), found.latest.isoformat()} == {last}


@given(step_graphs(), st.integers(1, 10_000), st.integers(1, 10_000))
@examples(40, deadline=None)
def test_the_likely_day_does_not_move_with_the_seed(steps, one, other):
    first, second = (forecast(steps, MONDAY, seed) for seed in (one, other))
    for name in ("p10", "p50", "p90"):
        assert abs((getattr(first, name) - getattr(second, name)).days) <= 1


def test_the_likely_day_is_the_one_a_big_run_gives():
    steps = [Step("a", "A", 1, 2, 9), Step("b", "B", 2, 5, 20, after=("a",)), Step("c", "C", 1, 3, 30, after=("b",))]
    chance = random.Random(7)
    whole = sorted(
        int(sum(chance.triangular(step.low, step.high, step.likely) for step in steps) - 1e-9)
        for _run in range(200_000)
    )
    shown = (forecast(steps, MONDAY).p50 - MONDAY).days
    assert abs(shown - whole[100_000]) <= 1
