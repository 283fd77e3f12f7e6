"""Pages by name, each made when it is first shown: a stage opens sooner, and what is never looked at is never built."""

from collections.abc import Callable, Mapping, Sequence
from types import MappingProxyType
from typing import NamedTuple, Protocol, runtime_checkable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QPushButton, QStackedWidget, QWidget

from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.blank import BlankPage, Why
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.theme.theme import Theme


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


@runtime_checkable
class Reached(Protocol):
    """A page whose fields can be reached by name."""

    def reach(self, field: str) -> bool:
        """Put the cursor into a field; False where the page has none of that name."""


class Page(NamedTuple):
    """A page: its name, the word that stands for it, how it is made, and what stands beside it where the page does not say.

    Two pages may be one widget with something else beside it. `blank` says why there is nothing to show on it just now.
    Pages of one `group` stand behind one word, their own words in a second row; `offered` says whether one of them has its word
    there just now.
    """

    name: str
    title: str
    make: Callable[[], QWidget]
    beside: Callable[[], QWidget] | None = None
    blank: Why = lambda: None
    group: str = ""
    offered: Callable[[], bool] = lambda: True


class Pages(QStackedWidget):
    """Shows one of several pages; `tabs` is the row of their words, `side` holds what stands beside each."""

    shown = pyqtSignal(str)

    def __init__(
        self,
        pages: Sequence[Page],
        bench: Workbench,
        theme: Theme,
        gap: int = 2,
        parts: Mapping[str, str] = MappingProxyType({}),
    ) -> None:
        """`parts` are names of what stands on a page, each with the page's: asked for, the page is shown at that part."""
        super().__init__()
        self._on, self.part = parts, ""
        self._blank = BlankPage(theme)
        self.addWidget(self._blank)
        self._pages = {page.name: page for page in pages}
        self._made: dict[str, QWidget] = {}
        self._names = list(self._pages)
        self._groups = list(dict.fromkeys(page.group or page.title for page in pages))
        self._last = {page.group or page.title: page.name for page in reversed(pages)}
        self.tabs = Tabs(self._groups, lambda at: self.show_page(self._last[self._groups[at]]), gap)
        self.inner = {group: self._inner_of(group) for group in self._groups if len(self._in(group)) > 1}
        self.side = QStackedWidget()
        self.accompanied = False
        self.name = ""
        for signal in (bench.plan_changed, bench.radio_changed, bench.profiles_changed, bench.document_changed):
            signal.connect(self.look_again)

    def _in(self, group: str) -> list[Page]:
        """The pages behind one word."""
        return [page for page in self._pages.values() if (page.group or page.title) == group]

    def _inner_of(self, group: str) -> Tabs:
        names = [page.name for page in self._in(group)]
        made = Tabs([self._pages[name].title for name in names], lambda at: self.show_page(names[at]), 0)
        made.line.addStretch(1)
        made.hide()
        return made

    def _mark(self, name: str) -> None:
        """Show which page is shown: its word, and in its group's row its own."""
        group = self._pages[name].group or self._pages[name].title
        self._last[group] = name
        self.tabs.mark(self._groups.index(group))
        for other, row in self.inner.items():
            row.setVisible(other == group)
            members = self._in(other)
            if other == group:
                row.mark([page.name for page in members].index(name))
                row.offer([at for at, page in enumerate(members) if page.offered()])

    def words_to(self, name: str) -> list[QPushButton]:
        """The words to press, one after another, to come to a page."""
        page = self._pages[name]
        group = page.group or page.title
        first = self.tabs.buttons[self._groups.index(group)]
        if group not in self.inner:
            return [first]
        return [first, self.inner[group].buttons[self._in(group).index(page)]]

    @property
    def is_blank(self) -> bool:
        """Whether there is nothing to show on the page just now."""
        return self.currentWidget() is self._blank

    def look_again(self) -> None:
        """Something may have come to be shown, or gone."""
        if not self.name or not self.isVisible():
            return
        self._mark(self.name)
        blank = self._pages[self.name].blank()
        if (blank is not None) != self.is_blank or (
            blank is not None and blank[:3] != (self._blank.shown or blank)[:3]
        ):
            had_keys = self.is_blank and self._blank.isAncestorOf(self.focusWidget())
            self.show_page(self.name)
            if had_keys:
                self.take_focus()

    @property
    def names(self) -> list[str]:
        """The names of the pages, in their order."""
        return self._names

    def on(self, name: str) -> str:
        """The page of that name, or the one that the part of that name stands on."""
        return self._on.get(name, name)

    def show_page(self, name: str) -> None:
        """Show a page, or the page with a part, made the first time. Raises KeyError for no name, and what making it raises."""
        self.part, name = name, self.on(name)
        blank = self._pages[name].blank()
        if blank is not None:
            self._blank.show_blank(blank)
        elif name not in self._made:
            self._made[name] = self._pages[name].make()
            self.addWidget(self._made[name])
        page, *beside = self._parts(name) if blank is None else [self._blank]
        self.name = name
        self.setCurrentWidget(page)
        side = next(iter(beside), None)
        self.accompanied = side is not None
        if side is not None:
            self._show_beside(side)
        self._mark(name)
        self.shown.emit(name)

    def page_with(self, widget: QWidget) -> str:
        """The name of the page on which a widget is, or beside which it stands; empty where there is none."""
        return next((name for name in self._made if any(part.isAncestorOf(widget) for part in self._parts(name))), "")

    def _parts(self, name: str) -> list[QWidget]:
        page, beside = self._made[name], self._pages[name].beside
        if beside is not None:
            return [page, beside()]
        return [page, page.side] if isinstance(page, Accompanied) else [page]

    def _show_beside(self, side: QWidget) -> None:
        if self.side.indexOf(side) < 0:
            self.side.addWidget(side)
        self.side.setCurrentWidget(side)

    def take_focus(self) -> None:
        """Give the keyboard to the page that is shown."""
        page = self.currentWidget()
        if isinstance(page, Worked):
            page.take_focus()

    def reach(self, field: str) -> bool:
        """Put the cursor into a field of the page that is shown or of what stands beside it; False where there is none."""
        shown = [self.currentWidget(), self.side.currentWidget() if self.accompanied else None]
        for page in shown:
            if isinstance(page, Reached) and page.reach(field):
                return True
        lists = (found for page in shown if page is not None for found in page.findChildren(FieldList))
        return any(found.reach(field) for found in lists)
