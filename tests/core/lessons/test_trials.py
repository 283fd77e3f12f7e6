"""Limits found by trying."""

import pytest
from msgspec.structs import replace

from tests.core.card.bench import Bench
from tests.core.lessons.test_learning import ODD
from tests.driver_installed import EXAMPLE, lay_down
from umbra_awl.core.drivers.registry import DRIVERS
from umbra_awl.core.lessons.trials import CAUTION, TRIALS, answer_of, settles, trials_for, tried_out
from umbra_awl.core.radio.profile_check import profile_faults
from umbra_awl.core.radio.profile_file import read_profile
from umbra_awl.core.transfer.card.steps import steps_of
from umbra_awl.core.transfer.protocols import codec_of

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
    "card out": ("SET › CARD › SAVE ALL", lambda made: made.card.write_out, ("SET", "CARD", "SAVE ALL")),
    "card done": ("FINISHED", lambda made: made.card.done, "FINISHED"),
    "card folder": ("FENCO", lambda made: made.card.folder, "FENCO"),
    "card backup": ("STORE", lambda made: made.card.backup, "STORE"),
    "card in": ("SET > CARD > LOAD ALL", lambda made: made.card.read_in, ("SET", "CARD", "LOAD ALL")),
    "card yes": ("2", lambda made: made.card.yes, 2),
    "card restarts": ("yes", lambda made: made.card.restarts, True),
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


def test_a_card_is_asked_for_only_where_there_is_one():
    assert not any(trial.card for trial in trials_for(ODD))
    assert sum(trial.card for trial in trials_for(replace(ODD, ways_in=("card",)))) == 7


def test_a_card_known_by_doing_goes_there_and_back(tmp_path, monkeypatch):
    """A radio that nothing shipped resembles: its card's words by trials, its bytes by the driver that its owner installed."""
    lay_down(tmp_path, monkeypatch)
    DRIVERS.switch_on(frozenset(item.key for item in DRIVERS.installed()))
    from fen_driver.memory import factory

    fen = read_profile(EXAMPLE / "fen_driver" / "fen.toml")
    mine = replace(fen, key="my-fen", name="My Fen", ways_in=("card",), way="", card=None)
    for trial in trials_for(mine):
        if trial.card:
            mine = tried_out(mine, trial, ANSWERS[trial.key][0], "2026-11-30")
    assert [item for item in profile_faults(mine) if item.field.startswith("card")] == []
    bench = Bench(tmp_path / "bench", profile=mine, image=factory())
    told = " ".join(f"{step.title}: {step.how}" for step in steps_of(mine))
    assert "SET › CARD › SAVE ALL" in told
    assert "asks twice" in told
    bench.out()
    assert bench.kept.parts[-2:] == ("FENCO", "STORE")
    assert bench.found().stage == "ready"
    bench.read()
    wanted = bench.memory_of()
    written = bench.send(wanted)
    bench.back()
    bench.load(written.name)
    assert bench.radio.lines[0] == "FINISHED"
    bench.radio.knob.turn_to(wanted.channels[1].name)
    assert bench.radio.lines[0] == wanted.channels[1].name, "its display shows what was sent"
    bench.out()
    held = bench.read()
    assert held.state == "new"
    assert [item.name for item in codec_of(mine).decode(held.image).channels] == [item.name for item in wanted.channels]
    DRIVERS.switch_on(frozenset())


def test_trials_need_no_sending_and_suit_the_modes():
    assert "None of these needs the key that sends" in CAUTION
    keys = {trial.key for trial in trials_for(replace(ODD, modes=("fm",)))}
    assert len(keys) >= 10
    assert "color" not in keys
