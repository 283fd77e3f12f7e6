"""Which people go onto a radio: by rule, to its room, in its order."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.people import import_people
from umbra_awl.core.directory.store import Store
from umbra_awl.core.fit.choices import set_people, set_radio
from umbra_awl.core.fit.people import (
    calls_in_log,
    choose_people,
    countries_in,
    country_spans,
    firmware_fault,
    people_csv,
    rooms,
    transfer_seconds,
)
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.radio.ways_in import Firmware
from umbra_awl.core.tables.rows import Row, Table

MOOR = shipped_profiles()["moor4k"]
HEADERS = ["id", "call", "name", "place", "country"]
FOLK = [
    ("9990003", "Q3CCC", "Cora", "Stenby, Great Velmar", "Velmar"),
    ("9990001", "Q1AAA", "Ada", "Harrowquay", "Velmar"),
    ("9990002", "Q2BBB", "Bram Größe the Very Long", "Nowhere", "Velmar"),
    ("9980004", "Q4DDD", "Dai", "Cairnlow", "Ostrand"),
    ("9970005", "Q5EEE", "Esk", "Far Haven", "Northern Reach"),
]


@pytest.fixture
def store(tmp_path):
    made = Store(tmp_path / "directory.sqlite")
    table = Table("people.csv", "csv", HEADERS, lambda: (Row(at, list(row)) for at, row in enumerate(FOLK, 2)))
    import_people(
        made, table, TableLayout("people", {name: name for name in HEADERS}, source="registry"), "2026-11-25T10:00:00"
    )
    yield made
    made.close()


def chosen(store, plan, profile=MOOR, **rule):
    edited = set_people(PlanIndex(plan, TODAY).radios["moor"], "x", **rule).apply(plan)
    index = PlanIndex(edited, TODAY)
    return choose_people(store, index, index.radios["moor"], profile)


def calls(found):
    return [person.call for person in found.rows]


def test_nobody_goes_along_before_a_rule_is_given(store, plan):
    assert chosen(store, plan).rows == []


@pytest.mark.parametrize(
    ("rule", "expected"),
    [
        ({"countries": ("Velmar",)}, ["Q1AAA", "Q2BBB", "Q3CCC"]),
        ({"countries": ("Velmar", "Ostrand")}, ["Q4DDD", "Q1AAA", "Q2BBB", "Q3CCC"]),
        ({"regions": ("great velmar",)}, ["Q3CCC"]),
        ({"everybody": True}, ["Q5EEE", "Q4DDD", "Q1AAA", "Q2BBB", "Q3CCC"]),
        ({"by_talk_groups": True}, ["Q1AAA", "Q2BBB", "Q3CCC"]),
        ({"from_log": True, "log_calls": ("Q4DDD", "Q9ZZZ")}, ["Q4DDD"]),
        ({"picked": (9970005,)}, ["Q5EEE"]),
        ({"picked": (9970005,), "countries": ("Ostrand",)}, ["Q5EEE", "Q4DDD"]),
    ],
)
def test_each_rule_and_the_profiles_order(store, plan, rule, expected):
    assert calls(chosen(store, plan, **rule)) == expected


def test_distance_narrows_and_says_whom_it_could_not_place(store, plan):
    found = chosen(store, plan, countries=("Velmar",), within_km=60.0)
    assert calls(found) == ["Q1AAA", "Q3CCC"]
    assert found.unplaced == 1
    assert calls(chosen(store, plan, within_km=3.0)) == ["Q1AAA"]


def test_too_many_are_cut_to_the_room_the_nearest_or_first_kept(store, plan):
    small = replace(MOOR, firmware=(Firmware("small", "Small", people=2),))
    near = chosen(store, plan, small, everybody=True)
    assert (calls(near), near.wanted, near.left) == (["Q1AAA", "Q3CCC"], 5, 3)
    assert calls(chosen(store, plan, small, everybody=True, sort="id")) == ["Q5EEE", "Q4DDD"]
    assert calls(chosen(store, plan, small, everybody=True, sort="call")) == ["Q1AAA", "Q2BBB"]
    picked = chosen(store, plan, small, everybody=True, picked=(9970005,))
    assert calls(picked) == ["Q5EEE", "Q1AAA"], "those picked by hand go along in any case"


def test_a_firmware_too_small_is_said_with_what_would_do(plan):
    radio = set_radio(PlanIndex(plan, TODAY).radios["moor"], "x", firmware="plain").apply(plan)
    owned = PlanIndex(radio, TODAY).radios["moor"]
    text = firmware_fault(MOOR, owned, 50_000)
    assert text == (
        "The firmware “Plain” holds 12,000 people and 50,000 are chosen. The firmware “Crowd” takes them, "
        "without its spectrum view."
    )
    assert "Choose fewer countries" in firmware_fault(MOOR, owned, 900_000)
    assert firmware_fault(MOOR, owned, 9_000) == ""
    assert [item.fits for item in rooms(MOOR, 50_000)] == [True, False]
    assert "keeps no people list" in firmware_fault(shipped_profiles()["tarn16"], owned, 5)


def test_the_file_has_the_profiles_columns_in_its_characters_and_length(store, plan):
    lines = people_csv(chosen(store, plan, countries=("Velmar",)), MOOR).decode().splitlines()
    assert lines[0] == "DMR ID,Call sign,Name,Place,Country"
    assert lines[2] == "9990002,Q2BBB,Bram Groe the Ve,Nowhere,Velmar"


def test_countries_are_those_whose_groups_the_radio_calls(plan):
    index = PlanIndex(plan, TODAY)
    assert country_spans(index, index.radios["moor"]) == [(9_990_000, 9_999_999)]


def test_counts_time_and_log(store):
    assert countries_in(store)[0] == ("Velmar", 3)
    assert 150 < transfer_seconds(200_000, MOOR) < 170
    assert calls_in_log("<CALL:5>q1aaa<QSO_DATE:8>20261101<EOR>\n<call:5>Q1AAA <call:6:S>Q2BBB/<eor>") == (
        "Q1AAA",
        "Q2BBB/",
    )
    assert calls_in_log("nothing here") == ()
