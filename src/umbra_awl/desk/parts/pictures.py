"""Small drawings of what the application works with: for the doors, and for pages that hold nothing yet."""

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.desk.parts.thread import bead, cross, stitch
from umbra_awl.desk.theme.theme import Theme

Draw = Callable[[QPainter, Theme, float, float], None]
"""Draws into so many pixels across and down."""


class Picture(QWidget):
    """A small drawing: what is behind a door, or what a page will hold."""

    def __init__(self, theme: Theme, draw: Draw) -> None:
        super().__init__()
        self._theme, self._draw = theme, draw
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(200, self._theme.px(64))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._draw(painter, self._theme, float(self.width()), float(self.height()))


def steps(painter: QPainter, theme: Theme, width: float, height: float) -> None:
    """A thread through beads: the first is done, the next one is open."""
    y, gap = height / 2, min(width / 6, 70.0)
    for at in range(4):
        done = at == 0
        color = theme.color("violet" if done else "line")
        stitch(painter, QPointF(14 + at * gap, y), QPointF(14 + (at + 1) * gap, y), color, solid=done)
        bead(
            painter,
            QPointF(14 + at * gap, y),
            theme.color("violet" if done else "ink2"),
            theme.color("panel"),
            filled=done,
        )


def radio(painter: QPainter, theme: Theme, width: float, height: float) -> None:
    """A radio whose memories come out as rows of a plan."""
    painter.setPen(QPen(theme.color("ink2"), 1.6))
    painter.setBrush(theme.color("sheet"))
    painter.drawRoundedRect(QRectF(14, 14, 28, height - 20), 4, 4)
    painter.drawLine(QPointF(20, 14), QPointF(20, 2))
    painter.drawRect(QRectF(19, 20, 18, 9))
    for at in range(4):
        y = 16 + at * (height - 28) / 3
        stitch(painter, QPointF(50, height / 2), QPointF(96, y), theme.color("violet"), solid=True)
        bead(painter, QPointF(104, y), theme.color("hole"), theme.color("panel"), filled=True)
        painter.fillRect(QRectF(116, y - 2, min(width - 130, 90 - 14 * (at % 2)), 4), theme.color("line"))


def sheet(painter: QPainter, theme: Theme, width: float, height: float) -> None:
    """A small punch sheet."""
    size = min((height - 8) / 3, 22.0)
    for down in range(3):
        for across in range(min(7, int((width - 20) / size))):
            box = QRectF(14 + across * size, 4 + down * size, size - 2, size - 2)
            shade = (across + 2 * down) % 5 == 0
            painter.fillRect(box, theme.color("shade" if shade else "sheet"))
            if not shade and (across * 3 + down * 5) % 4 == 1:
                bead(painter, box.center(), theme.color("hole"), theme.color("sheet"), filled=True)


def world(painter: QPainter, theme: Theme, width: float, height: float) -> None:
    """Rings around a place, with a few access points."""
    middle = QPointF(min(width / 3, 90.0), height / 2)
    painter.setPen(QPen(theme.color("line"), 1.2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for radius in (12.0, 22.0, 31.0):
        painter.drawEllipse(middle, radius * 1.6, min(radius, height / 2 - 2))
    for x, y in ((-30, -12), (18, 9), (40, -6), (-10, 14)):
        bead(painter, middle + QPointF(x, y), theme.color("violet"), theme.color("panel"), filled=x > 0)


def rows(painter: QPainter, theme: Theme, width: float, height: float) -> None:
    """A list with its first line chosen."""
    line = min((height - 6) / 4, 16.0)
    for at in range(4):
        top = 3 + at * line
        if at == 0:
            painter.fillRect(QRectF(10, top, min(width - 20, 176), line - 2), theme.color("violet_tint"))
        bead(painter, QPointF(20, top + line / 2 - 1), theme.color("violet"), theme.color("panel"), filled=at == 0)
        painter.fillRect(QRectF(32, top + line / 2 - 3, 46, 4), theme.color("ink2" if at == 0 else "line"))
        painter.fillRect(QRectF(88, top + line / 2 - 3, min(width - 110, 80 - 12 * (at % 3)), 4), theme.color("line"))


def path(painter: QPainter, theme: Theme, width: float, height: float) -> None:
    """A key-up from hop to hop, cut at the fourth."""
    y, gap = height / 2, min(width / 6, 60.0)
    for at in range(5):
        if at < 4:
            passed = at < 3
            color = theme.color("ok" if passed else "line")
            stitch(painter, QPointF(24 + at * gap, y), QPointF(8 + (at + 1) * gap, y), color, solid=passed)
        here = QPointF(16 + at * gap, y)
        if at == 3:
            cross(painter, here, theme.color("stop"))
        else:
            bead(painter, here, theme.color("ok" if at < 3 else "ink2"), theme.color("panel"), filled=at < 3)
