"""Two names letter for letter, one above the other; what differs is marked with a shape and a word."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.hotspot.wifi.letters import LetterMark, shown, verdict
from umbra_awl.desk.theme.theme import Theme


class LettersPicture(QWidget):
    """Shows a comparison; as many places in a row as there is room for."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.marks: tuple[LetterMark, ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_marks(self, marks: tuple[LetterMark, ...]) -> None:
        """Show another comparison."""
        self.marks = marks
        self.setAccessibleName(f"Compared letter by letter: {verdict(marks)}")
        self.updateGeometry()
        self.update()

    def _places(self) -> int:
        return max(self.width() // self._theme.px(17), 6)

    def sizeHint(self) -> QSize:
        rows = -(-max(len(self.marks), 1) // self._places()) if self.width() else 1
        return QSize(self._theme.px(200), rows * self._theme.px(52))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(120), self.sizeHint().height())

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        self.updateGeometry()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, px, places = self._theme, self._theme.px, self._places()
        painter.setFont(theme.font(13, mono=True))
        for at, mark in enumerate(self.marks):
            x, y = (at % places) * px(17), (at // places) * px(52)
            odd = mark.kind != "same"
            if odd:
                painter.fillRect(QRectF(x, y, px(16), px(42)), theme.color("stop_tint"))
            for text, top in ((mark.one, 0), (mark.other, px(21))):
                painter.setPen(theme.color("stop" if odd else "ink"))
                painter.drawText(QRectF(x, y + top, px(16), px(20)), Qt.AlignmentFlag.AlignCenter, shown(text))
            if odd:
                middle = x + px(8)
                painter.setPen(theme.color("stop"))
                painter.drawLine(QPointF(middle - px(4), y + px(47)), QPointF(middle, y + px(43)))
                painter.drawLine(QPointF(middle, y + px(43)), QPointF(middle + px(4), y + px(47)))
