"""Keys learnt by doing: a radio that nothing shipped resembles is taught with a few memories, and takes all of the plan."""

import pytest
from msgspec.structs import replace

from tests.core.lessons.odd_radio import OddRadio, held, person
from umbra_awl.core.fit.compare import tried
from umbra_awl.core.lessons.letters import TaughtLetters, letters_text, parse_letters
from umbra_awl.core.lessons.parts import PART_OF
from umbra_awl.core.lessons.pressed import pressed_line, typed_line
from umbra_awl.core.lessons.replay import fields_set
from umbra_awl.core.lessons.teaching import (
    examples,
    foretold,
    keep_lesson,
    left_out,
    next_lesson,
    note_tried,
    parts_of,
    state_of,
)
from umbra_awl.core.lessons.understood import KEYS_ONLY, SeenLine, understand
from umbra_awl.core.lessons.values import memory_values
from umbra_awl.core.paper.keysheet import key_sheet
from umbra_awl.core.radio.profile import Display, Limits, NumberSpan, Profile
from umbra_awl.core.radio.profile_file import parse_profile, profile_text
from umbra_awl.core.radio.taught import TaughtKeys

DAY = "2026-11-30"
BANDS = (NumberSpan(144_000_000, 148_000_000), NumberSpan(430_000_000, 450_000_000))
SIGNS = " ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-/+."
ODD = Profile(
    "my-radio", "My radio", "A radio like none", ("fm", "dmr"), 16, Display(12, SIGNS, True),
    BANDS, BANDS, (5.0,), ("always",), Limits(200, 10, 20, contacts=100), ways_in=("file", "keypad"),
)  # fmt: skip


@pytest.fixture
def memory(index):
    return tried(index, ODD).memory


def taught_with(taught, part, channel, memory, profile=ODD):
    values = memory_values(channel, memory, profile)
    lesson = understand(
        person(part.key, channel, memory.contacts), values, part, TaughtLetters(), fields_set(taught, channel.mode)
    )
    assert not lesson.fault, (part.key, lesson.fault)
    assert not lesson.unset, (part.key, lesson.unset)
    return keep_lesson(taught, part, channel.mode, lesson.steps, values, DAY)


def first_lessons(memory):
    """One lesson a part, with the memory that is offered first."""
    taught = TaughtKeys()
    for part in parts_of(ODD):
        if part.key in {"width", "power"}:
            continue
        item = examples(part, memory, ODD)[0]
        taught = taught_with(taught, part, item.channel, memory)
    return taught


def taught_for_all(memory, most=20):
    """What is left to be shown, as it is asked for."""
    taught = first_lessons(memory)
    for _lesson in range(most):
        wanted = next_lesson(memory, replace(ODD, taught=taught))
        if wanted is None:
            break
        taught = taught_with(taught, wanted.part, wanted.item.channel, memory)
    return taught


def typed_into(sheet):
    radio = OddRadio()
    for step in sheet.begin:
        for key in step.keys:
            radio.press(key)
    for entered in sheet.memories:
        if entered.fault:
            continue
        radio._one("BACK")
        for step in entered.steps:
            if step.note.startswith("Only where it asks") and radio.display not in step.note:
                continue
            for key in step.keys:
                radio.press(key)
            if step.shows and step.shows[-1].isdigit():
                assert radio.display in {step.shows, "REPLACE?"}, (step, radio.display)
    return radio


def test_a_few_memories_pressed_once_give_a_sheet_for_all_of_them(memory):
    sheet = key_sheet(memory, replace(ODD, taught=taught_for_all(memory)))
    assert [item.fault for item in sheet.memories if item.fault] == []
    radio = typed_into(sheet)
    wanted = {channel.number: held(channel, memory.contacts) for channel in memory.channels}
    assert len(wanted) > 15
    for number, memory_ in wanted.items():
        there = {name: radio.memories[number].get(name) for name in memory_}
        assert there == memory_, number


def test_the_first_lessons_alone_refuse_what_they_did_not_show(memory):
    sheet = key_sheet(memory, replace(ODD, taught=taught_for_all(memory, 4)))
    radio = typed_into(sheet)
    refused = {item.channel.number for item in sheet.memories if item.fault}
    assert refused
    assert len(refused) < len(sheet.memories)
    for channel in memory.channels:
        if channel.number not in refused:
            there = radio.memories[channel.number]
            assert {name: there.get(name) for name in held(channel, memory.contacts)} == held(channel, memory.contacts)


def test_nothing_is_printed_before_a_frequency_and_a_save_were_taught(memory):
    part = PART_OF["frequency"]
    taught = taught_with(TaughtKeys(), part, examples(part, memory, ODD)[0].channel, memory)
    assert not replace(ODD, taught=taught).by_keys
    save = PART_OF["save"]
    taught = taught_with(TaughtKeys(), save, examples(save, memory, ODD)[0].channel, memory)
    sheet = key_sheet(memory, replace(ODD, taught=taught))
    assert all(item.fault for item in sheet.memories)


def test_what_no_lesson_sets_stands_on_the_sheet_as_not_set(memory):
    taught = taught_for_all(memory)
    mode = PART_OF["mode"]
    without = TaughtKeys(tuple(item for item in taught.lessons if item.part != mode.key))
    only_fm = replace(ODD, modes=("fm",), taught=without)
    sheet = key_sheet(memory, only_fm)
    entered = next(item for item in sheet.memories if not item.fault and item.channel.mode == "fm")
    assert any("width" in step.note for step in entered.steps if step.field == "left")


def test_a_private_call_is_refused_where_no_lesson_showed_its_kind(memory):
    part = PART_OF["contact"]
    at = next(item for item in memory.channels if item.name == "BLK ECHO")
    lines = [line for line in person("contact", at, memory.contacts) if "until" not in line.keys]
    values = memory_values(at, memory, ODD)
    lesson = understand(lines, values, part, TaughtLetters())
    assert lesson.unset == ("call_kind",)
    others = TaughtKeys(tuple(item for item in taught_for_all(memory).lessons if item.part != "contact"))
    only = keep_lesson(others, part, "dmr", lesson.steps, values, DAY)
    sheet = key_sheet(memory, replace(ODD, taught=only), (at.number,))
    assert "calls one person" in sheet.memories[0].fault


def test_a_lesson_is_tried_on_another_memory_and_noted(memory):
    part = PART_OF["frequency"]
    first = examples(part, memory, ODD)[0]
    taught = taught_with(TaughtKeys(), part, first.channel, memory)
    assert state_of(taught, part) == "taught"
    item, steps = foretold(taught, part, memory, ODD, first)
    assert item.channel.rx_hz != first.channel.rx_hz
    assert steps[-1].keys == tuple(str(item.channel.rx_hz // 100))
    assert steps[-1].shows == f"{item.channel.rx_hz / 1e6:.4f}"
    taught = note_tried(taught, part, item.channel.mode, item.values, "2026-12-01")
    assert state_of(taught, part) == "tried"
    assert taught.lessons[0].tried == ("2026-12-01",)


def test_nothing_pressed_for_none_is_a_lesson_too(memory):
    part = PART_OF["tone"]
    with_tone = next(item for item in memory.channels if item.mode == "fm" and item.tone_tx)
    taught = left_out(taught_with(TaughtKeys(), part, with_tone, memory), part, DAY)
    assert {item.when for item in taught.lessons} == {(), (("tone", "off"),)}


@pytest.mark.parametrize(
    ("line", "field", "unit", "full"),
    [
        ("4 3 8 6 1 2 5", "rx", 100, 0),
        ("438612500", "rx", 1, 0),
        ("0 0 4 3 8 6 1 2 5", "rx", 100, 9),
        ("43861", "rx", 10_000, 0),
        ("4 3 8 * 6 1 2 5", "rx", 100, 0),
    ],
)
def test_a_frequency_is_found_in_what_was_typed(line, field, unit, full, memory):
    channel = replace(memory.channels[0], rx_hz=438_612_500, tx_hz=431_012_500)
    values = memory_values(channel, memory, ODD)
    made = understand([SeenLine("FRQ"), SeenLine(line, "438.6125")], values, PART_OF["frequency"], TaughtLetters())
    (seen,) = [step for step in made.steps if step.field]
    assert (seen.field, seen.unit, seen.full) == (field, unit, full)
    assert not made.fault


def test_digits_that_may_be_the_menus_number_are_asked(memory):
    channel = replace(next(item for item in memory.channels if item.mode == "dmr"), color_code=6)
    values = memory_values(channel, memory, ODD)
    made = understand([SeenLine("MENU 6")], values, PART_OF["digital"], TaughtLetters())
    assert set(made.lines[0].doubt) == {"color_code", KEYS_ONLY}
    told = understand([SeenLine("MENU 6", said=KEYS_ONLY)], values, PART_OF["digital"], TaughtLetters())
    assert not told.lines[0].doubt
    assert not told.steps[0].field


def test_letters_by_keys_that_hold_several(memory):
    letters = TaughtLetters(parse_letters("2 ABC2, 3 DEF3, 6 MNO6, 7 PQRS7, 0 _0"), "▶")
    assert letters_text(letters.keys) == "2 ABC2, 3 DEF3, 6 MNO6, 7 PQRS7, 0 _0"
    channel = replace(memory.channels[0], name="NESSA")
    values = memory_values(channel, memory, ODD)
    line = "6 6 3 3 7 7 7 7 ▶ 7 7 7 7 2"
    made = understand([SeenLine(line, "NESSA")], values, PART_OF["name"], letters)
    (seen,) = made.steps
    assert (seen.way, seen.field) == ("letters", "name")
    with pytest.raises(ValueError, match="no key with its letters"):
        parse_letters("2")


@pytest.mark.parametrize(
    ("text", "keys", "until", "asks"),
    [
        ("MENU 35", ("MENU", "3", "5"), "", ""),
        ("hold STO 2s", ("hold STO 2s",), "", ""),
        ("▼ until DUP -", ("▼",), "DUP -", ""),
        ("▲ x3 OK", ("▲", "▲", "▲", "OK"), "", ""),
        ("if it asks REPLACE?: OK", ("OK",), "", "REPLACE?"),
        ("A+B", ("A+B",), "", ""),
    ],
)
def test_a_line_of_keys_is_read_as_it_is_typed(text, keys, until, asks):
    assert pressed_line(text) == (keys, until, asks)
    assert pressed_line(typed_line(keys, until, asks)) == (keys, until, asks)


def test_an_empty_line_is_refused_with_what_to_type():
    with pytest.raises(ValueError, match="as it is printed on the radio"):
        pressed_line("  ")


def test_a_taught_radio_is_kept_as_a_file_and_comes_back_equal(memory):
    profile = replace(ODD, taught=first_lessons(memory))
    assert parse_profile(profile_text(profile)) == profile
