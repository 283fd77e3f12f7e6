"""What is drawn over the map's kept picture at every paint: you, the selected, a moving station, the scale, the frame."""

from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRect, QRectF, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPen, QPixmap, QPolygonF

from umbra_awl.desk.access.chart.map_geometry import ring_step
from umbra_awl.desk.theme.theme import Theme

_POLE = 16


class MapOverlay(NamedTuple):
    """Places in pixels; None where there is nothing to draw."""

    you: QPointF | None
    selected: QPointF | None
    moving: QPointF | None
    focused: bool
    worked: tuple[QPointF, ...] = ()


class Overlay:
    """Draws it; keeps the picture of the scale."""

    def __init__(self, theme: Theme) -> None:
        self._theme = theme
        self._scale: tuple[object, QPixmap] | None = None

    def paint(self, painter: QPainter, over: MapOverlay, frame: QRect, px_per_km: float) -> None:
        """Draw everything into a frame at so many pixels a kilometre."""
        theme = self._theme
        violet = theme.color("violet")
        if over.you is not None:
            _cross(painter, over.you, violet)
        if over.selected is not None:
            painter.setPen(QPen(violet, 2.2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(over.selected, 13, 13)
            if over.you is not None:
                painter.setPen(QPen(violet, 1.4, Qt.PenStyle.DashLine))
                painter.drawLine(over.you, over.selected)
        if over.moving is not None:
            _cross(painter, over.moving, theme.color("brass"))
        for at in over.worked:
            paint_flag(painter, at, theme)
        self._paint_edges(painter, frame, px_per_km)
        if over.focused:
            painter.setPen(QPen(violet, 2))
            painter.drawRoundedRect(QRectF(frame).adjusted(1, 1, -1, -1), 6, 6)

    def _paint_edges(self, painter: QPainter, frame: QRect, px_per_km: float) -> None:
        """The scale at the lower left, and the frame."""
        key = (px_per_km, self._theme.tokens.name, self._theme.scale, self._theme.measures)
        if self._scale is None or self._scale[0] != key:
            self._scale = (key, self._scale_picture(px_per_km))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        painter.drawPixmap(QPointF(8, frame.height() - 34), self._scale[1])
        painter.setPen(QPen(self._theme.color("line"), 0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(frame.adjusted(0, 0, -1, -1))

    def _scale_picture(self, px_per_km: float) -> QPixmap:
        theme = self._theme
        metrics = QFontMetricsF(theme.font(12))
        each = theme.measures.km_each
        step = ring_step(px_per_km * each, 56) * each
        length = step * px_per_km
        text = theme.measures.round_distance(step)
        picture = QPixmap(round(max(length, metrics.horizontalAdvance(text))) + 14, 27)
        picture.fill(theme.color("panel"))
        painter = QPainter(picture)
        painter.setFont(theme.font(12))
        painter.setPen(QPen(theme.color("ink"), 1.4))
        painter.drawLine(QPointF(6, 22), QPointF(6 + length, 22))
        painter.drawLine(QPointF(6, 18), QPointF(6, 22))
        painter.drawLine(QPointF(6 + length, 18), QPointF(6 + length, 22))
        painter.drawText(QPointF(6, 16), text)
        painter.end()
        return picture


def paint_flag(painter: QPainter, foot: QPointF, theme: Theme) -> None:
    """A flag: one worked from here."""
    top = foot + QPointF(0, -_POLE)
    painter.setPen(QPen(theme.color("ink"), 1.6))
    painter.setBrush(theme.color("brass"))
    painter.drawLine(foot, top)
    painter.drawPolygon(QPolygonF([top, top + QPointF(9, 3.5), top + QPointF(0, 7)]))


def _cross(painter: QPainter, at: QPointF, color: QColor) -> None:
    painter.setPen(QPen(color, 2.2))
    painter.drawLine(at + QPointF(-7, 0), at + QPointF(7, 0))
    painter.drawLine(at + QPointF(0, -7), at + QPointF(0, 7))
