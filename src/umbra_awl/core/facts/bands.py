"""Amateur bands and satellite segments by IARU region, as a table with its sources.

The tables are where the application starts from; a plan may carry its own edges, and the operator's licence decides.
Sources: ITU Radio Regulations article 5 (allocations 144-146/148, 430-440, 420-450 MHz); amateur-satellite segments
145.8-146.0 and 435-438 MHz from the same article and the IARU band plans of the three regions.
"""

from collections.abc import Iterable
from typing import Literal

import msgspec

Region = Literal[1, 2, 3]


class Band(msgspec.Struct, frozen=True, gc=False, omit_defaults=True, forbid_unknown_fields=True):
    """A span of spectrum in hertz, both edges inside, with where the figure comes from."""

    name: str
    low_hz: int
    high_hz: int
    source: str = ""

    def holds(self, hz: int) -> bool:
        """Whether a frequency in hertz lies in the band, edges included."""
        return self.low_hz <= hz <= self.high_hz


_ITU = "ITU Radio Regulations, article 5"
BANDS: dict[int, tuple[Band, ...]] = {
    1: (Band("2 m", 144_000_000, 146_000_000, _ITU), Band("70 cm", 430_000_000, 440_000_000, _ITU)),
    2: (Band("2 m", 144_000_000, 148_000_000, _ITU), Band("70 cm", 420_000_000, 450_000_000, _ITU)),
    3: (Band("2 m", 144_000_000, 148_000_000, _ITU), Band("70 cm", 430_000_000, 440_000_000, _ITU)),
}
SATELLITE_SEGMENTS: tuple[Band, ...] = (
    Band("2 m satellite segment", 145_800_000, 146_000_000, "IARU band plans"),
    Band("70 cm satellite segment", 435_000_000, 438_000_000, _ITU),
)


def bands_for(region: Region, own: tuple[Band, ...] = ()) -> tuple[Band, ...]:
    """The band table of an IARU region, or the operator's own edges where there are any."""
    return own or BANDS[region]


def band_at(bands: Iterable[Band], hz: int) -> Band | None:
    """The first band that holds a frequency in hertz, or None."""
    return next((band for band in bands if band.holds(hz)), None)


def nearest_band(bands: Iterable[Band], hz: int) -> Band | None:
    """The band whose nearer edge is least hertz away, for a sentence about how far out one is."""
    return min(bands, key=lambda band: min(abs(hz - band.low_hz), abs(hz - band.high_hz)), default=None)
