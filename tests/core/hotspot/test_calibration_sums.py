"""The sums behind a calibration against the same sums written out plainly, and what counts as a reading at its edges."""

import math
from statistics import NormalDist
from types import SimpleNamespace

import numpy as np
import pytest
from msgspec.structs import replace

from umbra_awl.core.hotspot.calibrate import following, model, readings, sampling
from umbra_awl.core.hotspot.calibrate.following import advise, next_offset, told
from umbra_awl.core.hotspot.calibrate.model import BITS_A_SECOND, Estimate, centers, estimate
from umbra_awl.core.hotspot.calibrate.readings import ReadingError, add_readings, from_overs, parse_reading
from umbra_awl.core.hotspot.calibrate.sampling import Drawn, Form, drawn, likelihood, rate
from umbra_awl.core.plan.model import Reading

FORM = Form(900.0, 0.004, 2.2, 1.25, 120.0)


def read(hz, share, bits=10_800):
    return Reading(hz, round(bits * share), bits, "receive", "2026-12-01")


def silent(hz):
    return Reading(hz, 0, 0, "receive", "2026-12-01")


def plain_rate(away, form):
    wide = form.width_hz * form.lean if away < 0 else form.width_hz / form.lean
    beside = max(abs(away) - form.flat_hz, 0.0)
    return form.floor + (0.5 - form.floor) * (1 - math.exp(-((beside / wide) ** form.shape)))


@pytest.mark.parametrize("away", [-1500.0, -400.0, -120.0, 0.0, 90.0, 121.0, 700.0, 2500.0])
def test_the_rate_rises_beside_a_flat_valley_and_wider_on_the_leaning_side(away):
    assert float(rate(away, FORM)) == pytest.approx(plain_rate(away, FORM), rel=1e-12)


def plain_decodes(share):
    return 1 / (1 + math.exp((share - 0.13) / 0.02))


def plain_likelihood(reading, share):
    decodes = plain_decodes(share)
    if not reading.bits:
        return math.log(1 - decodes + 1e-12), math.log(0.5)
    seen = reading.errors / reading.bits
    spread = math.sqrt(share * (1 - share) / reading.bits + (0.05 * share) ** 2 + (0.5 / reading.bits) ** 2 + 0.0003**2)
    worse = (1.0 if seen >= share else 0.1) * decodes
    sound = (
        -0.5 * ((seen - share) / spread) ** 2 - math.log(spread * math.sqrt(2 * math.pi)) + math.log(decodes + 1e-12)
    )
    return sound, math.log(4 * (worse + 0.05 * (1 - decodes)) + 1e-12)


@pytest.mark.parametrize("share", [0.001, 0.004, 0.03, 0.12, 0.2, 0.45])
@pytest.mark.parametrize("reading", [read(0, 0.0), read(0, 0.003), read(0, 0.03), read(0, 0.2, 900), silent(0)])
def test_how_likely_a_reading_is(reading, share):
    sound, wrong = likelihood(reading, np.array([share]))
    expected = plain_likelihood(reading, share)
    assert (float(sound[0]), float(wrong[0])) == pytest.approx(expected, rel=1e-9)


def test_how_likely_a_curve_is_before_and_after_readings_and_beyond_its_bounds():
    points = np.array([[300.0, 6.8, -5.5, 2.0, 0.2, 150.0], [-3_000.0, 7.0, -4.0, 3.0, -0.1, 10.0]]).T
    seen = (read(200, 0.004), read(-900, 0.08), silent(2_000))
    found = sampling._log_density(points.copy(), seen)
    for at in range(2):
        center, width, floor, shape, lean, flat = points[:, at]
        prior = math.log(0.85 * NormalDist(0, 1_000).pdf(center) + 0.15 / 8_000)
        prior += -0.5 * (lean / 0.32) ** 2 - 0.5 * (flat / 150) ** 2
        form = Form(math.exp(width), math.exp(floor), shape, math.exp(lean), flat)
        total = prior
        for item in seen:
            sound, wrong = plain_likelihood(item, plain_rate(item.offset_hz - center, form))
            total += math.log(0.98 * math.exp(sound) + 0.02 * math.exp(wrong))
        assert float(found[at]) == pytest.approx(total, rel=1e-9)
    for axis, beyond in ((0, 4_001.0), (1, 5.5), (2, -3.3), (3, 0.9), (4, 0.61), (5, 601.0)):
        outside = points.copy()
        outside[axis] = beyond
        assert np.all(np.isneginf(sampling._log_density(outside, seen)))


def test_with_no_reading_the_prior_itself_is_drawn():
    found = drawn(())
    assert len(found.centers) == 24_000
    near = np.abs(found.centers) < 2_000
    assert 0.85 < near.mean() < 0.93
    assert np.log(found.forms.lean).std() == pytest.approx(0.29, abs=0.02)
    assert np.median(found.forms.flat_hz) == pytest.approx(150 * 0.6745, abs=5)
    assert (np.log(found.forms.width_hz).min(), np.log(found.forms.width_hz).max()) == pytest.approx(
        (5.6, 7.7), abs=0.01
    )
    assert (found.forms.shape.min(), found.forms.shape.max()) == pytest.approx((1.0, 4.5), abs=0.01)


def test_after_readings_so_many_walkers_are_noted_at_so_many_steps():
    assert len(drawn((read(0, 0.004),)).centers) == 96 * 30


# from draws to an interval


def at_one_place(hz, many=500):
    forms = Form(*(np.full(many, float(value)) for value in FORM))
    return Drawn(np.full(many, float(hz)), forms, np.zeros(many))


def test_the_places_of_the_posterior_are_every_twenty_hertz_to_four_thousand():
    assert (centers()[0], centers()[1], centers()[-1], len(centers())) == (-4_000, -3_980, 4_000, 401)
    assert BITS_A_SECOND == 216 / 0.060
    assert following.USUAL_BITS == 3 * 3_600


@pytest.mark.parametrize("hz", [0, 620, -1_240])
def test_draws_of_one_place_are_spread_by_what_no_form_describes(hz):
    weight = model._over_centers(at_one_place(hz))
    mean = float((weight * centers()).sum())
    assert weight.sum() == pytest.approx(1)
    assert mean == pytest.approx(hz, abs=1e-6)
    assert math.sqrt(float((weight * (centers() - mean) ** 2).sum())) == pytest.approx(30, abs=0.6)
    low, high = model._interval(weight)
    assert ((low + high) / 2, (high - low) / 2) == pytest.approx((hz, 1.645 * 30), abs=2.5)


def test_draws_beyond_the_ends_count_at_the_ends():
    weight = model._over_centers(at_one_place(4_300))
    assert int(weight.argmax()) == len(centers()) - 1
    assert int(model._over_centers(at_one_place(-4_300)).argmax()) == 0


def test_the_interval_of_an_even_weight_is_its_middle_nine_tenths():
    low, high = model._interval(np.ones(len(centers())))
    assert (low, high) == pytest.approx((-0.9 * 4_010, 0.9 * 4_010))


def test_a_flank_is_what_rose_beyond_counting_and_beyond_what_is_left():
    rising, level = read(900, 0.05), read(0, 0.004)
    assert model._flanks([level, rising], 100.0, 0.004) == (False, True)
    assert model._flanks([level, read(-900, 0.05)], 100.0, 0.004) == (True, False)
    assert model._flanks([], 0.0, 0.004) == (False, False)
    few = Reading(900, 5, 400, "receive", "")  # 1.25 %, counted on five bits: ± 1.1 %
    assert not model._risen(few, 0.004)
    noise = 2 * math.sqrt(0.05 / 10_800)
    assert model._risen(read(0, 0.05), (0.05 - noise) / 1.6 - 1e-4)
    assert not model._risen(read(0, 0.05), (0.05 - noise) / 1.6 + 1e-4)
    assert model._risen(read(0, 0.006), 0.0001) is (0.006 - 2 * math.sqrt(0.006 / 10_800) > 0.0041)


STEEP = (read(-300, 0.10), read(100, 0.004), read(600, 0.004), read(1_000, 0.10), read(200, 0.004), read(500, 0.004))


def test_the_curve_lies_around_the_centre_and_what_is_wrong_is_named():
    found = estimate((*STEEP, read(350, 0.12)))
    assert found.center_hz == pytest.approx(350, abs=60)
    lowest = centers()[found.curve <= found.curve.min() + 1e-6]
    assert abs(float(lowest.mean()) - 350) < 80
    assert found.wrong == (6,)
    assert found.readings == 7
    assert found.flanks == (True, True)


def test_it_is_flat_only_after_enough_readings_between_two_flanks():
    valley = [read(hz, 0.0) for hz in (-400, -200, 0, 200, 400)]
    both = [read(-1_100, 0.08), read(1_100, 0.08)]
    assert not estimate(valley).flat
    assert not estimate([*valley[:4], *both]).flat
    seven = estimate([*valley, *both])
    assert (seven.even, seven.flat) == (True, True) or seven.half_hz <= 75
    slope = estimate([read(0, 0.09), read(150, 0.06), read(300, 0.04)])
    assert not slope.even
    assert not slope.flat


def test_what_was_said_of_one_place_again_and_again_counts_once():
    again = (silent(-700), silent(-690), silent(-640), silent(-639), read(0, 0.01))
    assert model.effective(again) == (again[0], again[3], again[4])


# what to try next


def guess(center=500.0, flanks=(True, False), enough=60.0):
    curve = rate(centers() - center, FORM)
    return Estimate(center, center - enough, center + enough, 0.004, (), np.ones(401), curve, 4, flanks)


def test_the_flank_that_is_missing_is_sought_where_it_tells_most():
    above = following._missing_flank(guess(), (), 4_000)
    below = following._missing_flank(guess(flanks=(False, True)), (), 4_000)
    assert above > 500 > below
    assert plain_rate(above - 500, FORM) == pytest.approx(0.05, abs=0.01)
    assert plain_rate(below - 500, FORM) == pytest.approx(0.05, abs=0.01)
    assert following._missing_flank(guess(), (), 600) == 600
    assert following._missing_flank(guess(), (silent(above),), 4_000) not in range(above - 60, above + 61)


def test_what_was_read_near_is_what_was_decoded_within_a_hundred_hertz():
    assert following._read_near([read(600, 0.01)], 500)
    assert not following._read_near([read(601, 0.01)], 500)
    assert not following._read_near([silent(500)], 500)


def test_the_variance_that_is_left_is_the_sum_written_out():
    places = np.array([100.0, 300.0, 480.0, 900.0])
    forms = np.array([[value] * 4 for value in FORM])
    bits, offset = 10_800, 800.0
    marks = [math.pi / 4 * at / 23 for at in range(24)]
    columns = []
    for center in places:
        share = plain_rate(offset - center, FORM)
        lost, root = 1 - plain_decodes(share), math.asin(math.sqrt(share))
        spread = math.sqrt(0.25 / bits + (0.03 * math.tan(min(root, 1.0))) ** 2) + 1e-4
        seen = [math.exp(-0.5 * ((mark - root) / max(spread, marks[1] / 2)) ** 2) for mark in marks]
        columns.append([*((1 - lost) * item / sum(seen) for item in seen), lost])
    total = 0.0
    for row in zip(*columns, strict=True):
        weight = max(sum(row), 1e-12)
        mean = sum(part * place for part, place in zip(row, places, strict=True)) / weight
        square = sum(part * place**2 for part, place in zip(row, places, strict=True)) / weight
        total += weight * (square - mean**2)
    assert following._left_over(places, forms, offset, bits) == pytest.approx(total / 4, rel=1e-9)
    shares = [plain_decodes(plain_rate(offset - center, FORM)) for center in places]
    assert following._decoded(places, forms, offset) == pytest.approx(sum(shares) / 4, rel=1e-9)


def test_what_is_tried_reaches_to_the_end_that_may_be_and_a_way_beyond_what_is_likely(monkeypatch):
    monkeypatch.setattr(following, "_left_over", lambda _places, _forms, item, _bits: -abs(item))
    rising = [read(0, 0.10), read(100, 0.06)]
    assert abs(next_offset(rising, most=150)) == 150
    low, high = np.quantile(following._draws(rising)[0], [0.01, 0.99])
    furthest = max(high // 50 * 50 + 1_200, -(-low // 50 * -50) + 1_200)
    assert abs(abs(next_offset(rising)) - min(furthest, 4_000)) <= 50


def test_the_draws_tried_are_spread_evenly_over_the_centres():
    places, forms = following._draws([read(0, 0.004)])
    assert np.all(np.diff(places) >= 0)
    assert 240 <= len(places) <= 270
    assert forms.shape == (5, len(places))


def test_what_came_of_it_is_told_by_the_sound_reading_next_to_the_centre():
    assert told([silent(0)], None) == "nothing read yet"
    line = told([*STEEP, silent(400), read(350, 0.15)], 0.05)
    assert line.startswith("from 5.0 % to 0.4 %")
    assert line.endswith("8 readings")
    assert told([read(0, 0.01)], None).endswith("1 reading")


def test_a_reading_put_aside_says_nothing():
    aside = Reading(0, 30, 10_800, "receive", "", left_out=True)
    assert advise([aside]).offset_hz == 0
    assert "Begin at 0" in advise([aside]).words


# what is a reading


@pytest.mark.parametrize(
    ("seconds", "rate_", "celsius", "good"),
    [
        ("0.5", "1", "", True), ("0.4", "1", "", False), ("600", "1", "", True), ("601", "1", "", False),
        ("3", "50", "", True), ("3", "50.1", "", False), ("3", "0", "", True), ("3", "-0.1", "", False),
        ("3", "1", "-40", True), ("3", "1", "-41", False), ("3", "1", "80", True), ("3", "1", "81", False),
    ],
)  # fmt: skip
def test_what_is_typed_lies_within_what_can_be(seconds, rate_, celsius, good):
    if good:
        made = parse_reading("-150", rate_, seconds, "receive", "2026-12-01", celsius)
        assert made.bits == round(float(seconds) * 3_600)
        assert made.errors == round(made.bits * float(rate_) / 100)
    else:
        with pytest.raises(ReadingError):
            parse_reading("-150", rate_, seconds, "receive", "2026-12-01", celsius)


def test_nothing_decoded_is_a_reading_without_bits():
    made = parse_reading("250 Hz", "–", "", "transmit", "2026-12-01")
    assert (made.offset_hz, made.errors, made.bits, made.side) == (250, 0, 0, "transmit")


def over(**more):
    usual = {"ber": 0.5, "offset_hz": 100, "bits": 0, "seconds": 3.0, "when": "2026-11-30T10:00:00Z"}
    return SimpleNamespace(**(usual | more))


@pytest.mark.parametrize(
    ("more", "good"),
    [
        ({}, True), ({"ber": None}, False), ({"offset_hz": None}, False), ({"offset_hz": 9_999}, True),
        ({"offset_hz": -10_000}, False), ({"ber": 0.0}, True), ({"ber": -0.1}, False), ({"ber": 50.0}, True),
        ({"ber": 50.1}, False), ({"seconds": 0.0}, False),
    ],
)  # fmt: skip
def test_an_over_of_a_log_is_a_reading_where_it_tells_all(more, good):
    assert len(from_overs([over(**more)], (), "2026-12-01")) == good


def test_overs_are_taken_oldest_first_and_none_twice():
    overs = [over(when="", bits=720), over(ber=1.0), over(bits=10**8, ber=0.1)]
    made = from_overs(overs, (), "2026-12-01")
    assert [item.day for item in made] == ["2026-11-30", "2026-11-30", "2026-12-01"]
    assert [item.bits for item in made] == [10**7, 10_800, 720]
    assert made[1].errors == 108
    assert from_overs(overs, made, "2026-12-01") == ()


def test_the_latest_four_hundred_readings_are_kept(plan):
    held = tuple(read(at, 0.01) for at in range(readings.MOST_READINGS))
    hotspot = replace(plan.hotspots[0], readings=held)
    grown = add_readings(hotspot, [read(999, 0.02)]).apply(replace(plan, hotspots=(hotspot,)))
    assert len(grown.hotspots[0].readings) == 400
    assert grown.hotspots[0].readings[0].offset_hz == 1
    assert grown.hotspots[0].readings[-1].offset_hz == 999


# edges of what counts


def test_what_is_known_to_seventy_five_hertz_is_known_and_one_more_is_not():
    assert guess(flanks=(True, True), enough=75.0).enough
    assert not guess(flanks=(True, True), enough=75.1).enough
    assert not guess(flanks=(True, False), enough=10.0).enough


def test_what_rose_at_the_centre_itself_is_no_flank():
    assert model._flanks([read(0, 0.004), read(100, 0.05)], 100.0, 0.004) == (False, False)


def test_a_small_rise_over_nearly_nothing_is_none():
    assert not model._risen(read(0, 0.003), 0.0001)
    assert model._risen(read(0, 0.007), 0.0001)


def test_with_no_flank_at_all_the_lower_one_is_sought():
    assert following._missing_flank(guess(flanks=(False, False)), (), 4_000) < 500
    assert following._missing_flank(guess(flanks=(False, True)), (silent(3_000),), 4_000) < 500


def test_known_without_a_reading_there_is_read_there_once(monkeypatch):
    monkeypatch.setattr(following, "estimate", lambda _readings: guess(flanks=(True, True), enough=40.0))
    asked = advise([read(0, 0.05), read(1_000, 0.05)])
    assert asked.offset_hz == 500
    assert asked.words == "Known: +500 Hz, ± 40 Hz. Read once at +500 Hz, to see what is left there."
    assert advise([read(0, 0.05), read(1_000, 0.05), read(450, 0.004)]).offset_hz is None


def test_an_estimate_at_the_edge_of_known_with_a_flank_missing_seeks_the_flank(monkeypatch):
    monkeypatch.setattr(following, "estimate", lambda _readings: guess(enough=75.0))
    monkeypatch.setattr(following, "next_offset", lambda *_asked: 4_321)
    asked = advise([read(0, 0.05)])
    assert asked.offset_hz not in {None, 4_321}
    monkeypatch.setattr(following, "estimate", lambda _readings: guess(enough=76.0))
    assert advise([read(0, 0.05)]).offset_hz == 4_321


@pytest.mark.parametrize("side", [-1, 1])
def test_what_is_tried_reaches_as_far_beyond_what_is_likely_on_either_side(monkeypatch, side):
    monkeypatch.setattr(following, "_left_over", lambda _places, _forms, item, _bits: -side * item)
    rising = [read(0, 0.10), read(100, 0.06), read(500, 0.004), read(900, 0.06)]
    low, high = np.quantile(following._draws(rising)[0], [0.01, 0.99])
    furthest = high + 1_200 if side > 0 else low - 1_200
    assert 0 <= side * (furthest - next_offset(rising)) < 50


def test_while_nothing_was_decoded_the_place_where_most_would_be_is_tried():
    heard_nothing = [silent(0), silent(1_500)]
    places, forms = following._draws(heard_nothing)
    tried = following._not_silent(np.arange(-4_000, 4_001, 50, dtype=float), heard_nothing)
    best = max(tried, key=lambda item: following._decoded(places, forms, item))
    assert next_offset(heard_nothing) == best


def test_a_reading_is_called_wrong_only_where_that_is_much_likelier():
    told = {}
    for share in np.linspace(0.004, 0.06, 57):
        reading = read(0, float(share))
        sound, wrong = plain_likelihood(reading, plain_rate(0, FORM))
        told[sampling.is_wrong(reading, 0.0, FORM)] = told.get(sampling.is_wrong(reading, 0.0, FORM), 0) + 1
        assert sampling.is_wrong(reading, 0.0, FORM) is (math.log(0.02) + wrong > math.log(0.98) + sound)
    assert set(told) == {True, False}
