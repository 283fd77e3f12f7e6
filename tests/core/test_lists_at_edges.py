"""Lists at their edges: what is a frequency, a shift, a heading's meaning; where bands end; values that are too long."""

import pytest

from umbra_awl.core.directory.lists import column_values
from umbra_awl.core.directory.lists.guess import guess, heading_score, passed_over, sides_told
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.lists.sides import (
    Columns,
    frequency_columns,
    is_frequency,
    is_usual_shift,
    meant_by,
    sides_of,
)
from umbra_awl.core.directory.lists.values import parse_any_hz, parse_day, parse_opens
from umbra_awl.core.facts.frequency import FrequencyError
from umbra_awl.core.facts.segments import usual_way
from umbra_awl.core.facts.shift import NOTHING, Shift, ShiftError, pair_of
from umbra_awl.core.facts.width import on_raster
from umbra_awl.core.tables.table import open_table


def table(tmp_path, text):
    path = tmp_path / "list.csv"
    path.write_text(text, "utf-8")
    return open_table(path)


def columns(heads, *rows):
    return Columns(tuple(heads.split(",")), tuple(tuple(row.split(",")) for row in rows))


@pytest.mark.parametrize(
    ("mhz", "is_one"),
    [
        ("27.9", False), ("28", True), ("30", True), ("30.5", False), ("50", True), ("54.1", False), ("70.2", True),
        ("135.9", False), ("136", True), ("174", True), ("174.1", False), ("400", True), ("480", True), ("500", False),
        ("928", True), ("1300", True), ("1300.1", False),
    ],
)  # fmt: skip
def test_a_frequency_lies_where_repeaters_may_be(mhz, is_one):
    assert is_frequency(f"{mhz} MHz") is is_one


def test_a_column_of_tones_is_none_of_frequencies_however_alike_they_look():
    tones = ["136.5", "141.3", "146.2", "151.4"]
    assert frequency_columns(columns("a", *tones)) == []
    assert frequency_columns(columns("a", *tones[:2], "145.6", "145.7")) == []  # as many tones as others
    assert frequency_columns(columns("a", tones[0], "145.6", "145.7")) == [0]
    assert frequency_columns(columns("a", *["145.6"] * 7, "x", "y", "z")) == [0]
    assert frequency_columns(columns("a", *["145.6"] * 6, "w", "x", "y", "z")) == []


@pytest.mark.parametrize(
    ("text", "usual"),
    [("-7.6", True), ("500 kHz", True), ("0.1", True), ("7", False), ("+3.3", False), ("simplex", True), ("x", False)],
)
def test_a_usual_shift_is_written_as_one(text, usual):
    assert is_usual_shift(text) is usual


@pytest.mark.parametrize(
    ("heading", "means"),
    [
        ("Output", "out"), ("Input", "in"), ("Input Output", ""), ("Direct MHz", ""), ("Zendfreq", "tx"), ("RX", "rx"),
        ("Rx Tx", ""), ("Repeater TX", "out"), ("Repeater RX", "in"), ("My TX", "in"), ("User RX", "out"), ("Centre", ""),
        ("Repeater user TX", "tx"),
    ],
)  # fmt: skip
def test_a_heading_means_what_it_plainly_says_and_no_more(heading, means):
    assert meant_by(heading) == means


def test_two_plain_words_need_no_explanation_and_one_explains_the_other():
    row = "438.6500,431.0500"
    assert sides_of(columns("Output,Input", row)) == ("Output", "Input", "", "")
    out = sides_of(columns("Output,MHz 2", row))
    assert out[:2] == ("Output", "MHz 2")
    assert "so “MHz 2” was taken as what is sent on" in out.how
    back = sides_of(columns("MHz 1,Input", row))
    assert back[:2] == ("MHz 1", "Input")
    assert "so “MHz 1” was taken as what is heard" in back.how


def test_of_three_columns_the_two_of_tx_and_rx_are_the_pair_and_of_seven_five_are_named():
    found = sides_of(columns("TX,RX,Link MHz", "438.6500,431.0500,433.0"))
    assert (found.heard, found.sent) == ("TX", "RX")
    assert found.how
    many = sides_of(columns("a,b,c,d,e,f,g", ",".join(["438.65"] * 7)))
    assert many.asks.startswith("7 columns hold frequencies (“a”, “b”, “c”, “d”, “e”). Choose")


def test_evidence_may_speak_for_the_second_column():
    found = sides_of(columns("A,B", "431.0500,438.6500", "431.1875,438.7875"))
    assert (found.heard, found.sent) == ("B", "A")
    assert "(2 lines looked at)" in found.how
    assert "(1 line looked at)" in sides_of(columns("A,B", "431.0500,438.6500")).how


def test_what_lies_further_apart_than_any_shift_is_no_pair():
    rows = ("145.600,70.300,-", "145.625,70.325,-")
    assert sides_of(columns("A,B,Sign", *rows), sign="Sign").asks
    near = ("438.500,432.000,-", "438.525,432.025,-")
    assert sides_of(columns("A,B,Sign", *near), sign="Sign").heard == "A"


def test_a_column_of_shifts_is_known_by_its_values_only_where_none_is_named(tmp_path):
    text = "Call,MHz,{}Pub\nQ0AAA,438.6500,{}-7.6\nQ0AAB,145.6500,{}-0.6\n"
    assert guess(table(tmp_path, text.format("", "", ""))).columns.get("offset") == "Pub"
    named = guess(table(tmp_path, text.format("Offset,", "-7.6 MHz,", "-0.6 MHz,"))).columns
    assert named["offset"] == "Offset"
    assert "Pub" not in named.values()


def test_a_column_of_one_sign_only_is_no_column_of_signs(tmp_path):
    text = "Call,MHz,X\nQ0AAA,438.6500,{}\nQ0AAB,145.6500,{}\n"
    assert guess(table(tmp_path, text.format("-", "+"))).columns.get("sign") == "X"
    assert "sign" not in guess(table(tmp_path, text.format("+", "+"))).columns


def test_a_column_named_for_what_is_sent_stays_so_where_it_is_blank(tmp_path):
    made = guess(table(tmp_path, "Call,RX MHz,TX MHz\nQ0AAA,438.6500,\nQ0AAB,145.6500,\n")).columns
    assert (made["rx"], made["tx"]) == ("RX MHz", "TX MHz")


def test_what_speaks_for_the_columns_is_told_where_they_are_chosen_and_nothing_else(tmp_path):
    pair = table(tmp_path, "Call,A,B\nQ0AAA,438.6500,431.0500\nQ0AAB,438.7000,431.1000\n")
    right = TableLayout("access", {"call": "Call", "rx": "A", "tx": "B"})
    assert sides_told(pair, right).startswith("“A” is what is heard")
    turned = TableLayout("access", {"call": "Call", "rx": "B", "tx": "A"})
    assert "look exchanged" in sides_told(pair, turned)
    assert sides_told(pair, TableLayout("access", {"call": "Call", "rx": "A", "tx": "Call"})) == ""
    none = table(tmp_path, "Call,Name\nQ0AAA,Wren\n")
    assert sides_told(none, TableLayout("access", {"call": "Call"})) == ""


def test_headings_are_scored_by_whole_words_then_by_likeness():
    assert heading_score("Frequency (MHz)", "frequency output") == 90.0
    assert heading_score("output zz", "frequency output") == pytest.approx(40.0)
    assert heading_score("frequenzy", "frequency") == pytest.approx(0.85 * 100 * 8 / 9, abs=2)
    assert heading_score("qqqq", "frequency") == 0.0


def test_single_values_look_like_their_field_or_do_not():
    holds = column_values.TESTS
    assert holds["call"]("Q4WRN")
    assert not holds["call"]("no call")
    assert not holds["sign"]("abc")
    assert holds["sign"]("-")
    assert holds["width"]("12.5")
    assert not holds["width"]("abc")


def test_a_column_that_is_not_used_is_named_with_a_value(tmp_path):
    made = passed_over(table(tmp_path, "Call,MHz,Pub\nQ0AAA,438.65,Anchor\n"), TableLayout("access", {"call": "Call"}))
    assert [item.column for item in made] == ["MHz", "Pub"]
    assert made[0].like


# values


def test_what_is_longer_than_any_value_is_none():
    with pytest.raises(FrequencyError, match="too long"):
        parse_any_hz("4" * 81)
    with pytest.raises(ValueError, match="too long"):
        parse_opens("8" * 81, dmr=False)
    with pytest.raises(ValueError, match="too long"):
        parse_day("2" * 81)


@pytest.mark.parametrize(
    ("text", "hz"),
    [
        ("7.100", 7_100_000), ("438.612.500", 438_612_500), ("438,612.5", 438_612_500), ("10000", 10_000_000),
        ("438612.5", 438_612_500), ("438612500", 438_612_500), ("3999", 3_999_000_000), ("438'612'500", 438_612_500),
    ],
)  # fmt: skip
def test_a_frequency_without_a_unit_is_read_by_its_size(text, hz):
    assert parse_any_hz(text) == hz


@pytest.mark.parametrize(
    ("text", "first", "day"),
    [
        ("12/05/2026", False, "2026-12-05"), ("12/05/2026", True, "2026-05-12"), ("13/05/2026", False, "2026-05-13"),
        ("05/13/2026", True, "2026-05-13"), ("1.2.26", True, "2026-02-01"), ("11/2025", True, "2025-11-01"),
    ],
)  # fmt: skip
def test_a_day_is_read_in_the_order_that_is_usual_unless_it_cannot_be(text, first, day):
    assert parse_day(text, day_first=first) == day


# facts


@pytest.mark.parametrize(
    ("out", "shift", "way"),
    [
        (145_575_000, -600_000, 1), (145_550_000, -600_000, 0), (145_800_000, -600_000, 1), (438_150_000, -7_600_000, 1),
        (438_650_000, -7_600_000, 1), (439_450_000, -7_600_000, 1), (439_475_000, -7_600_000, 0),
        (430_000_000, 9_400_000, 1), (430_390_000, 9_400_000, 1), (430_500_000, 9_400_000, -1),
        (29_600_000, -100_000, 1), (29_700_000, -100_000, 1), (29_800_000, -100_000, 0), (147_390_000, 600_000, 1),
        (438_650_000, -7_500_000, 0),
    ],
)  # fmt: skip
def test_repeaters_send_within_their_segments(out, shift, way):
    assert usual_way(out, out + shift) == way
    assert usual_way(out + shift, out) == -way


def test_a_shift_without_a_sign_stays_inside_the_band():
    assert pair_of(145_725_000, None, Shift(None, 600_000)).tx_hz == 145_125_000
    made = pair_of(144_300_000, None, Shift(None, 600_000))
    assert made.tx_hz == 144_900_000
    assert "minus would leave the band" in " ".join(made.notes)
    back = pair_of(None, 145_725_000, Shift(None, 600_000))
    assert abs(back.rx_hz - 145_725_000) == 600_000
    with pytest.raises(ShiftError, match="not where it is heard"):
        pair_of(None, 145_125_000, NOTHING)


@pytest.mark.parametrize("hz", [438_606_250, 438_612_500, 145_005_000, 118_008_333, 118_008_330])
def test_what_is_on_a_raster(hz):
    assert on_raster(hz)
    assert not on_raster(hz + 1_000)
