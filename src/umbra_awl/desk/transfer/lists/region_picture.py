"""A radio's two regions, drawn apart: the memory, which a list never touches, and the list, filled as far as it is."""

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.transfer.around.carry import AroundFound
from umbra_awl.core.transfer.people.mark import PeopleMark
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.lists.list_writing import ChosenList

_MEMORY = 0.22


class RegionPicture(QWidget):
    """The memory at the left, the list at the right: what the radio was found to hold, and what is chosen now."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._held, self._wanted, self._room = 0, 0, 0
        self._words = ("", "")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(500, self._theme.px(124))

    def show_regions(self, chosen: ChosenList, mark: PeopleMark, found: AroundFound, wanted: int) -> None:
        """Show how full the list is in the radio, and how full it will be."""
        held = mark.rows if chosen.people else max(found.own_rows, 0)
        self._held, self._wanted, self._room = held, wanted, chosen.room
        what = "people" if chosen.people else "access points around"
        day = f", of {mark.listed}" if chosen.people and mark.listed else ""
        inside = f"in the radio: {held:,} {what}{day}" if held else f"in the radio: no {what} known"
        self._words = (inside, f"chosen: {wanted:,} of {chosen.room:,}")
        self.setAccessibleName(f"Regions of the radio. Memory: not touched. List: {inside}; {self._words[1]}.")
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, px = self._theme, self._theme.px
        left = self.width() * _MEMORY
        memory, people = QRectF(1, px(6), left - px(16), px(112)), QRectF(left, px(6), self.width() - left - 2, px(112))
        painter.setPen(QPen(theme.color("line"), 1))
        painter.setBrush(theme.color("shade"))
        painter.drawRoundedRect(memory, 6, 6)
        painter.setBrush(theme.color("panel"))
        painter.drawRoundedRect(people, 6, 6)
        self._text(painter, memory, "Memory", "stays as it is")
        self._text(painter, people, "List", self._words[0])
        box = people.adjusted(px(12), px(56), -px(12), 0)
        self._bar(painter, box, self._held, "ok")
        self._bar(painter, box.translated(0, px(37)), self._wanted, "violet")
        painter.setPen(theme.color("ink2"))
        painter.setFont(theme.font(12))
        under = people.adjusted(px(12), px(74), -px(12), 0)
        painter.drawText(under, Qt.AlignmentFlag.AlignTop, self._words[1])

    def _text(self, painter: QPainter, box: QRectF, title: str, under: str) -> None:
        theme, px = self._theme, self._theme.px
        inside = box.adjusted(px(12), px(10), -px(8), 0)
        painter.setPen(theme.color("ink"))
        painter.setFont(theme.font(14, weight=600))
        painter.drawText(inside, Qt.AlignmentFlag.AlignTop, title)
        painter.setPen(theme.color("ink2"))
        painter.setFont(theme.font(12))
        flags = Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap
        painter.drawText(inside.adjusted(0, px(25), 0, 0), int(flags), under)

    def _bar(self, painter: QPainter, box: QRectF, count: int, token: str) -> None:
        theme = self._theme
        line = QRectF(box.left(), box.top(), box.width(), theme.px(10))
        painter.setPen(QPen(theme.color("line"), 1))
        painter.setBrush(theme.color("sheet"))
        painter.drawRoundedRect(line, 4, 4)
        if count and self._room:
            line.setWidth(max(4.0, box.width() * min(1.0, count / self._room)))
            painter.setBrush(theme.color(token))
            painter.drawRoundedRect(line, 4, 4)
