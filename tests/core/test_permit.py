"""Who may transmit what, where: every branch of the guard, the bands, the licence and the power."""

from datetime import timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.facts.bands import Band
from umbra_awl.core.facts.emissions import Emission, emission
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.fit.channels import ChannelMaker
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.modes.table import sent_by
from umbra_awl.core.plan.edit.edit_access import set_air, set_service
from umbra_awl.core.plan.edit.edit_station import add_identity, own_licence, set_guard, set_licence, whose_licence
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import FmAir, FusionAir, Identity, Licence, Route, Service, Station
from umbra_awl.core.plan.parts import RADIOS
from umbra_awl.core.plan.permit import band_permit, guard_permit, in_force, transmit_permit, transmit_state
from umbra_awl.core.routes.punch import set_route

FREE = Licence("Full", True, "", (), 0.0, guard=False)


def station(licence=FREE, region=1, bands=()):
    return Station(licence=licence, region=region, bands=bands)


@pytest.mark.parametrize(
    ("mode", "channel_hz", "occupied_hz"),
    [
        ("fm", 25_000, 16_000),
        ("fm", 12_500, 11_000),
        ("dmr", 12_500, 7_600),
        ("dstar", 12_500, 6_000),
        ("fusion", 12_500, 9_360),
    ],
)
def test_an_emission_occupies_what_its_designation_says(mode, channel_hz, occupied_hz):
    sent = emission(mode, 145_000_000, channel_hz)
    assert (sent.low_hz, sent.high_hz) == (145_000_000 - occupied_hz // 2, 145_000_000 + occupied_hz // 2)


# Carriers worked out by hand: the outermost on which the whole emission still lies in 144-146 or 430-440 MHz.
@pytest.mark.parametrize(
    ("mode", "channel_hz", "last_hz", "first_hz"),
    [
        ("fm", 25_000, 145_992_000, 430_008_000),
        ("fm", 12_500, 145_994_500, 430_005_500),
        ("dmr", 12_500, 145_996_200, 430_003_800),
        ("dstar", 12_500, 145_997_000, 430_003_000),
        ("fusion", 12_500, 145_995_320, 430_004_680),
    ],
)
def test_a_carrier_keeps_half_its_width_away_from_the_edge(mode, channel_hz, last_hz, first_hz):
    for inside, outside in ((last_hz, last_hz + 1), (first_hz, first_hz - 1)):
        assert band_permit(station(), emission(mode, inside, channel_hz)).allowed
        assert band_permit(station(), emission(mode, outside, channel_hz)).kind == "edge"


def test_the_reason_has_the_numbers_and_the_nearest_channel_that_fits():
    permit = band_permit(station(), emission("fm", 146_000_000, 25_000))
    assert permit.reason == (
        "146.0000 MHz with 16 kHz of wide FM takes 145.9920 to 146.0080, 8 kHz over the edge of 2 m (144.0000 to 146.0000). "
        "The nearest channel that fits is 145.9875."
    )
    assert permit.nearest_hz == 145_987_500
    assert band_permit(station(), emission("dmr", 430_000_000)).nearest_hz == 430_012_500


def test_outside_altogether_is_the_bands_answer_and_names_no_channel():
    permit = band_permit(station(), emission("fm", 137_900_000))
    assert (permit.kind, permit.nearest_hz) == ("band", None)


def test_bands_that_adjoin_are_one_and_a_licence_that_stops_between_them_is_an_edge():
    halves = (Band("lower", 144_000_000, 145_000_000), Band("upper", 145_000_000, 146_000_000))
    sent = emission("fm", 145_000_000, 25_000)
    assert band_permit(station(bands=halves), sent).allowed
    only = replace(FREE, bands=("lower",))
    assert band_permit(station(only, bands=halves), sent).kind == "edge"
    assert band_permit(station(only, bands=halves), sent.at(145_500_000)).kind == "licence"
    apart = (halves[0], Band("upper", 145_000_001, 146_000_000))
    assert band_permit(station(bands=apart), sent).kind == "edge"


@given(st.integers(143_900_000, 146_100_000), st.sampled_from([6_000, 7_600, 9_360, 11_000, 16_000]))
def test_whatever_is_allowed_lies_wholly_inside(hz, width):
    sent = Emission(hz, width)
    inside = sent.low_hz >= 144_000_000 and sent.high_hz <= 146_000_000
    permit = band_permit(station(), sent)
    assert permit.allowed is inside
    if permit.nearest_hz is not None:
        assert band_permit(station(), sent.at(permit.nearest_hz)).allowed


@pytest.mark.parametrize(
    ("licence", "kind"),
    [
        (FREE, ""),
        (replace(FREE, granted=False), "guard"),
        (replace(FREE, guard=True), "guard"),
        (replace(FREE, granted=False, guard=True), "guard"),
        (replace(FREE, bands=("70 cm",)), "licence"),
        (replace(FREE, bands=("2 m",)), ""),
    ],
)
def test_guard_first_then_bands_then_licence(licence, kind):
    permit = transmit_permit(station(licence), emission("fm", 145_000_000))
    assert (permit.kind, permit.allowed) == (kind, not kind)


@pytest.mark.parametrize(
    ("granted_on", "counts"),
    [
        ("", True),
        (TODAY.isoformat(), True),
        ("2020-01-01", True),
        ((TODAY + timedelta(days=1)).isoformat(), False),
        ("soon", False),
        ("2026-13-01", False),
    ],
)
def test_a_licence_granted_on_a_day_to_come_is_not_granted_yet(granted_on, counts):
    licence = replace(FREE, granted_on=granted_on)
    assert guard_permit(in_force(licence, TODAY)).allowed is counts
    if not counts:
        assert in_force(replace(licence, guard=False), TODAY).granted is False
        assert granted_on in transmit_state(station(in_force(licence, TODAY)))


def test_what_is_not_granted_is_not_made_so_by_its_date():
    assert not in_force(replace(FREE, granted=False, granted_on="2020-01-01"), TODAY).granted


# On the radios: who carries which licence, and by every way in.


def held(plan, profiles, key="tarn", today=TODAY):
    index = PlanIndex(plan, today)
    radio = index.radios[key]
    return [channel.receive_only for channel in fit(index, radio, profiles[radio.profile]).memory.channels]


def for_whom(plan, key):
    return set_fields(RADIOS, "tarn", "x", identity=key).apply(plan)


def test_a_new_person_does_not_transmit_under_the_owners_licence(plan, profiles):
    made = for_whom(add_identity(Identity("new", "Q7NEW")).apply(plan), "new")
    assert all(held(made, profiles))
    assert whose_licence(made, "new") == "new"
    shared = own_licence("new", False).apply(made)
    assert held(shared, profiles) == held(plan, profiles)
    assert whose_licence(shared, "new") == ""
    back = own_licence("new", True).apply(shared)
    assert all(held(back, profiles))


def test_a_radio_for_somebody_who_is_not_in_the_plan_only_listens_and_is_told(plan, profiles):
    orphan = for_whom(plan, "gone")
    assert all(held(orphan, profiles))
    finding = next(
        item for item in findings_of(PlanIndex(orphan, TODAY), profiles) if item.rule.name == "radio-of-nobody"
    )
    assert finding.rule.safety
    assert held(finding.repair.edit.apply(orphan), profiles) == held(plan, profiles)


def test_a_radio_without_a_choice_is_the_owners(plan, profiles):
    assert held(for_whom(plan, ""), profiles) == held(plan, profiles)


def test_the_licence_counts_from_its_day_on(plan, profiles):
    coming = set_licence("x", granted_on=(TODAY + timedelta(days=7)).isoformat()).apply(plan)
    assert all(held(coming, profiles))
    assert held(coming, profiles, today=TODAY + timedelta(days=7)) == held(plan, profiles)
    rules = {item.rule.name for item in findings_of(PlanIndex(coming, TODAY), profiles)}
    assert "guard-on" in rules


def test_a_date_that_is_none_is_told(plan, profiles):
    odd = set_licence("x", granted_on="soon").apply(plan)
    assert all(held(odd, profiles))
    assert "licence-date" in {item.rule.name for item in findings_of(PlanIndex(odd, TODAY), profiles)}


def maker(plan, profiles, key="tarn"):
    index = PlanIndex(plan, TODAY)
    radio = index.radios[key]
    return ChannelMaker(index, radio, profiles[radio.profile], (None, None), {}, [])


@pytest.mark.parametrize(
    ("most", "low", "high", "why"),
    [
        (0.0, 0, 1, ""),
        (10.0, 0, 1, ""),
        (5.0, 0, 1, ""),
        (4.9, 0, 0, ""),
        (1.0, 0, 0, ""),
        (0.9, None, None, "Even its lowest power is over the licence's 0.9 W."),
    ],
)
def test_power_stays_within_the_licence_and_nothing_transmits_above_it(plan, profiles, most, low, high, why):
    """The Tarn 16 has 1 and 5 W."""
    made = maker(set_licence("x", max_watts=most).apply(plan), profiles)
    assert (made._watts_step("low"), made._watts_step("high")) == (low, high)
    assert made._why_not(emission("dmr", 431_000_000)) == why


def test_over_the_licences_power_every_channel_only_listens(plan, profiles):
    assert all(held(set_licence("x", max_watts=0.5).apply(plan), profiles))
    assert not all(held(set_licence("x", max_watts=1.0).apply(plan), profiles))


def test_where_a_radio_cannot_send_it_is_held_and_said(plan, profiles):
    """The Moor 4K sends on 144-148 MHz only in 2 m; a region of one's own that reaches further does not help it."""
    wide = replace(plan, station=replace(plan.station, bands=(Band("2 m", 138_000_000, 148_000_000),)))
    made = maker(set_licence("x", bands=()).apply(wide), profiles, "moor")
    assert made._why_not(emission("fm", 139_000_000)) == "The radio cannot send there."
    assert made._why_not(emission("fm", 145_000_000)) == ""


# On the plan: what is told where an emission does not fit.


def one_service(plan, air, hz, kind="simplex"):
    from umbra_awl.core.plan.model import AccessPoint

    access = AccessPoint("edge", "Q0EDG", "Edge", kind, services=(Service("edge-s", hz, hz, air),))
    local = next(item.key for item in plan.destinations if item.kind == "local")
    return replace(
        plan,
        access=(access,),
        routes=(Route("edge-s", local),),
        zones=(),
        scans=(),
        hotspots=(),
        trips=(),
        radios=(replace(plan.radios[0], halves=(), zones=None),),
    )


def rules_on(plan, profiles):
    return {item.rule.name: item for item in findings_of(PlanIndex(plan, TODAY), profiles) if "edge" in item.target.key}


@pytest.mark.parametrize(("air", "hz"), [(FmAir(width_hz=25_000), 146_000_000), (FmAir(), 145_996_000)])
def test_a_channel_over_the_edge_is_held_and_told_with_the_channel_that_fits(plan, profiles, air, hz):
    made = one_service(plan, air, hz)
    assert held(made, profiles) == [True]
    finding = rules_on(made, profiles)["over-band-edge"]
    assert finding.rule.safety
    assert "nearest channel that fits is 145.9875" in finding.text
    assert held(finding.repair.edit.apply(made), profiles) == [False]


def test_wide_where_only_narrow_fits(plan, profiles):
    """145.9935 takes narrow FM and no wide one; a route's own width counts."""
    made = one_service(plan, FmAir(), 145_993_500)
    assert held(made, profiles) == [False]
    wide = set_route(PlanIndex(made, TODAY), made.routes[0].key, "x", width_hz=25_000).apply(made)
    assert held(wide, profiles) == [True]
    assert "over-band-edge" in rules_on(wide, profiles)
    assert "over-band-edge" not in rules_on(made, profiles)
    assert held(set_air("edge-s", "x", width_hz=25_000).apply(made), profiles) == [True]


def test_a_repeaters_input_at_the_edge_is_only_listened_to(plan, profiles):
    made = one_service(plan, FmAir(width_hz=25_000), 145_600_000, "repeater")
    made = set_service("edge-s", "x", tx_hz=144_000_000).apply(made)
    finding = rules_on(made, profiles)["over-band-edge"]
    assert finding.repair.label == "Only listen to Q0EDG"


@pytest.mark.parametrize("way", ["FM", "AMS"])
def test_a_radio_that_answers_in_fm_is_judged_as_fm(way):
    service = Service("s", 145_000_000, 145_000_000, FusionAir(auto_mode=True))
    assert sent_by(service, Route("s", "d", way=way)).width_hz == 11_000
    assert sent_by(service, Route("s", "d")).width_hz == 9_360


def test_a_hotspot_is_a_station_too(plan, profiles):
    """What the hotspot itself sends must fit, and no edge of it may reach into a satellite segment."""
    from umbra_awl.core.plan.model import DmrAir

    for hz, rule in ((438_003_000, "hotspot-in-satellite-segment"), (430_002_000, "hotspot-out-of-band")):
        made = one_service(plan, DmrAir(network="lattice", slots=(2,)), 433_000_000, "hotspot")
        made = set_service("edge-s", "x", rx_hz=hz).apply(made)
        finding = rules_on(made, profiles)[rule]
        assert finding.rule.safety
        assert rule not in rules_on(finding.repair.edit.apply(made), profiles)
    clear = set_service("edge-s", "x", rx_hz=438_003_800).apply(made)
    assert "hotspot-in-satellite-segment" not in rules_on(clear, profiles)


def test_the_guard_of_the_owner_holds_whoever_shares(plan, profiles):
    shared = for_whom(own_licence("odile", False).apply(plan), "odile")
    assert not all(held(shared, profiles))
    assert all(held(set_guard(True).apply(shared), profiles))


# The words and the edges, one by one.


def test_touching_an_edge_is_not_reaching_over_it():
    sent = Emission(1000, 20)
    assert [sent.reaches(low, low + 10) for low in (979, 980, 981, 1009, 1010, 1011)] == [
        False,
        False,
        True,
        True,
        False,
        False,
    ]


def own(*spans):
    return station(bands=tuple(Band(f"b{at}", low, high) for at, (low, high) in enumerate(spans)))


@pytest.mark.parametrize(
    ("other_khz", "nearest_khz"),
    [
        ((90, 110), 100),
        ((-110, -90), -100),
        ((105, 125), None),
        ((-125, -105), None),
        ((30, 60), 37.5),
        ((-60, -30), -37.5),
    ],
)
def test_the_nearest_channel_that_fits_is_looked_for_a_hundred_kilohertz_each_way(other_khz, nearest_khz):
    center = 145_000_000
    there = [center + khz * 1000 for khz in other_khz]
    permit = band_permit(own((center - 1000, center + 1000), there), emission("fm", center))
    assert permit.kind == "edge"
    assert permit.nearest_hz == (None if nearest_khz is None else center + nearest_khz * 1000)


def test_of_two_that_fit_the_nearer_is_named_also_from_between_the_raster():
    center = 145_003_000
    permit = band_permit(
        own((center - 1000, center + 1000), (144_960_000, 144_990_000), (145_020_000, 145_060_000)),
        emission("dmr", center),
    )
    assert permit.nearest_hz == 145_025_000
    assert "The nearest channel that fits is 145.0250." in permit.reason


def test_the_carrier_itself_is_never_the_channel_that_fits():
    permit = band_permit(own((145_000_000, 145_100_000)), emission("dmr", 145_000_000))
    assert permit.nearest_hz == 145_012_500


def test_how_far_out_is_told_with_the_nearest_band():
    reason = band_permit(own((144_000_000, 146_000_000)), emission("fm", 147_000_000)).reason
    assert reason == "147.0000 MHz is outside the amateur bands. b0 is 144.0000 to 146.0000 MHz."


def test_the_top_line_says_the_licence_in_plain_words():
    assert transmit_state(station(replace(FREE, granted=False))) == "Receive-only until the licence is granted"
    assert transmit_state(station(replace(FREE, granted=False, granted_on="2026-12-01"))).endswith(
        "granted on 2026-12-01"
    )
    assert transmit_state(station(replace(FREE, guard=True))) == "Receive-only: the guard is on"
    assert transmit_state(station(FREE)) == "May transmit: Full licence, all amateur bands"
    some = replace(FREE, step="", bands=("2 m", "70 cm"), max_watts=7.5)
    assert transmit_state(station(some)) == "May transmit: 2 m and 70 cm, 7.5 W"


def test_the_guards_own_words():
    assert guard_permit(replace(FREE, granted=False)).reason == "Receive-only until the licence is granted."
    assert guard_permit(replace(FREE, granted=False, granted_on="soon")).reason.endswith("It counts from soon.")
    assert "lift it at Station" in guard_permit(replace(FREE, guard=True)).reason
    assert guard_permit(FREE).allowed
