"""Files that keep a tone in every row, and say beside it which is in force: brought in, and there and back."""

import csv
import io

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from umbra_awl.core.columns.csv_guess import guess_layout
from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.csv_out import write_files
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.columns.sample import take_sample
from umbra_awl.core.columns.written import with_written, written
from umbra_awl.core.radio.memory import Channel, Memory

HEAD = "Location,Name,Frequency,Duplex,Offset,Tone Mode,Tone,RX Tone,DCS,DCS Polarity,Mode"
ROWS = (
    "1,Blackfell,145.712500,-,0.600000,Tone,103.5,88.5,023,NN,FM",
    "2,Harrowqy,439.250000,-,7.600000,,88.5,88.5,023,NN,FM",
    "3,Little O,439.550000,-,7.600000,DCS,88.5,88.5,131,RR,FM",
    "4,Tarn,439.125000,-,7.600000,TSQL,94.8,94.8,023,NN,FM",
    "5,Calling,145.500000,,0.000000,,88.5,88.5,023,NN,FM",
)
FILE = "channels.csv"


def data_of(*rows):
    return "\n".join((HEAD, *rows, "")).encode()


def brought(data):
    layout = guess_layout([take_sample(FILE, data)], "x")
    maker = MemoryMaker(read_files({FILE: data}, layout))
    return layout, maker.make(), [fault.text for fault in maker.faults]


def tones(memory):
    return {item.name: (item.tone_tx, item.tone_rx) for item in memory.channels}


def cells(data):
    return list(csv.DictReader(io.StringIO(data.decode())))


def test_a_tone_is_sent_only_where_its_column_says_so():
    _layout, memory, told = brought(data_of(*ROWS))
    assert tones(memory) == {
        "Blackfell": ("103.5", ""), "Harrowqy": ("", ""), "Little O": ("D131I", "D131I"), "Tarn": ("94.8", "94.8"),
        "Calling": ("", ""),
    }  # fmt: skip
    assert not [text for text in told if "tone" in text]


def test_there_and_back_the_file_is_the_same_to_the_byte():
    data = data_of(*ROWS)
    layout, memory, _told = brought(data)
    made = write_files(memory, layout)
    assert made.files[FILE] == data.replace(b"\n", b"\r\n")
    assert made.notes == ()


def test_a_channel_that_gets_a_tone_says_so_in_the_column_that_counts():
    layout, memory, _told = brought(data_of(*ROWS))
    changed = (
        replace(memory.channels[1], tone_tx="110.9"),
        replace(memory.channels[0], tone_tx="D754N", tone_rx="D754N"),
    )
    after = cells(write_files(replace(memory, channels=changed), layout).files[FILE])
    assert (after[0]["Tone Mode"], after[0]["Tone"]) == ("Tone", "110.9")
    assert (after[1]["Tone Mode"], after[1]["DCS"], after[1]["DCS Polarity"], after[1]["Tone"]) == (
        "DCS",
        "754",
        "NN",
        "88.5",
    )


def test_what_the_column_has_no_word_for_is_told_and_never_another_kind():
    layout, memory, _told = brought(data_of(*ROWS))
    odd = replace(memory, channels=(replace(memory.channels[0], tone_tx="88.5", tone_rx="D023N"),))
    made = write_files(odd, layout)
    assert cells(made.files[FILE])[0]["Tone Mode"] == ""
    assert any("no word for “mixed”" in note for note in made.notes)


def test_a_word_that_is_not_known_is_asked():
    layout = guess_layout([take_sample(FILE, data_of(ROWS[0], ROWS[1].replace(",,88.5", ",Sideways,88.5")))], "x")
    asked = [column.asked for column in layout.sheet[0].column if column.field == "tone_kind"]
    assert "Sideways" in asked[0]


def test_one_of_each_has_none_and_that_is_said():
    _layout, memory, told = brought(data_of(*ROWS, "6,Odd,145.6,-,0.6,Cross,88.5,88.5,023,NN,FM"))
    assert tones(memory)["Odd"] == ("", "")
    assert [text for text in told if text.startswith("“Odd”")] == [
        "“Odd”: a tone one way and a code the other cannot be told from its columns; it has none."
    ]


def test_a_tone_and_a_code_without_a_column_that_tells_are_said():
    data = b"Name,RX,TX,Tone,DCS\nA,145.7125,145.1125,88.5,023\nB,439.25,431.65,,131\nC,439.5,431.9,94.8,\n"
    _layout, memory, told = brought(data)
    assert tones(memory) == {"A": ("88.5", ""), "B": ("D131N", ""), "C": ("94.8", "")}
    assert len([text for text in told if "no column says which is in force" in text]) == 1


def test_how_it_is_written_can_be_read_and_changed():
    layout, _memory, _told = brought(data_of(*ROWS))
    tone = next(column for column in layout.sheet[0].column if column.field == "tone_tx")
    assert "unused is 88.5" in written(tone, "channels")
    assert with_written(tone, written(tone, "channels"), "channels").idle == "88.5"


PAIRS = st.sampled_from([
    ("", ""), ("88.5", ""), ("94.8", "94.8"), ("D023N", "D023N"), ("D131I", "D131I"), ("103.5", "103.5"),
])  # fmt: skip


@given(st.lists(PAIRS, min_size=1, max_size=8))
def test_any_tones_come_back_as_they_were(pairs):
    layout, _memory, _told = brought(data_of(*ROWS))
    channels = tuple(
        Channel(at, f"C{at}", "fm", 145_712_500, 145_112_500, tone_tx=sent, tone_rx=awaited, width_hz=12_500)
        for at, (sent, awaited) in enumerate(pairs, 1)
    )
    files = write_files(Memory("x", channels=channels), layout).files
    maker = MemoryMaker(read_files(files, layout))
    assert [(item.tone_tx, item.tone_rx) for item in maker.make().channels] == pairs


@pytest.mark.parametrize("words", ["N R", "Normal Inverted"])
def test_senses_in_other_words(words):
    normal, other = words.split()
    rows = (f"1,A,145.7,-,0.6,DCS,88.5,88.5,023,{normal},FM", f"2,B,145.6,-,0.6,DCS,88.5,88.5,023,{other},FM")
    layout, memory, _told = brought(data_of(*rows))
    assert tones(memory) == {"A": ("D023N", "D023N"), "B": ("D023I", "D023I")}
    again = cells(write_files(memory, layout).files[FILE])
    assert [row["DCS Polarity"] for row in again] == [normal, other]
