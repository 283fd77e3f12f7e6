"""Nets as iCalendar: out and in again the same; what other hands write; what cannot be taken is told, nothing breaks."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.core.agenda.test_recurrence import DECADE, nets
from tests.examples import examples
from umbra_awl.core.agenda.net_calendar import nets_ics, read_ics
from umbra_awl.core.agenda.recurrence import days_of, meetings, net_fault
from umbra_awl.core.plan.model import Net


@given(nets(), st.integers(-1, 1440))
@settings(max_examples=30, deadline=None)
def test_a_net_goes_out_and_comes_in_meeting_at_the_same_times(net, before):
    net = replace(net, remind_minutes=before)
    if net_fault(net):
        assert read_ics(nets_ics([net]), "Etc/UTC").nets == ()
        return
    (back,) = read_ics(nets_ics([net]), "Etc/UTC").nets
    both = [[(item.start, item.end) for item in meetings(one, *DECADE)] for one in (net, back)]
    assert both[0] == both[1]
    assert back.remind_minutes == before
    again = replace(back, key="n")
    assert read_ics(nets_ics([again]), "Etc/UTC").nets == (back,)


def event(*lines):
    return "\r\n".join(
        ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//other//EN", "BEGIN:VEVENT", "UID:1", "DTSTAMP:20260101T000000Z",
         "SUMMARY:Evening net", *lines, "END:VEVENT", "END:VCALENDAR", ""]
    ).encode()  # fmt: skip


@pytest.mark.parametrize(
    ("lines", "fields"),
    [
        (["DTSTART:20261103T193000Z", "DTEND:20261103T203000Z"], {"every": "once", "minutes": 60, "time_zone": "Etc/UTC"}),
        (["DTSTART:20261103T193000", "RRULE:FREQ=DAILY;COUNT=3"], {"until": "2026-11-05", "time_zone": "Asia/Tokyo"}),
        (["DTSTART;TZID=Europe/Athens:20261103T193000", "RRULE:FREQ=WEEKLY;BYDAY=TU,TH;INTERVAL=2"], {"days": (1, 3), "step": 2}),
        (["DTSTART;TZID=Europe/Athens:20261110T193000", "RRULE:FREQ=MONTHLY;BYDAY=2TU,-1TU"], {"every": "month", "nth": (2, -1)}),
        (["DTSTART:20261103T193000Z", "RRULE:FREQ=DAILY;BYDAY=MO,TU"], {"every": "week", "days": (0, 1)}),
        (["DTSTART:20261103T193000Z", "RRULE:FREQ=MONTHLY;BYDAY=TU;BYSETPOS=1,-1"], {"days": (1,), "nth": (1, -1)}),
        (["DTSTART:20261103T193000Z", "BEGIN:VALARM", "ACTION:DISPLAY", "TRIGGER:-PT45M", "END:VALARM"], {"remind_minutes": 45}),
        (["DTSTART:20261103T193000Z", "BEGIN:VALARM", "TRIGGER:-P9D", "END:VALARM"], {"remind_minutes": 15}),
        (["DTSTART:20261103T193000Z", "BEGIN:VALARM", "TRIGGER;RELATED=END:-PT5M", "END:VALARM"], {"remind_minutes": 15}),
        (["DTSTART:20261103T193000Z", "BEGIN:VALARM", "TRIGGER:20261103T190000Z", "END:VALARM"], {"remind_minutes": 15}),
        (["DTSTART:20261103T193000Z", "DTEND:20261103T211500Z"], {"minutes": 105}),
        (["DTSTART;TZID=Europe/Athens:20261103T193000", "DTEND;TZID=Europe/Athens:20261103T211500"], {"minutes": 105}),
        (["DTSTART;TZID=Europe/Athens:20261103T193000", "DTEND:20261103T201500"], {"minutes": 60}),
        (["DTSTART:20261103T193000Z", "RRULE:FREQ=WEEKLY;WKST=SU;BYDAY=TU"], {"step": 1, "days": (1,)}),
    ],
)  # fmt: skip
def test_what_other_hands_write_is_taken(lines, fields):
    found = read_ics(event(*lines), "Asia/Tokyo")
    assert found.faults == ()
    assert {name: getattr(found.nets[0], name) for name in fields} == fields


@pytest.mark.parametrize(
    ("lines", "words"),
    [
        (["DTSTART;VALUE=DATE:20261103"], "no hour"),
        (["DTSTART:20261103T193000Z", "RRULE:FREQ=YEARLY"], "yearly"),
        (["DTSTART:20261103T193000Z", "RRULE:FREQ=MONTHLY;BYSETPOS=1;BYDAY=MO,TU"], "BYSETPOS"),
        (["DTSTART:20261103T193000Z", "STATUS:CANCELLED"], "it is cancelled"),
        (["DTSTART:20261103T193000Z", "RRULE:FREQ=WEEKLY;INTERVAL=2;WKST=SU;BYDAY=SU,TU"], "do not begin on a Monday"),
        (["DTSTART:20261103T193000Z", "RRULE:FREQ=MONTHLY;BYDAY=1TU,2WE"], "mixes days"),
        (["DTSTART:20261103T193000Z", "RRULE:FREQ=MONTHLY;BYDAY=TU;BYSETPOS=9"], "The days are those"),
        (["DTSTART:20261103T193000Z", "RRULE:FREQ=MONTHLY;BYMONTHDAY=9"], "days of the month"),
        (["DTSTART;TZID=Somewhere Else:20261103T193000"], "not known here"),
        (["DTSTART:20261103T193000Z", "RRULE:FREQ=WEEKLY;COUNT=99999999"], "cannot be read"),
        (["SUMMARY:without a start"], "cannot be read"),
        ([f"DTSTART;TZID=Etc/{'W' * 400}:20261103T193000"], ""),
        (["DTSTART:20261103T193000Z", "RDATE:20261201T193000Z"], "single dates"),
    ],
)  # fmt: skip
def test_what_cannot_be_taken_is_told(lines, words):
    try:
        found = read_ics(event(*lines), "Etc/UTC")
    except ValueError as error:  # a zone's name that no disk can hold breaks the whole calendar
        assert not words
        assert "no calendar" in str(error)
        return
    assert found.nets == ()
    assert words in found.faults[0]


@given(st.binary(max_size=400), st.integers(0, 600), st.integers(0, 60))
@examples(80, deadline=None)
def test_damaged_calendars_are_refused_or_told_and_never_break(noise, at, cut):
    whole = nets_ics([Net("n", "Net", time_zone="Europe/Athens", begins="2026-11-03", days=(1,))])
    for data in (noise, whole[:at] + noise[:40] + whole[at + cut :]):
        try:
            found = read_ics(data, "Etc/UTC")
        except ValueError as error:
            assert "no calendar" in str(error)
        else:
            assert all(not net_fault(item) for item in found.nets)


def test_skipped_days_and_reminders_go_along():
    net = Net(
        "n", "Net", time_zone="Europe/Athens", begins="2026-11-03", days=(1,), skips=("2026-11-10",), note="bring a pen"
    )
    data = nets_ics([net], {"n": "Blackfell slot 2"})
    assert b"TRIGGER:-PT15M" in data
    (back,) = read_ics(data, "Etc/UTC").nets
    assert back.skips == ("2026-11-10",)
    assert back.note == "Blackfell slot 2", "what is noted is one's own"


def brought(*lines, start="20261201T193000"):
    body = "\r\n".join(
        ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:x", "BEGIN:VEVENT", "UID:1", "SUMMARY:Net",
         f"DTSTART;TZID=Europe/Lisbon:{start}",
         *lines, "END:VEVENT", "END:VCALENDAR", ""]
    )  # fmt: skip
    return read_ics(body.encode(), "Etc/UTC")


@pytest.mark.parametrize(
    ("until", "last"),
    [
        ("20261222T193000Z", "2026-12-22"),
        ("20261222T192959Z", "2026-12-21"),
        ("20261222T235959Z", "2026-12-22"),
        ("20261222", "2026-12-22"),
        ("20261222T000000Z", "2026-12-21"),
    ],
)
def test_until_is_a_moment_and_what_begins_later_on_its_day_is_no_more(until, last):
    (net,) = brought(f"RRULE:FREQ=DAILY;UNTIL={until}").nets
    assert net.until == last
    *_rest, day = days_of(net)
    assert day.isoformat() == last


def test_an_exception_of_another_hour_takes_no_meeting_away_and_is_said():
    found = brought(
        "RRULE:FREQ=WEEKLY", "EXDATE;TZID=Europe/Lisbon:20261208T193000", "EXDATE;TZID=Europe/Lisbon:20261215T200000"
    )
    assert found.nets[0].skips == ("2026-12-08",)
    assert "an exception is at another hour than 19:30" in found.faults[0]
    whole = brought("RRULE:FREQ=WEEKLY", "EXDATE;VALUE=DATE:20261208")
    assert whole.nets[0].skips == ("2026-12-08",)
    assert not whole.faults


def test_a_rule_of_exceptions_is_said_and_not_taken():
    found = brought("RRULE:FREQ=WEEKLY", "EXRULE:FREQ=MONTHLY")
    assert not found.nets
    assert "EXRULE" in found.faults[0]
