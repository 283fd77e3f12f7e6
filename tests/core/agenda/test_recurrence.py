"""When nets meet: rules against another implementation, clock changes on both sides, clashes, words."""

from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from dateutil import rrule, tz
from hypothesis import given
from hypothesis import strategies as st

from tests.examples import examples
from umbra_awl.core.agenda.net_edits import add_net, days_typed, days_words, nth_typed, nth_words, set_net, skip_day
from umbra_awl.core.agenda.recurrence import (
    clashes,
    in_order,
    meetings,
    net_fault,
    next_meeting,
    rule_words,
    until_words,
)
from umbra_awl.core.agenda.reminding import due
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.model import Net, Plan

ZONES = [
    "Etc/UTC", "Atlantic/Azores", "Europe/London", "Europe/Athens", "America/Halifax", "America/New_York",
    "America/Los_Angeles", "America/St_Johns", "America/Sao_Paulo", "Africa/Cairo", "Africa/Johannesburg",
    "Asia/Kolkata", "Asia/Kathmandu", "Asia/Tokyo", "Asia/Tehran", "Australia/Sydney", "Australia/Lord_Howe",
    "Pacific/Auckland", "Pacific/Chatham", "Pacific/Apia",
]  # fmt: skip
DECADE = (datetime(2024, 1, 1, tzinfo=UTC), datetime(2034, 1, 1, tzinfo=UTC))


@st.composite
def nets(draw):
    every = draw(st.sampled_from(["once", "day", "week", "month"]))
    days = tuple(sorted(draw(st.sets(st.integers(0, 6), max_size=3))))
    nth = tuple(sorted(draw(st.sets(st.sampled_from([1, 2, 3, 4, -1]), max_size=2)))) if every == "month" else ()
    begins = draw(st.dates(date(2023, 1, 1), date(2026, 12, 31)))
    return Net(
        "n", "Net", time_zone=draw(st.sampled_from(ZONES)), begins=begins.isoformat(),
        at=f"{draw(st.integers(0, 23)):02d}:{draw(st.sampled_from([0, 1, 15, 30, 59])):02d}", minutes=draw(st.integers(1, 180)),
        every=every, step=draw(st.integers(1, 5)), days=days if every in {"week", "month"} else (), nth=nth,
        until=draw(st.one_of(st.just(""), st.integers(0, 3000).map(lambda days: (begins + timedelta(days=days)).isoformat()))),
    )  # fmt: skip


def by_another_hand(net):
    """The starts of a net, as dateutil has them, in UTC."""
    begins = datetime.fromisoformat(f"{net.begins}T{net.at}")
    until = datetime.fromisoformat(f"{net.until}T23:59:59") if net.until else datetime(2035, 1, 1)
    if net.every == "once":
        found = [begins] if begins <= until else []
    else:
        weekdays = [rrule.weekday(day) for day in net.days] or ([rrule.weekday(begins.weekday())] if net.nth else None)
        if net.every == "month" and weekdays and net.nth:
            weekdays = [day(nth) for day in weekdays for nth in net.nth]
        every = {"day": rrule.DAILY, "week": rrule.WEEKLY, "month": rrule.MONTHLY}[net.every]
        found = list(
            rrule.rrule(
                every, dtstart=begins, interval=net.step, until=until, wkst=rrule.MO,
                byweekday=weekdays if net.every != "day" else None,
            )
        )  # fmt: skip
    zone = tz.gettz(net.time_zone)
    aware = (tz.resolve_imaginary(item.replace(tzinfo=zone)) for item in found)
    return [moment for item in aware if DECADE[0] < (moment := item.astimezone(UTC)) < DECADE[1]]


@given(nets())
@examples(60, deadline=None)
def test_a_rule_gives_what_another_implementation_gives_over_ten_years(net):
    ours = [item.start for item in meetings(net, *DECADE) if item.start > DECADE[0]]
    assert ours == by_another_hand(net)


@given(nets(), st.datetimes(datetime(2024, 1, 1), datetime(2032, 1, 1), timezones=st.just(UTC)))
@examples(40, deadline=None)
def test_beginning_anywhere_leaves_nothing_out_and_adds_nothing(net, since):
    whole = [item for item in meetings(net, *DECADE) if item.end > since]
    assert list(meetings(net, since, DECADE[1])) == whole
    assert next_meeting(net, since) == next(iter(meetings(net, since, since + timedelta(days=3660))), None)


def test_the_hour_here_moves_when_either_side_changes_its_clock():
    net = Net("n", "Net", time_zone="America/New_York", begins="2026-03-01", at="19:00", days=(6,))
    here = ZoneInfo("Europe/Athens")
    since = datetime(2026, 3, 1, tzinfo=UTC)
    starts = [item.start.astimezone(here) for item in meetings(net, since, since + timedelta(days=45))]
    # their clock changes on 8 March, ours on 29 March: for three weeks the net is an hour earlier here
    assert [(f"{item:%d %b}", item.hour) for item in starts] == [
        ("02 Mar", 2), ("09 Mar", 1), ("16 Mar", 1), ("23 Mar", 1), ("30 Mar", 2), ("06 Apr", 2), ("13 Apr", 2),
    ]  # fmt: skip


def test_an_hour_that_a_change_leaves_out_and_one_that_comes_twice():
    gap = Net("n", "Net", time_zone="Europe/Athens", begins="2026-03-29", at="03:30", every="once")
    twice = Net("n", "Net", time_zone="Europe/Athens", begins="2026-10-25", at="03:30", every="once")
    assert [item.start for item in meetings(gap, *DECADE)] == [datetime(2026, 3, 29, 1, 30, tzinfo=UTC)]
    assert [item.start for item in meetings(twice, *DECADE)] == [datetime(2026, 10, 25, 0, 30, tzinfo=UTC)]


def test_nets_that_overlap_are_told_once_with_how_often():
    now = datetime(2026, 11, 2, tzinfo=UTC)
    one = Net("one", "One", begins="2026-11-03", at="19:30", days=(1,), minutes=60)
    other = Net("other", "Other", begins="2026-11-03", at="20:15", every="day", minutes=30)
    apart = Net("apart", "Apart", begins="2026-11-03", at="20:45", days=(1,), minutes=30)
    found = clashes((one, other, apart), now)
    assert [(sorted({item.one.net, item.other.net}), item.times) for item in found] == [(["one", "other"], 4)]
    assert clashes((one, apart), now) == []
    assert [item.net for item in in_order((apart, one), now, now + timedelta(days=2))] == ["one", "apart"]


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"name": " "}, "needs a name"), ({"time_zone": "Nowhere/Town"}, "not a time zone"), ({"begins": "soon"}, "first one"),
        ({"at": "7 pm"}, "24 hours"), ({"at": "24:00"}, "24 hours"), ({"minutes": 0}, "lasts"), ({"step": 0}, "1 to"),
        ({"until": "2026-01-01"}, "not before"), ({"days": (7,)}, "of the week"),
        ({"every": "month", "days": (0,), "nth": (5,), "step": 12, "begins": "2026-02-01", "until": "2027-02-28"}, "never meets"),
    ],
)  # fmt: skip
def test_what_is_wrong_with_a_rule_is_said(fields, words):
    net = Net("", **{"name": "Net", "begins": "2026-11-03", **fields})
    assert words in net_fault(net)
    with pytest.raises(EditRefused, match=words):
        add_net(Plan(), net)


def test_nets_are_added_changed_and_left_out_for_a_day():
    plan = add_net(Plan(), Net("", "Isles net", begins="2026-11-03", days=(1,))).apply(Plan())
    plan = add_net(plan, Net("", "Isles net", begins="2026-11-03")).apply(plan)
    assert [item.key for item in plan.nets] == ["isles-net", "isles-net-2"]
    net = plan.nets[0]
    plan = skip_day(net, "2026-11-10").apply(plan)
    span = (datetime(2026, 11, 1, tzinfo=UTC), datetime(2026, 11, 20, tzinfo=UTC))
    assert [item.start.day for item in meetings(plan.nets[0], *span)] == [3, 17]
    with pytest.raises(EditRefused):
        set_net(net, "x", at="25:00").apply(plan)


def test_rules_are_typed_and_told_in_words():
    assert days_typed("Tue, thu") == (1, 3)
    assert days_words((1, 3)) == "Tue, Thu"
    assert nth_typed("first last") == (1, -1)
    assert nth_words((1, -1)) == "first, last"
    for wrong in ("T", "Xyz", "Tu e"):
        with pytest.raises(EditRefused):
            days_typed(wrong)
    with pytest.raises(EditRefused):
        nth_typed("sixth")
    net = Net("", "N", begins="2026-11-03", every="month", days=(1,), nth=(2, -1))
    assert rule_words(net).startswith("second and last Tuesday of every month, 19:30")
    assert rule_words(Net("", "N", begins="2026-11-03", step=2)).startswith("Tuesday of every second week")


def test_one_is_reminded_before_it_begins_and_not_after():
    net = Net("n", "Net", begins="2026-11-03", at="19:30", remind_minutes=15)
    start = datetime(2026, 11, 3, 19, 30, tzinfo=UTC)
    assert [len(due([net], start - timedelta(minutes=item))) for item in (16, 15, 1, 0, -5)] == [0, 1, 1, 0, 0]
    assert "in 15 min" in due([net], start - timedelta(minutes=15))[0].words(start - timedelta(minutes=15))
    assert until_words(start, start - timedelta(days=2, hours=3)) == "in 2 d 3 h"
