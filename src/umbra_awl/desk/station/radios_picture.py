"""All radios of the plan side by side: how far to keep from each at its highest power, and how long its battery lasts."""

from typing import NamedTuple

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.estimate.battery import BatteryError, hours_of_use
from umbra_awl.core.estimate.exposure import ExposureError, distances
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.profile import Profile
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.theme.theme import Theme

_ROW, _HEAD, _NAME = 34, 26, 150
_TALK, _WORST, _MHZ = 0.5, 1.0, 435.0
_SENDS, _HEARS = 0.05, 0.20
ASSUMED = (
    "At the highest power that licence and radio allow: half the time talking on 435 MHz; 5 % sending, 20 % receiving."
)


class _Row(NamedTuple):
    """A radio's figures; None where its profile does not tell."""

    name: str
    watts: float
    keep_m: float | None
    hours: float | None


class RadiosPicture(QWidget):
    """Two bars for each radio."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench, self._theme = bench, theme
        self.rows: tuple[_Row, ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        for signal in (bench.plan_changed, bench.profiles_changed):
            signal.connect(self.refresh)
        theme.changed.connect(self.updateGeometry)
        self.refresh()

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(500), self._theme.px(_HEAD + _ROW * max(len(self.rows), 1) + 8))

    def refresh(self) -> None:
        """Work the figures out anew."""
        profiles = self._bench.profiles
        self.rows = tuple(
            self._row(radio, profiles[radio.profile]) for radio in self._bench.plan.radios if radio.profile in profiles
        )
        self.setAccessibleName("Radios. " + "; ".join(map(_said, self.rows)))
        self.updateGeometry()
        self.update()

    def _row(self, radio: OwnedRadio, profile: Profile) -> _Row:
        most = self._bench.plan.station.licence.max_watts
        highest = max(profile.power_watts, default=0.0)
        watts = min(highest, most) if most else highest
        try:
            keep: float | None = max(
                item.public_m for item in distances(watts, profile.antenna_dbi, _TALK, _WORST, _MHZ)
            )
        except (ExposureError, ValueError):
            keep = None
        battery, hours = profile.battery, None
        if battery is not None:
            try:
                hours = hours_of_use(
                    battery.capacity_mah, battery.transmit_ma[-1], battery.receive_ma, battery.idle_ma, _SENDS, _HEARS
                ).hours
            except BatteryError:
                hours = None
        return _Row(radio.name, watts, keep, hours)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter, theme, px = QPainter(self), self._theme, self._theme.px
        painter.setFont(theme.font(12))
        left, wide = px(_NAME), (self.width() - px(_NAME)) // 2
        far = max((item.keep_m or 0 for item in self.rows), default=0.0)
        long = max((item.hours or 0 for item in self.rows), default=0.0)
        painter.setPen(theme.color("ink2"))
        for at, text in enumerate(("keep people away", "battery lasts")):
            painter.drawText(QRectF(left + at * wide, 0, wide, px(_HEAD)), Qt.AlignmentFlag.AlignVCenter, text)
        for at, item in enumerate(self.rows):
            y = px(_HEAD) + at * px(_ROW)
            painter.setPen(theme.color("ink"))
            painter.drawText(QRectF(0, y, left - px(8), px(_ROW)), Qt.AlignmentFlag.AlignVCenter, item.name)
            keep = f"{item.keep_m:.2f} m at {item.watts:g} W" if item.keep_m is not None else "not told"
            hours = f"{item.hours:.1f} h" if item.hours is not None else "not told"
            self._bar(painter, QRectF(left, y, wide, px(_ROW)), (item.keep_m or 0) / (far or 1), keep, "brass")
            self._bar(painter, QRectF(left + wide, y, wide, px(_ROW)), (item.hours or 0) / (long or 1), hours, "violet")

    def _bar(self, painter: QPainter, room: QRectF, share: float, words: str, tone: str) -> None:
        theme, px = self._theme, self._theme.px
        told = painter.fontMetrics().horizontalAdvance("0.00 m at 10 W") + px(16)
        length = max(0.0, room.width() - told) * share
        painter.fillRect(QRectF(room.left(), room.top() + px(10), length, px(12)), theme.color(tone))
        painter.setPen(theme.color("ink"))
        painter.drawText(
            QRectF(room.left() + length + px(6), room.top(), told, room.height()), Qt.AlignmentFlag.AlignVCenter, words
        )


def _said(item: _Row) -> str:
    keep = f"keep {item.keep_m:.2f} m" if item.keep_m is not None else "distance not told"
    return f"{item.name}: {keep}, " + (f"{item.hours:.1f} hours" if item.hours is not None else "battery not told")
