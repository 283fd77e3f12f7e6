"""The Radios stage: each owned radio's memory, its settings and people, which radio carries the plan, own profiles.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable
from functools import cached_property, partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.plan.edit.edits import add_item, together
from umbra_awl.core.plan.parts import RADIOS
from umbra_awl.core.radio.owned import new_radios
from umbra_awl.core.radio.profile import Profile
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.blank import Blank, goes, no_radio
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.pictures import rows
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.widgets import button, column, row
from umbra_awl.desk.radios.memory_page import MemoryPage
from umbra_awl.desk.radios.report_side import ReportSide
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.desk.known.directory import Directory
    from umbra_awl.desk.radios.compare_page import ComparePage
    from umbra_awl.desk.radios.people_page import RadioPeoplePage
    from umbra_awl.desk.radios.profile_page import ProfilePage
    from umbra_awl.desk.radios.settings_page import SettingsPage

_MEMORY = (
    "Each gets its channels, zones and lists from the plan, cut to its display and its limits; they are shown here."
)
_SETTINGS = "Its keys, texts, position and firmware are set here, and kept with the plan."
_PEOPLE = "Some keep a list of people, so that a name shows in place of an ID; who goes along is chosen here."
_OF_ONE_RADIO = frozenset({"memory", "settings", "people"})


class RadiosStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme, directory: "Callable[[], Directory]") -> None:
        super().__init__()
        self._bench, self._theme, self._directory = bench, theme, directory
        outer = column(self, 6)
        self.memory = MemoryPage(bench, theme)
        self.report = ReportSide(bench, theme)
        self.pages = Pages(
            (
                Page("memory", "Memory", lambda: self.memory, lambda: self.report, partial(no_radio, bench, _MEMORY)),
                Page(
                    "settings",
                    "Settings",
                    lambda: self.settings,
                    lambda: self.report,
                    partial(no_radio, bench, _SETTINGS),
                ),
                Page("people", "People", lambda: self.people, blank=self._no_people),
                Page("which", "Which radio?", lambda: self.compare),
                Page("own", "Own profile", lambda: self.profile),
            ),
            bench,
            theme,
        )
        head = self.pages.tabs.line
        head.addStretch(1)
        self._add_button = button("+ Radio", self.ask_add, tip="Of which profile, for whom, how many")
        head.addWidget(self._add_button)
        outer.addWidget(self.pages.tabs)
        line = row(gap=4)
        self.radios = RadioTabs(bench)
        line.addWidget(self.radios, 1)
        outer.addLayout(line)
        outer.addWidget(self.pages, 1)
        self.side: QWidget = self.pages.side
        self.pages.shown.connect(lambda name: self.radios.setVisible(name in _OF_ONE_RADIO))
        self.show_page("memory")

    def _no_people(self) -> Blank | None:
        """Without a radio, or where the chosen one keeps no people list, there is nothing to choose."""
        radio = self._bench.radio
        profile = self._bench.profiles.get(radio.profile) if radio is not None else None
        if radio is None or profile is None or profile.firmware:
            return no_radio(self._bench, _PEOPLE)
        able = [item.name for item in self._bench.profiles.values() if item.firmware]
        text = f"The {profile.name} keeps no people list: it shows the ID or the call sign as it comes. {' and '.join(able)} do."
        acts = (("Which radios keep one", goes(self._bench, "radios", "which")),)
        return Blank(f"{radio.name} keeps no people list", text, rows, acts)

    @cached_property
    def settings(self) -> "SettingsPage":
        """The settings page, made when first shown."""
        from umbra_awl.desk.radios.settings_page import SettingsPage

        return SettingsPage(self._bench)

    @cached_property
    def people(self) -> "RadioPeoplePage":
        """The people page, made when first shown."""
        from umbra_awl.desk.radios.people_page import RadioPeoplePage

        return RadioPeoplePage(self._bench, self._theme, self._directory())

    @cached_property
    def compare(self) -> "ComparePage":
        """The comparison, made when first shown."""
        from umbra_awl.desk.radios.compare_page import ComparePage

        return ComparePage(self._bench, self._theme, self._directory)

    @cached_property
    def profile(self) -> "ProfilePage":
        """The page of own profiles, made when first shown."""
        from umbra_awl.desk.radios.profile_page import ProfilePage

        return ProfilePage(self._bench, self._theme)

    def show_page(self, name: str) -> None:
        """Show “memory”, “settings”, “people”, “which” (radio carries the plan) or “own” (profiles)."""
        self.pages.show_page(name)

    def take_focus(self) -> None:
        """Give the keyboard to the page."""
        self.pages.take_focus()

    def reach(self, field: str) -> bool:
        """“add radio” asks for one."""
        if field == "add radio":
            self.ask_add()
            return True
        return self.pages.reach(field)

    def ask_add(self) -> None:
        """Ask which radios to add, and for whom."""
        from umbra_awl.desk.radios.adding import AddRadios

        AddRadios(self._bench, self, self.add).exec()

    def add(self, profile: Profile, identity: str = "", count: int = 1) -> None:
        """Put radios of a profile into the plan, for a person (empty: the owner); the first of them is chosen."""
        made = new_radios(self._bench.plan, profile, identity, count)
        said = f"Add the radio {made[0].name}" if count == 1 else f"Add {counted(count, 'radio')}, {profile.name}"
        if self._bench.do(together(said, [add_item(RADIOS, radio, said) for radio in made])):
            self._bench.choose_radio(made[0].key)
            self.show_page("memory")
