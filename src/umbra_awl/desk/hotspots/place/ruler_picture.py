"""The ruler of a band: whole above with what stands there, a stretch of it below with a bar for each channel's score."""

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.hotspot.place.ruler import Ruler
from umbra_awl.core.hotspot.place.seek import STATE_WORDS
from umbra_awl.desk.hotspots.place.ruler_paint import RulerPaint
from umbra_awl.desk.theme.theme import Theme

_LEAST, _USUAL = 24, 56
"""Channels in the stretch below: at the least, and to begin with."""


class RulerPicture(QWidget):
    """Shows a ruler; arrows move, + and − zoom, click chooses; `chosen` tells the channel's place."""

    chosen = pyqtSignal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.paint = RulerPaint(self)
        self.theme = theme
        self.ruler: Ruler | None = None
        self.at = 0
        self.wide = _USUAL
        self.marks: tuple[tuple[int, str], ...] = ()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self._describe()

    def sizeHint(self) -> QSize:
        return QSize(self.theme.px(600), self.theme.px(300))

    def minimumSizeHint(self) -> QSize:
        return QSize(self.theme.px(300), self.theme.px(136))

    def show_ruler(self, ruler: Ruler, at: int, marks: tuple[tuple[int, str], ...] = ()) -> None:
        """Show a ruler with a channel in hand; `marks` are frequencies with words, such as where the hotspot stands now."""
        self.ruler, self.marks = ruler, marks
        self.at = min(max(at, 0), len(ruler.hz) - 1)
        self._describe()
        self.update()

    def _describe(self) -> None:
        if self.ruler is None:
            self.setAccessibleName("Ruler of the band, still being worked out")
            return
        place = self.ruler.place(self.at)
        told = f"{format_mhz(place.hz)} MHz, {STATE_WORDS[place.state]}, {place.score} of 100"
        self.setAccessibleName(f"Ruler of {self.ruler.asked.band.name}. {told}. Arrows move, plus and minus zoom.")

    @property
    def span(self) -> tuple[int, int]:
        """The channels of the stretch below: first, and one behind the last."""
        assert self.ruler is not None
        count = len(self.ruler.hz)
        wide = min(self.wide, count)
        first = min(max(self.at - wide // 2, 0), count - wide)
        return first, first + wide

    def go(self, at: int) -> None:
        """Take another channel in hand."""
        if self.ruler is not None:
            self.at = min(max(at, 0), len(self.ruler.hz) - 1)
            self._describe()
            self.update()
            self.chosen.emit(self.at)

    def zoom(self, times: float) -> None:
        """Show more or fewer channels below."""
        if self.ruler is not None:
            self.wide = min(max(round(self.wide * times), _LEAST), len(self.ruler.hz))
            self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        key = event.key() if event is not None else 0
        steps = {
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_PageUp: -self.wide // 2,
            Qt.Key.Key_PageDown: self.wide // 2,
            Qt.Key.Key_Home: -100_000,
            Qt.Key.Key_End: 100_000,
        }
        if key in steps:
            self.go(self.at + steps[Qt.Key(key)])
        elif key in {Qt.Key.Key_Plus, Qt.Key.Key_Equal, Qt.Key.Key_Minus}:
            self.zoom(2.0 if key == Qt.Key.Key_Minus else 0.5)
        else:
            super().keyPressEvent(event)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None:
            self.zoom(0.8 if event.angleDelta().y() > 0 else 1.25)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.ruler is None:
            return
        x, y = event.position().x(), event.position().y()
        whole, below = self._boxes()
        box, (first, last) = (below, self.span) if y > whole.bottom() + 10 else (whole, (0, len(self.ruler.hz)))
        self.go(first + int((x - box.left()) / max(box.width(), 1) * (last - first)))

    @property
    def _low(self) -> bool:
        """Whether there is so little height that the words of the colours are left out; the channel's own word stands below."""
        return self.height() < self.theme.px(250)

    def _boxes(self) -> tuple[QRectF, QRectF]:
        """Where the whole band and the stretch of it are drawn."""
        px = self.theme.px
        whole = QRectF(px(10), px(24), self.width() - px(20), px(26))
        if self._low:
            return whole, QRectF(px(12), px(90), self.width() - px(24), max(self.height() - px(90) - px(26), px(10)))
        below = QRectF(px(12), px(104), self.width() - px(24), max(self.height() - px(104) - px(50), px(10)))
        return whole, below

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.ruler is None:
            painter.setPen(self.theme.color("ink2"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "Looking at every channel of the band …")
            return
        whole, below = self._boxes()
        self.paint.paint_whole(painter, whole)
        self.paint.paint_lens(painter, whole, below)
        self.paint.paint_stretch(painter, below)
        if not self._low:
            self.paint.paint_legend(painter, below)

    def x_of(self, box: QRectF, hz: float) -> float:
        assert self.ruler is not None
        band = self.ruler.asked.band
        return box.left() + (hz - band.low_hz) / max(band.high_hz - band.low_hz, 1) * box.width()
