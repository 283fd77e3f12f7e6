"""Key sheets: what they press must end in the intended memory, on every keypad radio."""

import random

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.core.paper.keypad_radio import KeypadRadio
from tests.days import TODAY
from tests.examples import examples
from tests.strategies import plans
from umbra_awl.core.facts.width import NARROW_HZ, WIDE_HZ
from umbra_awl.core.fit.compare import tried
from umbra_awl.core.paper.begin import begin_words
from umbra_awl.core.paper.keys import Manner
from umbra_awl.core.paper.keysheet import key_sheet
from umbra_awl.core.paper.taps import WAIT, CannotTypeError, taps
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.memory import Channel, Contact, HeldSettings, Memory
from umbra_awl.core.radio.profile_check import profile_faults
from umbra_awl.core.radio.profile_edit import from_similar, set_value
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.radio.taken_over import take_part

PROFILES = shipped_profiles()
KEYPADS = [key for key, profile in PROFILES.items() if profile.keypad is not None]


def press_all(radio, steps):
    for step in steps:
        for key in step.keys:
            radio.press(key)
        assert radio.menu is None, f"the menu {step.label} was left open"


def typed(sheet, start=1):
    """The memories that a radio holds after all keys of a sheet were pressed, from whatever state `start` deals.

    Where the radio gives the numbers, by the number that was meant.
    """
    radio = KeypadRadio(sheet.profile.keypad, random.Random(start))
    press_all(radio, sheet.begin)
    for entered in sheet.memories:
        press_all(radio, entered.steps)
    if menu(sheet.profile, "save").width:
        return radio.memories
    there = [entered.channel.number for entered in sheet.memories if not entered.fault]
    return dict(zip(there, radio.memories.values(), strict=True))


def menu(profile, field):
    return next(item for item in profile.keypad.menus if item.field == field)


def sense_of_held(held, profile, full=None):
    """What a held memory means, in hertz and numbers, read as its owner would."""
    full = "shift" not in held if full is None else full
    rx = int(held["rx"]) * menu(profile, "rx").unit_hz
    if full:
        tx = int(held["tx"]) * menu(profile, "tx").unit_hz
    else:
        sign = {"off": 0, "+": 1, "-": -1}[held["shift"]]
        tx = rx + sign * int(held["offset"]) * menu(profile, "offset").unit_hz
    power = menu(profile, "power").values.index(held["power"])
    common = (held["mode"], held["name"], rx, tx, power, held["receive_only"] == "on", held.get("admit", "always"))
    if held["mode"] == "dstar":
        return (*common, *(held[field].ljust(8) for field in ("ur", "rpt1", "rpt2")), held["shift"])
    if held["mode"] == "fusion":
        return (*common, held["way"], held["dgid_tx"], held["dgid_rx"])
    if held["mode"] == "dmr":
        return (*common, int(held["color_code"]), int(held["slot"]), int(held["contact"]), held["call_kind"])
    return (*common, held["width"], *(_tone(held[field]) for field in ("tone_tx", "tone_rx")))


def _tone(text):
    return "" if text in {"off", "0000"} else text if "." in text or text[0] == "D" else f"{int(text) / 10:.1f}"


def sense_of(channel, name, memory):
    common = (channel.mode, name, channel.rx_hz, channel.tx_hz, channel.power, channel.receive_only, channel.admit)
    if channel.mode == "dstar":
        shift = (
            "+"
            if channel.zero_offset or channel.tx_hz > channel.rx_hz
            else "-"
            if channel.tx_hz < channel.rx_hz
            else "off"
        )
        return (*common, channel.ur, channel.rpt1, channel.rpt2, shift)
    if channel.mode == "fusion":
        return (*common, channel.way, f"{channel.dgid_tx:02d}", f"{channel.dgid_rx:02d}")
    if channel.mode == "dmr":
        contact = memory.contacts[channel.contact - 1]
        return (*common, channel.color_code, channel.slot, contact.call, contact.kind)
    return (*common, "wide" if channel.width_hz == WIDE_HZ else "narrow", channel.tone_tx, channel.tone_rx)


@pytest.mark.parametrize("key", KEYPADS)
@pytest.mark.parametrize("options", [{}, {"cheapest": True}, {"cheapest": True, "short": True}])
def test_every_memory_of_the_demo_is_what_was_meant(plan, key, options):
    profile = PROFILES[key]
    memory = tried(PlanIndex(plan, TODAY), profile).memory
    sheet = key_sheet(memory, profile, **options)
    held = typed(sheet)
    assert len(held) == len(memory.channels) > 10
    for entered in sheet.memories:
        assert not entered.fault
        wanted = sense_of(entered.channel, entered.name, memory)
        assert sense_of_held(held[entered.channel.number], profile) == wanted


@pytest.mark.parametrize("key", KEYPADS)
def test_one_memory_alone_is_what_was_meant_whatever_the_radio_held(plan, key):
    profile = PROFILES[key]
    memory = tried(PlanIndex(plan, TODAY), profile).memory
    for start, channel in enumerate(memory.channels):
        (entered,) = key_sheet(memory, profile, (channel.number,)).memories
        held = typed(key_sheet(memory, profile, (channel.number,)), start)
        assert sense_of_held(held[channel.number], profile) == sense_of(channel, entered.name, memory)


@pytest.mark.parametrize("key", KEYPADS)
def test_each_memory_of_a_sheet_that_stands_alone_may_be_typed_in_any_order(plan, key):
    profile = PROFILES[key]
    memory = tried(PlanIndex(plan, TODAY), profile).memory
    sheet = key_sheet(memory, profile, alone=True)
    draw = random.Random(7)
    radio = KeypadRadio(profile.keypad, draw)
    press_all(radio, sheet.begin)
    for entered in draw.sample(sheet.memories, len(sheet.memories)):
        before = set(radio.memories)
        press_all(radio, entered.steps)
        held = radio.memories[max(set(radio.memories) - before)]
        assert sense_of_held(held, profile) == sense_of(entered.channel, entered.name, memory)
    assert sheet.presses > key_sheet(memory, profile).presses


@pytest.mark.parametrize("key", KEYPADS)
@pytest.mark.parametrize("start", range(12))
def test_while_the_guard_is_on_free_tuning_is_prohibited_on_every_half(key, start):
    profile = PROFILES[key]
    memory = Memory(key, settings=HeldSettings(free_tuning=False))
    radio = KeypadRadio(profile.keypad, random.Random(start))
    press_all(radio, key_sheet(memory, profile).begin)
    assert set(radio.free.values()) == {"off"}
    assert radio.stands == {item.field: item.want for item in profile.keypad.begin}
    sending = KeypadRadio(profile.keypad, random.Random(start))
    press_all(sending, key_sheet(Memory(key), profile).begin)
    assert set(sending.free.values()) == {"on"}


@given(plans(tidy=True), st.sampled_from(KEYPADS), st.booleans(), st.booleans(), st.integers(0, 10**6))
@examples(60)
def test_any_memory_is_typed_as_meant_or_said_to_be_beyond_the_keys(plan, key, cheapest, short, start):
    profile = PROFILES[key]
    memory = tried(PlanIndex(plan, TODAY), profile).memory
    sheet = key_sheet(memory, profile, cheapest=cheapest, short=short)
    held = typed(sheet, start)
    for entered in sheet.memories:
        number = entered.channel.number
        assert bool(entered.fault) != (number in held)
        if number in held and (entered.channel.mode != "dmr" or entered.channel.contact):
            assert sense_of_held(held[number], profile) == sense_of(entered.channel, entered.name, memory)


@pytest.mark.parametrize("key", KEYPADS)
def test_the_cheapest_order_and_names_press_fewer_keys(plan, key):
    profile = PROFILES[key]
    memory = tried(PlanIndex(plan, TODAY), profile).memory
    plain = key_sheet(memory, profile)
    ordered = key_sheet(memory, profile, cheapest=True)
    both = key_sheet(memory, profile, cheapest=True, short=True)
    assert plain.presses == plain.as_planned
    assert both.presses < ordered.presses <= plain.presses
    names = [item.name for item in both.memories]
    assert len(set(names)) == len(names)


def test_an_offset_of_seven_point_six_is_typed_as_five_digits(plan):
    profile = PROFILES["tarn16"]
    sheet = key_sheet(tried(PlanIndex(plan, TODAY), profile).memory, profile)
    step = next(
        step for item in sheet.memories for step in item.steps if step.field == "offset" and step.shows == "07600"
    )
    assert step.keys == ("LIST", "0", "4", "0", "7", "6", "0", "0", "LIST")
    assert "Fewer are not taken" in step.note


def test_four_digits_of_an_offset_leave_the_old_one():
    """The slip that the sheet's full width prevents."""
    radio = KeypadRadio(PROFILES["tarn16"].keypad, random.Random(1))
    press_all(radio, key_sheet(Memory("tarn16"), PROFILES["tarn16"]).begin)
    for key in (
        "LIST",
        "0",
        "4",
        *"00600",
        "LIST",
        "LIST",
        "0",
        "4",
        *"7600",
        "LIST",
        "LIST",
        "3",
        "2",
        *"001",
        "LIST",
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
    sheet = key_sheet(tried(PlanIndex(plan, TODAY), loose).memory, loose)
    for item in sheet.memories:
        assert bool(item.fault) == item.channel.receive_only
    assert any("must not transmit" in item.fault for item in sheet.memories)


def test_the_step_that_saves_is_marked_and_comes_last(plan):
    profile = PROFILES["tarn16"]
    for item in key_sheet(tried(PlanIndex(plan, TODAY), profile).memory, profile).memories:
        assert [step.saves for step in item.steps] == [False] * (len(item.steps) - 1) + [True]


def without(profile, *fields):
    """The profile with some menus of its keypad taken out."""
    menus = tuple(item for item in profile.keypad.menus if item.field not in fields)
    return replace(profile, keypad=replace(profile.keypad, menus=menus))


@pytest.mark.parametrize(
    ("field", "change", "said"),
    [
        ("mode", {}, "sets the mode"),
        ("shift", {"tx_hz": 438_900_000}, "sets the shift"),
        ("offset", {"tx_hz": 438_900_000}, "sets the shift frequency"),
        ("tone_tx", {"tone_tx": "88.5"}, "sets the tone that is sent"),
        ("power", {}, "sets the power"),
        ("contact", {"mode": "dmr", "contact": 1}, "sets the number called"),
        ("color_code", {"mode": "dmr", "contact": 1}, "sets the color code"),
        ("slot", {"mode": "dmr", "contact": 1}, "sets the time slot"),
    ],
)
def test_what_no_menu_sets_and_would_be_sent_all_the_same_is_not_entered(field, change, said):
    tarn = PROFILES["tarn16"]
    channel = replace(Channel(1, "ONE", "fm", 439_500_000, 439_500_000), **change)
    memory = Memory("tarn16", channels=(channel,), contacts=(Contact(1, "ALL", 99900),))
    assert not key_sheet(memory, tarn).memories[0].fault
    (entered,) = key_sheet(memory, without(tarn, field)).memories
    assert said in entered.fault
    assert not entered.steps
    silent = replace(memory, channels=(replace(channel, receive_only=True),))
    assert not key_sheet(silent, without(tarn, field)).memories[0].fault


def test_a_digital_memory_without_anybody_to_call_is_not_entered_unless_it_only_listens():
    tarn = PROFILES["tarn16"]
    channel = Channel(1, "ONE", "dmr", 439_500_000, 439_500_000)
    assert "nobody to call" in key_sheet(Memory("tarn16", channels=(channel,)), tarn).memories[0].fault
    silent = replace(channel, receive_only=True)
    assert not key_sheet(Memory("tarn16", channels=(silent,)), tarn).memories[0].fault


def test_the_mode_comes_first_and_a_profile_that_does_not_say_how_to_begin_says_so(plan):
    gill = PROFILES["gill-p"]
    sheet = key_sheet(tried(PlanIndex(plan, TODAY), gill).memory, gill)
    assert sheet.memories[0].steps[0].field == "mode"
    assert "must show" in begin_words(gill)
    bare = replace(gill, keypad=replace(gill.keypad, begin=()))
    assert "the radio's manual does" in begin_words(bare)


def test_other_power_steps_than_the_menu_was_for_are_never_entered_by_it(plan):
    """A menu of two values would set the higher one for the middle of three steps."""
    tarn = PROFILES["tarn16"]
    mine = set_value(take_part(from_similar(tarn, PROFILES), tarn, "keypad"), "power_watts", "1, 2, 5")
    assert profile_faults(mine) == []
    memory = Memory(mine.key, channels=(Channel(1, "ONE", "fm", 439_500_000, 439_500_000, power=1),))
    assert "sets the power" in key_sheet(memory, mine).memories[0].fault
    crooked = replace(tarn, power_watts=(1.0, 2.0, 5.0), battery=None)
    assert any("power steps" in fault.text for fault in profile_faults(crooked))


def test_the_transmit_frequency_in_full_is_the_same_memory_as_shift_and_offset(plan):
    profile = PROFILES["fell-d2"]
    memory = tried(PlanIndex(plan, TODAY), profile).memory
    sheet = key_sheet(memory, profile, manner=Manner(full=True))
    held = typed(sheet)
    for entered in sheet.memories:
        fields = {step.field for step in entered.steps}
        by_shift = entered.channel.zero_offset
        assert not fields & ({"tx"} if by_shift else {"shift", "offset"})
        if entered.channel.mode == "fm":
            made = sense_of_held(held[entered.channel.number], profile, full=True)
            assert made == sense_of(entered.channel, entered.name, memory)


@pytest.mark.parametrize("key", KEYPADS)
def test_proved_first_it_is_keyed_before_it_is_saved_and_only_where_it_may_send(plan, key):
    profile = PROFILES[key]
    memory = tried(PlanIndex(plan, TODAY), profile).memory
    sheet = key_sheet(memory, profile, manner=Manner(prove=True))
    for entered in sheet.memories:
        fields = [step.field for step in entered.steps]
        assert fields.count("prove") == 1
        assert fields.index("prove") < fields.index("save")
        proving = entered.steps[fields.index("prove")]
        assert ("PTT" in proving.keys) != entered.channel.receive_only
        if not entered.channel.receive_only:
            assert float(proving.shows) * 1e6 == pytest.approx(entered.channel.tx_hz)
    assert typed(sheet) == typed(key_sheet(memory, profile))


def test_where_the_name_comes_after_saving_it_is_saved_named_and_saved_again(plan):
    profile = PROFILES["syke-f1"]
    memory = tried(PlanIndex(plan, TODAY), profile).memory
    (entered,) = key_sheet(memory, profile, (1,)).memories
    assert [step.field for step in entered.steps][-3:] == ["save", "name", "save"]
    name = entered.steps[-2]
    assert name.keys[3:11] == ("WIPE",) * 8, "the default name goes first"
    assert entered.steps[-3].shows == "number it shows"


def test_ones_own_call_sign_is_looked_at_and_no_id_is_on_the_sheet(plan):
    profile = PROFILES["fell-d2"]
    memory = tried(PlanIndex(plan, TODAY), profile).memory
    (own,) = [step for step in key_sheet(memory, profile).begin if step.field == "own_call"]
    assert own.shows == "your own call sign"
    assert not any(char.isdigit() for key in own.keys for char in key)


def test_a_chord_that_cycles_is_on_the_sheet_with_all_its_keys():
    from umbra_awl.core.paper.keys import keys_to
    from umbra_awl.core.radio.keypad import Menu

    keypad = next(profile.keypad for profile in PROFILES.values() if profile.keypad is not None)
    menu = Menu("shift", "Shift", ("hold FUNC", "8"), "cycle", values=("off", "+", "-"))
    assert keys_to(menu, keypad, "off", "-") == ("hold FUNC", "8", "hold FUNC", "8")
    assert keys_to(menu, keypad, "off", "off") == ()
    first, second = keys_to(menu, keypad, None, "-")
    assert first == "hold FUNC"
    assert "8" in second
    assert "-" in second
