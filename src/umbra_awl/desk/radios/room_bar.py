"""Each firmware's room for people as a bar, filled as far as the chosen ones fill it."""

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.fit.people import Capacity
from umbra_awl.desk.theme.theme import Theme


class RoomBar(QWidget):
    """Each firmware's room as a bar, filled as far as the chosen people fill it."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._rooms: list[Capacity] = []
        self._wanted = 0
        self._now = ""
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_rooms(self, found: list[Capacity], wanted: int, now: str) -> None:
        """Show every variant's room; `now` is the key of the one that runs."""
        self._rooms, self._wanted, self._now = found, wanted, now
        said = (f"{item.firmware.name} {min(wanted, item.firmware.people)} of {item.firmware.people}" for item in found)
        self.setAccessibleName("Room for people: " + "; ".join(said))
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(300, max(1, len(self._rooms)) * self._theme.px(40))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, px = self._theme, self._theme.px
        for at, item in enumerate(self._rooms):
            top, firmware = at * px(40), item.firmware
            here = firmware.key == self._now
            painter.setFont(theme.font(13, weight=600 if here else 400))
            painter.setPen(theme.color("ink"))
            extra = f", {firmware.extra}" if firmware.extra else ""
            runs = "  (runs now)" if here else ""
            line = QRectF(0, top, self.width(), px(20))
            painter.drawText(
                line, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, f"{firmware.name}{extra}{runs}"
            )
            over = "" if item.fits else f", {self._wanted - firmware.people:,} too many"
            count = f"{min(self._wanted, firmware.people):,} of {firmware.people:,}{over}"
            painter.setFont(theme.font(13, mono=True))
            painter.setPen(theme.color("ink" if item.fits else "stop"))
            painter.drawText(line, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, count)
            box = QRectF(0, top + px(22), self.width(), px(8))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("shade"))
            painter.drawRoundedRect(box, 4, 4)
            box.setWidth(box.width() * min(1.0, self._wanted / firmware.people if firmware.people else 1.0))
            painter.setBrush(theme.color("violet" if item.fits else "stop"))
            painter.drawRoundedRect(box, 4, 4)
