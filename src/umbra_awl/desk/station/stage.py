"""The Station stage: when you can be on the air, who you are, what your licence allows, where you are, and what to do next."""

from collections.abc import Callable, Mapping
from functools import cached_property
from typing import TypeVar

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.agenda.next_steps import NextStep
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.side_by_side import SideBySide
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import card, column, row, scrolled, words
from umbra_awl.desk.station.battery import BatteryHours
from umbra_awl.desk.station.exposure import Exposure
from umbra_awl.desk.station.habits_card import HabitsCard
from umbra_awl.desk.station.lead_panel import LeadPanel
from umbra_awl.desk.station.licence_part import LicencePart
from umbra_awl.desk.station.me_page import MePage
from umbra_awl.desk.station.next_page import NextPage
from umbra_awl.desk.station.pages import Bands, Networks, PlacePage, Who
from umbra_awl.desk.station.radios_picture import ASSUMED, RadiosPicture
from umbra_awl.desk.station.step_part import StepPart
from umbra_awl.desk.theme.theme import Theme

_Page = TypeVar("_Page", Bands, HabitsCard, PlacePage, Networks)


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
        self.bench = bench
        self._made: list[Bands | HabitsCard | PlacePage | Networks] = []
        self._theme, self._find_site, self._parts_of = theme, find_site, parts
        self._person = ""
        self.steps = StepPart(self)
        self.licence = LicencePart(self)
        outer = column(self, 6)
        self.next = NextPage(theme, go, titles)
        self.who = Who(bench)
        self.licence.licence_card = FieldList(84)
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
        held.addWidget(self.steps.step, 2)
        return SideBySide(self._theme, self.next, right, (5, 7), 1000)

    @cached_property
    def me(self) -> MePage:
        """People, licence, bands and place."""
        return MePage(
            self._theme,
            {
                "who": self.who,
                "habits": self._filled(HabitsCard(self.bench)),
                "licence": self.licence.widget(),
                "bands": self.bands,
                "place": self.place,
            },
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
        column(frame, 0, 10).addWidget(RadiosPicture(self.bench, self._theme))
        outer.addWidget(frame)
        outer.addStretch(1)
        return scrolled(inside)

    @cached_property
    def lead(self) -> LeadPanel:
        """The lead-time chart, made when first shown."""
        made = LeadPanel(self.bench, self._theme)
        made.who = self.person
        made.step_changed.connect(self.steps.step_changed)
        made.edit_asked.connect(self.steps.edit_step)
        return made

    @cached_property
    def bands(self) -> Bands:
        """The bands in force."""
        return self._filled(Bands(self.bench, self._theme, self.licence.whose))

    @cached_property
    def place(self) -> PlacePage:
        """Where the station is."""
        made = PlacePage(self.bench, self._theme)
        made.site.returnPressed.connect(lambda: self._find_site(made.site.text()))
        return self._filled(made)

    @cached_property
    def networks(self) -> Networks:
        """The networks with their conventions."""
        return self._filled(Networks(self.bench, self._theme))

    @cached_property
    def exposure(self) -> Exposure:
        """RF exposure."""
        return Exposure(self.bench, self._theme)

    @cached_property
    def battery(self) -> BatteryHours:
        """Hours on the battery."""
        return BatteryHours(self.bench, self._theme)

    def _filled(self, page: _Page) -> _Page:
        page.refresh()
        self._made.append(page)
        return page

    def _parts(self) -> tuple[object, ...]:
        """What of the plan is shown here."""
        plan = self.bench.plan
        return plan.station, plan.networks, plan.access, plan.destinations, plan.radios, plan.routes

    @property
    def _cards(self) -> dict[str, FieldList]:
        """The cards of identities and networks by key."""
        return self.who.cards | (self.networks.cards if "networks" in vars(self) else {})

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
        plan = self.bench.plan
        keys = [item.key for item in plan.station.identities]
        waiting = next((step.who for step in plan.steps if not step.done and step.who in keys), "")
        return self._person if self._person in keys else waiting or next(iter(keys), "")

    def choose_person(self, key: str) -> None:
        """Show a person's licence and chart."""
        self._person = key
        if "lead" in vars(self) and self.lead.who != key:
            self.lead.choose(key)
        self.licence.refresh()
        for page in self._made:
            page.refresh()

    def refresh(self) -> None:
        """Show the plan's station."""
        self.who.refresh()
        for page in self._made:
            page.refresh()
        self.licence.refresh()
        self.steps.show_today()
