"""Two small calculators fed by the owned radios: distance for RF exposure, and hours of a battery."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QLineF, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.estimate.battery import USABLE, BatteryError, Use, hours_of_use
from umbra_awl.core.estimate.exposure import REMINDER, Distance, ExposureError, distances
from umbra_awl.desk.parts.fresh import Fresh
from umbra_awl.desk.parts.label_card import Choice, Commit, Field, LabelCard
from umbra_awl.desk.parts.widgets import card, column, row, words
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

if TYPE_CHECKING:
    from umbra_awl.core.fit.profile import Profile

_MODES = (("FM, D-STAR, Fusion", 1.0), ("DMR, one slot of two", 0.5))
_OF_NO_RADIO = "figures of my own"


def parse_amount(text: str, low: float, high: float, what: str) -> float:
    """A number between two others. Raises ValueError with a sentence."""
    plain = text.strip().rstrip("%").replace(",", ".")
    number = plain.split()[0] if plain.split() else ""
    try:
        value = float(number)
    except ValueError:
        raise ValueError(f"“{text}” is not {what}.") from None
    if not low <= value <= high:
        raise ValueError(f"{what[0].upper()}{what[1:]} lies between {low:g} and {high:g}.")
    return value


class Calculator(QWidget):
    """Fields at the left, a picture and the reminder at the right. Its numbers are not part of the plan."""

    def __init__(self, bench: Workbench, theme: Theme, picture: QWidget, reminder: str) -> None:
        super().__init__()
        self._bench, self._theme = bench, theme
        self.values: dict[str, float] = {}
        self.radio = ""
        line = row(self, 12)
        self.fields = LabelCard(84)
        left = column()
        left.addWidget(self.fields)
        left.addStretch(1)
        line.addLayout(left, 2)
        right = column(gap=6)
        frame = card()
        column(frame, 0, 8).addWidget(picture)
        right.addWidget(frame)
        self.result = words("", wrap=True)
        right.addWidget(self.result)
        right.addWidget(words(reminder, "second", wrap=True))
        right.addStretch(1)
        line.addLayout(right, 3)
        self.choose(next(iter(bench.index.radios), ""))
        fresh = Fresh(self, lambda: (bench.plan.radios, bench.plan.station), self.refresh)
        bench.plan_changed.connect(fresh.check)

    def choose(self, radio: str) -> None:
        """Take the figures of an owned radio."""
        self.radio = radio
        self.take_figures(self._profile())
        self.refresh()

    def _profile(self) -> "Profile | None":
        owned = self._bench.index.radios.get(self.radio)
        return self._bench.profiles.get(owned.profile) if owned is not None else None

    def take_figures(self, profile: "Profile | None") -> None:
        """Set the values from a profile."""
        raise NotImplementedError

    def show_result(self) -> list[Field]:
        """Work out the result, show it, and give the fields."""
        raise NotImplementedError

    def refresh(self) -> None:
        """Show fields and result."""
        owned = self._bench.index.radios.get(self.radio)
        radios = [
            Choice(item.name, partial(self.choose, key), key == self.radio)
            for key, item in self._bench.index.radios.items()
        ]
        first = Field(
            "Radio",
            owned.name if owned else _OF_NO_RADIO,
            choices=[*radios, Choice(_OF_NO_RADIO, partial(self.choose, ""), not owned)],
        )
        self.fields.show_fields([first, *self.show_result()])

    def field(self, label: str, name: str, unit: str, low: float, high: float, tip: str = "") -> Field:
        """A field of one value."""
        return Field(
            label,
            f"{self.values[name]:g} {unit}",
            commit=self._set(name, low, high, label),
            text=f"{self.values[name]:g}",
            tip=tip,
        )

    def _set(self, name: str, low: float, high: float, label: str) -> Commit:
        def commit(text: str) -> str:
            try:
                self.values[name] = parse_amount(text, low, high, label.lower())
            except ValueError as error:
                return str(error)
            self.refresh()
            return ""

        return commit

    def pick(self, name: str, value: float) -> Callable[[], None]:
        """Set a value by choice."""

        def does() -> None:
            self.values[name] = value
            self.refresh()

        return does


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

    def show_result(self) -> list[Field]:
        """The hours."""
        values = self.values
        try:
            use: Use | None = hours_of_use(
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
