"""How far to stay from an antenna: fed by an owned radio, against two public limit sets."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QLineF, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.estimate.exposure import REMINDER, Distance, ExposureError, distances
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Choice, Field
from umbra_awl.desk.station.calculator import Calculator
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.asked.figure import Figure
    from umbra_awl.core.radio.profile import Profile

_MODES = (("FM, D-STAR, Fusion", 1.0), ("DMR, one slot of two", 0.5))


class DistancePicture(QWidget):
    """An antenna, and how far to stay from it by each limit set, on one scale in metres."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._found: list[Distance] = []
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(320, self._theme.px(112))

    def show_distances(self, found: list[Distance]) -> None:
        """Set what is drawn."""
        self._found = found
        said = "; ".join(f"{item.limits.name}: {item.public_m:.2f} m for the public" for item in found)
        self.setAccessibleName(f"Distances. {said}")
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, px = self._theme, self._theme.px
        most = max((item.public_m for item in self._found), default=0.0)
        if not most:
            return
        left, right = px(120.0), self.width() - px(96.0)
        painter.setFont(theme.font(12))
        for at, item in enumerate(self._found):
            y = px(26.0) + at * px(44.0)
            painter.setPen(theme.color("ink"))
            painter.drawText(QRectF(0, y - 10, left - 14, 20), Qt.AlignmentFlag.AlignVCenter, item.limits.name)
            painter.setPen(QPen(theme.color("hole"), 2))
            painter.drawLine(QLineF(left, y - 13, left, y + 13))
            for metres, tone, word, lift in (
                (item.public_m, "brass", "public", -5),
                (item.controlled_m, "ink2", "aware", 7),
            ):
                x = left + (right - left) * metres / most
                painter.setPen(QPen(theme.color(tone), 5 if lift < 0 else 3))
                painter.drawLine(QPointF(left + 2, y + lift), QPointF(x, y + lift))
                painter.setPen(theme.color("ink" if lift < 0 else "ink2"))
                painter.drawText(QPointF(x + 6, y + lift + 4), f"{metres:.2f} m {word}")


class Exposure(Calculator):
    """Minimum distance from an antenna."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        self._picture = DistancePicture(theme)
        super().__init__(bench, theme, self._picture, REMINDER)

    def take_figures(self, profile: "Profile | None") -> None:
        """Its highest power and its antenna; half the time talking on 70 cm."""
        watts = profile.power_watts[-1] if profile else 10.0
        most = self._bench.plan.station.licence.max_watts
        gain = profile.antenna_dbi if profile else 2.15
        self.values = {
            "watts": min(watts, most) if most else watts,
            "gain": gain,
            "talk": 50.0,
            "mode": 1.0,
            "mhz": 435.0,
        } | {name: value for name, value in self.values.items() if name in {"talk", "mode", "mhz"}}

    def figures(self) -> "list[Figure]":
        """The distance to keep."""
        from umbra_awl.core.asked.estimates import exposure_figure

        values = self.values
        try:
            return [
                exposure_figure(
                    values["watts"], values["gain"], values["talk"] / 100, values["mode"], values["mhz"], self.source
                )
            ]
        except ExposureError:
            return []

    def show_result(self) -> list[Field]:
        """The distances by both limit sets."""
        values = self.values
        try:
            found = distances(values["watts"], values["gain"], values["talk"] / 100, values["mode"], values["mhz"])
        except ExposureError as error:
            found = []
            self.result.setText(str(error))
        else:
            far = max(found, key=lambda item: item.public_m)
            self.result.setText(
                f"Keep people {far.public_m:.2f} m from the antenna ({far.limits.source}: {far.public_w_m2:.2f} W/m²)."
            )
        self._picture.show_distances(found)
        modes = [Choice(text, self.pick("mode", share), share == values["mode"]) for text, share in _MODES]
        shown = next(text for text, share in _MODES if share == values["mode"])
        return [
            self.field("Power", "watts", "W at the antenna", 0, 10_000),
            self.field("Gain", "gain", "dBi", -20, 40, "A dipole has 2.15 dBi, a short handheld antenna about −3"),
            self.field("Talking", "talk", "% of the time", 0, 100, "Within the averaging time of 6 or 30 minutes"),
            Field("Mode", shown, choices=modes),
            self.field("Frequency", "mhz", "MHz", 30, 2_000),
        ]
