"""How the ruler is painted: the whole band, a stretch of it under the lens, scale and legend."""

from bisect import bisect_left, bisect_right
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QPainter, QPolygonF

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.hotspot.place.ruler import STATES
from umbra_awl.core.hotspot.place.seek import STATE_WORDS
from umbra_awl.core.hotspot.place.terms import runs_of

if TYPE_CHECKING:
    from umbra_awl.desk.hotspots.place.ruler_picture import RulerPicture


TONES = {"forbidden": "shade", "occupied": "stop", "doubtful": "brass", "usable": "ok", "good": "ok"}


class RulerPaint:
    """Paints a ruler."""

    def __init__(self, owner: "RulerPicture") -> None:
        self._picture = owner

    def _fill(self, state: str) -> QBrush:
        if state == "forbidden":
            color = QColor(self._picture.theme.color("ink2"))
            color.setAlpha(110)
            return QBrush(color, Qt.BrushStyle.BDiagPattern)
        color = QColor(self._picture.theme.color(TONES[state]))
        if state == "usable":
            color.setAlpha(80)
        return QBrush(color)

    def paint_whole(self, painter: QPainter, box: QRectF) -> None:
        assert self._picture.ruler is not None
        theme, px, ruler = self._picture.theme, self._picture.theme.px, self._picture.ruler
        painter.setPen(Qt.PenStyle.NoPen)
        painter.fillRect(box, theme.color("sheet"))
        step = ruler.asked.raster_hz
        for first, last in runs_of(ruler.state):
            left, right = (
                self._picture.x_of(box, ruler.hz[first] - step / 2),
                self._picture.x_of(box, ruler.hz[last - 1] + step / 2),
            )
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
            x = self._picture.x_of(box, at)
            painter.drawLine(QPointF(x, box.bottom()), QPointF(x, box.bottom() + px(4)))
            words = f"{at / 1e6:g}"
            wide = painter.fontMetrics().horizontalAdvance(words)
            painter.drawText(
                QPointF(min(max(x - wide / 2, 0), self._picture.width() - wide), box.bottom() + px(17)), words
            )
            at += int(every * 1e6)
        self._paint_marks(painter, box)

    def _paint_marks(self, painter: QPainter, box: QRectF) -> None:
        """Where things stand, in words above the band; what would run into another is left out."""
        theme, px = self._picture.theme, self._picture.theme.px
        reached = 0.0
        painter.setFont(theme.font(12))
        for hz, words in sorted(self._picture.marks):
            x = self._picture.x_of(box, hz)
            painter.setPen(theme.color("violet"))
            painter.drawLine(QPointF(x, box.top() - px(4)), QPointF(x, box.bottom()))
            wide = painter.fontMetrics().horizontalAdvance(words)
            left = min(max(x - wide / 2, 0), self._picture.width() - wide)
            if left >= reached:
                painter.drawText(QPointF(left, box.top() - px(7)), words)
                reached = left + wide + px(10)

    def paint_lens(self, painter: QPainter, whole: QRectF, below: QRectF) -> None:
        assert self._picture.ruler is not None
        theme, px = self._picture.theme, self._picture.theme.px
        first, last = self._picture.span
        step = self._picture.ruler.asked.raster_hz / 2
        left, right = (
            self._picture.x_of(whole, self._picture.ruler.hz[first] - step),
            self._picture.x_of(whole, self._picture.ruler.hz[last - 1] + step),
        )
        painter.setPen(theme.color("violet"))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(left, whole.top() - 2, max(right - left, 2), whole.height() + 4))
        top = below.top() - px(18)
        painter.drawPolyline(QPolygonF([QPointF(left, whole.bottom() + px(20)), QPointF(below.left(), top)]))
        painter.drawPolyline(QPolygonF([QPointF(right, whole.bottom() + px(20)), QPointF(below.right(), top)]))

    def paint_stretch(self, painter: QPainter, box: QRectF) -> None:
        assert self._picture.ruler is not None
        theme, px, ruler = self._picture.theme, self._picture.theme.px, self._picture.ruler
        painter.setPen(theme.color("line"))
        painter.setBrush(theme.color("sheet"))
        painter.drawRoundedRect(box.adjusted(-px(6), -px(18), px(6), px(24)), 6, 6)
        first, last = self._picture.span
        room = box.width() / (last - first)
        for at in range(first, last):
            state = STATES[int(ruler.state[at])]
            height = (
                max(box.height() * int(ruler.score[at]) / 100, px(5)) if state != "forbidden" else box.height() * 0.12
            )
            left = box.left() + (at - first) * room
            bar = QRectF(left + room * 0.14, box.bottom() - height, room * 0.72, height)
            if at == self._picture.at:
                painter.fillRect(QRectF(left, box.top(), room, box.height()), theme.color("violet_tint"))
                painter.fillRect(bar, theme.color("violet"))
            else:
                painter.fillRect(bar, self._fill(state))
        painter.setPen(theme.color("ink2"))
        painter.drawLine(box.bottomLeft(), box.bottomRight())
        self._paint_scale(painter, box, first, last, room)
        if self._picture.hasFocus():
            painter.setPen(theme.color("violet"))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(-px(6), -px(18), px(6), px(24)), 6, 6)

    def _paint_scale(self, painter: QPainter, box: QRectF, first: int, last: int, room: float) -> None:
        assert self._picture.ruler is not None
        theme, px, hz = self._picture.theme, self._picture.theme.px, self._picture.ruler.hz
        painter.setFont(theme.font(12, mono=True))
        wide = painter.fontMetrics().horizontalAdvance("430.0000")
        gaps = (25_000, 50_000, 100_000, 200_000, 500_000, 1_000_000, 2_000_000, 5_000_000)
        fits = (gap for gap in gaps if gap / self._picture.ruler.asked.raster_hz * room >= wide + px(16))
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
        words = format_mhz(int(hz[self._picture.at]))
        painter.setPen(theme.color("violet"))
        painter.setFont(theme.font(13, weight=600, mono=True))
        wide = painter.fontMetrics().horizontalAdvance(words)
        x = box.left() + (self._picture.at - first + 0.5) * room
        painter.drawText(QPointF(min(max(x - wide / 2, box.left()), box.right() - wide), box.top() - px(4)), words)

    def paint_legend(self, painter: QPainter, box: QRectF) -> None:
        theme, px = self._picture.theme, self._picture.theme.px
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
