"""Limits found by trying."""

import pytest
from msgspec.structs import replace

from tests.core.lessons.test_learning import ODD
from umbra_awl.core.lessons.trials import CAUTION, TRIALS, answer_of, settles, trials_for, tried_out

BY_KEY = {trial.key: trial for trial in TRIALS}
ANSWERS = {
    "length": ("12", lambda made: made.display.length, 12),
    "small": ("ABC", lambda made: made.display.upper, True),
    "signs": ("ABC123-/", lambda made: made.display.characters, " ABC123-/"),
    "last": ("200", lambda made: made.limits.channels, 200),
    "zones": ("10", lambda made: made.limits.zones, 10),
    "full": ("16", lambda made: made.limits.zone_channels, 16),
    "knob": ("0", lambda made: made.knob_positions, 0),
    "power": ("1, 4", lambda made: made.power_watts, (1.0, 4.0)),
    "receive": ("144-148", lambda made: made.receive[0].high_hz, 148_000_000),
    "calls": ("64", lambda made: made.limits.contacts, 64),
}


@pytest.mark.parametrize("key", [trial.key for trial in TRIALS if trial.field])
def test_what_it_showed_settles_a_value(key):
    answer, get, value = ANSWERS[key]
    made = tried_out(ODD, BY_KEY[key], answer, "2026-11-30")
    assert get(made) == value
    assert answer_of(made, BY_KEY[key]).answer == answer
    assert settles(BY_KEY[key]) != "kept beside the profile"


def test_an_outcome_that_settles_no_value_is_kept_with_its_day():
    made = tried_out(ODD, BY_KEY["tone"], "no", "2026-11-30")
    assert replace(made, taught=None) == ODD
    assert answer_of(made, BY_KEY["tone"]).day == "2026-11-30"
    again = tried_out(made, BY_KEY["tone"], "yes", "2026-12-01")
    assert [item.answer for item in again.taught.trials] == ["yes"]


@pytest.mark.parametrize(("key", "answer"), [("length", "many"), ("power", "low"), ("receive", "VHF"), ("tone", " ")])
def test_what_is_no_outcome_is_refused_with_what_to_type(key, answer):
    with pytest.raises(ValueError, match=r"Type"):
        tried_out(ODD, BY_KEY[key], answer, "2026-11-30")


def test_trials_need_no_sending_and_suit_the_modes():
    assert "None of these needs the key that sends" in CAUTION
    keys = {trial.key for trial in trials_for(replace(ODD, modes=("fm",)))}
    assert len(keys) >= 10
    assert "color" not in keys
