"""The way to the air at its edges: calendars field by field, steps that wait for two, weekends, ranges of nothing, limits."""

from datetime import UTC, date, datetime, timedelta

import pytest
from icalendar import Calendar
from msgspec.structs import replace

from umbra_awl.core.agenda.calendar import chart_ics, trip_ics
from umbra_awl.core.agenda.lead import DRAWS, LEAST_DRAWS, chart, ends, forecast, in_order
from umbra_awl.core.agenda.steps import (
    LONGEST_DAYS,
    MOST_STEPS,
    TemplateError,
    add_step,
    own_templates,
    parse_template,
    set_step,
    template_text,
    use_template,
)
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.model import Identity, Licence, Plan, Reminder, Step, Trip

WEDNESDAY = date(2026, 11, 25)


def events(data):
    return {str(item["uid"]).partition("@")[0]: item for item in Calendar.from_ical(data).walk("VEVENT")}


def day(item, name):
    return item[name].dt


# calendars


def test_a_calendar_says_who_made_it_and_every_event_when_it_was_stamped():
    data = chart_ics(chart([Step("a", "Ask", 1, 2, 3)], WEDNESDAY))
    whole = Calendar.from_ical(data)
    assert (str(whole["prodid"]), str(whole["version"])) == ("-//Umbra Awl//EN", "2.0")
    assert all(day(item, "dtstamp") == datetime(2026, 1, 1, tzinfo=UTC) for item in events(data).values())
    assert chart_ics(chart([Step("a", "Ask", 1, 2, 3)], WEDNESDAY)) == data


def test_a_step_of_two_days_takes_two_days_and_is_described_where_it_needs_something():
    steps = [
        Step("a", "Ask", 2, 2, 2, needs="A form"),
        Step("b", "Wait", 1, 1, 1, after=("a",)),
        Step("c", "Gone", done="2026-11-20"),
    ]
    found = events(chart_ics(chart(steps, WEDNESDAY)))
    assert set(found) == {"step-a", "step-b", "on-the-air"}
    assert (day(found["step-a"], "dtstart"), day(found["step-a"], "dtend")) == (
        WEDNESDAY,
        WEDNESDAY + timedelta(days=2),
    )
    assert (day(found["step-b"], "dtstart"), day(found["step-b"], "dtend")) == (
        WEDNESDAY + timedelta(days=2), WEDNESDAY + timedelta(days=3),
    )  # fmt: skip
    assert str(found["step-a"]["description"]) == "A form"
    assert "description" not in found["step-b"]
    assert day(found["on-the-air"], "dtstart") == WEDNESDAY + timedelta(days=2)
    assert "eight of ten" in str(found["on-the-air"]["description"])


def test_no_steps_are_no_day_on_the_air():
    assert events(chart_ics(chart([], WEDNESDAY))) == {}


def test_a_trip_without_an_end_is_a_day_and_what_is_done_is_not_reminded_of():
    trip = Trip(
        "t", "Nessa", 46.0, -31.0, "2026-12-10", reminders=(Reminder("Charge", 2), Reminder("Pack", 1, done=True))
    )
    found = events(trip_ics(trip))
    assert set(found) == {"trip-t", "trip-t-0"}
    assert (day(found["trip-t"], "dtstart"), day(found["trip-t"], "dtend")) == (date(2026, 12, 10), date(2026, 12, 11))
    assert day(found["trip-t-0"], "dtstart") == date(2026, 12, 8)
    longer = events(trip_ics(replace(trip, ends="2026-12-12")))
    assert day(longer["trip-t"], "dtend") == date(2026, 12, 13)


# order and times


def test_what_waits_for_two_comes_behind_both_and_once():
    steps = [Step("c", "Third", after=("a", "b")), Step("b", "Second", after=("a",)), Step("a", "First")]
    assert [step.key for step in in_order(steps)] == ["a", "b", "c"]
    ring = [Step("x", "X", after=("y",)), Step("y", "Y", after=("x",)), Step("a", "First")]
    assert sorted(step.key for step in in_order(ring)) == ["a", "x", "y"]


@pytest.mark.parametrize(("waits", "office_days", "last"), [
    (0, 1, WEDNESDAY), (0, 3, WEDNESDAY + timedelta(days=2)), (0, 4, WEDNESDAY + timedelta(days=5)),
    (3, 1, WEDNESDAY + timedelta(days=5)), (4, 1, WEDNESDAY + timedelta(days=5)), (5, 1, WEDNESDAY + timedelta(days=5)),
    (2, 1, WEDNESDAY + timedelta(days=2)), (2, 2, WEDNESDAY + timedelta(days=5)), (0, 8, WEDNESDAY + timedelta(days=9)),
])  # fmt: skip
def test_an_office_begins_on_the_next_working_day(waits, office_days, last):
    steps = [
        Step("w", "Wait", waits, waits, waits),
        Step("o", "Office", office_days, office_days, office_days, after=("w",), office=True),
    ]
    found = chart(steps, WEDNESDAY)
    assert found.forecast.likely == last
    assert found.forecast.draws == (found.forecast.draws[0],) * len(found.forecast.draws)


def test_only_what_is_ready_and_waits_for_somebody_is_waited_for():
    steps = [
        Step("a", "Ready, waits", waiting=True), Step("b", "Ready, works"),
        Step("c", "Not ready, waits", after=("b",), waiting=True),
        Step("d", "Done, waited", waiting=True, done="2026-11-20"),
    ]  # fmt: skip
    assert chart(steps, WEDNESDAY).waiting_for == ("Ready, waits",)


def test_a_range_of_nothing_is_its_likely_day_and_the_draws_lie_within_the_range():
    fixed = forecast([Step("a", "A", 3, 3, 3)], WEDNESDAY)
    assert set(fixed.draws) == {2}
    wide = forecast([Step("a", "A", 2, 4, 12)], WEDNESDAY)
    assert len(wide.draws) == DRAWS
    assert min(wide.draws) >= 1
    assert max(wide.draws) <= 11
    assert wide.p10 < wide.p50 < wide.p90
    assert sum(value < 3 for value in wide.draws) / DRAWS == pytest.approx(0.05, abs=0.01)  # (1 · 1) / (10 · 2)


def test_draws_of_two_steps_do_not_go_together():
    one, both = (forecast([Step(str(at), "S", 0, 10, 20) for at in range(count)], WEDNESDAY) for count in (1, 2))
    spread = both.p90 - both.p10
    assert spread < (one.p90 - one.p10) * 1.05
    chained = forecast([Step("a", "A", 0, 10, 20), Step("b", "B", 0, 10, 20, after=("a",))], WEDNESDAY)
    assert (chained.p90 - chained.p10).days < 1.6 * (one.p90 - one.p10).days


def test_thousands_of_steps_are_drawn_less_often():
    many = [Step(f"s{at}", "S", 1, 1, 1) for at in range(2_000)]
    assert len(forecast(many, WEDNESDAY).draws) == 150
    assert len(forecast(many * 2, WEDNESDAY).draws) == LEAST_DRAWS


def test_a_step_that_began_goes_on_from_its_day():
    step = Step("a", "A", 4, 4, 4, started="2026-11-23")
    assert ends([step], WEDNESDAY, lambda item: item.likely)["a"] == (-2.0, 2.0)
    done = replace(step, done="2026-11-24")
    assert ends([done], WEDNESDAY, lambda item: item.likely)["a"] == (-2.0, -1.0)


# templates and edits


def template(count=1, days="[1, 2, 3]"):
    rows = "".join(f'[[steps]]\nkey = "s{at}"\nname = "S {at}"\ndays = {days}\n' for at in range(count))
    return f'name = "T"\n{rows}'


@pytest.mark.parametrize(
    "days", ["[0, 0, 0]", "[2, 2, 2]", f"[0, 1, {LONGEST_DAYS}]", f"[{LONGEST_DAYS}, {LONGEST_DAYS}, {LONGEST_DAYS}]"]
)
def test_days_may_be_alike_nothing_and_a_thousand(days):
    assert parse_template(template(days=days)).steps
    low, likely, high = map(float, days.strip("[]").split(","))
    plan = add_step(Plan(), "Ask", "").apply(Plan())
    changed = set_step(plan.steps[0].key, "x", low=low, likely=likely, high=high).apply(plan)
    assert changed.steps[0].high == high


@pytest.mark.parametrize("days", ["[-1, 0, 1]", "[2, 1, 3]", "[1, 3, 2]", f"[1, 2, {LONGEST_DAYS + 1}]"])
def test_days_that_run_backwards_or_for_ever_are_refused(days):
    with pytest.raises(TemplateError, match="days that run backwards"):
        parse_template(template(days=days))
    low, likely, high = map(float, days.strip("[]").split(","))
    plan = add_step(Plan(), "Ask", "").apply(Plan())
    with pytest.raises(EditRefused, match="shortest, likely, longest"):
        set_step(plan.steps[0].key, "x", low=low, likely=likely, high=high).apply(plan)


def test_so_many_steps_and_no_more():
    assert len(parse_template(template(MOST_STEPS)).steps) == MOST_STEPS == 400
    for count in (0, MOST_STEPS + 1):
        with pytest.raises(TemplateError):
            parse_template(template(count) if count else 'name = "T"\nsteps = []\n')


def test_a_template_that_cannot_be_used_does_not_hide_the_next(tmp_path):
    (tmp_path / "a.toml").write_text("no template")
    (tmp_path / "b.toml").write_text(template())
    assert [item.name for item in own_templates(tmp_path)] == ["T"]


def test_a_step_of_ones_own_takes_one_two_or_five_days():
    made = add_step(Plan(), "Ask", "me", ("x",)).apply(Plan()).steps[0]
    assert (made.low, made.likely, made.high, made.who, made.after) == (1, 2, 5, "me", ("x",))


def test_a_licence_that_is_granted_marks_its_own_step_and_no_other(plan):
    made = parse_template(
        'name = "T"\n[[steps]]\nkey = "l"\nname = "Licence"\ndays = [1, 2, 3]\n'
        '[[steps]]\nkey = "o"\nname = "Other"\ndays = [1, 2, 3]\n'
    )
    station = replace(plan.station, licence=replace(plan.station.licence, granted=True, granted_on="2026-10-01"))
    granted = replace(plan, station=station, steps=())
    done = {step.name: step.done for step in use_template(made, "", WEDNESDAY).apply(granted).steps}
    assert done == {"Licence": "2026-10-01", "Other": ""}
    not_yet = replace(granted, station=replace(station, licence=Licence()))
    assert {step.done for step in use_template(made, "", WEDNESDAY).apply(not_yet).steps} == {""}


def test_a_template_made_of_ones_own_steps_names_nobody_and_reads_back():
    steps = (
        Step("a", "Ask Q4WRN", 1, 2, 3, office=True, waiting=True, needs="the form of Wren", done="2026-11-01"),
        Step("b", "Then", after=("a",)),
    )
    text = template_text("Ours", "For all", steps, [Identity("me", "Q4WRN", name="Wren")])
    made = parse_template(text)
    assert [step.name for step in made.steps] == ["Ask the operator", "Then"]
    first = made.steps[0]
    assert (first.office, first.waiting, first.needs, first.done) == (True, True, "the form of the operator", "")
    assert made.steps[1].after == ("a",)
    assert "office" not in text.split("[[steps]]")[2]
