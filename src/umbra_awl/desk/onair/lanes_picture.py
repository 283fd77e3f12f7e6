"""The lanes: overs as bars that travel down from you to the far listeners; what is lost ends in the cut of the thread."""

import bisect
from collections.abc import Iterator

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.simulation.play import Lane, Play, clock_words
from umbra_awl.core.simulation.told import Bar, Cut
from umbra_awl.desk.parts.thread import cross, stitch
from umbra_awl.desk.theme.theme import Theme

_TONES = {
    "you": ("violet", "panel"),
    "others": ("ok_tint", "ink"),
    "far": ("ok", "panel"),
    "echo": ("violet_tint", "violet"),
    "lost": ("stop_tint", "stop"),
}
_SPANS = (20.0, 40.0, 80.0, 160.0, 320.0, 900.0, 1800.0)
_TICKS = (1, 2, 5, 10, 20, 60, 120, 300)
_HEAD, _FOOT = 158, 24
_NOW_AT = 0.78
_LEAST_TEXT = 18.0
_MIDDLE = Qt.AlignmentFlag.AlignVCenter


class LanesPicture(QWidget):
    """Shows a play up to its moment. Keys: Space talks, arrows turn the knob and step in time, + and − change the span."""

    pressed = pyqtSignal()
    released = pyqtSignal()
    key_wanted = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.play: Play | None = None
        self.lanes: tuple[Lane, ...] = ()
        self.span_s = _SPANS[2]
        self._texts: dict[tuple[str, int], str] = {}
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        theme.changed.connect(self._forget)

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(640), self._theme.px(400))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(360), self._theme.px(170))

    def _forget(self) -> None:
        self._texts.clear()
        self.update()

    def show_play(self, play: Play | None, lanes: tuple[Lane, ...], span_s: float | None = None) -> None:
        """Show another play."""
        self.play, self.lanes = play, lanes
        if span_s is not None:
            self.span_s = next((item for item in _SPANS if item >= span_s), _SPANS[-1])
        self._texts.clear()
        self.describe()
        self.update()

    def describe(self) -> None:
        """Say for a screen reader what has just happened."""
        if self.play is None:
            self.setAccessibleName("Lanes: nothing is played")
            return
        latest = [f"{item.reason}" for item in self.play.book.cuts[-1:]]
        screen = self.play.book.screens[-1] if self.play.book.screens else None
        shown = f"display {screen.top}, {screen.bottom}" if screen is not None else ""
        self.setAccessibleName(f"Lanes at {self.play.now:.0f} seconds. {shown}. {' '.join(latest)}")

    # keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        if event.key() == Qt.Key.Key_Space:
            if not event.isAutoRepeat():
                self.pressed.emit()
            return
        wanted = {
            Qt.Key.Key_Up: "up",
            Qt.Key.Key_Down: "down",
            Qt.Key.Key_Left: "back",
            Qt.Key.Key_Right: "forward",
            Qt.Key.Key_Return: "toggle",
            Qt.Key.Key_Enter: "toggle",
            Qt.Key.Key_Home: "begin",
            Qt.Key.Key_PageUp: "zone up",
            Qt.Key.Key_PageDown: "zone down",
        }.get(Qt.Key(event.key()))
        if wanted is not None:
            self.key_wanted.emit(wanted)
        elif event.text() in {"+", "-", "−"}:
            self.zoom(-1 if event.text() == "+" else 1)
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Space:
            if not event.isAutoRepeat():
                self.released.emit()
            return
        super().keyReleaseEvent(event)

    def zoom(self, steps: int) -> None:
        """Show more (steps > 0) or less time."""
        at = min(range(len(_SPANS)), key=lambda place: abs(_SPANS[place] - self.span_s))
        self.span_s = _SPANS[min(max(at + steps, 0), len(_SPANS) - 1)]
        self._texts.clear()
        self.update()

    # where things are

    def _box(self) -> QRectF:
        px = self._theme.px
        return QRectF(px(_HEAD), px(8), max(self.width() - px(_HEAD + 12), 20), max(self.height() - px(_FOOT + 10), 20))

    def _begin_s(self) -> float:
        """The moment at the left edge: until “now” comes to its place, the beginning."""
        now = self.play.now if self.play is not None else 0.0
        return max(0.0, now - self.span_s * _NOW_AT)

    def _x(self, box: QRectF, moment: float) -> float:
        return box.left() + (moment - self._begin_s()) / self.span_s * box.width()

    def _y(self, box: QRectF, lane: int) -> float:
        return box.top() + (lane + 0.5) * box.height() / max(len(self.lanes), 1)

    def bar_height(self) -> float:
        """How high a bar is."""
        box = self._box()
        return min(self._theme.px(20), max(box.height() / max(len(self.lanes), 1) * 0.55, 9))

    # painting

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme = self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(theme.color("violet") if self.hasFocus() else theme.color("line"))
        painter.setBrush(theme.color("sheet"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        if self.play is None:
            return
        box = self._box()
        self._paint_scale(painter, box)
        self._paint_heads(painter, box)
        painter.save()
        painter.setClipRect(box.adjusted(0, -4, 0, 4))
        self._paint_bars(painter, box)
        self._paint_cuts(painter, box)
        self._paint_notes(painter, box)
        painter.restore()
        self._paint_now(painter, box)

    def _paint_scale(self, painter: QPainter, box: QRectF) -> None:
        theme, px = self._theme, self._theme.px
        painter.setFont(theme.font(12, mono=True))
        step = next((item for item in _TICKS if box.width() * item / self.span_s >= px(64)), _TICKS[-1])
        first = int(self._begin_s() // step) * step
        ticks = [first + step * at for at in range(int(self.span_s / step) + 2)]
        now_x = self._x(box, self.play.now) if self.play is not None else 0.0
        for tick in ticks:
            x = self._x(box, tick)
            if not box.left() - 1 <= x <= box.right() or abs(x - now_x) < px(48):
                continue
            painter.setPen(theme.color("ink2"))
            text = f"{tick // 60}:{tick % 60:02d}" if self.span_s > 160 else f"{tick} s"
            painter.drawText(
                QRectF(x - px(30), box.bottom() + px(4), px(60), px(18)), Qt.AlignmentFlag.AlignHCenter, text
            )
        painter.setPen(QPen(theme.color("line"), 1))
        for lane in range(len(self.lanes)):
            y = self._y(box, lane)
            painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))

    def _paint_heads(self, painter: QPainter, box: QRectF) -> None:
        theme, px = self._theme, self._theme.px
        assert self.play is not None
        each = box.height() / max(len(self.lanes), 1)
        for at, lane in enumerate(self.lanes):
            y = self._y(box, at)
            more = lane.more or clock_words(self.play.setting, self.play.now, lane.zone)
            two = bool(lane.title and more) and each >= px(34)
            title = QRectF(px(12), y - px(17 if two else 9), px(_HEAD - 18), px(18))
            painter.setFont(theme.font(13, weight=600))
            painter.setPen(theme.color("ink"))
            painter.drawText(
                title,
                Qt.AlignmentFlag.AlignVCenter,
                self._elided(lane.title or ("" if two else more), title.width(), bold=True),
            )
            if more and (two or not lane.title):
                painter.setFont(theme.font(12))
                painter.setPen(theme.color("ink2"))
                below = QRectF(px(12), y + (px(1) if two else -px(9)), px(_HEAD - 18), px(18))
                if two or not lane.title:
                    painter.drawText(below, _MIDDLE, self._elided(more, below.width()))

    def _visible(self) -> Iterator[Bar]:
        """The bars in sight, from the latest back; they begin in order, but for what is drawn earlier by the way to here."""
        assert self.play is not None
        begin = self._begin_s()
        end = begin + self.span_s
        for bar in self.play.book.bars:
            last = bar.end if bar.end is not None else self.play.now
            if last >= begin and bar.start <= end:
                yield bar

    def _paint_bars(self, painter: QPainter, box: QRectF) -> None:
        theme, px = self._theme, self._theme.px
        assert self.play is not None
        place = {lane.key: at for at, lane in enumerate(self.lanes)}
        height, now = self.bar_height(), self.play.now
        painter.setFont(theme.font(12, weight=600))
        by_tone: dict[str, list[tuple[QRectF, Bar]]] = {}
        for bar in self._visible():
            lane = place.get(bar.lane)
            if lane is None:
                continue
            left = max(self._x(box, bar.start), box.left() - 8)
            right = min(self._x(box, min(bar.end if bar.end is not None else now, now)), box.right() + 8)
            if right > left:
                rect = QRectF(left, self._y(box, lane) - height / 2, max(right - left, 2), height)
                by_tone.setdefault(bar.tone, []).append((rect, bar))
        for tone, found in by_tone.items():
            fill, ink = _TONES[tone]
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color(fill))
            for rect, _bar in found:
                painter.drawRoundedRect(rect, 4, 4)
            painter.setPen(theme.color(ink))
            for rect, bar in found:
                inside = rect.adjusted(px(5), 0, -px(3), 0).intersected(box)
                if inside.width() > px(_LEAST_TEXT) and height >= px(13):
                    painter.drawText(
                        inside,
                        Qt.AlignmentFlag.AlignVCenter,
                        self._elided(bar.text, inside.width(), bold=True, size=12),
                    )

    def _elided(self, text: str, width: float, *, bold: bool = False, size: int = 13) -> str:
        key = (text, int(width) // 6 * 10 + bold)
        if key not in self._texts:
            if len(self._texts) > 4_000:
                self._texts.clear()
            metrics = QFontMetricsF(self._theme.font(size if bold else 12, weight=600 if bold else 400))
            self._texts[key] = metrics.elidedText(text, Qt.TextElideMode.ElideRight, int(width) // 6 * 6)
        return self._texts[key]

    def _cuts(self) -> list[Cut]:
        """The cuts in sight."""
        assert self.play is not None
        cuts = self.play.book.cuts
        first = bisect.bisect_left([item.at for item in cuts], self._begin_s())
        return cuts[first:]

    def _paint_cuts(self, painter: QPainter, box: QRectF) -> None:
        theme, px = self._theme, self._theme.px
        place = {lane.key: at for at, lane in enumerate(self.lanes)}
        metrics = QFontMetricsF(theme.font(12, weight=600))
        taken: list[QRectF] = []
        for cut in reversed(self._cuts()):
            lane = place.get(cut.lane)
            if lane is None:
                continue
            up = cut.lane == "network"  # what comes from the network goes up to you
            x, y = self._x(box, cut.at), self._y(box, lane)
            other = self._y(box, max(lane - 1, 0) if up else min(lane + 1, len(self.lanes) - 1))
            end = QPointF(x, y + (other - y) * 0.55)
            stitch(
                painter,
                QPointF(x, y + (self.bar_height() / 2) * (-1 if up else 1)),
                end,
                theme.color("stop"),
                solid=False,
            )
            cross(painter, end, theme.color("stop"))
            width = min(metrics.horizontalAdvance(cut.reason) + 4, box.width() * 0.7)
            right = x + px(12) + width < box.right()
            words = QRectF(x + px(12) if right else x - px(12) - width, end.y() - px(9), width, px(18))
            if any(words.intersects(item) for item in taken):
                continue
            taken.append(words)
            painter.setFont(theme.font(12, weight=600))
            painter.fillRect(words.adjusted(-2, 1, 2, -1), theme.color("sheet"))
            painter.setPen(theme.color("stop"))
            painter.drawText(
                words, Qt.AlignmentFlag.AlignVCenter, metrics.elidedText(cut.reason, Qt.TextElideMode.ElideRight, width)
            )

    def _paint_notes(self, painter: QPainter, box: QRectF) -> None:
        theme, px = self._theme, self._theme.px
        assert self.play is not None
        place = {lane.key: at for at, lane in enumerate(self.lanes)}
        painter.setFont(theme.font(12))
        metrics = QFontMetricsF(theme.font(12))
        ends: dict[int, float] = {}
        for note in self.play.book.notes:
            lane = place.get(note.lane)
            x = self._x(box, note.at)
            if lane is None or not box.left() - px(200) <= x <= box.right():
                continue
            width = metrics.horizontalAdvance(note.words) + 4
            left = min(max(x, ends.get(lane, 0.0) + px(10)), box.right() - width)
            if left < ends.get(lane, 0.0):
                continue
            ends[lane] = left + width
            y = self._y(box, lane) + self.bar_height() / 2
            painter.setPen(theme.color("ok"))
            painter.drawText(QRectF(left, y + 1, width, px(16)), Qt.AlignmentFlag.AlignVCenter, note.words)
            painter.drawLine(QPointF(x, y), QPointF(x, y + px(4)))

    def _paint_now(self, painter: QPainter, box: QRectF) -> None:
        theme, px = self._theme, self._theme.px
        assert self.play is not None
        x = self._x(box, self.play.now)
        painter.setPen(QPen(theme.color("brass"), 1.6))
        painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
        painter.setFont(theme.font(12, mono=True, weight=600))
        now = self.play.now
        text = f"{int(now) // 60}:{int(now) % 60:02d}" if self.span_s > 160 else f"{now:.0f} s"
        flag = QRectF(x - px(26), box.bottom() + px(3), px(52), px(19))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("brass_tint"))
        painter.drawRoundedRect(flag, 4, 4)
        painter.setPen(theme.color("brass"))
        painter.drawText(flag, Qt.AlignmentFlag.AlignCenter, text)
