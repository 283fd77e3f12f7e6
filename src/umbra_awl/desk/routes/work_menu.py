"""What can be done with whole rows, columns and patterns of the sheet: a menu, and the same as commands.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from umbra_awl.core.routes.bulk import SCHOOLS, apply_school, copy_pattern, fill_column, fill_row, schools_for
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import PressButton, act
from umbra_awl.desk.routes import punching
from umbra_awl.desk.routes.sheet import PunchSheet
from umbra_awl.desk.sheet.grid import column_of


class WorkMenu:
    """The menu button over the sheet. It is filled anew each time, for the service and destination selected then."""

    def __init__(self, bench: Workbench, sheet: PunchSheet, parent: QWidget) -> None:
        self._bench = bench
        self._sheet = sheet
        self._parent = parent
        self.button = PressButton("Rows and columns")
        set_tip(self.button, "Fill a row or column, copy a pattern, templates, select what is shown")
        self.menu = QMenu(self.button)
        self.menu.setToolTipsVisible(True)
        self.menu.aboutToShow.connect(self.fill)
        self.button.setMenu(self.menu)

    def open(self) -> None:
        """Open the menu under its button."""
        self.menu.popup(self.button.mapToGlobal(self.button.rect().bottomLeft()))

    def fill(self) -> None:
        """Offer what suits the selection."""
        menu, index, selection = self.menu, self._bench.index, self._bench.selection
        menu.clear()
        act(menu, "Select what is shown\tCtrl+A", self._sheet.select_shown)
        if selection.destination in index.destinations:
            name = index.destinations[selection.destination].name
            act(menu, f"Punch {name} through every service", self.fill_row, "Through all that reach it")
        service = index.services.get(selection.service)
        if service is None:
            self._hint("Select a crossing or a column's head for more")
            return
        where = self._name(selection.service)
        act(menu, f"Punch all that {where} reaches", self.fill_column, "The rows that are shown")
        menu.addSeparator()
        for school in schools_for(index, selection.service):
            act(menu, f"{SCHOOLS[school].words}", partial(self.school, school), SCHOOLS[school].hint)
        pattern = QMenu("As another service", menu)
        menu.addMenu(pattern)
        for key in index.services:
            punched = sum(route.service == key for route in self._bench.plan.routes)
            if key != selection.service and punched:
                act(pattern, f"{self._name(key)}  ({punched})", partial(self.copy, key))
        act(menu, "Copy this pattern to …\tCtrl+Shift+C", self.ask_copy)

    def _hint(self, text: str) -> None:
        action = self.menu.addAction(text)
        if action is not None:
            action.setEnabled(False)

    def _name(self, service: str) -> str:
        access, found = self._bench.index.services[service]
        return f"{access.site}, {column_of(access, found).head}"

    def fill_row(self) -> None:
        """Punch the selected destination through every service that reaches it."""
        destination = self._bench.selection.destination
        if destination not in self._bench.index.destinations:
            self._bench.say("Select a destination first: a crossing, or a row's name.")
            return
        punching.bulk(self._bench, lambda: fill_row(self._bench.index, destination))

    def fill_column(self) -> None:
        """Punch all shown destinations through the selected service."""
        service = self._bench.selection.service
        if service not in self._bench.index.services:
            self._bench.say("Select a service first: a crossing, or a column's head.")
            return
        punching.bulk(self._bench, lambda: fill_column(self._bench.index, service, self._sheet.sheet.destinations))

    def school(self, school: str) -> None:
        """Punch a template on the selected service."""
        punching.bulk(self._bench, lambda: apply_school(self._bench.index, self._bench.selection.service, school))

    def copy(self, source: str) -> None:
        """Punch through the selected service what is punched through another."""
        punching.bulk(self._bench, lambda: copy_pattern(self._bench.index, source, self._bench.selection.service))

    def ask_copy(self) -> None:
        """Ask where to copy the selected service's pattern, with what would be left out."""
        if self._bench.selection.service not in self._bench.index.services:
            self._bench.say("Select a service first: a crossing, or a column's head.")
            return
        from umbra_awl.desk.routes.copying import CopyPattern

        CopyPattern(self._bench, self._bench.selection.service, self._parent).exec()
