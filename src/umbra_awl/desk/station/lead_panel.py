"""The chart with its sentence, whose it is, its templates and its calendar."""

from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QInputDialog, QMenu, QWidget

from umbra_awl.core.agenda.calendar import chart_ics
from umbra_awl.core.agenda.lead import Chart, chart, day_words
from umbra_awl.core.agenda.steps import (
    Template,
    add_step,
    own_templates,
    remove_step,
    steps_for,
    templates,
    use_template,
)
from umbra_awl.core.plan.model import Identity, Step
from umbra_awl.desk.asked import ask_button
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.saving import FilePlace, ask_place, save_file
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import act, button, card, clear, column, row, scrolled, words
from umbra_awl.desk.station.lead_chart import LeadChart
from umbra_awl.desk.station.step_fields import toggle_done
from umbra_awl.desk.theme.theme import Theme

_EMPTY = (
    "When can you be on the air? Licence, ID, accounts, radio and hotspot have lead times and wait for one another. Begin with a "
    "template, change the days to what you are told, and mark what is done."
)

if TYPE_CHECKING:
    from umbra_awl.core.asked.figure import Figure


class LeadPanel(QWidget):
    """One chart for the chosen identity."""

    step_changed = pyqtSignal()
    edit_asked = pyqtSignal()

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        self.who = ""
        self.drawn: Chart | None = None
        outer = column(self, 4)
        head = row(gap=2)
        self._title = words("", "title", wrap=True)
        head.addWidget(self._title, 1)
        self._people = row(gap=2)
        head.addLayout(self._people)
        self._more = button("Steps ▾", self._open_menu, tip="Templates, add, remove, calendar")
        head.addWidget(ask_button(bench))
        head.addWidget(self._more)
        outer.addLayout(head)
        self._lead = words("", "second", wrap=True)
        outer.addWidget(self._lead)
        self.chart = LeadChart(theme)
        frame = card()
        inner = column(frame, 0, 6)
        self._scroll = scrolled(self.chart)
        inner.addWidget(self._scroll)
        self._start = QWidget()
        start = column(self._start, 8, 8)
        start.addWidget(words(_EMPTY, "second", wrap=True))
        for at, template in enumerate(templates()):
            line = row(gap=8)
            line.addWidget(button(f"Begin: {template.name}", partial(self.use, at), "main" if not at else ""))
            line.addWidget(words(template.summary, "second"), 1)
            start.addLayout(line)
        start.addStretch(1)
        inner.addWidget(self._start)
        outer.addWidget(frame, 1)
        self.chart.chosen.connect(lambda _key: self.step_changed.emit())
        self.chart.edit_asked.connect(self.edit_asked.emit)
        self.chart.toggled.connect(self.toggle)
        bench.document_changed.connect(self._reset)
        self._reset()
        self._fresh = WhenChanged(self, lambda: (bench.plan.steps, bench.plan.station), self.refresh)
        bench.plan_changed.connect(self._fresh.check)

    def _reset(self) -> None:
        """Another plan: whoever has open steps, else the owner."""
        plan = self._bench.plan
        owner = plan.station.identities[0].key if plan.station.identities else ""
        self.who = next((step.who for step in plan.steps if not step.done), owner)
        self.refresh()

    def _owner(self) -> str:
        identities = self._bench.plan.station.identities
        return identities[0].key if identities else ""

    def choose(self, who: str) -> None:
        """Show the chart of an identity."""
        self.who = who
        self.refresh()

    def refresh(self) -> None:
        """Draw the chart anew, in the background."""
        plan = self._bench.plan
        if self.who not in {item.key for item in plan.station.identities}:
            self.who = self._owner()
        clear(self._people)
        people = plan.station.identities if len(plan.station.identities) > 1 else ()
        made = {
            item.key: button(item.name or item.call or item.key, partial(self.choose, item.key), "segment")
            for item in people
        }
        chosen_of(made, self.who)
        for word in made.values():
            self._people.addWidget(word)
        steps = steps_for(plan, self.who)
        self._start.setVisible(not steps)
        self._scroll.setVisible(bool(steps))
        today = self._bench.clock.today()
        self._bench.jobs.latest("lead", lambda: chart(steps, today), self._take)

    def figures(self) -> "list[Figure]":
        """The days until one is on the air."""
        from umbra_awl.core.asked.counted import lead_figure

        found = lead_figure(self.drawn) if self.drawn is not None else None
        return [found] if found is not None else []

    def _take(self, drawn: Chart) -> None:
        self.drawn = drawn
        self.chart.show_chart(drawn)
        identity = next((item for item in self._bench.plan.station.identities if item.key == self.who), None)
        self._title.setText(self._headline(drawn, identity))
        self._lead.setText(_spread_words(drawn))
        self._lead.setVisible(bool(drawn.bars))
        self.step_changed.emit()

    def _headline(self, drawn: Chart, identity: Identity | None) -> str:
        whose = (
            f" – {identity.name or identity.call}" if identity and len(self._bench.plan.station.identities) > 1 else ""
        )
        if drawn.forecast is None:
            return f"When you can be on the air{whose}"
        if all(bar.done for bar in drawn.bars):
            return f"On the air{whose}"
        return f"On the air: likely {day_words(drawn.forecast.p50)}{whose}"

    @property
    def step(self) -> Step | None:
        """The current step."""
        return next(
            (item for item in self._bench.plan.steps if item.key == self.chart.current and item.who == self.who), None
        )

    def toggle(self, key: str) -> None:
        """Mark a step as done, or as not done."""
        step = next(item for item in self._bench.plan.steps if item.key == key)
        toggle_done(self._bench, step)

    def _templates(self) -> tuple[Template, ...]:
        """The templates that ship, and own ones."""
        return (*templates(), *own_templates(self._bench.profiles.folder / "templates"))

    def use(self, at: int) -> None:
        """Begin with a template."""
        self._bench.do(use_template(self._templates()[at], self.who, self._bench.clock.today()))

    def menu(self) -> QMenu:
        """What can be done with the steps."""
        menu = QMenu(self)
        for at, template in enumerate(self._templates()):
            act(menu, f"Begin anew: {template.name}", partial(self.use, at))
        act(menu, "Add a step", self._ask_step)
        step = self.step
        if step is not None:
            act(
                menu,
                f"Remove “{step.name}”",
                partial(self._bench.do_told, remove_step(step), "What waited for it waits no more."),
            )
        act(menu, "Save as a calendar", self._ask_calendar)
        menu.aboutToHide.connect(menu.deleteLater)
        return menu

    def _open_menu(self) -> None:
        self.menu().popup(self._more.mapToGlobal(self._more.rect().bottomLeft()))

    def _ask_step(self) -> None:
        name, done = QInputDialog.getText(self, "Add a step", "What must be obtained or done?")
        if done and name.strip():
            self.add(name.strip())

    def add(self, name: str) -> None:
        """Add a step that waits for nothing yet."""
        self._bench.do(add_step(self._bench.plan, name, self.who))

    def _ask_calendar(self) -> None:
        place = ask_place(self, "Save the steps as a calendar", "on-the-air.ics", "iCalendar (*.ics)", ".ics")
        if place is not None:
            self.save_calendar(place)

    def save_calendar(self, place: FilePlace) -> None:
        """Write the steps as iCalendar; a refusal is said."""
        if self.drawn is None or not self.drawn.bars:
            self._bench.say("There are no steps yet. Begin with a template.")
            return
        drawn = self.drawn
        save_file(self._bench, place, lambda: chart_ics(drawn))


def _spread_words(drawn: Chart) -> str:
    forecast = drawn.forecast
    if forecast is None:
        return ""
    waits = (
        f" While waiting for {' and '.join(drawn.waiting_for)}: listen, practise, prepare the plan."
        if drawn.waiting_for
        else ""
    )
    return (
        f"If all goes fastest {day_words(forecast.earliest)}, slowest {day_words(forecast.latest)}. "
        f"{len(forecast.draws):,} simulated runs; public holidays not counted.{waits}"
    )
