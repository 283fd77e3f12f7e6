"""The Station stage: when you can be on the air, who you are, what your licence allows, where you are, and what to do next."""

from collections.abc import Callable, Mapping
from functools import cached_property, partial
from typing import TypeVar

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.agenda.next_steps import NextStep
from umbra_awl.core.plan.edit.edit_station import whose_licence
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.side_by_side import SideBySide
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, card, clear, column, row, scrolled, words
from umbra_awl.desk.station.battery import BatteryHours
from umbra_awl.desk.station.exposure import Exposure
from umbra_awl.desk.station.lead_panel import LeadPanel
from umbra_awl.desk.station.licence_fields import free_tuning_words, licence_fields
from umbra_awl.desk.station.me_page import MePage
from umbra_awl.desk.station.next_page import NextPage
from umbra_awl.desk.station.pages import GUARD_NOTE, Bands, Networks, PlacePage, Who
from umbra_awl.desk.station.radios_picture import ASSUMED, RadiosPicture
from umbra_awl.desk.station.step_fields import step_fields, toggle_done
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

_Page = TypeVar("_Page", Bands, PlacePage, Networks)


class StationStage(QWidget):
    """The canvas of the stage; `find_site` sets the position from a site's name, `go` leads to a step."""

    def __init__(
        self,
        bench: Workbench,
        theme: Theme,
        find_site: Callable[[str], None],
        go: Callable[[NextStep], object],
        titles: Mapping[str, str],
        parts: Mapping[str, str],
    ) -> None:
        super().__init__()
        self._bench = bench
        self._made: list[Bands | PlacePage | Networks] = []
        self._theme, self._find_site, self._parts_of = theme, find_site, parts
        self._person = ""
        outer = column(self, 6)
        self.next = NextPage(theme, go, titles)
        self.who = Who(bench, self.toggle_ids)
        self._licence_card = FieldList(84)
        self.pages = Pages(
            (
                Page("next", "Next", lambda: self.next_and_when),
                Page("me", "Me", lambda: self.me),
                Page("networks", "Networks", lambda: self.networks),
                Page("power", "Exposure and battery", lambda: self.power),
            ),
            bench,
            theme,
            gap=0,
            parts=parts,
        )
        self.pages.tabs.line.addStretch(1)
        outer.addWidget(self.pages.tabs)
        outer.addWidget(self.pages, 1)
        self.side: QWidget = self.pages.side
        self.show_page("next")
        self._fresh = WhenChanged(self, self._parts, self.refresh)
        bench.plan_changed.connect(self._fresh.check)
        bench.ids_changed.connect(self.who.refresh)

    @cached_property
    def next_and_when(self) -> QWidget:
        """What to do next beside when one can be on the air."""
        right = QWidget()
        held = column(right, 8)
        held.addWidget(self.lead, 3)
        held.addWidget(self.step, 2)
        return SideBySide(self._theme, self.next, right, (5, 7), 1000)

    @cached_property
    def me(self) -> MePage:
        """People, licence, bands and place."""
        return MePage(
            self._theme, {"who": self.who, "licence": self._licence_part(), "bands": self.bands, "place": self.place}
        )

    @cached_property
    def power(self) -> QWidget:
        """RF exposure beside the hours on the battery."""
        inside = QWidget()
        outer = column(inside, 10)
        line = row(gap=12)
        for title, made in (("RF exposure", self.exposure), ("Battery", self.battery)):
            part = column(gap=4)
            part.addWidget(words(title, "title"))
            part.addWidget(made)
            line.addLayout(part, 1)
        outer.addLayout(line)
        outer.addWidget(words("All your radios", "title"))
        outer.addWidget(words(ASSUMED, "second", wrap=True))
        frame = card()
        column(frame, 0, 10).addWidget(RadiosPicture(self._bench, self._theme))
        outer.addWidget(frame)
        outer.addStretch(1)
        return scrolled(inside)

    @cached_property
    def lead(self) -> LeadPanel:
        """The lead-time chart, made when first shown."""
        made = LeadPanel(self._bench, self._theme)
        made.who = self.person
        made.step_changed.connect(self._step_changed)
        made.edit_asked.connect(self._edit_step)
        return made

    @cached_property
    def bands(self) -> Bands:
        """The bands in force."""
        return self._filled(Bands(self._bench, self._theme, self._licence_who))

    @cached_property
    def place(self) -> PlacePage:
        """Where the station is."""
        made = PlacePage(self._bench, self._theme)
        made.site.returnPressed.connect(lambda: self._find_site(made.site.text()))
        return self._filled(made)

    @cached_property
    def networks(self) -> Networks:
        """The networks with their conventions."""
        return self._filled(Networks(self._bench, self._theme))

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

    def _licence_part(self) -> QWidget:
        inside = QWidget()
        outer = column(inside, 6)
        head = row(gap=6)
        self._whose = words("", "title")
        self._people = row(gap=2)
        head.addWidget(self._whose)
        head.addLayout(self._people)
        head.addStretch(1)
        outer.addLayout(head)
        line = row(gap=12)
        line.addWidget(self._licence_card, 3)
        right = column(gap=4)
        right.addWidget(words("The receive-only guard", "violet"))
        right.addWidget(words(GUARD_NOTE, "second", wrap=True))
        self.free = words("", "second", wrap=True)
        right.addWidget(self.free)
        right.addStretch(1)
        line.addLayout(right, 2)
        outer.addLayout(line)
        self._show_licence()
        return inside

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
        self._step_changed()
        return made

    def show_page(self, name: str) -> None:
        """Show one of the pages, or the page with a part: “licence” is on “me”."""
        if self._parts_of.get(name) == "me":
            self.me.part = name
        self.pages.show_page(name)

    def show_steps(self, steps: tuple[NextStep, ...]) -> None:
        """Show what to do next."""
        self.next.show_steps(steps)

    def reach(self, field: str) -> bool:
        """Put the cursor into a field of the page that is shown."""
        return self.pages.reach(field)

    def take_focus(self) -> None:
        """Give the keyboard to what the page is worked with."""
        if self.pages.part == "when":
            self.lead.chart.setFocus()
        elif self.pages.name == "next":
            self.next.take_focus()
        elif self.pages.name == "power":
            (self.battery if self.pages.part == "battery" else self.exposure).findChildren(FieldList)[0].focus_first()
        else:
            self.pages.take_focus()

    @property
    def person(self) -> str:
        """The key of the person whose chart and licence are shown: the chosen, else whoever has open steps, else the owner."""
        plan = self._bench.plan
        keys = [item.key for item in plan.station.identities]
        waiting = next((step.who for step in plan.steps if not step.done and step.who in keys), "")
        return self._person if self._person in keys else waiting or next(iter(keys), "")

    def choose_person(self, key: str) -> None:
        """Show a person's licence and chart."""
        self._person = key
        if "lead" in vars(self) and self.lead.who != key:
            self.lead.choose(key)
        self._show_licence()
        for page in self._made:
            page.refresh()

    def _licence_who(self) -> str:
        """Whose licence is shown: an identity's own, or the station's (empty)."""
        return whose_licence(self._bench.plan, self.person)

    def refresh(self) -> None:
        """Show the plan's station."""
        self.who.refresh()
        for page in self._made:
            page.refresh()
        self._show_licence()
        self._show_today()

    def _show_licence(self) -> None:
        if not hasattr(self, "_whose"):
            return
        who, identities = self.person, self._bench.plan.station.identities
        identity = next((item for item in identities if item.key == who), None)
        name = (identity.name or identity.call or identity.key) if identity else ""
        clear(self._people)
        made = {
            item.key: button(item.name or item.call or item.key, partial(self.choose_person, item.key), "segment")
            for item in (identities if len(identities) > 1 else ())
        }
        chosen_of(made, who)
        for word in made.values():
            self._people.addWidget(word)
        self._whose.setText(f"Licence of {name}" if len(identities) > 1 else "Licence")
        self._licence_card.show_fields(licence_fields(self._bench, self._licence_who()))
        self.free.setText(free_tuning_words(self._bench, self._licence_who()))

    def toggle_ids(self) -> None:
        """Show the IDs, or mask them again."""
        self._bench.show_ids(not self._bench.ids_shown)

    def add_identity(self) -> None:
        """Add an empty identity to be filled in."""
        self.who.add()

    def _step_changed(self) -> None:
        if "lead" in vars(self) and self.lead.who != self.person:
            self.choose_person(self.lead.who)
        if "step" not in vars(self) and not hasattr(self, "step_card"):
            return
        self._show_today()
        step = self.lead.step
        self._done.setVisible(step is not None)
        if step is None:
            self.step_card.show_fields([], note="Choose a step in the chart to see and change it.")
            return
        self.step_card.show_fields(step_fields(self._bench, step), note=step.needs)
        self._done.setText("Mark as not done" if step.done else "Mark as done today")

    def _edit_step(self) -> None:
        self.step_card.focus_first()

    def _toggle(self) -> None:
        step = self.lead.step
        if step is not None:
            toggle_done(self._bench, step)

    def _show_today(self) -> None:
        """What of the chart can go on today."""
        if "lead" not in vars(self) or not hasattr(self, "_today"):
            return
        clear(self._today)
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
        self._today.addWidget(frame)

    def _open_step(self, key: str) -> None:
        self.lead.chart.choose(key)
        self.step_card.focus_first()
