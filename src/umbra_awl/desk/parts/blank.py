"""What stands in a page's place while it has nothing to show: what belongs there, a picture of it, and the step to begin."""

from collections.abc import Callable
from typing import NamedTuple

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QPushButton, QWidget

from umbra_awl.core.agenda.next_steps import Where
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.pictures import Draw, Picture, radio, sheet
from umbra_awl.desk.parts.widgets import button, card, clear, column, row, words
from umbra_awl.desk.theme.theme import Theme


class Blank(NamedTuple):
    """Its words and its acts (words, what they do); the first is the step to begin."""

    title: str
    text: str
    picture: Draw
    acts: tuple[tuple[str, Callable[[], object]], ...]


Why = Callable[[], Blank | None]
"""Why there is nothing to show on a page just now; None when there is something."""


class BlankPage(QWidget):
    """Shows one blank at a time, in the middle of the page."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.shown: Blank | None = None
        self.begin: QPushButton | None = None
        outer = column(self)
        outer.addStretch(2)
        line = row()
        line.addStretch(1)
        frame = card()
        frame.setMinimumWidth(theme.px(300))
        frame.setMaximumWidth(theme.px(560))
        self._inside = column(frame, 10, 20)
        line.addWidget(frame, 3)
        line.addStretch(1)
        outer.addLayout(line)
        outer.addStretch(3)

    def show_blank(self, blank: Blank) -> None:
        """Show another one; the same stays as it is, with the keyboard where it was."""
        if self.shown is not None and blank[:3] == self.shown[:3]:
            return
        self.shown = blank
        clear(self._inside)
        self._inside.addWidget(Picture(self._theme, blank.picture))
        self._inside.addWidget(words(blank.title, "title", wrap=True))
        self._inside.addWidget(words(blank.text, wrap=True))
        acts = row(gap=6)
        made = [button(text, does, "" if at else "main") for at, (text, does) in enumerate(blank.acts)]
        for one in made:
            acts.addWidget(one)
        acts.addStretch(1)
        self._inside.addLayout(acts)
        self.begin = next(iter(made), None)

    def take_focus(self) -> None:
        """Give the keyboard to the step to begin."""
        if self.begin is not None:
            self.begin.show()  # only what is shown can take it
            self.begin.setFocus(Qt.FocusReason.OtherFocusReason)


def goes(bench: Workbench, stage: str, page: str, field: str = "") -> Callable[[], object]:
    """What leads to a place of the window."""
    return lambda: bench.where_wanted.emit(Where(stage, page, field))


def no_radio(bench: Workbench, what: str) -> Blank | None:
    """Why a page about one radio is blank: there is none in the plan. `what` it will hold then, as a sentence."""
    if bench.plan.radios:
        return None
    acts = (
        ("Add a radio", goes(bench, "radios", "memory", "add radio")),
        ("Which one to buy", goes(bench, "radios", "which")),
    )
    return Blank("No radio yet", f"Say which radios you own. {what}", radio, acts)


def no_access(bench: Workbench, what: str) -> Blank | None:
    """Why a page about routes is blank: there is no access point in the plan, and no destination either."""
    if bench.plan.access or bench.plan.destinations:
        return None
    acts = (
        ("See what is around you", goes(bench, "access", "around", "list")),
        ("Add one by hand", goes(bench, "routes", "sheet", "add access")),
    )
    return Blank(
        "No access point yet", f"A repeater, a hotspot or a frequency is where a route begins. {what}", sheet, acts
    )


def no_route(bench: Workbench, what: str, picture: Draw) -> Blank | None:
    """Why a page about routes is blank: nothing is punched."""
    if bench.plan.routes:
        return None
    acts = (("Go to the punch sheet", goes(bench, "routes", "sheet", "sheet")),)
    return Blank("No route yet", f"Punch a crossing: this destination, through that service. {what}", picture, acts)
