"""The board's oscillator: off by so many hertz, which makes bit errors; the rate rises on both sides of its centre."""

import math
import random
from typing import NamedTuple

BITS_A_SECOND = 3_600
NOT_DECODED = 0.13


class Oscillator(NamedTuple):
    """`error_hz` is what the correction must be; `width_hz` how soon it gets bad; `floor` what is left at the best."""

    error_hz: float = 0.0
    width_hz: float = 900.0
    floor: float = 0.003
    shape: float = 2.2

    def rate(self, correction_hz: float) -> float:
        """The bit error rate at a correction, as a share."""
        away = abs(correction_hz - self.error_hz) / self.width_hz
        return self.floor + (0.5 - self.floor) * -math.expm1(-(away**self.shape))

    def errors(self, correction_hz: float, seconds: float, chance: random.Random) -> tuple[int, int] | None:
        """Errors and bits of one over; None where nothing is decoded."""
        rate = self.rate(correction_hz)
        if rate > NOT_DECODED:
            return None
        bits = max(1, int(seconds * BITS_A_SECOND))
        spread = math.sqrt(bits * rate * (1 - rate))
        return min(bits, max(0, round(chance.gauss(bits * rate, spread)))), bits
