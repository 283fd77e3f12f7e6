"""Files of other programs brought in, and written back over themselves: equal but for what was changed, cell by cell."""

import csv
import io

import pytest
from msgspec.structs import replace

from umbra_awl.core.columns.csv_guess import guess_layout
from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.csv_out import write_files
from umbra_awl.core.columns.foreign import keep_foreign
from umbra_awl.core.columns.layout import faults
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.columns.sample import take_sample

DIGITAL = """No.,Channel Name,Receive Frequency,Transmit Frequency,Channel Type,Transmit Power,Band Width,Contact,\
Contact Call Type,Contact ID,Radio ID,Transmit Permit,Color Code,Slot,Transmit Inhibit,Ranging
001,Blackfell Local,438.61250,431.01250,D-Digital,High,12.5K,Local,Group Call,99940,Main,Always,6,2,Off,Off
002,Blackfell World,438.61250,431.01250,D-Digital,Low,12.5K,World,Group Call,99901,Main,Same Color Code,6,1,Off,On
003,Tarn FM,145.71250,145.11250,A-Analog,Turbo,25K,,,,Main,Off,1,1,Off,Off
004,Listen,145.50000,145.50000,A-Analog,High,25K,,,,Main,Off,1,1,On,Off
005,Echo,438.61250,431.01250,D-Digital,High,12.5K,Echo,Private Call,99999,Main,Always,6,2,Off,Off
"""
GERMAN = """Kanal;Bezeichnung;Empfang (MHz);Ablage (MHz);Ton senden;Leistung;Hub;Sendesperre
1;Blackfell;145,7125;-0,600;103,5;hoch;schmal;nein
2;Harrowquay;439,2500;-7,600;;niedrig;breit;nein
3;Hoeren;145,5000;0,000;;hoch;schmal;ja
"""
KILOHERTZ = """Ch,Label,RX kHz,Shift kHz,Step,Tone,PWR,Skip,Comment
001,BLKFELL,145712.5,-600,12.5,103.5,H,,near home
002,HARROW,439250,-7600,25,,L,S,
003,CALL,145500,0,12.5,,H,,
"""
ZONES = """Zone Name,Channel Name,RX Freq,TX Freq,Mode,TG,CC,TS,RX Only
Home,Blackfell Local,438.6125,431.0125,DMR,99940,6,2,N
Home,Tarn FM,145.7125,145.1125,FM,,,,N
Away,Harrow World,439.5500,431.9500,DMR,99901,3,1,Y
"""
FILES = {"digital": DIGITAL, "german": GERMAN, "kilohertz": KILOHERTZ, "zones": ZONES}
FILE = "channels.csv"


def brought(text):
    layout = guess_layout([take_sample(FILE, text.encode())], "x")
    maker = MemoryMaker(read_files({FILE: text.encode()}, layout))
    memory = maker.make()
    assert faults(layout) == []
    return layout, memory, [fault.text for fault in maker.faults]


def back(text, memory, layout):
    made = write_files(memory, layout)
    assert made.notes == ()
    kept = keep_foreign(text.encode(), made.files[FILE].decode(), layout.sheet[0], layout)
    rows = [list(csv.reader(io.StringIO(data), delimiter=layout.delimiter)) for data in (text, kept.text)]
    return [
        (was[1], head, one, other)
        for was, now in zip(*rows, strict=True)
        for head, one, other in zip(rows[0][0], was, now, strict=True)
        if one != other
    ]


@pytest.mark.parametrize("name", FILES)
def test_there_and_back_no_cell_is_another(name):
    layout, memory, _told = brought(FILES[name])
    assert back(FILES[name], memory, layout) == []


@pytest.mark.parametrize("name", FILES)
def test_what_is_changed_is_changed_in_its_cell_alone(name):
    layout, memory, _told = brought(FILES[name])
    at = next(at for at, item in enumerate(memory.channels) if item.mode == "fm")
    channel = memory.channels[at]
    low = replace(memory, channels=(*memory.channels[:at], replace(channel, power=0), *memory.channels[at + 1 :]))
    changed = back(FILES[name], low, layout)
    assert {(row, head) for row, head, _was, _now in changed} <= {
        (channel.name, head) for head in ("Transmit Power", "Leistung", "PWR")
    }
    assert bool(changed) == (channel.power > 0)


def test_words_of_two_pieces_and_two_words_for_one_are_understood():
    _layout, memory, _told = brought(DIGITAL)
    assert [item.mode for item in memory.channels] == ["dmr", "dmr", "fm", "fm", "dmr"]
    assert [item.admit for item in memory.channels] == ["always", "color", "always", "always", "always"]
    assert [item.receive_only for item in memory.channels] == [False, False, False, True, False]
    assert [(item.name, item.kind) for item in memory.contacts] == [
        ("Local", "group"),
        ("World", "group"),
        ("Echo", "private"),
    ]


def test_widths_locks_and_zones_in_their_words():
    _layout, memory, told = brought(GERMAN)
    assert [(item.width_hz, item.receive_only) for item in memory.channels] == [
        (12_500, False),
        (25_000, False),
        (12_500, True),
    ]
    assert told == []
    assert [(zone.name, zone.members) for zone in brought(ZONES)[1].zones] == [("Home", (1, 2)), ("Away", (3,))]


@pytest.mark.parametrize(("head", "value", "shift_hz"), [
    ("Shift kHz", "-600", -600_000), ("Shift", "-600", -600_000), ("Shift", "-0.6", -600_000), ("Offset Hz", "-600000", -600_000),
    ("Shift MHz", "-7.6", -7_600_000), ("Duplex", "-7600", -7_600_000),
])  # fmt: skip
def test_a_shift_is_of_the_unit_that_its_heading_or_size_says(head, value, shift_hz):
    text = f"Ch,Name,RX,{head}\n1,A,439.2500,{value}\n2,B,439.5500,{value}\n"
    _layout, memory, _told = brought(text)
    assert [item.tx_hz - item.rx_hz for item in memory.channels] == [shift_hz] * 2


def test_a_list_of_groups_that_is_not_given_is_said():
    rows = [f"{name},438.6125,431.0125,DMR,6,2,List 1" for name in "AB"]
    text = "\n".join(("Name,RX,TX,Mode,Color Code,Slot,RX Group List", *rows, ""))
    _layout, _memory, told = brought(text)
    assert [text for text in told if "List 1" in text] == [
        f"“{name}”: opens for “List 1”, which is in no list of groups given." for name in "AB"
    ]
