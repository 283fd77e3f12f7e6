"""Where things are on the lanes: moments across, lanes down."""

from typing import NamedTuple

from PyQt6.QtCore import QRectF


class Geometry(NamedTuple):
    """The room of the lanes, the moment at its left edge, the seconds across, the lanes by key, the highest a bar may be."""

    box: QRectF
    begin_s: float
    span_s: float
    places: dict[str, int]
    most_bar: float

    def x(self, moment: float) -> float:
        """Across, by a moment in seconds."""
        return self.box.left() + (moment - self.begin_s) / self.span_s * self.box.width()

    def y(self, lane: int) -> float:
        """The middle of a lane."""
        return self.box.top() + (lane + 0.5) * self.each

    @property
    def each(self) -> float:
        """How high one lane is."""
        return self.box.height() / max(len(self.places), 1)

    @property
    def bar(self) -> float:
        """How high a bar is."""
        return min(self.most_bar, max(self.each * 0.55, 9))
