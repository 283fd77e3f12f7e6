"""Single cells and rows of files at their edges: read, written, refused, and what a memory is made of."""

import pytest

from umbra_awl.core.columns.cells import CellError, read_cell, write_cell
from umbra_awl.core.columns.csv_guess import guess_layout
from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.fields import FIELDS
from umbra_awl.core.columns.layout import ColumnLayout, FileColumn, Sheet
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.columns.sample import MOST_COLUMNS, take_sample
from umbra_awl.core.columns.written import with_written, written

POINT = ColumnLayout("x", ())
COMMA = ColumnLayout("x", (), decimal=",", delimiter=";")


def spec(field, what="channels"):
    return FIELDS[what][field]


def out(value, column, layout=POINT):
    return write_cell(value, column, spec(column.field), layout)


def back(text, column, layout=POINT):
    return read_cell(text, column, spec(column.field), layout)


def test_a_word_that_a_column_has_not_is_refused_and_one_without_words_is_ours():
    with pytest.raises(CellError, match="no word for “free”"):
        out("free", FileColumn("A", "admit", words={"always": "Any"}))
    assert out("always", FileColumn("A", "admit", words={"always": "Any"})) == "Any"
    assert out("free", FileColumn("A", "admit")) == "free"


def test_a_tone_has_the_decimal_mark_of_its_file():
    tone = FileColumn("T", "tone_tx")
    assert (out("88.5", tone), out("88.5", tone, COMMA)) == ("88.5", "88,5")
    assert (back("88,5", tone, COMMA), back("88.5", tone)) == ("88.5", "88.5")
    assert out("A.B", FileColumn("N", "name"), COMMA) == "A.B"


@pytest.mark.parametrize(("length", "good"), [(0, True), (5, True), (4, False)])
def test_a_text_is_as_long_as_the_column_allows(length, good):
    column = FileColumn("N", "name", length=length)
    if good:
        assert out("Abcde", column) == "Abcde"
    else:
        with pytest.raises(CellError, match="has 5 characters; the column takes 4"):
            out("Abcde", column)


@pytest.mark.parametrize(("places", "hz", "text"), [
    (-1, 438_612_500, "438.6125"), (-1, 438_000_000, "438"), (0, 438_000_000, "438"), (4, 438_612_500, "438.6125"),
    (5, 438_612_500, "438.61250"),
])  # fmt: skip
def test_decimals_of_a_frequency(places, hz, text):
    column = FileColumn("F", "rx", places=places)
    assert out(str(hz), column) == text
    assert back(text, column) == str(hz)


def test_decimals_that_are_too_few_are_refused():
    for places in (0, 3):
        with pytest.raises(CellError, match="needs more than"):
            out("438612500", FileColumn("F", "rx", places=places))


@pytest.mark.parametrize(("text", "hz"), [
    ("10000", "10000000000"), ("10000.000001", None), ("-10000.1", None), ("inf", None), ("nan", None), ("0.0000001", None),
    ("145.5", "145500000"), ("abc", None),
])  # fmt: skip
def test_a_frequency_is_in_whole_hertz_and_not_endless(text, hz):
    column = FileColumn("F", "rx")
    if hz is not None:
        assert back(text, column) == hz
    else:
        with pytest.raises(CellError):
            back(text, column)


def test_a_comma_is_a_decimal_mark_where_there_is_no_point():
    column = FileColumn("F", "rx")
    assert back("145,5", column) == "145500000"
    assert back("145,5", column, COMMA) == "145500000"
    with pytest.raises(CellError):
        back("1,438.6", column)


def test_words_of_ours_that_the_field_has_not_are_refused():
    with pytest.raises(CellError, match="is none of group, private"):
        back("team", FileColumn("K", "call_kind"))
    assert back("GROUP", FileColumn("K", "call_kind")) == "group"


def test_a_columns_own_word_for_a_tone_comes_before_its_number():
    column = FileColumn("T", "tone_tx", words={"88.5": "Tone 3"})
    assert back("Tone 3", column) == "88.5"
    assert back("94.8", column) == "94.8"


def test_routing_fields_are_eight_characters_in_capitals_and_other_texts_stay():
    assert back("q0blk  b", FileColumn("R", "rpt1")) == "Q0BLK  B"
    assert back("cq", FileColumn("R", "ur")) == "CQ      "
    assert back("Cq", FileColumn("N", "name")) == "Cq"


# how a column is written, as text


def test_how_a_column_is_written_says_all_of_it_and_is_read_again():
    for column, what in (
        (FileColumn("F", "rx", unit="kHz", places=1), "channels"), (FileColumn("F", "rx", unit="MHz", places=5), "channels"),
        (FileColumn("F", "rx", unit="MHz"), "channels"), (FileColumn("N", "name", blank="-", length=12), "channels"),
        (FileColumn("M", "members", join="|"), "zones"), (FileColumn("P", "power", words={"0": "Low", "1": "High"}), "channels"),
        (FileColumn("T", "tone_tx", idle="88.5", blank="off"), "channels"),
    ):  # fmt: skip
        assert with_written(column, written(column, what), what) == column
    assert written(FileColumn("F", "rx", unit="kHz", places=1), "channels") == "kHz, 1 decimal"
    assert written(FileColumn("F", "rx", unit="kHz", places=0), "channels") == "kHz, 0 decimals"
    assert written(FileColumn("X", fixed="Off"), "channels") == "always Off"
    assert written(FileColumn("X"), "channels") == ""
    assert with_written(FileColumn("X"), "always On", "channels").fixed == "On"
    with pytest.raises(ValueError, match="Write a unit and decimals"):
        with_written(FileColumn("F", "rx"), "furlongs", "channels")


# rows


def made(text, file="channels.csv"):
    data = text.encode()
    layout = guess_layout([take_sample(file, data)], "x")
    maker = MemoryMaker(read_files({file: data}, layout))
    return maker.make(), [fault.text for fault in maker.faults]


def test_numbers_of_channels_are_kept_and_doubled_ones_go_on_behind():
    memory, _told = made("No,Name,RX,TX,Mode\n5,A,145.7,145.1,FM\n5,B,145.6,145.0,FM\n0,C,145.65,145.05,FM\n")
    assert [item.number for item in memory.channels] == [5, 6, 7]


def test_the_mode_is_told_by_what_a_row_has_where_no_column_does():
    memory, told = made(
        "Name,RX,TX,Color Code,Slot,RPT1\nA,438.6,431.0,6,2,\nB,439.5,431.9,,,Q0BLK  B\nC,145.7,145.1,,,\n"
    )
    assert [item.mode for item in memory.channels] == ["dmr", "dstar", "fm"]
    assert (memory.channels[0].color_code, memory.channels[0].slot) == (6, 2)
    assert memory.channels[1].rpt1 == "Q0BLK  B"
    assert told == ["1 channel tells no width; narrow is taken."]


def test_a_contact_that_is_in_no_list_is_said_and_one_by_number_is_made_once():
    memory, told = made(
        "Name,RX,TX,Mode,CC,TS,Contact,Contact ID\nA,438.6,431.0,DMR,6,2,Local,99940\nB,438.6,431.0,DMR,6,1,Local,99940\n"
        "C,438.6,431.0,DMR,6,1,Nobody,\n"
    )
    assert [(item.number, item.name, item.call) for item in memory.contacts] == [(1, "Local", 99_940)]
    assert [item.contact for item in memory.channels] == [1, 1, 0]
    assert told == ["“C” calls “Nobody”, which is in no list of contacts."]


def test_a_zone_that_holds_what_is_not_there_says_so_and_holds_the_rest():
    files = {
        "channels.csv": b"Name,RX,TX,Mode\nA,145.7,145.1,FM\nB,145.6,145.0,FM\n",
        "zones.csv": b"Zone Name,Channels\nHome,A|B|Gone\nAway,B\n",
    }
    layout = guess_layout([take_sample(name, data) for name, data in files.items()], "x")
    maker = MemoryMaker(read_files(files, layout))
    memory = maker.make()
    assert [(item.number, item.name, item.members) for item in memory.zones] == [(1, "Home", (1, 2)), (2, "Away", (2,))]
    assert [fault.text for fault in maker.faults if "Gone" in fault.text] == [
        "“Home” holds the channel “Gone”, which is not there."
    ]


def test_a_short_row_lacks_its_last_cells_and_no_more():
    memory, _told = made("Name,RX,TX,Mode,Tone\nA,145.7,145.1,FM\nB,145.6,145.0,FM,88.5\n")
    assert [(item.name, item.tone_tx) for item in memory.channels] == [("A", ""), ("B", "88.5")]


# samples


def test_what_is_no_table_is_refused():
    for data, said in ((b"", "is empty"), (b"one\ntwo\n", "has no columns"), (b"PK\x03\x04", "is not text")):
        with pytest.raises(ColumnsError, match=said):
            take_sample("x.csv", data)
    wide = ",".join(f"c{at}" for at in range(MOST_COLUMNS + 1))
    with pytest.raises(ColumnsError, match="columns; no radio's file has more"):
        take_sample("x.csv", f"{wide}\n{wide}\n".encode())
    fits = ",".join(f"c{at}" for at in range(MOST_COLUMNS))
    assert len(take_sample("x.csv", f"{fits}\n{fits}\n".encode()).headings) == MOST_COLUMNS
    with pytest.raises(ColumnsError, match="at least one sample"):
        guess_layout([], "x")


def test_lines_before_the_headings_are_kept_as_such():
    found = take_sample("x.csv", b"My radio,,\nName,RX,TX\nA,145.7,145.1\n")
    assert (found.lead, found.headings) == (("My radio,,",), ("Name", "RX", "TX"))
    assert found.values(1) == ["145.7"]
    assert isinstance(guess_layout([found], "x").sheet[0], Sheet)


def test_names_are_joined_by_the_columns_own_mark():
    assert out("A\x1fB", FileColumn("Z", "zone", join="|")) == "A|B"
    assert back("A| B||", FileColumn("Z", "zone", join="|")) == "A\x1fB"


def test_what_a_column_does_not_know_is_said_with_what_it_knows():
    column = FileColumn("A", "admit", words={"always": "Any", "free": "Clear"})
    with pytest.raises(CellError, match="“Maybe” is not known here; it knows Any, Clear, color"):
        back("Maybe", column)
    assert back("clear", column) == "free"


@pytest.mark.parametrize(("text", "number"), [("9999999999", "9999999999"), ("07", "7"), ("12.0", "12")])
def test_a_number_has_ten_digits_at_the_most(text, number):
    assert back(text, FileColumn("C", "contact_number")) == number
    for wrong in ("99999999990", "-1", "1.5", "x"):
        with pytest.raises(CellError, match="is not a number"):
            back(wrong, FileColumn("C", "contact_number"))


def test_a_tone_that_is_no_standard_one_is_kept_for_a_finding_and_no_tone_at_all_is_refused():
    assert back("88,6", FileColumn("T", "tone_tx")) == "88.6"
    for wrong in ("loud", "8.5"):
        with pytest.raises(CellError):
            back(wrong, FileColumn("T", "tone_tx"))
    with pytest.raises(CellError):
        back("D999", FileColumn("T", "code_tx"))


def test_only_names_are_joined():
    with pytest.raises(ValueError, match="is not understood"):
        with_written(FileColumn("N", "name"), "joined by |", "channels")
    assert with_written(FileColumn("Z", "members"), "joined by |", "zones").join == "|"
