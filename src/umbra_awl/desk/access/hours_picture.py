"""The 24 hours of one's own clock: as busy as they usually are, with what one heard oneself before them."""

from collections.abc import Sequence

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.agenda.listening import BusyHour
from umbra_awl.desk.theme.theme import Theme


class HoursPicture(QWidget):
    """A bar an hour; the pale one is the usual, the full one one's own."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._hours: tuple[BusyHour, ...] = ()
        self.setMinimumHeight(theme.px(84))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def show_hours(self, hours: Sequence[BusyHour]) -> None:
        """Show them."""
        self._hours = tuple(hours)
        own = [f"{item.hour:02d} h: {item.own}" for item in self._hours if item.own]
        self.setAccessibleName(f"Busiest hours; heard by you: {', '.join(own) or 'nothing yet'}")
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        if not self._hours:
            return
        painter, theme, px = QPainter(self), self._theme, self._theme.px
        wide, foot = self.width() / len(self._hours), px(16)
        room = self.height() - foot - px(4)
        most = max(item.own for item in self._hours)
        painter.setFont(theme.font(10))
        for item in self._hours:
            left = item.hour * wide
            tall = item.usual * room
            painter.fillRect(QRectF(left + 1, px(4) + room - tall, wide - 2, tall), theme.color("shade"))
            if most:
                tall = item.own / most * room
                painter.fillRect(QRectF(left + 2, px(4) + room - tall, wide - 4, tall), theme.color("violet"))
            if item.hour % 3 == 0:
                painter.setPen(theme.color("ink2"))
                place = QRectF(left, self.height() - foot, wide * 3, foot)
                painter.drawText(place, Qt.AlignmentFlag.AlignVCenter, f"{item.hour:02d}")
