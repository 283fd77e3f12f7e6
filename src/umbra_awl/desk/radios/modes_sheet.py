"""The modes side by side: a column a mode, a row for each thing that tells them apart, a bar where it can be counted."""

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.facts.modes import EVERY_MODE, MODE_WORDS
from umbra_awl.core.fit.modes_beside import ModeRow
from umbra_awl.desk.theme.theme import Theme

_LABEL, _HEAD, _ROW, _BAR = 132, 30, 58, 5
_WRAPS = int(Qt.AlignmentFlag.AlignTop) | int(Qt.TextFlag.TextWordWrap)


class ModesSheet(QWidget):
    """Shows the rows; arrow keys and clicks choose one cell, `chosen` tells of it."""

    chosen = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.rows: tuple[ModeRow, ...] = ()
        self.at = (0, 0)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The modes side by side")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)

    def show_rows(self, rows: tuple[ModeRow, ...]) -> None:
        """Show them; the chosen cell stays."""
        self.rows = rows
        self.choose(self.at[0], min(self.at[1], max(0, len(rows) - 1)))
        self.updateGeometry()

    def choose(self, across: int, down: int) -> None:
        """Choose a cell."""
        if 0 <= across < len(EVERY_MODE) and 0 <= down < len(self.rows):
            self.at = (across, down)
            row, mode = self.rows[down], EVERY_MODE[across]
            self.setAccessibleName(f"{MODE_WORDS[mode]}, {row.name}: {row.cells[across].words}. {row.reads}")
            self.update()
            self.chosen.emit()

    def sizeHint(self) -> QSize:
        px = self._theme.px
        return QSize(px(700), px(_HEAD) + len(self.rows) * px(_ROW))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(420), self.sizeHint().height())

    def cell(self, across: int, down: int) -> QRectF:
        """Where a cell stands, in pixels."""
        px = self._theme.px
        width = (self.width() - px(_LABEL)) / len(EVERY_MODE)
        return QRectF(px(_LABEL) + across * width, px(_HEAD) + down * px(_ROW), width, px(_ROW))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        steps = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}
        step = steps.get(Qt.Key(event.key())) if event is not None else None
        if step is None:
            super().keyPressEvent(event)
        else:
            self.choose(self.at[0] + step[0], self.at[1] + step[1])

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.setFocus()
        if event is None or not self.rows:
            return
        first, place = self.cell(0, 0), event.position()
        across = int((place.x() - first.left()) // first.width())
        down = int((place.y() - first.top()) // first.height())
        self.choose(min(max(across, 0), len(EVERY_MODE) - 1), min(max(down, 0), len(self.rows) - 1))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter, theme, px = QPainter(self), self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(13, weight=600))
        painter.setPen(theme.color("ink"))
        for across, mode in enumerate(EVERY_MODE):
            below = self.cell(across, 0)
            head = QRectF(below.left() + px(8), 0, below.width() - px(8), px(_HEAD))
            painter.drawText(head, Qt.AlignmentFlag.AlignVCenter, MODE_WORDS[mode])
        for down, row in enumerate(self.rows):
            self._row(painter, down, row)

    def _row(self, painter: QPainter, down: int, row: ModeRow) -> None:
        theme, px = self._theme, self._theme.px
        top = self.cell(0, down).top()
        painter.setPen(QPen(theme.color("line"), 1))
        painter.drawLine(0, int(top), self.width(), int(top))
        painter.setFont(theme.font(13, weight=500))
        painter.setPen(theme.color("ink"))
        painter.drawText(QRectF(px(4), top + px(6), px(_LABEL) - px(8), px(_ROW) - px(6)), _WRAPS, row.name)
        for across, cell in enumerate(row.cells):
            whole = self.cell(across, down)
            if (across, down) == self.at:
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(QPen(theme.color("violet"), 2 if self.hasFocus() else 1))
                painter.drawRoundedRect(whole.adjusted(2, 2, -2, -2), 5, 5)
            place = whole.adjusted(px(8), px(6), -px(6), -px(5))
            painter.setFont(theme.font(12))
            painter.setPen(theme.color("ink"))
            painter.drawText(place, _WRAPS, cell.words)
            if cell.share is not None:
                self._bar(painter, place, cell.share)

    def _bar(self, painter: QPainter, place: QRectF, share: float) -> None:
        theme, px = self._theme, self._theme.px
        box = QRectF(place.left(), place.bottom() - px(_BAR), place.width(), px(_BAR))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("shade"))
        painter.drawRoundedRect(box, 2, 2)
        box.setWidth(box.width() * share)
        painter.setBrush(theme.color("violet"))
        painter.drawRoundedRect(box, 2, 2)
