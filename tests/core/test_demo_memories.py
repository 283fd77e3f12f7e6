"""The demo's memories, reviewed by eye: what each knob position of both radios says and does."""

import pytest

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.demo.fresh import hand_programmed

TARN = {
    "BLACKFELL": ["BLK FM", "BLK LOCAL", "BLK VELMAR", "BLK ISLES", "BLK NESSA", "BLK EXER", "BLK ENG", "BLK ECHO"],
    "NESSA": ["NES ISLES", "NES NESSA", "NES EXER", "NES ECHO"],
    "HOME SPOT": [
        "HOME ISLES",
        "HOME ENG",
        "HOME SLOW",
        "HOME WW",
        "HOME N REA",
        "HOME AMBER",
        "HOME ECHO",
        "HOME DIAL",
        "HOME DISC",
    ],
    "TRAVEL": ["TRAV ISLES", "TRAV WW", "TRAV ECHO", "TRAV DISC"],
    "FM": ["BLK FM", "HAR FM", "LT OSS FM", "CALLING FM", "WEATHER FM"],
}
MOOR = {
    "Blackfell": [
        "BLK FM",
        "BLK Local",
        "BLK Great Velmar",
        "BLK Isles",
        "BLK Ness Torrick",
        "BLK Exercise",
        "BLK Atl English",
        "BLK Echo test",
    ],
    "Nessa": ["NES Isles", "NES Ness Torrick", "NES Exercise", "NES Echo test"],
    "Home spot": [
        "Home Isles",
        "Home Atl English",
        "Home WW slow",
        "Home worldwide",
        "Home Northern",
        "Home Amber Coast",
        "Home Echo test",
        "Home Dial Refl",
        "Home Disc",
    ],
    "Travel spot": ["Travel Isles", "Travel Worldwide", "Travel Echo test", "Travel Disc"],
    "FM": ["BLK FM", "Harrowquay FM", "Little Oss FM", "Calling FM", "Weather FM"],
}


@pytest.fixture
def memories(plan, profiles):
    index = PlanIndex(hand_programmed(plan), TODAY)
    return {radio.key: fit(index, radio, profiles[radio.profile]).memory for radio in index.plan.radios}


@pytest.mark.parametrize(("radio", "zones"), [("tarn", TARN), ("moor", MOOR)])
def test_every_knob_position_has_its_name(memories, radio, zones):
    memory = memories[radio]
    shown = {zone.name: [memory.channels[number - 1].name for number in zone.members] for zone in memory.zones}
    assert shown == zones


CHANNELS = [
    (
        "BLK FM",
        {
            "mode": "fm",
            "rx_hz": 145_712_500,
            "tx_hz": 145_112_500,
            "tone_tx": "103.5",
            "tone_rx": "",
            "admit": "always",
        },
    ),
    (
        "BLK ISLES",
        {"rx_hz": 438_612_500, "tx_hz": 431_012_500, "color_code": 6, "slot": 2, "admit": "color", "power": 1},
    ),
    ("NES NESSA", {"rx_hz": 438_787_500, "tx_hz": 431_187_500, "color_code": 2, "slot": 1, "receive_only": False}),
    ("NES EXER", {"color_code": 6, "slot": 2}),
    (
        "HOME ISLES",
        {"rx_hz": 434_612_500, "tx_hz": 433_012_500, "color_code": 1, "promiscuous": True, "admit": "always"},
    ),
    ("TRAV WW", {"rx_hz": 435_500_000, "tx_hz": 435_500_000, "slot": 2}),
    ("LT OSS FM", {"receive_only": True, "tone_tx": ""}),
]


@pytest.mark.parametrize(("name", "values"), CHANNELS)
def test_what_a_channel_holds(memories, name, values):
    channel = next(item for item in memories["tarn"].channels if item.name == name)
    assert {field: getattr(channel, field) for field in values} == values


CALLS = [
    ("BLK LOCAL", 8, "group"),
    ("BLK VELMAR", 99901, "group"),
    ("BLK ECHO", 999097, "private"),
    ("HOME DIAL", 8, "group"),
    ("HOME DISC", 999000, "group"),
    ("HOME N REA", 4220, "group"),
]


@pytest.mark.parametrize(("name", "number", "kind"), CALLS)
def test_whom_a_channel_calls_and_hears(memories, name, number, kind):
    memory = memories["tarn"]
    channel = next(item for item in memory.channels if item.name == name)
    contact = memory.contacts[channel.contact - 1]
    assert (contact.call, contact.kind) == (number, kind)
    heard = (
        [memory.contacts[at - 1].call for at in memory.group_lists[channel.group_list - 1].members]
        if channel.group_list
        else []
    )
    assert heard == ([number] if kind == "group" else [])


def test_the_radio_carries_its_owners_call_sign_and_id(memories):
    carried = {key: (memory.call, memory.dmr_id) for key, memory in memories.items()}
    wren = ("Q4WRN", 9994217)
    assert carried == {"tarn": wren, "moor": wren, "fell": wren, "crag": ("Q1VRC", 0)}


FELL = {
    "Blackfell": ["Blackfell FM"],
    "Signal Down": [
        "SIG B Local",
        "SIG B +VLR001 A",
        "SIG B VLR001 A",
        "SIG B +VLR001 C",
        "SIG B VLR001 C",
        "SIG B Unlink",
        "SIG B Echo",
        "SIG B Odile",
        "SIG C Local",
        "SIG C Echo",
    ],
    "Home spot": [
        "Home +VLR001 C",
        "Home VLR001 C",
        "Home Unlink",
        "Home Echo",
        "Home Information",
        "Home Stenby Rtg",
    ],
    "Travel spot": ["Travel +VLR001 C", "Travel VLR001 C", "Travel Unlink", "Travel Echo"],
    "FM": ["Blackfell FM", "Harrowquay FM", "Little Oss FM", "Calling FM", "Weather FM"],
}
CRAG = {
    "Blackfell": ["Blackfell FM"],
    "Torrick Head": ["TRK Fusion", "TRK Vel Commons", "TRK Torrick Watc", "TRK Leave room"],
    "Home spot": ["Home Vel Commons", "Home Sea Room"],
    "FM": ["Blackfell FM", "Harrowquay FM", "Little Oss FM", "Calling FM", "Weather FM"],
}


@pytest.mark.parametrize(("radio", "zones"), [("fell", FELL), ("crag", CRAG)])
def test_every_memory_of_the_other_modes_has_its_name(memories, radio, zones):
    test_every_knob_position_has_its_name(memories, radio, zones)


@pytest.mark.parametrize(
    ("name", "ur", "rpt1", "rpt2", "zero_offset"),
    [
        ("SIG B Local", "CQCQCQ  ", "Q0SIG  B", "Q0SIG  G", False),
        ("SIG B +VLR001 A", "VLR001AL", "Q0SIG  B", "Q0SIG  G", False),
        ("SIG B Odile", "Q9ODL   ", "Q0SIG  B", "Q0SIG  G", False),
        ("Home Stenby Rtg", "/Q0SIG C", "Q4WRN  D", "Q4WRN  G", False),
        ("Travel Unlink", "       U", "Q4WRN  K", "Q4WRN  G", True),
    ],
)
def test_what_a_dstar_memory_sends(memories, name, ur, rpt1, rpt2, zero_offset):
    channel = next(item for item in memories["fell"].channels if item.name == name)
    assert (channel.ur, channel.rpt1, channel.rpt2, channel.zero_offset) == (ur, rpt1, rpt2, zero_offset)


@pytest.mark.parametrize(
    ("name", "way", "dgid"),
    [("TRK Fusion", "AMS", 10), ("TRK Vel Commons", "AMS", 40), ("Home Sea Room", "DN", 0)],
)
def test_what_a_fusion_memory_sends(memories, name, way, dgid):
    channel = next(item for item in memories["crag"].channels if item.name == name)
    assert (channel.way, channel.dgid_tx, channel.dgid_rx) == (way, dgid, 0)


def test_one_touch_halves_alias_and_scan(memories):
    moor, tarn = memories["moor"], memories["tarn"]
    assert moor.contacts[moor.one_touch - 1].call == 999000
    assert [moor.zones[number - 1].name for number in moor.halves] == ["Home spot", "Blackfell"]
    assert (moor.alias, tarn.alias) == ("Q4WRN Wren, Velmar", "Q4WRN WREN VELMA")
    scan = tarn.scans[0]
    assert tarn.channels[scan.priority - 1].name == "CALLING FM"
    assert scan.hang_ms == 3000
