"""Reach, exposure and battery against figures worked out by hand from the public formulas."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.estimate.battery import USABLE, BatteryError, hours_of_use
from umbra_awl.core.estimate.exposure import ExposureError, distances
from umbra_awl.core.estimate.reach import End, egli_db, free_space_db, hand_end, horizon_km, reach, site_end
from umbra_awl.core.facts.exposure import LIMIT_SETS


# Egli: 20 log f + 40 log d − 20 log h1 + 76.3 − 10 log h2 (h2 ≤ 10 m), 85.9 − 20 log h2 above
@pytest.mark.parametrize(
    ("km", "mhz", "high", "low", "expected"),
    [
        (10, 145, 60, 1.5, 43.227 + 40 - 35.563 + 76.3 - 1.761),
        (30, 435, 100, 6, 52.770 + 59.085 - 40 + 76.3 - 7.782),
        (20, 438, 612, 20, 52.829 + 52.041 - 55.735 + 85.9 - 26.021),
    ],
)
def test_the_path_loss_model_at_three_points(km, mhz, high, low, expected):
    assert egli_db(km, mhz, high, low) == pytest.approx(expected, abs=0.02)
    assert egli_db(km, mhz, low, high) == egli_db(km, mhz, high, low)


def test_free_space():
    assert free_space_db(1, 1000) == pytest.approx(92.45)
    assert free_space_db(10, 145) == pytest.approx(32.45 + 20 + 43.227, abs=0.01)


def test_the_horizon_over_a_four_thirds_earth():
    assert horizon_km(100, 0) == pytest.approx(41.2)
    assert horizon_km(0, 0) == 0


@given(st.floats(0.1, 300), st.floats(50, 900), st.floats(1, 800), st.floats(1, 100))
def test_never_better_than_free_space(km, mhz, high, low):
    found = reach(km, mhz, End(5, low), End(25, high))
    assert found.loss_db >= free_space_db(km, mhz) - 1e-9
    assert found.margin_db == pytest.approx(min(found.up_dbm, found.down_dbm) + 120)


def test_verdicts_in_words():
    near = reach(5, 145, hand_end("fm"), site_end("fm", "repeater"))
    assert near.verdict == "likely"
    assert near.words.endswith("dB above what is needed")
    beyond = reach(60, 145, hand_end("fm"), site_end("fm", "repeater", 25, 60))
    assert beyond.verdict == "unlikely"
    assert "km beyond the radio horizon" in beyond.words
    weak = reach(30, 438, End(0.05, 1.5, -3), site_end("fm", "repeater", 25, 200))
    assert weak.verdict in {"marginal", "unlikely"}
    assert reach(0.3, 434, hand_end("dmr"), site_end("dmr", "hotspot")).verdict == "likely"
    assert reach(15, 434, hand_end("dmr"), site_end("dmr", "hotspot")).verdict == "unlikely"


@given(st.floats(1, 100), st.floats(1.01, 3))
def test_farther_is_never_more_likely(km, times):
    order = ["likely", "marginal", "unlikely"]
    one, other = (reach(where, 435, hand_end("dmr"), site_end("dmr", "repeater")) for where in (km, km * times))
    assert order.index(other.verdict) >= order.index(one.verdict)


# r = sqrt(2.56 · EIRP / (4 π S)); 145 MHz: S = 2 W/m² in both sets; 435 MHz: 2.175 and 2.9 W/m²; 1,296 MHz: 6.48 and
# 8.64 W/m²; 1,800 MHz: 9 W/m² and, from 1,500 MHz on, 10 W/m² (1 mW/cm²)
@pytest.mark.parametrize(
    ("watts", "mhz", "icnirp", "cfr"),
    [
        (5, 145, 0.7136, 0.7136),
        (10, 435, 0.9677, 0.8381),
        (50, 145, 2.2567, 2.2567),
        (10, 1_296, 0.5607, 0.4856),
        (10, 1_800, 0.4757, 0.4513),
    ],
)
def test_exposure_distance_at_three_powers(watts, mhz, icnirp, cfr):
    found = distances(watts, 0.0, 1.0, 1.0, mhz)
    by_hand = [math.sqrt(2.56 * watts / (4 * math.pi * limits.public(mhz))) for limits in LIMIT_SETS]
    assert [item.public_m for item in found] == pytest.approx([icnirp, cfr], abs=0.001)
    assert [item.public_m for item in found] == pytest.approx(by_hand)
    assert all(item.controlled_m == pytest.approx(item.public_m / math.sqrt(5)) for item in found)


def test_exposure_follows_duty_and_gain():
    full = distances(10, 0, 1, 1, 145)[0].public_m
    assert distances(10, 0, 0.5, 0.5, 145)[0].public_m == pytest.approx(full / 2)
    assert distances(10, 6.0206, 1, 1, 145)[0].public_m == pytest.approx(full * 2, rel=1e-4)
    assert distances(0, 0, 1, 1, 145)[0].public_m == 0


@pytest.mark.parametrize("question", [(10, 0, 1, 1, 20), (10, 0, 1, 1, 3000), (-1, 0, 1, 1, 145), (10, 0, 1.2, 1, 145)])
def test_exposure_outside_what_it_covers_is_refused(question):
    with pytest.raises(ExposureError):
        distances(*question)


def test_every_limit_set_names_its_source():
    assert len(LIMIT_SETS) == 2
    assert all(limits.name and limits.source for limits in LIMIT_SETS)


def test_battery_hours():
    # 10 % at 1,000 mA, 20 % at 200 mA, 70 % at 50 mA: 175 mA
    use = hours_of_use(2000, 1000, 200, 50, 0.1, 0.2)
    assert use.average_ma == pytest.approx(175)
    assert use.hours == pytest.approx(2000 * USABLE / 175)


@pytest.mark.parametrize(
    "figures",
    [(0, 1, 1, 1, 0, 0), (100, -1, 1, 1, 0, 0), (100, 1, 1, 1, 0.7, 0.5), (100, 0, 0, 0, 0, 0), (100, 9, 0, 0, 0, 0)],
)
def test_batteries_that_cannot_be(figures):
    with pytest.raises(BatteryError):
        hours_of_use(*figures)
