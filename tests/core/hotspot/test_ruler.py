"""The frequency ruler: what stops, what costs, the best places, pairs; vector scores are what the reasons add up to."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.facts.bands import SATELLITE_SEGMENTS, Band
from umbra_awl.core.facts.earth import Position, distance_km
from umbra_awl.core.facts.emissions import emission
from umbra_awl.core.facts.repeaters import CALLING
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.hotspot.place import terms
from umbra_awl.core.hotspot.place.after import around, asked_for, place_of, take_place, touched
from umbra_awl.core.hotspot.place.occupied import User, distances_km, occupied, users_of
from umbra_awl.core.hotspot.place.ruler import GOOD, USABLE, RulerPlace, RulerQuestion, best_pairs, ruler
from umbra_awl.core.hotspot.place.terms import products_of, use_term
from umbra_awl.core.hotspot.place.uses import UsesError, parse_uses, uses_of
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, FmAir, Licence, Listened, Neighbour, Service, Station, Use

BAND = Band("70 cm", 430_000_000, 440_000_000)
STATION = Station(licence=Licence("Full", granted=True, guard=False, bands=("2 m", "70 cm")))
HERE = Position(46.5, -31.0)
SENT = emission("dmr", 434_000_000)


def ask(**more):
    return RulerQuestion(STATION, BAND, SENT, **more)


def user(hz, km=1.0, width=11_000, **more):
    return User(hz, width, f"U{hz}", km=km, **more)


def state(made, hz):
    return made.place(made.at(hz)).state


def reason(made, hz, name):
    return next(item for item in made.reasons(made.at(hz)) if item.name == name)


def test_satellites_calling_beacons_and_edges_are_forbidden():
    made = ruler(ask(), occupied([], HERE))
    for hz in (430_000_000, 440_000_000, 435_000_000, 436_500_000, 438_000_000, 433_500_000, 433_450_000, 432_450_000):
        assert state(made, hz) == "forbidden", hz
    assert state(made, 434_987_500) != "forbidden"
    assert reason(made, 435_000_000, "satellites").stop


def test_another_licence_or_band_edge_is_asked_of_the_same_permit():
    narrow = replace(STATION, bands=(Band("70 cm", 434_000_000, 434_500_000),))
    made = ruler(ask()._replace(station=narrow), occupied([], HERE))
    assert state(made, 433_987_500) == "forbidden"
    assert state(made, 434_250_000) != "forbidden"
    only_two = replace(STATION, licence=replace(STATION.licence, bands=("2 m",)))
    assert set(ruler(ask()._replace(station=only_two), occupied([], HERE)).state.tolist()) == {0}


def test_inputs_and_outputs_are_occupied_with_their_width_and_a_guard():
    fm = AccessPoint("r", "Q0RPT", "Hill", services=(Service("s", 434_200_000, 431_000_000, FmAir(width_hz=25_000)),))
    made = ruler(ask(), occupied(users_of(fm, 5.0), HERE))
    assert state(made, 434_200_000) == state(made, 431_000_000) == "occupied"
    assert state(made, 434_212_500) == "occupied"  # half of 16 kHz, half of 7.6 and the guard
    assert state(made, 434_225_000) != "occupied"
    assert "Q0RPT output" in reason(made, 434_225_000, "nearest in use").words
    assert "Q0RPT input" in reason(made, 431_000_000, "nearest in use").words


def test_what_is_out_of_reach_disturbs_nobody():
    near, far = (ruler(ask(), occupied([user(434_200_000, km)], HERE)) for km in (3.0, 900.0))
    assert state(near, 434_200_000) == "occupied"
    assert state(far, 434_200_000) == "good" or state(far, 434_200_000) == "usable"


def test_the_channel_beside_a_strong_one_costs_more_than_beside_a_weak_one():
    strong = ruler(ask(), occupied([user(434_200_000, 0.5)], HERE))
    weak = ruler(ask(), occupied([user(434_200_000, 15.0)], HERE))
    at = 434_212_500
    assert reason(strong, at, "to each side").points > reason(weak, at, "to each side").points > 0
    assert "strong" in reason(strong, at, "to each side").words


def test_third_order_products_of_strong_ones_only():
    pair = [user(434_000_000, 0.3), user(434_300_000, 0.3)]
    made = ruler(ask(), occupied(pair, HERE))
    assert reason(made, 434_600_000, "products of strong neighbours").points
    assert reason(made, 433_700_000, "products of strong neighbours").points
    assert not reason(made, 434_150_000, "products of strong neighbours").points
    weak = ruler(ask(), occupied([user(item.hz, 30.0) for item in pair], HERE))
    assert not reason(weak, 434_600_000, "products of strong neighbours").points
    listening = ruler(ask(), occupied([user(item.hz, 0.3, sends=False) for item in pair], HERE))
    assert not reason(listening, 434_600_000, "products of strong neighbours").points


@given(st.lists(st.integers(430_000, 440_000), min_size=2, max_size=7, unique=True))
def test_products_are_those_of_the_definition(khz):
    hz = np.array(sorted(item * 1_000 for item in khz), np.int64)
    wanted = {2 * a - b for a in hz for b in hz if a != b}
    wanted |= {a + b - c for a in hz for b in hz for c in hz if len({a, b, c}) == 3}
    assert set(products_of(hz).tolist()) == wanted - set(hz.tolist())


def test_the_image_of_a_strong_one_and_ones_own_other_hotspot():
    made = ruler(ask(), occupied([user(434_200_000, 0.3)], HERE))
    assert reason(made, 434_400_000, "image").points
    own = ruler(ask(), occupied([user(434_200_000, 0.02, own=True)], HERE))
    assert reason(own, 434_300_000, "own hotspots").points
    assert not reason(own, 434_600_000, "own hotspots").points


def test_neighbours_hotspots_and_the_plans_own_are_occupied(plan):
    station = replace(plan.station, neighbours=(Neighbour(434_300_000, 434_500_000, "Corin's"),))
    plan = replace(plan, station=station)
    index = PlanIndex(plan, TODAY)
    access = index.access["travel-spot"]
    made = ruler(asked_for(index, access, plan.hotspots[1]), around(plan, access, [], place_of(plan, access)))
    assert state(made, 434_300_000) == state(made, 434_500_000) == state(made, 434_612_500) == "occupied"
    assert "Corin's" in reason(made, 434_300_000, "nearest in use").words
    assert state(made, 435_500_000) == "forbidden"


def test_the_directory_counts_once_what_the_plan_has_already(plan):
    index = PlanIndex(plan, TODAY)
    access, listed = index.access["travel-spot"], list(plan.access)
    alone, both = around(plan, access, [], HERE), around(plan, access, listed, HERE)
    assert len(both.hz) <= len(alone.hz) + 2  # the hotspot itself is listed too


def test_what_was_heard_costs_and_quiet_days_pay():
    busy = tuple(Listened(434_100_000, f"2026-11-2{day}", "two talking") for day in range(3))
    quiet = tuple(Listened(434_200_000, f"2026-11-2{day}") for day in range(3))
    made = ruler(ask(listened=busy + quiet), occupied([], HERE))
    assert reason(made, 434_100_000, "heard there").points > 50
    assert reason(made, 434_200_000, "heard there").points == 0
    assert "nothing on 3 of 3" in reason(made, 434_200_000, "heard there").words
    assert made.best()[0].hz == 434_200_000
    assert state(made, 434_100_000) == "doubtful"


def test_the_national_plan_is_data_that_can_be_changed(plan):
    station = replace(plan.station, uses=(Use(433_700_000, 433_900_000, "hotspots", "islands", "by hand"),))
    made = ruler(ask()._replace(station=station), occupied([], HERE))
    assert 433_700_000 <= made.best()[0].hz <= 433_900_000
    assert "islands (by hand)" in reason(made, 433_800_000, "band plan").words
    calling = replace(station, uses=(Use(433_700_000, 433_900_000, "calling", "our calling"),))
    assert state(ruler(ask()._replace(station=calling), occupied([], HERE)), 433_800_000) == "forbidden"


def test_a_table_of_uses_for_a_region_that_is_none_is_refused():
    with pytest.raises(UsesError):
        parse_uses("format = 'umbra-awl band uses'\nversion = 1\n[[region]]\nnumber = 9\nsource = ''\nuse = []")


def test_a_pair_is_as_good_as_its_worse_half():
    made = ruler(ask(shift_hz=-5_000_000), occupied([user(434_200_000, 2.0)], HERE))
    place = made.place(made.at(439_200_000))
    assert (place.tx_hz, place.state) == (434_200_000, "occupied")
    assert any(item.name == "nearest in use, hearing" and item.stop for item in made.reasons(made.at(439_200_000)))
    close = ruler(ask(shift_hz=500_000), occupied([], HERE))
    assert int(close.state.max()) <= 2


def test_the_best_pairs_are_usable_apart_and_tell_their_spacing():
    best = best_pairs(ask(shift_hz=-1_600_000), occupied([], HERE))
    assert 3 <= len(best) <= 10
    assert len({place.tx_hz - place.hz for place in best}) > 1
    for place in best:
        assert place.score >= USABLE
        assert not any(item.low_hz < hz < item.high_hz for item in SATELLITE_SEGMENTS for hz in (place.hz, place.tx_hz))
    assert all(abs(one.hz - other.hz) >= 100_000 for one in best for other in best if one is not other)


@given(
    st.lists(st.tuples(st.integers(430_000, 440_000), st.floats(0.05, 300), st.booleans(), st.booleans()), max_size=25),
    st.sampled_from([0, 0, -5_000_000, 7_600_000]),
)
def test_every_score_is_what_its_reasons_leave(things, shift):
    users = [user(khz * 1_000, km, sends=sends, own=own) for khz, km, sends, own in things]
    made = ruler(ask(shift_hz=shift), occupied(users, HERE))
    for at in range(0, len(made.hz), 97):
        place, reasons = made.place(at), made.reasons(at)
        stopped = any(item.stop for item in reasons)
        assert stopped == (place.state in {"forbidden", "occupied"})
        if not shift:
            assert place.score == max(0, 100 - sum(item.points for item in reasons))
        if not stopped:
            assert place.state == ("good" if place.score >= GOOD else "usable" if place.score >= USABLE else "doubtful")


@given(st.floats(-89, 89), st.floats(-180, 180), st.floats(-89, 89), st.floats(-180, 180))
def test_distances_in_columns_are_those_of_single_ones(lat, lon, lat2, lon2):
    found = distances_km(Position(lat, lon), np.array([lat2]), np.array([lon2]))[0]
    assert found == pytest.approx(distance_km(Position(lat, lon), Position(lat2, lon2)), abs=0.01)


def test_taking_a_place_moves_hotspot_services_and_radios(plan, profiles):
    from umbra_awl.core.fit.fitting import fit

    index = PlanIndex(plan, TODAY)
    access = index.access["travel-spot"]
    best = best_pairs(
        asked_for(index, access, plan.hotspots[1]), around(plan, access, [], place_of(plan, access, "nessa"))
    )
    moved = take_place(index, access, best[0]).apply(plan)
    after = PlanIndex(moved, TODAY)
    assert {item.rx_hz for item in after.access["travel-spot"].services} == {best[0].hz}
    assert (moved.hotspots[1].transmit_hz, moved.hotspots[1].receive_hz) == (best[0].hz, best[0].tx_hz)
    told = {item.rule.name for item in findings_of(after, profiles) if item.target.key.startswith("travel")}
    assert not told & {"hotspot-in-satellite-segment", "hotspot-next-to", "hotspot-out-of-band", "hotspot-differs"}
    memories = {radio.key: fit(after, radio, profiles[radio.profile]).memory for radio in moved.radios}
    changed = touched(moved, access, memories)
    assert {item.name for item in changed} >= {"Tarn 16", "Moor 4K"}
    assert all(item.channels > 0 for item in changed)
    with pytest.raises(EditRefused):
        take_place(index, access, RulerPlace(436_000_000, 436_000_000, 90, "good"))


THINGS = st.lists(
    st.tuples(
        st.integers(433_600, 434_900),
        st.sampled_from([6_000, 7_600, 11_000, 16_000]),
        st.sampled_from([0.02, 0.4, 3.0, 15.0, 60.0, 900.0]),
        st.booleans(),
        st.booleans(),
    ),
    max_size=9,
)


@given(THINGS)
def test_every_term_answers_as_its_definition_does(things):
    """Each question to each channel of a stretch, asked once more of every thing in turn."""
    users = [User(khz * 1_000, width, "x", km=km, sends=sends, own=own) for khz, width, km, sends, own in things]
    held = occupied(users, HERE)
    made = ruler(ask(), held)
    rows = zip(held.hz, held.half_hz, held.level_dbm, held.sends, held.own, strict=True)
    near = [item for item in rows if item[2] >= terms.REACH_DBM]
    strong = sorted((-level, int(u)) for u, _h, level, sends, _o in near if sends and level >= terms.STRONG_DBM)
    loud = sorted({u for _level, u in strong[: terms.MOST_STRONG]})
    products = {2 * a - b for a in loud for b in loud if a != b}
    products |= {a + b - c for a in loud for b in loud for c in loud if len({a, b, c}) == 3}
    images = {u + side * 2 * terms.LOW_IF_HZ for u in loud for side in (1, -1)}
    for place in range(-20, 125):
        at = made.at(433_600_000 + 12_500 * place)
        _check_terms(made, at, near, products - set(loud), images)


def _check_terms(made, at, near, products, images):
    hz = int(made.hz[at])
    points = {term.name: int(term.points[at]) for term in made.terms}
    said = {item.name: item.words for item in made.reasons(at)}
    rooms = [
        (abs(int(u) - hz), int(half) + SENT.width_hz // 2 + terms.GUARD_HZ, level) for u, half, level, _s, _o in near
    ]
    assert bool(points["nearest in use"]) == any(away < room for away, room, _level in rooms)
    beside = [level >= terms.STRONG_DBM for away, room, level in rooms if away < room + terms.ADJACENT_HZ]
    closest = min((away for away, _room, _level in rooms), default=10**9)
    cost = round(terms._NEAR * min(max(1 - closest / terms.QUIET_HZ, 0), 1))
    cost += (terms._STRONG_ADJACENT if any(beside) else terms._ADJACENT) if beside else 0
    assert points["to each side"] == cost
    sides = "next to something strong" if any(beside) else "next to something weak"
    assert said["to each side"] == (sides if beside else "free on both sides")
    if near:
        assert f"{closest / 1000:g} kHz" in said["nearest in use"] or closest >= 1_000_000
    hit = any(abs(item - hz) < SENT.width_hz for item in products)
    assert points["products of strong neighbours"] == hit * terms._PRODUCT
    assert ("falls" in said["products of strong neighbours"]) == hit
    image = any(abs(item - hz) < SENT.width_hz for item in images)
    assert points["image"] == image * terms._IMAGE
    assert ("falls on it" in said["image"]) == image
    mine = any(abs(int(u) - hz) < terms._OWN_HALF_HZ for u, _h, _l, _s, own in near if own)
    assert points["own hotspots"] == mine * terms._OWN_HALF


@pytest.mark.parametrize("region", [1, 2, 3])
@pytest.mark.parametrize("mode", ["dmr", "dstar", "fusion"])
def test_what_is_kept_for_others_is_forbidden_as_far_as_an_emission_reaches(region, mode):
    """On every channel of both bands, also a hertz beside the raster's own edges."""
    station, sent = replace(STATION, region=region), emission(mode, 434_000_000)
    kept = [(item.hz - terms.CALLING_HZ // 2, item.hz + terms.CALLING_HZ // 2) for item in CALLING[region]]
    kept += [
        (item.low_hz, item.high_hz) for item in uses_of(station) if item.kind in {"calling", "beacons", "satellites"}
    ]
    for band in (BAND, Band("2 m", 144_000_000, 146_000_000)):
        made = ruler(RulerQuestion(station, band, sent, raster_hz=6_250), occupied([], HERE))
        points = {term.name: term.points for term in made.terms}
        for at, hz in enumerate(made.hz.tolist()):
            low, high = hz - sent.width_hz // 2, hz + sent.width_hz // 2
            hit = any(low < item.high_hz and high > item.low_hz for item in SATELLITE_SEGMENTS)
            assert bool(points["satellites"][at]) == hit
            assert ("reaches into" in made.terms[1].say(at)) == hit
            assert bool(points["calling and beacons"][at]) == any(low < above and high > below for below, above in kept)
            over = [item for item in uses_of(station) if item.low_hz <= hz <= item.high_hz]
            if over and over[-1].kind == "hotspots":
                assert points["band plan"][at] == 0
            elif not over and any(item.kind == "hotspots" and band.holds(item.low_hz) for item in uses_of(station)):
                assert points["band plan"][at] == terms._NOT_GIVEN


def test_where_a_hotspot_stands(plan):
    travel, home = (PlanIndex(plan, TODAY).access[key] for key in ("travel-spot", "home-spot"))
    assert place_of(plan, home) == (46.47, -31.11)
    assert place_of(plan, travel, "nessa") == (46.61, -30.785)
    assert place_of(plan, travel, "no such trip") == place_of(plan, travel) == (plan.station.lat, plan.station.lon)
    nowhere = replace(plan, station=replace(plan.station, lat=None, lon=None))
    assert place_of(nowhere, travel) is None
    assert place_of(nowhere, replace(home, lat=0.0, lon=0.0)) == (0.0, 0.0)
    assert asked_for(PlanIndex(plan, TODAY), replace(home, services=()), None) is None
    with pytest.raises(EditRefused, match="no service"):
        take_place(PlanIndex(plan, TODAY), replace(home, services=()), RulerPlace(434_012_500, 434_012_500, 90, "good"))
    radioless = touched(plan, travel, {})
    assert radioless == []


def test_offers_end_where_nothing_is_usable_and_never_exceed_what_was_asked():
    made = ruler(ask(), occupied([], HERE))
    assert len(made.best(3)) == 3
    full = occupied([user(430_000_000 + 12_500 * at, 0.02) for at in range(801)], HERE)
    assert ruler(ask(), full).best() == []
    assert best_pairs(ask(shift_hz=-5_000_000), full) == []
    assert len(best_pairs(ask(shift_hz=-5_000_000), occupied([], HERE), 4)) == 4


def test_spacing_costs_below_five_megahertz_and_is_told():
    wide, close = (ruler(ask(shift_hz=shift), occupied([], HERE)) for shift in (5_000_000, 1_600_000))
    at = wide.at(432_787_500)
    costs = [next(item for item in made.reasons(at) if item.name == "spacing of the pair") for made in (wide, close)]
    assert [item.points for item in costs] == [0, 8]
    assert [item.words for item in costs] == ["5 MHz apart", "1.6 MHz apart: the board may hear itself"]
    one, other = ruler(ask(), occupied([], HERE)), close.other
    assert int(close.score[at]) == min(int(one.score[at]), int(other.score[at])) - 8


def test_a_narrow_own_row_counts_inside_of_a_wide_one_in_whichever_order():
    narrow, wide = Use(434_000_000, 434_100_000, "hotspots"), Use(430_000_000, 440_000_000, "satellites")
    for uses in ((narrow, wide), (wide, narrow)):
        station = Station(uses=uses)
        term = use_term(
            station, np.array([434_050_000, 435_000_000], np.int64), Band("70 cm", 430_000_000, 440_000_000)
        )
        assert term.points[0] == 0
        assert term.points[1] > 0
        assert "hotspots" in term.say(0)


def test_both_halves_of_a_pair_are_held_against_what_the_band_gives_to_hotspots():
    station = Station(uses=(Use(434_000_000, 434_100_000, "hotspots"),))
    band = Band("70 cm", 434_000_000, 434_100_000)
    whole = Band("70 cm", 430_000_000, 440_000_000)
    hearing = np.array([438_050_000], np.int64)
    for item in (band, whole):
        assert use_term(station, hearing, item).points[0] > 0
    without = Station(uses=(Use(434_000_000, 434_100_000, "repeaters"),))
    assert use_term(without, hearing, whole).points[0] == 0
