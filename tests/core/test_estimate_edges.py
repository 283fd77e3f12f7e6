"""Estimates at their edges: shares of exactly all, antennas of ten metres, verdicts on the line, places that are not told."""

import math

import pytest
from msgspec.structs import replace

from tests.core.test_survey import GROUND, HOME, TODAY, velmar  # noqa: F401  (a fixture)
from umbra_awl.core.directory.nearest import NearestWanted
from umbra_awl.core.directory.store import Store
from umbra_awl.core.estimate.battery import USABLE, BatteryError, hours_of_use
from umbra_awl.core.estimate.exposure import ExposureError, distances
from umbra_awl.core.estimate.reach import (
    LIKELY_DB,
    UNLIKELY_DB,
    End,
    _verdict,
    dbm,
    egli_db,
    hand_end,
    horizon_km,
    reach,
    site_end,
)
from umbra_awl.core.estimate.survey import best_reach, hand_of, survey
from umbra_awl.core.facts.exposure import HIGHEST_MHZ, LOWEST_MHZ
from umbra_awl.core.facts.modes import of_mode
from umbra_awl.core.facts.repeaters import (
    HAND_HEIGHT_M,
    HOTSPOT_HEIGHT_M,
    HOTSPOT_WATTS,
    SENSITIVITY_DBM,
    USUAL_HAND_WATTS,
    USUAL_HEIGHT_M,
    USUAL_WATTS,
)
from umbra_awl.core.plan.model import AccessPoint, FmAir, Service, Station

ALL = NearestWanted()


# a battery


def test_a_current_may_be_nothing_while_another_flows():
    assert hours_of_use(1_000, 0, 0, 50, 0, 0).average_ma == 50
    assert hours_of_use(1_000, 1_000, 0, 0, 1, 0).average_ma == 1_000
    assert hours_of_use(1_000, 0, 100, 0, 0, 1).hours == pytest.approx(1_000 * USABLE / 100)


def test_all_of_the_time_is_allowed_and_more_is_not():
    assert hours_of_use(1_000, 500, 100, 10, 0.25, 0.75).average_ma == pytest.approx(200)
    for shares in ((0.5, 0.51), (-0.01, 0.5), (0.5, -0.01)):
        with pytest.raises(BatteryError, match="at most 100 %"):
            hours_of_use(1_000, 500, 100, 10, *shares)


@pytest.mark.parametrize(
    "figures", [(0, 1, 1, 1), (-5, 1, 1, 1), (100, -1, 5, 5), (100, 5, -1, 5), (100, 5, 5, -1), (100, 0, 0, 0)]
)
def test_no_battery_is_less_than_nothing(figures):
    with pytest.raises(BatteryError, match="more than nothing"):
        hours_of_use(*figures, 0.1, 0.1)


# exposure


def test_the_ends_of_what_exposure_covers_are_covered():
    for mhz in (LOWEST_MHZ, HIGHEST_MHZ):
        assert all(item.public_m > item.controlled_m > 0 for item in distances(5, 0, 1, 1, mhz))
    assert distances(5, 0, 0, 1, 145)[0].public_m == 0
    for question in (
        (5, 0, 1, 0, 145),
        (5, 0, 1, 1.01, 145),
        (5, 0, 1.01, 1, 145),
        (5, 0, -0.01, 1, 145),
        (-1, 0, 1, 1, 145),
    ):
        with pytest.raises(ExposureError):
            distances(*question)
    assert distances(0, 0, 1, 1, 145)[0].public_m == 0


# reach


def test_the_lower_antennas_law_changes_at_ten_metres():
    at, above = (egli_db(5, 145, 30, low) for low in (10.0, 10.001))
    assert at == pytest.approx(20 * math.log10(145) + 40 * math.log10(5) - 20 * math.log10(30) + 66.3)
    assert above == pytest.approx(
        20 * math.log10(145) + 40 * math.log10(5) - 20 * math.log10(30) + 85.9 - 20 * math.log10(10.001)
    )


def _margin_of(wanted_db, km=3.0):
    """The estimate between two ends whose margin is exactly what is wanted."""
    near = End(5, 1.5)
    found = reach(km, 145, near, replace_end(near, 0))
    return reach(
        km, 145, replace_end(near, wanted_db - found.margin_db), replace_end(near, wanted_db - found.margin_db)
    )


def replace_end(end, more_db):
    return end._replace(sensitivity_dbm=end.sensitivity_dbm - more_db)


@pytest.mark.parametrize(("margin", "verdict"), [
    (10.01, "likely"), (9.99, "marginal"), (0.0, "marginal"), (-9.99, "marginal"), (-10.01, "unlikely"),
])  # fmt: skip
def test_the_verdict_turns_at_ten_decibels(margin, verdict):
    assert _margin_of(margin).verdict == verdict


@pytest.mark.parametrize(("share", "verdict", "beyond"), [
    (0.999, "likely", False), (1.01, "marginal", True), (1.49, "marginal", True), (1.51, "unlikely", True),
])  # fmt: skip
def test_the_horizon_holds_back_whatever_the_level(share, verdict, beyond):
    loud = End(1_000, 1.5, 60.0)
    found = reach(horizon_km(1.5, 1.5) * share, 145, loud, loud)
    assert found.margin_db > 10
    assert found.verdict == verdict
    assert ("beyond the radio horizon" in found.words) == beyond


def test_on_the_very_line_the_better_verdict_holds():
    loud = End(1_000, 1.5, 60.0)
    found = reach(horizon_km(1.5, 1.5), 145, loud, loud)
    assert (found.verdict, "horizon" in found.words) == ("likely", False)
    assert _verdict(UNLIKELY_DB, 1.0, 5.0) == "marginal"
    assert _verdict(LIKELY_DB, 5.0, 5.0) == "likely"
    assert _verdict(LIKELY_DB, 7.5, 5.0) == "marginal"


def test_words_say_on_which_side_of_what_is_needed_it_lies():
    assert _margin_of(4.0).words == "marginal: 4 dB above what is needed"
    assert _margin_of(-4.0).words == "marginal: 4 dB below what is needed"


def test_ends_are_what_is_told_and_else_what_is_usual():
    fm = of_mode(SENSITIVITY_DBM, "fm")
    assert hand_end("fm") == End(USUAL_HAND_WATTS, HAND_HEIGHT_M, -3.0, fm)
    assert hand_end("fm", 1.0, 9.0) == End(1.0, 9.0, -3.0, fm)
    assert site_end("fm", "repeater") == End(USUAL_WATTS, USUAL_HEIGHT_M, 3.0, fm)
    assert site_end("fm", "repeater", 25.0, 40.0) == End(25.0, 40.0, 3.0, fm)
    assert site_end("dmr", "hotspot") == End(HOTSPOT_WATTS, HOTSPOT_HEIGHT_M, 0.0, of_mode(SENSITIVITY_DBM, "dmr") + 10)
    assert site_end("dmr", "hotspot", 0.5, 3.0) == End(0.5, 3.0, 0.0, of_mode(SENSITIVITY_DBM, "dmr") + 10)
    assert site_end("fm", "simplex") == hand_end("fm")
    assert site_end("fm", "simplex", 10.0, 8.0) == hand_end("fm", 10.0, 8.0)
    assert dbm(1.0) == 30.0
    assert dbm(0.0) == -30.0


# what is around


def point(key, **fields):
    service = Service("fm", 145_712_500, 145_112_500, FmAir("", "", 12_500))
    return AccessPoint(
        **{"key": key, "call": "", "site": key, "services": (service,), "lat": HOME.lat, "lon": HOME.lon, **fields}
    )


@pytest.fixture
def bare(tmp_path, plan):
    """An empty directory, and a plan with three points of its own: near, far, and nowhere."""
    store = Store(tmp_path / "empty.sqlite")
    far, nowhere = point("far", lat=HOME.lat + 1), point("nowhere", lat=None, lon=None)
    yield (
        store,
        replace(plan, access=(far, nowhere, point("near", call="Q0NEA", place="Stenby")), routes=(), hotspots=()),
    )
    store.close()


def shown(store, plan, place=HOME, **wanted):
    return [spot.key for spot in survey(store, plan, place, ALL._replace(**wanted), GROUND).spots]


def test_the_plans_own_stand_nearest_first_and_those_without_a_place_last(bare):
    store, plan = bare
    assert shown(store, plan) == ["plan/near", "plan/far", "plan/nowhere"]
    spots = survey(store, plan, HOME, ALL, GROUND).spots
    assert [spot.km is None for spot in spots] == [False, False, True]
    assert spots[0].km == 0.0
    assert (spots[0].in_plan, spots[0].entry) == (True, None)
    assert spots[1].bearing == pytest.approx(0.0, abs=0.1)
    assert [spot.km for spot in survey(store, plan, None, ALL, GROUND).spots] == [None] * 3


def test_home_is_where_the_station_says_and_else_where_one_looks(bare):
    store, plan = bare
    for lat, lon in ((None, None), (46.0, None), (None, -31.0), (10.0, 10.0)):
        moved = replace(plan, station=replace(plan.station, lat=lat, lon=lon))
        assert survey(store, moved, HOME, ALL, GROUND).spots[0].km == 0.0


def test_one_of_the_plans_own_without_a_call_is_sought_in_no_directory(bare, monkeypatch):
    store, plan = bare
    asked = []
    monkeypatch.setattr(Store, "of_call", lambda _self, *about: asked.append(about) or [])
    survey(store, replace(plan, access=(point("a"),)), HOME, ALL, GROUND)
    assert asked == []
    survey(store, replace(plan, access=(point("b", call="Q0NEA"), point("c", entry="t/x"))), HOME, ALL, GROUND)
    assert asked == [("Q0NEA", ""), ("", "t/x")]


def test_a_latitude_alone_is_no_place(bare):
    store, plan = bare
    half = replace(plan, access=(point("half", lon=None), point("other", lat=None)))
    assert [spot.km for spot in survey(store, half, HOME, ALL, GROUND).spots] == [None, None]


@pytest.mark.parametrize(("wanted", "left"), [
    ({"modes": ("dmr",)}, []), ({"modes": ("fm",)}, ["plan/near", "plan/far", "plan/nowhere"]), ({"bands": ("70 cm",)}, []),
    ({"bands": ("2 m",)}, ["plan/near", "plan/far", "plan/nowhere"]), ({"since": "2026-01-01"}, []),
    ({"text": "sten"}, ["plan/near"]),
    ({"text": "q0n ste"}, ["plan/near"]), ({"text": "tenby"}, []),
])  # fmt: skip
def test_what_is_not_wanted_is_not_there(bare, wanted, left):
    assert shown(*bare, **wanted) == left


def test_what_was_confirmed_on_the_day_itself_counts(bare):
    store, plan = bare
    plan = replace(plan, access=(point("then", confirmed="2026-01-01"), point("before", confirmed="2025-12-31")))
    assert shown(store, plan, since="2026-01-01") == ["plan/then"]


def test_only_a_repeater_of_ones_own_is_doubted(bare):
    store, plan = bare
    odd = Service("fm", 145_712_500, 146_712_500, FmAir("", "", 12_500))
    plan = replace(plan, access=(point("rep", services=(odd,)), point("direct", kind="simplex", services=(odd,))))
    spots = {spot.access.key: spot for spot in survey(store, plan, HOME, ALL, GROUND).spots}
    assert spots["rep"].doubts
    assert not spots["direct"].doubts


def test_one_of_the_directory_that_the_plan_holds_is_told_once(velmar, plan):  # noqa: F811
    spots = survey(velmar, plan, HOME, ALL, GROUND).spots
    keys = [spot.access.key for spot in spots if spot.in_plan]
    assert len(keys) == len(set(keys))
    assert set(keys) == {access.key for access in plan.access}


def test_the_hand_is_held_to_the_licence(plan):
    def watts(most):
        station = replace(plan.station, licence=replace(plan.station.licence, max_watts=most), height_m=0.0)
        return hand_of(replace(plan, station=station))("fm").watts

    assert [watts(most) for most in (0, 2.0, 5.0, 50.0)] == [5.0, 2.0, 5.0, 5.0]
    assert isinstance(plan.station, Station)


def test_the_best_service_tells_the_reach():
    weak = Service("uhf", 1_297_000_000, 1_269_000_000, FmAir("", "", 12_500))
    one = point("a")
    both = replace(one, services=(weak, *one.services))
    assert best_reach(both, 20.0, hand_end) == best_reach(one, 20.0, hand_end)
    assert best_reach(both, None, hand_end) is None
    assert best_reach(replace(one, services=()), 20.0, hand_end) is None
    assert TODAY.year == 2026
