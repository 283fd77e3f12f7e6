"""Where you may transmit: the bands as rulers, with what the plan sends where."""

from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QBrush, QFontMetrics, QPainter, QPaintEvent, QPen, QShowEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.facts.bands import SATELLITE_SEGMENTS, Band
from umbra_awl.core.facts.emissions import Emission
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.modes.table import sent_by
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.permit import band_permit
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.thread import cross
from umbra_awl.desk.theme.theme import Theme

_MARGIN = 0.12


class RulerMark(NamedTuple):
    """A frequency the plan sends on: hertz, whose input it is, whether that is allowed."""

    hz: int
    label: str
    allowed: bool


def marks_of(index: PlanIndex) -> list[RulerMark]:
    """The plan's transmit frequencies in order; one mark for each access point and frequency."""
    return index.memo("marks", lambda: _marks_of(index), ("access", "station"))


def _marks_of(index: PlanIndex) -> list[RulerMark]:
    found: dict[tuple[int, str], RulerMark] = {}
    allowed: dict[Emission, bool] = {}
    for access, service in index.all_services():
        label = access.by_call
        if access.kind == "receive":
            continue
        sent = sent_by(service)
        if sent not in allowed:
            allowed[sent] = band_permit(index.plan.station, sent).allowed
        found[service.tx_hz, label] = RulerMark(service.tx_hz, label, allowed[sent])
    return sorted(found.values())


class BandRuler(QWidget):
    """One ruler for each band in force."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        self._theme = theme
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.updateGeometry)
        self._looked_at: tuple[object, object] = (None, None)
        bench.plan_changed.connect(self._check)

    def _check(self) -> None:
        """Look at the plan anew where the ruler is seen and something it shows has changed."""
        plan = self._bench.plan
        if self.isVisible() and (plan.station is not self._looked_at[0] or plan.access is not self._looked_at[1]):
            self._looked_at = (plan.station, plan.access)
            self._refresh()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._check()

    def _refresh(self) -> None:
        marks = marks_of(self._bench.index)
        wrong = [mark for mark in marks if not mark.allowed]
        words = "; ".join(f"{mark.label} on {format_mhz(mark.hz)}" for mark in wrong)
        self.setAccessibleName(f"Band rulers. {len(marks)} transmit frequencies. Not allowed: {words or 'none'}.")
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(500, self._theme.px(92) * max(1, len(self._bench.index.bands)))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        marks = marks_of(self._bench.index)
        bands = self._bench.index.bands
        height = self._theme.px(92)
        for at, band in enumerate(bands):
            near = [mark for mark in marks if _nearest(bands, mark.hz) is band]
            self._band(painter, band, near, QRectF(8, at * height, self.width() - 16, height))

    def _band(self, painter: QPainter, band: Band, marks: list[RulerMark], box: QRectF) -> None:
        theme = self._theme
        px = theme.px
        licence = self._bench.index.owners.station.licence
        open_ = licence.granted and (not licence.bands or band.name in licence.bands)
        bar = QRectF(box.left() + px(64), box.top() + px(50), box.width() - px(72), px(18))
        self._bar(painter, band, bar, open_=open_)
        painter.setFont(theme.font(14, weight=600))
        painter.setPen(theme.color("ink"))
        painter.drawText(
            QRectF(box.left(), bar.top() - 2, px(62), bar.height() + 4), Qt.AlignmentFlag.AlignVCenter, band.name
        )
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ok" if open_ else "stop"))
        painter.drawText(QPointF(box.left(), bar.bottom() + px(16)), "yours" if open_ else "closed")
        self._labels(painter, band, marks, bar)

    def _bar(self, painter: QPainter, band: Band, bar: QRectF, *, open_: bool) -> None:
        theme = self._theme
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("shade"))
        painter.drawRoundedRect(bar, 4, 4)
        inside = QRectF(
            QPointF(_x(band, band.low_hz, bar), bar.top()), QPointF(_x(band, band.high_hz, bar), bar.bottom())
        )
        painter.setBrush(theme.color("ok_tint" if open_ else "stop_tint"))
        painter.drawRect(inside)
        for segment in SATELLITE_SEGMENTS:
            if band.holds(segment.low_hz):
                part = QRectF(
                    QPointF(_x(band, segment.low_hz, bar), bar.top()),
                    QPointF(_x(band, segment.high_hz, bar), bar.bottom()),
                )
                painter.setBrush(QBrush(theme.color("ink2"), Qt.BrushStyle.BDiagPattern))
                painter.drawRect(part)
        painter.setFont(theme.font(12, mono=True))
        painter.setPen(theme.color("ink2"))
        low, high = QFontMetrics(painter.font()), theme.px(16)
        for hz in (band.low_hz, band.high_hz):
            text = format_mhz(hz)
            painter.drawText(QPointF(_x(band, hz, bar) - low.horizontalAdvance(text) / 2, bar.bottom() + high), text)

    def _labels(self, painter: QPainter, band: Band, marks: list[RulerMark], bar: QRectF) -> None:
        """Each mark's label above the bar, on the lowest of three lines where it meets no other."""
        theme = self._theme
        painter.setFont(theme.font(12, mono=True))
        metrics = QFontMetrics(painter.font())
        line_height = theme.px(16)
        ends = [-1e9, -1e9, -1e9]
        for mark in marks:
            x = _x(band, mark.hz, bar)
            text = mark.label if mark.allowed else f"{mark.label} {format_mhz(mark.hz)}"
            width = metrics.horizontalAdvance(text)
            left = min(max(x - width / 2, bar.left() - theme.px(50)), bar.right() - width)
            level = next((at for at, end in enumerate(ends) if left > end + 8), ends.index(min(ends)))
            left = max(left, ends[level] + 8)  # where all lines are taken it stands a little beside its mark
            ends[level] = left + width
            color = theme.color("hole" if mark.allowed else "stop")
            base = bar.top() - 8 - level * line_height
            painter.setPen(QPen(color, 1.2))
            painter.drawLine(QPointF(x, base + 2), QPointF(x, bar.bottom()))
            painter.drawText(QPointF(left, base - 1), text)
            if not mark.allowed:
                cross(painter, QPointF(x, bar.center().y()), color)


def _x(band: Band, hz: int, bar: QRectF) -> float:
    """Where a frequency lies on a band's ruler, kept on the ruler with a margin beyond each edge."""
    span = band.high_hz - band.low_hz
    share = (hz - band.low_hz) / span
    return bar.left() + bar.width() * (min(max(share, -0.11), 1.11) + _MARGIN) / (1 + 2 * _MARGIN)


def _nearest(bands: tuple[Band, ...], hz: int) -> Band | None:
    return min(bands, key=lambda band: max(band.low_hz - hz, hz - band.high_hz, 0), default=None)
