"""Dated saves: true copies, thinned by age, whatever the clock does."""

from datetime import datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.days import LOCAL
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.saves import Save, dispensable, history_folder, keep_save, list_saves
from umbra_awl.core.plan.disk.store import Document, read_plan
from umbra_awl.core.plan.edit.edits import rename_plan

NOW = datetime(2026, 11, 24, 12, 0, 0)


@pytest.fixture
def path(tmp_path):
    return tmp_path / "wren.awl.json"


def saved_at(*ages):
    """Saves of those ages, the newest first."""
    return [Save(None, "", NOW - age, len(ages) - at) for at, age in enumerate(ages)]


def kept(saves):
    gone = {save.number for save in dispensable(saves, NOW)}
    return [save.number for save in saves if save.number not in gone]


def test_all_of_the_last_hour_one_an_hour_one_a_day_one_a_month_and_the_first():
    minutes = [timedelta(minutes=at) for at in (1, 1, 30, 59)]
    hours = [timedelta(hours=2, minutes=at) for at in (5, 10, 20)]
    days = [timedelta(days=3, hours=at) for at in (1, 2)]
    months = [timedelta(days=90), timedelta(days=91), timedelta(days=400), timedelta(days=401)]
    saves = saved_at(*minutes, *hours, *days, *months)
    assert kept(saves) == [13, 12, 11, 10, 9, 6, 4, 2, 1]


def test_several_saves_in_one_second_and_a_clock_set_back_lose_nothing(path):
    for number in range(5):
        keep_save(path, b"%d" % number, NOW)
    keep_save(path, b"back", NOW - timedelta(days=700))
    found = list_saves(path)
    assert [item.path.read_bytes() for item in found] == [b"back", b"4", b"3", b"2", b"1", b"0"]
    assert len({item.path.name for item in found}) == 6


def test_a_clock_far_ahead_takes_at_most_two_saves_with_it(path):
    for minute in range(30):
        keep_save(path, b"%d" % minute, NOW + timedelta(minutes=minute))
    keep_save(path, b"ahead", NOW + timedelta(days=4000))
    assert len(list_saves(path)) == 29


def test_a_copy_is_no_link_and_is_for_its_owner_alone(path, plan):
    path.write_bytes(plan_bytes(plan))
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("A"))
    document.save(NOW)
    newest = list_saves(path)[0].path
    assert newest.stat().st_nlink == 1
    assert newest.stat().st_mode & 0o777 == 0o600
    assert history_folder(path).stat().st_mode & 0o777 == 0o700
    with path.open("r+b") as file:
        file.truncate(10)  # another program writes into the file
    assert read_plan(newest).name == "A"
    document.close()


def test_saves_of_earlier_versions_are_listed_too_and_strangers_are_not(path):
    folder = history_folder(path)
    folder.mkdir()
    (folder / "2025-01-02 03.04.05.awl.json").write_bytes(b"old")
    (folder / "notes.awl.json").write_bytes(b"x")
    (folder / "2025-99-99 03.04.05.awl.json").write_bytes(b"x")
    keep_save(path, b"new", NOW)
    assert [item.when for item in list_saves(path)] == ["2026-11-24 12:00:00", "2025-01-02 03:04:05"]


@given(st.lists(st.integers(0, 3 * 365 * 24 * 60), min_size=1, max_size=60))
def test_the_newest_the_first_and_the_last_hour_always_stay(minutes):
    ages = sorted(timedelta(minutes=at) for at in minutes)
    saves = saved_at(*ages)
    left = set(kept(saves))
    assert {saves[0].number, saves[-1].number} <= left
    assert {save.number for save in saves if NOW - save.at < timedelta(hours=1)} <= left
