"""The lanes: overs as bars that travel down from you to the far listeners; what is lost ends in the cut of the thread."""

from collections.abc import Iterator

from PyQt6.QtCore import QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QFontMetricsF, QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.simulation.play import Lane, Play, clock_words
from umbra_awl.core.simulation.told import NETWORK, LaneBar
from umbra_awl.desk.onair.lanes_geometry import Geometry
from umbra_awl.desk.onair.lanes_words import paint_cuts, paint_notes, paint_now, paint_scale
from umbra_awl.desk.theme.theme import Theme

_TONES = {
    "you": ("violet", "panel"),
    "others": ("ok_tint", "ink"),
    "far": ("ok", "panel"),
    "echo": ("violet_tint", "violet"),
    "lost": ("stop_tint", "stop"),
}
_SPANS = (20.0, 40.0, 80.0, 160.0, 320.0, 900.0, 1800.0)
_HEAD, _FOOT = 158, 24
_NOW_AT = 0.78
_LEAST_TEXT = 18.0
_MOST_ROWS = 3
_MIDDLE = Qt.AlignmentFlag.AlignVCenter


_LET_GO_MS = 40
"""A key that is held repeats as releases and presses by turns; a release that a press follows so soon is none."""


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
        self._rows: dict[int, int] = {}
        self._row_ends: list[LaneBar] = []
        self._let_go = QTimer(self)
        self._let_go.setSingleShot(True)
        self._let_go.setInterval(_LET_GO_MS)
        self._let_go.timeout.connect(self.released)
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
            self.show_span(span_s)
        self._rows.clear()
        self._row_ends.clear()
        self.describe()
        self.update()

    def show_span(self, seconds: float) -> None:
        """Show so many seconds at least."""
        self.span_s = next((item for item in _SPANS if item >= seconds), _SPANS[-1])
        self._texts.clear()

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
            if not event.isAutoRepeat() and not self._let_go.isActive():
                self.pressed.emit()
            self._let_go.stop()
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

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        """Whoever looks elsewhere no longer holds the key."""
        self._let_go.stop()
        self.released.emit()
        super().focusOutEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Space:
            if not event.isAutoRepeat():
                self._let_go.start()
            return
        super().keyReleaseEvent(event)

    def zoom(self, steps: int) -> None:
        """Show more (steps > 0) or less time."""
        at = min(range(len(_SPANS)), key=lambda place: abs(_SPANS[place] - self.span_s))
        self.span_s = _SPANS[min(max(at + steps, 0), len(_SPANS) - 1)]
        self._texts.clear()
        self.update()

    # where things are

    def geometry_now(self) -> Geometry:
        """Where things are at this size and moment: until “now” comes to its place, from the beginning."""
        px, now = self._theme.px, self.play.now if self.play is not None else 0.0
        room = max(self.width() - px(_HEAD + 12), 20), max(self.height() - px(_FOOT + 10), 20)
        places = {lane.key: at for at, lane in enumerate(self.lanes)}
        begin = max(0.0, now - self.span_s * _NOW_AT)
        return Geometry(QRectF(px(_HEAD), px(8), *room), begin, self.span_s, places, px(20))

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
        at, book, now = self.geometry_now(), self.play.book, self.play.now
        paint_scale(painter, theme, at, now)
        self._paint_heads(painter, at)
        painter.save()
        painter.setClipRect(at.box.adjusted(0, -4, 0, 4))
        self._paint_bars(painter, at)
        paint_cuts(painter, theme, at, book)
        paint_notes(painter, theme, at, book)
        painter.restore()
        paint_now(painter, theme, at, now)

    def _paint_heads(self, painter: QPainter, where: Geometry) -> None:
        theme, px = self._theme, self._theme.px
        assert self.play is not None
        two_fit = where.each >= px(34)
        for at, lane in enumerate(self.lanes):
            y = where.y(at)
            more = lane.more or clock_words(self.play.setting, self.play.now, lane.zone)
            two = bool(lane.title and more) and two_fit
            head = QRectF(px(12), y - px(17 if two else 9), px(_HEAD - 18), px(18))
            if lane.title:
                painter.setFont(theme.font(13, weight=600))
                painter.setPen(theme.color("ink"))
                painter.drawText(head, _MIDDLE, self._elided(lane.title, head.width(), bold=True))
            if more and (two or not lane.title):
                painter.setFont(theme.font(12))
                painter.setPen(theme.color("ink2"))
                painter.drawText(head.translated(0, px(18) if two else 0), _MIDDLE, self._elided(more, head.width()))

    def _visible(self, begin: float) -> Iterator[LaneBar]:
        """The bars in sight, from the latest back; they begin in order, but for what is drawn earlier by the way to here."""
        assert self.play is not None
        end = begin + self.span_s
        for bar in self.play.book.bars:
            last = bar.end if bar.end is not None else self.play.now
            if last >= begin and bar.start <= end:
                yield bar

    def _paint_bars(self, painter: QPainter, at: Geometry) -> None:
        theme, px, box = self._theme, self._theme.px, at.box
        assert self.play is not None
        now = self.play.now
        painter.setFont(theme.font(12, weight=600))
        by_tone: dict[str, list[tuple[QRectF, LaneBar]]] = {}
        for bar in self._visible(at.begin_s):
            lane = at.places.get(bar.lane)
            if lane is None:
                continue
            left = max(at.x(bar.start), box.left() - 8)
            right = min(at.x(min(bar.end if bar.end is not None else now, now)), box.right() + 8)
            if right > left:
                top, high = self._row(bar, at.y(lane), at.bar)
                by_tone.setdefault(bar.tone, []).append((QRectF(left, top, max(right - left, 2), high), bar))
        for tone, found in by_tone.items():
            fill, ink = _TONES[tone]
            painter.setPen(QPen(theme.color(ink), 0.6) if fill.endswith("tint") else Qt.PenStyle.NoPen)
            painter.setBrush(theme.color(fill))
            for rect, _bar in found:
                painter.drawRoundedRect(rect, 3, 3)
            painter.setPen(theme.color(ink))
            for rect, bar in found:
                inside = rect.adjusted(px(5), 0, -px(3), 0).intersected(box)
                if inside.width() > px(_LEAST_TEXT) and rect.height() >= px(13):
                    painter.drawText(
                        inside,
                        Qt.AlignmentFlag.AlignVCenter,
                        self._elided(bar.text, inside.width(), bold=True, size=12),
                    )

    def _row(self, bar: LaneBar, middle: float, height: float) -> tuple[float, float]:
        """Top and height of a bar: where several overs are in one lane at once, they share its height."""
        if bar.lane != NETWORK:
            return middle - height / 2, height
        row = self._rows.get(id(bar))
        if row is None:
            ends = self._row_ends
            free = (at for at, last in enumerate(ends) if last.end is not None and last.end <= bar.start)
            row = next(free, len(ends) if len(ends) < _MOST_ROWS else 0)
            ends[row : row + 1] = [bar]
            self._rows[id(bar)] = row
        if len(self._row_ends) < 2:
            return middle - height / 2, height
        each = height * 1.3 / len(self._row_ends)
        return middle - height * 0.65 + row * each, each - 1

    def _elided(self, text: str, width: float, *, bold: bool = False, size: int = 13) -> str:
        key = (text, int(width) // 6 * 10 + bold)
        if key not in self._texts:
            if len(self._texts) > 4_000:
                self._texts.clear()
            metrics = QFontMetricsF(self._theme.font(size if bold else 12, weight=600 if bold else 400))
            self._texts[key] = metrics.elidedText(text, Qt.TextElideMode.ElideRight, int(width) // 6 * 6)
        return self._texts[key]
