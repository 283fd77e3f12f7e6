"""What stands beside the lead-time chart: what can go on today, and the chosen step."""

from functools import cached_property, partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.widgets import button, card, clear, column, row, scrolled, words
from umbra_awl.desk.station.step_fields import step_fields, toggle_done

if TYPE_CHECKING:
    from umbra_awl.desk.station.stage import StationStage


class StepPart:
    """Shows and changes the step chosen in the chart."""

    def __init__(self, owner: "StationStage") -> None:
        self._stage = owner

    @cached_property
    def step(self) -> QWidget:
        """What stands beside the chart: what can go on today, and the chosen step."""
        step = QWidget()
        inner = column(step, 6)
        self._today = column(gap=4)
        inner.addLayout(self._today)
        self.step_card = FieldList(76)
        inner.addWidget(self.step_card)
        line = row(gap=2)
        self._done = button("Mark as done", self._toggle, "main")
        line.addWidget(self._done)
        line.addStretch(1)
        inner.addLayout(line)
        inner.addStretch(1)
        made = scrolled(step)
        self.step_changed()
        return made

    def step_changed(self) -> None:
        if "lead" in vars(self._stage) and self._stage.lead.who != self._stage.person:
            self._stage.choose_person(self._stage.lead.who)
        if "step" not in vars(self) and not hasattr(self, "step_card"):
            return
        self.show_today()
        step = self._stage.lead.step
        self._done.setVisible(step is not None)
        if step is None:
            self.step_card.show_fields([], note="Choose a step in the chart to see and change it.")
            return
        self.step_card.show_fields(step_fields(self._stage.bench, step), note=step.needs)
        self._done.setText("Mark as not done" if step.done else "Mark as done today")

    def edit_step(self) -> None:
        self.step_card.focus_first()

    def _toggle(self) -> None:
        step = self._stage.lead.step
        if step is not None:
            toggle_done(self._stage.bench, step)

    def show_today(self) -> None:
        """What of the chart can go on today."""
        if "lead" not in vars(self._stage) or not hasattr(self, "_today"):
            return
        clear(self._today)
        drawn = self._stage.lead.drawn
        ready = [bar.step for bar in drawn.bars if bar.ready] if drawn else []
        if not ready:
            return
        frame = card()
        inner = column(frame, 2, 8)
        inner.addWidget(words("Today", "violet"))
        for step in ready[:4]:
            word = "asked for, wait" if step.started and step.waiting else "ask for it" if step.waiting else "do it"
            line = row(gap=6)
            line.addWidget(button(step.name, partial(self._open_step, step.key), "", step.needs))
            line.addWidget(words(word, "second"), 1)
            inner.addLayout(line)
        self._today.addWidget(frame)

    def _open_step(self, key: str) -> None:
        self._stage.lead.chart.choose(key)
        self.step_card.focus_first()
