"""Every figure is recomputed from what it shows; what it names as moving it most does; formulas are only formulas."""

import math
import random
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.hotspot.test_ruler import ask
from tests.days import TODAY
from umbra_awl.core.agenda.lead import chart
from umbra_awl.core.agenda.steps import templates
from umbra_awl.core.asked.counted import (
    lead_figure,
    missed_figure,
    offset_figure,
    people_figure,
    place_figure,
    proven_figure,
)
from umbra_awl.core.asked.estimates import airtime_figure, battery_figure, exposure_figure, reach_figure
from umbra_awl.core.asked.formula import FormulaError, worked_out
from umbra_awl.core.estimate.battery import hours_of_use
from umbra_awl.core.estimate.exposure import distances
from umbra_awl.core.estimate.reach import End, reach
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.fit.people import ChosenPeople
from umbra_awl.core.hotspot.calibrate.model import estimate
from umbra_awl.core.hotspot.place.occupied import occupied, users_of
from umbra_awl.core.hotspot.place.ruler import ruler
from umbra_awl.core.logbook.proof import Shares
from umbra_awl.core.messages.cost import airtime_s
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, DmrAir, Reading, Service
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.simulation.evenings import many_evenings
from umbra_awl.core.simulation.setting import ListeningChoice, make_setting
from umbra_awl.demo.fresh import demo_plan

WATTS, METRES, GAINS = st.floats(0.01, 100), st.floats(1, 900), st.floats(-5, 12)
ENDS = st.builds(End, WATTS, METRES, GAINS, st.floats(-125, -105))


def sound(figure, value):
    """A figure that says what is shown elsewhere, and can be recomputed from what it shows."""
    assert figure.value == pytest.approx(value)
    assert figure.again() == pytest.approx(figure.value, rel=1e-9, abs=1e-9)
    assert figure.source
    assert all(item.source and item.words for item in figure.inputs)
    shown = " ".join(line.formula for line in figure.lines)
    assert all(item.name in shown for item in figure.inputs)
    for line in figure.lines:
        assert figure.filled(line)
    moved = [abs(item.moved) for item in figure.changes()]
    assert moved == sorted(moved, reverse=True)
    return figure


@given(st.floats(0.01, 300), st.floats(50, 1_300), ENDS, ENDS)
def test_reach(km, mhz, near, far):
    sound(reach_figure(km, mhz, near, far), reach(km, mhz, near, far).margin_db)


@given(st.floats(0, 500), GAINS, st.floats(0, 1), st.sampled_from([0.5, 1.0]), st.floats(30, 2_000))
def test_exposure(watts, gain, talk, mode, mhz):
    found = distances(watts, gain, talk, mode, mhz)
    sound(exposure_figure(watts, gain, talk, mode, mhz), max(item.public_m for item in found))


@given(
    st.floats(100, 9_000),
    st.floats(100, 3_000),
    st.floats(10, 500),
    st.floats(1, 200),
    st.floats(0, 0.5),
    st.floats(0, 0.5),
)
def test_battery(capacity, transmit_ma, receive_ma, idle_ma, transmit, receive):
    use = hours_of_use(capacity, transmit_ma, receive_ma, idle_ma, transmit, receive)
    sound(battery_figure(capacity, (transmit_ma, receive_ma, idle_ma), (transmit, receive)), use.hours)


@given(st.integers(1, 200_000), st.integers(300, 10_000), st.sampled_from([0.0, 0.05, 0.2, 0.5]))
def test_airtime(length, rate, loss):
    sound(airtime_figure(length, rate, loss), airtime_s(length, rate, loss)[0])


def test_lead_time_is_the_longest_chain():
    steps = templates()[0].steps
    made = chart(steps, date(2026, 11, 27))
    figure = sound(lead_figure(made), max(bar.end for bar in made.bars))
    assert figure.inputs[0].words.startswith("Licence")
    assert lead_figure(chart((), date(2026, 11, 27))) is None


@pytest.mark.parametrize("shift_hz", [0, 400_000, 3_000_000, -7_600_000])
def test_the_score_of_a_place(shift_hz):
    near = AccessPoint(
        "x", "Q0X", "X", services=(Service("s", 434_500_000, 434_500_000, DmrAir(1)),), lat=46.5, lon=-31.0
    )
    here = Position(46.5, -31.0)
    users = occupied(users_of(near, 1.0), here)
    made = ruler(ask(shift_hz=shift_hz), users)
    for at in range(0, len(made.hz), 37):
        place = made.place(at)
        sound(place_figure(made.reasons(at), place.score, "a place", shift_hz), place.score)


def test_the_calibrated_offset():
    chance = random.Random(2)
    readings = [
        Reading(offset, round(11_520 * (0.004 + 0.2 * (abs(offset - 240) / 900) ** 2) + chance.random() * 9), 11_520)
        for offset in (-600, -300, 0, 150, 300, 600)
    ]
    figure = sound(offset_figure(readings, "receive", -100), estimate(readings).center_hz)
    assert 100 < figure.value < 400
    assert "-100 Hz" in figure.note
    assert offset_figure([], "receive", 0) is None
    assert offset_figure(readings, "transmit", 0) is None


def test_missed_calls_are_the_sum_of_their_reasons():
    index, profiles = PlanIndex(demo_plan(TODAY), TODAY), shipped_profiles()
    fits = {item.key: fit(index, item, profiles[item.profile]) for item in index.plan.radios}
    keys = tuple(c.route for c in fits["moor"].memory.channels if c.route)
    result = many_evenings(make_setting(index, fits, ListeningChoice("moor", keys)), keys[:4], 12, 7)
    sound(missed_figure(result), 100 * result.missed.value)


def test_people_and_shares():
    full = sound(people_figure(ChosenPeople([None] * 40, 90, 40, 2), "large"), 40)
    assert full.changes()[0].words == "room in the radio"
    sound(people_figure(ChosenPeople([None] * 7, 7, 40, 2), ""), 7)
    sound(proven_figure(Shares(10, 4, 3, 2, 1), "all"), 40.0)
    sound(proven_figure(Shares(0, 0, 0, 0, 0), "none"), 0.0)


def test_what_moves_it_most_is_what_does():
    figure = battery_figure(2_000, (1_200, 180, 50), (0.5, 0.2))
    most = figure.changes()[0]
    assert abs(most.moved) >= abs(figure.again({"capacity": 2_200}) - figure.value)
    assert figure.filled(figure.lines[-1]) == "1700 / 651"


@pytest.mark.parametrize(
    "formula",
    ["", "x", "__import__('os')", "(1).real", "[1]", "1 if", "a.b", "lambda: 1", "sqrt(-1)", "1/0", "9**9**9**9", "'a'",
     "open(1)", "sqrt(x=1)", "1 and 2", "1 < 2 < 3", "-" * 100 + "1", "1" * 3_000],
)  # fmt: skip
def test_what_is_no_formula_is_refused(formula):
    with pytest.raises(FormulaError):
        worked_out(formula, {"a": 1.0})


@given(st.floats(-1e6, 1e6), st.floats(-1e6, 1e6))
def test_formulas_are_worked_out_as_anybody_would(a, b):
    assert worked_out("a + b * 2 - -a", {"a": a, "b": b}) == pytest.approx(a + b * 2 + a)
    assert worked_out("max(a, b) if a < b else min(a, b)", {"a": a, "b": b}) == b
    assert worked_out("sqrt(a ** 2)", {"a": a}) == pytest.approx(abs(a))
    assert worked_out("pi", {}) == math.pi
