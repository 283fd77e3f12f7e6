"""What is shown while no plan is open: four doors, each with what is behind it."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtWidgets import QGridLayout, QPushButton, QVBoxLayout, QWidget

from umbra_awl.core.plan.disk.saves import SUFFIX
from umbra_awl.desk.parts import pictures
from umbra_awl.desk.parts.pictures import Draw, Picture
from umbra_awl.desk.parts.widgets import button, card, clear, column, row, scrolled, words
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.theme.theme import Theme

_LEAD = (
    "Keep access points and destinations once and punch the crossings you use. Every radio you own gets its channels from the "
    "same plan, checked and traced before anything is written."
)
_BEGIN = "The licence is on its way, or new. Go step by step; until it is granted, everything only listens."
_BRING = "Bring it in by cable, card or from files. Its channels become a plan for all your radios."
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
            ("I begin", _BEGIN, pictures.steps, doors.begin),
            ("I have a radio that is programmed", _BRING, pictures.radio, doors.bring),
            ("I have a plan", _PLAN, pictures.sheet, doors.ask_open),
            ("Show me", _SHOW, pictures.world, doors.demo),
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
        draw: Draw,
        does: Callable[[], object],
        *,
        main: bool,
    ) -> QWidget:
        frame = card()
        inner = column(frame, 6, 14)
        inner.addWidget(Picture(self._theme, draw))
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
