"""The one clock: it runs with the computer's or stands where it was told to, and nothing goes round it."""

import re
from datetime import UTC, date, datetime, timedelta, timezone
from pathlib import Path

import pytest

from umbra_awl.core.keep.clock import NOW, RUNNING, Clock, clock_of

ROOT = Path(__file__).parents[3]
_ASKS = re.compile(
    r"\b(?:date\.today|datetime\.(?:now|today|utcnow)|time\.(?:time|time_ns|localtime|gmtime|ctime)|"
    r"QDateTime\.currentDateTime\w*|QDate\.currentDate|QTime\.currentTime)\("
)


def test_one_that_is_given_a_moment_stands_there():
    clock = Clock(datetime(2028, 2, 29, 23, 30, tzinfo=timezone(timedelta(hours=-2))))
    assert clock.utc() == clock.utc() == datetime(2028, 3, 1, 1, 30, tzinfo=UTC)
    assert clock.local() == clock.utc().astimezone().replace(tzinfo=None)
    assert clock.today() == clock.local().date()


def test_one_that_is_given_none_runs():
    before = RUNNING.utc()
    assert before.tzinfo is UTC
    assert timedelta() <= RUNNING.utc() - before < timedelta(minutes=5)


def test_a_moment_without_a_zone_is_refused():
    with pytest.raises(ValueError, match="distance from UTC"):
        Clock(datetime(2028, 2, 29))


@pytest.mark.parametrize(
    ("said", "day"), [("2027-01-01T00:00:00Z", date(2027, 1, 1)), ("2026-06-30T12:00:00+03:00", date(2026, 6, 30))]
)
def test_a_process_stands_where_its_environment_says(said, day):
    assert clock_of({NOW: said}).utc().date() == day


@pytest.mark.parametrize("said", ["yesterday", "2026-11-24T10:00:00", "2026-13-01T00:00:00Z"])
def test_what_is_no_moment_is_refused_with_its_name(said):
    with pytest.raises(ValueError, match=f"{NOW} is “{said}”"):
        clock_of({NOW: said})


def test_without_a_word_of_it_the_clock_runs():
    assert clock_of({}) is RUNNING


def test_nobody_asks_the_computer_but_the_clock():
    round_it = [
        f"{path.relative_to(ROOT)}:{number}"
        for folder in ("src", "scripts", "bench")
        for path in sorted((ROOT / folder).rglob("*.py"))
        if path.name != "clock.py"
        for number, line in enumerate(path.read_text("utf-8").splitlines(), 1)
        if _ASKS.search(line)
    ]
    assert round_it == []
