"""A thousand simulated oscillators: readings until the offset is known, how often the interval holds it, against a search by hand."""

import math
from collections.abc import Callable
from statistics import median
from typing import NamedTuple

import numpy as np

from umbra_awl.core.hotspot.calibrate.following import advise
from umbra_awl.core.hotspot.calibrate.model import BITS_A_SECOND, ENOUGH_HZ
from umbra_awl.core.plan.model import Reading

MOST = 30


class Oscillator(NamedTuple):
    """One board: how far off it is, how its error rate rises, its floor, how much a reading fades, how often one is wrong.

    Wrong is mostly a fade, seldom somebody else's signal.
    """

    error_hz: float
    width_hz: float
    floor: float
    shape: float
    fading: float
    wrong: float


def oscillator(random: np.random.Generator) -> Oscillator:
    """One drawn as small boards on 70 cm are: up to ± 3 kHz."""
    return Oscillator(
        float(np.clip(random.normal(0, 1_100), -3_000, 3_000)),
        float(random.uniform(500, 1_500)),
        float(10 ** random.uniform(-3.3, -1.6)),
        float(random.uniform(1.7, 3.0)),
        float(random.uniform(0, 0.08)),
        0.01,
    )


def key_up(board: Oscillator, offset_hz: float, random: np.random.Generator) -> Reading:
    """What is read when one keys for two to four seconds at an offset."""
    away = abs(offset_hz - board.error_hz) / board.width_hz
    rate = board.floor + (0.5 - board.floor) * -math.expm1(-(away**board.shape))
    rate = min(0.5, rate * math.exp(random.normal(0, board.fading)))
    if random.random() < board.wrong:
        rate = random.uniform(min(rate, 0.3), 0.3) if random.random() < 0.9 else random.uniform(0, 0.3)
    bits = int(random.uniform(2, 4) * BITS_A_SECOND)
    if rate > random.normal(0.13, 0.01):
        return Reading(round(offset_hz))
    return Reading(round(offset_hz), int(random.binomial(bits, rate)), bits)


def by_advice(board: Oscillator, random: np.random.Generator) -> tuple[int, bool]:
    """Readings that were needed, and whether the interval held the truth."""
    readings: list[Reading] = []
    while len(readings) < MOST:
        advice = advise(readings)
        if advice.estimate.enough or advice.offset_hz is None:
            break
        readings.append(key_up(board, advice.offset_hz, random))
    found = advice.estimate
    return len(readings), found.low_hz <= board.error_hz <= found.high_hz


def by_hand(board: Oscillator, random: np.random.Generator) -> int:
    """Readings of a search in steps: outwards by 500 Hz until something decodes, then along by 100 Hz past the minimum."""
    count, at = 0, 0.0
    read: Callable[[float], float] = lambda offset: _rate(key_up(board, offset, random))  # noqa: E731
    for step in range(2 * 6 + 1):
        at = 500.0 * ((step + 1) // 2) * (1 if step % 2 else -1)
        count += 1
        if read(at) < 0.5:
            break
    best, worse = read(at), 0
    count += 1
    side = read(at + 100)
    count += 1
    direction = 100 if side < best else -100
    while worse < 3 and count < 60:
        at += direction
        found = read(at)
        count += 1
        worse = 0 if found < best else worse + 1
        best = min(best, found)
    return count


def _rate(reading: Reading) -> float:
    return reading.errors / reading.bits if reading.bits else 0.5


def trial(count: int = 1_000, seed: int = 15) -> tuple[float, float, float]:
    """Median readings by advice, median by hand, share of intervals that hold the truth."""
    random = np.random.default_rng(seed)
    boards = [oscillator(random) for _time in range(count)]
    advised = [by_advice(board, random) for board in boards]
    hand = [by_hand(board, random) for board in boards]
    return median(need for need, _held in advised), median(hand), sum(held for _need, held in advised) / count


class Family(NamedTuple):
    """How boards of one family come out.

    Median readings and hertz beside the truth, how many were told as known and how many of those were more than 75 Hz off, how
    many as flat, and the share of intervals that hold the truth.
    """

    readings: float
    off_hz: float
    known: int
    far: int
    flat: int
    held: float


def _eye(away: float, of: "_Filter") -> float:
    return 0.5 * math.erfc((of.width_hz - abs(away)) / (of.edge_hz * math.sqrt(2)))


def _one_sided(away: float, of: "_Filter") -> float:
    return _power(away / (of.width_hz * of.lean if away < 0 else of.width_hz / of.lean), of.floor, of.shape)


def _no_floor(away: float, of: "_Filter") -> float:
    return _power(away / of.width_hz, 0.0, of.shape)


def _flat(away: float, of: "_Filter") -> float:
    return _power(max(abs(away) - of.valley_hz, 0.0) / of.width_hz, 0.0, of.shape)


def _straight(away: float, of: "_Filter") -> float:
    return min(0.5, of.floor + 0.15 * abs(away) / of.width_hz)


def _logistic(away: float, of: "_Filter") -> float:
    return of.floor + 0.5 / (1 + math.exp(-(abs(away) - of.width_hz) / of.edge_hz))


def _power(away: float, floor: float, shape: float) -> float:
    return floor + (0.5 - floor) * -math.expm1(-(abs(away) ** shape))


class _Filter(NamedTuple):
    """What the families are made of: widths, edges and valleys in hertz, a floor as a share, a lean and an exponent."""

    width_hz: float
    edge_hz: float
    valley_hz: float
    floor: float
    lean: float
    shape: float


FAMILIES: dict[str, Callable[[float, _Filter], float]] = {
    "an eye closing": _eye, "one-sided": _one_sided, "no floor": _no_floor, "a flat valley": _flat, "straight": _straight,
    "logistic": _logistic,
}  # fmt: skip
"""Six ways in which rates may rise that are not the model's own."""


def by_family(name: str, count: int, seed: int = 5) -> Family:
    """Boards of one family, read by advice; shown rates are rounded to a tenth of a per cent."""
    random = np.random.default_rng(seed)
    rows: list[tuple[int, float, bool, bool, bool]] = []
    for _board in range(count):
        made = _Filter(
            random.uniform(600, 1_300), random.uniform(120, 260), random.uniform(200, 450), 10 ** random.uniform(-3.3, -2),
            float(random.choice([0.65, 0.8, 1.25, 1.54])), random.uniform(1.6, 3.0),
        )  # fmt: skip
        truth = float(np.clip(random.normal(0, 900), -2_500, 2_500))
        readings: list[Reading] = []
        while (advice := advise(readings)).offset_hz is not None and len(readings) < _PATIENCE:
            share = FAMILIES[name](advice.offset_hz - truth, made) * math.exp(random.normal(0, 0.05))
            readings.append(_shown(advice.offset_hz, share, random))
        found = advice.estimate
        held = found.low_hz <= truth <= found.high_hz
        rows.append((len(readings), abs(found.center_hz - truth), found.enough, found.flat and not found.enough, held))
    known = [row for row in rows if row[2]]
    return Family(
        median(row[0] for row in rows), median(row[1] for row in rows), len(known), sum(row[1] > ENOUGH_HZ for row in known),
        sum(row[3] for row in rows), sum(row[4] for row in rows) / count,
    )  # fmt: skip


_PATIENCE = 16


def _shown(offset_hz: int, share: float, random: np.random.Generator) -> Reading:
    bits = 3 * BITS_A_SECOND
    if share > random.normal(0.13, 0.01):
        return Reading(offset_hz)
    return Reading(offset_hz, round(round(random.binomial(bits, min(share, 0.5)) / bits, 3) * bits), bits)


if __name__ == "__main__":
    needed, by_hand_, held_ = trial()
    print(
        f"to ± {ENOUGH_HZ} Hz: {needed} readings by advice, {by_hand_} by hand; the interval holds the truth in {held_:.1%}"
    )
    for name_ in FAMILIES:
        one = by_family(name_, 70)
        print(
            f"{name_}: {one.readings} readings, {one.off_hz:.0f} Hz off; known {one.known}, of them {one.far} too far off; "
            f"flat {one.flat}; held {one.held:.0%}"
        )
