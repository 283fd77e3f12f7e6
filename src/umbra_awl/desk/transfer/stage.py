"""The Transfer stage: by cable with a change sheet, by hand with a key sheet, on paper, as files both ways.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable
from functools import cached_property, partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.desk.parts.blank import no_radio
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.runner import Runner
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.change_page import ChangePage
from umbra_awl.desk.workbench import Workbench

if TYPE_CHECKING:
    from umbra_awl.desk.directory import Directory
    from umbra_awl.desk.transfer.bring_page import BringPage
    from umbra_awl.desk.transfer.field_card_page import CardPage
    from umbra_awl.desk.transfer.files_page import FilesPage
    from umbra_awl.desk.transfer.keys_page import KeysPage


_CABLE = "It is read here, compared with the plan, written and proven; a backup is kept each time."
_KEYS = "A sheet tells each key to press when it is programmed by hand."
_CARD = "A card for the pocket tells its zones and channels, and how to link."
_FILES = "Its memory goes out here as files for any other program."


class TransferStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme, runner: Runner, directory: "Callable[[], Directory]") -> None:
        super().__init__()
        self._bench, self._theme, self.runner, self._directory = bench, theme, runner, directory
        outer = column(self, 6)
        self.changes = ChangePage(bench, theme, runner)
        self.pages = Pages(
            (
                Page("cable", "Cable", lambda: self.changes, blank=partial(no_radio, bench, _CABLE)),
                Page("keys", "Key sheet", lambda: self.keys, blank=partial(no_radio, bench, _KEYS)),
                Page("card", "Field card", lambda: self.card, blank=partial(no_radio, bench, _CARD)),
                Page("files", "Files", lambda: self.files, blank=partial(no_radio, bench, _FILES)),
                Page("bring", "Bring a radio in", lambda: self.bring),
            ),
            bench,
            theme,
        )
        self.pages.tabs.line.addStretch(1)
        outer.addWidget(self.pages.tabs)
        outer.addWidget(self.pages, 1)
        self.side: QWidget = self.pages.side
        self.show_page("cable")

    @cached_property
    def keys(self) -> "KeysPage":
        """The key sheet, made when first shown."""
        from umbra_awl.desk.transfer.keys_page import KeysPage

        return KeysPage(self._bench, self._theme)

    @cached_property
    def card(self) -> "CardPage":
        """The field card, made when first shown."""
        from umbra_awl.desk.transfer.field_card_page import CardPage

        return CardPage(self._bench, self._theme)

    @cached_property
    def files(self) -> "FilesPage":
        """The files page, made when first shown."""
        from umbra_awl.desk.transfer.files_page import FilesPage

        return FilesPage(self._bench, self._theme, self._directory)

    @cached_property
    def bring(self) -> "BringPage":
        """The page that brings a radio in, made when first shown."""
        from umbra_awl.desk.transfer.bring_page import BringPage

        return BringPage(self._bench, self._theme, self.runner)

    def show_page(self, name: str) -> None:
        """Show “cable”, “keys”, “card”, “files” or “bring”."""
        self.pages.show_page(name)

    def reach(self, field: str) -> bool:
        """Put the cursor into a field of the page that is shown."""
        return self.pages.reach(field)

    def take_focus(self) -> None:
        """Give the keyboard to the page."""
        self.pages.take_focus()

    def read(self) -> None:
        """Read the chosen radio by cable."""
        self.show_page("cable")
        self.runner.read()
