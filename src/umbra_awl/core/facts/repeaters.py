"""What repeaters usually do: offsets, rasters, powers, heights, calling frequencies and receiver sensitivities.

Sources: the IARU Region 1 VHF Managers Handbook (2 m offset 0.6 MHz, 70 cm 1.6, 7.6 and 9.4 MHz, calling 145.500 and 433.500 MHz
FM), the band plans of Regions 2 and 3 (70 cm 5 MHz, calling 146.520, 446.000, 145.500, 433.500 MHz) and common practice in
single countries; sensitivities are what makers' sheets commonly state. All are starting points; directory and operator decide.
"""

from typing import NamedTuple

from umbra_awl.core.facts.bands import Region
from umbra_awl.core.facts.modes import ByMode

USUAL_OFFSETS_HZ: dict[str, tuple[int, ...]] = {
    "2 m": (600_000,),
    "70 cm": (1_600_000, 2_000_000, 5_000_000, 7_600_000, 9_000_000, 9_400_000, 7_000_000),
}
USUAL_WATTS = 25.0
USUAL_HEIGHT_M = 60.0
HAND_HEIGHT_M = 1.5
USUAL_HAND_WATTS = 5.0
HOTSPOT_WATTS = 0.01
HOTSPOT_HEIGHT_M = 2.0
SENSITIVITY_DBM: ByMode[float] = {"fm": -121.0, "dmr": -119.0, "dstar": -120.0, "fusion": -120.0}
"""dBm for 12 dB SINAD (FM) or 5 % bit errors (digital)."""


class Calling(NamedTuple):
    """A calling or simplex frequency in hertz and what it is for."""

    hz: int
    mode: str
    words: str


CALLING: dict[Region, tuple[Calling, ...]] = {
    1: (
        Calling(145_500_000, "fm", "FM calling, 2 m"),
        Calling(433_500_000, "fm", "FM calling, 70 cm"),
        Calling(145_375_000, "dstar", "Digital voice calling, 2 m"),
        Calling(433_450_000, "dmr", "Digital voice calling, 70 cm"),
    ),
    2: (
        Calling(146_520_000, "fm", "FM calling, 2 m"),
        Calling(446_000_000, "fm", "FM calling, 70 cm"),
        Calling(145_670_000, "dstar", "Digital voice simplex, 2 m"),
        Calling(441_000_000, "dmr", "Digital voice simplex, 70 cm"),
    ),
    3: (
        Calling(145_500_000, "fm", "FM calling, 2 m"),
        Calling(433_500_000, "fm", "FM calling, 70 cm"),
        Calling(145_375_000, "dstar", "Digital voice calling, 2 m"),
        Calling(433_450_000, "dmr", "Digital voice calling, 70 cm"),
    ),
}
