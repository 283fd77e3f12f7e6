"""What the marks on the punch sheet mean, drawn as they are there."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from umbra_awl.desk.parts.thread import stitch
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.sheet.paint import HOLE, RING
from umbra_awl.desk.theme.theme import Theme

_MARKS = (
    ("left", "slot 1"),
    ("right", "slot 2"),
    ("hole", "no slots"),
    ("shade", "cannot reach"),
    ("pair", "link, talk"),
    ("ring", "finding"),
)


class Legend(QWidget):
    """One line of marks with their words."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.setAccessibleName("Legend: " + ", ".join(text for _mark, text in _MARKS))
        set_tip(
            self,
            "Left: slot 1. Right: slot 2. Centred: no slots. Shade: cannot be reached. "
            "Eyelet stitched to a hole: the memory that "
            "links and the one that talks. Ring: a finding. Underlined: only listens.",
        )
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(480), self._theme.px(22))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(self._theme.font(12))
        x, middle = 4.0, self.height() / 2
        for mark, text in _MARKS:
            if x + 28 + painter.fontMetrics().horizontalAdvance(text) > self.width():
                return  # in a narrow window the tool tip says the rest
            self._mark(painter, mark, x, middle)
            painter.setPen(self._theme.color("ink2"))
            painter.drawText(QPointF(x + 28, middle + self._theme.px(4)), text)
            x += 28 + painter.fontMetrics().horizontalAdvance(text) + 14

    def _pair(self, painter: QPainter, x: float, middle: float) -> None:
        theme = self._theme
        link, talk = QPointF(x + 5, middle), QPointF(x + 19, middle)
        stitch(painter, link, talk, theme.color("hole"), solid=True)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("hole"))
        painter.drawEllipse(link, HOLE - 1, HOLE - 1)
        painter.drawEllipse(talk, HOLE - 1, HOLE - 1)
        painter.setBrush(theme.color("bg"))
        painter.drawEllipse(link, 2, 2)

    def _mark(self, painter: QPainter, mark: str, x: float, middle: float) -> None:
        theme = self._theme
        if mark == "shade":
            painter.fillRect(QRectF(x, middle - 7, 22, 14), theme.color("shade"))
            return
        if mark == "pair":
            self._pair(painter, x, middle)
            return
        at = QPointF(x + {"left": 6, "right": 16}.get(mark, 11), middle)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("hole"))
        painter.drawEllipse(at, HOLE - 1, HOLE - 1)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if mark == "ring":
            painter.setPen(QPen(theme.color("stop"), 1.8))
            painter.drawEllipse(at, RING - 1, RING - 1)
        elif mark in {"left", "right"}:
            dots = QPen(theme.color("ink2"), 1)
            dots.setDashPattern([1, 2])
            painter.setPen(dots)
            painter.drawLine(QPointF(x + 11, middle - 8), QPointF(x + 11, middle + 8))
