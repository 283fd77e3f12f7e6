"""The Transfer stage: by cable with a change sheet, by hand with a key sheet, on paper, as files both ways."""

from collections.abc import Callable
from functools import cached_property
from typing import TYPE_CHECKING, TypeVar

from PyQt6.QtWidgets import QStackedWidget, QWidget

from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.change_page import ChangePage
from umbra_awl.desk.transfer.runner import Runner
from umbra_awl.desk.workbench import Workbench

if TYPE_CHECKING:
    from umbra_awl.desk.directory import Directory
    from umbra_awl.desk.transfer.bring_page import BringPage
    from umbra_awl.desk.transfer.card_page import CardPage
    from umbra_awl.desk.transfer.files_page import FilesPage
    from umbra_awl.desk.transfer.keys_page import KeysPage

PAGES = ("Cable", "Key sheet", "Field card", "Files", "Bring a radio in")
_Page = TypeVar("_Page", bound=QWidget)


class TransferStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme, runner: Runner, directory: "Callable[[], Directory]") -> None:
        super().__init__()
        self._bench, self._theme, self.runner, self._directory = bench, theme, runner, directory
        outer = column(self, 6)
        self.pages = Tabs(PAGES, self.show_page)
        self.pages.line.addStretch(1)
        outer.addWidget(self.pages)
        self._canvas = QStackedWidget()
        outer.addWidget(self._canvas, 1)
        self.side = QStackedWidget()
        self.changes = self._added(ChangePage(bench, theme, runner))
        self.show_page(0)

    @cached_property
    def keys(self) -> "KeysPage":
        """The key sheet, made when first shown."""
        from umbra_awl.desk.transfer.keys_page import KeysPage

        return self._added(KeysPage(self._bench, self._theme))

    @cached_property
    def card(self) -> "CardPage":
        """The field card, made when first shown."""
        from umbra_awl.desk.transfer.card_page import CardPage

        return self._added(CardPage(self._bench, self._theme))

    @cached_property
    def files(self) -> "FilesPage":
        """The files page, made when first shown."""
        from umbra_awl.desk.transfer.files_page import FilesPage

        return self._added(FilesPage(self._bench, self._theme, self._directory))

    @cached_property
    def bring(self) -> "BringPage":
        """The page that brings a radio in, made when first shown."""
        from umbra_awl.desk.transfer.bring_page import BringPage

        return self._added(BringPage(self._bench, self._theme, self.runner))

    def _added(self, page: _Page) -> _Page:
        self._canvas.addWidget(page)
        self.side.addWidget(getattr(page, "side"))  # noqa: B009  (every page here has one)
        return page

    def show_page(self, at: int) -> None:
        """Show the cable (0), the key sheet (1), the field card (2), files (3) or bringing a radio in (4)."""
        makers: tuple[Callable[[], QWidget], ...] = (
            lambda: self.changes,
            lambda: self.keys,
            lambda: self.card,
            lambda: self.files,
            lambda: self.bring,
        )
        page = makers[at]()
        self._canvas.setCurrentWidget(page)
        self.side.setCurrentIndex(self._canvas.currentIndex())
        self.pages.mark(at)

    def take_focus(self) -> None:
        """Give the keyboard to the page."""
        page = self._canvas.currentWidget()
        if page is not None and hasattr(page, "take_focus"):
            page.take_focus()
