"""Forms of settings files as others write them: laid out as they were, sections by indentation, lists of like sections."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.hotspot.test_settings_by_plan import PLANNED, by_field
from umbra_awl.core.hotspot.match.form_error import FormError
from umbra_awl.core.hotspot.match.forms import form_of, read_pairs, write_pairs
from umbra_awl.core.hotspot.match.guess import guess_keys
from umbra_awl.core.hotspot.match.layout import SettingKey, SettingsLayout, confirmed, guessed, write_settings

INDENTED = """# bench spot
station:
  name: Q4WRN      # on the card
  number: 999421701
radio:
  port: /dev/ttyUSB0
  down: 434612500
  up: 433012500
screen:
  color: 6
dmr:
  colour: 6
  slots:
    - 1
    - 2
links:
- name: "other"
  host: there.invalid
- name: "velmar"
  host: velmar.lattice.invalid
"""
JSON = """{
    "version" : 3,
    "spots": [
        {"call": "Q4OTH", "id": "999421702", "tx": 439000000, "rx": 439000000, "cc": 6},
        {"call": "Q4WRN", "id": "999421701", "tx": 434612500, "rx": 433012500, "cc": 6, "slots": [1,2]}
    ],

    "screen": {"color": 6, "lines": [
        "one",
        "two"
    ]}
}
"""


def changed(text, **values):
    layout = guessed(text, "own", PLANNED)
    layout = confirmed(layout, [key.at for key in layout.key])
    made = write_settings(text, layout, {**PLANNED, **values})
    return [(was, now) for was, now in zip(text.splitlines(), made.splitlines(), strict=True) if was != now]


def test_sections_by_indentation_are_sections_and_a_colour_of_the_screen_stays():
    assert form_of(INDENTED) == "indented"
    pairs = read_pairs(INDENTED, "indented")
    assert (pairs["screen.color"], pairs["dmr.colour"], pairs["links.1.name"]) == ("6", "6", "velmar")
    found = by_field(guess_keys(pairs, PLANNED))
    assert (found["tx_hz"].at, found["call"].at, found["master"].at) == ("radio.down", "station.name", "links.1.host")
    assert changed(INDENTED, tx_hz="434625000", color_code="7", call="Q4NEW") == [
        ("  name: Q4WRN      # on the card", "  name: Q4NEW      # on the card"),
        ("  down: 434612500", "  down: 434625000"),
        ("  colour: 6", "  colour: 7"),
    ]


def test_one_of_several_like_sections_is_meant_and_json_keeps_its_layout():
    found = by_field(guess_keys(read_pairs(JSON, "json"), PLANNED))
    assert {key.at for key in found.values() if key.field in {"call", "id", "tx_hz", "rx_hz", "color_code"}} == {
        "spots.1.call", "spots.1.id", "spots.1.tx", "spots.1.rx", "spots.1.cc",
    }  # fmt: skip
    was, now = changed(JSON, tx_hz="434625000", color_code="7")[0]
    assert now == was.replace("434612500", "434625000").replace('"cc": 6', '"cc": 7')
    assert len(changed(JSON, tx_hz="434625000", color_code="7")) == 1


@pytest.mark.parametrize(("name", "value", "shown"), [
    ("spots.1.slots", "2", "[2]"), ("spots.1.slots", "2 1", "[2,1]"),
    ("screen.lines", "a b c", '"a",\n        "b",\n        "c"\n    ]'),
    ("screen.color", "blue", '"color": "blue"'), ("screen.new", "x", ', "new": "x"}'),
    ("top.inner", "x", '"top": {"inner": "x"}'),
])  # fmt: skip
def test_a_value_of_json_is_written_as_its_neighbours_are(name, value, shown):
    made = write_pairs(JSON, "json", {name: value})
    assert shown in made
    assert read_pairs(made, "json")[name] == value
    others = {key: held for key, held in read_pairs(JSON, "json").items() if key != name}
    assert others.items() <= read_pairs(made, "json").items()


def test_what_json_cannot_hold_is_refused():
    for name in ("spots.tx", "version.x", "spots.1.slots.tx"):
        with pytest.raises(FormError):
            write_pairs(JSON, "json", {name: "1"})


@pytest.mark.parametrize("text", [
    "callsign Q4WRN\nid 999421701\ntxfreq 434612500\nrxfreq 433012500\n",
    'set call "Q4WRN"\nset id 999421701\nset tx 434.6125\nset rx 433.0125\n',
])  # fmt: skip
def test_keys_and_values_parted_by_a_blank(text):
    assert form_of(text) == "words"
    found = by_field(guess_keys(read_pairs(text, "words"), PLANNED))
    assert {"call", "id", "tx_hz", "rx_hz"} <= found.keys()
    assert len(changed(text, tx_hz="434625000")) == 1


def test_prose_is_no_settings_file():
    for text in ("only\nwords\n", "", "<a><b/></a>"):
        with pytest.raises(FormError, match="no setting in it"):
            read_pairs(text, form_of(text))


def test_what_an_indented_section_lacks_is_put_into_it():
    made = write_pairs(INDENTED, "indented", {"radio.power": "20", "wifi.name": "spot", "links.0.port": "62031"})
    assert "  up: 433012500\n  power: 20\n" in made
    assert "  host: there.invalid\n  port: 62031\n" in made
    assert made.endswith("wifi:\n  name: spot\n")
    assert read_pairs(made, "indented")["dmr.colour"] == "6"


@pytest.mark.parametrize(("value", "written"), [
    ("plain words", "plain words"), ("- x", '"- x"'), ("a: b", '"a: b"'), ("", '""'), ("x # y", '"x # y"'),
    ("Q4WRN  D", "Q4WRN  D"),
])  # fmt: skip
def test_what_would_mean_more_is_quoted(value, written):
    made = write_pairs(INDENTED, "indented", {"station.number": value})
    assert f"  number: {written}\n" in made
    assert read_pairs(made, "indented")["station.number"] == value


def test_a_list_and_a_head_hold_no_value_that_could_be_written_over():
    pairs = read_pairs(INDENTED, "indented")
    assert not pairs.keys() & {"dmr.slots", "links", "station"}


@pytest.mark.parametrize(("field", "before", "planned", "written"), [
    ("slot", "[1, 2]", "2", "[2]"), ("slot", "1,2", "2", "2"), ("slot", "TS1+TS2", "1", "TS1"), ("slot", "2", "1 2", "1 2"),
    ("slot", "both", "1 2", "both"), ("slot", "[1, 2]", "1 2", "[1, 2]"), ("slot", "[2]", "1 2", "[1, 2]"),
    ("color_code", "06", "7", "07"), ("color_code", "6", "11", "11"), ("rx_correction", "+75", "60", "+60"),
    ("rx_correction", "+75", "-60", "-60"), ("rx_correction", "-75", "0", "0"), ("tx_hz", "434.61250", "434625000", "434.62500"),
    ("tx_hz", "434.6125", "434625000", "434.625"), ("tx_hz", "434612.5", "434625000", "434625"),
    ("tx_hz", "434612500", "434625000", "434625000"),
])  # fmt: skip
def test_a_new_value_is_written_as_the_old_one_was(field, before, planned, written):
    unit = "" if field != "tx_hz" else "MHz" if before.startswith("434.") else "kHz" if "." in before else "Hz"
    layout = SettingsLayout("x", "ini", (SettingKey(field, "s.k", unit),))
    assert write_settings(f"[s]\nk = {before}\n", layout, {field: planned}) == f"[s]\nk = {written}\n"


NAMES = st.from_regex(r"[a-z][a-z0-9_]{0,6}", fullmatch=True)
VALUES = st.one_of(st.integers(-9999, 10**9), st.booleans(), st.from_regex(r"[A-Za-z0-9 ./:äö]{0,12}", fullmatch=True))
TREES = st.dictionaries(
    NAMES,
    st.recursive(VALUES, lambda inner: st.dictionaries(NAMES, inner, max_size=4) | st.lists(inner, max_size=3)),
    min_size=1,
)


@given(TREES, st.data(), st.sampled_from([None, 1, 4, "\t"]))
def test_one_value_of_any_json_is_changed_and_nothing_else_of_its_text(tree, data, indent):
    text = json.dumps(tree, indent=indent, ensure_ascii=False)
    try:
        pairs = read_pairs(text, "json")
    except FormError:
        return
    name = data.draw(st.sampled_from(sorted(pairs)))
    made = write_pairs(text, "json", {name: "434612500"})
    after = read_pairs(made, "json")
    assert {key: value for key, value in after.items() if key != name} == {
        key: value for key, value in pairs.items() if key != name
    }
    assert after[name] in {"434612500", "true"} or name in pairs
    assert write_pairs(text, "json", {}) == text


@given(st.lists(st.from_regex(r" {0,4}(- )?[a-z]{0,3}:? ?[a-z0-9'\"#]{0,4}", fullmatch=True), max_size=12))
def test_indented_lines_are_kept_whatever_they_are(lines):
    text = "\n".join(lines)
    assert write_pairs(text, "indented", {}) == text
    try:
        pairs = read_pairs(text, "indented")
    except FormError:
        return
    for name in pairs:
        after = read_pairs(write_pairs(text, "indented", {name: "new"}), "indented")
        assert after[name] == "new"
        assert after.keys() == pairs.keys()
