"""Two parts of a page side by side where there is room, one under the other where there is not; each scrolls for itself."""

from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QBoxLayout, QWidget

from umbra_awl.desk.theme.theme import Theme

_GAP = 12


class SideBySide(QWidget):
    """`shares` are how they part the width; below `least` pixels (at the usual text) they stand one under the other."""

    def __init__(self, theme: Theme, left: QWidget, right: QWidget, shares: tuple[int, int], least: int) -> None:
        super().__init__()
        self._theme, self._least = theme, least
        self._line = QBoxLayout(QBoxLayout.Direction.LeftToRight, self)
        self._line.setContentsMargins(0, 0, 0, 0)
        self._line.setSpacing(_GAP)
        for part, share in zip((left, right), shares, strict=True):
            part.setProperty("whole", True)
            self._line.addWidget(part, share)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Stand as there is room."""
        super().resizeEvent(event)
        wide = self.width() >= self._theme.px(self._least)
        self._line.setDirection(QBoxLayout.Direction.LeftToRight if wide else QBoxLayout.Direction.TopToBottom)
