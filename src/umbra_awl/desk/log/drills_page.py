"""Drills: the boxes of what is practised, and the three ways to practise."""

from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QStackedWidget, QWidget

from umbra_awl.core.drills.schedule import boxes
from umbra_awl.core.facts.counting import counted
from umbra_awl.desk.drills.boxes_picture import BoxesPicture
from umbra_awl.desk.drills.coach import Coach
from umbra_awl.desk.drills.fault_panel import FaultPanel
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.widgets import button, card, column, rows_of, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.desk.drills.keypad_panel import KeypadPanel
    from umbra_awl.desk.drills.questions_panel import QuestionsPanel

WAYS = {"fault": "Find the fault", "keys": "On the keypad", "questions": "Fields and figures"}
_HIGH = 520
_KEPT = "Known twice, it comes back after 3 days, then 7, 16, 35; not known, tomorrow. Kept on this machine, shown to nobody."


class DrillsPage(QWidget):
    """The canvas page."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench, self._theme = bench, theme
        self.coach = Coach(bench)
        self.way = ""
        outer = column(self, 6)
        self.told = words("", wrap=True)
        outer.addWidget(self.told)
        self.picture = BoxesPicture(theme)
        outer.addWidget(self.picture)
        self.kept = words(_KEPT, "second", wrap=True)
        outer.addWidget(self.kept)
        self.tabs = {key: button(word, partial(self.show_way, key), "segment") for key, word in WAYS.items()}
        outer.addLayout(rows_of(*self.tabs.values(), gap=4))
        frame = card()
        inner = column(frame, 0, 12)
        self.stack = QStackedWidget()
        inner.addWidget(self.stack)
        outer.addWidget(frame, 1)
        self._made: dict[str, QWidget] = {}
        self.fault = FaultPanel(bench, theme, self.coach)
        self.coach.changed.connect(self.refresh)
        bench.results_changed.connect(self.refresh)
        self.show_way("fault")

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """In a low window the boxes give their room to what is practised; how many there are stays said."""
        super().resizeEvent(event)
        high = self.height() >= self._theme.px(_HIGH)
        self.picture.setVisible(high)
        self.kept.setVisible(high)

    @property
    def keys(self) -> "KeypadPanel":
        """The keypad, made when first shown."""
        from umbra_awl.desk.drills.keypad_panel import KeypadPanel

        if "keys" not in self._made:
            self._made["keys"] = KeypadPanel(self._bench, self._theme, self.coach)
        return self._made["keys"]  # type: ignore[return-value]

    @property
    def questions(self) -> "QuestionsPanel":
        """The questions, made when first shown."""
        from umbra_awl.desk.drills.questions_panel import QuestionsPanel

        if "questions" not in self._made:
            self._made["questions"] = QuestionsPanel(self._theme, self.coach)
        return self._made["questions"]  # type: ignore[return-value]

    def show_way(self, way: str) -> None:
        """Show one of the ways to practise."""
        self.way = way
        panel: QWidget = getattr(self, way)
        if self.stack.indexOf(panel) < 0:
            self.stack.addWidget(panel)
        self.stack.setCurrentWidget(panel)
        chosen_of(self.tabs, way)
        self.refresh()
        self.take_focus()

    def _keys(self) -> list[str]:
        """What is practised in this way."""
        if self.way == "fault":
            return self.coach.faults()
        return self.coach.keyed() if self.way == "keys" else list(self.coach.questions())

    def refresh(self) -> None:
        """Show the boxes of what is practised in this way."""
        keys = self._keys()
        known = [key for key in self.coach.due(keys) if key in self.coach.practice.cards]
        self.picture.show_boxes(boxes(self.coach.practice, keys), frozenset(known))
        fresh = sum(key not in self.coach.practice.cards for key in keys)
        self.told.setText(
            f"{WAYS[self.way]}: {counted(len(keys), 'thing')} to know, {len(known)} due now, {fresh} never asked."
        )

    def take_focus(self) -> None:
        """Give the keyboard to the way that is shown."""
        panel = getattr(self, self.way)
        if self.isVisible():
            panel.take_focus()

    def reach(self, field: str) -> bool:
        """One of the ways to practise."""
        if field in WAYS:
            self.show_way(field)
        return field in WAYS
