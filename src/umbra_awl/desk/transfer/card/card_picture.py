"""The way over a memory card as a picture: three places, the card where it is now, and the steps as the thread between them.

Each step is a hole in the column of whose hands do it; solid thread is what was found to be done.
"""

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.transfer.card.steps import CardSights, CardStep
from umbra_awl.desk.parts.thread import bead, cross, stitch
from umbra_awl.desk.theme.theme import Theme

PLACES = ("radio", "you", "here")
WORDS = {"read": "Read", "compare": "Compare", "write": "Write", "prove": "Prove"}
_SHARES = (0.2, 0.47, 0.74)
"""Where the columns of the three places stand, as shares of the width; the words stand at the left."""
_BANDED = frozenset({"read", "write"})
_HEAD, _ROW, _LOWEST, _FOOT = 62, 25, 17, 6


class CardPicture(QWidget):
    """Shows the steps for one radio and how far they have come."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.steps: tuple[CardStep, ...] = ()
        self._found: CardSights | None = None
        self._names = ("the radio", "your hands", "this computer")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Maximum)
        theme.changed.connect(self.updateGeometry)

    def sizeHint(self) -> QSize:
        return QSize(500, self._theme.px(_HEAD + _ROW * max(len(self.steps), 1) + _FOOT))

    def minimumSizeHint(self) -> QSize:
        return QSize(300, self._theme.px(_HEAD + _LOWEST * max(len(self.steps), 1)))

    @property
    def _row(self) -> float:
        """How high a step's row is: as there is room."""
        room = (self.height() - self._theme.px(_HEAD) - 2) / max(len(self.steps), 1)
        return min(room, self._theme.px(_ROW))

    def show_steps(self, radio: str, steps: tuple[CardStep, ...], found: CardSights) -> None:
        """Show the steps of a radio and what was found."""
        if len(steps) != len(self.steps):
            self.updateGeometry()
        self._names, self.steps, self._found = (radio, "your hands", "this computer"), steps, found
        now = steps[found.done].title if found.done < len(steps) else "all done"
        told = "went amiss at" if found.amiss else "next:"
        self.setAccessibleName(f"Steps over the card: {found.done} of {len(steps)} done, {told} {now}. {found.text}")
        self.update()

    @property
    def card_at(self) -> str:
        """The place where the card is drawn: “radio”, “you” or “here”."""
        if self._found is None or self._found.stage in {"away", "unsent", "in radio"}:
            return "radio"
        return "here"

    def _x(self, place: str) -> float:
        return self.width() * _SHARES[PLACES.index(place)]

    def _at(self, number: int) -> QPointF:
        return QPointF(self._x(self.steps[number].hands), self._theme.px(_HEAD) + (number + 0.5) * self._row)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._bands(painter)
        self._places(painter)
        found = self._found
        if found is None:
            return
        for number in range(len(self.steps) - 1):
            solid = number + 1 < found.done or (number + 1 == found.done and not found.amiss)
            color = self._theme.color("ok" if solid else "line")
            stitch(painter, self._at(number), self._at(number + 1), color, solid=solid)
        for number, step in enumerate(self.steps):
            self._step(painter, number, step, found)

    def _bands(self, painter: QPainter) -> None:
        """The four words at the left, and a band behind every other one."""
        theme, row, top = self._theme, self._row, self._theme.px(_HEAD)
        painter.setFont(theme.font(13, weight=600))
        first = 0
        for at, step in enumerate(self.steps):
            if at + 1 < len(self.steps) and self.steps[at + 1].word == step.word:
                continue
            box = QRectF(0, top + first * row, self.width(), (at + 1 - first) * row)
            if step.word in _BANDED:
                painter.fillRect(box, theme.color("panel"))
            painter.setPen(theme.color("ink"))
            first_row = QRectF(8, box.top(), box.width() - 8, row)
            painter.drawText(first_row, Qt.AlignmentFlag.AlignVCenter, WORDS[step.word])
            first = at + 1

    def _places(self, painter: QPainter) -> None:
        theme, px = self._theme, self._theme.px
        for place, name in zip(PLACES, self._names, strict=True):
            x, y = self._x(place), px(20)
            _draw_place(painter, place, QPointF(x, y), px(1), QPen(theme.color("ink2"), 1.4))
            painter.setFont(theme.font(12))
            painter.setPen(theme.color("ink2"))
            painter.drawText(QRectF(x - px(90), px(40), px(180), px(18)), Qt.AlignmentFlag.AlignHCenter, name)
            if place == self.card_at:
                _draw_card(painter, QPointF(x + px(24), y - px(9)), px(1), theme)

    def _step(self, painter: QPainter, number: int, step: CardStep, found: CardSights) -> None:
        theme, at = self._theme, self._at(number)
        done, now = number < found.done, number == found.done
        token = "ok" if done else ("stop" if found.amiss else "violet") if now else "ink2"
        if now and found.amiss:
            cross(painter, at, theme.color(token))
        else:
            bead(painter, at, theme.color(token), theme.color("bg"), filled=done)
        painter.setFont(theme.font(13, weight=600 if now else 400))
        painter.setPen(theme.color(token if now else "ink" if done else "ink2"))
        box = QRectF(at.x() + theme.px(13), at.y() - theme.px(12), self.width() - at.x() - theme.px(13), theme.px(24))
        wide = painter.fontMetrics().horizontalAdvance(step.title)
        behind = "panel" if step.word in _BANDED else "bg"
        painter.fillRect(
            QRectF(box.left() - 3, at.y() - self._row / 2 + 1, wide + 6, self._row - 2), theme.color(behind)
        )
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, step.title)


def _draw_place(painter: QPainter, place: str, at: QPointF, unit: float, pen: QPen) -> None:
    """A radio, a hand's two fingers, a computer, in hair lines around a point."""
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    x, y = at.x(), at.y()
    if place == "radio":
        painter.drawRoundedRect(QRectF(x - 9 * unit, y - 10 * unit, 18 * unit, 28 * unit), 3, 3)
        painter.drawRect(QRectF(x - 6 * unit, y - 6 * unit, 12 * unit, 8 * unit))
        painter.drawLine(QPointF(x - 5 * unit, y - 10 * unit), QPointF(x - 5 * unit, y - 18 * unit))
    elif place == "you":
        painter.drawArc(QRectF(x - 16 * unit, y - 6 * unit, 20 * unit, 20 * unit), 20 * 16, 220 * 16)
        painter.drawArc(QRectF(x - 4 * unit, y - 6 * unit, 20 * unit, 20 * unit), 300 * 16, 220 * 16)
    else:
        painter.drawRoundedRect(QRectF(x - 17 * unit, y - 14 * unit, 34 * unit, 22 * unit), 2, 2)
        painter.drawLine(QPointF(x - 22 * unit, y + 14 * unit), QPointF(x + 22 * unit, y + 14 * unit))


def _draw_card(painter: QPainter, at: QPointF, unit: float, theme: Theme) -> None:
    """The card, with its cut corner."""
    x, y, width, height = at.x(), at.y(), 13 * unit, 17 * unit
    corners = [(0.0, 0.0), (width - 5 * unit, 0.0), (width, 5 * unit), (width, height), (0.0, height)]
    painter.setPen(QPen(theme.color("violet"), 1.6))
    painter.setBrush(theme.color("violet_tint"))
    painter.drawPolygon(QPolygonF([QPointF(x + right, y + down) for right, down in corners]))
    for at_x in (3, 6):
        painter.drawLine(QPointF(x + at_x * unit, y + 3 * unit), QPointF(x + at_x * unit, y + 6 * unit))
