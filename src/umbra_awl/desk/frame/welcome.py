"""What is shown while no plan is open: four doors, each with what is behind it."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QGridLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from umbra_awl.core.plan.saves import SUFFIX
from umbra_awl.desk.parts.thread import bead, stitch
from umbra_awl.desk.parts.widgets import button, card, clear, column, row, scrolled, words
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.theme.theme import Theme

_LEAD = (
    "Keep access points and destinations once and punch the crossings you use. Every radio you own gets its channels from the "
    "same plan, checked and traced before anything is written."
)
_BEGIN = "The licence is on its way, or new. Go step by step; until it is granted, everything only listens."
_BRING = "Bring it in by cable or from files. Its channels become a plan for all your radios."
_PLAN = "Open a plan file. Those you had open last are below."
_SHOW = "An invented country with repeaters, people and simulated radios, in a window of its own. Nothing can go wrong there."
_MOST_RECENT = 4


class Doors(NamedTuple):
    """What is behind the doors: begin a plan, bring a radio in, ask for a plan or open one, show the demo."""

    begin: Callable[[], object]
    bring: Callable[[], object]
    ask_open: Callable[[], object]
    open_plan: Callable[[Path], object]
    demo: Callable[[], object]


class _Picture(QWidget):
    """A small drawing of what is behind a door."""

    def __init__(self, theme: Theme, draw: Callable[[QPainter, Theme, float, float], None]) -> None:
        super().__init__()
        self._theme, self._draw = theme, draw
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(200, self._theme.px(64))

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._draw(painter, self._theme, float(self.width()), float(self.height()))


def _steps(painter: QPainter, theme: Theme, width: float, height: float) -> None:
    """A thread through beads: the first is done, the next one is open."""
    y, gap = height / 2, min(width / 6, 70.0)
    for at in range(4):
        done = at == 0
        color = theme.color("violet" if done else "line")
        stitch(painter, QPointF(14 + at * gap, y), QPointF(14 + (at + 1) * gap, y), color, solid=done)
        bead(
            painter,
            QPointF(14 + at * gap, y),
            theme.color("violet" if done else "ink2"),
            theme.color("panel"),
            filled=done,
        )


def _radio(painter: QPainter, theme: Theme, width: float, height: float) -> None:
    """A radio whose memories come out as rows of a plan."""
    painter.setPen(QPen(theme.color("ink2"), 1.6))
    painter.setBrush(theme.color("sheet"))
    painter.drawRoundedRect(QRectF(14, 14, 28, height - 20), 4, 4)
    painter.drawLine(QPointF(20, 14), QPointF(20, 2))
    painter.drawRect(QRectF(19, 20, 18, 9))
    for at in range(4):
        y = 16 + at * (height - 28) / 3
        stitch(painter, QPointF(50, height / 2), QPointF(96, y), theme.color("violet"), solid=True)
        bead(painter, QPointF(104, y), theme.color("hole"), theme.color("panel"), filled=True)
        painter.fillRect(QRectF(116, y - 2, min(width - 130, 90 - 14 * (at % 2)), 4), theme.color("line"))


def _sheet(painter: QPainter, theme: Theme, width: float, height: float) -> None:
    """A small punch sheet."""
    size = min((height - 8) / 3, 22.0)
    for down in range(3):
        for across in range(min(7, int((width - 20) / size))):
            box = QRectF(14 + across * size, 4 + down * size, size - 2, size - 2)
            shade = (across + 2 * down) % 5 == 0
            painter.fillRect(box, theme.color("shade" if shade else "sheet"))
            if not shade and (across * 3 + down * 5) % 4 == 1:
                bead(painter, box.center(), theme.color("hole"), theme.color("sheet"), filled=True)


def _world(painter: QPainter, theme: Theme, width: float, height: float) -> None:
    """Rings around a place, with a few access points."""
    middle = QPointF(min(width / 3, 90.0), height / 2)
    painter.setPen(QPen(theme.color("line"), 1.2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for radius in (12.0, 22.0, 31.0):
        painter.drawEllipse(middle, radius * 1.6, min(radius, height / 2 - 2))
    for x, y in ((-30, -12), (18, 9), (40, -6), (-10, 14)):
        bead(painter, middle + QPointF(x, y), theme.color("violet"), theme.color("panel"), filled=x > 0)


class Welcome(QWidget):
    """The page without a plan. The doors are given what they do."""

    def __init__(self, theme: Theme, settings: Settings, doors: Doors) -> None:
        super().__init__()
        self._theme, self._settings, self._open = theme, settings, doors.open_plan
        inside = QWidget()
        outer = column(inside, 10, 18)
        outer.addWidget(words("One plan, every radio", "title"))
        outer.addWidget(words(_LEAD, wrap=True))
        grid = QGridLayout()
        grid.setSpacing(12)
        self.doors: dict[str, QPushButton] = {}
        behind = (
            ("I begin", _BEGIN, _steps, doors.begin),
            ("I have a radio that is programmed", _BRING, _radio, doors.bring),
            ("I have a plan", _PLAN, _sheet, doors.ask_open),
            ("Show me", _SHOW, _world, doors.demo),
        )
        for at, (title, why, draw, does) in enumerate(behind):
            grid.addWidget(self._door(title, why, draw, does, main=at == 0), at // 2, at % 2)
        outer.addLayout(grid)
        self._recent: QVBoxLayout = column(gap=0)
        outer.addLayout(self._recent)
        outer.addStretch(1)
        column(self).addWidget(scrolled(inside))
        self.refresh()

    def _door(
        self,
        title: str,
        why: str,
        draw: Callable[[QPainter, Theme, float, float], None],
        does: Callable[[], object],
        *,
        main: bool,
    ) -> QWidget:
        frame = card()
        inner = column(frame, 6, 14)
        inner.addWidget(_Picture(self._theme, draw))
        made = button(title, does, "main" if main else "")
        made.setAccessibleDescription(why)
        self.doors[title] = made
        head = row()
        head.addWidget(made)
        head.addStretch(1)
        inner.addLayout(head)
        inner.addWidget(words(why, "second", wrap=True))
        inner.addStretch(1)
        return frame

    def refresh(self) -> None:
        """Show the plans that were open last and are still there."""
        clear(self._recent)
        there = [Path(name) for name in self._settings.kept.recent if Path(name).is_file()][:_MOST_RECENT]
        if there:
            self._recent.addWidget(words("Opened last", "second"))
        for path in there:
            line = row(gap=6)
            line.addWidget(button(path.name.removesuffix(SUFFIX), partial(self._open, path), "", str(path)))
            line.addWidget(words(str(path.parent), "second"), 1)
            self._recent.addLayout(line)

    def take_focus(self) -> None:
        """Give the keyboard to the first door."""
        next(iter(self.doors.values())).setFocus()
