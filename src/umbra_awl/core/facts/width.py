"""Channel rasters and bandwidths in hertz.

Source: ITU-R and IARU channel plans for VHF and UHF (12.5 kHz raster, a 6.25 kHz half step); FM with 12.5 kHz (narrow, 2.5 kHz
deviation) or 25 kHz (wide, 5 kHz deviation); DMR occupies 12.5 kHz (ETSI TS 102 361-1); ICAO Annex 10, volume V (8.33 kHz from
117.975 to 137 MHz, where one only listens).
"""

import re
from functools import lru_cache

NARROW_HZ = 12_500
WIDE_HZ = 25_000
RASTER_HZ = 6_250
AIRBAND_HZ = (117_975_000, 137_000_000)
COARSE_RASTER_HZ = 5_000


def on_raster(hz: int) -> bool:
    """Whether a frequency in hertz is a multiple of the 6.25 kHz or the 5 kHz raster, or of 8.33 kHz where aircraft are heard.

    A third of 25 kHz is no whole number of hertz, so lists round it: ten hertz are let pass.
    """
    if hz % RASTER_HZ == 0 or hz % COARSE_RASTER_HZ == 0:
        return True
    low, high = AIRBAND_HZ
    off = hz * 3 % WIDE_HZ
    return low <= hz <= high and min(off, WIDE_HZ - off) <= 30


_WIDE_WORDS = frozenset({"wide", "w", "wfm", "fmw", "fm-w", "breit", "large", "ancha", "larga", "f3e wide"})
_NARROW_WORDS = frozenset({"narrow", "n", "nfm", "fmn", "fm-n", "schmal", "étroite", "estrecha", "stretta", "halb"})


@lru_cache(maxsize=1_024)
def parse_width(text: str, *, mode: bool = False) -> int | None:
    """The FM width in hertz that a text tells: “12,5”, “25 kHz”, “wide”, “NFM”; None where it tells none.

    Of a `mode`'s text only the words count: “FM” is neither.
    """
    plain = text.strip().casefold()
    for word in re.split(r"[\s,/;()]+", plain) if mode else (plain,):
        if word in _WIDE_WORDS or word in _NARROW_WORDS:
            return WIDE_HZ if word in _WIDE_WORDS else NARROW_HZ
    found = None if mode else re.fullmatch(r"(\d+(?:[.,]\d+)?)\s*(k|khz|hz)?", plain)
    if found is None:
        return None
    khz = float(found[1].replace(",", "."))
    khz = khz / 1_000 if khz >= 1_000 else khz
    return (NARROW_HZ if khz <= 15 else WIDE_HZ) if 5 <= khz <= 50 else None


def width_word(width_hz: int) -> str:
    """The word operators use for an FM channel's width in hertz."""
    return "narrow" if width_hz <= NARROW_HZ else "wide"
