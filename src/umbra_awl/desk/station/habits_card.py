"""Where practitioners disagree: each question with both ways and their reasons; one is chosen once, or none."""

from functools import partial

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.facts.habits import HabitQuestion, habit_questions
from umbra_awl.core.plan.edit.edit_station import set_habit
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Choice, Field
from umbra_awl.desk.parts.widgets import column, words

_NOTE = "Findings, sheets, steps and drills follow what you choose; without a choice they say nothing of it."


class HabitsCard(QWidget):
    """A field a question; below it the reasons of the chosen ways."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 4)
        outer.addWidget(words("Where people disagree", "title"))
        self.card = FieldList(120)
        outer.addWidget(self.card)
        outer.addWidget(words(_NOTE, "second", wrap=True))
        self.refresh()

    def refresh(self) -> None:
        """Show what the plan keeps to."""
        self.card.show_fields([self._field(question) for question in habit_questions()])

    def _field(self, question: HabitQuestion) -> Field:
        now = getattr(self._bench.plan.station.habits, question.field)
        way = question.way(now)
        choices = [
            Choice(f"{item.words}: {item.why}", partial(self._set, question, item.key), item.key == now)
            for item in question.ways
        ]
        choices.append(Choice("not chosen", partial(self._set, question, ""), way is None))
        return Field(question.topic, way.words if way else "not chosen", choices=choices, tip=way.why if way else "")

    def _set(self, question: HabitQuestion, key: str) -> None:
        self._bench.do(set_habit(question, key))
