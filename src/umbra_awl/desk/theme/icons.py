"""Icons of the application's own: strokes on a square of sixteen, drawn in the theme's ink at any size.

Each says what its stage or act is about: a mast, a place, a card with holes, a handheld, an arrow into a card, a box that
radiates, an over in time, a written page; an awl's point for a repair.
"""

import re
from collections.abc import Mapping
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QIcon, QPainter, QPainterPath, QPen, QPixmap

if TYPE_CHECKING:
    from umbra_awl.desk.theme.theme import Theme

STROKES: Mapping[str, str] = {
    "station": "M8 14 L8 5 M5 14 L11 14 M8 5 O8 4 1.2 A8 4 3.4 -50 100 A8 4 3.4 130 100",
    "access": "O8 6 4 M5 9 L8 14 L11 9 P8 6 1.4",
    "routes": "R2 3 12 10 M2 7 L14 7 M7 3 L7 13 P4.5 10 1.3 P10.5 10 1.3",
    "radios": "R5 5 7 10 M10 5 L10 1 M7 8 L10 8 P8.5 12 1",
    "transfer": "M8 2 L8 9 M5 6.5 L8 9.5 L11 6.5 M3 9 L3 14 L13 14 L13 9",
    "hotspots": "R3 9 10 5 P5.5 11.5 0.9 A8 9 3 35 110 A8 9 6 35 110",
    "onair": "M2 12 L2 8 L6 8 L6 12 M10 12 L10 5 L14 5 L14 12 M1 12 L15 12",
    "log": "R3 2 10 12 M5.5 5.5 L10.5 5.5 M5.5 8 L10.5 8 M5.5 10.5 L8.5 10.5",
    "repair": "M3 13 L10 6 M10 6 L13 3 M9 3.5 L12.5 7 P3 13 0.9",
}
"""Moves (M), lines (L), circles (O, and P filled: middle and radius), boxes (R: corner, width, height), arcs (A: middle, radius,
from, over so many degrees)."""
_SQUARE = 16.0
_SIZES = (16, 24, 32, 48)


def _path(strokes: str) -> tuple[QPainterPath, QPainterPath]:
    """The lines of an icon, and what of it is filled."""
    lines, filled = QPainterPath(), QPainterPath()
    for kind, text in re.findall(r"([MLOPRA])([^MLOPRA]*)", strokes):
        numbers = [float(number) for number in text.split()]
        middle = QPointF(numbers[0], numbers[1])
        if kind == "M":
            lines.moveTo(middle)
        elif kind == "L":
            lines.lineTo(middle)
        elif kind in "OP":
            (lines if kind == "O" else filled).addEllipse(middle, numbers[2], numbers[2])
        elif kind == "R":
            lines.addRoundedRect(QRectF(*numbers), 1.2, 1.2)
        else:
            x, y, radius, begin, over = numbers
            box = QRectF(x - radius, y - radius, 2 * radius, 2 * radius)
            lines.arcMoveTo(box, begin)
            lines.arcTo(box, begin, over)
    return lines, filled


def paint_icon(painter: QPainter, name: str, box: QRectF, color: QColor) -> None:
    """Draw an icon into a square of a widget's pixels."""
    lines, filled = _path(STROKES[name])
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.translate(box.topLeft())
    painter.scale(box.width() / _SQUARE, box.height() / _SQUARE)
    pen = QPen(color, 1.5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin)
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(lines)
    painter.fillPath(filled, color)
    painter.restore()


class Icons:
    """The icons in a theme's ink, each made when it is first asked for; anew when the theme changes."""

    def __init__(self, theme: "Theme") -> None:
        self._theme = theme
        self._made: dict[str, QIcon] = {}
        theme.changed.connect(self._made.clear)

    def of(self, name: str) -> QIcon:
        """An icon by its name; for a name that is none an empty place as large, so that words beside stay in line."""
        if name not in self._made:
            self._made[name] = self._icon(name)
        return self._made[name]

    def _icon(self, name: str) -> QIcon:
        made = QIcon()
        for size in _SIZES:
            pixmap = QPixmap(size, size)
            pixmap.fill(Qt.GlobalColor.transparent)
            painter = QPainter(pixmap)
            if name in STROKES:
                paint_icon(painter, name, QRectF(0, 0, size, size), self._theme.color("ink2"))
            painter.end()
            made.addPixmap(pixmap)
        return made
