"""The Log stage: the proof map and the entries.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from functools import cached_property
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.desk.book.log_book import LogBook
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.blank import Blank, no_access, no_route
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.pictures import sheet
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from collections.abc import Callable

    from umbra_awl.desk.known.directory import Directory
    from umbra_awl.desk.log.drills_page import DrillsPage
    from umbra_awl.desk.log.entries_page import EntriesPage
    from umbra_awl.desk.log.nets_page import NetsPage
    from umbra_awl.desk.log.proof_page import ProofPage

_WHAT = "Here each route carries its proof: from the first sign of the repeater to somebody's answer."


class LogStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme, book: LogBook, directory: "Callable[[], Directory]") -> None:
        super().__init__()
        self._bench, self._theme, self.book, self._directory = bench, theme, book, directory
        outer = column(self, 6)
        self.pages = Pages(
            (
                Page("proof", "Proof map", lambda: self.proof, blank=self._none),
                Page("entries", "Entries", lambda: self.entries),
                Page("nets", "Nets", lambda: self.nets),
                Page("drills", "Drills", lambda: self.drills),
            ),
            bench,
            theme,
        )
        self.pages.tabs.line.addStretch(1)
        outer.addWidget(self.pages.tabs)
        outer.addWidget(self.pages, 1)
        self.side: QWidget = self.pages.side
        self.show_page("proof")

    def _none(self) -> Blank | None:
        """Why the map is blank: nothing to prove yet."""
        return no_access(self._bench, _WHAT) or no_route(self._bench, _WHAT, sheet)

    @cached_property
    def proof(self) -> "ProofPage":
        """The proof map, made when first shown."""
        from umbra_awl.desk.log.proof_page import ProofPage

        return ProofPage(self._bench, self._theme, self.book, self._directory)

    @cached_property
    def entries(self) -> "EntriesPage":
        """The entries, made when first shown."""
        from umbra_awl.desk.log.entries_page import EntriesPage

        return EntriesPage(self._bench, self._theme, self.book, self._directory)

    @cached_property
    def nets(self) -> "NetsPage":
        """The nets and who is awake, made when first shown."""
        from umbra_awl.desk.log.nets_page import NetsPage

        return NetsPage(self._bench, self._theme, self.book)

    @cached_property
    def drills(self) -> "DrillsPage":
        """The drills, made when first shown."""
        from umbra_awl.desk.log.drills_page import DrillsPage

        return DrillsPage(self._bench, self._theme)

    def practise(self, way: str) -> None:
        """Practise in one of the ways."""
        self.show_page("drills")
        self.drills.show_way(way)

    def add_net(self) -> None:
        """Ask for a new net."""
        self.show_page("nets")
        self.nets.ask_add()

    def import_nets(self) -> None:
        """Ask for a calendar to take nets from."""
        self.show_page("nets")
        self.nets.files.ask_import()

    def save_next(self) -> None:
        """Save the list of what to prove next."""
        self.show_page("proof")
        if not self.pages.is_blank:
            self.proof.save_next()

    def save_sheet(self) -> None:
        """Save what is proven, route by route, as a PDF."""
        self.show_page("proof")
        if not self.pages.is_blank:
            self.proof.save_sheet()

    def say_wrong(self) -> None:
        """Say that the listing of the route in hand is wrong."""
        self.show_page("proof")
        if not self.pages.is_blank:
            self.proof.say_wrong()

    def ask_import(self) -> None:
        """Ask for a log to import."""
        self.show_page("entries")
        self.entries.files.ask_import()

    def show_page(self, name: str) -> None:
        """Show a page by its name. Raises KeyError for a name that is none."""
        self.pages.show_page(name)

    def reach(self, field: str) -> bool:
        """Put the cursor into a field of the page that is shown."""
        return self.pages.reach(field)

    def take_focus(self) -> None:
        """Give the keyboard to the page."""
        self.pages.take_focus()
