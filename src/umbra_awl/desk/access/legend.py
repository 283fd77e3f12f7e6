"""What the map's marks mean, drawn as the map draws them."""

from PyQt6.QtCore import QPointF, QRectF, QSize
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.desk.access.chart.map_over import paint_flag
from umbra_awl.desk.access.chart.map_paint import MARK_PX, MapMark, mark_colors, mark_picture
from umbra_awl.desk.theme.theme import Theme

_ENTRIES: tuple[tuple[MapMark, str], ...] = (
    (MapMark("repeater", 0, False), "repeater"),
    (MapMark("hotspot", 0, False), "hotspot"),
    (MapMark("simplex", 0, False), "simplex"),
    (MapMark("repeater", 0, True), "in the plan"),
    (MapMark("repeater", 1, False), "FM"),
    (MapMark("repeater", 2, False), "DMR"),
    (MapMark("repeater", 4, False), "D-STAR"),
    (MapMark("repeater", 8, False), "Fusion"),
    (MapMark("repeater", 0, False, "wrong"), "wrong"),
)


class MapLegend(QWidget):
    """One line under the map."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Marks: " + ", ".join(words for _mark, words in _ENTRIES) + ", flag: worked from")
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(600, self._theme.px(22))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme = self._theme
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        x, metrics = 0.0, painter.fontMetrics()
        base = (self.height() + metrics.ascent() - metrics.descent()) / 2
        for mark, text in _ENTRIES:
            width = MARK_PX + metrics.horizontalAdvance(text) + 12
            if x + width > self.width():
                return
            picture = mark_picture(mark, mark_colors(theme), self.devicePixelRatioF())
            painter.drawPixmap(QPointF(x, (self.height() - MARK_PX) / 2), picture)
            painter.drawText(QPointF(x + MARK_PX + 2, base), text)
            x += width
        self._flag(painter, self._swatch(painter, x, base), base)

    def _swatch(self, painter: QPainter, x: float, base: float) -> float:
        """The shade of what is likely heard; where it ends."""
        text = "likely heard"
        wide = 24 + painter.fontMetrics().horizontalAdvance(text)
        if x + wide <= self.width():
            painter.fillRect(QRectF(x + 2, self.height() / 2 - 6, 14, 12), self._theme.color("ok_tint"))
            painter.drawText(QPointF(x + 22, base), text)
        return x + wide + 10

    def _flag(self, painter: QPainter, x: float, base: float) -> None:
        """The flag where one worked from."""
        text = "worked from"
        if x + 16 + painter.fontMetrics().horizontalAdvance(text) <= self.width():
            painter.drawText(QPointF(x + 16, base), text)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint_flag(painter, QPointF(x + 2, self.height() / 2 + 8), self._theme)
