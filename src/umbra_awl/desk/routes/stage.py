"""The Routes stage: the punch sheet, the names and the trace as pages, and beside them what each page is worked with.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Mapping
from functools import cached_property, partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QHBoxLayout, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.modes import EVERY_MODE, SHORT_WORDS, by_mode
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts import pictures
from umbra_awl.desk.parts.blank import no_access, no_route
from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.widgets import Whole, button, column, restyle, row
from umbra_awl.desk.routes.beside_sheet import BesideSheet
from umbra_awl.desk.routes.inspector import Inspector
from umbra_awl.desk.routes.legend import Legend
from umbra_awl.desk.routes.sheet import PunchSheet
from umbra_awl.desk.routes.work_menu import WorkMenu
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.desk.routes.names_page import NamesPage
    from umbra_awl.desk.routes.trace_page import TracePage
    from umbra_awl.desk.routes.zones import ZonesPanel

_SHEET = "Services then stand across, destinations down, and each hole you punch is a route."
_NAMES = "Here it is shown how each is named on each radio, and what meets when names are cut."
_TRACE = "Its key-up is then followed here from you to the far listeners, hop by hop."
_MODES = ("", *EVERY_MODE)
_MODE_TABS = ("All", *(text for _mode, text in by_mode(SHORT_WORDS)))


class _SheetPage(QWidget):
    """The punch sheet with its tools above it."""

    def __init__(self, sheet: PunchSheet) -> None:
        super().__init__()
        self._sheet = sheet

    def take_focus(self) -> None:
        self._sheet.setFocus()

    def reach(self, field: str) -> bool:
        """The sheet itself."""
        if field == "sheet":
            self._sheet.setFocus()
        return field == "sheet"


class RoutesStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme, parts: Mapping[str, str]) -> None:
        super().__init__()
        self._bench = bench
        self._theme = theme
        outer = column(self, 4)
        self.sheet = PunchSheet(bench, theme)
        self.work = WorkMenu(bench, self.sheet, self)
        self.inspector = Inspector(bench, theme)
        self.beside = BesideSheet(self.inspector, self._make_zones)
        self.pages = Pages(
            (
                Page(
                    "sheet",
                    "Punch sheet",
                    lambda: self._with_sheet,
                    lambda: self.beside,
                    partial(no_access, bench, _SHEET),
                ),
                Page("names", "Names", lambda: self.names, blank=partial(no_route, bench, _NAMES, pictures.rows)),
                Page("trace", "Trace", lambda: self.traces, blank=partial(no_route, bench, _TRACE, pictures.path)),
            ),
            bench,
            theme,
            parts=parts,
        )
        self._with_sheet = self._sheet_page()
        head = row()
        head.addWidget(self.pages.tabs)
        self._count = Whole()
        head.addWidget(self._count, 1)
        self._add = button("+ Access", self.add_access, tip="Add an access point (Ctrl Shift A)")
        head.addWidget(self._add)
        head.addWidget(button("+ Destination", self.add_destination, tip="Add a destination (Ctrl Shift D)"))
        outer.addLayout(head)
        outer.addWidget(self.pages, 1)
        self.sheet.edit_asked.connect(self._edit)
        self.sheet.mode_shown.connect(lambda mode: self.modes.mark(_MODES.index(mode)))
        self.side: QWidget = self.pages.side
        bench.plan_changed.connect(self._say_count)
        bench.selection_changed.connect(self._follow)
        self._say_count()
        self.show_page("sheet")

    def _sheet_page(self) -> QWidget:
        page, theme = _SheetPage(self.sheet), self._theme
        outer = column(page, 4)
        tools: QHBoxLayout = row(gap=6)
        self.modes = Tabs(_MODE_TABS, lambda at: self.sheet.show_mode(_MODES[at]), gap=0)
        self.modes.mark(0)
        tools.addWidget(self.modes)
        tools.addWidget(Legend(theme), 1)
        tools.addWidget(self.work.button)
        outer.addLayout(tools)
        outer.addWidget(self.sheet, 1)
        return page

    def _make_zones(self) -> "ZonesPanel":
        from umbra_awl.desk.routes.zones import ZonesPanel

        made = ZonesPanel(self._bench)
        made.members_shown.connect(self.sheet.flags.show_members)
        return made

    @property
    def zones(self) -> "ZonesPanel":
        """The zones and scan lists beside the sheet."""
        return self.beside.zones

    @cached_property
    def names(self) -> "NamesPage":
        """The page of names, made when it is first shown."""
        from umbra_awl.desk.routes.names_page import NamesPage

        return NamesPage(self._bench, self._theme)

    @cached_property
    def traces(self) -> "TracePage":
        """The page of the trace, made when it is first shown."""
        from umbra_awl.desk.routes.trace_page import TracePage

        return TracePage(self._bench, self._theme)

    def show_page(self, name: str) -> None:
        """Show “sheet”, “names” or “trace”, or “zones” or “scans” beside the sheet."""
        if self.pages.on(name) == "sheet":
            self.beside.show_part("crossing" if name == "sheet" else name)
        self.pages.show_page(name)

    def why_silent(self) -> None:
        """Show what keeps the selected channel shut for a call."""
        self.show_page("trace")
        self.traces.show_question(1)

    def _edit(self) -> None:
        self.show_page("sheet")
        self.inspector.focus()

    def _follow(self) -> None:
        target = self._bench.selection.target
        if target is not None and target.kind in {"zone", "scan"}:
            self.beside.choose("zones" if target.kind == "zone" else "scans", target.key)

    def _say_count(self) -> None:
        plan = self._bench.plan
        services = sum(len(access.services) for access in plan.access)
        routes = len(plan.routes)
        restyle(self._add, "role", "" if plan.access else "main")
        self._count.setText(f"{counted(routes, 'route')}, {counted(services, 'service')}")

    def reach(self, field: str) -> bool:
        """Put the cursor into a field of the page that is shown; “add access” and “add destination” ask for one."""
        asks = {"add access": self.add_access, "add destination": self.add_destination}
        if field in asks:
            asks[field]()
            self.pages.take_focus()
            return True
        return self.pages.reach(field)

    def take_focus(self) -> None:
        """Give the keyboard to the page."""
        self.pages.take_focus()

    def add_access(self) -> None:
        """Ask for a new access point."""
        from umbra_awl.desk.parts.cards.adding import AddAccess

        AddAccess(self._bench, self).exec()

    def add_destination(self) -> None:
        """Ask for a new destination."""
        from umbra_awl.desk.parts.cards.adding import AddDestination

        AddDestination(self._bench, self).exec()
