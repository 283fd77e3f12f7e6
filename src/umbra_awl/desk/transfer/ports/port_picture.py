"""The way from the radio's plug to its answer as a thread of six places, cut where it breaks."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.transfer.ports.checks import PLACES, Trouble
from umbra_awl.desk.parts.thread import bead, cross, stitch
from umbra_awl.desk.theme.theme import Theme


class PortPicture(QWidget):
    """Six places; solid as far as the way was found whole."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._words: tuple[str, ...] = ("",) * len(PLACES)
        self._trouble: Trouble | None = None
        self._done = 0
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(500, self._theme.px(98))

    def show_way(self, words: tuple[str, ...], trouble: Trouble | None) -> None:
        """Show what was found at each place, and where the way breaks."""
        self._words, self._trouble = words, trouble
        known = next((at for at, word in enumerate(words) if not word), len(words))
        self._done = trouble.place if trouble is not None else known
        state = (
            f"broken at {PLACES[trouble.place]}: {trouble.name}"
            if trouble is not None
            else f"{self._done} of {len(PLACES)} found"
        )
        self.setAccessibleName(f"The way to the radio: {state}")
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, px, wide = self._theme, self._theme.px, self.width() / len(PLACES)
        for at in range(len(PLACES) - 1):
            solid = at + 1 < self._done or (at + 1 == self._done and self._trouble is None)
            start, end = QPointF(at * wide + px(22), px(16)), QPointF((at + 1) * wide + px(4), px(16))
            stitch(painter, start, end, theme.color("ok" if solid else "line"), solid=solid)
        for at, name in enumerate(PLACES):
            self._place(painter, at, name, QRectF(at * wide, px(16), wide, px(80)))

    def _place(self, painter: QPainter, at: int, name: str, box: QRectF) -> None:
        theme, px = self._theme, self._theme.px
        broken = self._trouble is not None and self._trouble.place == at
        done = at < self._done
        color = theme.color("stop" if broken else "ok" if done else "violet" if at == self._done else "ink2")
        spot = QPointF(box.left() + px(12), box.top())
        if broken:
            cross(painter, spot, color)
        else:
            bead(painter, spot, color, theme.color("bg"), filled=done)
        painter.setFont(theme.font(13, weight=600))
        painter.setPen(color)
        text = box.adjusted(px(4), px(12), -px(4), 0)
        painter.drawText(text, Qt.AlignmentFlag.AlignTop, name)
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        told = self._trouble.name if broken and self._trouble is not None else self._words[at]
        under = text.adjusted(0, px(20), 0, 0)
        painter.drawText(under, int(Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWrapAnywhere), told[:70])
