"""Two widely used sets of limits for radio-frequency exposure of people, as power density in W/m².

Sources: ICNIRP Guidelines 2020 (Health Physics 118:483), table 5, whole body, averaged over 30 minutes; United States
47 CFR 1.1310 table 1, with OET Bulletin 65 (1997) for the reflection factor. Local rules decide; these are for an estimate.
"""

from collections.abc import Callable
from typing import NamedTuple

LOWEST_MHZ = 30.0
HIGHEST_MHZ = 2_000.0


class LimitSet(NamedTuple):
    """Limits in W/m² as functions of MHz for the public and for the operator's own household under control."""

    name: str
    source: str
    public: Callable[[float], float]
    controlled: Callable[[float], float]
    reflection: float
    minutes_public: int
    minutes_controlled: int


def _icnirp(mhz: float) -> float:
    return 2.0 if mhz <= 400 else mhz / 200


def _cfr(mhz: float) -> float:
    """0.2 mW/cm² up to 300 MHz, f/1500 up to 1,500 MHz, 1 mW/cm² above."""
    return 2.0 if mhz <= 300 else min(mhz / 150, 10.0)


LIMIT_SETS: tuple[LimitSet, ...] = (
    LimitSet("ICNIRP 2020", "ICNIRP Guidelines 2020, table 5", _icnirp, lambda mhz: 5 * _icnirp(mhz), 2.56, 30, 30),
    LimitSet("47 CFR 1.1310", "47 CFR 1.1310 table 1; OET Bulletin 65", _cfr, lambda mhz: 5 * _cfr(mhz), 2.56, 30, 6),
)
