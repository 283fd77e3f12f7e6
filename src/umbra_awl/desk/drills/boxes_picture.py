"""The five boxes of practice: each thing a dot in its box, what is due ringed, what was never asked to the left."""

from collections.abc import Mapping

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.drills.schedule import BOX_DAYS
from umbra_awl.core.facts.counting import counted
from umbra_awl.desk.theme.theme import Theme

_MIDDLE = int(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignVCenter)
_NEW = "new"


class BoxesPicture(QWidget):
    """Shows how many things are in each box, and how many of them are due."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._boxes: Mapping[int, list[str]] = {}
        self._due: frozenset[str] = frozenset()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(520), self._theme.px(84))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(260), self._theme.px(84))

    def show_boxes(self, boxes: Mapping[int, list[str]], due: frozenset[str]) -> None:
        """Show other boxes."""
        self._boxes, self._due = boxes, due
        told = ", ".join(f"{self._title(box)} {len(keys)}" for box, keys in boxes.items())
        self.setAccessibleName(f"Boxes of practice: {told}; due now {len(due)}")
        self.update()

    @staticmethod
    def _title(box: int) -> str:
        return _NEW if box < 0 else f"after {counted(BOX_DAYS[box], 'day')}"

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme, px = self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        count = max(len(self._boxes), 1)
        wide = self.width() / count
        for at, (box, keys) in enumerate(self._boxes.items()):
            rect = QRectF(at * wide + px(3), 1, wide - px(6), self.height() - 2)
            painter.setPen(theme.color("line"))
            painter.setBrush(theme.color("sheet"))
            painter.drawRoundedRect(rect, 6, 6)
            painter.setPen(theme.color("ink2"))
            painter.setFont(theme.font(12))
            head = QRectF(rect.left(), rect.top() + px(4), rect.width(), px(18))
            painter.drawText(
                head,
                _MIDDLE,
                painter.fontMetrics().elidedText(self._title(box), Qt.TextElideMode.ElideRight, int(head.width())),
            )
            self._dots(painter, rect.adjusted(px(10), px(26), -px(10), -px(8)), keys)

    def _dots(self, painter: QPainter, room: QRectF, keys: list[str]) -> None:
        """A dot for each thing; where there are more than fit, the number says it."""
        theme, step = self._theme, self._theme.px(13)
        across = max(1, int(room.width() // step))
        most = across * max(1, int(room.height() // step))
        shown = keys if len(keys) <= most else keys[: max(0, most - 3)]
        for at, key in enumerate(shown):
            middle = QPointF(room.left() + (at % across + 0.5) * step, room.top() + (at // across + 0.5) * step)
            due = key in self._due
            painter.setPen(QPen(theme.color("violet"), 2) if due else Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("sheet" if due else "violet"))
            painter.drawEllipse(middle, step * 0.28, step * 0.28)
        if len(shown) < len(keys):
            painter.setPen(theme.color("ink"))
            painter.drawText(room, int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignBottom), f"{len(keys)}")
