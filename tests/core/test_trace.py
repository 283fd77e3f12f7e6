import pytest
from hypothesis import given

from tests.days import TODAY
from tests.strategies import plans
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.edit.edit_access import set_air, set_service, swap_offset
from umbra_awl.core.plan.edit.edit_station import set_guard, set_licence
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.parts import DESTINATIONS
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.routes.punch import set_route
from umbra_awl.core.trace.keyup import trace

PROFILES = shipped_profiles()
BLK = "blackfell-dmr>isles-wide@2"
FM = "blackfell-fm>local@0"


def traced(plan, route, radio="tarn"):
    index = PlanIndex(plan, TODAY)
    fits = {item.key: fit(index, item, PROFILES[item.profile]) for item in plan.radios}
    return trace(index, fits, radio, route)


def change(plan, route, **fields):
    return set_route(PlanIndex(plan, TODAY), route, "x", **fields).apply(plan)


def test_a_sound_dmr_key_up_passes_every_hop(plan):
    result = traced(plan, BLK)
    assert [hop.title for hop in result.hops] == ["You", "Guard", "Radio", "Q0BLK", "Lattice", "Far side"]
    assert {hop.state for hop in result.hops} == {"pass"}
    assert result.reaches
    assert result.hops[0].text == "Tarn 16, zone BLACKFELL, knob 4"
    assert result.hops[4].text == "99900 static"
    assert {item.who for item in result.listeners if item.hears} >= {"Blackfell", "Cairnlow", "all on Isles-wide"}


def test_an_fm_key_up_knows_no_network(plan):
    assert [hop.kind for hop in traced(plan, FM).hops] == ["you", "guard", "radio", "access", "far"]


BROKEN = [
    ("cairnlow-dmr>nessa-torrick@1", lambda plan: plan, "guard", "446.3875 is out of band"),
    (BLK, lambda plan: set_guard(True).apply(plan), "guard", "receive-only"),
    (BLK, lambda plan: set_licence("x", bands=("2 m",)).apply(plan), "guard", "431.0125 is outside the licence"),
    (BLK, lambda plan: change(plan, BLK, receive_only=True), "guard", "receive-only channel"),
    (BLK, lambda plan: change(plan, BLK, encrypted=True), "radio", "encryption is on"),
    (
        BLK,
        lambda plan: set_fields(DESTINATIONS, "isles-wide", "x", number=None).apply(plan),
        "radio",
        "no contact to call",
    ),
    (BLK, lambda plan: change(plan, BLK, color_code=2), "access", "has color code 6"),
    (BLK, lambda plan: set_air("blackfell-dmr", "x", slots=(1,)).apply(plan), "access", "does not use slot 2"),
    (BLK, lambda plan: set_air("blackfell-dmr", "x", network="").apply(plan), "network", "no network behind it"),
    (FM, lambda plan: change(plan, FM, tone_tx="88.5"), "access", "wants tone 103.5"),
    (
        "home-dmr>isles-wide@1",
        lambda plan: set_service("home-dmr", "x", tx_hz=433_025_000).apply(plan),
        "access",
        "listens on 433.0125",
    ),
    (
        "home-dmr>echo@2",
        lambda plan: set_fields(DESTINATIONS, "echo", "x", call="group").apply(plan),
        "network",
        "999097 echo",
    ),
]


@pytest.mark.parametrize(("route", "spoil", "kind", "text"), BROKEN)
def test_the_first_broken_hop_is_named(plan, route, spoil, kind, text):
    result = traced(spoil(plan), route)
    assert result.broken is not None
    assert (result.broken.kind, result.broken.text) == (kind, text)
    after = result.hops[result.hops.index(result.broken) + 1 :]
    assert {hop.state for hop in after} <= {"dark"}
    assert not result.reaches
    assert not result.listeners


def test_repairing_the_sign_lets_cairnlow_through(plan):
    repaired = swap_offset(*PlanIndex(plan, TODAY).services["cairnlow-dmr"]).apply(plan)
    assert traced(repaired, "cairnlow-dmr>nessa-torrick@1").reaches


@pytest.mark.parametrize(
    ("route", "text"),
    [
        ("home-dmr>isles-wide@1", "99900 on demand"),
        ("home-dmr>dialled@1", "dialled through 8"),
        ("blackfell-dmr>local@1", "8 local"),
        ("home-dmr>echo@2", "999097 echo"),
        ("home-dmr>disconnect@1", "999000 disconnect"),
    ],
)
def test_what_the_network_does_with_it(plan, route, text):
    assert traced(plan, route).hops[4].text == text


def test_the_echo_answers_only_the_caller(plan):
    assert [item.who for item in traced(plan, "home-dmr>echo@2").listeners] == ["the echo"]


def listener(plan, route, who):
    return next(item for item in traced(plan, route).listeners if item.who.startswith(who))


def test_the_other_radio_hears_through_its_group_list(plan):
    assert listener(plan, BLK, "Moor 4K").why == "99900 is in its receive group list."


def test_a_promiscuous_channel_hears_anything_on_its_slot(plan):
    assert listener(plan, "home-dmr>isles-wide@1", "Moor 4K").why == "Promiscuous: it opens for anything on the slot."


def test_a_radio_without_the_group_stays_silent_and_why(plan):
    away = change(plan, BLK, hears=("exercise",), color_code=None)
    other = [item for item in traced(away, "blackfell-dmr>great-velmar@1").listeners if item.who.startswith("Moor")]
    assert other[0].hears
    from msgspec.structs import replace

    lonely = replace(
        plan, routes=tuple(item for item in plan.routes if item.service != "blackfell-dmr" or item.key == BLK)
    )
    lonely = replace(
        lonely, radios=(replace(lonely.radios[0]), replace(lonely.radios[1], zones=("nessa", "home", "trip", "fm")))
    )
    assert not [item for item in traced(lonely, BLK).listeners if item.who.startswith("Moor")]


def test_an_fm_listener_on_a_digital_frequency_hears_noise(plan):
    from msgspec.structs import replace

    from umbra_awl.core.plan.model import AccessPoint, FmAir, Route, Service

    noisy = AccessPoint("ear", "", "Ear", "simplex", services=(Service("ear-fm", 438_612_500, 438_612_500, FmAir()),))
    plan = replace(plan, access=(*plan.access, noisy), routes=(Route("ear-fm", "local"), *plan.routes))
    plan = replace(plan, radios=(plan.radios[0], replace(plan.radios[1], zones=("fm",))))
    heard = listener(plan, BLK, "Moor 4K")
    assert (heard.hears, heard.why) == (False, "An FM listener hears a burst of noise.")


def test_a_route_left_out_of_the_radio_stops_at_the_operator(plan):
    from msgspec.structs import replace

    plan = replace(plan, radios=(replace(plan.radios[0], zones=("fm",)), plan.radios[1]))
    result = traced(plan, BLK)
    assert (result.broken.kind, result.broken.text) == ("you", "not on Tarn 16")
    assert "no zone" in result.broken.detail


@given(plans())
def test_any_route_of_any_plan_can_be_traced(plan):
    for route in plan.routes[:4]:
        result = traced(plan, route.key)
        stops = [hop for hop in result.hops if hop.state == "stop"]
        assert len(stops) <= 1
        assert result.reaches is (not stops)
