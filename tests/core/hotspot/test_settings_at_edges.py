"""Settings files piece by piece: quotes, remarks, sections, lists; numbers and their units."""

import json

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.hotspot.match.form_error import FormError
from umbra_awl.core.hotspot.match.forms import read_pairs, write_pairs
from umbra_awl.core.hotspot.match.guess import guess_keys
from umbra_awl.core.hotspot.match.layout import (
    SettingKey,
    SettingsLayout,
    SettingsLayoutError,
    layout_text,
    own_layouts,
    parse_layout,
    read_settings,
    unreached,
    write_settings,
)
from umbra_awl.core.hotspot.match.says import full_id, plan_says, radio_says
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Identity, RadioId
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
    keys = (
        SettingKey("rx_correction", "a.off"),
        SettingKey("modes", "a.dmr", mode="dmr"),
        SettingKey("duplex", "a.dup"),
    )
    layout = SettingsLayout("x", "ini", keys)
    text = "[a]\noff = +075\ndmr = on\ndup = 0\n"
    assert write_settings(text, layout, {"rx_correction": "75", "modes": "dmr", "duplex": "no"}) == text
    made = write_settings(text, layout, {"rx_correction": "-20", "modes": "dstar", "duplex": "yes"})
    assert read_pairs(made, "ini") == {"a.off": "-020", "a.dmr": "off", "a.dup": "1"}
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


# more of a file's forms


def test_a_section_holds_until_the_next_and_a_remark_or_colon_is_no_key():
    text = "[a]\nx = 1\n; y = 2\n[b] ; why\nx = 3\nhost: here\nurl:nowhere\n"
    assert read_pairs(text, "ini") == {"a.x": "1", "b.x": "3", "b.host": "here"}


@pytest.mark.parametrize("quote", ["'", '"'])
def test_an_open_quote_is_a_value_and_one_behind_is_a_remark(quote):
    assert read_pairs(f"a = {quote}\n", "env") == {"a": quote}
    assert read_pairs(f"a = {quote}{quote} ; why\n", "env") == {"a": ""}
    assert read_pairs(f"a = {quote}{quote}x ; why\n", "env") == {"a": f"{quote}{quote}x ; why"}


def test_a_mark_at_the_very_beginning_is_a_remark_and_one_within_a_word_is_not():
    assert read_pairs("a = x;y ;z\n", "env") == {"a": "x;y"}
    assert read_pairs("a = b\n", "env") == {"a": "b"}
    assert read_pairs("a = ;b\n", "env") == {"a": ""}


def test_what_is_missing_goes_to_the_end_of_its_section_each_on_a_line_of_its_own():
    made = write_pairs("[a]\nx = 1\n\n[b]\ny = 2\n", "ini", {"a.n": "5", "a.m": "6", "b.k": "7"})
    assert made.split("[b]")[0].splitlines()[-2:] == ["n=5", "m=6"]
    assert made.endswith("y = 2\nk=7\n")
    windows = write_pairs("[a]\r\nx = 1\r\n[b]\r\ny = 2\r\n", "ini", {"a.n": "5"})
    assert windows == "[a]\r\nx = 1\r\nn=5\r\n[b]\r\ny = 2\r\n"
    assert write_pairs("x=1\n", "env", {"Y": "2"}) == "x=1\nY=2\n"


def test_a_value_of_two_quotes_is_quoted_again_and_one_of_a_single_mark_is_not():
    assert write_pairs('a = ""\n', "env", {"a": "x"}) == 'a = "x"\n'
    assert write_pairs("a = '\n", "env", {"a": "x"}) == "a = x\n"
    assert write_pairs('a = "x"\n', "env", {"a": 'y"z'}) == 'a = y"z\n'


def nested(depth):
    text = '"deep"'
    for _level in range(depth):
        text = f'{{"a": {text}}}'
    return text


def test_json_may_be_so_deep_and_no_deeper():
    assert read_pairs(nested(13), "json") == {".".join("a" * 13): "deep"}
    with pytest.raises(FormError, match="too deeply"):
        read_pairs(nested(14), "json")


def test_single_values_of_json_are_told_as_words():
    text = '{"a": true, "b": false, "c": null, "d": 1.5, "e": [1, [2], {"x": 3}, 4]}'
    assert read_pairs(text, "json") == {
        "a": "true", "b": "false", "c": "", "d": "1.5", "e.0": "1", "e.1": "2", "e.2.x": "3", "e.3": "4",
    }  # fmt: skip


def test_letters_of_other_languages_stay_as_they_are_in_json():
    made = write_pairs('{"ort": "Nørre Eyð", "n": 1}', "json", {"n": "2"})
    assert "Nørre Eyð" in made
    assert json.loads(made)["n"] == 2


# guesses and words


def test_a_guessed_key_is_asked_and_a_switch_has_two_words_at_most():
    pairs = {"dmr.enable": "1", "fusion": "0", "net dmr link": "1", "mode.dmr": "1"}
    found = guess_keys(pairs)
    assert all(key.asked for key in found)
    assert {(key.at, key.mode) for key in found if key.mode} == {("dmr.enable", "dmr"), ("fusion", "fusion")}
    alone = guess_keys({"mode.dmr": "1"})
    assert [(key.at, key.mode) for key in alone if key.mode] == [("mode.dmr", "dmr")]
    assert not [key for key in guess_keys({"net.dmr.link.dmr": "1"}) if key.mode]


LAYOUT = SettingsLayout(
    "own", "ini",
    (
        SettingKey("tx_hz", "r.tx", unit="kHz"),
        SettingKey("color_code", "r.cc"),
        SettingKey("duplex", "r.two", words={"yes": "both", "no": "one"}),
        SettingKey("rx_correction", "r.fix"),
    ),
)  # fmt: skip


def test_a_layout_reads_what_is_there_in_our_words_and_passes_over_what_is_not():
    assert read_settings("[r]\ntx = 434612.5\ntwo = BOTH\nother = 9\n", LAYOUT) == {
        "tx_hz": "434612500",
        "duplex": "yes",
    }
    assert read_settings("[R]\nCC = 6\n", LAYOUT) == {"color_code": "6"}


def test_a_layout_writes_its_own_words_and_numbers_and_only_what_differs():
    text = "[r]\ntx = 434612.5\ncc = 06\ntwo = one\nfix = +75\n"
    made = write_settings(
        text, LAYOUT, {"tx_hz": "434625000", "color_code": "6", "duplex": "yes", "rx_correction": "75"}
    )
    assert made == "[r]\ntx = 434625\ncc = 06\ntwo = both\nfix = +75\n"
    assert "fix = -80" in write_settings(text, LAYOUT, {"rx_correction": "-80"})


def test_the_own_words_of_a_layout_are_known_by_version():
    text = layout_text(LAYOUT)
    assert parse_layout(text) == LAYOUT
    with pytest.raises(SettingsLayoutError, match="newer"):
        parse_layout(text.replace("version = 1", "version = 2"))
    bad = replace(LAYOUT, key=(SettingKey("tx_hz", "r.tx"),))
    with pytest.raises(SettingsLayoutError, match="unit is not told"):
        parse_layout(layout_text(bad))


def test_own_layouts_that_cannot_be_read_are_passed_over(tmp_path):
    (tmp_path / "a.toml").write_text("not a layout = [", "utf-8")
    (tmp_path / "b.toml").write_text(layout_text(LAYOUT), "utf-8")
    assert own_layouts(tmp_path) == (LAYOUT,)


# what plan and radio say


def spot_of(plan, *modes):
    hotspot = plan.hotspots[0]
    access = next(item for item in plan.access if item.key == hotspot.access)
    return replace(access, services=tuple(item for item in access.services if not modes or item.mode in modes)), hotspot


def test_only_a_hotspot_for_dmr_has_an_id_and_a_color_code(plan):
    index = PlanIndex(plan, TODAY)
    access, hotspot = spot_of(plan)
    said = plan_says(index, access, hotspot)
    assert said["color_code"] == str(hotspot.color_code)
    assert said["id"].startswith("999")
    without, _hotspot = spot_of(plan, "dstar")
    assert not {"id", "color_code", "slot"} & plan_says(index, without, hotspot).keys()


def test_the_id_is_that_of_the_label_or_the_first():
    who = Identity("me", "Q4WRN", "Wren", (RadioId(9_994_217), RadioId(9_994_218, label="two")))
    assert (full_id(who, "two"), full_id(who, "none")) == ("9994218", "9994217")
    assert full_id(None, "two") == ""


def test_what_a_radio_says_is_told_by_its_modes_and_of_no_channel_nothing(plan):
    access, _hotspot = spot_of(plan)
    assert radio_says(Memory("tarn16"), access, ["none"]) == {}
    heard = access.services[0].rx_hz, access.services[0].tx_hz
    dstar = Channel(1, "HOME", "dstar", *heard, route="r", rpt1="Q4WRN  B", rpt2="Q4WRN  G")
    said = radio_says(Memory("fell-d2", call="Q4WRN", channels=(dstar,)), access, ["r"])
    assert (said["module"], said["rpt1"]) == ("B", "Q4WRN  B")
    assert not {"color_code", "slot", "dgid"} & said.keys()
    blank = Channel(1, "HOME", "dstar", *heard, rpt1="", rpt2="")
    said = radio_says(Memory("fell-d2", call="Q4WRN", channels=(blank,)), access, ["none"])
    assert (said["module"], said["rpt1"], said["rpt2"]) == ("none", "blank", "blank")
