"""The demo tells its story on any day: its dates stand as far from the day as they were written, and so do its findings."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.agenda.next_steps import next_steps
from umbra_awl.core.directory.sanity import age_words
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import DIRECTORY_FILES, PLAN_NAME, demo_plan, lay_out
from umbra_awl.demo.furnish import TO_TRY, furnish
from umbra_awl.demo.told_of import TOLD_OF, as_of, shipped

AWKWARD = [
    date(2028, 2, 28), date(2028, 2, 29), date(2027, 3, 28), date(2027, 10, 31), date(2026, 12, 31), date(2027, 1, 1),
    date(2026, 12, 28), date(2031, 11, 24), date(2030, 6, 15), TOLD_OF + timedelta(days=7), TOLD_OF + timedelta(days=11),
]  # fmt: skip
DAYS = st.dates(date(2020, 1, 1), date(2060, 12, 31))


def story(day):
    """What the demo has to tell on a day: its findings, and what is to be done next."""
    index = PlanIndex(demo_plan(day), day)
    found = findings_of(index, shipped_profiles())
    stops = [item for item in found if item.severity == "stop"]
    steps = [(item.done, item.words) for item in next_steps(index, day, stops)]
    return [(item.rule.name, item.severity, item.target) for item in found], steps


def days_ahead(net, day):
    return {(at - day.weekday()) % 7 for at in net.days}


@pytest.mark.parametrize("day", AWKWARD)
def test_the_same_findings_and_next_steps_on_any_day(day):
    assert story(day) == story(TOLD_OF)


@given(DAYS)
def test_the_trip_is_next_week_and_the_first_net_as_near_as_ever(day):
    plan = demo_plan(day)
    (trip,) = plan.trips
    assert (date.fromisoformat(trip.begins) - day).days == 7
    for net, told in zip(plan.nets, demo_plan(TOLD_OF).nets, strict=True):
        assert net.every != "week" or days_ahead(net, day) == days_ahead(told, TOLD_OF)
    assert {age_words(item.confirmed, day) for item in plan.access} == {
        age_words(item.confirmed, TOLD_OF) for item in demo_plan(TOLD_OF).access
    }
    assert parse_plan(plan_bytes(plan)) == plan


def test_the_shipped_files_are_those_of_the_day_they_tell_of():
    for name in (PLAN_NAME, *DIRECTORY_FILES, *TO_TRY):
        assert as_of(shipped(name, TOLD_OF).decode("latin-1"), TOLD_OF).encode("latin-1") == shipped(name, TOLD_OF)


def test_every_form_of_a_date_moves():
    assert as_of("2026-11-24 24.11.2026 11/2026, 438.6125", TOLD_OF + timedelta(days=40)) == (
        "2027-01-03 03.01.2027 12/2026, 438.6125"
    )


def test_what_is_laid_out_moves_as_a_whole(tmp_path):
    day = date(2030, 5, 1)
    demo = lay_out(tmp_path, day)
    furnish(demo, day, people=20)
    texts = [
        path.read_bytes().decode("latin-1") for path in tmp_path.iterdir() if path.suffix in {".csv", ".gpx", ".json"}
    ]
    assert any("2030-05-08" in text for text in texts), "the trip"
    assert not any("2026-1" in text for text in texts)
