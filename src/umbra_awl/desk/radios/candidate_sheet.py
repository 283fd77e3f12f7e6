"""The comparison's picture: what is asked for down, radios across; each cell filled as far as the radio meets it."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.fit.compare import Candidate
from umbra_awl.core.fit.needs import MUST, ComparedPoint
from umbra_awl.desk.theme.theme import Theme

_STAND_WORDS = {"met": "yes", "partly": "partly", "missing": "no", "unknown": "not known"}
_LABEL, _HEAD, _ROW = 132, 52, 37
_NARROW, _SECOND_LINE = 80, 16
"""Below this width of a column a name takes a second line in the head, and only what must be read stands under it."""


class CandidateSheet(QWidget):
    """Shows candidates side by side; arrow keys and clicks choose a cell."""

    chosen = pyqtSignal(int, int)
    weighed = pyqtSignal(str, int)
    resized = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.candidates: list[Candidate] = []
        self.at = (0, 0)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)

    def show_candidates(self, candidates: list[Candidate]) -> None:
        """Show the candidates, best first."""
        self.candidates = candidates
        across = min(self.at[0], max(0, len(candidates) - 1))
        self.at = (across, min(self.at[1], max(0, self._points() - 1)))
        self._describe()
        self.updateGeometry()
        self.update()

    def _points(self) -> int:
        return len(self.candidates[0].points) if self.candidates else 0

    def _describe(self) -> None:
        if not self.candidates or not self._points():
            self.setAccessibleName("Comparison: nothing to compare")
            return
        candidate = self.candidates[self.at[0]]
        point = candidate.points[self.at[1]]
        self.setAccessibleName(f"{candidate.profile.name}, {point.name}: {_STAND_WORDS[point.stand]}. {point.why}")

    def sizeHint(self) -> QSize:
        px = self._theme.px
        return QSize(px(640), self._head() + self._points() * px(_ROW))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(400), self.sizeHint().height())

    def _width(self) -> float:
        return (self.width() - self._theme.px(_LABEL)) / max(1, len(self.candidates))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.updateGeometry()  # narrower columns have a higher head
        self.resized.emit()

    def _narrow(self) -> bool:
        return self._width() < self._theme.px(_NARROW)

    def _head(self) -> int:
        return self._theme.px(_HEAD + (_SECOND_LINE if self._narrow() else 0))

    def _cell(self, across: int, down: int) -> QRectF:
        px = self._theme.px
        return QRectF(px(_LABEL) + across * self._width(), self._head() + down * px(_ROW), self._width(), px(_ROW))

    def choose(self, across: int, down: int) -> None:
        """Choose a cell."""
        if 0 <= across < len(self.candidates) and 0 <= down < self._points():
            self.at = (across, down)
            self._describe()
            self.update()
            self.chosen.emit(across, down)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        steps = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}
        step = steps.get(Qt.Key(event.key())) if event is not None else None
        if event is not None and event.text() in {"0", "1", "2", "3", "4"} and self._points():
            self.weighed.emit(self.candidates[0].points[self.at[1]].name, int(event.text()))
        elif step is None:
            super().keyPressEvent(event)
        else:
            self.choose(self.at[0] + step[0], self.at[1] + step[1])

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.setFocus()
        if event is not None and self.candidates:
            px, place = self._theme.px, event.position()
            across = int((place.x() - px(_LABEL)) // self._width())
            self.choose(across, min(max(int((place.y() - self._head()) // px(_ROW)), 0), self._points() - 1))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not self.candidates:
            return
        self._rows(painter)
        for across, candidate in enumerate(self.candidates):
            self._column(painter, across, candidate)

    def _rows(self, painter: QPainter) -> None:
        theme, px = self._theme, self._theme.px
        for down, point in enumerate(self.candidates[0].points):
            line = QRectF(0, self._head() + down * px(_ROW), px(_LABEL) - 8, px(_ROW))
            painter.setFont(theme.font(13, weight=500))
            painter.setPen(theme.color("ink"))
            painter.drawText(
                line.adjusted(4, 0, 0, -px(14)), Qt.AlignmentFlag.AlignVCenter, point.name[0].upper() + point.name[1:]
            )
            painter.setFont(theme.font(11))
            painter.setPen(theme.color("ink2"))
            weight = f"counts {point.weight}×" if point.weight else "does not count"
            weight = "must be" if point.weight >= MUST else weight
            painter.drawText(line.adjusted(4, px(18), 0, 0), Qt.AlignmentFlag.AlignVCenter, weight)
            painter.setPen(QPen(theme.color("line"), 1))
            painter.drawLine(QPointF(0, line.top()), QPointF(self.width(), line.top()))

    def _column(self, painter: QPainter, across: int, candidate: Candidate) -> None:
        theme, px = self._theme, self._theme.px
        head = QRectF(px(_LABEL) + across * self._width(), 0, self._width(), self._head())
        if across == self.at[0]:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("violet_tint"))
            painter.drawRoundedRect(head.adjusted(1, 0, -1, px(_ROW) * self._points()), 6, 6)
        painter.setFont(theme.font(13, weight=600))
        painter.setPen(theme.color("ink"))
        wrapped = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
        painter.drawText(head.adjusted(1, 2, -1, -px(28)), wrapped, candidate.profile.name)
        self._stands(painter, head, candidate)
        for down, point in enumerate(candidate.points):
            self._mark(painter, self._cell(across, down), point, here=(across, down) == self.at)

    def _mark(self, painter: QPainter, cell: QRectF, point: ComparedPoint, *, here: bool) -> None:
        """A dish filled from the bottom as far as the need is met, and the word; a struck one where it had to be and is not."""
        theme, px = self._theme, self._theme.px
        share, word = point.share, _STAND_WORDS[point.stand]
        tone = "ok" if share >= 1 else "brass" if share > 0 else "ink2" if not point.known else "stop"
        side = px(18)
        left = cell.left() + 5 if self._narrow() else cell.center().x() - px(30)
        dish = QRectF(left, cell.center().y() - side / 2, side, side)
        painter.setPen(QPen(theme.color(tone), 1.6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(dish)
        if share > 0:
            fill = dish.adjusted(2.5, 2.5, -2.5, -2.5)
            fill.setTop(fill.bottom() - fill.height() * min(1.0, share))
            painter.fillRect(fill, theme.color(tone))
        if point.excludes:
            painter.drawLine(dish.bottomLeft(), dish.topRight())
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink"))
        text = QRectF(dish.right() + 5, cell.top(), cell.right() - dish.right() - 5, cell.height())
        painter.drawText(
            text, Qt.AlignmentFlag.AlignVCenter, f"{min(99, max(1, int(100 * share)))}%" if word == "partly" else word
        )
        if here:
            painter.setPen(QPen(theme.color("violet"), 2 if self.hasFocus() else 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(cell.adjusted(3, 3, -3, -3), 5, 5)

    def _stands(self, painter: QPainter, head: QRectF, candidate: Candidate) -> None:
        """Below the name, so that it stays in sight: the share that is met as a bar and in words, or what shuts the radio out."""
        theme, px = self._theme, self._theme.px
        painter.setFont(theme.font(11))
        painter.setPen(theme.color("stop" if candidate.out else "ink2"))
        said = _verdict(candidate, in_short=self._narrow())
        line = painter.fontMetrics().elidedText(said, Qt.TextElideMode.ElideRight, int(head.width()) - 6)
        under = head.adjusted(3, head.height() - px(_HEAD - 20), -3, -px(9))
        painter.drawText(under, Qt.AlignmentFlag.AlignCenter, line)
        box = QRectF(head.left() + 8, head.bottom() - px(8), head.width() - 16, px(4))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("shade"))
        painter.drawRoundedRect(box, 2, 2)
        box.setWidth(box.width() * candidate.share)
        painter.setBrush(theme.color("stop" if candidate.out else "violet"))
        painter.drawRoundedRect(box, 2, 2)


def _verdict(candidate: Candidate, *, in_short: bool) -> str:
    """What stands below a radio: the share it meets, or what shuts it out, which is said in full where it is explained."""
    out = ", ".join(item.name for item in candidate.out)
    if in_short:
        return "out" if out else f"{candidate.share:.0%}"
    return f"out: {out}" if out else f"{candidate.share:.0%}, {candidate.profile.shape}"
