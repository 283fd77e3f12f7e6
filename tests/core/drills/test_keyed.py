"""Entering a memory by keys: the sheet leads to it, slips are told in their moment, what was left on is seen."""

import pytest

from tests.days import TODAY
from umbra_awl.core.drills.keyed import task_of
from umbra_awl.core.drills.keypad_letters import PressError
from umbra_awl.core.drills.keypad_radio import KeypadRadio, keys_of
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.paper.taps import WAIT, taps
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

PROFILES = shipped_profiles()
INDEX = PlanIndex(demo_plan(TODAY), TODAY)
KEYED = [item for item in INDEX.plan.radios if PROFILES[item.profile].keypad is not None]


def task(radio, seed=1, number=None):
    profile = PROFILES[radio.profile]
    return task_of(fit(INDEX, radio, profile), profile, seed, number)


@pytest.mark.parametrize("radio", KEYED, ids=lambda item: item.key)
@pytest.mark.parametrize("seed", range(8))
def test_the_key_sheet_leads_to_the_memory_and_never_under_the_cheapest_way(radio, seed):
    made = task(radio, seed)
    pressed = {key.partition(" until ")[0] for step in made.entered.steps for key in step.keys}
    assert pressed <= {*keys_of(made.keypad), "PTT"}
    told = [made.press(key) for step in made.entered.steps for key in step.keys]
    assert not any(told)
    assert made.wrong() == []
    assert made.verdict().startswith("Right")
    assert made.cheapest > 0
    assert not made.slips


def tarn():
    return next(item for item in KEYED if item.profile == "tarn16")


def menu_of(made, field):
    return next(item for item in made.keypad.menus if item.field == field)


def test_four_of_five_digits_are_not_taken_and_it_is_told_at_once():
    made = task(tarn())
    menu = menu_of(made, "offset")
    before = made.radio.held["offset"]
    told = [made.press(key) for key in (*menu.keys, "0", "7", "6", "0", made.keypad.enter)]
    assert told[-1] == "4 of 5 digits: nothing is taken, the old value stays."
    assert made.radio.held["offset"] == before
    assert made.slips == [told[-1]]
    told = [made.press(key) for key in (*menu.keys, "0", "7", "6", "0", "0", "1")]
    assert "all are typed" in told[-1]
    assert "gone" in made.press(made.keypad.leave)


def test_a_shift_left_on_from_the_memory_before_is_told_when_it_is_saved():
    fitted = fit(INDEX, tarn(), PROFILES["tarn16"])
    plain = next(item for item in fitted.memory.channels if item.rx_hz == item.tx_hz)
    for seed in range(20):
        made = task(tarn(), seed, plain.number)
        if made.radio.held["shift"] != "off":
            break
    for step in made.entered.steps:
        if step.field not in {"shift", "offset"}:
            for key in step.keys:
                made.press(key)
    assert "Shift is" in made.verdict()
    assert any(item.meant == "off" for item in made.wrong())


def test_a_name_before_the_memory_is_saved_and_one_that_is_never_saved_are_told():
    radio = KeypadRadio(PROFILES["syke-f1"].keypad)
    name = next(item for item in radio.keypad.menus if item.field == "name")
    save = next(item for item in radio.keypad.menus if item.kind == "save")
    for key in name.keys[:-1]:
        radio.press(key)
    with pytest.raises(PressError, match="no name before the memory is saved"):
        radio.press(name.keys[-1])
    for key in save.keys:
        radio.press(key)
    for key in (*name.keys, *taps("AB", radio.keypad), radio.keypad.enter):
        radio.press(key)
    assert radio.saved
    assert radio.memories[1]["name"] != "AB"
    for key in save.keys:
        radio.press(key)
    assert not radio.saved
    assert "AB" in radio.memories[1]["name"]


def test_saved_before_it_was_named_is_told():
    made = task(tarn())
    save = menu_of(made, "save")
    told = [made.press(key) for key in (*save.keys, *"001"[: save.width], made.keypad.enter)]
    assert told[-1] == "Saved before it was named: the memory has no name."
    assert "Name is nothing" in made.verdict() or "not as meant" in made.verdict()


def test_keys_that_lead_nowhere_are_said_and_change_nothing():
    radio = KeypadRadio(PROFILES["tarn16"].keypad)
    made = task(tarn())
    held = dict(made.radio.held)
    assert "leads to no menu" in [made.press(key) for key in ("LIST", "9", "9")][-1]
    assert made.radio.held == held
    assert made.verdict() == "Nothing is saved yet."
    assert radio.display()[0]
    assert WAIT in keys_of(radio.keypad)
    assert made.press(WAIT) == ""


def test_a_radio_without_keys_has_no_task():
    other = next(item for item in INDEX.plan.radios if PROFILES[item.profile].keypad is None)
    assert task(other) is None
