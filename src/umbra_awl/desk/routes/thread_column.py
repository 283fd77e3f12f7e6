"""A thread that runs downwards through beads: one row for each hop or condition, with its words beside it."""

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.desk.parts.thread import bead, cross, stitch
from umbra_awl.desk.parts.wrap import in_lines
from umbra_awl.desk.theme.theme import Theme

HopLine = tuple[str, str, str, str]
"""State (pass, stop, dark), title, short text, detail."""
_LEFT, _TITLE = 20, 118
_WRAP = in_lines(Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignTop)


class ThreadColumn(QWidget):
    """Shows rows; its height follows from its width."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._rows: tuple[HopLine, ...] = ()
        self._empty = ""
        policy = QSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)
        theme.changed.connect(self.updateGeometry)

    def show_rows(self, rows: Sequence[HopLine], empty: str = "") -> None:
        """Show rows, or a text where there are none."""
        self._rows, self._empty = tuple(rows), empty
        told = ". ".join(
            f"{title}{', stops here' if state == 'stop' else ''}: {text}" for state, title, text, _more in rows
        )
        self.setAccessibleName(told or empty)
        self.updateGeometry()
        self.update()

    def rows(self) -> tuple[HopLine, ...]:
        """The rows shown now."""
        return self._rows

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return sum(self._height(row, width) for row in self._rows) + 8 if self._rows else self._theme.px(60)

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(480), self.heightForWidth(max(self.width(), self._theme.px(480))))

    def _text_width(self, width: int) -> int:
        return max(width - self._theme.px(_LEFT + 18 + _TITLE), 60)

    def _lines(self, text: str, size: int, width: int) -> int:
        if not text:
            return 0
        metrics = QFontMetrics(self._theme.font(size))
        return metrics.boundingRect(0, 0, self._text_width(width), 10_000, _WRAP, text).height()

    def _height(self, row: HopLine, width: int) -> int:
        _state, _title, text, detail = row
        return max(self._lines(text, 13, width) + self._lines(detail, 12, width), self._theme.px(18)) + self._theme.px(
            12
        )

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, px = self._theme, self._theme.px
        if not self._rows:
            painter.setFont(theme.font(13))
            painter.setPen(theme.color("ink2"))
            painter.drawText(self.rect().adjusted(4, 8, -4, 0), _WRAP, self._empty)
            return
        tops, top = [], 4
        for item in self._rows:
            tops.append(top)
            top += self._height(item, self.width())
        for at in range(len(self._rows) - 1):
            passed = self._rows[at][0] == "pass" and self._rows[at + 1][0] != "dark"
            start, end = QPointF(px(_LEFT), tops[at] + px(18)), QPointF(px(_LEFT), tops[at + 1] + px(2))
            stitch(painter, start, end, theme.color("ok" if passed else "line"), solid=passed)
        for item, place in zip(self._rows, tops, strict=True):
            self._paint_row(painter, item, place)

    def _paint_row(self, painter: QPainter, item: HopLine, top: int) -> None:
        theme, px = self._theme, self._theme.px
        state, title, text, detail = item
        color = theme.color({"pass": "ok", "stop": "stop"}.get(state, "ink2"))
        at = QPointF(px(_LEFT), top + px(10))
        if state == "stop":
            cross(painter, at, color)
        else:
            bead(painter, at, color, theme.color("bg"), filled=state == "pass")
        painter.setFont(theme.font(13, weight=600))
        painter.setPen(color)
        left = px(_LEFT + 18)
        box = QRectF(left, top, px(_TITLE - 8), px(20))
        shown = QFontMetrics(painter.font()).elidedText(title, Qt.TextElideMode.ElideRight, int(box.width()))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, shown)
        beside, width = left + px(_TITLE), self._text_width(self.width())
        painter.setFont(theme.font(13, weight=600 if state == "stop" else 400))
        painter.setPen(theme.color("stop" if state == "stop" else "ink" if state == "pass" else "ink2"))
        high = self._lines(text, 13, self.width())
        painter.drawText(QRectF(beside, top + px(1), width, high + 4), _WRAP, text)
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        painter.drawText(QRectF(beside, top + px(2) + high, width, 10_000), _WRAP, detail)
