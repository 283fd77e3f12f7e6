"""CSV layouts: both ways without loss of what they can hold, clear words for what they cannot."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from tests.examples import examples
from tests.strategies import plans
from umbra_awl.core.columns.csv_guess import guess_layout
from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.csv_out import write_files
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.layout import (
    ColumnLayout,
    FileColumn,
    Sheet,
    faults,
    layout_text,
    own_layouts,
    parse_layout,
    save_layout,
    shipped_layouts,
)
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.columns.round_trip import round_trip
from umbra_awl.core.columns.sample import take_sample
from umbra_awl.core.fit.compare import tried
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.memory import Channel, Memory, MemoryList
from umbra_awl.core.radio.profile_file import shipped_profiles

PROFILES = shipped_profiles()
WIDE, NARROW, SPREAD = shipped_layouts()
CHANNELS = Sheet("channels", "c.csv", (FileColumn("Name", "name"), FileColumn("RX", "rx", "MHz")))


def memory_of(plan, key):
    return tried(PlanIndex(plan, TODAY), PROFILES[key]).memory


def with_real_tones(memory):
    """Tones that are none at all cannot be read back; the plans of the strategy have some."""
    channels = tuple(replace(item, tone_tx="") if item.tone_tx == "nonsense" else item for item in memory.channels)
    return replace(memory, channels=channels)


@given(plans(tidy=True), st.sampled_from(list(PROFILES)))
@examples(60)
def test_the_wide_layout_loses_nothing(plan, key):
    assert round_trip(with_real_tones(memory_of(plan, key)), WIDE).lost == ()


KEPT = "name mode rx_hz tx_hz tone_tx width_hz color_code slot ur rpt1 dgid_tx receive_only".split()


@given(plans(tidy=True), st.sampled_from(list(PROFILES)), st.sampled_from([NARROW, SPREAD]))
@examples(60)
def test_the_other_layouts_bring_back_frequencies_modes_and_what_opens(plan, key, layout):
    memory = with_real_tones(memory_of(plan, key))
    back = round_trip(memory, layout).back
    assert [[getattr(item, field) for field in KEPT] for item in back.channels] == [
        [getattr(item, field) for field in KEPT] for item in memory.channels
    ]
    names = {item.number: item.name for item in memory.channels}
    assert {item.name: sorted(names[at] for at in item.members) for item in back.zones} == {
        item.name: sorted(names[at] for at in item.members) for item in memory.zones
    }


@pytest.mark.parametrize("layout", [WIDE, NARROW, SPREAD], ids=lambda item: item.name)
@pytest.mark.parametrize("key", ["tarn16", "fell-d2", "crag-f3"])
def test_a_layout_guessed_from_files_reads_them_as_the_layout_does(plan, layout, key):
    memory = memory_of(plan, key)
    files = {name: data for name, data in write_files(memory, layout).files.items() if data.count(b"\n") > 2}
    guess = guess_layout([take_sample(name, data) for name, data in files.items()], "Guessed")
    assert faults(guess) == []
    mine = MemoryMaker(read_files(files, guess), key).make()
    known = MemoryMaker(read_files(files, layout), key).make()
    assert mine.channels == known.channels
    assert mine.zones == known.zones
    assert set(round_trip(memory, guess).lost) <= {
        *round_trip(memory, layout).lost,
        "No file holds the scan lists.",
    }


def test_a_guess_takes_units_words_blanks_and_constants_from_the_sample():
    text = (
        "exported by hand\r\n"
        "Ch;Label;Type;Output freq;Shift dir;Shift size;Encode;Squelch;Power;Colour\r\n"
        "1;BLK FM;Analog;438612,5;minus;7600;103,5;off;Low;green\r\n"
        "2;BLK 1;Digital;438612,5;minus;7600;off;off;High;green\r\n"
    )
    sample = take_sample("mine.csv", text.encode("cp1252"))
    layout = guess_layout([sample], "Mine")
    columns = {column.title: column for column in layout.sheet[0].column}
    assert (layout.delimiter, layout.decimal, layout.sheet[0].lead) == (";", ",", ("exported by hand",))
    assert (columns["Output freq"].field, columns["Output freq"].unit) == ("rx", "kHz")
    assert columns["Type"].words == {"fm": "Analog", "dmr": "Digital"}
    assert columns["Encode"].blank == "off"
    assert columns["Power"].words == {"0": "Low", "1": "High"}
    assert columns["Colour"].fixed == "green"
    channels = MemoryMaker(read_files({"mine.csv": text.encode()}, layout)).make().channels
    assert [(item.name, item.mode, item.rx_hz, item.tx_hz, item.tone_tx, item.power) for item in channels] == [
        ("BLK FM", "fm", 438_612_500, 431_012_500, "103.5", 0),
        ("BLK 1", "dmr", 438_612_500, 431_012_500, "", 1),
    ]


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"column": (*CHANNELS.column, FileColumn("RX", "tx", "MHz"))}, "“RX” stands for two fields: Receive frequency and Tr"),
        ({"column": (*CHANNELS.column, FileColumn("Also", "rx"))}, "two columns are chosen for Receive frequency"),
        ({"column": CHANNELS.column[:1]}, "no column is chosen for Receive frequency"),
        ({"column": (*CHANNELS.column, FileColumn("X", "wheels"))}, "“wheels” is not a field"),
        (
            {"column": (*CHANNELS.column, FileColumn("M", "mode", words={"fm": "A", "dmr": "A"}))},
            "writes two of our words as “A”",
        ),
        ({"file": "../c.csv"}, "is not a file name"),
    ],
)  # fmt: skip
def test_a_layout_that_contradicts_itself_is_refused_in_words(change, words, tmp_path):
    layout = ColumnLayout("Mine", (replace(CHANNELS, **change),))
    assert any(words in fault for fault in faults(layout))
    with pytest.raises(ColumnsError, match="is not kept"):
        save_layout(layout, tmp_path)
    assert not list(tmp_path.iterdir())


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"delimiter": ";;"}, "is not a delimiter"),
        ({"decimal": ","}, "cannot be both the delimiter and the decimal mark"),
        ({"encoding": "martian"}, "is not an encoding"),
        ({"name": " "}, "needs a name"),
        ({"sheet": ()}, "names no file"),
        ({"sheet": (CHANNELS, CHANNELS)}, "Two files have the name"),
    ],
)
def test_a_layout_as_a_whole_is_checked(fields, words):
    assert any(words in fault for fault in faults(replace(ColumnLayout("Mine", (CHANNELS,)), **fields)))


def test_a_missing_column_names_itself_and_nothing_is_taken():
    with pytest.raises(ColumnsError, match=r"channels\.csv has no column “Hears MHz”\. It has: Name, Mode"):
        read_files({"channels.csv": b"Name,Mode\r\nA,FM\r\n"}, WIDE)
    with pytest.raises(ColumnsError, match="None of the files of “Wide” is given"):
        read_files({"other.csv": b"a,b\r\n"}, WIDE)


def test_a_bad_cell_is_said_with_its_line_and_only_a_needed_one_costs_the_row():
    text = "Name,Mode,Hears MHz,Slot\r\nA,FM,many,\r\nB,DMR,438.5,two\r\n,FM,145.5,\r\nC,Morse,145.5,\r\n"
    sheets = read_files({"channels.csv": text.encode()}, WIDE)
    assert [row["name"] for row in sheets.tables["channels"]] == ["B"]
    assert [(fault.line, fault.text.split(":")[0]) for fault in sheets.faults] == [
        (2, "Hears MHz"), (3, "Slot"), (4, "There is no name; the row is left out."), (5, "Mode"),
    ]  # fmt: skip


def test_rows_over_the_limit_and_names_over_the_length_are_said():
    sheet = replace(CHANNELS, rows=1, column=(FileColumn("Name", "name", length=3), FileColumn("RX", "rx", "MHz")))
    memory = Memory("", channels=(Channel(1, "LONG NAME", "fm", 145_500_000, 145_500_000), Channel(2, "B", "fm", 1, 1)))
    written = write_files(memory, ColumnLayout("Mine", (sheet,)))
    assert written.files["c.csv"] == b"Name,RX\r\n,145.5\r\n"
    assert "takes 1 row; 1 more is left out" in written.notes[0]
    assert "has 9 characters; the column takes 3" in written.notes[1]


def test_what_must_not_transmit_is_left_out_where_no_column_can_say_so(plan):
    memory = memory_of(plan, "tarn16")
    held = [item.name for item in memory.channels if item.receive_only]
    assert held
    written = write_files(memory, ColumnLayout("Mine", (CHANNELS,)))
    names = [line.split(",")[0] for line in written.files["c.csv"].decode().splitlines()[1:]]
    assert names == [item.name for item in memory.channels if not item.receive_only]
    assert written.notes[0].startswith("No column says “receive only”")
    told = replace(CHANNELS, column=(*CHANNELS.column, FileColumn("RX only", "receive_only")))
    assert (
        len(write_files(memory, ColumnLayout("Mine", (told,))).files["c.csv"].splitlines()) == len(memory.channels) + 1
    )


def test_decimals_that_would_be_lost_are_said_and_not_rounded():
    sheet = replace(CHANNELS, column=(FileColumn("Name", "name"), FileColumn("RX", "rx", "MHz", 3)))
    memory = Memory("", channels=(Channel(1, "A", "fm", 145_712_500, 145_712_500),))
    assert "needs more than 3 decimals" in write_files(memory, ColumnLayout("Mine", (sheet,))).notes[0]


def test_a_character_the_encoding_lacks_is_named():
    memory = Memory("", channels=(Channel(1, "猫", "fm", 145_500_000, 145_500_000),))
    with pytest.raises(ColumnsError, match="“猫” cannot be written as cp1252"):
        write_files(memory, ColumnLayout("Mine", (CHANNELS,), encoding="cp1252"))


def test_members_in_columns_of_their_own():
    columns = (FileColumn("Zone", "name"), *(FileColumn(f"Ch {at}", "member", at=at) for at in (1, 2, 3)))
    layout = ColumnLayout("Mine", (CHANNELS, Sheet("zones", "z.csv", columns)))
    channels = tuple(Channel(at, f"C{at}", "fm", 145_500_000, 145_500_000) for at in (1, 2))
    memory = Memory("", channels=channels, zones=(MemoryList(1, "Home", (2, 1)),))
    trip = round_trip(memory, layout)
    assert trip.written.files["z.csv"] == b"Zone,Ch 1,Ch 2,Ch 3\r\nHome,C2,C1,\r\n"
    assert trip.back.zones == memory.zones


def test_layouts_are_kept_and_found_again_and_a_broken_one_is_said(tmp_path):
    for layout in (WIDE, NARROW, SPREAD):
        assert parse_layout(layout_text(layout)) == layout
    save_layout(replace(SPREAD, name="My Table"), tmp_path)
    (tmp_path / "broken.toml").write_text("name = 3")
    found, wrong = own_layouts(tmp_path)
    assert [item.name for item in found] == ["My Table"]
    assert "“broken.toml” cannot be used" in wrong[0]


@given(st.one_of(st.binary(max_size=300), st.text("Ch,Name;\n0123³²٣.MHzé", max_size=200).map(str.encode)))
@examples(300)
def test_any_bytes_are_a_sample_or_refused_and_read_or_refused(data):
    try:
        layout = guess_layout([take_sample("any.csv", data)], "Any")
    except ColumnsError:
        return
    if not faults(layout):
        try:
            sheets = read_files({"any.csv": data}, layout)
        except ColumnsError:
            return
        MemoryMaker(sheets).make()
