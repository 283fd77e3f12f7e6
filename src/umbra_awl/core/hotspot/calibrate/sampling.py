"""Centres and curves drawn from what some readings leave likely: many from the prior, the likely ones kept and moved about.

The moves are the stretch moves of an ensemble (Goodman and Weare, 2010): each walker moves along the line to another one, so that
narrow and leaning shapes cost nothing. The same readings always draw the same.
"""

from functools import lru_cache
from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.plan.model import Reading

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

    Floats = npt.NDArray[np.float64]

WRONG, OUT_OF_NOWHERE = 0.02, 0.05
"""How often a reading is simply wrong: mostly a fade, which makes it worse; seldom somebody else's signal."""
NOT_DECODED, NOT_DECODED_SPREAD = 0.13, 0.02
"""Above this rate nothing comes out: what the voice code of these modes can still mend."""
_USUAL_HZ, _FAR_SHARE, _FURTHEST_HZ = 1_000.0, 0.15, 4_000.0
"""How far boards are off (deviation), and the share of them about which nothing is said."""
_SAME_RATE = 0.05
"""Beyond counting noise, fading moves a rate by about this share of itself."""
_ROUNDING = 0.0003
"""Rates are shown to a tenth of a per cent: that is off by up to half of it."""
_LOW = (-_FURTHEST_HZ, 5.6, -10.0, 1.0, -0.6, 0.0)
_HIGH = (_FURTHEST_HZ, 7.7, -3.4, 4.5, 0.6, 600.0)
"""Bounds of centre, width (logarithm of hertz), floor (logarithm), shape, lean (logarithm) and half of the flat valley."""
_LEANS, _FLAT_HZ = 0.32, 150.0
"""How uneven (deviation of the logarithm) and how flat (deviation in hertz) filters are."""
_FIRST, _WALKERS, _SETTLE, _KEPT = 24_000, 96, 70, 30
_STRETCH = 2.0


class Form(NamedTuple):
    """How rates rise: width in hertz, floor as a share, exponent, how much wider the left side is, half of the flat valley."""

    width_hz: "Floats | float"
    floor: "Floats | float"
    shape: "Floats | float"
    lean: "Floats | float" = 1.0
    flat_hz: "Floats | float" = 0.0


class Drawn(NamedTuple):
    """Draws: their centres in hertz, their forms, and how likely each is (logarithm)."""

    centers: "Floats"
    forms: Form
    likely: "Floats"

    def form(self, at: int) -> Form:
        """The form of one draw."""
        return Form(*(float(axis[at]) for axis in self.forms))  # type: ignore[index]


def rate(away_hz: "Floats | float", form: Form) -> "Floats":
    """The bit error rate so many hertz beside the centre, above it where positive."""
    import numpy as np

    side = np.where(np.less(away_hz, 0), form.width_hz * form.lean, form.width_hz / form.lean)
    distance = np.maximum(np.abs(away_hz) - form.flat_hz, 0.0)
    made: npt.NDArray[np.float64] = form.floor + (0.5 - form.floor) * -np.expm1(-((distance / side) ** form.shape))
    return made


def likelihood(reading: Reading, rates: "Floats") -> "tuple[Floats, Floats]":
    """The logarithms of the likelihood of a reading, where these rates hold: when it is sound, and when it is wrong."""
    import numpy as np

    decodes = 1 / (1 + np.exp((rates - NOT_DECODED) / NOT_DECODED_SPREAD))
    if not reading.bits:
        return np.log(1 - decodes + 1e-12), np.full_like(rates, np.log(0.5))
    bits, errors = float(reading.bits), float(min(reading.errors, reading.bits))
    seen = errors / bits
    variance = rates * (1 - rates) / bits + (_SAME_RATE * rates) ** 2 + (0.5 / bits) ** 2 + _ROUNDING**2
    sound = -0.5 * ((seen - rates) ** 2 / variance + np.log(2 * np.pi * variance)) + np.log(decodes + 1e-12)
    worse = np.where(seen >= rates, 1.0, 0.1) * decodes
    return sound, np.log((worse + OUT_OF_NOWHERE * (1 - decodes)) * 4.0 + 1e-12)


def is_wrong(reading: Reading, center_hz: float, form: Form) -> bool:
    """Whether a reading is more likely wrong than sound, for a centre and a form."""
    import numpy as np

    sound, wrong = likelihood(reading, np.atleast_1d(rate(reading.offset_hz - center_hz, form)))
    return bool(np.log(WRONG) + wrong[0] > np.log1p(-WRONG) + sound[0])


@lru_cache(maxsize=64)
def drawn(readings: tuple[Reading, ...]) -> Drawn:
    """Draws from what some readings leave likely."""
    import numpy as np

    random = np.random.default_rng(2_010)
    low, high = np.array(_LOW)[:, None], np.array(_HIGH)[:, None]
    points = low + (high - low) * random.random((len(_LOW), _FIRST))
    points[0] = np.where(
        random.random(_FIRST) < _FAR_SHARE, points[0], (_USUAL_HZ * random.standard_normal(_FIRST)).clip(*_ends(0))
    )
    points[4] = (_LEANS * random.standard_normal(_FIRST)).clip(*_ends(4))
    points[5] = np.abs(_FLAT_HZ * random.standard_normal(_FIRST)).clip(*_ends(5))
    if not readings:
        return _as_drawn(points, np.zeros(_FIRST))
    fits = _of_readings(points, readings)
    weight = np.exp(fits - fits.max())
    picks = random.choice(_FIRST, _WALKERS, p=weight / weight.sum())
    start = points[:, picks] + 0.002 * (high - low) * random.standard_normal((len(_LOW), _WALKERS))
    return _walked(start.clip(low, high), readings, random)


def _ends(at: int) -> tuple[float, float]:
    return _LOW[at], _HIGH[at]


def _walked(points: "Floats", readings: tuple[Reading, ...], random: "np.random.Generator") -> Drawn:
    """The walkers moved about until they have settled, then noted at each step."""
    import numpy as np

    likely = _log_density(points, readings)
    kept: list[npt.NDArray[np.float64]] = []
    told: list[npt.NDArray[np.float64]] = []
    half = _WALKERS // 2
    for step in range(_SETTLE + _KEPT):
        for first in (slice(0, half), slice(half, None)):
            others = points[:, half:] if first.start == 0 else points[:, :half]
            stretch = (1 + (_STRETCH - 1) * random.random(half)) ** 2 / _STRETCH
            partner = others[:, random.integers(0, half, half)]
            tried = partner + stretch * (points[:, first] - partner)
            fits = _log_density(tried, readings)
            gain = (len(_LOW) - 1) * np.log(stretch) + fits - likely[first]
            moves = np.log(random.random(half)) < gain
            points[:, first] = np.where(moves, tried, points[:, first])
            likely[first] = np.where(moves, fits, likely[first])
        if step >= _SETTLE:
            kept.append(points.copy())
            told.append(likely.copy())
    return _as_drawn(np.concatenate(kept, axis=1), np.concatenate(told))


def _as_drawn(points: "Floats", likely: "Floats") -> Drawn:
    return Drawn(points[0], _form(points), likely)


def _form(points: "Floats") -> Form:
    import numpy as np

    return Form(np.exp(points[1]), np.exp(points[2]), points[3], np.exp(points[4]), points[5])


def _log_density(points: "Floats", readings: tuple[Reading, ...]) -> "Floats":
    """Prior and likelihood, as a logarithm; minus infinity outside of the bounds."""
    import numpy as np

    low, high = np.array(_LOW)[:, None], np.array(_HIGH)[:, None]
    inside = ((points >= low) & (points <= high)).all(axis=0)
    near = np.exp(-0.5 * (points[0] / _USUAL_HZ) ** 2) / (_USUAL_HZ * np.sqrt(2 * np.pi))
    prior = np.log((1 - _FAR_SHARE) * near + _FAR_SHARE / (2 * _FURTHEST_HZ))
    prior += -0.5 * (points[4] / _LEANS) ** 2 - 0.5 * (points[5] / _FLAT_HZ) ** 2
    held = points.clip(low, high)
    made: npt.NDArray[np.float64] = np.where(inside, prior + _of_readings(held, readings), -np.inf)
    return made


def _of_readings(points: "Floats", readings: tuple[Reading, ...]) -> "Floats":
    import numpy as np

    form = _form(points)
    made = np.zeros(points.shape[1])
    for item in readings:
        sound, wrong = likelihood(item, rate(item.offset_hz - points[0], form))
        made += np.logaddexp(np.log1p(-WRONG) + sound, np.log(WRONG) + wrong)
    return made
