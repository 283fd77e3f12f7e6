"""Where the offset lies, from counted bit errors: a likelihood over centre, width, floor and shape of the rise.

A bit error rate is a count of errors in a number of bits, so each reading is binomial. Around an unknown centre the rate rises
on both sides of a floor towards one half: p(x) = floor + (1/2 − floor) · (1 − exp(−|(x − centre) / width|^shape)). A few readings
are simply wrong (a fade, somebody else's key-up): each counts with a small probability for nothing. Where nothing is decoded,
the rate is above what the code corrects. Centre and shape parameters lie on a grid; the interval is the posterior's; the
prior says that small boards are off by hundreds of hertz and seldom by thousands. Offsets in hertz, rates as shares.

Sources: Bayes' rule on a grid (any text on statistics); ETSI TS 102 361-1 for the bits of a voice burst.
"""

from collections.abc import Sequence
from functools import cache, lru_cache
from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.plan.model import Reading

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

    Floats = npt.NDArray[np.float64]

FURTHEST_HZ, STEP_HZ = 4_000, 20
WIDTHS_HZ = tuple(450.0 * 1.127**step for step in range(13))
FLOORS = (0.0005, 0.0012, 0.0028, 0.006, 0.013, 0.028)
SHAPES = (1.7, 2.2, 3.0)
WRONG, OUT_OF_NOWHERE = 0.02, 0.05
"""How often a reading is simply wrong: mostly a fade, which makes it worse; seldom somebody else's signal."""
_USUAL_HZ, _FAR_SHARE = 1_000.0, 0.15
"""How far boards are off (deviation), and the share of them about which nothing is said."""
NOT_DECODED, NOT_DECODED_SPREAD = 0.13, 0.02
"""Above this rate nothing comes out: what the voice code of these modes can still mend."""
SURE = 0.90
ENOUGH_HZ = 75
BITS_A_SECOND = 3_600
"""Voice bits a second (60 ms bursts of 216 bits) that a hotspot counts while one keys."""
_SAME_RATE = 0.045
"""Beyond counting noise, fading moves a rate by about this share of itself."""


class Grid(NamedTuple):
    """The points at which the likelihood is looked at: centres, and the forms of the rise flattened into one axis."""

    centers: "Floats"
    widths: "Floats"
    floors: "Floats"
    shapes: "Floats"


class Estimate(NamedTuple):
    """What the readings say. `center_hz` is the most likely offset, `low_hz` to `high_hz` hold it with 90 %.

    `best_rate` is the rate expected there; `wrong` are the places of readings that do not go with the others; `posterior` is
    over `Grid.centers`; `curve` the most likely curve at those.
    """

    center_hz: float
    low_hz: float
    high_hz: float
    best_rate: float
    wrong: tuple[int, ...]
    posterior: "Floats"
    curve: "Floats"
    readings: int

    @property
    def half_hz(self) -> float:
        """Half of the interval."""
        return (self.high_hz - self.low_hz) / 2

    @property
    def enough(self) -> bool:
        """Whether it is known to ± 75 Hz."""
        return self.readings > 0 and self.half_hz <= ENOUGH_HZ


@cache
def grid() -> Grid:
    """The grid in force."""
    import numpy as np

    forms = np.array([(width, floor, shape) for width in WIDTHS_HZ for floor in FLOORS for shape in SHAPES])
    centers = np.arange(-FURTHEST_HZ, FURTHEST_HZ + 1, STEP_HZ, dtype=float)
    return Grid(centers, forms[:, 0], forms[:, 1], forms[:, 2])


def rate(away_hz: "Floats", width_hz: "Floats", floor: "Floats", shape: "Floats") -> "Floats":
    """The bit error rate so many hertz beside the centre."""
    import numpy as np

    made: npt.NDArray[np.float64] = floor + (0.5 - floor) * -np.expm1(-((np.abs(away_hz) / width_hz) ** shape))
    return made


@cache
def _rates_by_distance() -> "Floats":
    """Rates for each distance in steps of the grid (rows) and each form (columns): every reading only shifts its rows."""
    import numpy as np

    points = grid()
    away = np.arange(0, 2 * FURTHEST_HZ + STEP_HZ, STEP_HZ, dtype=float)[:, None]
    return rate(away, points.widths, points.floors, points.shapes)


def rates_at(offset_hz: float) -> "Floats":
    """The rates that an offset would show, for each centre (rows) and form (columns)."""
    import numpy as np

    points = grid()
    nearest = np.rint(np.abs(offset_hz - points.centers) / STEP_HZ).astype(int)
    made: npt.NDArray[np.float64] = _rates_by_distance()[nearest.clip(0, len(_rates_by_distance()) - 1)]
    return made


def log_likelihood(reading: Reading) -> "tuple[Floats, Floats]":
    """Of one reading at each point of the grid: when it is sound, and when it is wrong."""
    import numpy as np

    rates = rates_at(reading.offset_hz)
    decodes = 1 / (1 + np.exp((rates - NOT_DECODED) / NOT_DECODED_SPREAD))
    if not reading.bits:
        return np.log(1 - decodes + 1e-12), np.full_like(rates, np.log(0.5))
    bits, errors = float(reading.bits), float(min(reading.errors, reading.bits))
    seen = errors / bits
    variance = rates * (1 - rates) / bits + (_SAME_RATE * rates) ** 2 + (0.5 / bits) ** 2
    sound = -0.5 * ((seen - rates) ** 2 / variance + np.log(2 * np.pi * variance)) + np.log(decodes + 1e-12)
    worse = np.where(seen >= rates, 1.0, 0.1) * decodes
    return sound, np.log((worse + OUT_OF_NOWHERE * (1 - decodes)) * 4.0 + 1e-12)


@lru_cache(maxsize=64)
def posterior(readings: tuple[Reading, ...]) -> "Floats":
    """The joint log posterior over the grid (centres down, forms across)."""
    import numpy as np

    if not readings:
        points = grid()
        usual = np.exp(-0.5 * (points.centers / _USUAL_HZ) ** 2) / (_USUAL_HZ * np.sqrt(2 * np.pi))
        prior = np.log((1 - _FAR_SHARE) * usual + _FAR_SHARE / (2 * FURTHEST_HZ))
        return np.repeat(prior[:, None], len(points.widths), axis=1)
    sound, wrong = log_likelihood(readings[-1])
    made: npt.NDArray[np.float64] = posterior(readings[:-1]) + np.logaddexp(
        np.log1p(-WRONG) + sound, np.log(WRONG) + wrong
    )
    return made


def estimate(readings: Sequence[Reading]) -> Estimate:
    """What some readings of one side say together; with none, nothing but the width of what is possible."""
    import numpy as np

    points = grid()
    total = posterior(tuple(readings))
    weight = np.exp(total - total.max())
    weight /= weight.sum()
    over_centers = weight.sum(axis=1)
    low, high = _interval(points.centers, over_centers)
    row, form = (int(at) for at in np.unravel_index(int(total.argmax()), total.shape))
    center = _refined(points.centers, total.max(axis=1), row)
    away = np.abs(points.centers - center)
    curve = rate(away, *(column[form : form + 1] for column in points[1:]))
    wrong = tuple(at for at, item in enumerate(readings) if _is_wrong(item, row, form))
    return Estimate(center, low, high, float(points.floors[form]), wrong, over_centers, curve, len(readings))


def _is_wrong(reading: Reading, row: int, form: int) -> bool:
    """Whether a reading is more likely wrong than sound, at the most likely point of the grid."""
    import numpy as np

    sound, wrong = log_likelihood(reading)
    return bool(np.log(WRONG) + wrong[row, form] > np.log1p(-WRONG) + sound[row, form])


def _interval(centers: "Floats", weight: "Floats") -> tuple[float, float]:
    """The middle 90 % of a distribution over the centres, to less than a step."""
    import numpy as np

    total = np.concatenate([[0.0], np.cumsum(weight)])
    edges = np.concatenate([centers - STEP_HZ / 2, [centers[-1] + STEP_HZ / 2]])
    low, high = np.interp([(1 - SURE) / 2, 1 - (1 - SURE) / 2], total / total[-1], edges)
    return float(low), float(high)


def _refined(centers: "Floats", best: "Floats", at: int) -> float:
    """The top of a parabola through the best point and its neighbours."""
    if not 0 < at < len(centers) - 1:
        return float(centers[at])
    left, middle, right = best[at - 1 : at + 2]
    bend = left - 2 * middle + right
    return float(centers[at] + (STEP_HZ * (left - right) / (2 * bend) if bend < 0 else 0.0))
