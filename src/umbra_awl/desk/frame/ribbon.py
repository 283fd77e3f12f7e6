"""The trace ribbon along the bottom: the path of the selected route, hop by hop, with the first broken hop marked."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QHelpEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.typing import broken
from umbra_awl.desk.parts.thread import bead, cross, stitch
from umbra_awl.desk.parts.tips import show_tip
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.trace.model import Hop

_LINE = 15
_NOTHING = "Select a punched crossing, and its key-up is followed here from you to the far listeners."


class Ribbon(QWidget):
    """Follows the workbench's selection."""

    opened = pyqtSignal()

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        self._theme = theme
        self._hops: tuple[Hop, ...] = ()
        self._nothing = _NOTHING
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        for signal in (bench.selection_changed, bench.results_changed, bench.radio_changed, bench.plan_changed):
            signal.connect(self.refresh)
        self.refresh()

    def sizeHint(self) -> QSize:
        return QSize(600, self._theme.px(56 + _LINE * (self._lines() - 1)))

    def _lines(self) -> int:
        """How many lines the longest text of a hop takes: one, or two in a narrow window."""
        metrics, width = QFontMetrics(self._theme.font(12)), self._width() - 8
        return 2 if any(metrics.horizontalAdvance(hop.text) > width for hop in self._hops) else 1

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.updateGeometry()

    def refresh(self) -> None:
        """Trace the selection anew."""
        trace = self._bench.trace()
        if trace is not None:
            self._hops = trace.hops
        elif self._bench.route is None or not self._bench.index.radios:
            self._hops = ()
            self._nothing = (
                _NOTHING if self._bench.index.radios else "Add a radio at Radios, and key-ups are followed here."
            )
        broken = trace.broken if trace is not None else None
        path = ". ".join(f"{hop.title}: {hop.text}" for hop in self._hops)
        self.setAccessibleName(f"Trace. {path or self._nothing}" + (f". Stops at {broken.title}" if broken else ""))
        self.updateGeometry()
        self.update()

    def hops(self) -> "tuple[Hop, ...]":
        """The hops shown now."""
        return self._hops

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A press opens the trace in full."""
        if event is not None and event.button() == Qt.MouseButton.LeftButton and self._hops:
            self.opened.emit()

    def _width(self) -> float:
        return (self.width() - 40) / max(len(self._hops), 1)

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip and self._hops:
            at = min(max(int((event.pos().x() - 14) / self._width()), 0), len(self._hops) - 1)
            hop = self._hops[at]
            show_tip(event.globalPos(), f"{hop.text}. {hop.detail}" if hop.detail else hop.text, self)
            return True
        return super().event(event)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = self._theme
        painter.fillRect(self.rect(), theme.color("panel"))
        painter.fillRect(0, 0, self.width(), 1, theme.color("line"))
        if not self._hops:
            painter.setFont(theme.font(13))
            painter.setPen(theme.color("ink2"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self._nothing)
            return
        y = theme.px(13)
        for at in range(len(self._hops) - 1):
            self._paint_thread(painter, at, y)
        for at, hop in enumerate(self._hops):
            self._paint_hop(painter, at, hop, y)

    def _paint_thread(self, painter: QPainter, at: int, y: int) -> None:
        passed = self._hops[at].state == "pass" and self._hops[at + 1].state != "dark"
        start = QPointF(30 + at * self._width() + 10, y)
        end = QPointF(30 + (at + 1) * self._width() - 10, y)
        stitch(painter, start, end, self._theme.color("ok" if passed else "line"), solid=passed)

    def _paint_hop(self, painter: QPainter, at: int, hop: "Hop", y: int) -> None:
        theme = self._theme
        x = 30 + at * self._width()
        color = theme.color({"pass": "ok", "stop": "stop", "dark": "ink2"}[hop.state])
        if hop.state == "stop":
            cross(painter, QPointF(x, y), color)
        else:
            bead(painter, QPointF(x, y), color, theme.color("panel"), filled=hop.state == "pass")
        left, width = x - 8, self._width() - 8
        painter.setFont(theme.font(13, weight=600))
        painter.setPen(color)
        title = f"{hop.title} – stops here" if hop.state == "stop" else hop.title
        self._line(painter, QRectF(left, y + theme.px(7), width, theme.px(18)), title)
        painter.setFont(theme.font(12))
        painter.setPen(color if hop.state == "stop" else theme.color("ink2"))
        for line, text in enumerate(self._broken(hop.text, int(width))):
            self._line(painter, QRectF(left, y + theme.px(23 + _LINE * line), width, theme.px(18)), text)

    def _broken(self, text: str, width: int) -> list[str]:
        """A text in one line or two; what does not fit into two is cut, and the tool tip has it whole."""
        lines = broken(text, QFontMetrics(self._theme.font(12)), width).split("\n")
        return [lines[0], " ".join(lines[1:])] if lines[1:] else lines

    @staticmethod
    def _line(painter: QPainter, box: QRectF, text: str) -> None:
        shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(box.width()))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, shown)
