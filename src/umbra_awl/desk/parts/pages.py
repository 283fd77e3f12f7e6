"""Pages by name, each made when it is first shown: a stage opens sooner, and what is never looked at is never built."""

from collections.abc import Callable, Sequence
from typing import NamedTuple, Protocol, runtime_checkable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QStackedWidget, QWidget

from umbra_awl.desk.parts.tabs import Tabs


@runtime_checkable
class Accompanied(Protocol):
    """A page that something of its own stands beside."""

    @property
    def side(self) -> QWidget:
        """What stands beside it."""


@runtime_checkable
class Worked(Protocol):
    """A page that knows where the keyboard belongs on it."""

    def take_focus(self) -> None:
        """Give the keyboard to the page."""


class Page(NamedTuple):
    """A page: its name, the word that stands for it, how it is made."""

    name: str
    title: str
    make: Callable[[], QWidget]


class Pages(QStackedWidget):
    """Shows one of several pages; `tabs` is the row of their words, `side` holds what stands beside each."""

    shown = pyqtSignal(str)

    def __init__(self, pages: Sequence[Page], gap: int = 2, usually_beside: QWidget | None = None) -> None:
        super().__init__()
        self._usually_beside = usually_beside
        self._pages = {page.name: page for page in pages}
        self._made: dict[str, QWidget] = {}
        self._names = list(self._pages)
        self.tabs = Tabs([page.title for page in pages], lambda at: self.show_page(self._names[at]), gap)
        self.side = QStackedWidget()
        self.name = ""

    @property
    def names(self) -> list[str]:
        """The names of the pages, in their order."""
        return self._names

    def show_page(self, name: str) -> None:
        """Show a page, making it the first time. Raises KeyError for a name that is none, and what making it raises."""
        if name not in self._made:
            self._made[name] = self._pages[name].make()
            self.addWidget(self._made[name])
        page = self._made[name]
        self.name = name
        self.setCurrentWidget(page)
        beside = page.side if isinstance(page, Accompanied) else self._usually_beside
        if beside is not None:
            self._show_beside(beside)
        self.tabs.mark(self._names.index(name))
        self.shown.emit(name)

    def _show_beside(self, side: QWidget) -> None:
        if self.side.indexOf(side) < 0:
            self.side.addWidget(side)
        self.side.setCurrentWidget(side)

    def take_focus(self) -> None:
        """Give the keyboard to the page that is shown."""
        page = self.currentWidget()
        if isinstance(page, Worked):
            page.take_focus()
