"""Bringing a radio in: what was fitted comes back as a plan that fits to the same."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from tests.examples import examples
from tests.strategies import plans
from umbra_awl.core.bring.joining import as_plan, bring_into
from umbra_awl.core.bring.recognise import recognise
from umbra_awl.core.columns.fields import MemoryRows
from umbra_awl.core.findings.evaluate import Evaluator
from umbra_awl.core.fit.compare import tried
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.radio.memory import Channel, Contact, Memory, MemoryList, Room
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

PROFILES = shipped_profiles()


def sense(memory):
    """What the channels say, call and hear, in any order of tables."""
    groups = {
        item.number: frozenset(memory.contacts[at - 1].call for at in item.members if at <= len(memory.contacts))
        for item in memory.group_lists
    }
    left = {"number", "contact", "group_list", "zone", "scan"}
    rows = MemoryRows(memory).rows("channels")
    return sorted(
        (
            tuple(sorted((field, value) for field, value in row.items() if field not in left)),
            tuple(sorted(groups.get(channel.group_list, ()))),
        )
        for row, channel in zip(rows, memory.channels, strict=True)
    )


def zones(memory):
    names = {channel.number: channel.name for channel in memory.channels}
    return {item.name: [names[number] for number in item.members] for item in memory.zones}


def fitted_again(memory, profile, plan):
    """A memory brought in, licensed as the plan it came from, and fitted anew."""
    brought = recognise(memory, profile)
    made = as_plan(brought, "Mine", "Mine", profile.key)
    assert not structure_faults(made)
    station = replace(plan.station, identities=made.station.identities)
    index = PlanIndex(replace(made, station=station), TODAY)
    return brought, fit(index, index.plan.radios[0], profile)


@pytest.mark.parametrize("key", list(PROFILES))
def test_a_fitted_demo_comes_back_as_a_plan_that_fits_to_the_same(plan, key):
    profile = PROFILES[key]
    memory = tried(PlanIndex(plan, TODAY), profile).memory
    brought, again = fitted_again(memory, profile, plan)
    assert not [note for note in brought.notes if note.kind == "not understood"]
    assert sense(again.memory) == sense(memory)
    assert zones(again.memory) == zones(memory)


@given(plans(tidy=True), st.sampled_from(list(PROFILES)))
@examples(80)
def test_every_channel_becomes_a_route_or_is_said_not_to(plan, key):
    profile = PROFILES[key]
    memory = tried(PlanIndex(plan, TODAY), profile).memory
    brought = recognise(memory, profile)
    made = as_plan(brought, "Mine", "Mine", key)
    assert not structure_faults(made)
    said = [note.about for note in brought.notes if note.kind == "not understood"]
    for channel in memory.channels:
        assert channel.number in brought.routes or channel.name in said


@given(plans(tidy=True), st.sampled_from(list(PROFILES)))
@examples(80)
def test_bringing_a_radio_into_its_own_plan_is_sound_and_adds_no_service(plan, key):
    index = PlanIndex(plan, TODAY)
    memory = tried(index, PROFILES[key]).memory
    brought = recognise(memory, PROFILES[key], index)
    joined = bring_into(brought).apply(plan)
    assert not structure_faults(joined)
    assert len(joined.routes) >= len(plan.routes)


def test_the_demo_radio_is_known_to_its_own_plan(plan):
    index = PlanIndex(plan, TODAY)
    memory = tried(index, PROFILES["moor4k"]).memory
    brought = recognise(memory, PROFILES["moor4k"], index)
    assert not brought.access
    assert not brought.destinations
    assert not brought.fresh
    assert brought.matched == 9


DMR = {"mode": "dmr", "rx_hz": 438_787_500, "tx_hz": 431_187_500, "color_code": 2, "contact": 1, "group_list": 1}
CONTACTS = (Contact(1, "ISLES", 99900), Contact(2, "ECHO", 999097, "private"))


def memory_of(*channels, **fields):
    return Memory("tarn16", "", "Q9ODL", 9_995_555, channels, CONTACTS, (MemoryList(1, "ISLES", (1,)),), **fields)


def test_one_frequency_pair_and_color_code_is_one_service():
    brought = recognise(
        memory_of(
            Channel(1, "NES ISLES", **DMR, slot=2),
            Channel(2, "NES ECHO", **{**DMR, "contact": 2, "group_list": 0}, slot=1),
            Channel(3, "BLK ISLES", **{**DMR, "color_code": 6}, slot=2),
        )
    )
    assert [(access.site, len(access.services)) for access in brought.access] == [("NES", 1), ("BLK", 1)]
    assert [item.name for item in brought.destinations] == ["ISLES", "ECHO"]
    assert [route.slot for route in brought.fresh] == [2, 1, 2]


def test_a_step_between_the_lowest_and_the_highest_is_brought_and_fitted_again():
    steps = range(len(PROFILES["moor4k"].power_watts))
    channels = [Channel(at + 1, f"NES {at}", **{**DMR, "contact": at + 1}, slot=2, power=at) for at in steps]
    contacts = tuple(Contact(at + 1, f"GROUP {at}", 99900 + at) for at in steps)
    lists = (MemoryList(1, "ALL", tuple(at + 1 for at in steps)),)
    brought = recognise(Memory("moor4k", "", "Q9ODL", 9_995_555, tuple(channels), contacts, lists), PROFILES["moor4k"])
    assert [item.step for item in brought.powers] == list(steps)[1:-1]
    assert list(steps)[1:-1], "the radio has steps between"
    plan = as_plan(brought, "Moor", "Moor", "moor4k")
    again = fit(PlanIndex(plan, TODAY), plan.radios[0], PROFILES["moor4k"])
    assert {item.power for item in again.memory.channels} == set(steps)


def test_a_copied_color_code_is_kept_and_its_finding_shown():
    memory = memory_of(
        Channel(1, "NES ISLES", **DMR, slot=2),
        Channel(2, "NES ECHO", **{**DMR, "contact": 2, "group_list": 0}, slot=2),
        Channel(3, "NES EXER", **{**DMR, "color_code": 6}, slot=1),
    )
    brought = recognise(memory, PROFILES["tarn16"])
    assert len(brought.access) == 1
    assert any("color code 6 where the others" in note.text for note in brought.notes)
    made = as_plan(brought, "Mine", "Tarn", "tarn16")
    assert made.routes[2].color_code == 6
    rules = {item.rule.name for item in Evaluator(PROFILES).evaluate(PlanIndex(made, TODAY))}
    assert any("color" in name for name in rules)


DSTAR = {"mode": "dstar", "rx_hz": 438_450_000, "tx_hz": 430_850_000, "rpt1": "Q0SIG  B", "rpt2": "Q0SIG  G"}


def test_link_and_talk_memories_become_a_pair_and_a_command_left_in_is_found():
    channels = (
        Channel(1, "SIG LINK VLR001C", **DSTAR, ur="VLR001CL"),
        Channel(2, "SIG VLR001C", **DSTAR, ur="VLR001CL"),
        Channel(3, "SIG CQ", **DSTAR, ur="CQCQCQ  "),
        Channel(4, "SIG UNLINK", **DSTAR, ur="       U"),
    )
    brought = recognise(Memory("fell-d2", "", "Q9ODL", channels=channels), PROFILES["fell-d2"])
    assert [(route.destination, route.slot, route.ur) for route in brought.fresh] == [
        ("vlr001-c", 1, None), ("vlr001-c", 2, "VLR001CL"), ("local", 0, None), ("unlink", 0, None),
    ]  # fmt: skip
    made = as_plan(brought, "Mine", "Fell", "fell-d2")
    assert made.access[0].call == "Q0SIG"
    found = [
        item.target.key
        for item in Evaluator(PROFILES).evaluate(PlanIndex(made, TODAY))
        if item.rule.name == "command-left-on"
    ]
    assert found == [brought.routes[2].key]


def test_rooms_are_known_by_name_and_by_dgid():
    air = {"mode": "fusion", "rx_hz": 438_900_000, "tx_hz": 431_300_000, "way": "DN"}
    channels = (
        Channel(1, "TRK LOCAL", **air, dgid_tx=10),
        Channel(2, "TRK AGAIN", **air, dgid_tx=10),
        Channel(3, "TRK COMMONS", **air, dgid_tx=40),
    )
    brought = recognise(Memory("crag-f3", channels=channels, rooms=(Room(1, "COMMONS", 40010),)), PROFILES["crag-f3"])
    rooms = {item.name: item.number for item in brought.destinations if item.kind == "room"}
    assert rooms == {"AGAIN": None, "COMMONS": 40010}
    assert [(item.dgid, item.destination) for item in brought.access[0].services[0].air.mapped] == [(40, "commons")]


def test_merging_uses_the_plans_network_destinations_and_zones(plan):
    index = PlanIndex(plan, TODAY)
    far = Channel(1, "FAR ISLES", **{**DMR, "rx_hz": 439_012_500, "tx_hz": 431_412_500}, slot=2)
    brought = recognise(memory_of(far, zones=(MemoryList(1, "Far", (1,)),)), PROFILES["tarn16"], index)
    assert not brought.destinations, "Isles-wide is in the plan"
    joined = bring_into(brought).apply(plan)
    assert joined.access[-1].services[0].air.network == "lattice"
    assert joined.routes[-1].destination == "isles-wide"
    assert joined.zones[-1].members == (joined.routes[-1].key,)
    assert bring_into(brought).sentence == "Bring in 1 route"


def test_two_channels_that_differ_only_in_settings_are_said():
    one = Channel(1, "NES ISLES", **DMR, slot=2)
    brought = recognise(memory_of(one, replace(one, number=2, name="NES AGAIN", promiscuous=True)))
    assert [note.about for note in brought.notes if note.kind == "not understood"] == ["NES AGAIN"]
    assert len(brought.fresh) == 1


def test_nothing_in_a_brought_plan_transmits_before_the_licence_is_entered(plan):
    memory = tried(PlanIndex(plan, TODAY), PROFILES["tarn16"]).memory
    made = as_plan(recognise(memory, PROFILES["tarn16"]), "Mine", "Tarn", "tarn16")
    index = PlanIndex(made, TODAY)
    assert all(channel.receive_only for channel in fit(index, made.radios[0], PROFILES["tarn16"]).memory.channels)
    assert made.station.licence == Plan().station.licence


# whatever a radio's bytes hold

ANY_MODE = st.sampled_from(["fm", "dmr", "dstar", "fusion"])


@st.composite
def wild_channels(draw):
    """Channels with values from anywhere a byte or a file may take them."""
    return [
        Channel(
            number,
            draw(st.sampled_from(["A", "A ONE", "B", ""])),
            draw(ANY_MODE),
            *draw(st.tuples(st.integers(-5, 2**33), st.integers(-5, 2**33)) | st.just((438_612_500, 431_012_500))),
            slot=draw(st.integers(-1, 16)),
            color_code=draw(st.integers(-1, 17)),
            contact=draw(st.integers(0, 4)),
            group_list=draw(st.integers(0, 3)),
            dgid_tx=draw(st.integers(-1, 300)),
            power=draw(st.integers(0, 255)),
            ur=draw(st.sampled_from(["CQCQCQ  ", "VLR001CL", "       U", "\0\0", "", "Q0BLK  B"])),
            rpt1=draw(st.sampled_from(["Q0BLK  B", "", "X", "Q0BLK  ß"])),
        )
        for number in range(1, draw(st.integers(1, 6)) + 1)
    ]


@given(wild_channels(), st.lists(st.integers(-2, 2**33), max_size=4), st.booleans())
@examples(150)
def test_what_was_brought_in_can_always_be_opened_and_every_channel_is_accounted_for(channels, calls, into_demo):
    contacts = tuple(Contact(at, f"TG {at}", call) for at, call in enumerate(calls, 1))
    lists = (MemoryList(1, "ALL", tuple(range(1, 9))),)
    memory = Memory("tarn16", call="Q9XYZ", dmr_id=2**31, channels=tuple(channels), contacts=contacts)
    memory = replace(memory, group_lists=lists, zones=lists, scans=(MemoryList(1, "S", (1, 2, 9), priority=2),))
    index = PlanIndex(demo_plan(TODAY) if into_demo else Plan(), TODAY)
    brought = recognise(memory, PROFILES["tarn16"], index)
    made = (
        bring_into(brought, "Found", "tarn16").apply(index.plan) if into_demo else as_plan(brought, "x", "y", "tarn16")
    )
    assert parse_plan(plan_bytes(made)) == made
    refused = {note.about for note in brought.notes if note.kind == "not understood"}
    for channel in channels:
        assert channel.number in brought.routes or channel.name in refused


@pytest.mark.parametrize("slot", [3, 5, 15])
def test_a_slot_that_does_not_exist_is_said_and_stays_out(slot):
    good = Channel(1, "A ONE", "dmr", 438_612_500, 431_012_500, slot=1)
    brought = recognise(Memory("tarn16", channels=(good, replace(good, number=2, name="A BAD", slot=slot))))
    assert list(brought.routes) == [1]
    assert [note.text for note in brought.notes if note.about == "A BAD"] == [
        f"It has slot {slot}; only 1 and 2 exist."
    ]
    assert "1 of 2 channels" in brought.notes[0].text


def test_a_channel_whose_number_makes_no_sense_only_listens():
    channel = Channel(1, "A ONE", "dmr", 438_612_500, 431_012_500, slot=1, contact=1)
    brought = recognise(Memory("tarn16", channels=(channel,), contacts=(Contact(1, "ODD", 2**30),)))
    assert brought.routes[1].receive_only
    assert any("receive-only" in note.text for note in brought.notes if note.about == "ODD")


@pytest.mark.parametrize(
    ("call", "number", "whose"),
    [("q4wrn", 5, "wren"), ("", 0, "wren"), ("Q9XYZ", 0, "q9xyz"), ("", 9_994_999, "radio")],
)
def test_a_radio_that_was_brought_in_is_whose_it_says(plan, call, number, whose):
    brought = recognise(Memory("tarn16", call=call, dmr_id=number), PROFILES["tarn16"], PlanIndex(plan, TODAY))
    made = bring_into(brought, "Found", "tarn16").apply(plan)
    assert made.radios[-1].identity == whose
    assert PlanIndex(made, TODAY).owners.station_of(made.radios[-1]).licence.granted == (whose == "wren")


def test_somebody_who_comes_first_does_not_take_over_a_licence_that_is_granted(plan):
    nobody = replace(plan, station=replace(plan.station, identities=()), radios=())
    brought = recognise(Memory("tarn16", call="Q9XYZ"), PROFILES["tarn16"], PlanIndex(nobody, TODAY))
    made = bring_into(brought, "Found", "tarn16").apply(nobody)
    assert not PlanIndex(made, TODAY).owners.station_of(made.radios[-1]).licence.granted
