"""The Routes stage: the punch sheet, and beside it the inspector and the zones."""

from functools import cached_property
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QStackedWidget, QWidget

from umbra_awl.core.plan.model import ScanList, Zone
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.widgets import button, column, restyle, row, words
from umbra_awl.desk.routes.inspector import Inspector
from umbra_awl.desk.routes.legend import Legend
from umbra_awl.desk.routes.sheet import PunchSheet
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

if TYPE_CHECKING:
    from umbra_awl.desk.routes.zones import ZonesPanel


class RoutesStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 6)
        head = row()
        self._count = words("", "second")
        head.addWidget(words("Punch sheet", "title"))
        head.addWidget(self._count)
        head.addSpacing(8)
        head.addWidget(Legend(theme))
        head.addStretch(1)
        self._add = button("+ Access", self.add_access, tip="Add an access point (Ctrl Shift A)")
        head.addWidget(self._add)
        head.addWidget(button("+ Destination", self.add_destination, tip="Add a destination (Ctrl Shift D)"))
        outer.addLayout(head)
        self.sheet = PunchSheet(bench, theme)
        outer.addWidget(self.sheet, 1)
        self.inspector = Inspector(bench)
        self.sheet.edit_asked.connect(self._edit)
        self.side = self._side()
        bench.plan_changed.connect(self._say_count)
        bench.selection_changed.connect(self._follow)
        self._say_count()

    @cached_property
    def zones(self) -> "ZonesPanel":
        """The zones, made when they are first shown."""
        from umbra_awl.desk.routes.zones import ZonesPanel

        made = ZonesPanel(self._bench)
        made.members_shown.connect(self.sheet.show_members)
        self._pages.addWidget(made)
        return made

    def _side(self) -> QWidget:
        side = QWidget()
        outer = column(side, 6)
        self.tabs = Tabs(("Crossing", "Zones and scan lists"), self.show_side)
        self.tabs.line.addStretch(1)
        outer.addWidget(self.tabs)
        self._pages = QStackedWidget()
        self._pages.addWidget(self.inspector)
        outer.addWidget(self._pages, 1)
        self.show_side(0)
        return side

    def show_side(self, page: int) -> None:
        """Show the inspector (0) or the zones (1)."""
        self._pages.setCurrentWidget(self.zones if page else self.inspector)
        self.tabs.mark(page)

    def _edit(self) -> None:
        self.show_side(0)
        self.inspector.focus()

    def _follow(self) -> None:
        target = self._bench.selection.target
        if target is not None and target.kind in {"zone", "scan"}:
            self.show_side(1)
            self.zones.choose(Zone if target.kind == "zone" else ScanList, target.key)
        elif target is not None:
            self.show_side(0)

    def _say_count(self) -> None:
        plan = self._bench.plan
        services = sum(len(access.services) for access in plan.access)
        routes = len(plan.routes)
        restyle(self._add, "role", "" if plan.access else "main")
        self._count.setText(f"{routes} route{'' if routes == 1 else 's'}, {services} services")

    def take_focus(self) -> None:
        """Give the keyboard to the sheet."""
        self.sheet.setFocus()

    def add_access(self) -> None:
        """Ask for a new access point."""
        from umbra_awl.desk.parts.adding import AddAccess

        AddAccess(self._bench, self).exec()

    def add_destination(self) -> None:
        """Ask for a new destination."""
        from umbra_awl.desk.parts.adding import AddDestination

        AddDestination(self._bench, self).exec()
