"""Eight characters of a D-STAR field as boxes, positions 7 and 8 marked: for other pictures, and as a widget of its own."""

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.facts.dstar import BLANK, FIELD_LENGTH, padded
from umbra_awl.desk.theme.theme import Theme

BOX, ROW, HEAD = 25, 30, 18
"""A box's width, a row's and the head's height, in pixels at the usual size of text."""
_MARKED_FROM = 6


def paint_head(painter: QPainter, theme: Theme, left: int) -> None:
    """The numbers over the boxes, beginning so many pixels from the left."""
    px = theme.px
    for at in range(FIELD_LENGTH):
        marked = at >= _MARKED_FROM
        painter.setFont(theme.font(12, mono=True, weight=600 if marked else 400))
        painter.setPen(theme.color("violet" if marked else "ink2"))
        box = QRectF(left + at * px(BOX), 0, px(BOX), px(HEAD))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(at + 1))


def paint_boxes(painter: QPainter, theme: Theme, text: str, left: int, top: int, *, wrong: bool = False) -> None:
    """One field, its upper left corner at `left` and `top` pixels."""
    px = theme.px
    painter.setFont(theme.font(14, mono=True, weight=600))
    for at, char in enumerate(padded(text)):
        box = QRectF(left + at * px(BOX) + 1, top + 1, px(BOX) - 3, px(ROW) - 5)
        marked = at >= _MARKED_FROM
        painter.setPen(QPen(theme.color("stop" if wrong else "violet" if marked else "line"), 1.6 if wrong else 1))
        painter.setBrush(theme.color("violet_tint" if marked else "sheet"))
        painter.drawRoundedRect(box, 3, 3)
        painter.setPen(theme.color("ink2" if char == " " else "ink"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, BLANK if char == " " else char)


class EightBoxes(QWidget):
    """What is typed, in its eight places."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.text = ""
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.updateGeometry)

    def show_text(self, text: str) -> None:
        """Show what is typed by now; what is more than eight characters is not shown."""
        self.text = text.upper().replace(BLANK, " ")[:FIELD_LENGTH]
        self.setAccessibleName(f"Eight places: {padded(self.text).replace(' ', BLANK)}")
        self.update()

    def sizeHint(self) -> QSize:
        px = self._theme.px
        return QSize(FIELD_LENGTH * px(BOX) + 2, px(HEAD) + px(ROW) + 2)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_head(painter, self._theme, 0)
        paint_boxes(painter, self._theme, self.text, 0, self._theme.px(HEAD))
