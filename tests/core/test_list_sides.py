"""Which column a repeater sends on: by meaning and evidence, told; asked where nothing tells; never simplex by ignorance."""

import json

import pytest
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_reading_lists import read
from umbra_awl.core.directory.importing import read_incoming, take
from umbra_awl.core.directory.lists.guess import guess, guess_of
from umbra_awl.core.directory.store import Store
from umbra_awl.core.tables.table import open_table
from umbra_awl.shell.main import main

PAIRS = (("438.7875", "431.1875"), ("145.7125", "145.1125"), ("439.0125", "431.4125"))
"""What is heard and what is sent on, as the region has it."""
HEADINGS = """
    Output/Input Ausgabe/Eingabe Ausgang/Eingang Sortie/Entrée Salida/Entrada Uscita/Ingresso Uitgang/Ingang Saída/Entrada
    Downlink/Uplink TX/RX RX/TX Transmit/Receive Receive/Transmit Sendefrequenz/Empfangsfrequenz Empfang/Senden Émission/Réception
    Réception/Émission Emisión/Recepción Recepción/Transmisión Trasmissione/Ricezione Ricezione/Trasmissione Zenden/Ontvangst
    Ontvangst/Zenden Transmissão/Recepção Recepção/Emissão QRG/QRG Frequenz/Ablagefrequenz F1/F2 A/B Freq/Freq Frequency/Repeater
    Relais/Gerät RepeaterTX/RepeaterRX RepeaterRX/RepeaterTX RadioRX/RadioTX Hören/Sprechen Fréquence/Fréquence Canal/Par
    Frecuencia/Pareja Frequenza/Coppia Frequentie/Paar Frequência/Par MHz/MHz Kanal/Gegenkanal
""".split()


def lists(heads, pairs, order=1, more=()):
    columns = [f"Call,{','.join(heads[::order])},Mode{''.join(f',{head}' for head, _value in more)}"]
    for number, pair in enumerate(pairs):
        columns.append(
            f"Q0A{chr(65 + number)},{','.join(pair[::order])},FM{''.join(f',{value}' for _head, value in more)}"
        )
    return "\n".join(columns) + "\n"


@pytest.mark.parametrize("heads", HEADINGS)
@pytest.mark.parametrize("order", [1, -1])
def test_whatever_two_columns_are_called_a_pair_is_a_pair_and_the_right_way_round(tmp_path, heads, order):
    made, _said, _passed = read(tmp_path, lists(heads.split("/"), PAIRS, order))
    pairs = [(f"{one.services[0].rx_hz / 1e6:.4f}", f"{one.services[0].tx_hz / 1e6:.4f}") for one in made]
    plain = not heads.startswith("RepeaterRX")
    assert pairs == [tuple(pair if plain else pair[::-1]) for pair in PAIRS]


UNPLACED = (("442.5000", "447.5000"), ("434.6000", "433.0000"))
"""Pairs that lie the one way round in one country and the other in the next."""


@pytest.mark.parametrize("order", [1, -1])
@pytest.mark.parametrize("heads", ["TX/RX", "A/B", "Frequency/TX", "Sendefrequenz/Empfangsfrequenz"])
def test_what_nothing_tells_is_asked_once_for_the_file(tmp_path, heads, order):
    path = tmp_path / "list.csv"
    path.write_text(lists(heads.split("/"), UNPLACED, order))
    found = guess_of(open_table(path))
    assert "Choose the column that is heard" in found.asks
    assert not {"rx", "tx"} & found.layout.columns.keys()
    done = CliRunner().invoke(main, ["import", str(path), "--what", "access", "--store", str(tmp_path / "s"), "--json"])
    assert done.exit_code == 1
    assert json.loads(done.stdout)["rows"] == 0


@pytest.mark.parametrize(("offset", "heard"), [("-5", "439.5"), ("+5", "434.5"), ("minus 5 MHz", "439.5")])
def test_the_sign_of_an_offset_beside_tells(tmp_path, offset, heard):
    made, said, _ = read(tmp_path, lists(("TX", "RX"), [("439.5", "434.5")], more=[("Offset", offset)]))
    assert f"{made[0].services[0].rx_hz / 1e6:g}" == heard
    assert not [text for text in said if "the offset says" in text]


def test_what_is_known_already_tells(tmp_path):
    path = tmp_path / "one.csv"
    path.write_text("Call,Output,Input,Mode\nQ0AA,439.5,434.5,FM\n")
    store, table = Store(tmp_path / "s.sqlite"), open_table(path)
    take(store, read_incoming(store, table, guess(table)), "2026-11-24T00:00:00")
    other = tmp_path / "two.csv"
    other.write_text("Call,RX,TX,Mode\nQ0AA,434.5,439.5,FM\nQ0AB,434.6,439.6,FM\n")
    from umbra_awl.core.directory.importing import pairs_of

    found = guess_of(open_table(other), None, pairs_of(store))
    store.close()
    assert (found.layout.columns["rx"], found.layout.columns["tx"]) == ("TX", "RX")
    assert "known already" in found.told


def test_columns_that_were_chosen_against_the_evidence_are_told(tmp_path):
    path = tmp_path / "one.csv"
    path.write_text(lists(("TX", "RX"), PAIRS))
    table = open_table(path)
    layout = guess(table)
    wrong = type(layout)("access", layout.columns | {"rx": "RX", "tx": "TX"})
    store = Store(tmp_path / "s.sqlite")
    report = read_incoming(store, table, wrong).report
    store.close()
    assert "look exchanged" in report[0].text


def test_tones_are_seen_from_the_radio_as_the_frequencies_are(tmp_path):
    text = "Call,TX,RX,Tone TX,Tone RX\nQ0AA,438.7875,431.1875,67.0,103.5\nQ0AB,145.7125,145.1125,67.0,88.5\n"
    made, _said, _ = read(tmp_path, text)
    air = made[0].services[0].air
    assert (air.tone_tx, air.tone_rx) == ("103.5", "67.0")


@pytest.mark.parametrize("none", ["ohne", "sem", "none", "sans", "senza", "sin tono", "geen", "–", "Keiner"])
def test_a_column_of_mostly_no_tone_is_one_and_is_what_opens(tmp_path, none):
    rows = "".join(f"Q0A{chr(65 + at)},145.7125,145.1125,{none}\n" for at in range(9))
    made, _said, _ = read(tmp_path, f"Call,Output,Input,Subton\n{rows}Q0AZ,145.7125,145.1125,103.5\n")
    assert [item.services[0].air.tone_tx for item in made] == [""] * 9 + ["103.5"]
    assert {item.services[0].air.tone_rx for item in made} == {""}


def test_a_heading_of_tones_twice_is_asked_and_nothing_lands_on_receive_alone(tmp_path):
    made, _said, passed = read(tmp_path, "Call,Output,Input,CTCSS,CTCSS\nQ0AA,145.7125,145.1125,88.5,103.5\n")
    assert made[0].services[0].air.tone_tx == "88.5"
    assert made[0].services[0].air.tone_rx == ""
    assert [item.column for item in passed] == ["CTCSS 2"]
    made, _said, _ = read(tmp_path, "Call,Output,Input,Ton RX\nQ0AA,145.7125,145.1125,88.5\n")
    assert (made[0].services[0].air.tone_tx, made[0].services[0].air.tone_rx) == ("88.5", "")


@pytest.mark.parametrize(
    ("text", "tone"),
    [("DCS-023", "D023N"), ("23", "D023N"), ("RD023", "D023I"), ("DCS 023 reverse", "D023I"), ("D-754 inv", "D754I")],
)
def test_codes_as_people_write_them(tmp_path, text, tone):
    made, _said, _ = read(tmp_path, f"Call,Output,Input,Tone\nQ0AA,145.7125,145.1125,{text}\n")
    assert made[0].services[0].air.tone_tx == tone


def test_a_code_joined_to_the_mode_or_in_the_tones_column(tmp_path):
    text = "Call,Output,Input,Mode,Tone\nQ0AA,145.7125,145.1125,FM D023N,\nQ0AB,438.7875,431.1875,DMR,CC6\n"
    made, _said, _ = read(tmp_path, text)
    assert made[0].services[0].air.tone_tx == "D023N"
    assert made[1].services[0].air.color_code == 6


def test_titles_above_the_headings_hemispheres_apart_and_duplex_beside_the_offset(tmp_path):
    text = (
        "Repeaters of the isles,,,,,,,\nas of spring,,,,,,,\n"
        "Call,Output,Duplex,Offset,Lat,N/S,Lon,E/W\nQ0AA,438.7875,duplex,-7.6,46.5,N,31.1,W\nQ0AB,145.5,simplex,0,46.4,S,31.0,E\n"
    )
    made, _said, _ = read(tmp_path, text)
    assert [(item.lat, item.lon) for item in made] == [(46.5, -31.1), (-46.4, 31.0)]
    assert [item.services[0].tx_hz for item in made] == [431_187_500, 145_500_000]


def test_what_is_off_the_air_is_not_live(tmp_path):
    text = "Call,Output,Input,Status\nQ0AA,438.7875,431.1875,On-air\nQ0AB,438.8,431.2,Off-air\nQ0AC,438.8,431.2,außer Betrieb\n"
    made, said, _ = read(tmp_path, text)
    assert [item.call for item in made] == ["Q0AA"]
    assert sum("off the air" in text for text in said) == 2


def test_two_lines_that_differ_are_told_and_not_merged_under_the_newer_date(tmp_path):
    path = tmp_path / "list.csv"
    path.write_text(
        "Call,Site,Output,Input,Mode,Tone,Confirmed\nQ0AA,Hill,145.7125,145.1125,FM,88.5,2026-01-01\n"
        "Q0AA,Hill,145.7125,145.1125,FM,103.5,2026-06-01\n"
    )
    store, table = Store(tmp_path / "s.sqlite"), open_table(path)
    incoming = read_incoming(store, table, guess(table))
    take(store, incoming, "2026-11-24T00:00:00")
    entry = next(iter(store.all_entries()))
    store.close()
    assert (entry.access.services[0].air.tone_tx, entry.access.confirmed) == ("103.5", "2026-06-01")
    told = [line.text for line in incoming.report]
    assert [text for text in told if text.startswith("tone 88.5 and 103.5 in two lines")]


@pytest.mark.parametrize("header", ["Output", "Frequency", "Ausgabe", "QRG"])
def test_one_frequency_alone_is_no_simplex_channel(tmp_path, header):
    path = tmp_path / "list.csv"
    path.write_text(f"Call,{header},Mode\nQ0AA,438.7875,FM\n")
    words = ["import", str(path), "--store", str(tmp_path / "s.sqlite"), "--json"]
    done = CliRunner().invoke(main, words)
    assert done.exit_code == 1
    assert "where the repeaters listen" in json.loads(done.stdout)["asks"]
    assert json.loads(CliRunner().invoke(main, [*words, "--simplex"]).stdout)["added"] == 1


@given(
    st.lists(
        st.text("abcdefghijklmnopqrstuvwxyzäöüéñ /-", min_size=1, max_size=12), min_size=2, max_size=2, unique=True
    ),
    st.sampled_from([1, -1]),
)
def test_no_heading_makes_a_pair_simplex(tmp_path_factory, heads, order):
    folder = tmp_path_factory.mktemp("list")
    made, _said, _passed = read(folder, lists([f"x{head}" for head in heads], PAIRS, order))
    assert all(item.services[0].rx_hz != item.services[0].tx_hz for item in made)
