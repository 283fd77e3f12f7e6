"""The Transfer stage: by cable with a change sheet, by hand with a key sheet, on paper, as files both ways.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable
from functools import cached_property, partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.radio.profile import WayIn
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.blank import Blank, goes, no_radio
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.pictures import rows
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.cable.change_page import ChangePage
from umbra_awl.desk.transfer.other_way import other_way

if TYPE_CHECKING:
    from umbra_awl.desk.known.directory import Directory
    from umbra_awl.desk.transfer.app.app_page import AppPage
    from umbra_awl.desk.transfer.card.card_page import CardPage as CardWayPage
    from umbra_awl.desk.transfer.files.bring_page import BringPage
    from umbra_awl.desk.transfer.files.files_page import FilesPage
    from umbra_awl.desk.transfer.lists.list_page import ListPage
    from umbra_awl.desk.transfer.paper.keys_page import KeysPage
    from umbra_awl.desk.transfer.paper.paper_page import PaperPage
    from umbra_awl.desk.transfer.ports.port_page import PortPage
    from umbra_awl.desk.transfer.table.table_page import TablePage


_CABLE = "It is read here, compared with the plan, written and proven; a backup is kept each time."
_SLOT = "The card goes there and back; what is found on it tells how far it has come."
_APP = "Its phone's list is taken, merged with the plan, handed back and read back."
_PORTS = "Where the way to it breaks is found here, with the line to type."
_TABLE = "Many radios of one kind are written here one after another, each for its owner."
_LISTS = "Its people, or the access points around, are written here, apart from its memory."
_KEYS = "A sheet tells each key to press when it is programmed by hand."
_CARD = "A card for the pocket tells its zones and channels, and how to link."
_FILES = "Its memory goes out here as files for any other program."


_INTO = "Into the radio"
WAY_PAGES = ("cable", "slot")
"""The pages of the ways into a radio."""


class TransferStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme, runner: Runner, directory: "Callable[[], Directory]") -> None:
        super().__init__()
        self._bench, self._theme, self.runner, self._directory = bench, theme, runner, directory
        outer = column(self, 2)
        self.changes = ChangePage(bench, theme, runner)
        self.pages = Pages(
            (
                self._way("cable", "Cable", "cable", lambda: self.changes, _CABLE),
                self._way("slot", "Memory card", "card", lambda: self.slot, _SLOT),
                self._way("app", "Phone app", "app", lambda: self.app, _APP),
                Page("keys", "By its keys", lambda: self.keys, blank=partial(no_radio, bench, _KEYS), group=_INTO),
                Page("lists", "People", lambda: self.lists, None, self._no_lists, _INTO, lambda: not self._no_lists()),
                self._way("ports", "No answer?", "cable", lambda: self.ports, _PORTS),
                Page("card", "Paper", lambda: self.card, blank=partial(no_radio, bench, _CARD)),
                Page("files", "Files", lambda: self.files, blank=partial(no_radio, bench, _FILES)),
                Page("table", "Table day", lambda: self.table, blank=partial(self._not_by, "cable", _TABLE)),
                Page("bring", "Bring in", lambda: self.bring),
            ),
            bench,
            theme,
        )
        self.pages.tabs.line.addStretch(1)
        outer.addWidget(self.pages.tabs)
        outer.addWidget(self.pages.inner[_INTO])
        outer.addWidget(self.pages, 1)
        self.side: QWidget = self.pages.side
        bench.radio_changed.connect(self._follow_radio)
        self.show_page(self._way_page() or "cable")

    def _way(self, name: str, title: str, way: WayIn, make: "Callable[[], QWidget]", what: str) -> Page:
        """The page of a way into the radio; its word stands there for a radio that goes this way."""

        def offered() -> bool:
            profile = self.runner.profile
            return profile is None or profile.fed_by(way)

        return Page(name, title, make, None, partial(self._not_by, way, what), _INTO, offered)

    def _no_lists(self) -> Blank | None:
        """Why the page of people and lists is blank: no radio, or one that keeps none apart from its memory."""
        blank, profile = no_radio(self._bench, _LISTS), self.runner.profile
        if blank is not None or profile is None or profile.keeps_lists:
            return blank
        text = "It keeps no people and no list of access points around: all it holds goes in with its memory."
        where = goes(self._bench, "transfer", self._way_page() or "files", "act")
        return Blank(f"The {profile.name} has no lists", text, rows, (("Write its memory", where),))

    def _way_page(self) -> str:
        """The page of the way into the chosen radio; empty where there is none but its keys and files."""
        profile = self.runner.profile
        if profile is None:
            return ""
        return "slot" if profile.by_card else "cable" if profile.by_cable else ""

    def _follow_radio(self) -> None:
        """On the page of a way, another radio shows its own way."""
        page = self._way_page()
        if page and page != self.pages.name and self.pages.name in WAY_PAGES:
            self.show_page(page)

    def _not_by(self, way: WayIn, what: str) -> Blank | None:
        """Why the page of a way is blank: no radio, or one that does not go this way."""
        blank, profile = no_radio(self._bench, what), self.runner.profile
        if blank is not None or profile is None or profile.fed_by(way):
            return blank
        return other_way(self._bench, profile, way, self._way_page())

    @cached_property
    def slot(self) -> "CardWayPage":
        """The memory-card page, made when first shown."""
        from umbra_awl.desk.transfer.card.card_page import CardPage as CardWayPage

        return CardWayPage(self._bench, self._theme, self.runner)

    @cached_property
    def app(self) -> "AppPage":
        """The phone-app page, made when first shown."""
        from umbra_awl.desk.transfer.app.app_page import AppPage

        return AppPage(self._bench, self._theme, self.runner)

    @cached_property
    def lists(self) -> "ListPage":
        """The page of people and lists, made when first shown."""
        from umbra_awl.desk.transfer.lists.list_page import ListPage

        return ListPage(self._bench, self._theme, self.runner, self._directory())

    @cached_property
    def ports(self) -> "PortPage":
        """The page of ports and firmware, made when first shown."""
        from umbra_awl.desk.transfer.ports.port_page import PortPage

        return PortPage(self._bench, self._theme, self.runner, self._directory())

    @cached_property
    def table(self) -> "TablePage":
        """The table-day page, made when first shown."""
        from umbra_awl.desk.transfer.table.table_page import TablePage

        made = TablePage(self._bench, self._theme, self.runner)
        made.paper_wanted.connect(self._paper_for)
        return made

    def _paper_for(self, radios: tuple[str, ...]) -> None:
        """Show the paper of some radios."""
        self.card.take_radios(radios)
        self.show_page("card")
        self.take_focus()

    @cached_property
    def keys(self) -> "KeysPage":
        """The key sheet, made when first shown."""
        from umbra_awl.desk.transfer.paper.keys_page import KeysPage

        return KeysPage(self._bench, self._theme)

    @cached_property
    def card(self) -> "PaperPage":
        """The paper page, made when first shown."""
        from umbra_awl.desk.transfer.paper.paper_page import PaperPage

        return PaperPage(self._bench, self._theme)

    @cached_property
    def files(self) -> "FilesPage":
        """The files page, made when first shown."""
        from umbra_awl.desk.transfer.files.files_page import FilesPage

        return FilesPage(self._bench, self._theme, self._directory)

    @cached_property
    def bring(self) -> "BringPage":
        """The page that brings a radio in, made when first shown."""
        from umbra_awl.desk.transfer.files.bring_page import BringPage

        return BringPage(self._bench, self._theme, self.runner)

    def show_page(self, name: str) -> None:
        """Show a page by its name. Raises KeyError for a name that is none."""
        self.pages.show_page(name)

    def reach(self, field: str) -> bool:
        """Put the cursor into a field of the page that is shown."""
        return self.pages.reach(field)

    def take_focus(self) -> None:
        """Give the keyboard to the page."""
        self.pages.take_focus()

    def read(self) -> None:
        """Read the chosen radio by its way."""
        self.show_page(self._way_page() or "cable")
        self.runner.read()
