"""The Station stage: when you can be on the air, who you are, what your licence allows, where you are, and what to do next."""

from collections.abc import Callable
from functools import cached_property, partial
from typing import TypeVar

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.plan.edit_station import whose_licence
from umbra_awl.desk.parts.field_list import FieldList
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, card, clear, column, row, scrolled, words
from umbra_awl.desk.station.battery import BatteryHours
from umbra_awl.desk.station.exposure import Exposure
from umbra_awl.desk.station.lead_panel import LeadPanel
from umbra_awl.desk.station.licence_fields import free_tuning_words, licence_fields
from umbra_awl.desk.station.next_steps import steps_of
from umbra_awl.desk.station.pages import GUARD_NOTE, Bands, Networks, PlacePage, Who
from umbra_awl.desk.station.step_fields import step_fields, toggle_done
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

_Page = TypeVar("_Page", Bands, PlacePage, Networks)


class StationStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it. `find_site` sets the position from a site's name."""

    def __init__(self, bench: Workbench, theme: Theme, find_site: Callable[[str], None]) -> None:
        super().__init__()
        self._bench = bench
        self._made: list[Bands | PlacePage | Networks] = []
        outer = column(self, 6)
        self.lead = LeadPanel(bench, theme)
        outer.addWidget(self.lead, 7)
        self.who = Who(bench, self.toggle_ids)
        self._theme, self._find_site = theme, find_site
        self._licence_card = FieldList(84)
        licence = self._licence_page()
        self.pages = Pages(
            (
                Page("who", "Who", lambda: self.who),
                Page("licence", "Licence", lambda: licence),
                Page("bands", "Bands", lambda: self.bands),
                Page("place", "Place", lambda: self.place),
                Page("networks", "Networks", lambda: self.networks),
                Page("exposure", "Exposure", lambda: scrolled(self.exposure)),
                Page("battery", "Battery", lambda: scrolled(self.battery)),
            ),
            gap=0,
        )
        self.pages.tabs.line.addStretch(1)
        outer.addWidget(self.pages.tabs)
        outer.addWidget(self.pages, 5)
        self.side = self._side()
        self.show_page("who")
        self._fresh = WhenChanged(self, self._parts, self.refresh)
        bench.plan_changed.connect(self._fresh.check)
        bench.ids_changed.connect(self.who.refresh)
        self._step_changed()
        bench.results_changed.connect(self._show_steps)
        self.lead.step_changed.connect(self._step_changed)
        self.lead.edit_asked.connect(self._edit_step)

    @cached_property
    def bands(self) -> Bands:
        """The bands in force."""
        return self._filled(Bands(self._bench, self._theme, self._licence_who))

    @cached_property
    def place(self) -> PlacePage:
        """Where the station is."""
        made = PlacePage(self._bench)
        made.site.returnPressed.connect(lambda: self._find_site(made.site.text()))
        return self._filled(made)

    @cached_property
    def networks(self) -> Networks:
        """The networks with their conventions."""
        return self._filled(Networks(self._bench))

    @cached_property
    def exposure(self) -> Exposure:
        """RF exposure."""
        return Exposure(self._bench, self._theme)

    @cached_property
    def battery(self) -> BatteryHours:
        """Hours on the battery."""
        return BatteryHours(self._bench, self._theme)

    def _filled(self, page: _Page) -> _Page:
        page.refresh()
        self._made.append(page)
        return page

    def _parts(self) -> tuple[object, ...]:
        """What of the plan is shown here."""
        plan = self._bench.plan
        return plan.station, plan.networks, plan.access, plan.destinations, plan.radios, plan.routes

    @property
    def _cards(self) -> dict[str, FieldList]:
        """The cards of identities and networks by key."""
        return self.who.cards | (self.networks.cards if "networks" in vars(self) else {})

    def _licence_page(self) -> QWidget:
        inside = QWidget()
        line = row(inside, 12)
        left = column(gap=2)
        self._whose = words("", "violet")
        left.addWidget(self._whose)
        left.addWidget(self._licence_card)
        left.addStretch(1)
        line.addLayout(left, 3)
        right = column(gap=6)
        right.addWidget(words("The receive-only guard", "title"))
        right.addWidget(words(GUARD_NOTE, "", wrap=True))
        self.free = words("", "second", wrap=True)
        right.addWidget(self.free)
        right.addStretch(1)
        line.addLayout(right, 2)
        return scrolled(inside)

    def _side(self) -> QWidget:
        side = QWidget()
        outer = column(side, 6)
        steps, step = self._steps_made(), self._step_made()
        self.beside = Pages((Page("next", "What to do next", lambda: steps), Page("step", "Step", lambda: step)))
        self.beside.tabs.line.addStretch(1)
        outer.addWidget(self.beside.tabs)
        outer.addWidget(self.beside, 1)
        self.show_side("next")
        return side

    def _steps_made(self) -> QWidget:
        steps = QWidget()
        self._steps = column(steps, 4)
        return scrolled(steps)

    def _step_made(self) -> QWidget:
        step = QWidget()
        inner = column(step, 6)
        self.step_card = FieldList(76)
        inner.addWidget(self.step_card)
        line = row(gap=2)
        self._done = button("Mark as done", self._toggle, "main")
        line.addWidget(self._done)
        line.addStretch(1)
        inner.addLayout(line)
        inner.addStretch(1)
        return scrolled(step)

    def show_side(self, name: str) -> None:
        """Show what to do “next”, or the current “step”."""
        self.beside.show_page(name)

    def show_page(self, name: str) -> None:
        """Show one of the pages under the chart: “who”, “licence”, “bands”, “place”, “networks”, “exposure”, “battery”."""
        self.pages.show_page(name)

    def take_focus(self) -> None:
        """Give the keyboard to the chart, or to the first value while there is none."""
        if self.lead.drawn is not None and self.lead.drawn.bars:
            self.lead.chart.setFocus()
            return
        for made in self._cards.values():
            made.focus_first()
            return

    def _licence_who(self) -> str:
        """Whose licence is shown: an identity's own, or the station's (empty)."""
        return whose_licence(self._bench.plan, self.lead.who)

    def refresh(self) -> None:
        """Show the plan's station."""
        self.who.refresh()
        for page in self._made:
            page.refresh()
        self._show_licence()
        self._show_steps()

    def _show_licence(self) -> None:
        who = self._licence_who()
        identities = self._bench.plan.station.identities
        identity = next((item for item in identities if item.key == who), identities[0] if identities else None)
        several = len(identities) > 1
        name = (identity.name or identity.call or identity.key) if identity else ""
        self._whose.setText(f"Licence of {name}" if several else "")
        self._whose.setVisible(several)
        self._licence_card.show_fields(licence_fields(self._bench, who))
        self.free.setText(free_tuning_words(self._bench, who))

    def toggle_ids(self) -> None:
        """Show the IDs, or mask them again."""
        self._bench.show_ids(not self._bench.ids_shown)

    def add_identity(self) -> None:
        """Add an empty identity to be filled in."""
        self.who.add()

    def _step_changed(self) -> None:
        step = self.lead.step
        self.beside.tabs.buttons[1].setEnabled(step is not None)
        self._show_licence()
        for page in self._made:
            page.refresh()
        self._show_steps()
        if step is None:
            self.show_side("next")
            self.step_card.show_fields([])
            return
        self.step_card.show_fields(step_fields(self._bench, step), note=step.needs)
        self._done.setText("Mark as not done" if step.done else "Mark as done today")
        if self.lead.chart.hasFocus():
            self.show_side("step")

    def _edit_step(self) -> None:
        self.show_side("step")
        self.step_card.focus_first()

    def _toggle(self) -> None:
        step = self.lead.step
        if step is not None:
            toggle_done(self._bench, step)

    def _go(self, stage: str) -> None:
        stops = [item for item in self._bench.results.findings if item.severity == "stop"]
        if stage == "finding" and stops:
            self._bench.show(stops[0].target)
        else:
            self._bench.stage_wanted.emit(stage)

    def _show_steps(self) -> None:
        clear(self._steps)
        self._show_today()
        frame = card()
        inner = column(frame, 4, 8)
        found = False
        for step in steps_of(self._bench.plan, sum(item.severity == "stop" for item in self._bench.results.findings)):
            line = row(gap=6)
            line.addWidget(words("●" if step.done else "○", "ok" if step.done else "second"))
            if step.done:
                line.addWidget(words(step.words, "second", wrap=True), 1)
            else:
                made = button(step.words, partial(self._go, step.stage), "" if found else "main")
                line.addWidget(made)
                line.addStretch(1)
                found = True
            inner.addLayout(line)
        if not found:
            inner.addWidget(words("All set. Transfer carries the plan into your radios.", "ok", wrap=True))
        self._steps.addWidget(frame)
        self._steps.addStretch(1)

    def _show_today(self) -> None:
        """What of the chart can go on today."""
        drawn = self.lead.drawn
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
        self._steps.addWidget(frame)

    def _open_step(self, key: str) -> None:
        self.lead.chart.choose(key)
        self.show_side("step")
