"""Zones and scan lists beside the sheet: made by a rule or by hand, their routes in their order."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QMenu, QPushButton, QWidget

from umbra_awl.core.plan.model import GroupBy, RouteList, ScanList, Zone
from umbra_awl.core.routes.lists import (
    RULE_WORDS,
    drop_hand_order,
    make_zones,
    members_of_all,
    move_member,
    place_member,
    toggle_member,
)
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.widgets import Flow, PressButton, button, column, rows_of, words
from umbra_awl.desk.routes.list_acts import ListActs
from umbra_awl.desk.routes.list_card import list_fields
from umbra_awl.desk.routes.members import MemberList
from umbra_awl.desk.routes.punching import attempt

_LINES = 20
_LOW = 36
"""A list gives way to the card between them where the window is low; it is scrolled."""


class ZonesPanel(QWidget):
    """The plan's zones, or its scan lists, and the members of the chosen one."""

    members_shown = pyqtSignal(frozenset)

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self.acts = ListActs(self)
        self.bench = bench
        self._filling = False
        self.kind: type[Zone | ScanList] = Zone
        outer = column(self, 6)
        self._make = self._make_button()
        fresh = button("New", self.acts.add, tip="One by hand, with the selected route in it")
        outer.addLayout(rows_of(self._make, fresh, gap=2))
        self.zones = QListWidget()
        self.zones.setAccessibleName("Lists")
        self.zones.currentRowChanged.connect(lambda _row: self._fill_members())
        self.zones.itemDoubleClicked.connect(lambda _item: self.acts.rename())
        self.zones.setMinimumHeight(_LOW)
        outer.addWidget(self.zones, 2)
        self.card = FieldList(58)
        outer.addWidget(self.card)
        self._caption = words("", "second", wrap=True)
        outer.addWidget(self._caption)
        self._members = MemberList()
        self._members.setAccessibleName("Routes of the list, in order")
        self._members.moved.connect(self.shift)
        self._members.removed.connect(self.take_out)
        self._members.dropped.connect(self.drop)
        self._members.itemClicked.connect(self._select_member)
        self._members.setMinimumHeight(_LOW)
        outer.addWidget(self._members, 3)
        acts = Flow(0)
        for label, does, tip in (
            ("By rule", self.reorder, "Order it by its rule again"),
            ("In / out", self.toggle, "Put the selected crossing in, or take it out"),
            ("Rename", self.acts.rename, ""),
            ("Remove", self.acts.remove, "Its routes stay in the plan"),
        ):
            acts.addWidget(button(label, does, tip=tip))
        outer.addLayout(acts)
        bench.plan_changed.connect(self.refresh)
        self.refresh()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """In a low window the explanation gives way to what is worked with."""
        super().resizeEvent(event)
        self._caption.setVisible(self.height() > _LINES * self.fontMetrics().height())

    def _make_button(self) -> QPushButton:
        made = PressButton("Make by rule")
        menu = QMenu(made)
        rules: tuple[GroupBy, ...] = ("access", "place", "mode", "everything", "home", "trip")
        for by in rules:
            action = menu.addAction(RULE_WORDS[by].capitalize())
            if action is not None:
                action.triggered.connect(lambda _checked=False, by=by: self.bench.do(make_zones(by)))
        made.setMenu(menu)
        return made

    def show_kind(self, kind: type[Zone] | type[ScanList]) -> None:
        """Show the zones or the scan lists."""
        self.kind = kind
        self.refresh()

    def _lists(self) -> tuple[RouteList, ...]:
        return self.bench.plan.zones if self.kind is Zone else self.bench.plan.scans

    def chosen(self) -> RouteList | None:
        """The chosen zone or scan list."""
        lists = self._lists()
        at = self.zones.currentRow()
        return lists[at] if 0 <= at < len(lists) else None

    def choose(self, kind: type[Zone] | type[ScanList], key: str) -> None:
        """Choose a zone or scan list by its key."""
        self.show_kind(kind)
        keys = [item.key for item in self._lists()]
        if key in keys:
            self.zones.setCurrentRow(keys.index(key))

    def refresh(self) -> None:
        """Show the plan's lists."""
        self._filling = True
        at, member = self.zones.currentRow(), self._members.currentRow()
        lists = self._lists()
        members = members_of_all(self.bench.index, lists)
        self.zones.clear()
        for item in lists:
            how = "by hand" if item.by == "hand" else "by rule"
            self.zones.addItem(QListWidgetItem(f"{item.name}   ·   {len(members[item.key])}, {how}"))
        self._filling = False
        self._make.setVisible(self.kind is Zone)
        self.zones.setCurrentRow(min(max(at, 0), self.zones.count() - 1))
        self._fill_members()
        self._members.setCurrentRow(min(member, self._members.count() - 1))

    def _keys(self) -> tuple[str, ...]:
        item = self.chosen()
        return members_of_all(self.bench.index, (item,))[item.key] if item is not None else ()

    def _fill_members(self) -> None:
        if self._filling:
            return
        keys, index, item = self._keys(), self.bench.index, self.chosen()
        self._members.fill([(key, index.labels.of(index.routes[key])) for key in keys])
        self.card.setVisible(item is not None)
        self.card.show_fields(list_fields(self.bench, item) if item is not None else ())
        self._caption.setText(self._caption_words())
        self.members_shown.emit(frozenset(keys) if self.isVisible() else frozenset())

    def _caption_words(self) -> str:
        item = self.chosen()
        if item is None and self.kind is Zone:
            return "Without zones, each access point gets one of its own. Make them by a rule, or by hand."
        if item is None:
            return "A scan list is what the radio steps through while nobody talks. Make one, then put crossings in."
        if item.by == "hand":
            return "By hand: it holds what you put in."
        if item.members:
            return "By rule, in your order: new routes join at the end. Drag, or Ctrl Up and Down."
        return "By rule: new routes join it. Drag one, or Ctrl Up and Down, and your order is kept."

    def showEvent(self, event: object) -> None:
        self._fill_members()
        super().showEvent(event)  # type: ignore[arg-type]

    def hideEvent(self, event: object) -> None:
        self.members_shown.emit(frozenset())
        super().hideEvent(event)  # type: ignore[arg-type]

    def _select_member(self, _item: QListWidgetItem) -> None:
        key = self._keys()[self._members.currentRow()]
        route = self.bench.index.routes[key]
        self.bench.select(Selection(route.service, route.destination, route.slot))

    def shift(self, by: int) -> None:
        """Move the chosen route of the list up or down."""
        item, at = self.chosen(), self._members.currentRow()
        if item is None or at < 0:
            self.bench.say("Choose a route in the list first.")
            return
        if self.bench.do(move_member(self.bench.index, item, self._keys()[at], by)):
            self._members.setCurrentRow(min(max(at + by, 0), self._members.count() - 1))

    def drop(self, key: str, to: int) -> None:
        """Put a dragged route at a place of the list."""
        item = self.chosen()
        if item is not None and key in self._keys():
            self.bench.do(place_member(self.bench.index, item, key, to))
            self._members.setCurrentRow(to)

    def reorder(self) -> None:
        """Order the chosen list by its rule again."""
        item = self.chosen()
        if item is not None:
            attempt(self.bench, lambda: drop_hand_order(item))

    def take_out(self) -> None:
        """Take the route that is marked in the list out of it."""
        item, key = self.chosen(), self._members.key_at(self._members.currentRow())
        if item is not None and key:
            attempt(self.bench, lambda: toggle_member(self.bench.index, item, self.bench.index.routes[key]))

    def toggle(self) -> None:
        """Put the selected crossing into the chosen list, or take it out."""
        item, route = self.chosen(), self.bench.route
        if item is None or route is None:
            self.bench.say("Select a punched crossing and a list first.")
            return
        attempt(self.bench, lambda: toggle_member(self.bench.index, item, route))
