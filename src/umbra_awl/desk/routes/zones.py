"""Zones beside the sheet: made by a rule or by hand, their routes in the order of the knob."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QInputDialog, QListWidget, QListWidgetItem, QMenu, QPushButton, QWidget

from umbra_awl.core.plan.model import GroupBy, Zone
from umbra_awl.core.routes.lists import (
    RULE_WORDS,
    add_zone,
    make_zones,
    members_of_all,
    move_member,
    remove_zone,
    rename_zone,
    toggle_member,
)
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.routes.hands import attempt
from umbra_awl.desk.workbench import Selection, Workbench


class MemberList(QListWidget):
    """The routes of a zone; Ctrl Up and Ctrl Down move one, Delete takes it out."""

    moved = pyqtSignal(int)
    removed = pyqtSignal()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        held = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if held and event.key() in {Qt.Key.Key_Up, Qt.Key.Key_Down}:
            self.moved.emit(-1 if event.key() == Qt.Key.Key_Up else 1)
        elif event.key() == Qt.Key.Key_Delete:
            self.removed.emit()
        else:
            super().keyPressEvent(event)


class ZonesPanel(QWidget):
    """The plan's zones and the members of the chosen one."""

    members_shown = pyqtSignal(frozenset)

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self._filling = False
        outer = column(self, 6)
        head = row(gap=2)
        head.addWidget(words("Zones", "title"))
        head.addStretch(1)
        self._make = self._make_button()
        head.addWidget(self._make)
        head.addWidget(button("New", self.add, tip="A zone by hand, with the selected route in it"))
        outer.addLayout(head)
        self._zones = QListWidget()
        self._zones.setAccessibleName("Zones")
        self._zones.currentRowChanged.connect(lambda _row: self._fill_members())
        self._zones.itemDoubleClicked.connect(lambda _item: self.rename())
        outer.addWidget(self._zones, 2)
        self._caption = words("", "second", wrap=True)
        outer.addWidget(self._caption)
        self._members = MemberList()
        self._members.setAccessibleName("Routes of the zone, in the order of the knob")
        self._members.moved.connect(self.shift)
        self._members.removed.connect(self.toggle)
        self._members.itemClicked.connect(self._select_member)
        outer.addWidget(self._members, 3)
        acts = row(gap=0)
        for label, does, tip in (
            ("Up", lambda: self.shift(-1), "Ctrl Up"),
            ("Down", lambda: self.shift(1), "Ctrl Down"),
            ("In / out", self.toggle, "Put the selected crossing into this zone, or take it out"),
            ("Rename", self.rename, ""),
            ("Remove", self.remove, "Remove the zone; its routes stay"),
        ):
            acts.addWidget(button(label, does, tip=tip))
        acts.addStretch(1)
        outer.addLayout(acts)
        bench.plan_changed.connect(self.refresh)
        self.refresh()

    def _make_button(self) -> QPushButton:
        made = QPushButton("Make by rule")
        menu = QMenu(made)
        rules: tuple[GroupBy, ...] = ("access", "place", "mode", "everything")
        for by in rules:
            action = menu.addAction(RULE_WORDS[by].capitalize())
            if action is not None:
                action.triggered.connect(lambda _checked=False, by=by: self._bench.do(make_zones(by)))
        made.setMenu(menu)
        return made

    def zone(self) -> Zone | None:
        """The chosen zone."""
        zones = self._bench.plan.zones
        at = self._zones.currentRow()
        return zones[at] if 0 <= at < len(zones) else None

    def choose(self, key: str) -> None:
        """Choose a zone by its key."""
        keys = [zone.key for zone in self._bench.plan.zones]
        if key in keys:
            self._zones.setCurrentRow(keys.index(key))

    def refresh(self) -> None:
        """Show the plan's zones."""
        self._filling = True
        at, member = self._zones.currentRow(), self._members.currentRow()
        members = members_of_all(self._bench.index, self._bench.plan.zones)
        self._zones.clear()
        for zone in self._bench.plan.zones:
            how = "by hand" if zone.by == "hand" else "by rule"
            self._zones.addItem(QListWidgetItem(f"{zone.name}   ·   {len(members[zone.key])}, {how}"))
        self._filling = False
        self._zones.setCurrentRow(min(max(at, 0), self._zones.count() - 1))
        self._fill_members()
        self._members.setCurrentRow(min(member, self._members.count() - 1))

    def _keys(self) -> tuple[str, ...]:
        zone = self.zone()
        return members_of_all(self._bench.index, (zone,))[zone.key] if zone is not None else ()

    def _fill_members(self) -> None:
        if self._filling:
            return
        keys, index = self._keys(), self._bench.index
        self._members.clear()
        for number, key in enumerate(keys, 1):
            self._members.addItem(QListWidgetItem(f"{number}  {index.label(index.routes[key])}"))
        self._caption.setText(self._caption_words())
        self.members_shown.emit(frozenset(keys) if self.isVisible() else frozenset())

    def _caption_words(self) -> str:
        zone = self.zone()
        if zone is None:
            return "Without zones, each access point gets one of its own. Make them by a rule, or by hand."
        if zone.by == "hand":
            return "By hand: it holds what you put in."
        return "By rule: new routes join it. Moving one keeps your order from then on."

    def showEvent(self, event: object) -> None:
        self._fill_members()
        super().showEvent(event)  # type: ignore[arg-type]

    def hideEvent(self, event: object) -> None:
        self.members_shown.emit(frozenset())
        super().hideEvent(event)  # type: ignore[arg-type]

    def _select_member(self, _item: QListWidgetItem) -> None:
        key = self._keys()[self._members.currentRow()]
        route = self._bench.index.routes[key]
        self._bench.select(Selection(route.service, route.destination, route.slot))

    def add(self) -> None:
        """Make a zone by hand, with the selected route in it."""
        name, given = QInputDialog.getText(self, "New zone", "Its name:")
        if given and name.strip():
            route = self._bench.route
            self._bench.do(add_zone(self._bench.index, name.strip(), (route,) if route else ()))
            self._zones.setCurrentRow(self._zones.count() - 1)

    def rename(self) -> None:
        """Give the chosen zone another name."""
        zone = self.zone()
        if zone is None:
            return
        name, given = QInputDialog.getText(self, "Rename the zone", "Its name:", text=zone.name)
        if given:
            attempt(self._bench, lambda: rename_zone(zone, name.strip()))

    def remove(self) -> None:
        """Remove the chosen zone."""
        zone = self.zone()
        if zone is not None:
            self._bench.do(remove_zone(zone))

    def shift(self, by: int) -> None:
        """Move the chosen route of the zone up or down."""
        zone, at = self.zone(), self._members.currentRow()
        if zone is None or at < 0:
            self._bench.say("Choose a route in the zone first.")
            return
        if self._bench.do(move_member(self._bench.index, zone, self._keys()[at], by)):
            self._members.setCurrentRow(min(max(at + by, 0), self._members.count() - 1))

    def toggle(self) -> None:
        """Put the selected crossing into the chosen zone, or take it out."""
        zone, route = self.zone(), self._bench.route
        if zone is None or route is None:
            self._bench.say("Select a punched crossing and a zone first.")
            return
        attempt(self._bench, lambda: toggle_member(self._bench.index, zone, route))
