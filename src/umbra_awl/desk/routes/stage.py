"""The Routes stage: the punch sheet, the names and the trace as pages, and beside them what each page is worked with."""

from functools import cached_property
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QStackedWidget, QWidget

from umbra_awl.core.plan.model import ScanList, Zone
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.widgets import button, column, restyle, row, words
from umbra_awl.desk.routes.inspector import Inspector
from umbra_awl.desk.routes.legend import Legend
from umbra_awl.desk.routes.sheet import PunchSheet
from umbra_awl.desk.routes.work_menu import WorkMenu
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

if TYPE_CHECKING:
    from umbra_awl.desk.routes.names_page import NamesPage
    from umbra_awl.desk.routes.trace_page import TracePage
    from umbra_awl.desk.routes.zones import ZonesPanel

_MODES = ("", "fm", "dmr", "dstar", "fusion")
_MODE_TABS = ("All", "FM", "DMR", "D-STAR", "Fusion")


class RoutesStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        self._theme = theme
        outer = column(self, 4)
        head = row()
        self.pages = Tabs(("Punch sheet", "Names", "Trace"), self.show_page)
        head.addWidget(self.pages)
        self._count = words("", "second")
        self._count.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        head.addWidget(self._count, 1)
        self._add = button("+ Access", self.add_access, tip="Add an access point (Ctrl Shift A)")
        head.addWidget(self._add)
        head.addWidget(button("+ Destination", self.add_destination, tip="Add a destination (Ctrl Shift D)"))
        outer.addLayout(head)
        self._canvas = QStackedWidget()
        outer.addWidget(self._canvas, 1)
        self.sheet = PunchSheet(bench, theme)
        self.work = WorkMenu(bench, self.sheet, self)
        self._canvas.addWidget(self._sheet_page(theme))
        self.inspector = Inspector(bench, theme)
        self.sheet.edit_asked.connect(self._edit)
        self.sheet.mode_shown.connect(lambda mode: self.modes.mark(_MODES.index(mode)))
        self.side = self._side()
        bench.plan_changed.connect(self._say_count)
        bench.selection_changed.connect(self._follow)
        self._say_count()
        self.show_page(0)

    def _sheet_page(self, theme: Theme) -> QWidget:
        page = QWidget()
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

    @cached_property
    def zones(self) -> "ZonesPanel":
        """The zones, made when they are first shown."""
        from umbra_awl.desk.routes.zones import ZonesPanel

        made = ZonesPanel(self._bench)
        made.members_shown.connect(self.sheet.show_members)
        self._pages.addWidget(made)
        return made

    @cached_property
    def names(self) -> "NamesPage":
        """The page of names, made when it is first shown."""
        from umbra_awl.desk.routes.names_page import NamesPage

        made = NamesPage(self._bench, self._theme)
        self._canvas.addWidget(made)
        self._pages.addWidget(made.side)
        return made

    @cached_property
    def traces(self) -> "TracePage":
        """The page of the trace, made when it is first shown."""
        from umbra_awl.desk.routes.trace_page import TracePage

        made = TracePage(self._bench, self._theme)
        self._canvas.addWidget(made)
        return made

    def _side(self) -> QWidget:
        side = QWidget()
        outer = column(side, 6)
        self.tabs = Tabs(("Crossing", "Zones and scan lists", "House style"), self.show_side)
        self.tabs.line.addStretch(1)
        outer.addWidget(self.tabs)
        self._pages = QStackedWidget()
        self._pages.addWidget(self.inspector)
        outer.addWidget(self._pages, 1)
        self.show_side(0)
        return side

    def show_side(self, page: int) -> None:
        """Show the inspector (0), the zones (1) or the house style of names (2)."""
        made = (lambda: self.inspector, lambda: self.zones, lambda: self.names.side)[page]()
        self._pages.setCurrentWidget(made)
        self.tabs.mark(page)

    def show_page(self, page: int) -> None:
        """Show the punch sheet (0), the names (1) or the trace (2)."""
        self.pages.mark(page)
        if page == 0:
            self._canvas.setCurrentIndex(0)
        else:
            self._canvas.setCurrentWidget(self.names if page == 1 else self.traces)
        if page == 1:
            self.show_side(2)
        elif self.tabs.marked == 2:
            self.show_side(0)

    def why_silent(self) -> None:
        """Show what keeps the selected channel shut for a call."""
        self.show_page(2)
        self.traces.show_question(1)

    def _edit(self) -> None:
        self.show_side(0)
        self.inspector.focus()

    def _follow(self) -> None:
        target = self._bench.selection.target
        if target is not None and target.kind in {"zone", "scan"}:
            self.show_side(1)
            self.zones.choose(Zone if target.kind == "zone" else ScanList, target.key)
        elif target is not None or self._bench.selection.many:
            self.show_side(0)

    def _say_count(self) -> None:
        plan = self._bench.plan
        services = sum(len(access.services) for access in plan.access)
        routes = len(plan.routes)
        restyle(self._add, "role", "" if plan.access else "main")
        self._count.setText(f"{routes} route{'' if routes == 1 else 's'}, {services} services")

    def take_focus(self) -> None:
        """Give the keyboard to the page."""
        page = self._canvas.currentWidget()
        if page is self._canvas.widget(0) or page is None:
            self.sheet.setFocus()
        else:
            (self.names if self.pages.marked == 1 else self.traces).take_focus()

    def add_access(self) -> None:
        """Ask for a new access point."""
        from umbra_awl.desk.parts.adding import AddAccess

        AddAccess(self._bench, self).exec()

    def add_destination(self) -> None:
        """Ask for a new destination."""
        from umbra_awl.desk.parts.adding import AddDestination

        AddDestination(self._bench, self).exec()
