"""Lists that were pasted."""

import csv
import io

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.directory.pasted import pasted_table
from umbra_awl.core.tables.errors import SourceError


def rows(text):
    return list(csv.reader(io.StringIO(pasted_table(text))))


def test_a_table_from_a_spreadsheet_stays_a_table():
    assert rows("Call\tOutput\tShift\nQ0BLK\t145.7125\t-0.6\n") == [
        ["Call", "Output", "Shift"], ["Q0BLK", "145.7125", "-0.6"],
    ]  # fmt: skip


def test_a_table_with_bars_loses_its_rule():
    text = "| Call | Output |\n|------|--------|\n| Q0BLK | 145.7125 |\n"
    assert rows(text) == [["Call", "Output"], ["Q0BLK", "145.7125"]]


def test_a_table_without_headings_gets_some():
    assert rows("Q0BLK;145.7125;-0.6\nQ0NES;438.7875;-7.6\n")[0] == ["Column 1", "Column 2", "Column 3"]


def test_columns_by_gaps():
    made = rows("Call   Site          Output\nQ0BLK  Black fell    145.7125\nQ0NES  Nessa         438.7875")
    assert made[1] == ["Q0BLK", "Black fell", "145.7125"]


def test_lines_of_a_message_are_taken_apart():
    made = rows(
        "Our repeaters this winter:\nQ0BLK Blackfell, 145.7125 MHz -0.6 tone 88.5\nQ0NES Nessa head 438.7875 -7.6 DMR CC3 HM86"
    )
    by_head = [dict(zip(made[0], row, strict=True)) for row in made[1:]]
    assert by_head[0]["Call"] == "Q0BLK"
    assert by_head[0]["Site"] == "Blackfell"
    assert (by_head[0]["Output"], by_head[0]["Shift"], by_head[0]["Tone"]) == ("145.7125", "-0.6", "88.5")
    assert (by_head[1]["Site"], by_head[1]["Mode"], by_head[1]["Color code"]) == ("Nessa head", "DMR", "3")
    assert by_head[1]["Locator"] == "HM86"


def test_two_frequencies_in_a_line_are_both_kept():
    made = rows("Q0BLK Blackfell 145.7125 145.1125\nQ0OSS Oss 145.6500 145.0500")
    by_head = dict(zip(made[0], made[1], strict=True))
    assert (by_head["First frequency"], by_head["Second frequency"]) == ("145.7125", "145.1125")


def test_numbers_with_names_are_talk_groups():
    assert rows("TG 99971 Velmar-wide\n99972: Isles-wide") == [
        ["Number", "Name"], ["99971", "Velmar-wide"], ["99972", "Isles-wide"],
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("text", "says"), [("", "no text to paste"), ("Good evening to all", "is a list"), ("\n \n", "no text")]
)
def test_what_is_no_list_is_refused_with_what_to_do(text, says):
    with pytest.raises(SourceError, match=says):
        pasted_table(text)


@given(st.text(max_size=400))
def test_any_text_is_a_table_or_refused(text):
    try:
        made = rows(text)
    except SourceError:
        return
    assert len(made) >= 2
