"""A radio's memory as its owner sees it: its zones, the knob and display, its other tables, search, and gauges."""

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QFrame, QLineEdit, QListWidget, QScrollArea, QStackedWidget, QWidget

from umbra_awl.core.facts.dstar import shown
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.findings.model import Target
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, column, row
from umbra_awl.desk.radios.gauges import Gauges
from umbra_awl.desk.radios.knob import KnobView
from umbra_awl.desk.theme.theme import Theme

_TABLES = ("Access list", "Call signs", "Rooms")


class MemoryPage(QWidget):
    """The canvas page of the chosen radio's memory."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench, self._theme = bench, theme
        self._filling = False
        outer = column(self, 8)
        tools = row(gap=6)
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find in this memory: a name, a frequency, a number")
        self.search.setAccessibleName("Find in this memory; Enter goes to the next one")
        self.search.textEdited.connect(lambda _text: self.seek(from_here=True))
        self.search.returnPressed.connect(lambda: self.seek(from_here=False))
        tools.addWidget(self.search, 1)
        self.back = button("Its route", self.open_route, tip="Go to the route of this memory (Enter on the knob)")
        tools.addWidget(self.back)
        outer.addLayout(tools)
        body = row(gap=12)
        self.zones = QListWidget()
        self.zones.setAccessibleName("Zones and tables of the radio")
        self.zones.setFixedWidth(theme.px(154))
        self.zones.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.zones.currentRowChanged.connect(lambda _row: self._show_zone())
        body.addWidget(self.zones)
        self._shown = QStackedWidget()
        scroll = QScrollArea()
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        self.knob = KnobView(theme)
        self.knob.chosen.connect(self._select)
        self.knob.opened.connect(self.open_route)
        scroll.setWidget(self.knob)
        self.table = RowsTable(theme, "Other memories of the radio")
        self._shown.addWidget(scroll)
        self._shown.addWidget(self.table)
        body.addWidget(self._shown, 1)
        outer.addLayout(body, 1)
        self.gauges = Gauges(theme)
        outer.addWidget(self.gauges)
        self._fresh = WhenChanged(self, lambda: (bench.worked.results, bench.radio), self._fill)
        for signal in (bench.results_changed, bench.radio_changed, bench.plan_changed):
            signal.connect(self._fresh.check)
        bench.selection_changed.connect(self.follow)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.zones.setFixedWidth(min(self._theme.px(154), self.width() // 3))

    def _fill(self) -> None:
        self.refresh()
        self.follow()

    def take_focus(self) -> None:
        """Give the keyboard to the knob."""
        self.knob.setFocus()

    def _profile(self) -> Profile | None:
        radio = self._bench.radio
        return self._bench.profiles.get(radio.profile) if radio else None

    def refresh(self) -> None:
        """Show the chosen radio."""
        fit, profile = self._bench.fit, self._profile()
        if fit is None or profile is None:
            self.zones.clear()
            self.gauges.show_gauges(())
            self.knob.show_zone("", (), 16, frozenset())
            return
        self._fill_zones(fit)
        self.gauges.show_gauges(fit.report.gauges)

    def _fill_zones(self, fit: Fit) -> None:
        at = max(self.zones.currentRow(), 0)
        memory = fit.memory
        self._filling = True
        self.zones.clear()
        self.zones.addItems([f"{zone.name}  ({len(zone.members)})" for zone in memory.zones])
        tables = (memory.access_list, memory.call_signs, memory.rooms)
        self.zones.addItems([f"{name}  ({len(rows)})" for name, rows in zip(_TABLES, tables, strict=True) if rows])
        self._filling = False
        self.zones.setCurrentRow(min(at, self.zones.count() - 1))
        self._show_zone()

    def _show_zone(self) -> None:
        fit, profile, at = self._bench.fit, self._profile(), self.zones.currentRow()
        if self._filling or fit is None or profile is None:
            return
        if at >= len(fit.memory.zones) > 0 or (at >= 0 and not fit.memory.zones):
            self._show_table(fit.memory, self.zones.item(at))
            return
        self._shown.setCurrentIndex(0)
        if at < 0:
            self.knob.show_zone("no zone", (), profile.knob_positions, frozenset())
            return
        zone = fit.memory.zones[at]
        channels = tuple(fit.memory.channels[number - 1] for number in zone.members)
        self.knob.show_zone(zone.name, channels, profile.knob_positions, self._routes_with_findings())

    def _show_table(self, memory: Memory, item: object) -> None:
        """Show a table of the radio that is no zone."""
        text = item.text() if hasattr(item, "text") else ""
        if text.startswith("Access"):
            heads = ("", "Name", "RPT1", "RPT2", "Receive", "Transmit")
            rows = [
                (
                    str(one.number),
                    one.name,
                    shown(one.rpt1),
                    shown(one.rpt2),
                    format_mhz(one.rx_hz),
                    format_mhz(one.tx_hz),
                )
                for one in memory.access_list
            ]
            self.table.show_rows(heads, rows)
        elif text.startswith("Call"):
            self.table.show_rows(
                ("", "Name", "UR"), [(str(one.number), one.name, shown(one.ur)) for one in memory.call_signs]
            )
        else:
            self.table.show_rows(
                ("", "Name", "Room"), [(str(one.number), one.name, str(one.room)) for one in memory.rooms]
            )
        self._shown.setCurrentIndex(1)

    def _routes_with_findings(self) -> frozenset[str]:
        found: set[str] = set()
        for item in self._bench.worked.results.findings:
            if item.target.kind == "route":
                found.add(item.target.key)
            elif item.target.kind == "service":
                found.update(route.key for route in self._bench.index.by_service.get(item.target.key, ()))
        return frozenset(found)

    def _select(self, _position: int) -> None:
        channel = self.knob.channel()
        route = self._bench.index.routes.get(channel.route) if channel is not None else None
        if route is not None:
            self._bench.select(Selection(route.service, route.destination, route.slot))

    def open_route(self) -> None:
        """Go to the route of the memory at the knob."""
        channel = self.knob.channel()
        if channel is not None and channel.route in self._bench.index.routes:
            self._bench.show(Target("route", channel.route))

    def follow(self) -> None:
        """Turn to the selected route, in the first zone that has it."""
        fit, route = self._bench.fit, self._bench.route
        channel = fit.channel_of(route.key) if fit is not None and route is not None else None
        shown_now = self.knob.channel()
        if channel is not None and (shown_now is None or shown_now.route != channel.route):
            self._turn_to(channel)

    def _turn_to(self, channel: Channel) -> None:
        fit = self._bench.fit
        for at, zone in enumerate(fit.memory.zones if fit is not None else ()):
            if channel.number in zone.members:
                self.zones.setCurrentRow(at)
                self.knob.position = zone.members.index(channel.number)
                self._show_zone()
                return

    def seek(self, *, from_here: bool) -> None:
        """Turn to the next memory whose name, frequency or called number holds the text."""
        fit, text = self._bench.fit, self.search.text().strip().casefold()
        if fit is None or not text:
            return
        memory = fit.memory
        order = [number for zone in memory.zones for number in zone.members]
        here = self.knob.channel()
        start = order.index(here.number) + (not from_here) if here is not None and here.number in order else 0
        for number in [*order[start:], *order[:start]]:
            channel = memory.channels[number - 1]
            if text in _words(channel, memory):
                self._turn_to(channel)
                self._select(self.knob.position)
                return
        self._bench.say(f"No memory of this radio has “{self.search.text().strip()}” in its name, frequency or number.")


def _words(channel: Channel, memory: Memory) -> str:
    """What a memory is found by."""
    contact = memory.contacts[channel.contact - 1] if 0 < channel.contact <= len(memory.contacts) else None
    called = f"{contact.call} {contact.name}" if contact is not None else channel.ur
    return f"{channel.name} {format_mhz(channel.rx_hz)} {called}".casefold()
