"""The Radios stage: each owned radio's memory, its settings and people, which radio carries the plan, own profiles."""

from collections.abc import Callable
from functools import cached_property, partial
from typing import TYPE_CHECKING, TypeVar

from PyQt6.QtWidgets import QMenu, QPushButton, QStackedWidget, QWidget

from umbra_awl.core.fit.profile import Profile
from umbra_awl.core.plan.edits import add_item, fresh_key
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.widgets import act, column, row
from umbra_awl.desk.radios.memory_page import MemoryPage
from umbra_awl.desk.radios.report_side import ReportSide
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

if TYPE_CHECKING:
    from umbra_awl.desk.directory import Directory
    from umbra_awl.desk.radios.compare_page import ComparePage
    from umbra_awl.desk.radios.people_page import PeoplePage
    from umbra_awl.desk.radios.profile_page import ProfilePage
    from umbra_awl.desk.radios.settings_page import SettingsPage

PAGES = ("Memory", "Settings", "People", "Which radio?", "Own profile")
_Page = TypeVar("_Page", bound=QWidget)


class RadiosStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme, directory: "Callable[[], Directory]") -> None:
        super().__init__()
        self._bench, self._theme, self._directory = bench, theme, directory
        outer = column(self, 6)
        self.pages = Tabs(PAGES, self.show_page)
        head = self.pages.line
        head.addStretch(1)
        self._add_button = QPushButton("+ Radio")
        self._add_menu = QMenu(self._add_button)
        self._add_menu.aboutToShow.connect(self._fill_menu)
        self._add_button.setMenu(self._add_menu)
        head.addWidget(self._add_button)
        outer.addWidget(self.pages)
        line = row(gap=4)
        self.radios = RadioTabs(bench)
        line.addWidget(self.radios)
        line.addStretch(1)
        outer.addLayout(line)
        self._canvas = QStackedWidget()
        outer.addWidget(self._canvas, 1)
        self.memory = MemoryPage(bench, theme)
        self._canvas.addWidget(self.memory)
        self.side = QStackedWidget()
        self.report = ReportSide(bench, theme)
        self.side.addWidget(self.report)
        self.show_page(0)

    @cached_property
    def settings(self) -> "SettingsPage":
        """The settings page, made when first shown."""
        from umbra_awl.desk.radios.settings_page import SettingsPage

        return self._added(SettingsPage(self._bench))

    @cached_property
    def people(self) -> "PeoplePage":
        """The people page, made when first shown."""
        from umbra_awl.desk.radios.people_page import PeoplePage

        made = PeoplePage(self._bench, self._theme, self._directory())
        self.side.addWidget(made.side)
        return self._added(made)

    @cached_property
    def compare(self) -> "ComparePage":
        """The comparison, made when first shown."""
        from umbra_awl.desk.radios.compare_page import ComparePage

        made = ComparePage(self._bench, self._theme)
        self.side.addWidget(made.side)
        return self._added(made)

    @cached_property
    def profile(self) -> "ProfilePage":
        """The page of own profiles, made when first shown."""
        from umbra_awl.desk.radios.profile_page import ProfilePage

        made = ProfilePage(self._bench, self._theme)
        self.side.addWidget(made.side)
        return self._added(made)

    def _added(self, page: _Page) -> _Page:
        self._canvas.addWidget(page)
        return page

    def show_page(self, at: int) -> None:
        """Show the memory (0), settings (1), people (2), the comparison (3) or own profiles (4)."""
        makers: tuple[Callable[[], QWidget], ...] = (
            lambda: self.memory,
            lambda: self.settings,
            lambda: self.people,
            lambda: self.compare,
            lambda: self.profile,
        )
        page = makers[at]()
        self._canvas.setCurrentWidget(page)
        side = getattr(page, "side", self.report)
        self.side.setCurrentWidget(side)
        self.radios.setVisible(at < 3)
        self.pages.mark(at)

    def take_focus(self) -> None:
        """Give the keyboard to the page."""
        page = self._canvas.currentWidget()
        if page is not None and hasattr(page, "take_focus"):
            page.take_focus()

    def _fill_menu(self) -> None:
        self._add_menu.clear()
        for profile in self._bench.profiles.values():
            act(self._add_menu, f"{profile.name}: {profile.summary}", partial(self.add, profile))

    def add(self, profile: Profile) -> None:
        """Put a radio of a profile into the plan."""
        radios = self._bench.plan.radios
        key = fresh_key(profile.key, (radio.key for radio in radios))
        number = sum(radio.profile == profile.key for radio in radios) + 1
        name = profile.name if number == 1 else f"{profile.name} ({number})"
        if self._bench.do(add_item("radios", OwnedRadio(key, name, profile.key), f"Add the radio {name}")):
            self._bench.choose_radio(key)
