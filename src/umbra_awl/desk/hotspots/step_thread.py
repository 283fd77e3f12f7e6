"""Steps as a stitched thread down a page: whose hands, what, what one sees; solid as far as it has come, cut where it broke."""

from collections.abc import Sequence
from typing import Literal, NamedTuple

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.desk.parts.thread import bead, cross, stitch
from umbra_awl.desk.theme.theme import Theme

State = Literal["done", "next", "later", "broken"]
STATE_WORDS: dict[State, str] = {"done": "done", "next": "next", "later": "to come", "broken": "broke here"}


class Stop(NamedTuple):
    """One step as it is shown; `more` is a second line, or why it broke."""

    hands: str
    what: str
    more: str
    state: State


class StepThread(QWidget):
    """Shows steps; click, arrows and Return choose one."""

    chosen = pyqtSignal(int)
    moved = pyqtSignal()

    def __init__(self, theme: Theme, name: str, hands: int = 100) -> None:
        """`hands` is how wide the column of hands is, at the usual size of text."""
        super().__init__()
        self._theme, self._name, self._hands = theme, name, hands
        self.stops: tuple[Stop, ...] = ()
        self.at = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.updateGeometry)
        self._describe()

    def show_stops(self, stops: Sequence[Stop]) -> None:
        """Show other steps; the one to do next is chosen."""
        made = tuple(stops)
        if made == self.stops:
            return
        fresh = [stop[:2] for stop in made] != [stop[:2] for stop in self.stops]
        self.stops = made
        upcoming = next((at for at, stop in enumerate(made) if stop.state in {"next", "broken"}), 0)
        self.at = upcoming if fresh or not self.hasFocus() else min(self.at, max(len(made) - 1, 0))
        self._describe()
        self.updateGeometry()
        self.update()

    def _describe(self) -> None:
        if not self.stops:
            self.setAccessibleName(self._name)
            return
        stop = self.stops[min(self.at, len(self.stops) - 1)]
        done = sum(item.state == "done" for item in self.stops)
        chosen = f"{self.at + 1}. {stop.hands}: {stop.what}. {stop.more}. {STATE_WORDS[stop.state]}"
        self.setAccessibleName(f"{self._name}: {done} of {len(self.stops)} done. {chosen}")

    def _heights(self) -> list[int]:
        px = self._theme.px
        room = max(self.width() - px(self._hands + 36), px(120))
        small = QFontMetricsF(self._theme.font(12))
        wide = QFontMetricsF(self._theme.font(13))
        made = []
        for stop in self.stops:
            what = wide.boundingRect(QRectF(0, 0, room, 10_000), int(Qt.TextFlag.TextWordWrap), stop.what).height()
            more = small.boundingRect(QRectF(0, 0, room, 10_000), int(Qt.TextFlag.TextWordWrap), stop.more).height()
            made.append(round(what + (more if stop.more else 0)) + px(9))
        return made

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(300), sum(self._heights()) + self._theme.px(6))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(200), self.sizeHint().height())

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        self.updateGeometry()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        y = 0.0
        for at, height in enumerate(self._heights()):
            y += height
            if event.position().y() <= y:
                self._go(at)
                self.chosen.emit(at)
                return

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        key = event.key() if event is not None else 0
        if key in {Qt.Key.Key_Up, Qt.Key.Key_Down} and self.stops:
            self._go(self.at + (1 if key == Qt.Key.Key_Down else -1))
        elif key in {Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space} and self.stops:
            self.chosen.emit(self.at)
        else:
            super().keyPressEvent(event)

    def _go(self, at: int) -> None:
        self.at = min(max(at, 0), len(self.stops) - 1)
        self._describe()
        self.update()
        self.moved.emit()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        px, y = self._theme.px, 0.0
        heights = self._heights()
        for at, (stop, height) in enumerate(zip(self.stops, heights, strict=True)):
            if at + 1 < len(self.stops):
                solid = stop.state == "done" and self.stops[at + 1].state != "broken"
                color = self._theme.color("ok" if solid else "line")
                start = QPointF(px(14), y + px(19))
                stitch(painter, start, QPointF(px(14), y + height + px(4)), color, solid=solid)
            self._paint_stop(painter, at, stop, QRectF(0, y, self.width(), height))
            y += height

    def _paint_stop(self, painter: QPainter, at: int, stop: Stop, box: QRectF) -> None:
        theme, px = self._theme, self._theme.px
        tone = {"done": "ok", "next": "violet", "later": "ink2", "broken": "stop"}[stop.state]
        if at == self.at:
            painter.setPen(theme.color("violet") if self.hasFocus() else Qt.GlobalColor.transparent)
            painter.setBrush(theme.color("violet_tint"))
            painter.drawRoundedRect(box.adjusted(1, 0, -1, -2), 6, 6)
        spot = QPointF(px(14), box.top() + px(12))
        if stop.state == "broken":
            cross(painter, spot, theme.color(tone))
        else:
            bead(painter, spot, theme.color(tone), theme.color("sheet"), filled=stop.state == "done")
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        hands = QRectF(px(28), box.top() + px(3), px(self._hands), px(20))
        painter.drawText(hands, int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter), stop.hands)
        text = box.adjusted(px(self._hands + 30), px(3), -px(6), 0)
        flags = int(Qt.TextFlag.TextWordWrap)
        painter.setFont(theme.font(13, weight=600 if stop.state in {"next", "broken"} else 400))
        painter.setPen(theme.color("ink" if stop.state != "later" else "ink2"))
        drawn = painter.boundingRect(text, flags, stop.what)
        painter.drawText(text, flags, stop.what)
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("stop" if stop.state == "broken" else "ink2"))
        painter.drawText(text.adjusted(0, drawn.height(), 0, 0), flags, stop.more)
