"""Questions of fields and figures, and when they come back."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.drills.rounds import KINDS, QuestionGround, is_right, questions
from umbra_awl.core.drills.schedule import (
    BOX_DAYS,
    DrillCard,
    Practice,
    answered,
    boxes,
    due_now,
    keep_practice,
    read_practice,
)
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.modes.dstar import computed_ur
from umbra_awl.core.plan.habits import Habits
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

PROFILES = shipped_profiles()
_DEMO = demo_plan(TODAY)
INDEX = PlanIndex(
    replace(_DEMO, station=replace(_DEMO.station, habits=Habits("set", "all", "needed", "beside"))), TODAY
)
GROUND = QuestionGround(
    INDEX, {item.key: fit(INDEX, item, PROFILES[item.profile]) for item in INDEX.plan.radios}, PROFILES
)
TODAY = date(2026, 11, 27)


def test_there_are_questions_of_every_kind_and_their_own_answers_are_right():
    found = questions(GROUND, 1)
    assert {item.kind for item in found.values()} == set(KINDS)
    for item in found.values():
        assert is_right(item, item.answer)
        assert item.why
        assert not item.choices or item.answer in item.choices
        assert sorted(item.pieces) == sorted(item.answer.split("\n")) if item.pieces else True
        assert not item.pieces or "\n".join(item.pieces) != item.answer
    assert questions(GROUND, 1) == found


def test_answers_are_what_the_plan_computes():
    found = questions(GROUND, 3, most_each=400)
    for key, route in INDEX.routes.items():
        asked = found.get(f"dstar UR {key}")
        if asked is not None:
            assert asked.answer == computed_ur(INDEX.destinations[route.destination], route.slot).ljust(8)
            assert not is_right(asked, "X" + asked.answer[1:])
            assert is_right(asked, asked.answer.replace(" ", "·").lower())
    for key, (_access, service) in INDEX.services.items():
        asked = found.get(f"offset {key}")
        if asked is not None:
            assert is_right(asked, f"{service.tx_hz / 1e6:.4f} MHz".replace(".", ","))
            assert not is_right(asked, f"{(2 * service.rx_hz - service.tx_hz) / 1e6:.4f}")


@pytest.mark.parametrize(
    ("typed", "right"),
    [("Quebec 4 Whiskey Romeo November", True), ("quebec 4 whiskey romeo november", True), ("Quebec 4", False), ("Q4WRN", False)],
)  # fmt: skip
def test_spelling_is_taken_word_by_word(typed, right):
    assert is_right(questions(GROUND, 1, 99)["spell Q4WRN"], typed) is right


def test_what_is_known_comes_back_later_and_later_and_what_is_not_tomorrow():
    practice, day = Practice(), TODAY
    for days in (*BOX_DAYS, BOX_DAYS[-1]):
        practice = answered(practice, "k", right=True, today=day)
        assert practice.cards["k"].due() == day + timedelta(days=days)
        assert due_now(practice, ["k"], day) == []
        day = practice.cards["k"].due()
        assert due_now(practice, ["k"], day) == ["k"]
    practice = answered(practice, "k", right=False, today=day)
    assert practice.cards["k"].box == 0
    assert practice.cards["k"].times == len(BOX_DAYS) + 2
    assert practice.cards["k"].right == len(BOX_DAYS) + 1


def test_asking_early_moves_no_box_on():
    practice = answered(Practice(), "k", right=True, today=TODAY)
    again = answered(practice, "k", right=True, today=TODAY)
    assert again.cards["k"].box == practice.cards["k"].box
    assert again.cards["k"].due() == practice.cards["k"].due()


@given(st.lists(st.tuples(st.sampled_from("abc"), st.booleans(), st.integers(0, 60)), max_size=30))
def test_whatever_is_answered_stays_in_its_boxes_and_none_is_lost(answers):
    practice, day = Practice(), TODAY
    for key, right, days in answers:
        day += timedelta(days=days)
        practice = answered(practice, key, right=right, today=day)
    found = boxes(practice, "abc")
    assert sorted(key for keys in found.values() for key in keys) == ["a", "b", "c"]
    assert all(0 <= card.box < len(BOX_DAYS) and card.right <= card.times for card in practice.cards.values())


def test_the_longest_due_come_first_and_new_ones_last():
    practice = Practice(
        {
            "old": DrillCard(0, "2026-11-01", 1),
            "older": DrillCard(0, "2026-10-01", 1),
            "later": DrillCard(4, "2026-11-26", 1),
        }
    )
    assert due_now(practice, ["new", "old", "older", "later"], TODAY) == ["older", "old", "new"]


def test_progress_is_kept_on_this_machine_and_a_damaged_file_begins_anew(tmp_path):
    path = tmp_path / "more" / "practice.json"
    practice = answered(Practice(), "k", right=True, today=TODAY)
    keep_practice(path, practice)
    assert path.stat().st_mode & 0o077 == 0
    assert read_practice(path) == practice
    path.write_bytes(b"{")
    assert read_practice(path) == Practice()
    assert read_practice(tmp_path / "none") == Practice()
