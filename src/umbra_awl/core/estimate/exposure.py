"""How far to stay from an antenna: the far field of the average radiated power against two public limit sets.

Source of the formula: OET Bulletin 65 (1997), equation 6: S = reflection · EIRP / (4 π r²). An estimate for the far
field; close to an antenna, and for a radio held at the head or body, it says little, and the maker's own figures count.
"""

import math
from typing import NamedTuple

from umbra_awl.core.facts.exposure import HIGHEST_MHZ, LIMIT_SETS, LOWEST_MHZ, LimitSet

REMINDER = (
    "An estimate for the far field with a reflecting ground. Local rules decide; they may ask for a measurement or a record. "
    "Never transmit while somebody touches or leans over an antenna."
)


class ExposureError(ValueError):
    """A question outside what the estimate can answer."""


class Distance(NamedTuple):
    """Metres to keep under one limit set: for the public, and where people know and can step back."""

    limits: LimitSet
    public_m: float
    controlled_m: float
    public_w_m2: float


def distances(watts: float, gain_dbi: float, talk_share: float, mode_share: float, mhz: float) -> list[Distance]:
    """Distances for each limit set.

    `watts` at the antenna, `talk_share` the part of the averaging time spent transmitting (0 to 1), `mode_share` the part of
    that at full power (1 for FM, D-STAR and Fusion; 0.5 for DMR, which uses one of two slots), `mhz` 30 to 2,000.
    Raises ExposureError.
    """
    if not LOWEST_MHZ <= mhz <= HIGHEST_MHZ:
        raise ExposureError(f"The estimate covers {LOWEST_MHZ:g} to {HIGHEST_MHZ:g} MHz; {mhz:g} MHz is outside.")
    if watts < 0 or not 0 <= talk_share <= 1 or not 0 < mode_share <= 1:
        raise ExposureError("Power must not be negative, and shares lie between 0 and 100 %.")
    average = watts * talk_share * mode_share * 10 ** (gain_dbi / 10)
    return [
        Distance(
            limits,
            _metres(average, limits.reflection, limits.public(mhz)),
            _metres(average, limits.reflection, limits.controlled(mhz)),
            limits.public(mhz),
        )
        for limits in LIMIT_SETS
    ]


def _metres(average_eirp_w: float, reflection: float, limit_w_m2: float) -> float:
    return math.sqrt(reflection * average_eirp_w / (4 * math.pi * limit_w_m2))
