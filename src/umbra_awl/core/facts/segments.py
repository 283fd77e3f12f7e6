"""Where repeaters send, and how far away they listen, in the regions' band plans.

Sources: IARU Region 1 VHF Managers Handbook (2 m and 70 cm FM and digital repeaters), the band plans of Regions 2 and 3, and
the custom of single countries where it is plain. A pair that lies the other way round somewhere (1.6 MHz, and 5 MHz in
Region 2) tells nothing and is left out.
"""

from typing import NamedTuple


class Segment(NamedTuple):
    """Outputs from `low_hz` to `high_hz`, and the shift from there to the input, in hertz."""

    low_hz: int
    high_hz: int
    shift_hz: int


SEGMENTS: tuple[Segment, ...] = (
    Segment(145_575_000, 145_800_000, -600_000),  # Region 1
    Segment(438_150_000, 439_450_000, -7_600_000),
    Segment(439_800_000, 440_000_000, -9_400_000),
    Segment(430_000_000, 430_415_000, 9_400_000),
    Segment(434_500_000, 434_990_000, -2_000_000),
    Segment(145_100_000, 145_500_000, -600_000),  # Region 2
    Segment(146_600_000, 147_000_000, -600_000),  # Regions 2 and 3
    Segment(147_000_000, 147_400_000, 600_000),
    Segment(438_000_000, 440_000_000, -5_000_000),  # Region 3
    Segment(438_000_000, 440_000_000, -7_000_000),
    Segment(29_600_000, 29_700_000, -100_000),
    Segment(51_800_000, 52_000_000, -600_000),
)


def usual_way(rx_hz: int, tx_hz: int) -> int:
    """1 where repeaters send on the first and listen on the second of two frequencies, −1 the other way round, 0 not known."""
    one, other = _is_pair(rx_hz, tx_hz), _is_pair(tx_hz, rx_hz)
    return one - other


def _is_pair(out_hz: int, in_hz: int) -> bool:
    return any(item.low_hz <= out_hz <= item.high_hz and in_hz - out_hz == item.shift_hz for item in SEGMENTS)
