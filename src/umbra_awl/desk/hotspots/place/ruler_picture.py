"""The ruler of a band: whole above with what stands there, a stretch of it below with a bar for each channel's score."""

from bisect import bisect_left, bisect_right

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF, QWheelEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.hotspot.place.ruler import STATES, Ruler
from umbra_awl.core.hotspot.place.seek import STATE_WORDS
from umbra_awl.core.hotspot.place.terms import runs_of
from umbra_awl.desk.theme.theme import Theme

TONES = {"forbidden": "shade", "occupied": "stop", "doubtful": "brass", "usable": "ok", "good": "ok"}
_LEAST, _USUAL = 24, 56
"""Channels in the stretch below: at the least, and to begin with."""


class RulerPicture(QWidget):
    """Shows a ruler; arrows move, + and − zoom, click chooses; `chosen` tells the channel's place."""

    chosen = pyqtSignal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.ruler: Ruler | None = None
        self.at = 0
        self.wide = _USUAL
        self._marks: tuple[tuple[int, str], ...] = ()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self._describe()

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(600), self._theme.px(300))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(300), self._theme.px(136))

    def show_ruler(self, ruler: Ruler, at: int, marks: tuple[tuple[int, str], ...] = ()) -> None:
        """Show a ruler with a channel in hand; `marks` are frequencies with words, such as where the hotspot stands now."""
        self.ruler, self._marks = ruler, marks
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
        return self.height() < self._theme.px(250)

    def _boxes(self) -> tuple[QRectF, QRectF]:
        """Where the whole band and the stretch of it are drawn."""
        px = self._theme.px
        whole = QRectF(px(10), px(24), self.width() - px(20), px(26))
        if self._low:
            return whole, QRectF(px(12), px(90), self.width() - px(24), max(self.height() - px(90) - px(26), px(10)))
        below = QRectF(px(12), px(104), self.width() - px(24), max(self.height() - px(104) - px(50), px(10)))
        return whole, below

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.ruler is None:
            painter.setPen(self._theme.color("ink2"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "Looking at every channel of the band …")
            return
        whole, below = self._boxes()
        self._paint_whole(painter, whole)
        self._paint_lens(painter, whole, below)
        self._paint_stretch(painter, below)
        if not self._low:
            self._paint_legend(painter, below)

    def _fill(self, state: str) -> QBrush:
        if state == "forbidden":
            color = QColor(self._theme.color("ink2"))
            color.setAlpha(110)
            return QBrush(color, Qt.BrushStyle.BDiagPattern)
        color = QColor(self._theme.color(TONES[state]))
        if state == "usable":
            color.setAlpha(80)
        return QBrush(color)

    def _x(self, box: QRectF, hz: float) -> float:
        assert self.ruler is not None
        band = self.ruler.asked.band
        return box.left() + (hz - band.low_hz) / max(band.high_hz - band.low_hz, 1) * box.width()

    def _paint_whole(self, painter: QPainter, box: QRectF) -> None:
        assert self.ruler is not None
        theme, px, ruler = self._theme, self._theme.px, self.ruler
        painter.setPen(Qt.PenStyle.NoPen)
        painter.fillRect(box, theme.color("sheet"))
        step = ruler.asked.raster_hz
        for first, last in runs_of(ruler.state):
            left, right = self._x(box, ruler.hz[first] - step / 2), self._x(box, ruler.hz[last - 1] + step / 2)
            painter.fillRect(
                QRectF(left, box.top(), max(right - left, 1.0), box.height()),
                self._fill(STATES[int(ruler.state[first])]),
            )
        painter.setPen(theme.color("line"))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(box)
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        band = ruler.asked.band
        mhz = (band.high_hz - band.low_hz) / 1e6
        every = next(gap for gap in (0.5, 1, 2, 5, 10) if mhz / gap <= max(box.width() / px(64), 1) or gap == 10)
        at = -(-band.low_hz // int(every * 1e6)) * int(every * 1e6)
        while at <= band.high_hz:
            x = self._x(box, at)
            painter.drawLine(QPointF(x, box.bottom()), QPointF(x, box.bottom() + px(4)))
            words = f"{at / 1e6:g}"
            wide = painter.fontMetrics().horizontalAdvance(words)
            painter.drawText(QPointF(min(max(x - wide / 2, 0), self.width() - wide), box.bottom() + px(17)), words)
            at += int(every * 1e6)
        self._paint_marks(painter, box)

    def _paint_marks(self, painter: QPainter, box: QRectF) -> None:
        """Where things stand, in words above the band; what would run into another is left out."""
        theme, px = self._theme, self._theme.px
        reached = 0.0
        painter.setFont(theme.font(12))
        for hz, words in sorted(self._marks):
            x = self._x(box, hz)
            painter.setPen(theme.color("violet"))
            painter.drawLine(QPointF(x, box.top() - px(4)), QPointF(x, box.bottom()))
            wide = painter.fontMetrics().horizontalAdvance(words)
            left = min(max(x - wide / 2, 0), self.width() - wide)
            if left >= reached:
                painter.drawText(QPointF(left, box.top() - px(7)), words)
                reached = left + wide + px(10)

    def _paint_lens(self, painter: QPainter, whole: QRectF, below: QRectF) -> None:
        assert self.ruler is not None
        theme, px = self._theme, self._theme.px
        first, last = self.span
        step = self.ruler.asked.raster_hz / 2
        left, right = self._x(whole, self.ruler.hz[first] - step), self._x(whole, self.ruler.hz[last - 1] + step)
        painter.setPen(theme.color("violet"))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(left, whole.top() - 2, max(right - left, 2), whole.height() + 4))
        top = below.top() - px(18)
        painter.drawPolyline(QPolygonF([QPointF(left, whole.bottom() + px(20)), QPointF(below.left(), top)]))
        painter.drawPolyline(QPolygonF([QPointF(right, whole.bottom() + px(20)), QPointF(below.right(), top)]))

    def _paint_stretch(self, painter: QPainter, box: QRectF) -> None:
        assert self.ruler is not None
        theme, px, ruler = self._theme, self._theme.px, self.ruler
        painter.setPen(theme.color("line"))
        painter.setBrush(theme.color("sheet"))
        painter.drawRoundedRect(box.adjusted(-px(6), -px(18), px(6), px(24)), 6, 6)
        first, last = self.span
        room = box.width() / (last - first)
        for at in range(first, last):
            state = STATES[int(ruler.state[at])]
            height = (
                max(box.height() * int(ruler.score[at]) / 100, px(5)) if state != "forbidden" else box.height() * 0.12
            )
            left = box.left() + (at - first) * room
            bar = QRectF(left + room * 0.14, box.bottom() - height, room * 0.72, height)
            if at == self.at:
                painter.fillRect(QRectF(left, box.top(), room, box.height()), theme.color("violet_tint"))
                painter.fillRect(bar, theme.color("violet"))
            else:
                painter.fillRect(bar, self._fill(state))
        painter.setPen(theme.color("ink2"))
        painter.drawLine(box.bottomLeft(), box.bottomRight())
        self._paint_scale(painter, box, first, last, room)
        if self.hasFocus():
            painter.setPen(theme.color("violet"))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(-px(6), -px(18), px(6), px(24)), 6, 6)

    def _paint_scale(self, painter: QPainter, box: QRectF, first: int, last: int, room: float) -> None:
        assert self.ruler is not None
        theme, px, hz = self._theme, self._theme.px, self.ruler.hz
        painter.setFont(theme.font(12, mono=True))
        wide = painter.fontMetrics().horizontalAdvance("430.0000")
        gaps = (25_000, 50_000, 100_000, 200_000, 500_000, 1_000_000, 2_000_000, 5_000_000)
        fits = (gap for gap in gaps if gap / self.ruler.asked.raster_hz * room >= wide + px(16))
        every = next(fits, gaps[-1])
        rows = [int(item) for item in hz[first:last]]
        low, high = bisect_left(rows, rows[0]), bisect_right(rows, rows[-1])
        for at in range(low, high):
            if rows[at] % every == 0:
                x = box.left() + (at + 0.5) * room
                painter.setPen(theme.color("ink2"))
                painter.drawLine(QPointF(x, box.bottom()), QPointF(x, box.bottom() + px(4)))
                left = min(max(x - wide / 2, box.left() - px(4)), box.right() - wide + px(4))
                painter.drawText(QPointF(left, box.bottom() + px(18)), format_mhz(rows[at]))
        words = format_mhz(int(hz[self.at]))
        painter.setPen(theme.color("violet"))
        painter.setFont(theme.font(13, weight=600, mono=True))
        wide = painter.fontMetrics().horizontalAdvance(words)
        x = box.left() + (self.at - first + 0.5) * room
        painter.drawText(QPointF(min(max(x - wide / 2, box.left()), box.right() - wide), box.top() - px(4)), words)

    def _paint_legend(self, painter: QPainter, box: QRectF) -> None:
        theme, px = self._theme, self._theme.px
        x, y = box.left(), box.bottom() + px(32)
        painter.setFont(theme.font(12))
        for state in reversed(STATES):
            painter.setPen(theme.color("line"))
            painter.setBrush(self._fill(state))
            painter.drawRect(QRectF(x, y + px(2), px(11), px(11)))
            painter.setPen(theme.color("ink2"))
            words = STATE_WORDS[state]
            painter.drawText(QPointF(x + px(16), y + px(12)), words)
            x += px(30) + painter.fontMetrics().horizontalAdvance(words)
