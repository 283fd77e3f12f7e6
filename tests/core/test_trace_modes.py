"""D-STAR key-ups hop by hop, what the operator would notice, the repair; and the other direction: why nothing is heard."""

import pytest
from hypothesis import given
from msgspec.structs import replace

from tests.days import TODAY
from tests.strategies import plans
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.edit.edit_access import set_air, set_service
from umbra_awl.core.plan.edit.edit_station import set_identity
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination
from umbra_awl.core.plan.parts import HOTSPOTS
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.routes.punch import set_route
from umbra_awl.core.trace.keyup import trace
from umbra_awl.core.trace.model import mending
from umbra_awl.core.trace.silent import calls_to_ask, why_silent

PROFILES = shipped_profiles()
TALK_A, LINK_A = "signal-b>vlr001-a@2", "signal-b>vlr001-a@1"
TALK_C = "signal-b>vlr001-c@2"


def fits_of(plan):
    index = PlanIndex(plan, TODAY)
    return index, {item.key: fit(index, item, PROFILES[item.profile]) for item in plan.radios}


def traced(plan, route, radio="fell"):
    return trace(*fits_of(plan), radio, route)


def change(plan, route, **fields):
    return set_route(PlanIndex(plan, TODAY), route, "x", **fields).apply(plan)


def test_every_hop_of_a_talk_through_a_link(plan):
    result = traced(plan, TALK_A)
    assert [hop.title for hop in result.hops] == ["You", "Guard", "Radio", "Q0SIG B", "Gateway", "Skein", "Far side"]
    assert result.reaches
    assert result.hops[2].text == "430.8500, UR CQCQCQ··"
    assert result.hops[5].detail == "Link first with SIG B +VLR001 A, and wait for the confirmation."
    assert [item.who for item in result.listeners] == ["Signal Down B", "all on VLR001 A"]
    assert len(result.order) == 4


@pytest.mark.parametrize(
    ("route", "text", "first"),
    [
        (LINK_A, "links to VLR001 A", "the gateway"),
        ("signal-b>unlink@0", "unlinks the module", "the network"),
        ("signal-b>ds-echo@0", "echo", "the echo"),
        ("home-dstar>ds-info@0", "information", "the gateway"),
        ("signal-b>odile@0", "finds Q9ODL", "Signal Down B"),
        ("home-dstar>to-signal-c@0", "routes to Q0SIG C", "Home spot D"),
        ("signal-b>local@0", "CQ", "Signal Down B"),
    ],
)
def test_what_the_gateway_does(plan, route, text, first):
    result = traced(plan, route)
    assert result.hops[-2].text == text
    assert result.listeners[0].who == first
    assert result.reaches


BROKEN = [
    (TALK_C, lambda plan: plan, "network", "every key-up links VLR001 C again"),
    (TALK_A, lambda plan: change(plan, TALK_A, ur="       U"), "network", "every key-up unlinks"),
    (TALK_A, lambda plan: change(plan, TALK_A, ur="VLR001 L"), "network", "UR VLR001·L asks for nothing"),
    (TALK_A, lambda plan: change(plan, TALK_A, ur=""), "network", "UR ········ asks for nothing"),
    (TALK_A, lambda plan: change(plan, TALK_A, rpt1="", rpt2=""), "access", "not addressed"),
    (TALK_A, lambda plan: change(plan, TALK_A, rpt1="Q4WRN  D"), "access", "not for this module"),
    (TALK_A, lambda plan: change(plan, TALK_A, rpt2="Q0SIG  B"), "gateway", "RPT2 does not lead to it"),
    (TALK_A, lambda plan: set_identity("wren", "x", call="").apply(plan), "radio", "MY is blank"),
    (
        "home-dstar>ds-echo@0",
        lambda plan: set_service("home-dstar", "x", tx_hz=433_025_000).apply(plan),
        "access",
        "listens on 433.0125",
    ),
]


@pytest.mark.parametrize(("route", "spoil", "kind", "text"), BROKEN)
def test_the_first_broken_hop_with_its_notice_and_repair(plan, route, spoil, kind, text):
    spoiled = spoil(plan)
    broken = traced(spoiled, route).broken
    assert (broken.kind, broken.text) == (kind, text)
    assert broken.notice.endswith(".")
    index = PlanIndex(spoiled, TODAY)
    repair = mending(index, route, broken.mends, findings_of(index, PROFILES))
    if text == "MY is blank":
        assert repair is None  # nobody but the operator knows the call sign
        return
    assert traced(repair.edit.apply(spoiled), route).reaches


def test_a_module_without_a_gateway_stays_local(plan):
    alone = set_air("signal-c", "x", gateway=False).apply(plan)
    result = traced(alone, "signal-c>local@0")
    assert "Gateway" not in [hop.title for hop in result.hops]
    assert result.reaches


def test_dmr_stops_say_what_one_would_notice(plan):
    index = PlanIndex(plan, TODAY)
    key = "blackfell-dmr>isles-wide@2"
    wrong = set_route(index, key, "x", color_code=2).apply(plan)
    broken = traced(wrong, key, "tarn").broken
    assert "nothing comes back" in broken.notice
    repair = mending(PlanIndex(wrong, TODAY), key, broken.mends, findings_of(PlanIndex(wrong, TODAY), PROFILES))
    assert repair.label == "Use color code 6"


@given(plans())
def test_any_route_on_any_radio_can_be_traced(plan):
    index, fits = fits_of(plan)
    for route in plan.routes[:3]:
        for radio in plan.radios:
            result = trace(index, fits, radio.key, route.key)
            stops = [hop for hop in result.hops if hop.state == "stop"]
            assert len(stops) <= 1
            assert result.reaches is (not stops)


def silent(plan, route, call, radio="moor"):
    return why_silent(*fits_of(plan), radio, route, call)


ISLES = "blackfell-dmr>isles-wide@2"
CALL = ("blackfell-dmr", "isles-wide", 2)


def test_calls_that_somebody_might_make(plan, index):
    calls = calls_to_ask(index, index.routes[ISLES])
    assert calls[0] == CALL
    assert ("blackfell-dmr", "ostrand", 1) in calls  # not punched, and still somebody's call
    assert calls.index(("blackfell-dmr", "ostrand", 1)) < calls.index(("cairnlow-dmr", "isles-wide", 2))
    assert len(set(calls)) == len(calls) <= 300
    assert silent(plan, ISLES, ("blackfell-dmr", "ostrand", 2)).shut.text == "4226 is not in its receive group list."


def test_a_sound_channel_opens(plan):
    answer = silent(plan, ISLES, CALL)
    assert answer.shut is None
    assert {item.holds for item in answer.conditions} == {"yes"}
    assert answer.conditions[-1].text == "Q0BLK always carries Isles-wide on slot 2."


SHUT = [
    (lambda plan: change(plan, ISLES, color_code=2), CALL, "Listens with color code 2, not 6."),
    (lambda plan: plan, ("blackfell-dmr", "great-velmar", 1), "Listens on slot 2, not 1."),
    (
        lambda plan: change(plan, ISLES, hears=("exercise",)),
        ("blackfell-dmr", "nessa-torrick", 2),
        "99902 is not in its",
    ),
    (
        lambda plan: replace(
            plan,
            destinations=(
                *plan.destinations,
                Destination("someone", "Somebody", "private", "lattice", 9_990_001, "private"),
            ),
        ),
        ("blackfell-dmr", "someone", 2),
        "A private call to another ID",
    ),
    (lambda plan: plan, ("blackfell-fm", "local", 0), "Listens on 438.6125, and the call comes on 145.7125."),
    (
        lambda plan: change(plan, ISLES, promiscuous=True),
        ("blackfell-dmr", "isles-wide", 1),
        "Listens on slot 2, not 1.",
    ),
]


@pytest.mark.parametrize(("spoil", "call", "text"), SHUT)
def test_which_condition_keeps_the_speaker_shut(plan, spoil, call, text):
    assert silent(spoil(plan), ISLES, call).shut.text.startswith(text)


def test_an_echo_comes_back_to_the_radio_that_asked(plan):
    found = silent(plan, "blackfell-dmr>echo@2", ("blackfell-dmr", "echo", 2))
    assert found.shut is None
    assert "The private call is for this radio's ID." in {item.text for item in found.conditions}
    nobody = replace(plan.station.identities[0], ids=())
    station = replace(plan.station, identities=(nobody, *plan.station.identities[1:]))
    assert silent(replace(plan, station=station), "blackfell-dmr>echo@2", ("blackfell-dmr", "echo", 2)).shut is not None


def test_another_channel_that_would_open_is_named(plan):
    assert silent(plan, ISLES, ("blackfell-dmr", "great-velmar", 1)).instead == "BLK Great Velmar"
    assert silent(plan, ISLES, CALL).instead == ""


def test_what_has_to_be_joined_linked_or_connected_first(plan):
    on_demand = silent(plan, "home-dmr>atlantic-english@1", ("home-dmr", "atlantic-english", 1))
    assert on_demand.conditions[-1].holds == "perhaps"
    other = silent(plan, "blackfell-dmr>exercise@2", ("blackfell-dmr", "great-velmar", 2))
    assert "always carries it on slot 1, not 2" in [item for item in other.conditions if item.holds == "no"][-1].text
    linked = silent(plan, TALK_A, ("signal-b", "vlr001-a", 2), "fell")
    assert "only while it is linked" in linked.conditions[-1].text
    room = silent(plan, "home-fusion>sea-room@0", ("home-fusion", "sea-room", 0), "crag")
    assert "connected to that room" in room.conditions[-1].text


def test_fm_tones_and_modes(plan):
    toned = change(plan, "blackfell-fm>local@0", tone_rx="88.5")
    answer = silent(toned, "blackfell-fm>local@0", ("blackfell-fm", "local", 0))
    assert answer.shut.text == "Waits for the tone 88.5."
    sends = set_air("blackfell-fm", "x", tone_rx="88.5").apply(toned)
    assert silent(sends, "blackfell-fm>local@0", ("blackfell-fm", "local", 0)).shut is None


def test_dg_ids_on_receive(plan):
    key = "torrick-fusion>local@0"
    shut = change(plan, key, dgid_rx=20)
    answer = silent(shut, key, ("torrick-fusion", "velmar-commons", 0), "crag")
    assert answer.shut.text == "Opens for DG-ID 20 only, not 40."


def test_a_radio_that_has_no_such_channel(plan):
    answer = silent(plan, TALK_A, ("signal-b", "vlr001-a", 2), "tarn")
    assert "Tarn 16 has no channel for" in answer.shut.text
    assert "has no D-STAR" in answer.shut.text


def test_a_hotspot_that_stands_elsewhere_is_not_heard(plan):
    moved = set_fields(HOTSPOTS, "home", "x", transmit_hz=434_700_000).apply(plan)
    answer = silent(moved, "home-dmr>echo@2", ("home-dmr", "isles-wide", 2))
    assert answer.shut.text == "Listens on 434.6125, and the call comes on 434.7000."
    assert "hotspot-differs" in answer.shut.mends


@given(plans())
def test_any_channel_answers_for_any_call(plan):
    index, fits = fits_of(plan)
    for route in plan.routes[:3]:
        for other in plan.routes[:3]:
            answer = why_silent(index, fits, "moor", route.key, (other.service, other.destination, other.slot))
            assert answer.conditions
            assert all(item.text.endswith(".") for item in answer.conditions)


def test_the_demo_without_its_faults_reaches_everybody(plan):
    for _step in range(6):
        plan = findings_of(PlanIndex(plan, TODAY), PROFILES)[0].repair.edit.apply(plan)
    index, fits = fits_of(plan)
    for radio in plan.radios:
        for channel in fits[radio.key].memory.channels:
            result = trace(index, fits, radio.key, channel.route)
            assert result.reaches or result.broken.text == "receive-only channel", (
                radio.name,
                channel.name,
                result.broken,
            )
    assert replace(plan, routes=()) != plan
