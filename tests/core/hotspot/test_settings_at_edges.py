"""Settings files piece by piece: quotes, remarks, sections, lists; numbers and their units."""

import json

import pytest
from msgspec.structs import replace

from umbra_awl.core.hotspot.match.forms import read_pairs, write_pairs
from umbra_awl.core.hotspot.match.guess import guess_keys
from umbra_awl.core.hotspot.match.layout import Key, SettingsLayout, unreached, write_settings
from umbra_awl.core.hotspot.match.says import plan_says, radio_says
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.memory import Channel, Memory


@pytest.mark.parametrize(
    ("line", "value"),
    [
        ("a = 'x'", "x"), ("a = '", "'"), ('a = ""', ""), ("a = 'x' ; why", "x"), ("a = 'x;y'", "x;y"), ("a = x # why", "x"),
        ("a = x#y", "x#y"), ("a = # why", ""), ("a = #", ""), ("a =", ""), ("a = '#'", "#"), ("a: x", "x"), ('a = "x', '"x'),
    ],
)  # fmt: skip
def test_a_value_is_what_stands_between_its_quotes_and_before_its_remark(line, value):
    assert read_pairs(f"[s]\n{line}\n", "ini") == {"s.a": value}
    written = write_pairs(f"[s]\n{line}\n", "ini", {"s.a": "new"})
    assert read_pairs(written, "ini") == {"s.a": "new"}
    if " why" in line:
        assert written.rstrip().endswith("why")


def test_a_key_before_any_section_is_one_of_none_and_new_ones_go_where_they_belong():
    text = "top = 1\n[s]\na = 2\n"
    assert read_pairs(text, "ini") == {"top": "1", "s.a": "2"}
    made = write_pairs(text, "ini", {"top": "5", "s.b": "3", "t.c": "4"})
    assert read_pairs(made, "ini") == {"top": "5", "s.a": "2", "s.b": "3", "t.c": "4"}
    assert made.index("b=3") < made.index("[t]")


def test_lists_and_kinds_of_json_stay_what_they_were():
    text = json.dumps({"a": [1, 2], "b": ["x"], "c": True, "d": 1.5, "e": 3, "f": None, "g": []})
    assert read_pairs(text, "json")["a"] == "1 2"
    made = json.loads(
        write_pairs(text, "json", {"a": "1 2 3", "b": "y z", "c": "no", "d": "2.5", "e": "-4", "f": "w", "g": "7"})
    )
    assert made == {"a": [1, 2, 3], "b": ["y", "z"], "c": False, "d": 2.5, "e": -4, "f": "w", "g": [7]}
    assert json.loads(write_pairs(text, "json", {"a": "one 2"}))["a"] == ["one", "2"]
    assert json.loads(write_pairs(text, "json", {"b": "1 2"}))["b"] == ["1", "2"]


@pytest.mark.parametrize(
    ("value", "unit"),
    [
        ("100", "MHz"), ("99.9", ""), ("1299.9", "MHz"), ("1300", ""), ("434.6125", "MHz"), ("434612.5", "kHz"),
        ("434612500", "Hz"), ("1300000", ""), ("99999", ""), ("100000", "kHz"), ("100000000", "Hz"), ("1300000000", ""),
    ],
)  # fmt: skip
def test_the_unit_of_a_guessed_frequency_is_that_of_its_size_or_it_is_not_guessed(value, unit):
    found = [key.unit for key in guess_keys({"radio.txfrequency": value}) if key.field == "tx_hz"]
    assert found == ([unit] if unit else [])


def test_switches_are_named_after_their_mode_alone_or_with_a_word_of_state():
    found = {
        key.at: key.mode
        for key in guess_keys({"dmr": "1", "dstar.enable": "0", "fusion on": "1", "fm some other thing": "1"})
    }
    assert found.get("dmr") == "dmr"
    assert found.get("dstar.enable") == "dstar"
    assert "fm some other thing" not in found


def test_offsets_are_written_as_numbers_and_states_only_where_they_differ():
    keys = (Key("rx_correction", "a.off"), Key("modes", "a.dmr", mode="dmr"), Key("duplex", "a.dup"))
    layout = SettingsLayout("x", "ini", keys)
    text = "[a]\noff = +075\ndmr = on\ndup = 0\n"
    assert write_settings(text, layout, {"rx_correction": "75", "modes": "dmr", "duplex": "no"}) == text
    made = write_settings(text, layout, {"rx_correction": "-20", "modes": "dstar", "duplex": "yes"})
    assert read_pairs(made, "ini") == {"a.off": "-20", "a.dmr": "off", "a.dup": "1"}
    assert len(unreached(layout, {"rx_correction": "1", "call": "Q4WRN", "password": "set"})) == 1


def test_what_a_radio_holds_is_told_and_what_it_lacks_too(plan, index):
    access = index.access[plan.hotspots[0].access]
    service = next(item for item in access.services if item.mode == "dstar")
    blank = Channel(1, "X", "dstar", service.rx_hz, service.tx_hz)
    told = radio_says(Memory("fell-d2", channels=(blank,)), access, ())
    assert (told["module"], told["rpt1"], told["rpt2"]) == ("none", "blank", "blank")
    filled = replace(blank, rpt1="Q4WRN  D", rpt2="Q4WRN  G")
    full = radio_says(Memory("fell-d2", channels=(filled,)), access, ())
    assert (full["module"], full["rpt1"], full["rpt2"]) == ("D", "Q4WRN  D", "Q4WRN  G")
    nobody = PlanIndex(replace(plan, station=replace(plan.station, identities=())), index.today)
    nameless = replace(access, call="")
    assert "call" not in plan_says(nobody, nameless, plan.hotspots[0])
    assert plan_says(index, nameless, plan.hotspots[0])["call"] == "Q4WRN"
