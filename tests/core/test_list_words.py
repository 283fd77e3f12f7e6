"""Lists at further edges: what a column holds, what a heading is worth, two ways told at once, columns not named."""

import pytest

from umbra_awl.core.directory.lists import column_values
from umbra_awl.core.directory.lists.guess import guess, guess_of, heading_score, passed_over
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.lists.row_openers import color_of, dgid_of, fm_opened, module_of
from umbra_awl.core.directory.lists.sides import Columns, sides_of
from umbra_awl.core.directory.lists.values import is_status, says_off
from umbra_awl.core.facts.segments import SEGMENTS, usual_way
from umbra_awl.core.facts.shift import NOTHING, Shift, ShiftError, joined, pair_of, pair_told, read_shift
from umbra_awl.core.facts.width import on_raster
from umbra_awl.core.tables.table import open_table


def table(tmp_path, *lines):
    path = tmp_path / "list.csv"
    path.write_text("\n".join(lines) + "\n", "utf-8")
    return open_table(path)


def columns_of(tmp_path, *lines, what=None):
    return guess(table(tmp_path, *lines), what).columns


def test_an_offset_and_a_direction_must_not_say_two_ways():
    minus, plus = Shift(-1, 600_000), Shift(1, None)
    with pytest.raises(ShiftError, match="Its offset says minus and its direction plus"):
        joined(minus, plus)
    with pytest.raises(ShiftError, match="Its offset says plus and its direction minus"):
        joined(Shift(1, 600_000), Shift(-1, None))
    assert joined(minus, Shift(-1, None)) == minus
    assert joined(Shift(None, 600_000), plus) == Shift(1, 600_000)
    assert joined(minus, Shift(0, 0)) == Shift(0, 0)
    assert joined(minus, NOTHING) == minus
    assert joined(NOTHING, Shift(-1, 7_600_000)) == Shift(-1, 7_600_000)


def test_where_both_frequencies_are_told_they_count_and_the_two_ways_are_said():
    pair = pair_told(145_700_000, 145_100_000, Shift(-1, 600_000), Shift(1, None))
    assert pair[:2] == (145_700_000, 145_100_000)
    assert "frequencies were taken" in pair.notes[0]
    for known in ((145_700_000, None), (None, 145_100_000)):
        with pytest.raises(ShiftError, match="offset says minus"):
            pair_told(*known, Shift(-1, 600_000), Shift(1, None))
    with pytest.raises(ShiftError, match="It has no frequency"):
        pair_of(None, None, NOTHING)
    assert pair_of(145_700_000, None, Shift(1, 0))[:2] == (145_700_000, 145_700_000)


def test_every_segment_is_known_at_both_its_ends_and_not_beyond():
    for item in SEGMENTS:
        for hz in (item.low_hz, item.high_hz):
            assert usual_way(hz, hz + item.shift_hz) >= 0
        middle = (item.low_hz + item.high_hz) // 2
        alone = [
            one
            for one in SEGMENTS
            if one.low_hz <= middle + item.shift_hz <= one.high_hz and one.shift_hz == -item.shift_hz
        ]
        if not alone:
            assert usual_way(middle, middle + item.shift_hz) == 1
            assert usual_way(middle + item.shift_hz, middle) == -1
    assert usual_way(439_900_000, 430_500_000) == 1
    assert usual_way(434_700_000, 432_700_000) == 1
    assert usual_way(147_200_000, 147_800_000) == 1
    assert usual_way(438_500_000, 431_500_000) == 1


@pytest.mark.parametrize(("hz", "on"), [
    (118_008_330, True), (118_008_340, True), (118_008_344, False), (145_612_500, True), (145_605_000, True),
    (145_601_000, False),
])  # fmt: skip
def test_ten_hertz_are_let_pass_on_the_third_of_a_raster(hz, on):
    assert on_raster(hz) is on


def test_what_stands_far_behind_in_a_note_is_not_looked_for():
    assert says_off("x" * 390 + " qrt")
    assert not says_off("x" * 400 + " qrt")
    assert is_status("On the air")
    assert not is_status("on")


def test_a_locator_has_four_characters_and_a_shift_is_no_frequency():
    held = column_values.TESTS
    assert held["locator"]("IO46")
    assert not held["locator"]("IO")
    assert held["sign"]("-")
    assert held["sign"]("simplex")
    assert not held["sign"]("-7.6")
    assert held["code"]("D023N")
    assert not held["code"]("x" * 90)


def test_a_column_of_words_of_status_is_one_without_a_heading(tmp_path):
    lines = [
        "Call,RX,TX,Zeug",
        *(f"Q0{name},{mhz},{mhz - 7.6:.4f},QRV" for name, mhz in (("BLK", 438.6125), ("HAR", 438.45))),
    ]
    assert columns_of(tmp_path, *lines)["status"] == "Zeug"
    mixed = [*lines, "Q0SIG,438.775,431.175,good in town", "Q0OSS,438.7,431.1,ask first"]
    assert "status" not in columns_of(tmp_path, *mixed)


def test_people_s_locator_speaks_only_with_its_heading():
    values = ["IO46ab", "IO47cd"]
    assert (
        column_values.evidence("locator", values, "access") > column_values.evidence("locator", values, "people") == 0.0
    )
    assert column_values.evidence("locator", [], "access") == 0.0
    assert column_values.evidence("locator", ["x"], "access") == -70.0
    assert column_values.evidence("note", ["x"], "access") == 0.0


def test_only_lists_of_access_points_have_two_sides(tmp_path):
    made = guess_of(table(tmp_path, "ID,Call,Name", "9990001,Q4WRN,Wren", "9990002,Q3AMB,Amber"))
    assert made.layout.what == "people"
    assert not made.asks
    assert "rx" not in made.layout.columns


def test_an_unnamed_column_of_shifts_is_taken_only_where_none_is_named(tmp_path):
    named = columns_of(tmp_path, "Call,RX,Offset,X", "Q0BLK,438.6125,-7.6,0.6", "Q0HAR,438.45,-7.6,0.6")
    assert named["offset"] == "Offset"
    unnamed = columns_of(tmp_path, "Call,RX,Zeug", "Q0BLK,438.6125,-7.6", "Q0HAR,438.45,-7.6")
    assert unnamed["offset"] == "Zeug"
    signs = columns_of(tmp_path, "Call,RX,Zeug", "Q0BLK,145.7,-", "Q0HAR,147.2,+")
    assert signs["sign"] == "Zeug"
    half = columns_of(tmp_path, "Call,RX,Zeug", "Q0BLK,145.7,-", "Q0HAR,147.2,what")
    assert "sign" not in half


@pytest.mark.parametrize(("heads", "sent", "back"), [
    ("Repeater TX,Repeater RX,Tone TX,Tone RX", "Tone RX", "Tone TX"),
    ("TX,RX,Tone TX,Tone RX", "Tone RX", "Tone TX"),
    ("RX,TX,Tone TX,Tone RX", "Tone TX", "Tone RX"),
    ("Output,Input,Tone TX,Tone RX", "Tone TX", "Tone RX"),
    ("Output,Input,Output tone,Input tone", "Input tone", "Output tone"),
    ("Output,Input,Input CTCSS,Output CTCSS", "Input CTCSS", "Output CTCSS"),
    ("RX,TX,Tone in,Tone out", "Tone in", "Tone out"), ("Output,Input,Access tone,Output tone", "Access tone", "Output tone"),
    ("Ausgabe,Eingabe,Ausgangston,Eingangston", "Eingangston", "Ausgangston"),
    ("Sortie,Entrée,Tonalité sortie,Tonalité entrée", "Tonalité entrée", "Tonalité sortie"),
    ("Salida,Entrada,Tono salida,Tono entrada", "Tono entrada", "Tono salida"),
    ("Uscita,Ingresso,Tono uscita,Tono ingresso", "Tono ingresso", "Tono uscita"),
])  # fmt: skip
def test_tones_stand_on_the_side_that_their_headings_mean(tmp_path, heads, sent, back):
    tones = ("94.8,88.5", "88.5,94.8")["in" in heads.split(",")[2].lower() or "ein" in heads.split(",")[2].lower()]
    made = columns_of(tmp_path, f"Call,{heads}", f"Q0BLK,438.6125,431.0125,{tones}", f"Q0HAR,438.45,430.85,{tones}")
    assert (made["tone"], made["tone_rx"]) == (sent, back)
    assert (made["rx"], made["tx"]) == tuple(heads.split(",")[:2])
    told = guess_of(open_table(tmp_path / "list.csv")).told
    assert told.endswith(f"“{sent}” is the tone that is sent, “{back}” the one that comes back.")


def test_codes_stand_on_their_sides_as_tones_do(tmp_path):
    made = columns_of(tmp_path, "Call,Output,Input,Output DCS,Input DCS", "Q0BLK,438.6125,431.0125,D025N,D023N")
    assert (made["tone"], made["tone_rx"]) == ("Input DCS", "Output DCS")


def test_a_heading_of_tones_that_stands_twice_is_chosen_once(tmp_path):
    once = columns_of(
        tmp_path, "Call,RX,TX,Tone,Tone", "Q0BLK,438.6125,431.0125,94.8,88.5", "Q0HAR,438.45,430.85,94.8,88.5"
    )
    assert once["tone"] == "Tone"
    assert "tone_rx" not in once


def test_a_column_that_looks_like_a_field_is_named_so(tmp_path):
    made = table(tmp_path, "Call,RX,TX,Remark", "Q0BLK,438.6125,431.0125,IO46ab", "Q0HAR,438.45,430.85,IO47cd")
    layout = TableLayout("access", {"call": "Call", "rx": "RX", "tx": "TX"})
    (passed,) = passed_over(made, layout)
    assert (passed.column, passed.value) == ("Remark", "IO46ab")
    assert "IO46ab" in passed.words


def test_a_column_without_a_heading_scores_nothing():
    assert heading_score("Column 3", "frequency rx") == 0.0
    assert heading_score("", "frequency rx") == 0.0
    assert heading_score("[MHz]", "frequency") < 58  # a unit alone chooses no column
    assert heading_score("RX [MHz]", "frequency rx") == 90.0


def test_what_opens_each_mode_is_read_from_where_it_stands():
    said = []
    assert color_of({"mode": "DMR CC6"}, said) == 6
    assert color_of({"mode": "DMR CC6", "color_code": "4"}, said) == 4
    assert color_of({"opens": "CC12"}, said) == 12
    assert said == []
    assert color_of({}, said) == 1
    assert said == ["no color code given, taken as 1"]
    texts = ({"dgid": "07"}, {"opens": "DG-ID 10"}, {"mode": "C4FM DG-ID 12"}, {"dgid": "100"}, {})
    assert [dgid_of(text) for text in texts] == [7, 10, 12, 0, 0]
    told = []
    assert module_of({"module": "c"}, told) == "C"
    assert module_of({"opens": "Port B"}, told) == "B"
    assert module_of({"call": "Q0BLK  A"}, told) == "A"
    assert module_of({"mode": "D-STAR C"}, told) == "C"
    assert told == []
    assert module_of({}, told) == ""
    assert told == ["no D-STAR module told; it is asked before anything is sent"]


def test_of_three_columns_of_frequencies_the_rest_is_asked_for():
    held = Columns(("A", "B", "C"), tuple(("145.7", "145.1", "438.5") for _ in range(3)))
    sides = sides_of(held, "", "", "", None)
    assert sides.asks
    assert sides.asks.startswith("3 columns hold frequencies")


def test_shifts_and_pairs_at_their_very_edges(tmp_path):
    held = column_values.TESTS
    assert held["position"]("46.5, -31.2")
    assert not held["position"]("IO46ab")
    assert not held["position"]("46,52")
    assert usual_way(51_900_000, 51_300_000) == 1
    assert usual_way(52_000_000, 51_400_000) == 1
    assert usual_way(51_300_000, 51_900_000) == -1
    with pytest.raises(ShiftError, match="too long for an offset"):
        read_shift("-" * 200)
    assert read_shift("+/- 7.6").sign is None
    assert read_shift("±0.6").sign is None
    assert joined(Shift(0, 0), Shift(1, 600_000)) == Shift(1, 600_000)


def test_a_tone_and_a_code_without_a_word_which_counts_are_said(tmp_path):
    said = []
    sent, back, burst = fm_opened({"tone": "88.5", "code": "D023N"}, False, said)
    assert (sent, back, burst) == ("88.5", "", False)
    assert "no column says which is in force" in said[0]
    none = []
    assert fm_opened({"tone": "88.5"}, False, none)[0] == "88.5"
    assert none == []
