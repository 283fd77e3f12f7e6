"""The calibration curve: bit error rate against offset, readings with their uncertainty, the centre's interval, what is next."""

import math

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.hotspot.calibrate.following import Advice
from umbra_awl.core.hotspot.calibrate.model import centers
from umbra_awl.core.plan.model import Reading
from umbra_awl.desk.parts.thread import bead, cross
from umbra_awl.desk.theme.theme import Theme

_RATES = ((0.001, "0.1 %"), (0.01, "1 %"), (0.03, "3 %"), (0.05, "5 %"), (0.1, "10 %"), (0.3, "30 %"))
_LOW, _HIGH = 0.0004, 0.5
_CLEAN, _ROBOTIC = 0.01, 0.03


class CurvePicture(QWidget):
    """Shows the readings of one side and what they say."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.readings: tuple[Reading, ...] = ()
        self.advice: Advice | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Calibration curve: no reading yet")

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(560), self._theme.px(320))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(300), self._theme.px(200))

    def show_advice(self, readings: tuple[Reading, ...], advice: Advice | None) -> None:
        """Show other readings."""
        self.readings, self.advice = readings, advice
        told = advice.words if advice is not None else "being worked out"
        self.setAccessibleName(f"Calibration curve of {counted(len(readings), 'reading')}. {told}")
        self.update()

    def _box(self) -> QRectF:
        px = self._theme.px
        return QRectF(px(58), px(22), max(self.width() - px(74), 20), max(self.height() - px(66), 20))

    def _span(self) -> tuple[float, float]:
        """The offsets that are shown, in hertz."""
        offsets: list[float] = [item.offset_hz for item in self.readings]
        if self.advice is not None:
            offsets += [self.advice.estimate.low_hz, self.advice.estimate.high_hz, self.advice.offset_hz or 0]
        low, high = min(offsets, default=-1_000), max(offsets, default=1_000)
        room = max((high - low) * 0.12, 250)
        return low - room, high + room

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, box, span = self._theme, self._box(), self._span()
        painter.setPen(theme.color("line"))
        painter.setBrush(theme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        self._paint_scale(painter, box, span)
        if self.advice is None or not self.readings:
            painter.setPen(theme.color("ink2"))
            painter.setFont(theme.font(13))
            words = "Readings stand here as points: bit error rate upwards, offset to the sides. The lowest place is sought."
            flags = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
            painter.drawText(box.adjusted(20, 0, -20, 0), flags, words)
            return
        self._paint_interval(painter, box, span)
        self._paint_curve(painter, box, span)
        self._paint_readings(painter, box, span)
        self._paint_next(painter, box, span)

    @staticmethod
    def _x(box: QRectF, span: tuple[float, float], hz: float) -> float:
        return box.left() + (hz - span[0]) / (span[1] - span[0]) * box.width()

    @staticmethod
    def _y(box: QRectF, rate: float) -> float:
        part = math.log(min(max(rate, _LOW), _HIGH) / _LOW) / math.log(_HIGH / _LOW)
        return box.bottom() - part * box.height()

    def _paint_scale(self, painter: QPainter, box: QRectF, span: tuple[float, float]) -> None:
        theme, px = self._theme, self._theme.px
        painter.setFont(theme.font(12))
        for rate, words in _RATES:
            y = self._y(box, rate)
            painter.setPen(QPen(theme.color("line"), 1))
            painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
            painter.setPen(theme.color("ink2"))
            flags = int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
            painter.drawText(QRectF(0, y - px(9), box.left() - px(6), px(18)), flags, words)
        for rate, words in ((_CLEAN, "clean below"), (_ROBOTIC, "robotic above")):
            painter.drawText(
                QPointF(box.right() - painter.fontMetrics().horizontalAdvance(words), self._y(box, rate) - 3), words
            )
        gaps = (50, 100, 200, 500, 1_000, 2_000)
        every = next((gap for gap in gaps if (span[1] - span[0]) / gap * px(62) <= box.width()), gaps[-1])
        at = math.ceil(span[0] / every) * every
        while at <= span[1]:
            x = self._x(box, span, at)
            painter.drawLine(QPointF(x, box.bottom()), QPointF(x, box.bottom() + px(4)))
            words = f"{at:+d}" if at else "0"
            painter.drawText(
                QPointF(x - painter.fontMetrics().horizontalAdvance(words) / 2, box.bottom() + px(18)), words
            )
            at += every
        painter.drawText(QPointF(px(8), px(16)), "bit error rate")
        words = "offset in Hz"
        painter.drawText(
            QPointF(box.right() - painter.fontMetrics().horizontalAdvance(words), box.bottom() + px(36)), words
        )

    def _paint_interval(self, painter: QPainter, box: QRectF, span: tuple[float, float]) -> None:
        assert self.advice is not None
        theme, px, found = self._theme, self._theme.px, self.advice.estimate
        left = max(self._x(box, span, found.low_hz), box.left())
        right = min(self._x(box, span, found.high_hz), box.right())
        painter.fillRect(QRectF(left, box.top(), max(right - left, 2), box.height()), theme.color("violet_tint"))
        if found.readings and found.half_hz < 1_500:
            x = self._x(box, span, found.center_hz)
            painter.setPen(QPen(theme.color("violet"), 1.5))
            painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
            words = f"{round(found.center_hz):+d} Hz, ± {round(found.half_hz)}"
            painter.setFont(theme.font(13, weight=600))
            wide = painter.fontMetrics().horizontalAdvance(words)
            painter.drawText(QPointF(min(max(x - wide / 2, box.left()), box.right() - wide), box.top() - px(6)), words)

    def _paint_curve(self, painter: QPainter, box: QRectF, span: tuple[float, float]) -> None:
        assert self.advice is not None
        if not any(item.bits for item in self.readings):
            return
        found = self.advice.estimate
        points = QPolygonF()
        for hz, rate in zip(centers(), found.curve, strict=True):
            if span[0] <= hz <= span[1]:
                points.append(QPointF(self._x(box, span, float(hz)), self._y(box, float(rate))))
        painter.setPen(QPen(self._theme.color("ok"), 2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(points)

    def _paint_readings(self, painter: QPainter, box: QRectF, span: tuple[float, float]) -> None:
        assert self.advice is not None
        theme, px = self._theme, self._theme.px
        counted = [item for item in self.readings if not item.left_out]
        wrong = {id(counted[at]) for at in self.advice.estimate.wrong if at < len(counted)}
        for item in self.readings:
            x = self._x(box, span, item.offset_hz)
            if not item.bits:
                painter.setPen(theme.color("ink2"))
                painter.setFont(theme.font(12))
                above = QRectF(x - px(30), box.top() + px(2), px(60), px(16))
                painter.drawText(above, Qt.AlignmentFlag.AlignCenter, "nothing")
                cross(painter, QPointF(x, box.top() + px(24)), theme.color("ink2"))
                continue
            rate = item.errors / item.bits
            spread = math.sqrt(max(rate * (1 - rate), 1 / item.bits) / item.bits) * 1.64
            y = self._y(box, rate)
            tone = "stop" if id(item) in wrong else "ink2" if item.left_out else "ink"
            painter.setPen(QPen(theme.color(tone), 1.4))
            painter.drawLine(QPointF(x, self._y(box, rate - spread)), QPointF(x, self._y(box, rate + spread)))
            bead(painter, QPointF(x, y), theme.color(tone), theme.color("sheet"), filled=not item.left_out)
            if id(item) in wrong:
                painter.setFont(theme.font(12))
                painter.drawText(QPointF(x + px(9), y + px(4)), "does not go with the others")

    def _paint_next(self, painter: QPainter, box: QRectF, span: tuple[float, float]) -> None:
        assert self.advice is not None
        if self.advice.offset_hz is None:
            return
        theme, px = self._theme, self._theme.px
        x = self._x(box, span, self.advice.offset_hz)
        pen = QPen(theme.color("brass"), 1.6, Qt.PenStyle.DashLine)
        painter.setPen(pen)
        painter.drawLine(QPointF(x, box.top() + px(10)), QPointF(x, box.bottom()))
        painter.setFont(theme.font(12, weight=600))
        words = "try next"
        wide = painter.fontMetrics().horizontalAdvance(words)
        painter.drawText(QPointF(min(max(x + 4, box.left()), box.right() - wide), box.bottom() - px(6)), words)
