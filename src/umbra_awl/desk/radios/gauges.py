"""Gauges: how much of each of the radio's limits the plan uses."""

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.fit.report import Gauge
from umbra_awl.desk.theme.theme import Theme

_BETWEEN = 34
"""Pixels between a gauge's name and its count, and to the next gauge."""


class Gauges(QWidget):
    """One bar for each limit, so many across, fewer where their words would meet."""

    def __init__(self, theme: Theme, across: int = 3) -> None:
        super().__init__()
        self._theme = theme
        self._most = across
        self._gauges: tuple[Gauge, ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.updateGeometry)

    def show_gauges(self, gauges: tuple[Gauge, ...]) -> None:
        """Show the gauges of a fit."""
        self._gauges = gauges
        self.setAccessibleName("; ".join(f"{item.name} {item.used} of {item.limit}" for item in gauges))
        self.updateGeometry()
        self.update()

    @property
    def _across(self) -> int:
        metrics = QFontMetrics(self._theme.font(12))
        widest = max((metrics.horizontalAdvance(f"{item.name}{_counted(item)}") for item in self._gauges), default=0)
        return min(self._most, max(1, self.width() // max(widest + _BETWEEN, 1)))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.updateGeometry()

    def sizeHint(self) -> QSize:
        return QSize(300, -(-len(self._gauges) // self._across) * self._theme.px(38))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = self._theme
        across = self._across
        width = self.width() / across
        for at, gauge in enumerate(self._gauges):
            box = QRectF(at % across * width + 2, at // across * theme.px(38), width - 16, theme.px(34))
            share = min(gauge.used / gauge.limit, 1.0)
            tone = "stop" if gauge.used > gauge.limit else "brass" if share >= 0.9 else "violet"
            painter.setFont(theme.font(12))
            painter.setPen(theme.color("ink2"))
            painter.drawText(box, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop, gauge.name)
            painter.setPen(theme.color("ink"))
            painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop, _counted(gauge))
            bar = QRectF(box.left(), box.bottom() - theme.px(12), box.width(), theme.px(6))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("shade"))
            painter.drawRoundedRect(bar, 3, 3)
            painter.setBrush(theme.color(tone))
            painter.drawRoundedRect(
                QRectF(bar.left(), bar.top(), max(bar.width() * share, 3 if gauge.used else 0), bar.height()), 3, 3
            )


def _counted(gauge: Gauge) -> str:
    """How many of how many."""
    return f"{gauge.used:,} of {gauge.limit:,}" + (" – full" if gauge.used == gauge.limit else "")
