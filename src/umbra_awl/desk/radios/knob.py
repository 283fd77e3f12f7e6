"""The radio's own memory as its owner sees it: the display, the knob, and each position with its name.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from PyQt6.QtCore import QPointF, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.modes.table import MODES
from umbra_awl.core.radio.memory import Channel
from umbra_awl.desk.parts.thread import bead
from umbra_awl.desk.theme.theme import Theme

_WITH_DIAL, _NARROWEST = 330, 230
_ACROSS = 4


class KnobView(QWidget):
    """A zone's positions, sixteen to a turn of the knob; arrow keys and clicks choose one."""

    chosen = pyqtSignal(int)
    opened = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._zone = ""
        self._channels: tuple[Channel, ...] = ()
        self._fresh: frozenset[str] = frozenset()
        self._turn = 16
        self.position = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        theme.changed.connect(self.updateGeometry)

    def show_zone(self, zone: str, channels: tuple[Channel, ...], turn: int, faults: frozenset[str]) -> None:
        """Show a zone's channels in order; `turn` is how many positions the knob has (0: it turns through them all).

        `faults` are routes with findings.
        """
        self._zone, self._channels, self._fresh = zone, channels, faults
        self._turn = turn or max(len(channels), 1)
        self.position = min(self.position, max(len(channels) - 1, 0))
        self._describe()
        self.updateGeometry()
        self.update()

    def set_position(self, position: int) -> None:
        """Turn the knob to a position, from 0."""
        if 0 <= position < len(self._channels):
            self.position = position
            self._describe()
            self.update()
            self.chosen.emit(position)

    def channel(self) -> Channel | None:
        """The channel at the knob's position."""
        return self._channels[self.position] if self._channels else None

    def _describe(self) -> None:
        channel = self.channel()
        name = channel.name if channel else "empty"
        self.setAccessibleName(f"Zone {self._zone}, position {self.position + 1} of {len(self._channels)}: {name}")

    def _across(self) -> int:
        """How many plates stand side by side: four, fewer where the names would find no room."""
        return min(_ACROSS, max(1, self.width() // self._theme.px(146)))

    @property
    def _narrow(self) -> bool:
        """Whether there is no room for the dial beside the display: the display stands alone then."""
        return self.width() < self._theme.px(_WITH_DIAL)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.updateGeometry()

    def _rows(self) -> int:
        return -(-max(len(self._channels), self._turn) // self._across())

    def sizeHint(self) -> QSize:
        px = self._theme.px
        return QSize(px(640), px(176) + self._rows() * px(50))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(_NARROWEST), self.sizeHint().height())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        steps = {
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Up: -self._across(),
            Qt.Key.Key_Down: self._across(),
        }
        step = steps.get(Qt.Key(event.key())) if event is not None else None
        if event is not None and event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.opened.emit()
        elif step is None:
            super().keyPressEvent(event)
        else:
            self.set_position(min(max(self.position + step, 0), len(self._channels) - 1))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.setFocus()
        if event is not None:
            place = event.position().toPoint()
            at = next((at for at in range(len(self._channels)) if self._plate(at).contains(place)), None)
            if at is not None:
                self.set_position(at)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        self.mousePressEvent(event)
        self.opened.emit()

    def _plate(self, at: int) -> QRect:
        px = self._theme.px
        across = self._across()
        width = (self.width() - 4) / across
        return QRect(round(at % across * width) + 2, px(172) + at // across * px(50), round(width) - 6, px(45))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not self._narrow:
            self._knob(painter)
        self._display(painter)
        for at in range(max(len(self._channels), min(self._turn, self._rows() * self._across()))):
            self._position(painter, at)

    def _knob(self, painter: QPainter) -> None:
        theme = self._theme
        px = theme.px
        centre, radius = QPointF(px(86), px(82)), px(46)
        painter.setPen(QPen(theme.color("line"), 1.4))
        painter.setBrush(theme.color("panel"))
        painter.drawEllipse(centre, radius, radius)
        painter.setFont(theme.font(12))
        for tick in range(self._turn):
            out = _on_circle(centre, radius + px(8), tick, self._turn)
            used = self.position // self._turn * self._turn + tick < len(self._channels)
            here = self.position % self._turn == tick and bool(self._channels)
            color = theme.color("violet" if here else "hole" if used else "line")
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(color)
            size = 4.5 if here else 2.6
            painter.drawEllipse(out, size, size)
            if tick % 4 == 0:
                text = _on_circle(centre, radius + px(22), tick, self._turn)
                painter.setPen(theme.color("ink2"))
                painter.drawText(
                    QRectF(text.x() - 12, text.y() - 9, 24, 18), Qt.AlignmentFlag.AlignCenter, str(tick + 1)
                )
        pointer = _on_circle(centre, radius - px(7), self.position % self._turn, self._turn)
        painter.setPen(QPen(theme.color("violet"), 3))
        painter.drawLine(centre + (pointer - centre) * 0.35, pointer)

    def _display(self, painter: QPainter) -> None:
        theme = self._theme
        px = theme.px
        left = px(4) if self._narrow else px(190)
        box = QRectF(left, px(14), min(self.width() - left - px(10), px(430)), px(140))
        painter.setPen(QPen(theme.color("line"), 1))
        painter.setBrush(theme.color("sheet"))
        painter.drawRoundedRect(box, 6, 6)
        inner = box.adjusted(px(16), px(10), -px(16), -px(10))
        painter.setFont(theme.font(13, mono=True))
        painter.setPen(theme.color("ink2"))
        painter.drawText(inner, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, self._zone)
        count = f"{self.position + 1} of {len(self._channels)}" if self._channels else "empty"
        painter.drawText(inner, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignRight, count)
        channel = self.channel()
        if channel is None:
            return
        painter.setFont(theme.font(28, mono=True, weight=600))
        painter.setPen(theme.color("ink"))
        painter.drawText(
            inner.adjusted(0, px(22), 0, 0), Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, channel.name
        )
        painter.setFont(theme.font(13, mono=True))
        painter.setPen(theme.color("ink"))
        middle = inner.adjusted(0, px(66), 0, 0)
        painter.drawText(
            middle, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, f"hears {format_mhz(channel.rx_hz)}"
        )
        sends = "sends nothing: receive-only" if channel.receive_only else f"sends {format_mhz(channel.tx_hz)}"
        painter.setPen(theme.color("brass" if channel.receive_only else "ink"))
        painter.drawText(
            middle.adjusted(0, px(20), 0, 0), Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, sends
        )
        painter.setPen(theme.color("ink2"))
        painter.drawText(
            middle, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignRight, MODES[channel.mode].said(channel)
        )

    def _position(self, painter: QPainter, at: int) -> None:
        theme, plate = self._theme, QRectF(self._plate(at))
        px = theme.px
        channel = self._channels[at] if at < len(self._channels) else None
        here = at == self.position and channel is not None
        painter.setPen(QPen(theme.color("violet" if here else "line"), 2 if here and self.hasFocus() else 1))
        painter.setBrush(theme.color("violet_tint" if here else "sheet" if channel else "bg"))
        painter.drawRoundedRect(plate, 5, 5)
        painter.setFont(theme.font(12, mono=True))
        painter.setPen(theme.color("ink2"))
        inner = plate.adjusted(px(7), px(4), -px(4), -px(4))
        painter.drawText(inner, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, str(at + 1))
        if channel is None:
            return
        body = inner.adjusted(px(23), 0, 0, 0)
        painter.setFont(theme.font(13, mono=True, weight=600 if here else 400))
        painter.setPen(theme.color("ink"))
        painter.drawText(body, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, channel.name)
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("brass" if channel.receive_only else "ink2"))
        second = "receive-only" if channel.receive_only else MODES[channel.mode].said(channel)
        painter.drawText(body, Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft, second)
        if channel.route in self._fresh:
            bead(
                painter,
                QPointF(plate.right() - px(11), plate.bottom() - px(12)),
                theme.color("stop"),
                theme.color("sheet"),
                filled=False,
            )


def _on_circle(centre: QPointF, radius: float, tick: int, turn: int) -> QPointF:
    """A point on the knob's rim: position 1 at the lower left, clockwise round to the lower right."""
    from math import cos, pi, sin

    angle = pi * (0.75 + 1.5 * tick / max(turn - 1, 1))
    return QPointF(centre.x() + radius * cos(angle), centre.y() + radius * sin(angle))
