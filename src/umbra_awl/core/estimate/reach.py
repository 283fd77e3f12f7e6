"""Whether an access point is in reach: Egli's median path loss with a free-space floor and a radio-horizon check.

Source: J. J. Egli, “Radio propagation above 40 MHz over irregular terrain”, Proc. IRE 45 (1957) 1383: the median loss
between heights over irregular terrain, 40 to 900 MHz, up to some 60 km. Half of all places are better, half worse; the spread
is near 8 dB, so 10 dB above the needed level means about nine places in ten. Horizon over a 4/3 earth: 4.12·(√h1 + √h2) km.
"""

import math
from typing import Literal, NamedTuple

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

Likelihood = Literal["likely", "marginal", "unlikely"]
LIKELY_DB = 10.0
UNLIKELY_DB = -10.0
_NEAREST_KM = 0.05


class End(NamedTuple):
    """One end of a path: watts, antenna height in metres above what surrounds it, gain in dBi, sensitivity in dBm."""

    watts: float
    height_m: float
    gain_dbi: float = 0.0
    sensitivity_dbm: float = -120.0


class Reach(NamedTuple):
    """The estimate. Losses in dB, levels in dBm, margins in dB over the weaker direction's sensitivity."""

    verdict: Likelihood
    loss_db: float
    free_space_db: float
    margin_db: float
    up_dbm: float
    down_dbm: float
    horizon_km: float
    words: str


def free_space_db(km: float, mhz: float) -> float:
    """Free-space loss between isotropic antennas (ITU-R P.525): 32.45 + 20 log km + 20 log MHz."""
    return 32.45 + 20 * math.log10(max(km, _NEAREST_KM)) + 20 * math.log10(mhz)


def egli_db(km: float, mhz: float, high_m: float, low_m: float) -> float:
    """Egli's median loss between half-wave dipoles' isotropic equivalents; the lower antenna's law changes at 10 m."""
    high, low = max(high_m, low_m, 1.0), max(min(high_m, low_m), 1.0)
    low_term = 76.3 - 10 * math.log10(low) if low <= 10 else 85.9 - 20 * math.log10(low)
    return 20 * math.log10(mhz) + 40 * math.log10(max(km, _NEAREST_KM)) - 20 * math.log10(high) + low_term


def horizon_km(one_m: float, other_m: float) -> float:
    """How far two antennas see each other over a smooth 4/3 earth."""
    return 4.12 * (math.sqrt(max(one_m, 0.0)) + math.sqrt(max(other_m, 0.0)))


def dbm(watts: float) -> float:
    """Watts as dBm."""
    return 10 * math.log10(max(watts, 1e-6)) + 30


def reach(km: float, mhz: float, near: End, far: End) -> Reach:
    """The estimate for a distance in kilometres and a frequency in MHz, both directions; the weaker one decides."""
    free = free_space_db(km, mhz)
    loss = max(free, egli_db(km, mhz, far.height_m, near.height_m))
    gains = near.gain_dbi + far.gain_dbi
    up, down = dbm(near.watts) + gains - loss, dbm(far.watts) + gains - loss
    margin = min(up - far.sensitivity_dbm, down - near.sensitivity_dbm)
    horizon = horizon_km(near.height_m, far.height_m)
    verdict = _verdict(margin, km, horizon)
    return Reach(verdict, loss, free, margin, up, down, horizon, _words(verdict, margin, km, horizon))


def _verdict(margin: float, km: float, horizon: float) -> Likelihood:
    if margin < UNLIKELY_DB or km > 1.5 * horizon:
        return "unlikely"
    return "likely" if margin >= LIKELY_DB and km <= horizon else "marginal"


def _words(verdict: Likelihood, margin: float, km: float, horizon: float) -> str:
    side = f"{abs(margin):.0f} dB {'above' if margin >= 0 else 'below'} what is needed"
    beyond = f", {km - horizon:.0f} km beyond the radio horizon" if km > horizon else ""
    return f"{verdict}: {side}{beyond}"


def hand_end(mode: str, watts: float = 0.0, height_m: float = 0.0, gain_dbi: float = -3.0) -> End:
    """The operator's end: a handheld unless told otherwise (a short antenna near the body: −3 dBi)."""
    return End(watts or USUAL_HAND_WATTS, height_m or HAND_HEIGHT_M, gain_dbi, of_mode(SENSITIVITY_DBM, mode))


def site_end(mode: str, kind: str, watts: float | None = None, height_m: float | None = None) -> End:
    """An access point's end; what is not known is what such sites usually are."""
    if kind == "repeater":
        return End(watts or USUAL_WATTS, height_m or USUAL_HEIGHT_M, 3.0, of_mode(SENSITIVITY_DBM, mode))
    if kind == "hotspot":
        return End(watts or HOTSPOT_WATTS, height_m or HOTSPOT_HEIGHT_M, 0.0, of_mode(SENSITIVITY_DBM, mode) + 10)
    return hand_end(mode, watts or 0.0, height_m or 0.0)
