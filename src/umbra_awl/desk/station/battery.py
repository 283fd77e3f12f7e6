"""Hours of a battery: fed by an owned radio's capacity and currents."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, QRectF, QSize
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.estimate.battery import USABLE, BatteryError, BatteryUse, hours_of_use
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Field
from umbra_awl.desk.station.calculator import Calculator
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.asked.figure import Figure
    from umbra_awl.core.radio.profile import Profile


class ShareBar(QWidget):
    """Where the charge goes: transmit, receive, idle."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._parts: list[tuple[str, float]] = []
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(320, self._theme.px(64))

    def show_parts(self, parts: list[tuple[str, float]]) -> None:
        """Set name and mA of each part."""
        self._parts = parts
        self.setAccessibleName(
            "Charge goes to " + ", ".join(f"{name} {value:.0f} milliampere" for name, value in parts)
        )
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme, px = self._theme, self._theme.px
        total = sum(value for _name, value in self._parts)
        if not total:
            return
        painter.setFont(theme.font(12))
        x = 0.0
        for (name, value), tone in zip(self._parts, ("violet", "ok", "ink2"), strict=True):
            width = self.width() * value / total
            painter.fillRect(QRectF(x, px(6), max(width - 2, 1), px(18)), theme.color(tone))
            text = f"{name} {100 * value / total:.0f} %"
            if width > painter.fontMetrics().horizontalAdvance(text):
                painter.setPen(theme.color("ink"))
                painter.drawText(QPointF(x, px(42)), text)
            x += width


class BatteryHours(Calculator):
    """Hours of use from a battery."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        self._picture = ShareBar(theme)
        reminder = (
            f"An estimate with {USABLE:.0%} of the stated capacity; cold, age and the display take their part. "
            "Use low power where it reaches."
        )
        super().__init__(bench, theme, self._picture, reminder)

    def take_figures(self, profile: "Profile | None") -> None:
        """Its capacity and currents at the highest power."""
        battery = profile.battery if profile else None
        self.values = {
            "capacity": battery.capacity_mah if battery else 2_000.0,
            "transmit_ma": battery.transmit_ma[-1] if battery else 1_200.0,
            "receive_ma": battery.receive_ma if battery else 180.0,
            "idle_ma": battery.idle_ma if battery else 50.0,
            "transmit": 5.0,
            "receive": 20.0,
        } | {name: value for name, value in self.values.items() if name in {"transmit", "receive"}}

    def figures(self) -> "list[Figure]":
        """The hours."""
        from umbra_awl.core.asked.estimates import battery_figure

        values = self.values
        currents = (values["transmit_ma"], values["receive_ma"], values["idle_ma"])
        shares = (values["transmit"] / 100, values["receive"] / 100)
        try:
            return [battery_figure(values["capacity"], currents, shares, self.source)]
        except BatteryError:
            return []

    def show_result(self) -> list[Field]:
        """The hours."""
        values = self.values
        try:
            use: BatteryUse | None = hours_of_use(
                values["capacity"],
                values["transmit_ma"],
                values["receive_ma"],
                values["idle_ma"],
                values["transmit"] / 100,
                values["receive"] / 100,
            )
        except BatteryError as error:
            use = None
            self.result.setText(str(error))
        if use is not None:
            self.result.setText(
                f"About {use.hours:.1f} hours, drawing {use.average_ma:.0f} mA on average from {use.usable_mah:.0f} mAh."
            )
        idle = max(0.0, 100 - values["transmit"] - values["receive"])
        shares = (values["transmit"], values["receive"], idle)
        currents = (values["transmit_ma"], values["receive_ma"], values["idle_ma"])
        parts = [
            (name, current * share / 100)
            for name, current, share in zip(("transmit", "receive", "idle"), currents, shares, strict=True)
        ]
        self._picture.show_parts(parts if use else [])
        return [
            self.field("Capacity", "capacity", "mAh", 1, 1_000_000),
            self.field("Transmit", "transmit", "% of the time", 0, 100),
            self.field("at", "transmit_ma", "mA", 0, 100_000),
            self.field("Receive", "receive", "% of the time", 0, 100),
            self.field("then at", "receive_ma", "mA", 0, 100_000),
            self.field("Idle at", "idle_ma", "mA", 0, 100_000),
        ]
