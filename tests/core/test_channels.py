"""From routes to channels, value by value: the access point's, the route's own in its place, held back with the reason."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    AccessPoint,
    Destination,
    DmrAir,
    DstarAir,
    FmAir,
    FusionAir,
    Identity,
    Licence,
    Mapped,
    Network,
    OwnedRadio,
    Plan,
    RadioId,
    Route,
    Service,
    Station,
)
from umbra_awl.core.transfer.interlock import must_not_send, refusal

FREE = Licence("Full", True, "", (), 0.0, guard=False)
AIRS = {
    "fm": FmAir("88.5", "", 25_000),
    "dmr": DmrAir(3, "lattice", admit="color"),
    "dstar": DstarAir("B", network="skein"),
    "fusion": FusionAir(("VW", "DN"), 7, 9, network="commons", mapped=(Mapped(21, "room"),)),
}
DESTINATIONS = (
    Destination("local", "Local", "local"),
    Destination("wide", "Wide", "group", "lattice", 4000),
    Destination("near", "Near", "group", "lattice", 4001),
    Destination("vlr", "VLR001 C", "reflector", "skein", text="VLR001 C"),
    Destination("room", "Room", "room", "commons", 40_000),
    Destination("open", "Open", "room", "commons", 40_001),
)
RADIO_OF = {"fm": "tarn16", "dmr": "tarn16", "dstar": "fell-d2", "fusion": "crag-f3"}
HZ = (439_000_000, 431_400_000)


def plan_of(mode, *routes, kind="repeater", licence=FREE, hz=HZ, air=None):
    service = Service("s", *hz, air or AIRS[mode])
    return Plan(
        station=Station((Identity("me", "Q4WRN", "Wren", (RadioId(9994217),)),), licence),
        networks=(
            Network("lattice", "Lattice", "dmr", local_group=8),
            Network("skein", "Skein", "dstar"),
            Network("commons", "Commons", "fusion"),
        ),
        access=(AccessPoint("a", "Q0BLK", "Blackfell", kind, "", (service,)),),
        destinations=DESTINATIONS,
        routes=routes,
        radios=(OwnedRadio("radio", "Radio", RADIO_OF[mode]),),
    )


def fitted(profiles, plan, profile=None):
    index = PlanIndex(plan, TODAY)
    radio = plan.radios[0]
    return fit(index, radio, profile or profiles[radio.profile])


def only(profiles, mode, to, slot=0, *, profile=None, plan=(), **fields):
    made = fitted(profiles, plan_of(mode, Route("s", to, slot, **fields), **dict(plan)), profile)
    (channel,) = made.memory.channels
    return channel, made


def test_an_fm_channel_holds_the_access_points_values(profiles):
    channel, made = only(profiles, "fm", "local")
    assert (channel.rx_hz, channel.tx_hz, channel.mode) == (*HZ, "fm")
    assert (channel.tone_tx, channel.tone_rx, channel.width_hz) == ("88.5", "", 25_000)
    assert (channel.power, channel.admit, channel.receive_only) == (1, "always", False)
    assert made.report.of_kind("receive-only") == ()


@pytest.mark.parametrize(("tone", "sent"), [("100.0", "100.0"), ("", ""), (None, "88.5")])
def test_an_fm_route_has_its_own_where_it_says_so(profiles, tone, sent):
    channel, _made = only(
        profiles, "fm", "local", tone_tx=tone, tone_rx="67.0", width_hz=12_500, admit="free", power="low"
    )
    assert (channel.tone_tx, channel.tone_rx, channel.width_hz) == (sent, "67.0", 12_500)
    assert (channel.admit, channel.power) == ("free", 0)


def test_a_dmr_channel_holds_the_access_points_values(profiles):
    channel, made = only(profiles, "dmr", "wide", 2)
    assert (channel.color_code, channel.slot, channel.admit, channel.power) == (3, 2, "color", 1)
    assert made.memory.contacts[channel.contact - 1].call == 4000
    assert made.memory.group_lists[channel.group_list - 1].name == "WIDE"
    own, _made = only(
        profiles, "dmr", "wide", 1, color_code=0, admit="free", promiscuous=True, encrypted=True, power="low"
    )
    assert (own.color_code, own.admit, own.promiscuous, own.encrypted, own.power) == (0, "free", True, True, 0)


def test_what_a_radio_does_not_know_to_wait_for_is_its_first_way(profiles):
    plain = replace(profiles["tarn16"], admit=("free", "always"))
    assert only(profiles, "dmr", "wide", 1, profile=plain)[0].admit == "free"
    assert only(profiles, "fm", "local", profile=plain)[0].admit == "always"
    for mode, to in (("dstar", "local"), ("fusion", "local")):
        able = replace(profiles[RADIO_OF[mode]], admit=("free", "always"))
        assert only(profiles, mode, to, profile=able)[0].admit == "always"
        assert only(profiles, mode, to, profile=able, admit="free")[0].admit == "free"


def test_what_is_heard_by_rule_counts_the_routes_carried(profiles):
    air = DmrAir(3, "lattice", hears="slot")
    plan = plan_of("dmr", Route("s", "wide", 1), Route("s", "near", 1), Route("s", "local", 2), air=air)
    memory = fitted(profiles, plan).memory
    lists = [memory.group_lists[channel.group_list - 1] for channel in memory.channels]
    assert [len(item.members) for item in lists] == [2, 2, 1]
    assert lists[0].name == "Blackfell slot 1"[: profiles["tarn16"].display.length].strip() or lists[0] == lists[1]


def test_low_and_high_are_the_radios_own_within_the_licence(profiles):
    some = {"licence": replace(FREE, max_watts=3.0)}
    assert only(profiles, "dstar", "local", plan=some)[0].power == 1
    assert only(profiles, "dstar", "local", plan=some, power="low")[0].power == 0
    assert only(profiles, "dstar", "local")[0].power == 2
    assert only(profiles, "fusion", "local", plan={"licence": replace(FREE, max_watts=20.0)})[0].power == 1


@pytest.mark.parametrize(
    ("mode", "to", "slot"), [("fm", "local", 0), ("dmr", "wide", 1), ("dstar", "local", 0), ("fusion", "local", 0)]
)
def test_over_the_licences_power_a_channel_only_listens_at_its_lowest(profiles, mode, to, slot):
    channel, made = only(profiles, mode, to, slot, plan={"licence": replace(FREE, max_watts=0.1)})
    assert (channel.receive_only, channel.power) == (True, 0)
    assert "over the licence's 0.1 W" in made.report.of_kind("receive-only")[0].reason


@pytest.mark.parametrize(
    ("plan", "fields", "why"),
    [
        ({"kind": "receive"}, {}, "only listened to"),
        ({}, {"receive_only": True}, "Set to receive-only in the plan."),
        ({"licence": replace(FREE, guard=True)}, {}, "guard is on"),
        ({"licence": replace(FREE, granted=False)}, {}, "until the licence is granted"),
        ({"hz": (439_000_000, 446_400_000)}, {}, "outside the amateur bands"),
        ({"licence": replace(FREE, bands=("2 m",))}, {}, "the licence allows 2 m"),
        ({"hz": (145_993_500, 145_993_500), "air": FmAir()}, {"width_hz": 25_000}, "over the edge"),
        ({}, {"width_hz": 12_500}, ""),
        ({}, {}, ""),
    ],
)
def test_what_is_held_back_is_held_and_said_once(profiles, plan, fields, why):
    channel, made = only(profiles, "fm", "local", plan=plan, **fields)
    assert channel.receive_only is bool(why)
    lines = made.report.of_kind("receive-only")
    assert [line.key for line in lines] == (["s>local@0"] if why else [])
    assert not why or why in lines[0].reason
    assert not why or lines[0].title == channel.name


def test_a_fusion_route_in_fm_is_judged_by_its_own_width(profiles):
    """145.9950 takes C4FM whole and narrow FM not."""
    there = {"hz": (145_995_000, 145_995_000)}
    assert only(profiles, "fusion", "local", plan=there)[0].receive_only is False
    assert only(profiles, "fusion", "local", plan=there, way="FM")[0].receive_only is True


def test_each_route_is_judged_by_its_own_values_whatever_came_before(profiles):
    plan = plan_of("fm", Route("s", "local", 0), hz=(145_993_500, 145_993_500), air=FmAir())
    wide = Service("w", 145_993_500, 145_993_500, FmAir(width_hz=25_000))
    access = replace(plan.access[0], services=(*plan.access[0].services, wide))
    both = replace(
        plan, access=(access,), routes=(*plan.routes, Route("w", "local"), Route("s", "local", 0, "x", width_hz=25_000))
    )
    held = [channel.receive_only for channel in fitted(profiles, replace(both, routes=both.routes[:2])).memory.channels]
    assert held == [False, True]


def test_dstar_fields_are_worked_out_and_a_routes_own_stand_in_their_place(profiles):
    talk, _made = only(profiles, "dstar", "vlr", 2)
    assert (talk.ur, talk.rpt1, talk.rpt2) == ("CQCQCQ  ", "Q0BLK  B", "Q0BLK  G")
    link, _made = only(profiles, "dstar", "vlr", 1)
    assert link.ur == "VLR001CL"
    for name, value in (("ur", "Q0SIG   "), ("rpt1", "Q0SIG  C"), ("rpt2", "")):
        own, _made = only(profiles, "dstar", "vlr", 2, **{name: value})
        assert getattr(own, name).strip() == value.strip()
        others = {"ur", "rpt1", "rpt2"} - {name}
        assert all(getattr(own, other) == getattr(talk, other) for other in others)


@pytest.mark.parametrize(
    ("needs", "hz", "zero"), [(True, (439_000_000,) * 2, True), (True, HZ, False), (False, (439_000_000,) * 2, False)]
)
def test_a_radio_that_fills_routing_only_in_duplex_memories_gets_an_offset_of_nought(profiles, needs, hz, zero):
    base = profiles["fell-d2"]
    profile = replace(base, needs=replace(base.needs, zero_offset=needs))
    channel, made = only(profiles, "dstar", "local", profile=profile, plan={"hz": hz})
    assert channel.zero_offset is zero
    lines = made.report.of_kind("made duplex")
    assert [(line.key, line.title) for line in lines] == ([("s>local@0", channel.name)] if zero else [])
    blank, made = only(profiles, "dstar", "local", profile=profile, plan={"hz": hz}, rpt1="")
    assert (blank.zero_offset, made.report.of_kind("made duplex")) == (False, ())


def test_fusion_ways_and_digital_group_ids(profiles):
    def seen(to, **fields):
        channel, _made = only(profiles, "fusion", to, **fields)
        return channel.way, channel.dgid_tx, channel.dgid_rx

    assert seen("local") == ("VW", 7, 9)
    assert seen("room") == ("VW", 21, 9)
    assert seen("open") == ("VW", 7, 9)
    assert seen("room", way="DN", dgid_tx=0, dgid_rx=0) == ("DN", 0, 0)
    assert seen("local", dgid_tx=5) == ("VW", 5, 9)


# The last look before a write.


def looked(profiles, plan, spoil=lambda channel: channel):
    index, radio = PlanIndex(plan, TODAY), plan.radios[0]
    profile = profiles[radio.profile]
    memory = fit(index, radio, profile).memory
    spoiled = replace(memory, channels=tuple(map(spoil, memory.channels)))
    return must_not_send(index, radio, profile, spoiled)


def test_power_at_the_licences_limit_may_go_out_and_more_may_not(profiles):
    for watts, words in ((5.0, []), (4.0, ["5 W is over the licence's 4 W."])):
        plan = plan_of("dmr", Route("s", "wide", 1), licence=replace(FREE, max_watts=watts))
        found = looked(profiles, plan, lambda channel: replace(channel, power=1, receive_only=False))
        assert [why for _name, why in found] == words


@pytest.mark.parametrize(("way", "held"), [("DN", False), ("FM", True), ("AMS", True)])
def test_a_fusion_channel_in_fm_is_looked_at_as_fm(profiles, way, held):
    plan = plan_of("fusion", Route("s", "local"), hz=(145_995_000, 145_995_000))
    assert bool(looked(profiles, plan, lambda channel: replace(channel, way=way))) is held


def test_a_refusal_names_three_and_counts_the_rest():
    found = [(name, "Why.") for name in "ABCDE"]
    assert refusal(found[:1]).startswith(
        "Nothing was written: A would transmit where the plan does not let them. Why. Read"
    )
    assert refusal(found[:3]).startswith("Nothing was written: A, B, C would")
    assert refusal(found[:4]).startswith("Nothing was written: A, B, C and 1 more would")
    assert refusal(found).startswith("Nothing was written: A, B, C and 2 more would")
