"""The thread: a stitched line through holes. Solid where it has been, broken where not, a cross where it stops."""

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

RADIUS = 5.5


def stitch(painter: QPainter, start: QPointF, end: QPointF, color: QColor, *, solid: bool) -> None:
    """Draw the thread between two points: long stitches, or short broken ones."""
    pen = QPen(color, 2.2 if solid else 1.8)
    pen.setCapStyle(Qt.PenCapStyle.FlatCap)
    pen.setDashPattern([5.5, 1.6] if solid else [3.2, 3.6])
    painter.setPen(pen)
    painter.drawLine(QLineF(start, end))


def bead(painter: QPainter, at: QPointF, color: QColor, inside: QColor, *, filled: bool) -> None:
    """Draw a hole that the thread passes: filled where it has been, hollow where not."""
    painter.setPen(QPen(color, 2.0))
    painter.setBrush(color if filled else inside)
    painter.drawEllipse(at, RADIUS, RADIUS)


def cross(painter: QPainter, at: QPointF, color: QColor) -> None:
    """Draw the cut where the thread stops."""
    painter.setPen(QPen(color, 2.6))
    size = RADIUS + 0.5
    painter.drawLine(QLineF(at.x() - size, at.y() - size, at.x() + size, at.y() + size))
    painter.drawLine(QLineF(at.x() - size, at.y() + size, at.x() + size, at.y() - size))


def disc(painter: QPainter, at: QPointF, color: QColor, inside: QColor, share: float) -> None:
    """Draw a hole filled as far as something is done: from hollow (0) to whole (1), clockwise from the top."""
    bead(painter, at, color, inside, filled=share >= 1)
    if 0 < share < 1:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(color)
        box = QRectF(at.x() - RADIUS, at.y() - RADIUS, 2 * RADIUS, 2 * RADIUS)
        painter.drawPie(box, 90 * 16, -round(share * 360 * 16))
