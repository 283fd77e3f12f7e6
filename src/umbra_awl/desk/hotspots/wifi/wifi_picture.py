"""Home, phone and hotspot as three threads in time: who is on before whom, where the hotspot joins, where it breaks."""

from typing import Any

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.hotspot.wifi.rehearse import Played, RehearsalAct
from umbra_awl.desk.parts.thread import bead, cross, stitch
from umbra_awl.desk.theme.theme import Theme

_LANES = (("home_on", "home Wi-Fi"), ("sharing", "phone"), ("hotspot_on", "hotspot"))
_TEACH = "Not rehearsed yet. “Leave home” plays the next morning with a simulated home, phone and hotspot."


class WifiPicture(QWidget):
    """Shows a rehearsal as far as it was played."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.acts: tuple[RehearsalAct, ...] = ()
        self.played: tuple[Played, ...] = ()
        self.states: tuple[dict[str, Any], ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        theme.changed.connect(self.updateGeometry)
        self.setAccessibleName(f"Rehearsal. {_TEACH}")

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(500), self._theme.px(178))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(300), self._theme.px(112))

    def show_play(
        self, acts: tuple[RehearsalAct, ...], played: tuple[Played, ...], states: tuple[dict[str, Any], ...]
    ) -> None:
        """Show the acts, and what was seen at those that were played."""
        self.acts, self.played, self.states = acts, played, states
        fault = next((item.fault for item in played if item.fault), "")
        told = fault or (f"{len(played)} of {len(acts)} acts, all well" if played else _TEACH)
        self.setAccessibleName(f"Rehearsal. {told}")
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, px = self._theme, self._theme.px
        painter.setPen(theme.color("line"))
        painter.setBrush(theme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        if not self.acts:
            painter.setPen(theme.color("ink2"))
            flags = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
            painter.drawText(self.rect().adjusted(px(16), 0, -px(16), 0), flags, _TEACH)
            return
        left, wide = px(92), (self.width() - px(104)) / len(self.acts)
        for row, (field, name) in enumerate(_LANES):
            y = self._lane(row)
            painter.setFont(theme.font(13))
            painter.setPen(theme.color("ink2"))
            painter.drawText(QPointF(px(12), y + px(5)), name)
            for at in range(len(self.acts)):
                self._segment(painter, at, field, QPointF(left + at * wide, y), QPointF(left + (at + 1) * wide, y))
        self._joins(painter, left, wide)
        self._words(painter, left, wide)

    def _lane(self, row: int) -> float:
        """Where a lane is: the lower the picture, the closer they are."""
        px = self._theme.px
        gap = min((self.height() - px(62)) / 3, px(36))
        return px(20) + row * gap

    def _segment(self, painter: QPainter, at: int, field: str, start: QPointF, end: QPointF) -> None:
        """One act of one lane: solid while it is on."""
        theme = self._theme
        known = at < len(self.states)
        on = known and bool(self.states[at].get(field))
        stitch(painter, start, end, theme.color("violet" if on else "line"), solid=on)
        was = bool(self.states[at - 1].get(field)) if 0 < at <= len(self.states) else field == "home_on"
        if known and on != was:
            bead(painter, start, theme.color("violet"), theme.color("sheet"), filled=on)

    def _joins(self, painter: QPainter, left: float, wide: float) -> None:
        """Where the hotspot is joined: a line to whom; a cross where it broke."""
        theme = self._theme
        for at, state in enumerate(self.states):
            middle = left + (at + 0.5) * wide
            if state.get("joined"):
                top = self._lane(1 if state.get("listed") else 0)
                stitch(painter, QPointF(middle, top), QPointF(middle, self._lane(2)), theme.color("ok"), solid=True)
            if at < len(self.played) and self.played[at].fault:
                cross(painter, QPointF(middle, self._lane(2)), theme.color("stop"))

    def _words(self, painter: QPainter, left: float, wide: float) -> None:
        theme, px = self._theme, self._theme.px
        painter.setFont(theme.font(12))
        for at, act in enumerate(self.acts):
            tone = "ink2" if at >= len(self.played) else "stop" if self.played[at].fault else "ink"
            painter.setPen(theme.color(tone))
            box = QRectF(left + at * wide + 2, self._lane(2) + px(12), wide - px(6), px(60))
            painter.drawText(box, int(Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap), act.words)
