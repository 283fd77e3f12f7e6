"""How the lead-time chart is painted."""

from datetime import timedelta
from typing import TYPE_CHECKING

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QPainter, QPen

from umbra_awl.core.agenda.lead import Bar, Chart
from umbra_awl.desk.parts.thread import bead

if TYPE_CHECKING:
    from umbra_awl.desk.station.lead_chart import LeadChart


_SATURDAY = 5


NAMES = 168


HEAD = 24


class LeadPaint:
    """Paints a chart."""

    def __init__(self, owner: "LeadChart") -> None:
        self._chart = owner

    def paint_days(self, painter: QPainter, chart: Chart) -> None:
        """Weekends in shade, Mondays with their date, today as a line."""
        theme, px = self._chart.theme, self._chart.theme.px
        first, last = self._chart.span()
        bottom = px(HEAD) + len(chart.bars) * self._chart.row
        day_px = self._chart.x_of(1.0) - self._chart.x_of(0.0)
        painter.setFont(theme.font(12))
        metrics = painter.fontMetrics()
        free_from = 0.0
        for day in range(int(first), int(last) + 1):
            when = chart.today + timedelta(days=day)
            if when.weekday() == _SATURDAY and day_px > 2.5:
                painter.fillRect(
                    QRectF(self._chart.x_of(day), px(HEAD), 2 * day_px, bottom - px(HEAD)), theme.color("bg")
                )
            if when.weekday() == 0:
                x = self._chart.x_of(day)
                painter.setPen(QPen(theme.color("line"), 1))
                painter.drawLine(QLineF(x, px(HEAD) - 4, x, bottom))
                text = f"{when.day} {when:%b}"
                if x >= free_from and x + metrics.horizontalAdvance(text) < self._chart.width() - 4:
                    painter.setPen(theme.color("ink2"))
                    painter.drawText(QPointF(x + 2, px(HEAD) - 8), text)
                    free_from = x + metrics.horizontalAdvance(text) + 12
        x = self._chart.x_of(0.0)
        painter.setPen(QPen(theme.color("brass"), 1.6))
        painter.drawLine(QLineF(x, px(HEAD) - 2, x, bottom + px(6)))

    def paint_waits(self, painter: QPainter, chart: Chart, bar: Bar, at: int, places: dict[str, int]) -> None:
        """A thin elbow from each step that is waited for."""
        for key in bar.step.after:
            if key not in places:
                continue
            before = chart.bars[places[key]]
            if before.done:
                continue
            critical = bar.critical and before.critical
            painter.setPen(QPen(self._chart.theme.color("violet" if critical else "line"), 1.4 if critical else 1.0))
            x, y = self._chart.x_of(before.end), self._chart.row_box(places[key]).center().y()
            there = self._chart.row_box(at).center().y()
            painter.drawLine(QLineF(x, y, x, there))
            painter.drawLine(QLineF(x, there, self._chart.x_of(bar.start), there))

    def paint_bar(self, painter: QPainter, bar: Bar, at: int) -> None:
        theme, px = self._chart.theme, self._chart.theme.px
        box = self._chart.row_box(at)
        if bar.step.key == self._chart.current:
            painter.fillRect(QRectF(0, box.top(), px(NAMES) - 6, box.height()), theme.color("violet_tint"))
            if self._chart.hasFocus():
                painter.setPen(QPen(theme.color("violet"), 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRoundedRect(QRectF(1, box.top() + 1, px(NAMES) - 8, box.height() - 2), 4, 4)
        tone = "ok" if bar.done else "violet" if bar.critical else "ink2"
        bead_at = QPointF(px(14), box.center().y())
        bead(painter, bead_at, theme.color(tone), theme.color("panel"), filled=bar.done)
        painter.setFont(theme.font(13, weight=600 if bar.critical else 400))
        painter.setPen(theme.color("ink2" if bar.done else "ink"))
        room = px(NAMES) - px(32)
        text = painter.fontMetrics().elidedText(bar.step.name, Qt.TextElideMode.ElideRight, room)
        painter.drawText(QRectF(px(26), box.top(), room, box.height()), Qt.AlignmentFlag.AlignVCenter, text)
        self._paint_length(painter, bar, box, QColor(theme.color(tone)))

    def _paint_length(self, painter: QPainter, bar: Bar, box: QRectF, color: QColor) -> None:
        theme = self._chart.theme
        left, right = self._chart.x_of(bar.start), self._chart.x_of(bar.end)
        shape = QRectF(left, box.center().y() - 5, max(right - left, 4.0), 10)
        if not bar.done:
            painter.setPen(QPen(color, 1.2))
            longest = self._chart.x_of(bar.end + bar.step.high - bar.step.likely)
            y = box.center().y()
            painter.drawLine(QLineF(right, y, longest, y))
            painter.drawLine(QLineF(longest, y - 3, longest, y + 3))
        painter.setPen(QPen(color, 1.2))
        painter.setBrush(color if bar.critical or bar.done else theme.color("sheet"))
        painter.drawRoundedRect(shape, 3, 3)
        if bar.step.waiting and not bar.done:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QBrush(theme.color("panel" if bar.critical else "ink2"), Qt.BrushStyle.BDiagPattern))
            painter.drawRoundedRect(shape, 3, 3)
        if bar.done or bar.ready:
            painter.setFont(theme.font(12))
            painter.setPen(theme.color("ok" if bar.done else "brass"))
            text = "done" if bar.done else "now"
            width = painter.fontMetrics().horizontalAdvance(text)
            after = shape.right() if bar.done else self._chart.x_of(bar.end + bar.step.high - bar.step.likely)
            x = left - width - 6 if left - width - 6 > theme.px(NAMES) else after + 6
            painter.drawText(QRectF(x, box.top(), width + 2, box.height()), Qt.AlignmentFlag.AlignVCenter, text)

    def paint_spread(self, painter: QPainter, chart: Chart) -> None:
        """How often each day came out as the first on the air, with the days that 10, 50 and 90 of a hundred runs keep to."""
        forecast = chart.forecast
        if forecast is None:
            return
        theme, px = self._chart.theme, self._chart.theme.px
        base = px(HEAD) + len(chart.bars) * self._chart.row + px(34)
        counts: dict[int, int] = {}
        for day in forecast.draws:
            counts[day] = counts.get(day, 0) + 1
        tallest = max(counts.values())
        width = max(self._chart.x_of(1.0) - self._chart.x_of(0.0) - 1, 1.0)
        low, high = (forecast.p10 - chart.today).days, (forecast.p90 - chart.today).days
        painter.setPen(Qt.PenStyle.NoPen)
        for day, count in counts.items():
            painter.setBrush(theme.color("violet" if low <= day <= high else "line"))
            height = px(26) * count / tallest
            painter.drawRect(QRectF(self._chart.x_of(day) - width / 2, base - height, width, height))
        painter.setPen(QPen(theme.color("ink2"), 1))
        painter.drawLine(QLineF(px(NAMES), base, self._chart.width() - 14, base))
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        painter.drawText(
            QRectF(px(8), base - px(26), px(NAMES) - px(14), px(26)),
            Qt.AlignmentFlag.AlignVCenter,
            "On the air, simulated",
        )
        free = 0.0
        metrics = painter.fontMetrics()
        for when, text in ((forecast.p10, "1 in 10 by"), (forecast.p50, "half by"), (forecast.p90, "9 in 10 by")):
            words = f"{text} {when.day} {when:%b}"
            x = max(self._chart.x_of((when - chart.today).days) - metrics.horizontalAdvance(words) / 2, free)
            x = min(x, self._chart.width() - metrics.horizontalAdvance(words) - 10)
            painter.drawText(QPointF(x, base + px(14)), words)
            free = x + metrics.horizontalAdvance(words) + 12
