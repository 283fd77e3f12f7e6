"""The four steps of a transfer as a piece of the thread: read, compare, write, prove."""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.desk.parts.thread import bead, cross, stitch
from umbra_awl.desk.theme.theme import Theme

STEPS = (
    ("Read", "and keep a backup"),
    ("Compare", "what would change"),
    ("Write", "only what differs"),
    ("Prove", "read back, compare"),
)


class ProgressThread(QWidget):
    """Shows how far a transfer has come, and where it broke."""

    def __init__(self, theme: Theme, steps: tuple[tuple[str, str], ...] = STEPS) -> None:
        super().__init__()
        self._theme, self._steps = theme, steps
        self._done = 0
        self._broken = False
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(500, self._theme.px(66))

    def show_state(self, done: int, *, broken: bool) -> None:
        """Show so many steps as done; the next one broken, if it is."""
        self._done, self._broken = done, broken
        state = (
            f"{self._steps[done][0]} broke off"
            if broken and done < len(self._steps)
            else f"{done} of {len(self._steps)} done"
        )
        self.setAccessibleName(f"Steps of the transfer: {state}")
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, width, y = self._theme, self.width() / len(self._steps), self._theme.px(14)
        for at in range(len(self._steps) - 1):
            solid = at + 1 < self._done or (at + 1 == self._done and not self._broken)
            start, end = QPointF(at * width + 24, y), QPointF((at + 1) * width + 4, y)
            stitch(painter, start, end, theme.color("ok" if solid else "line"), solid=solid)
        for at, (name, words) in enumerate(self._steps):
            self._step(painter, at, name, words, QRectF(at * width, y, width, theme.px(52)))

    def _step(self, painter: QPainter, at: int, name: str, words: str, box: QRectF) -> None:
        theme = self._theme
        done, broken = at < self._done, self._broken and at == self._done
        color = theme.color("ok" if done else "stop" if broken else "violet" if at == self._done else "ink2")
        spot = QPointF(box.left() + 14, box.top())
        if broken:
            cross(painter, spot, color)
        else:
            bead(painter, spot, color, theme.color("bg"), filled=done)
        painter.setFont(theme.font(14, weight=600))
        painter.setPen(color)
        text = box.adjusted(4, theme.px(11), 0, 0)
        painter.drawText(text, Qt.AlignmentFlag.AlignTop, f"{name} – broke off" if broken else name)
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        painter.drawText(text.adjusted(0, theme.px(20), 0, 0), Qt.AlignmentFlag.AlignTop, words)
