"""Key sheets: what they press must end in the intended memory, on every keypad radio."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.core.sheets.keypad_radio import KeypadRadio
from tests.strategies import plans
from umbra_awl.core.facts.width import NARROW_HZ, WIDE_HZ
from umbra_awl.core.fit.compare import tried
from umbra_awl.core.fit.memory import Channel, Memory
from umbra_awl.core.fit.profile_file import shipped_profiles
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.sheets.keys import WAIT, CannotTypeError, taps
from umbra_awl.core.sheets.keysheet import key_sheet

PROFILES = shipped_profiles()
KEYPADS = [key for key, profile in PROFILES.items() if profile.keypad is not None]


def typed(sheet):
    """The memories that a radio holds after all keys of a sheet were pressed."""
    radio = KeypadRadio(sheet.profile.keypad)
    for entered in sheet.memories:
        for step in entered.steps:
            for key in step.keys:
                radio.press(key)
            assert radio.menu is None, f"the menu {step.label} was left open"
    return radio.memories


def menu(profile, field):
    return next(item for item in profile.keypad.menus if item.field == field)


def sense_of_held(held, profile):
    """What a held memory means, in hertz and numbers, read as its owner would."""
    rx = int(held["rx"]) * menu(profile, "rx").unit_hz
    sign = {"off": 0, "+": 1, "-": -1}[held["shift"]]
    tx = rx + sign * int(held["offset"]) * menu(profile, "offset").unit_hz
    power = menu(profile, "power").values.index(held["power"])
    common = (held["mode"], held["name"], rx, tx, power, held["receive_only"] == "on", held.get("admit", "always"))
    if held["mode"] == "dmr":
        return (*common, int(held["color_code"]), int(held["slot"]), int(held["contact"]), held["call_kind"])
    return (*common, held["width"], *(_tone(held[field]) for field in ("tone_tx", "tone_rx")))


def _tone(text):
    return "" if text in {"off", "0000"} else text if "." in text or text[0] == "D" else f"{int(text) / 10:.1f}"


def sense_of(channel, name, memory):
    common = (channel.mode, name, channel.rx_hz, channel.tx_hz, channel.power, channel.receive_only, channel.admit)
    if channel.mode == "dmr":
        contact = memory.contacts[channel.contact - 1]
        return (*common, channel.color_code, channel.slot, contact.call, contact.kind)
    return (*common, "wide" if channel.width_hz == WIDE_HZ else "narrow", channel.tone_tx, channel.tone_rx)


@pytest.mark.parametrize("key", KEYPADS)
@pytest.mark.parametrize("options", [{}, {"cheapest": True}, {"cheapest": True, "short": True}])
def test_every_memory_of_the_demo_is_what_was_meant(plan, key, options):
    profile = PROFILES[key]
    memory = tried(PlanIndex(plan), profile).memory
    sheet = key_sheet(memory, profile, **options)
    held = typed(sheet)
    assert len(held) == len(memory.channels) > 20
    for entered in sheet.memories:
        assert not entered.fault
        wanted = sense_of(entered.channel, entered.name, memory)
        assert sense_of_held(held[entered.channel.number], profile) == wanted


@given(plans(tidy=True), st.sampled_from(KEYPADS), st.booleans(), st.booleans())
@settings(max_examples=60)
def test_any_memory_is_typed_as_meant_or_said_to_be_beyond_the_keys(plan, key, cheapest, short):
    profile = PROFILES[key]
    memory = tried(PlanIndex(plan), profile).memory
    sheet = key_sheet(memory, profile, cheapest=cheapest, short=short)
    held = typed(sheet)
    for entered in sheet.memories:
        number = entered.channel.number
        assert bool(entered.fault) != (number in held)
        if number in held and (entered.channel.mode == "fm" or entered.channel.contact):
            assert sense_of_held(held[number], profile) == sense_of(entered.channel, entered.name, memory)


@pytest.mark.parametrize("key", KEYPADS)
def test_the_cheapest_order_and_names_press_fewer_keys(plan, key):
    profile = PROFILES[key]
    memory = tried(PlanIndex(plan), profile).memory
    plain = key_sheet(memory, profile)
    ordered = key_sheet(memory, profile, cheapest=True)
    both = key_sheet(memory, profile, cheapest=True, short=True)
    assert plain.presses == plain.as_planned
    assert both.presses < ordered.presses <= plain.presses
    names = [item.name for item in both.memories]
    assert len(set(names)) == len(names)


def test_an_offset_of_seven_point_six_is_typed_as_five_digits(plan):
    profile = PROFILES["tarn16"]
    sheet = key_sheet(tried(PlanIndex(plan), profile).memory, profile)
    step = next(
        step for item in sheet.memories for step in item.steps if step.field == "offset" and step.shows == "07600"
    )
    assert step.keys == ("MENU", "0", "4", "0", "7", "6", "0", "0", "MENU")
    assert "Fewer are not taken" in step.note


def test_four_digits_of_an_offset_leave_the_old_one():
    """The slip that the sheet's full width prevents."""
    radio = KeypadRadio(PROFILES["tarn16"].keypad)
    for key in (
        "MENU",
        "0",
        "4",
        *"00600",
        "MENU",
        "MENU",
        "0",
        "4",
        *"7600",
        "MENU",
        "MENU",
        "3",
        "2",
        *"001",
        "MENU",
    ):
        radio.press(key)
    assert radio.memories[1]["offset"] == "00600"


def test_letters_on_the_same_key_have_a_pause_between_them():
    keypad = PROFILES["tarn16"].keypad
    assert taps("ABC", keypad) == ("2", WAIT, "2", "2", WAIT, "2", "2", "2")
    assert taps("AD", keypad) == ("2", "3")
    with pytest.raises(CannotTypeError, match="no key types"):
        taps("é", keypad)


def test_small_letters_are_reached_by_the_case_key():
    keypad = PROFILES["gill-p"].keypad
    assert taps("Ab", keypad) == ("2", "*", "2", "2")
    assert taps("AB", keypad) == ("2", "UP", "2", "2")


def test_what_the_menus_cannot_hold_is_said():
    gill = PROFILES["gill-p"]
    base = Channel(1, "ONE", "fm", 439_500_000, 439_500_000, width_hz=NARROW_HZ)
    channels = (
        replace(base, tone_tx="D023N"),
        replace(base, number=2, rx_hz=439_500_005, tx_hz=439_500_005),
    )
    sheet = key_sheet(Memory("gill-p", channels=channels), gill)
    assert "takes no code such as D023N" in sheet.memories[0].fault
    assert "finer than the menu's 10 Hz" in sheet.memories[1].fault
    with pytest.raises(CannotTypeError, match="not programmed by its keys"):
        key_sheet(Memory("moor4k"), PROFILES["moor4k"])


def test_a_keypad_that_cannot_hold_a_memory_to_listening_does_not_enter_it(plan):
    tarn = PROFILES["tarn16"]
    menus = tuple(item for item in tarn.keypad.menus if item.field != "receive_only")
    loose = replace(tarn, keypad=replace(tarn.keypad, menus=menus))
    sheet = key_sheet(tried(PlanIndex(plan), loose).memory, loose)
    for item in sheet.memories:
        assert bool(item.fault) == item.channel.receive_only
    assert any("must not transmit" in item.fault for item in sheet.memories)


def test_the_step_that_saves_is_marked_and_comes_last(plan):
    profile = PROFILES["tarn16"]
    for item in key_sheet(tried(PlanIndex(plan), profile).memory, profile).memories:
        assert [step.saves for step in item.steps] == [False] * (len(item.steps) - 1) + [True]
