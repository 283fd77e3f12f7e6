"""How much spectrum an emission takes: the bandwidth it occupies around its carrier, in hertz, by mode.

Sources: ITU Radio Regulations, Appendix 1, and Recommendation ITU-R SM.1138 (necessary bandwidth of FM speech: twice the sum of
the highest audio frequency, 3 kHz, and the deviation, 2.5 or 5 kHz: designations 11K0F3E and 16K0F3E); ETSI TS 102 361-1 for DMR
(designation 7K60FXE); the published air interface of D-STAR (GMSK at 4800 bit/s, designation 6K00F7W); C4FM at 9600 bit/s as
System Fusion sends it (designation 9K36F7W).
"""

from collections.abc import Callable
from typing import NamedTuple

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.modes import ByMode, of_mode
from umbra_awl.core.facts.width import NARROW_HZ

FM_NARROW_HZ = 11_000
FM_WIDE_HZ = 16_000


class Emission(NamedTuple):
    """What goes out: the carrier and the width it occupies, in hertz; `words` name the kind."""

    center_hz: int
    width_hz: int
    words: str = ""

    @property
    def low_hz(self) -> int:
        """Where it begins."""
        return self.center_hz - self.width_hz // 2

    @property
    def high_hz(self) -> int:
        """Where it ends."""
        return self.center_hz + self.width_hz // 2

    def at(self, center_hz: int) -> "Emission":
        """The same on another carrier."""
        return self._replace(center_hz=center_hz)

    def reaches(self, low_hz: int, high_hz: int) -> bool:
        """Whether any of it lies between two edges; touching one is not enough."""
        return self.low_hz < high_hz and low_hz < self.high_hz

    @property
    def span_words(self) -> str:
        """From where to where, in megahertz."""
        return f"{format_mhz(self.low_hz)} to {format_mhz(self.high_hz)}"


def _of_fm(channel_hz: int) -> tuple[int, str]:
    """Narrow or wide, by the width of the channel."""
    return (FM_NARROW_HZ, "narrow FM") if channel_hz <= NARROW_HZ else (FM_WIDE_HZ, "wide FM")


_SENT: ByMode[Callable[[int], tuple[int, str]]] = {
    "fm": _of_fm,
    "dmr": lambda _channel_hz: (7_600, "DMR"),
    "dstar": lambda _channel_hz: (6_000, "D-STAR"),
    "fusion": lambda _channel_hz: (9_360, "C4FM"),
}
"""The width that each mode occupies in hertz, and its kind in words."""


def emission(mode: str, center_hz: int, channel_hz: int = NARROW_HZ) -> Emission:
    """What a mode sends on a carrier; for FM the channel's width in hertz tells narrow from wide.

    Raises KeyError for a mode that is none of the four.
    """
    width_hz, kind = of_mode(_SENT, mode)(channel_hz)
    return Emission(center_hz, width_hz, kind)
