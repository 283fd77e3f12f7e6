"""The table seen from above: a card for each owner's radio, with a mark for how it stands."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.transfer.table.roster import Seat
from umbra_awl.desk.parts.thread import bead
from umbra_awl.desk.theme.theme import Theme

STATES = {"waiting": "waits", "done": "done", "again": "due again"}
_WIDE, _HIGH, _GAP = 196, 58, 8
_STEPS = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}


class TablePicture(QWidget):
    """Seats in rows. Arrows and clicks choose one; the chosen one is what the radio is written for."""

    chosen = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._seats: tuple[Seat, ...] = ()
        self._now = ""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        policy = QSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)
        theme.changed.connect(self.updateGeometry)

    def show_seats(self, found: tuple[Seat, ...], now: str) -> None:
        """Show the seats, and the one that is chosen."""
        grown = len(found) != len(self._seats)
        self._seats, self._now = found, now
        done = sum(seat.state == "done" for seat in found)
        here = next((seat for seat in found if seat.radio == now), None)
        told = f"; chosen: {here.call}, {STATES[here.state]}" if here is not None else ""
        self.setAccessibleName(f"Table: {done} of {len(found)} done{told}")
        if grown:
            self.updateGeometry()
        self.update()

    @property
    def _columns(self) -> int:
        return max(1, (self.width() + _GAP) // (self._theme.px(_WIDE) + _GAP))

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        columns = max(1, (width + _GAP) // (self._theme.px(_WIDE) + _GAP))
        rows = -(-max(len(self._seats), 1) // columns)
        return rows * (self._theme.px(_HIGH) + _GAP)

    def sizeHint(self) -> QSize:
        return QSize(600, self.heightForWidth(max(self.width(), 600)))

    def _box(self, at: int) -> QRectF:
        columns = self._columns
        wide = (self.width() - (columns - 1) * _GAP) / columns
        high = self._theme.px(_HIGH)
        return QRectF(at % columns * (wide + _GAP), at // columns * (high + _GAP), wide, high)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for at, seat in enumerate(self._seats):
            self._seat(painter, seat, self._box(at))

    def _seat(self, painter: QPainter, seat: Seat, box: QRectF) -> None:
        theme, px = self._theme, self._theme.px
        here = seat.radio == self._now
        painter.setPen(QPen(theme.color("violet" if here else "line"), 2 if here else 1))
        painter.setBrush(theme.color("violet_tint" if here else "panel"))
        painter.drawRoundedRect(box.adjusted(1, 1, -1, -1), 6, 6)
        token = {"done": "ok", "again": "brass", "waiting": "ink2"}[seat.state]
        bead(
            painter,
            QPointF(box.left() + px(16), box.top() + px(18)),
            theme.color(token),
            theme.color("sheet"),
            filled=seat.state == "done",
        )
        painter.setFont(theme.font(14, mono=True, weight=600))
        painter.setPen(theme.color("ink"))
        text = box.adjusted(px(32), px(6), -px(8), 0)
        painter.drawText(text, Qt.AlignmentFlag.AlignTop, seat.call or "–")
        painter.setFont(theme.font(12))
        painter.setPen(theme.color(token))
        painter.drawText(text, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignRight, STATES[seat.state])
        painter.setPen(theme.color("ink2"))
        under = text.adjusted(0, px(24), 0, 0)
        told = seat.at if seat.state == "done" else seat.name
        cut = painter.fontMetrics().elidedText(told, Qt.TextElideMode.ElideRight, round(under.width()))
        painter.drawText(under, Qt.AlignmentFlag.AlignTop, cut)
        if here and self.hasFocus():
            painter.setPen(QPen(theme.color("ink"), 1, Qt.PenStyle.DotLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(4, 4, -4, -4), 4, 4)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            spot = event.position()
            found = next((seat for at, seat in enumerate(self._seats) if self._box(at).contains(spot)), None)
            if found is not None:
                self.chosen.emit(found.radio)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None or not self._seats:
            return
        steps = {**_STEPS, Qt.Key.Key_Up: -self._columns, Qt.Key.Key_Down: self._columns}
        step = steps.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        keys = [seat.radio for seat in self._seats]
        at = keys.index(self._now) + step if self._now in keys else 0
        self.chosen.emit(keys[min(max(at, 0), len(keys) - 1)])
