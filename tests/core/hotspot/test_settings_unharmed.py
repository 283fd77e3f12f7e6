"""Somebody's settings are not spoilt: only confirmed keys, only what differs, in their own words; all else byte for byte."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.hotspot.match.form_error import FormError
from umbra_awl.core.hotspot.match.forms import BOM, read_pairs, write_pairs
from umbra_awl.core.hotspot.match.layout import (
    SettingKey,
    SettingsLayout,
    asked_keys,
    confirmed,
    guessed,
    read_settings,
    unreached,
    write_settings,
)

THEIRS = """[Modem]
RXFrequency=434612500
TXFrequency=434612500
Duplex=0 ; one antenna
Port=7642
Display Colour=6
Login Name=wren-shed
Color Code=01
sort = 1
sort = 2

[Owner]
Callsign=Q4WRN   # mine
Id=9994217
"""
PLAN = {
    "rx_hz": "434612500", "tx_hz": "434612500", "duplex": "no", "color_code": "1", "call": "Q4WRN", "id": "9994217",
}  # fmt: skip


def test_nothing_guessed_is_written_before_it_is_confirmed():
    layout = guessed(THEIRS)
    assert asked_keys(layout)
    assert write_settings(THEIRS, layout, {**PLAN, "tx_hz": "434650000", "color_code": "7"}) == THEIRS


def test_what_holds_the_planned_value_stays_byte_for_byte():
    layout = guessed(THEIRS)
    layout = confirmed(layout, [key.at for key in layout.key])
    held = read_settings(THEIRS, layout)
    assert write_settings(THEIRS, layout, held) == THEIRS
    assert write_settings(THEIRS, layout, {"color_code": "1", "call": "q4wrn"}) == THEIRS


def test_only_confirmed_keys_that_differ_are_changed_and_comments_stay():
    layout = confirmed(guessed(THEIRS), ["Modem.Duplex", "Modem.TXFrequency"])
    text = write_settings(THEIRS, layout, {**PLAN, "duplex": "yes", "color_code": "9", "call": "Q1VRC"})
    assert text == THEIRS.replace("Duplex=0 ; one antenna", "Duplex=1 ; one antenna")
    left = unreached(layout, PLAN)
    assert "Color code" in left
    assert "Duplex" not in left


@pytest.mark.parametrize(
    ("word", "other"),
    [("off", "on"), ("FALSE", "TRUE"), ("No", "Yes"), ("simplex", "duplex"), ("disabled", "enabled"), ("0", "1")],
)
def test_a_state_is_written_in_the_words_that_stand_there(word, other):
    text = f"duplex = {word}\n"
    layout = SettingsLayout("mine", "env", (SettingKey("duplex", "duplex"),))
    assert write_settings(text, layout, {"duplex": "yes"}) == f"duplex = {other}\n"


def test_a_state_whose_other_word_is_not_known_is_not_written():
    layout = SettingsLayout("mine", "env", (SettingKey("duplex", "duplex"),))
    with pytest.raises(FormError, match="is not known"):
        write_settings("duplex = quark\n", layout, {"duplex": "yes"})


@pytest.mark.parametrize("text", ["just words\nand more\n", "{broken", "\x00\x01 nothing"])
def test_a_file_that_cannot_be_read_is_never_written_to(text):
    layout = SettingsLayout("mine", "json" if text.startswith("{") else "env", (SettingKey("call", "call"),))
    with pytest.raises(FormError):
        write_settings(text, layout, {"call": "Q4WRN"})


def test_of_a_key_that_stands_twice_the_one_that_counts_is_changed_once():
    text = "call=Q0OLD\nnote=x\ncall=Q0NEW"
    assert read_pairs(text, "env")["call"] == "Q0NEW"
    assert write_pairs(text, "env", {"call": "Q4WRN"}) == "call=Q0OLD\nnote=x\ncall=Q4WRN"
    twice = "[a]\nx=1\n[b]\nx=2\n[a]\nx=3\n"
    assert write_pairs(twice, "ini", {"a.x": "9"}) == "[a]\nx=1\n[b]\nx=2\n[a]\nx=9\n"


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        (f"{BOM}[Modem]\r\nCALL = Q0OLD\r\n", f"{BOM}[Modem]\r\nCALL = Q4WRN\r\n"),
        ("[modem]\ncall: Q0OLD\n", "[modem]\ncall: Q4WRN\n"),
        ('[Modem]\nCall="Q0OLD" # who\n', '[Modem]\nCall="Q4WRN" # who\n'),
        ("[Modem]\ncall=Q0OLD", "[Modem]\ncall=Q4WRN"),
    ],
)
def test_marks_capitals_colons_remarks_and_missing_ends_stay(text, wanted):
    layout = SettingsLayout("mine", "ini", (SettingKey("call", "Modem.Call"),))
    assert read_settings(text, layout) == {"call": "Q0OLD"}
    assert write_settings(text, layout, {"call": "Q4WRN"}) == wanted


@given(st.text(st.characters(codec="utf-8", exclude_characters="\r"), max_size=200), st.sampled_from(["ini", "env"]))
def test_writing_what_stands_there_changes_no_byte(text, form):
    try:
        held = read_pairs(text, form)
    except FormError:
        return
    printable = {name: value for name, value in held.items() if value.isprintable()}
    assert write_pairs(text, form, printable) == text
