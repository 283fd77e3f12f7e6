"""The lead-time chart: what must be obtained, what waits for what, and the spread of the first day on the air."""

from datetime import date, timedelta

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.agenda.lead import Bar, Chart, day_words
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.station.lead_paint import HEAD, NAMES, LeadPaint
from umbra_awl.desk.theme.theme import Theme

_LEAST_ROW, _MOST_ROW = 17, 25
_FOOT = 52
_LEAST_DAYS = 14


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
        self.paint = LeadPaint(self)
        self.theme = theme
        self.chart: Chart | None = None
        self.current = ""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMouseTracking(True)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(700, self.theme.px(HEAD + _MOST_ROW * self._rows() + _FOOT))

    def minimumSizeHint(self) -> QSize:
        return QSize(300, self.theme.px(HEAD + _LEAST_ROW * self._rows() + _FOOT))

    def _rows(self) -> int:
        return len(self.chart.bars) if self.chart and self.chart.bars else 4

    @property
    def row(self) -> float:
        """How high a row is, in pixels: as much as there is room for."""
        px = self.theme.px
        room = (self.height() - px(HEAD) - px(_FOOT)) / self._rows()
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

    def span(self) -> tuple[float, float]:
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

    def x_of(self, day: float) -> float:
        first, last = self.span()
        left, right = self.theme.px(NAMES), self.width() - 14.0
        return left + (right - left) * (min(max(day, first), last) - first) / (last - first)

    def row_box(self, at: int) -> QRectF:
        px = self.theme.px
        return QRectF(0, px(HEAD) + at * self.row, self.width(), self.row)

    def _at(self, y: float) -> int | None:
        rows = len(self.chart.bars) if self.chart else 0
        at = int((y - self.theme.px(HEAD)) // self.row)
        return at if 0 <= at < rows and y >= self.theme.px(HEAD) else None

    # painting

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        chart = self.chart
        if chart is None or not chart.bars:
            return
        self.paint.paint_days(painter, chart)
        places = {bar.step.key: at for at, bar in enumerate(chart.bars)}
        for at, bar in enumerate(chart.bars):
            self.paint.paint_waits(painter, chart, bar, at, places)
        for at, bar in enumerate(chart.bars):
            self.paint.paint_bar(painter, bar, at)
        self.paint.paint_spread(painter, chart)

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
