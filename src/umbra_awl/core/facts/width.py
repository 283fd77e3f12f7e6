"""Channel rasters and bandwidths in hertz.

Source: ITU-R and IARU channel plans for VHF and UHF (12.5 kHz raster with a 6.25 kHz half step); FM with 12.5 kHz
(narrow, 2.5 kHz deviation) or 25 kHz (wide, 5 kHz deviation); DMR occupies 12.5 kHz (ETSI TS 102 361-1).
"""

NARROW_HZ = 12_500
WIDE_HZ = 25_000
RASTER_HZ = 6_250
COARSE_RASTER_HZ = 5_000


def on_raster(hz: int) -> bool:
    """Whether a frequency in hertz is a multiple of the 6.25 kHz or the 5 kHz raster."""
    return hz % RASTER_HZ == 0 or hz % COARSE_RASTER_HZ == 0


def width_word(width_hz: int) -> str:
    """The word operators use for an FM channel's width in hertz."""
    return "narrow" if width_hz <= NARROW_HZ else "wide"
