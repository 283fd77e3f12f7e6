"""The chain of a key-up, drawn across the page: a large hole for each hop on one thread, under it what it says and looks at."""

from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.trace.model import Hop
from umbra_awl.desk.parts.thread import stitch
from umbra_awl.desk.parts.wrap import in_lines
from umbra_awl.desk.routes.thread_column import HopLine
from umbra_awl.desk.theme.theme import Theme

_CARD, _GAP, _RADIUS, _TOP, _PAD = 168, 12, 13, 24, 10
_WRAP = in_lines(Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignTop)
_TONES = {"pass": "ok", "stop": "stop", "dark": "ink2"}


class _Line(NamedTuple):
    """A text of a card: its size, weight and tone."""

    text: str
    size: int
    weight: int
    tone: str


class TraceChain(QWidget):
    """Shows hops, as many beside each other as there is room for; its height follows from its width."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._hops: tuple[tuple[Hop, str], ...] = ()
        self._empty = ""
        policy = QSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)
        theme.changed.connect(self.updateGeometry)

    def show_hops(self, hops: Sequence[tuple[Hop, str]], empty: str = "") -> None:
        """Show hops with what each looks at, or a text where there are none."""
        self._hops, self._empty = tuple(hops), empty
        told = [
            f"{hop.title}{', stops here' if hop.state == 'stop' else ''}: {hop.text}"
            + (f". You notice: {hop.notice}" if hop.notice else "")
            for hop, _checks in hops
        ]
        self.setAccessibleName(". ".join(told) or empty)
        self.updateGeometry()
        self.update()

    def rows(self) -> tuple[HopLine, ...]:
        """The hops shown now: state, title, text, detail."""
        return tuple((hop.state, hop.title, hop.text, hop.detail) for hop, _checks in self._hops)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return sum(self._heights(width)) if self._hops else self._theme.px(60)

    def sizeHint(self) -> QSize:
        wide = max(self.width(), self._theme.px(2 * _CARD))
        return QSize(wide, self.heightForWidth(wide))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(_CARD), self._theme.px(60))

    # where things are

    def _across(self, width: int) -> int:
        """How many cards stand beside each other: all, or so that the rows are about as long."""
        count = max(len(self._hops), 1)
        most = max(width // self._theme.px(_CARD), 1)
        rows = -(-count // most)
        return -(-count // rows)

    def _card_width(self, width: int) -> int:
        across, gap = self._across(width), self._theme.px(_GAP)
        return (width - (across - 1) * gap) // across

    def _lines(self, hop: Hop, checks: str) -> list[_Line]:
        stop = hop.state == "stop"
        made = [_Line(hop.text, 15, 600, "stop" if stop else "ink" if hop.state == "pass" else "ink2")]
        if hop.detail:
            made.append(_Line(hop.detail, 13, 400, "ink"))
        if hop.notice:
            made.append(_Line(f"You notice: {hop.notice}", 13, 400, "stop"))
        return [*made, _Line(f"Looks at {checks}.", 12, 400, "ink2")]

    def _high(self, line: _Line, wide: int) -> int:
        metrics = QFontMetrics(self._theme.font(line.size, weight=line.weight))
        return metrics.boundingRect(0, 0, wide, 10_000, _WRAP, line.text).height() + self._theme.px(5)

    def _heights(self, width: int) -> list[int]:
        """The height of each row of cards."""
        px, across = self._theme.px, self._across(width)
        wide = self._card_width(width) - 2 * px(_PAD)
        above = px(_TOP + _RADIUS + _PAD + 24)
        tall = [above + sum(self._high(line, wide) for line in self._lines(*item)) + px(_PAD) for item in self._hops]
        return [max(tall[at : at + across]) + px(_GAP) for at in range(0, len(tall), across)]

    def _card(self, at: int) -> QRectF:
        across, gap = self._across(self.width()), self._theme.px(_GAP)
        wide, heights = self._card_width(self.width()), self._heights(self.width())
        row, column = divmod(at, across)
        return QRectF(column * (wide + gap), sum(heights[:row]), wide, heights[row] - gap)

    # painting

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not self._hops:
            painter.setFont(self._theme.font(13))
            painter.setPen(self._theme.color("ink2"))
            painter.drawText(self.rect().adjusted(4, 8, -4, 0), _WRAP, self._empty)
            return
        for at, (hop, checks) in enumerate(self._hops):
            self._paint_card(painter, self._card(at), hop, checks)
        for at in range(1, len(self._hops)):
            self._paint_thread(painter, at)
        for at, (hop, _checks) in enumerate(self._hops):
            self._paint_hole(painter, self._hole(at), hop.state)

    def _hole(self, at: int) -> QPointF:
        card, px = self._card(at), self._theme.px
        return QPointF(card.left() + px(_PAD + _RADIUS), card.top() + px(_TOP))

    def _paint_thread(self, painter: QPainter, at: int) -> None:
        """The thread from the hop before: along the row, or round the end of it."""
        hop, before = self._hops[at][0], self._hops[at - 1][0]
        solid = before.state == "pass" and hop.state != "dark"
        color = self._theme.color("ok" if solid else "line")
        start, end = self._hole(at - 1), self._hole(at)
        if start.y() == end.y():
            stitch(painter, start, end, color, solid=solid)
            return
        edge, above = self.width() - 2.0, self._card(at).top() - self._theme.px(_GAP) / 2
        corners = (start, QPointF(edge, start.y()), QPointF(edge, above), QPointF(2, above), QPointF(2, end.y()), end)
        for one, other in pairwise(corners):
            stitch(painter, one, other, color, solid=solid)

    def _paint_hole(self, painter: QPainter, at: QPointF, state: str) -> None:
        theme, radius = self._theme, self._theme.px(_RADIUS)
        color = theme.color(_TONES[state])
        painter.setPen(QPen(color, 2.6))
        painter.setBrush(color if state == "pass" else theme.color("panel"))
        painter.drawEllipse(at, radius, radius)
        if state == "stop":
            part = radius * 0.55
            painter.drawLine(QPointF(at.x() - part, at.y() - part), QPointF(at.x() + part, at.y() + part))
            painter.drawLine(QPointF(at.x() - part, at.y() + part), QPointF(at.x() + part, at.y() - part))

    def _paint_card(self, painter: QPainter, card: QRectF, hop: Hop, checks: str) -> None:
        theme, px = self._theme, self._theme.px
        painter.setPen(QPen(theme.color("stop" if hop.state == "stop" else "line"), 1.6 if hop.state == "stop" else 1))
        painter.setBrush(theme.color("panel"))
        painter.drawRoundedRect(card.adjusted(1, 1, -1, -1), 6, 6)
        left, wide = card.left() + px(_PAD), card.width() - 2 * px(_PAD)
        top = card.top() + px(_TOP + _RADIUS + 6)
        font = theme.font(13, weight=600)
        painter.setFont(font)
        painter.setPen(theme.color(_TONES[hop.state]))
        shown = QFontMetrics(font).elidedText(hop.title, Qt.TextElideMode.ElideRight, int(wide))
        painter.drawText(QRectF(left, top, wide, px(20)), int(Qt.AlignmentFlag.AlignLeft), shown)
        top += px(24)
        for line in self._lines(hop, checks):
            painter.setFont(theme.font(line.size, weight=line.weight))
            painter.setPen(theme.color(line.tone))
            high = self._high(line, int(wide))
            painter.drawText(QRectF(left, top, wide, high), _WRAP, line.text)
            top += high
