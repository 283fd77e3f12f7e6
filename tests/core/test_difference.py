"""The change sheet sees every field of every mode, every list and every setting; what is the same is no change."""

import msgspec
import pytest
from hypothesis import given
from msgspec.structs import replace

from tests.days import TODAY
from tests.examples import examples
from tests.strategies import plans
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.memory import (
    AccessEntry,
    CallSign,
    Channel,
    Contact,
    HeldSettings,
    KeyPress,
    Memory,
    MemoryList,
    Room,
)
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.compared import CHANNEL, IDENTITY, LISTS, NOT_COMPARED, ROWS, SETTINGS, TABLES
from umbra_awl.core.transfer.difference import difference

PROFILES = shipped_profiles()
CHANNELS = (
    Channel(1, "FM", "fm", 145_000_000, 144_400_000),
    Channel(2, "DMR", "dmr", 439_000_000, 431_400_000, color_code=1, slot=1, contact=1, group_list=1),
    Channel(3, "STAR", "dstar", 439_100_000, 431_500_000, ur="CQCQCQ", rpt1="Q0BLK  B", rpt2="Q0BLK  G"),
    Channel(4, "FUSION", "fusion", 439_200_000, 431_600_000, way="DN", dgid_tx=1, dgid_rx=2),
)
BASE = Memory(
    "tarn16",
    "radio",
    "Q4WRN",
    9994217,
    CHANNELS,
    (Contact(1, "WIDE", 4000), Contact(2, "NEAR", 4001)),
    (MemoryList(1, "WIDE", (1,)), MemoryList(2, "BOTH", (1, 2))),
    (MemoryList(1, "ALL", (1, 2, 3)), MemoryList(2, "SOME", (2,))),
    (MemoryList(1, "SCAN", (1, 2), 1, 1000),),
    "HAND",
    "Wren",
    1,
    (1, 2),
    (AccessEntry(1, "BLK", "Q0BLK  B", "Q0BLK  G", 439_100_000, 431_500_000),),
    (CallSign(1, "ODILE", "Q9ODL"),),
    (Room(1, "COMMONS", 40_010),),
    HeldSettings("Hello", ("a",), "gps", 60, True, (KeyPress("Upper", "short", "scan"),), True),
)
OTHER = {
    "rx_hz": 145_012_500,
    "tx_hz": 145_012_500,
    "receive_only": True,
    "tone_tx": "88.5",
    "tone_rx": "67.0",
    "width_hz": 25_000,
    "power": 1,
    "color_code": 7,
    "slot": 2,
    "contact": 2,
    "group_list": 2,
    "admit": "free",
    "promiscuous": True,
    "encrypted": True,
    "ur": "VLR001CL",
    "rpt1": "Q0SIG  C",
    "rpt2": "",
    "zero_offset": True,
    "way": "VW",
    "dgid_tx": 40,
    "dgid_rx": 0,
}


def lines(old, new):
    return [(item.kind, item.table, item.name, item.detail) for item in difference(old, new).changes]


def with_channel(number, **fields):
    at = number - 1
    return replace(BASE, channels=(*CHANNELS[:at], replace(CHANNELS[at], **fields), *CHANNELS[at + 1 :]))


def test_every_field_of_a_memory_is_in_the_table():
    assert {item.field for item in CHANNEL} | NOT_COMPARED == set(Channel.__struct_fields__)
    assert {item.field for item in SETTINGS} | {"keys", "options"} == set(
        HeldSettings.__struct_fields__
    )  # options: set by hand, nothing reads them
    tables = {field for field, _table in LISTS} | {rows.field for rows in ROWS}
    scalars = {item.field for item in IDENTITY}
    elsewhere = {"profile", "radio", "channels", "group_lists", "settings"}
    assert tables | scalars | elsewhere == set(Memory.__struct_fields__)
    named = {table for _field, table in LISTS} | {rows.table for rows in ROWS}
    assert named | {"identity", "settings", "channel"} == set(TABLES)


def test_the_same_memory_has_no_changes_and_counts_what_stays():
    found = difference(BASE, BASE)
    assert found.changes == ()
    assert found.untouched == {
        "channel": 4,
        "zone": 2,
        "scan list": 1,
        "contact": 2,
        "access list": 1,
        "call sign": 1,
        "room": 1,
    }


@pytest.mark.parametrize(
    ("number", "field"),
    [
        (at, item.field)
        for at, channel in enumerate(CHANNELS, 1)
        for item in CHANNEL
        if channel.mode in item.modes and item.field != "mode"
    ],
)
def test_each_field_that_counts_in_a_mode_is_a_change_of_one_channel(number, field):
    (line,) = lines(BASE, with_channel(number, **{field: OTHER[field]}))
    word = next(item.word for item in CHANNEL if item.field == field)
    assert line[:3] == ("changed", "channel", CHANNELS[number - 1].name)
    assert line[3].startswith(f"{word} ")
    assert " → " in line[3]


@pytest.mark.parametrize(
    ("number", "field"), [(1, "slot"), (1, "ur"), (2, "dgid_tx"), (3, "color_code"), (4, "width_hz")]
)
def test_what_does_not_count_in_a_mode_is_no_change(number, field):
    assert lines(BASE, with_channel(number, **{field: OTHER[field]})) == []


def test_a_change_of_mode_says_what_comes_and_goes():
    (line,) = lines(BASE, with_channel(1, mode="dmr", color_code=6, slot=2, contact=1))
    assert line[3] == (
        "mode FM → DMR, width narrow → –, color code – → 6, slot – → 2, calls – → 4000 group, hears – → its contact only"
    )


@pytest.mark.parametrize(
    ("fields", "line"),
    [
        ({"call": ""}, ("identity", "call sign", "Q4WRN → none")),
        ({"dmr_id": 9994218}, ("identity", "DMR ID", "999•••• → 999••••")),
        ({"note": ""}, ("identity", "note behind the call sign", "HAND → none")),
        ({"alias": "W"}, ("identity", "talker alias", "Wren → W")),
        ({"one_touch": 2}, ("identity", "call key", "WIDE → NEAR")),
        ({"halves": (2,)}, ("identity", "zones of the halves", "ALL, SOME → SOME")),
    ],
)
def test_each_value_of_the_owner_is_told(fields, line):
    assert lines(BASE, replace(BASE, **fields)) == [("changed", *line)]


@pytest.mark.parametrize(
    ("fields", "name", "detail"),
    [
        ({"startup": ""}, "start-up text", "Hello → none"),
        ({"position": "none"}, "position", "gps → none"),
        ({"time_out_s": 90}, "time-out timer", "60 s → 90 s"),
        ({"quick_texts": ("a", "b")}, "quick texts", "1 → 2"),
        ({"auto_offset": False}, "automatic offset", "on → off"),
        ({"free_tuning": False}, "free tuning", "sends → listens only"),
        ({"keys": (KeyPress("Upper", "short", "zone"),)}, "key Upper, short", "scan → zone"),
        ({"keys": (KeyPress("Lower", "long", "zone"),)}, "key Lower, long", "unknown → zone"),
    ],
)
def test_each_setting_of_the_radio_is_told(fields, name, detail):
    assert lines(BASE, replace(BASE, settings=replace(BASE.settings, **fields))) == [
        ("changed", "settings", name, detail)
    ]


def test_what_a_memory_leaves_to_the_radio_is_no_change():
    assert lines(BASE, replace(BASE, settings=HeldSettings())) == []


def test_lists_say_who_comes_goes_and_in_what_order_and_how_a_scan_waits():
    zones = (MemoryList(1, "ALL", (2, 1, 3)), MemoryList(2, "NEW", (1,)))
    assert lines(BASE, replace(BASE, zones=zones, halves=(1,))) == [
        ("changed", "identity", "zones of the halves", "ALL, SOME → ALL"),
        ("changed", "zone", "ALL", "another order"),
        ("added", "zone", "NEW", "1 channel"),
        ("removed", "zone", "SOME", "1 channel"),
    ]
    scans = (MemoryList(1, "SCAN", (1, 3), 3, 2500),)
    assert lines(BASE, replace(BASE, scans=scans)) == [
        ("changed", "scan list", "SCAN", "+ STAR, − DMR, priority FM → STAR, waits 1 s → 2.5 s")
    ]
    assert lines(BASE, replace(BASE, scans=(MemoryList(1, "SCAN", (1, 2), 0, 1000),)))[0][3] == "priority FM → none"


def test_rows_are_known_by_what_they_are():
    entry = replace(BASE.access_list[0], name="BLACK")
    other = AccessEntry(2, "SIG", "Q0SIG  C", "Q0SIG  G", 145_600_000, 145_000_000)
    assert lines(BASE, replace(BASE, access_list=(other, entry))) == [
        ("added", "access list", "SIG", "Q0SIG··C 145.6000"),
        ("changed", "access list", "BLACK", "name BLK → BLACK"),
    ]
    assert lines(BASE, replace(BASE, call_signs=(CallSign(1, "ODILE", "Q1VRC"),))) == [
        ("added", "call sign", "ODILE", "Q1VRC···"),
        ("removed", "call sign", "ODILE", "Q9ODL···"),
    ]
    assert lines(BASE, replace(BASE, rooms=())) == [("removed", "room", "COMMONS", "room 40010")]


def test_a_channel_that_is_renamed_and_changed_says_both():
    assert lines(BASE, with_channel(3, name="SIGNAL", rpt2="")) == [
        ("changed", "channel", "SIGNAL", "name STAR → SIGNAL, RPT2 Q0BLK··G → ········")
    ]


def test_added_and_removed_channels_are_said_by_their_mode():
    said = [line[3] for line in lines(Memory("tarn16"), BASE) if line[1] == "channel"]
    assert said == [
        "145.0000 FM",
        "439.0000 cc 1 slot 1, calls 4000 group",
        "439.1000 UR CQCQCQ·· RPT1 Q0BLK··B",
        "439.2000 DN, DG-ID 01",
    ]
    assert [line[0] for line in lines(BASE, Memory("tarn16")) if line[1] == "channel"] == ["removed"] * 4


@examples(30)
@given(plans(), plans())
def test_no_difference_means_the_same_memory_for_every_radio(one, other):
    for key in ("tarn", "moor", "fell", "crag"):
        made = []
        for plan in (one, other):
            index = PlanIndex(plan, TODAY)
            if key not in index.radios:
                return
            made.append(fit(index, index.radios[key], PROFILES[index.radios[key].profile]).memory)
        assert difference(made[0], made[0]).changes == ()
        if not difference(*made).changes:
            assert [_values(item) for item in made[0].channels] == [_values(item) for item in made[1].channels]


def _values(channel):
    kept = {field: value for field, value in msgspec.structs.asdict(channel).items() if field not in NOT_COMPARED}
    return {field: value for field, value in kept.items() if field not in {"contact", "group_list"}}
