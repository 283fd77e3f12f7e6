"""Small files that were made to take long: each ends soon, in a sentence or a value."""

import pytest

from umbra_awl.core.agenda.trips import zone_fault
from umbra_awl.core.hotspot.logs.rules import RulesError, parse_rules
from umbra_awl.core.hotspot.match.forms import read_pairs, write_pairs
from umbra_awl.core.hotspot.match.guess import guess_keys
from umbra_awl.core.logbook.adif import read_adif
from umbra_awl.core.logbook.keys import Keys

ONE = "<QSO_DATE:8>20261101<TIME_ON:4>1200<CALL:5>Q1ABC<APP_UMBRAAWL_KEY:1>k<EOR>\n"


@pytest.mark.parametrize(
    "text",
    [
        ".".join(["a"] * 60_000) + " = 1",
        " . ".join(["a"] * 60_000) + " = 1",
        "[" + ".".join(["'a'"] * 60_000) + "]",
        "x = {" + ".".join(["1"] * 60_000) + " = 1}",
        "a = " + "9" * 250_000,
        "a = [" + "9" * 5_000 + "]",
        "a = " + "[" * 80_000,
        "\n".join("[" + ".".join(["a"] * 200) + f".b{at}]" for at in range(600)),
    ],
)
def test_settings_that_are_none_are_refused_in_a_sentence(text):
    with pytest.raises(RulesError, match="cannot be used"):
        parse_rules(text)


def test_many_small_numbers_and_long_sentences_are_settings_all_the_same():
    head = 'format = "umbra-awl log rules"\nversion = 1\nrule = []\n'
    with pytest.raises(RulesError, match="unknown field"):
        parse_rules(f"{head}more = [{', '.join(['1.5'] * 2_000)}]\n")
    with pytest.raises(RulesError, match="unknown field"):
        parse_rules(f'{head}more = "{"A sentence. " * 400}"\n')


@pytest.mark.parametrize(
    ("text", "form", "pairs"),
    [
        ("a=1\na" + " " * 200_000, "env", {"a": "1"}),
        ("[x]\na=b" + " " * 200_000 + "x", "ini", {"x.a": "b" + " " * 200_000 + "x"}),
        (" " * 200_000 + "a=1", "env", {"a": "1"}),
        ("a" + " " * 200_000 + "=1", "env", {"a": "1"}),
        ("export  A B-c.d = 'x y' \r\n", "env", {"A B-c.d": "x y"}),
        ("a==b\n=c\n1=d\n", "env", {"a": "=b"}),
    ],
)
def test_lines_of_settings_are_gone_through_once(text, form, pairs):
    assert read_pairs(text, form) == pairs


def test_what_is_written_into_a_line_leaves_the_rest_of_it():
    text = "  export A  =  'one'  \nB=two\n"
    assert write_pairs(text, "env", {"A": "1"}) == "  export A  =  '1'  \nB=two\n"
    assert write_pairs(text, "env", {"B": "2"}) == "  export A  =  'one'  \nB=2\n"


def test_one_key_in_twenty_thousand_records_is_given_once():
    found = read_adif("<EOH>" + ONE * 20_000)
    assert len({item.key for item in found.entries}) == 20_000
    assert found.entries[0].key == "k"
    keys = Keys(["k", "k-2"])
    assert [keys.free("k"), keys.free("k"), keys.free("k-2"), keys.free("z")] == ["k-3", "k-4", "k-2-2", "z"]


@pytest.mark.parametrize(
    "text", ["<A:50000>x" * 20_000, "<A:99999>" + "é" * 100 + "<A:99999>é" * 20_000, "<" * 2_000_000]
)
def test_wrong_lengths_cost_no_more_than_right_ones(text):
    read_adif(text)


def test_of_a_long_file_the_first_settings_are_looked_at():
    pairs = {f"key{at}": f"value{at}" for at in range(4_900)}
    assert isinstance(guess_keys({"txfrequency": "434612500", **pairs}), tuple)


def test_time_zones_are_listed_once(monkeypatch):
    assert zone_fault("Atlantic/Azores") == ""
    monkeypatch.setattr("umbra_awl.core.agenda.trips.available_timezones", lambda: pytest.fail("listed again"))
    assert zone_fault("Atlantic/Azores") == ""
    assert "is not a time zone" in zone_fault("Nowhere/Land")
