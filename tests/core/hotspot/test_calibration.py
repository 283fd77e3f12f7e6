"""The offset from counted errors: known soon, rightly sure of itself, wrong readings found, what to try next."""

import pytest
from bench.calibration import FAMILIES, Oscillator, by_advice, by_family, key_up, trial
from hypothesis import given
from hypothesis import strategies as st

from tests.examples import examples
from umbra_awl.core.hotspot.calibrate.following import advise, next_offset, told
from umbra_awl.core.hotspot.calibrate.model import ENOUGH_HZ, FURTHEST_HZ, Form, estimate, rate
from umbra_awl.core.hotspot.calibrate.readings import (
    ReadingError,
    add_readings,
    begin_anew,
    from_overs,
    leave_out,
    of_side,
    parse_reading,
    take_center,
)
from umbra_awl.core.hotspot.logs.reading import read_log
from umbra_awl.core.plan.model import Reading

BITS = 10_800


def read(offset, share, bits=BITS, **more):
    return Reading(offset, round(bits * share), bits, **more)


def heard(offset, share):
    """A reading as a hotspot shows it: nothing where nothing is decoded."""
    return read(offset, share) if share < 0.13 else Reading(offset)


def curve(offset, center, width=900.0, floor=0.003, shape=2.2):
    import numpy as np

    return float(rate(np.array(float(offset - center)), Form(width, floor, shape)))


@pytest.mark.night
def test_few_readings_by_advice_and_an_interval_that_is_right():
    needed, by_hand, held = trial(90, seed=7)
    assert needed <= 8 < by_hand
    assert held >= 0.8


def test_both_flanks_give_the_middle():
    readings = [read(hz, curve(hz, 410)) for hz in (-50, 100, 410, 720, 870)]
    found = estimate(readings)
    assert abs(found.center_hz - 410) < 25
    assert found.low_hz < 410 < found.high_hz
    assert found.half_hz < 3 * ENOUGH_HZ
    assert found.flanks == (True, True)
    assert found.wrong == ()


def test_a_reading_that_does_not_go_with_the_others_is_found_and_outvoted():
    readings = [heard(hz, curve(hz, -300)) for hz in (-650, -500, -400, -300, -200, -100, 50)]
    spoiled = [*readings, read(-350, 0.11)]
    found = estimate(spoiled)
    assert found.wrong == (7,)
    assert abs(found.center_hz + 300) < 40


def test_nothing_decoded_leads_elsewhere_and_never_to_certainty():
    readings = [Reading(0)]
    advice = advise(readings)
    assert abs(advice.offset_hz) >= 400
    assert advice.estimate.half_hz > 500
    assert next_offset([Reading(0), Reading(900), Reading(-900)]) not in range(-950, 951)


def test_begins_at_zero_stops_and_says_what_is_left():
    assert advise([]).offset_hz == 0
    readings = []
    while (done := advise(readings)).offset_hz is not None and len(readings) < 14:
        readings.append(heard(done.offset_hz, curve(done.offset_hz, 200)))
    assert len(readings) <= 10
    assert "Known: " in done.words
    assert done.estimate.center_hz == pytest.approx(200, abs=40)
    assert f"Left is {100 * done.estimate.best_rate:.1f} %" in done.words
    assert done.estimate.best_rate == pytest.approx(0.003, abs=0.002)
    assert told([*readings, read(200, 0.003)], 0.012).startswith("from 1.2 % to 0.3 %, ± ")


@pytest.mark.parametrize(
    "readings",
    [
        [read(0, 0.0), read(0, 0.0)],
        [read(0, 0.0), read(50, 0.0), read(-50, 0.0)],
        [read(0, 0.001), read(300, 0.02), read(500, 0.06)],
        [read(0, 0.001), read(300, 0.02), *[Reading(-700)] * 6],
    ],
)
def test_without_a_flank_on_both_sides_nothing_is_known(readings):
    advice = advise(readings)
    assert not advice.estimate.enough
    assert "Known" not in advice.words
    assert advice.offset_hz is not None


def test_nothing_decoded_again_and_again_at_one_place_counts_once():
    begun = [read(0, 0.004), read(300, 0.02)]
    once, often = (estimate([*begun, *[Reading(-700)] * count]) for count in (1, 8))
    assert (once.low_hz, once.high_hz) == (often.low_hz, often.high_hz)


def test_a_flat_valley_is_told_as_one():
    def flat(hz):
        away = max(abs(hz - 150) - 420, 0.0)
        return curve(away, 0, width=700.0, floor=0.0001)

    readings = []
    while (advice := advise(readings)).offset_hz is not None and len(readings) < 14:
        readings.append(heard(advice.offset_hz, flat(advice.offset_hz)))
    assert advice.offset_hz is None
    assert advice.estimate.low_hz < 150 < advice.estimate.high_hz
    assert "take the middle" in advice.words or abs(advice.estimate.center_hz - 150) < ENOUGH_HZ


@pytest.mark.parametrize("family", sorted(FAMILIES))
@pytest.mark.night
def test_curves_unlike_our_own_are_held_by_the_interval(family):
    told = by_family(family, 40)
    assert told.held >= 0.8
    assert told.far <= 0.1 * told.known


def test_what_is_left_out_does_not_count():
    good = [read(hz, curve(hz, 0)) for hz in (-500, 0, 500)]
    spoiled = Reading(300, 1_000, BITS, left_out=True)
    assert advise([*good, spoiled]).estimate.center_hz == advise(good).estimate.center_hz


@examples(30)
@given(st.lists(st.tuples(st.integers(-9_999, 9_999), st.integers(0, 20_000), st.integers(0, 20_000)), max_size=7))
def test_any_readings_give_an_interval_and_a_place_to_try(rows):
    readings = [Reading(offset, min(errors, bits), bits) for offset, errors, bits in rows]
    advice = advise(readings)
    assert -FURTHEST_HZ - 20 <= advice.estimate.low_hz <= advice.estimate.high_hz <= FURTHEST_HZ + 20
    assert advice.estimate.posterior.sum() == pytest.approx(1)
    assert advice.offset_hz is None or abs(advice.offset_hz) <= FURTHEST_HZ


def test_a_board_three_kilohertz_off_is_found_too():
    import numpy as np

    needed, _held = by_advice(Oscillator(2_800.0, 900.0, 0.003, 2.2, 0.03, 0.0), np.random.default_rng(3))
    assert needed <= 14
    assert key_up(Oscillator(3_000.0, 600.0, 0.003, 2.2, 0.0, 0.0), 0, np.random.default_rng(1)).bits == 0


def test_typed_readings_and_what_is_none():
    made = parse_reading("-150", "1,2 %", "3", "receive", "2026-11-26", "21.5")
    assert (made.offset_hz, made.bits, made.errors, made.celsius) == (-150, BITS, 130, 21.5)
    assert parse_reading("+400 Hz", "–", "", "transmit", "").bits == 0
    for offset, share, seconds in (
        ("x", "1", "3"),
        ("0", "60", "3"),
        ("0", "much", "3"),
        ("0", "1", "0"),
        ("99999", "1", "3"),
    ):
        with pytest.raises(ReadingError):
            parse_reading(offset, share, seconds, "receive", "")


def test_own_overs_of_a_log_become_readings_once(plan):
    text = (
        "2026-11-26 20:40:00 dmr slot 2: radio Q4WRN (9994217) to 9, 3.0 s, loss 0 %, BER 1.20 %, 10800 bits, offset +0 Hz\n"
        "2026-11-26 20:41:00 dmr slot 2: radio Q4WRN (9994217) to 9, 3.0 s, loss 0 %, BER 0.40 %, 10800 bits, offset -150 Hz\n"
        "2026-11-26 20:42:00 dmr slot 2: radio Q4WRN (9994217) to 9, 3.0 s, loss 0 %, BER 0.40 %\n"
    )
    overs = read_log(text).calls
    made = from_overs(overs, (), "2026-11-26")
    assert [(item.offset_hz, item.errors) for item in made] == [(0, 130), (-150, 43)]
    hotspot = add_readings(plan.hotspots[0], made).apply(plan).hotspots[0]
    assert from_overs(overs, hotspot.readings, "2026-11-26") == ()


def test_sides_stay_apart_readings_are_put_aside_and_the_centre_is_taken(plan):
    made = (read(0, 0.01), read(100, 0.02, side="transmit"))
    plan = add_readings(plan.hotspots[0], made).apply(plan)
    hotspot = plan.hotspots[0]
    assert [item.offset_hz for item in of_side(hotspot, "transmit")] == [100]
    aside = leave_out(hotspot, hotspot.readings[0]).apply(plan).hotspots[0]
    assert [item.left_out for item in aside.readings] == [True, False]
    assert begin_anew(hotspot, "receive").apply(plan).hotspots[0].readings == (hotspot.readings[1],)
    assert take_center(hotspot, "transmit", -412.4).apply(plan).hotspots[0].tx_correction_hz == -412
    assert take_center(hotspot, "receive", 77.6).apply(plan).hotspots[0].rx_correction_hz == 78
