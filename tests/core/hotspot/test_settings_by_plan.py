"""Which key is what, told by the plan's own values: six files in words that nothing here knows, and what must not be taken."""

import json

import pytest

from umbra_awl.core.hotspot.match.forms import form_of, read_pairs
from umbra_awl.core.hotspot.match.guess import guess_keys
from umbra_awl.core.hotspot.match.layout import confirmed, guessed, read_settings, write_settings

PLANNED = {
    "call": "Q4WRN", "id": "999421701", "tx_hz": "434612500", "rx_hz": "433012500", "color_code": "6", "rx_correction": "-150",
    "tx_correction": "75", "duplex": "yes", "module": "D", "rpt1": "Q4WRN  D", "master": "velmar.lattice.invalid",
    "host": "bench-spot",
}  # fmt: skip

FILES = {
    "ini": "[Wer]\nRufzeichen = Q4WRN\nKennung = 999421701\n[Funk]\nAbgang = 434612500\nZugang = 433012500\n"
    "Feinheit1 = -150\nFeinheit2 = +75\nPort = 62031\n[Farbe]\nWert = 6\n",
    "env": "STN=Q4WRN\nNUM=999421701\nF_A=434.6125\nF_B=433.0125\nADJ_A=-150\nADJ_B=75\nLAMP=6\nDOOR=velmar.lattice.invalid\n",
    "json": json.dumps(
        {"who": {"c": "q4wrn", "n": 999421701}, "rf": {"down": 434612.5, "up": 433012.5}, "led": "blue"}
    ),
    "colons": "indicatif: Q4WRN\nnumero: 999421701\nsort: 434612500\nentre: 433012500\nsortie: 22\n",
    "quoted": "A='Q4WRN'\nB='999421701'\nC='434612500'\nD='433012500'\nE='Q4WRN  D'\n",
    "upper": "[S]\nCS=Q4WRN\nI=999421701\nT=434612.5\nR=433012.5\n",
}


def by_field(keys):
    return {key.field: key for key in keys if not key.mode}


@pytest.mark.parametrize("name", FILES)
def test_a_file_of_this_hotspot_is_understood_by_what_it_holds_whatever_its_words(name):
    text = FILES[name]
    found = by_field(guess_keys(read_pairs(text, form_of(text)), PLANNED))
    held = read_settings(text, guessed(text, "own", PLANNED))
    assert {"call", "id", "tx_hz", "rx_hz"} <= found.keys()
    assert (held["tx_hz"], held["rx_hz"], held["id"]) == (PLANNED["tx_hz"], PLANNED["rx_hz"], PLANNED["id"])
    assert held["call"].upper() == "Q4WRN"
    assert all(key.asked for key in found.values()), "it is shown and confirmed before anything is written"


def test_corrections_masters_and_routing_fields_are_known_by_their_values():
    ini, env = (by_field(guess_keys(read_pairs(FILES[name], form_of(FILES[name])), PLANNED)) for name in ("ini", "env"))
    assert (ini["rx_correction"].at, ini["tx_correction"].at) == ("Funk.Feinheit1", "Funk.Feinheit2")
    assert env["master"].at == "DOOR"
    quoted = by_field(guess_keys(read_pairs(FILES["quoted"], "env"), PLANNED))
    assert quoted["rpt1"].at == "E"


def test_a_port_a_lamp_and_a_login_are_nothing_of_ours():
    for name, text in FILES.items():
        taken = {key.at for key in guess_keys(read_pairs(text, form_of(text)), PLANNED)}
        assert not taken & {"Funk.Port", "LAMP", "led", "sortie"}, name


def test_a_common_number_is_taken_only_where_its_word_speaks_for_it_too():
    pairs = {"a": "6", "b": "6", "dmr.colorcode": "6", "display.brightness": "6"}
    assert by_field(guess_keys(pairs, PLANNED))["color_code"].at == "dmr.colorcode"
    assert "color_code" not in by_field(guess_keys({"a": "6", "b": "6"}, PLANNED))


def test_on_one_frequency_the_words_say_which_key_sends():
    planned = {**PLANNED, "rx_hz": PLANNED["tx_hz"]}
    found = by_field(guess_keys({"x.rxfreq": "434612500", "x.txfreq": "434612500"}, planned))
    assert (found["tx_hz"].at, found["rx_hz"].at) == ("x.txfreq", "x.rxfreq")


def test_only_what_differs_is_changed_and_in_the_files_own_notation():
    text = FILES["ini"]
    layout = guessed(text, "own", PLANNED)
    layout = confirmed(layout, [key.at for key in layout.key])
    made = write_settings(text, layout, {**PLANNED, "tx_hz": "434625000"})
    assert made == text.replace("434612500", "434625000")
