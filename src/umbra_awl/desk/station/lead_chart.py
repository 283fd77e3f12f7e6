"""The lead-time chart: what must be obtained, what waits for what, and the spread of the first day on the air."""

from datetime import date, timedelta

from PyQt6.QtCore import QLineF, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.agenda.lead import Bar, Chart, day_words
from umbra_awl.desk.parts.thread import bead
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.theme.theme import Theme

_LEAST_ROW, _MOST_ROW = 17, 25
_HEAD = 24
_FOOT = 52
_NAMES = 168
_LEAST_DAYS = 14
_SATURDAY = 5


def said(bar: Bar, today: date) -> str:
    """One step in words, for a screen reader and tool tips."""
    if bar.done:
        return f"{bar.step.name}: done on {bar.step.done}"
    begins, ends = (today + timedelta(days=int(value)) for value in (bar.start, max(bar.start, bar.end - 1e-9)))
    path = "on the critical path" if bar.critical else f"{bar.slack:.0f} days to spare"
    now = ", can go on now" if bar.ready else ""
    return f"{bar.step.name}: {day_words(begins)} to {day_words(ends)}, {path}{now}"


class LeadChart(QWidget):
    """Shows a chart; says which step was chosen, and asks for edits."""

    chosen = pyqtSignal(str)
    edit_asked = pyqtSignal()
    toggled = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.chart: Chart | None = None
        self.current = ""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMouseTracking(True)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(700, self._theme.px(_HEAD + _MOST_ROW * self._rows() + _FOOT))

    def minimumSizeHint(self) -> QSize:
        return QSize(300, self._theme.px(_HEAD + _LEAST_ROW * self._rows() + _FOOT))

    def _rows(self) -> int:
        return len(self.chart.bars) if self.chart and self.chart.bars else 4

    @property
    def _row(self) -> float:
        """How high a row is, in pixels: as much as there is room for."""
        px = self._theme.px
        room = (self.height() - px(_HEAD) - px(_FOOT)) / self._rows()
        return min(max(room, float(px(_LEAST_ROW))), float(px(_MOST_ROW)))

    def show_chart(self, chart: Chart) -> None:
        """Set what is shown; the current step stays current."""
        self.chart = chart
        if self.current not in {bar.step.key for bar in chart.bars}:
            self.current = next(
                (bar.step.key for bar in chart.bars if bar.ready), chart.bars[0].step.key if chart.bars else ""
            )
        self._describe()
        self.updateGeometry()
        self.update()

    def _describe(self) -> None:
        chart = self.chart
        if chart is None or not chart.bars:
            self.setAccessibleName("Lead-time chart, empty")
            return
        now = next((said(bar, chart.today) for bar in chart.bars if bar.step.key == self.current), "")
        self.setAccessibleName(
            f"Lead-time chart. {now}. Up and down choose a step, Enter edits it, Space marks it done."
        )

    def choose(self, key: str) -> None:
        """Make a step the current one."""
        if key != self.current:
            self.current = key
            self._describe()
            self.update()
            self.chosen.emit(key)

    # geometry

    def _span(self) -> tuple[float, float]:
        """First and last day shown, from today."""
        chart = self.chart
        if chart is None or not chart.bars:
            return 0.0, float(_LEAST_DAYS)
        open_bars = [bar for bar in chart.bars if not bar.done] or list(chart.bars)
        first = min(0.0, *(bar.start for bar in open_bars)) - 1
        last = max(bar.end for bar in chart.bars)
        if chart.forecast is not None:
            last = max(last, (chart.forecast.p90 - chart.today).days + 4.0)
        return first, max(last + 2, first + _LEAST_DAYS)

    def _x(self, day: float) -> float:
        first, last = self._span()
        left, right = self._theme.px(_NAMES), self.width() - 14.0
        return left + (right - left) * (min(max(day, first), last) - first) / (last - first)

    def _row_box(self, at: int) -> QRectF:
        px = self._theme.px
        return QRectF(0, px(_HEAD) + at * self._row, self.width(), self._row)

    def _at(self, y: float) -> int | None:
        rows = len(self.chart.bars) if self.chart else 0
        at = int((y - self._theme.px(_HEAD)) // self._row)
        return at if 0 <= at < rows and y >= self._theme.px(_HEAD) else None

    # painting

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        chart = self.chart
        if chart is None or not chart.bars:
            return
        self._paint_days(painter, chart)
        places = {bar.step.key: at for at, bar in enumerate(chart.bars)}
        for at, bar in enumerate(chart.bars):
            self._paint_waits(painter, chart, bar, at, places)
        for at, bar in enumerate(chart.bars):
            self._paint_bar(painter, bar, at)
        self._paint_spread(painter, chart)

    def _paint_days(self, painter: QPainter, chart: Chart) -> None:
        """Weekends in shade, Mondays with their date, today as a line."""
        theme, px = self._theme, self._theme.px
        first, last = self._span()
        bottom = px(_HEAD) + len(chart.bars) * self._row
        day_px = self._x(1.0) - self._x(0.0)
        painter.setFont(theme.font(12))
        metrics = painter.fontMetrics()
        free_from = 0.0
        for day in range(int(first), int(last) + 1):
            when = chart.today + timedelta(days=day)
            if when.weekday() == _SATURDAY and day_px > 2.5:
                painter.fillRect(QRectF(self._x(day), px(_HEAD), 2 * day_px, bottom - px(_HEAD)), theme.color("bg"))
            if when.weekday() == 0:
                x = self._x(day)
                painter.setPen(QPen(theme.color("line"), 1))
                painter.drawLine(QLineF(x, px(_HEAD) - 4, x, bottom))
                text = f"{when.day} {when:%b}"
                if x >= free_from and x + metrics.horizontalAdvance(text) < self.width() - 4:
                    painter.setPen(theme.color("ink2"))
                    painter.drawText(QPointF(x + 2, px(_HEAD) - 8), text)
                    free_from = x + metrics.horizontalAdvance(text) + 12
        x = self._x(0.0)
        painter.setPen(QPen(theme.color("brass"), 1.6))
        painter.drawLine(QLineF(x, px(_HEAD) - 2, x, bottom + px(6)))

    def _paint_waits(self, painter: QPainter, chart: Chart, bar: Bar, at: int, places: dict[str, int]) -> None:
        """A thin elbow from each step that is waited for."""
        for key in bar.step.after:
            if key not in places:
                continue
            before = chart.bars[places[key]]
            if before.done:
                continue
            critical = bar.critical and before.critical
            painter.setPen(QPen(self._theme.color("violet" if critical else "line"), 1.4 if critical else 1.0))
            x, y = self._x(before.end), self._row_box(places[key]).center().y()
            there = self._row_box(at).center().y()
            painter.drawLine(QLineF(x, y, x, there))
            painter.drawLine(QLineF(x, there, self._x(bar.start), there))

    def _paint_bar(self, painter: QPainter, bar: Bar, at: int) -> None:
        theme, px = self._theme, self._theme.px
        box = self._row_box(at)
        if bar.step.key == self.current:
            painter.fillRect(QRectF(0, box.top(), px(_NAMES) - 6, box.height()), theme.color("violet_tint"))
            if self.hasFocus():
                painter.setPen(QPen(theme.color("violet"), 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRoundedRect(QRectF(1, box.top() + 1, px(_NAMES) - 8, box.height() - 2), 4, 4)
        tone = "ok" if bar.done else "violet" if bar.critical else "ink2"
        bead_at = QPointF(px(14), box.center().y())
        bead(painter, bead_at, theme.color(tone), theme.color("panel"), filled=bar.done)
        painter.setFont(theme.font(13, weight=600 if bar.critical else 400))
        painter.setPen(theme.color("ink2" if bar.done else "ink"))
        room = px(_NAMES) - px(32)
        text = painter.fontMetrics().elidedText(bar.step.name, Qt.TextElideMode.ElideRight, room)
        painter.drawText(QRectF(px(26), box.top(), room, box.height()), Qt.AlignmentFlag.AlignVCenter, text)
        self._paint_length(painter, bar, box, QColor(theme.color(tone)))

    def _paint_length(self, painter: QPainter, bar: Bar, box: QRectF, color: QColor) -> None:
        theme = self._theme
        left, right = self._x(bar.start), self._x(bar.end)
        shape = QRectF(left, box.center().y() - 5, max(right - left, 4.0), 10)
        if not bar.done:
            painter.setPen(QPen(color, 1.2))
            longest = self._x(bar.end + bar.step.high - bar.step.likely)
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
            after = shape.right() if bar.done else self._x(bar.end + bar.step.high - bar.step.likely)
            x = left - width - 6 if left - width - 6 > theme.px(_NAMES) else after + 6
            painter.drawText(QRectF(x, box.top(), width + 2, box.height()), Qt.AlignmentFlag.AlignVCenter, text)

    def _paint_spread(self, painter: QPainter, chart: Chart) -> None:
        """How often each day came out as the first on the air, with the days that 10, 50 and 90 of a hundred runs keep to."""
        forecast = chart.forecast
        if forecast is None:
            return
        theme, px = self._theme, self._theme.px
        base = px(_HEAD) + len(chart.bars) * self._row + px(34)
        counts: dict[int, int] = {}
        for day in forecast.draws:
            counts[day] = counts.get(day, 0) + 1
        tallest = max(counts.values())
        width = max(self._x(1.0) - self._x(0.0) - 1, 1.0)
        low, high = (forecast.p10 - chart.today).days, (forecast.p90 - chart.today).days
        painter.setPen(Qt.PenStyle.NoPen)
        for day, count in counts.items():
            painter.setBrush(theme.color("violet" if low <= day <= high else "line"))
            height = px(26) * count / tallest
            painter.drawRect(QRectF(self._x(day) - width / 2, base - height, width, height))
        painter.setPen(QPen(theme.color("ink2"), 1))
        painter.drawLine(QLineF(px(_NAMES), base, self.width() - 14, base))
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        painter.drawText(
            QRectF(px(8), base - px(26), px(_NAMES) - px(14), px(26)),
            Qt.AlignmentFlag.AlignVCenter,
            "On the air, simulated",
        )
        free = 0.0
        metrics = painter.fontMetrics()
        for when, text in ((forecast.p10, "1 in 10 by"), (forecast.p50, "half by"), (forecast.p90, "9 in 10 by")):
            words = f"{text} {when.day} {when:%b}"
            x = max(self._x((when - chart.today).days) - metrics.horizontalAdvance(words) / 2, free)
            x = min(x, self.width() - metrics.horizontalAdvance(words) - 10)
            painter.drawText(QPointF(x, base + px(14)), words)
            free = x + metrics.horizontalAdvance(words) + 12

    # hands

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        at = self._at(event.position().y()) if event is not None else None
        if at is not None and self.chart is not None:
            self.choose(self.chart.bars[at].step.key)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        at = self._at(event.position().y()) if event is not None else None
        chart = self.chart
        set_tip(
            self,
            f"{said(chart.bars[at], chart.today)}. {chart.bars[at].step.needs}" if chart and at is not None else "",
        )

    def mouseDoubleClickEvent(self, _event: QMouseEvent | None) -> None:
        self.edit_asked.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        chart = self.chart
        keys = [bar.step.key for bar in chart.bars] if chart else []
        if event is None or not keys:
            return
        at = keys.index(self.current) if self.current in keys else 0
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if step is not None:
            self.choose(keys[min(max(at + step, 0), len(keys) - 1)])
        elif event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2}:
            self.edit_asked.emit()
        elif event.key() == Qt.Key.Key_Space:
            self.toggled.emit(keys[at])
        else:
            super().keyPressEvent(event)
