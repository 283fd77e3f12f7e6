"""Other people's lists: understood, or said. Offsets, tones, widths, modes and modules as they are really written."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.columns.csv_guess import guess_layout
from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.columns.sample import take_sample
from umbra_awl.core.directory.lists.entry import RefusedError, RowReader
from umbra_awl.core.directory.lists.guess import guess, passed_over
from umbra_awl.core.facts.callsign import base_call, call_suffix
from umbra_awl.core.facts.shift import NOTHING, ShiftError, joined, pair_of, read_direction, read_shift
from umbra_awl.core.facts.width import parse_width
from umbra_awl.core.tables.table import open_table


@pytest.mark.parametrize(
    ("text", "sign", "hz"),
    [
        ("–7,6", -1, 7_600_000), ("—0.6", -1, 600_000), ("‐600", -1, 600_000), ("0,6 −", -1, 600_000),
        ("600 kHz minus", -1, 600_000), ("shift +", 1, None), ("más", 1, None), ("moins 0,6", -1, 600_000),
        ("±7.6", None, 7_600_000), ("+/- 0.6 MHz", None, 600_000), ("RX=TX", 0, 0), ("Simplex", 0, 0), ("?", None, None),
        ("-", -1, None), ("–", -1, None), ("m", -1, None), ("P", 1, None),
    ],
)  # fmt: skip
def test_a_shift_as_people_write_it(text, sign, hz):
    assert read_shift(text) == (sign, hz)


@pytest.mark.parametrize("text", ["duplex", "sideways", "DUP", "yes"])
def test_what_tells_no_shift_is_an_error_and_never_simplex(text):
    with pytest.raises(ShiftError):
        read_shift(text)


def test_a_column_of_directions_must_tell_one():
    with pytest.raises(ShiftError, match="no direction"):
        read_direction("600")
    assert joined(read_shift("7,6"), read_direction("–")) == (-1, 7_600_000)
    assert joined(read_shift("7.6"), read_direction("simplex")) == (0, 0)
    assert joined(read_shift(""), read_direction("-600 kHz")) == (-1, 600_000)


@pytest.mark.parametrize(
    ("rx", "tx", "told", "pair", "says"),
    [
        (438_787_500, None, "7.6", (438_787_500, 431_187_500), "plus stays in the band too"),
        (448_787_500, None, "7.6", (448_787_500, 441_187_500), "plus would leave the band"),
        (421_000_000, None, "5", (421_000_000, 426_000_000), "minus would leave the band"),
        (None, 421_000_000, "5", (426_000_000, 421_000_000), "plus would leave the band"),
        (None, 145_112_500, "0.6", (145_712_500, 145_112_500), "taken as minus"),
        (None, 145_112_500, "-0.6", (145_712_500, 145_112_500), ""),
        (145_712_500, None, "-", (145_712_500, 145_112_500), "size taken as 0.6000"),
        (145_712_500, 145_112_500, "+0.6", (145_712_500, 145_112_500), "the frequencies were taken"),
        (145_712_500, 145_112_500, "0.6", (145_712_500, 145_112_500), ""),
    ],
)
def test_a_pair_from_what_is_told_says_what_nobody_wrote(rx, tx, told, pair, says):
    found = pair_of(rx, tx, read_shift(told))
    assert (found.rx_hz, found.tx_hz) == pair
    assert says in " ".join(found.notes) if says else not found.notes


def test_an_input_alone_is_no_simplex_channel():
    with pytest.raises(ShiftError, match="not where it is heard"):
        pair_of(None, 145_112_500, NOTHING)
    with pytest.raises(ShiftError, match="the size varies"):
        pair_of(438_787_500, None, read_shift("minus"))


@given(st.integers(144_000_000, 448_000_000), st.integers(1, 9_999_999), st.sampled_from("-−–+"))
def test_one_shift_written_in_many_ways_is_one_pair(rx, size, sign):
    mhz = f"{size / 1e6:.6f}"
    ways = [
        pair_of(rx, None, read_shift(f"{sign}{mhz} MHz")),
        pair_of(rx, None, read_shift(f"{mhz.replace('.', ',')} MHz {sign}")),
        pair_of(rx, None, joined(read_shift(f"{size} Hz"), read_direction(sign))),
    ]
    assert {way[:2] for way in ways} == {(rx, rx + (size if sign == "+" else -size))}


@pytest.mark.parametrize(
    ("text", "mode", "width"),
    [
        ("wide", False, 25_000), ("N", False, 12_500), ("12,5", False, 12_500), ("25 kHz", False, 25_000),
        ("20", False, 25_000), ("2 m", False, None), ("", False, None), ("NFM", True, 12_500), ("FM/WFM", True, 25_000),
        ("FM", True, None),
    ],
)  # fmt: skip
def test_a_width_is_told_or_not_told(text, mode, width):
    assert parse_width(text, mode=mode) == width


@pytest.mark.parametrize(("call", "suffix"), [("3QA0VRC", "VRC"), ("Q4WRN/P", "WRN"), ("Q100VELMAR", "VELMAR")])
def test_call_signs_of_unusual_forms_have_their_letters(call, suffix):
    assert call_suffix(call) == suffix
    assert base_call("Q9/Q4WRN/M") == "Q4WRN"


def read(tmp_path, text):
    """The access points of a list, what was refused, and all that was said."""
    path = tmp_path / "list.csv"
    path.write_text(text, "utf-8")
    table = open_table(path)
    layout = guess(table, "access")
    reader = RowReader(layout, table.headers)
    made, said = [], list(reader.unsaid())
    for row in table.rows():
        try:
            access, mended = reader.read(row.cells)
        except RefusedError as error:
            said.append(str(error))
            continue
        made.append(access)
        said += mended
    return made, said, passed_over(table, layout)


def test_a_plus_minus_column_beside_the_size(tmp_path):
    made, _said, passed = read(tmp_path, "Call,Output,+/-,Offset\nQ0BLK,145.7125,–,0.6\nQ0NES,431.1875,+,7.6\n")
    assert [item.services[0].tx_hz for item in made] == [145_112_500, 438_787_500]
    assert not passed


@pytest.mark.parametrize(
    "headings",
    [
        "Rufzeichen;Ausgabe;Ablage;Pilotton;Betriebsart",
        "Indicatif;Fréquence;Décalage;Tonalité;Mode",
        "Indicativo;Frecuencia;Desplazamiento;Subtono;Modo",
        "Nominativo;Frequenza;Scostamento;Tono;Modo",
        "Roepletters;Frequentie;Verschuiving;Subtoon;Mode",
        "Indicativo;Frequência;Desvio;Subtom;Modo",
    ],
)
def test_headings_in_the_larger_languages(tmp_path, headings):
    made, _said, passed = read(tmp_path, f"{headings}\nQ0BLK;145,7125;–0,6;103,5;NFM\nQ0OSS;145,6500;–0,6;;FM\n")
    service = made[0].services[0]
    assert (made[0].call, service.rx_hz, service.tx_hz) == ("Q0BLK", 145_712_500, 145_112_500)
    assert service.air.tone_tx == "103.5"
    assert not passed


def test_tones_codes_and_modes_in_one_word(tmp_path):
    text = (
        "Call,Output,Input,Tone,Mode\nQ0A,438.5,430.9,TSQL 88.5,FM\nQ0B,438.5,430.9,DPL 023,FM\nQ0C,438.5,430.9,D023R,FM\n"
        "Q0D,438.5,430.9,0.0,FM\nQ0E,438.5,430.9,,DMR-CC2\nQ0F,438.5,430.9,,DMR1\nQ0G,438.5,430.9,,P25\n"
    )
    made, said, _passed = read(tmp_path, text)
    assert [item.services[0].air.tone_tx for item in made[:4]] == ["88.5", "D023N", "D023I", ""]
    assert [item.services[0].air.color_code for item in made[4:]] == [2, 1]
    assert len(made) == 6, "an unknown mode is not FM"
    assert any("P25" in text for text in said)


def test_a_module_that_is_not_told_is_asked_and_a_letter_behind_the_call_is_it(tmp_path):
    made, said, _passed = read(
        tmp_path, "Call,Output,Input,Mode\nQ0SIG  B,438.45,430.85,D-STAR\nQ0TRK,438.55,430.95,D-STAR\n"
    )
    assert [(item.call, item.services[0].air.module) for item in made] == [("Q0SIG", "B"), ("Q0TRK", "")]
    assert any("module" in text for text in said)


@pytest.mark.parametrize("heads", ["Lat;Lon", "Latitude;Longitude", "Breite;Länge", "Latitud;Longitud", "LAT.;LON."])
@pytest.mark.parametrize("row", ["46,52;-31,02", "46,5200;-31,0200", "+46,52;-31,02", "46.52;-31.02"])
def test_an_angle_with_a_decimal_comma_is_one_angle_and_not_two(tmp_path, heads, row):
    text = f"Call;MHz;Shift;{heads}\n" + f"Q0BLK;438,6125;-7,6;{row}\n" * 3
    made, _said, passed = read(tmp_path, text)
    assert not passed
    assert (made[0].lat, made[0].lon) == (46.52, -31.02)


def test_what_opens_each_may_stand_in_one_column_for_all_modes(tmp_path):
    text = (
        "Call;MHz;Shift;Mode;Opens with\nQ0BLK;438,6125;-7,6;DMR;CC6\nQ0QUA;439,0500;-7,6;FM;94,8\n"
        "Q0SIG;438,4500;-7,6;D-STAR;B\nQ0TRK;438,9000;-7,6;Fusion;DG-ID 10\n"
    )
    made, said, _passed = read(tmp_path, text)
    airs = [item.services[0].air for item in made]
    assert (airs[0].color_code, airs[1].tone_tx, airs[2].module, airs[3].dgid_tx) == (6, "94.8", "B", 10)
    assert not [word for word in said if "module" in word or "color" in word]


def test_a_number_is_no_position_a_locator_no_call_and_a_band_no_width(tmp_path):
    _made, _said, passed = read(
        tmp_path, "Call,Freq,Position,Band\nQ0BLK,145.7125,46,2 m\nQ0HAR,439.0125,12345,70 cm\n"
    )
    assert [(item.column, item.like) for item in passed] == [("Position", "Position"), ("Band", "")]
    made, _said, _passed = read(tmp_path, "A,B,C,D\nHN46MN,Q0BLK,145.7125,-0.6\nHN46XA,Q0HAR,439.0125,-7.6\n")
    assert [item.call for item in made] == ["Q0BLK", "Q0HAR"]
    assert made[0].lat is not None


def test_what_no_column_tells_is_said_once(tmp_path):
    _made, said, _passed = read(tmp_path, "Call,RX,TX\nQ0BLK,145.7125,145.1125\n")
    assert [text.split(".")[0] for text in said] == [
        "No column tells the width of FM channels",
        "No column tells the mode",
    ]


def brought(text):
    """The channels of a radio's file, and what was said."""
    files = {"channels.csv": text.encode()}
    layout = guess_layout([take_sample("channels.csv", files["channels.csv"])], "guessed")
    sheets = read_files(files, layout)
    maker = MemoryMaker(sheets)
    memory = maker.make()
    return memory.channels, [fault.text for fault in (*sheets.faults, *maker.faults)]


def test_bring_reads_offsets_as_import_does():
    channels, said = brought(
        "Name,RX,Shift,Offset,Mode,Width\nA,145.7125,–,0.6,FM,12.5\nB,438.7875,,±7.6,FM,25\nC,145.7125,DUP-,600 kHz,NFM,\n"
        "D,145.7125,sideways,0.6,FM,12.5\nE,145.5,S,,FM,12.5\n"
    )
    assert [channel.tx_hz for channel in channels] == [145_112_500, 431_187_500, 145_112_500, 145_112_500, 145_500_000]
    assert [channel.receive_only for channel in channels] == [False, False, False, True, False]
    assert any("plus stays in the band too" in text for text in said)
    assert any("so it only listens" in text for text in said)


def test_bring_does_not_make_fm_of_an_unknown_mode_and_says_what_it_took():
    channels, said = brought(
        "Name,RX,TX,Mode\nA,438.6125,431.0125,DMR CC6\nB,438.6125,431.0125,DMR\nC,145.5,145.5,P25\nD,145.5,145.5,FM\n"
    )
    assert [(channel.name, channel.mode, channel.color_code) for channel in channels] == [
        ("A", "dmr", 6),
        ("B", "dmr", 1),
        ("D", "fm", 0),
    ]
    assert any("no color code; 1 is taken" in text for text in said)
    assert any("no width; narrow is taken" in text for text in said)
    assert any("P25" in text and "left out" in text for text in said)


@pytest.mark.parametrize(
    ("tx", "told", "notes"),
    [
        (145_112_500, "+0.6", ("the offset says +0.6000, the two frequencies −0.6000; the frequencies were taken",)),
        (145_112_500, "-0.7", ("the offset says −0.7000, the two frequencies −0.6000; the frequencies were taken",)),
        (
            145_112_500,
            "+",
            ("the offset says another direction, the two frequencies −0.6000; the frequencies were taken",),
        ),
        (
            145_712_500,
            "-",
            ("the offset says another direction, the two frequencies 0.0000; the frequencies were taken",),
        ),
        (145_112_500, "-0.6", ()),
        (145_112_500, "-", ()),
        (145_712_500, "simplex", ()),
        (145_112_500, "", ()),
    ],
)
def test_an_offset_beside_both_frequencies_is_held_against_them(tx, told, notes):
    assert pair_of(145_712_500, tx, read_shift(told)).notes == notes


def test_a_shift_of_nothing_is_simplex_whichever_its_sign():
    assert pair_of(145_500_000, None, read_shift("+0")).tx_hz == 145_500_000
    assert pair_of(145_500_000, None, read_shift("-0,0 MHz")).tx_hz == 145_500_000


@pytest.mark.parametrize(
    ("text", "width"),
    [
        ("5", 12_500), ("4.9", None), ("15", 12_500), ("15.1", 25_000), ("50", 25_000), ("50.1", None), ("12500", 12_500),
        ("25000 Hz", 25_000),
    ],
)  # fmt: skip
def test_widths_in_kilohertz_and_hertz_at_their_edges(text, width):
    assert parse_width(text) == width


@pytest.mark.parametrize(
    ("heads", "names"),
    [
        ("Channel,Name", ["Hill", "Head"]),
        ("Numéro,Nom", ["Hill", "Head"]),
        ("Nr,Kanal", ["Hill", "Head"]),
    ],
)
def test_bring_tells_a_channels_number_from_its_name(heads, names):
    channels, _said = brought(f"{heads},RX,TX,Mode\n1,Hill,145.7125,145.1125,FM\n2,Head,438.7875,431.1875,FM\n")
    assert [item.name for item in channels] == names


def test_bring_tells_a_zone_from_a_name():
    channels, _said = brought(
        "Zone,Channel name,RX,TX,Mode\nHome,Hill,145.7125,145.1125,FM\nHome,Head,438.7875,431.1875,FM\n"
    )
    assert [item.name for item in channels] == ["Hill", "Head"]


@pytest.mark.parametrize("heads", ["Frequency,Gegenfrequenz", "QRG A,QRG B", "RX,Flurb", "Flurb,TX"])
def test_bring_takes_two_columns_of_frequencies_as_a_pair(heads):
    channels, _said = brought(f"Name,{heads},Mode\nHill,145.7125,145.1125,FM\nHead,438.7875,431.1875,FM\n")
    assert [(item.rx_hz, item.tx_hz) for item in channels] == [(145_712_500, 145_112_500), (438_787_500, 431_187_500)]


def test_bring_takes_a_column_of_shifts_whatever_it_is_called():
    channels, _said = brought("Name,Frequency,Flurb,Mode\nHill,145.7125,-0.6,FM\nHead,438.7875,-7.6,FM\n")
    assert [item.tx_hz for item in channels] == [145_112_500, 431_187_500]


@pytest.mark.parametrize(("low", "high"), [("wenig", "viel"), ("Bassa", "Alta"), ("faible", "fort"), ("laag", "hoog")])
def test_bring_reads_power_in_the_words_of_other_hands(low, high):
    channels, said = brought(
        f"Name,RX,TX,Mode,Leistung\nHill,145.7125,145.1125,FM,{high}\nHead,438.7875,431.1875,FM,{low}\n"
    )
    assert channels[0].power > channels[1].power
    _channels, said = brought("Name,RX,TX,Mode,Power\nHill,145.7125,145.1125,FM,flurb\nHead,438.7,431.1,FM,high\n")
    assert any("flurb" in text for text in said)


def test_bring_of_a_heading_that_stands_twice_takes_the_first_as_it_stands():
    channels, _said = brought("Name,RX,TX,Mode,Tone,Tone\nHill,145.7125,145.1125,FM,88.5,103.5\n")
    assert (channels[0].tone_tx, channels[0].tone_rx) == ("88.5", "")
