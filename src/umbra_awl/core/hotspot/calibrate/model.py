"""Where the offset lies, from counted bit errors: a likelihood over the centre and over how the rate rises around it.

A bit error rate is a count of errors in a number of bits, so each reading is binomial. Around an unknown centre the rate rises
on both sides of a floor towards one half: p(x) = floor + (1/2 − floor) · (1 − exp(−(d / width)^shape)), with d the distance from
a valley that may be flat, and a width that may be another one on either side (`lean`): filters are seldom even. A few readings
are simply wrong (a fade, somebody else's key-up): each counts with a small probability for nothing, and nothing decoded at one
place counts once, however often. What is likely is drawn (`sampling.py`); the interval is the posterior's, widened by what no
such curve describes. It is known only between flanks that were seen to rise on both sides. Offsets in hertz, rates as shares.

Sources: Bayes' rule; ETSI TS 102 361-1 for the bits of a voice burst.
"""

import math
from collections.abc import Sequence
from functools import cache
from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.hotspot.calibrate.sampling import Drawn, Form, drawn, is_wrong, rate
from umbra_awl.core.plan.model import Reading

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

    Floats = npt.NDArray[np.float64]

FURTHEST_HZ, STEP_HZ = 4_000, 20
PLACE_HZ = 60
_RISE, _LEAST_RISE = 1.6, 0.004
"""A flank rises to more than one and a half times the rate that is left, and by at least this share."""
FLAT_AFTER = 7
_FLAT_RISE = 0.004
_LONG_ENOUGH = 9
_MISFIT_HZ = 30.0
"""By so much (deviation) real filters move the middle of their flanks beside the forms above."""
SURE = 0.90
ENOUGH_HZ = 75
BITS_A_SECOND = 3_600
"""Voice bits a second (60 ms bursts of 216 bits) that a hotspot counts while one keys."""


class Estimate(NamedTuple):
    """What the readings say. `center_hz` is the most likely offset, `low_hz` to `high_hz` hold it with 90 %.

    `best_rate` is the rate expected there; `wrong` are the places of readings that do not go with the others; `posterior` is
    over `centers()`; `curve` the most likely curve at those. `flanks` says on which sides the rate was seen to rise; `flat`
    that further readings would tell little more, `even` that the rate between them does not change.
    """

    center_hz: float
    low_hz: float
    high_hz: float
    best_rate: float
    wrong: tuple[int, ...]
    posterior: "Floats"
    curve: "Floats"
    readings: int
    flanks: tuple[bool, bool] = (False, False)
    flat: bool = False
    even: bool = False

    @property
    def half_hz(self) -> float:
        """Half of the interval."""
        return (self.high_hz - self.low_hz) / 2

    @property
    def enough(self) -> bool:
        """Whether it is known to ± 75 Hz, between flanks that rise on both sides."""
        return all(self.flanks) and self.half_hz <= ENOUGH_HZ


@cache
def centers() -> "Floats":
    """The offsets at which the posterior and the curve are told."""
    import numpy as np

    return np.arange(-FURTHEST_HZ, FURTHEST_HZ + 1, STEP_HZ, dtype=float)


def estimate(readings: Sequence[Reading]) -> Estimate:
    """What some readings of one side say together; with none, nothing but the width of what is possible."""
    import numpy as np

    found = drawn(effective(readings))
    over_centers = _over_centers(found)
    low, high = _interval(over_centers)
    center = float(np.median(found.centers))
    best = int(found.likely.argmax())
    form = found.form(best)
    curve = rate(centers() - center, form)
    wrong = tuple(at for at, item in enumerate(readings) if is_wrong(item, float(found.centers[best]), form))
    left = float(np.median(rate(center - found.centers, found.forms)))
    sound = [item for at, item in enumerate(readings) if at not in wrong and item.bits]
    flanks = _flanks(sound, center, left)
    inside = curve[(centers() >= low) & (centers() <= high)]
    even = not len(inside) or bool(np.ptp(inside) < _FLAT_RISE)
    flat = all(flanks) and ((len(readings) >= FLAT_AFTER and even) or len(readings) >= _LONG_ENOUGH)
    return Estimate(center, low, high, left, wrong, over_centers, curve, len(readings), flanks, flat, even)


def _over_centers(found: Drawn) -> "Floats":
    """What was drawn as a distribution over the centres, spread by what no form of ours may describe of a real filter."""
    import numpy as np

    edges = np.concatenate([centers() - STEP_HZ / 2, [FURTHEST_HZ + STEP_HZ / 2]])
    weight = np.histogram(found.centers.clip(edges[0], edges[-1]), edges)[0].astype(float)
    reach = int(4 * _MISFIT_HZ / STEP_HZ)
    kernel = np.exp(-0.5 * (np.arange(-reach, reach + 1) * STEP_HZ / _MISFIT_HZ) ** 2)
    made: npt.NDArray[np.float64] = np.convolve(weight, kernel / kernel.sum(), mode="same")
    made /= made.sum()
    return made


def effective(readings: Sequence[Reading]) -> tuple[Reading, ...]:
    """The readings that count: where nothing was decoded again and again at one place, that is one."""
    kept: list[Reading] = []
    for item in readings:
        again = any(not one.bits and abs(one.offset_hz - item.offset_hz) <= PLACE_HZ for one in kept)
        if item.bits or not again:
            kept.append(item)
    return tuple(kept)


def _flanks(sound: Sequence[Reading], center_hz: float, left: float) -> tuple[bool, bool]:
    """Whether the rate was read to rise below and above a centre, beyond what is left there and what counting leaves open."""
    if not sound:
        return False, False
    lowest = min(left, *(item.errors / item.bits for item in sound))
    risen = [item.offset_hz for item in sound if _risen(item, lowest)]
    return any(hz < center_hz for hz in risen), any(hz > center_hz for hz in risen)


def _risen(reading: Reading, lowest: float) -> bool:
    seen = reading.errors / reading.bits
    noise = 2 * math.sqrt(max(seen, 1 / reading.bits) / reading.bits)
    return seen - noise > max(_RISE * lowest, lowest + _LEAST_RISE)


def _interval(weight: "Floats") -> tuple[float, float]:
    """The middle 90 % of a distribution over the centres, to less than a step."""
    import numpy as np

    total = np.concatenate([[0.0], np.cumsum(weight)])
    edges = np.concatenate([centers() - STEP_HZ / 2, [FURTHEST_HZ + STEP_HZ / 2]])
    low, high = np.interp([(1 - SURE) / 2, 1 - (1 - SURE) / 2], total / total[-1], edges)
    return float(low), float(high)


__all__ = [
    "BITS_A_SECOND",
    "ENOUGH_HZ",
    "FURTHEST_HZ",
    "PLACE_HZ",
    "Estimate",
    "Form",
    "centers",
    "effective",
    "estimate",
    "rate",
]
