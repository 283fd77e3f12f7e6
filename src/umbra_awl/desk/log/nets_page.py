"""Nets: the week as a ribbon, the next one counted down and how to reach it, and who is awake."""

from collections.abc import Mapping
from datetime import datetime, timedelta
from functools import partial

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QComboBox, QWidget

from umbra_awl.core.agenda.awake import Awake, awake, trip_on, where_else, zone_here
from umbra_awl.core.agenda.net_edits import remove_net
from umbra_awl.core.agenda.recurrence import (
    clashes,
    in_order,
    net_fault,
    next_meeting,
    rule_words,
)
from umbra_awl.core.agenda.way_there import way_there
from umbra_awl.core.plan.model import Net
from umbra_awl.desk.book.log_book import LogBook
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.log.net_fields import AddNet, NetFields
from umbra_awl.desk.log.net_files import NetFiles
from umbra_awl.desk.log.next_net import NextNet, Week
from umbra_awl.desk.log.week_picture import DAYS, WeekPicture
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Act
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, row, rows_of, scrolled, words
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.zone import home_zone

_EVERY_MS = 20_000
_TOLD = 4
_HEADS = ("Call", "There", "", "Busiest, your time", "Advice")
_NO_NET = "No net is chosen. Add the nets you know: a club's evening, a slow-speech round, a weekly test."
_NO_ZONE = (
    "No destination of the plan has a time zone yet. Give one to those far away, in the sheet's inspector, and their clocks "
    "stand here."
)
_CHOOSE = "Choose one: where else to call stands here. Wait for a gap, identify, hand over. Not while driving."


class NetsPage(QWidget):
    """The canvas page; `side` has the net in hand."""

    def __init__(self, bench: Workbench, theme: Theme, book: LogBook) -> None:
        super().__init__()
        self.coming = NextNet(self)
        self.files = NetFiles(self)
        self.bench, self.theme, self.book = bench, theme, book
        self.in_hand = ""
        self.ranked: list[Awake] = []
        self._editor = NetFields(bench)
        outer = column(self, 6)
        self.seen_from = QComboBox()
        self.seen_from.setAccessibleName("Where you are")
        self.seen_from.currentIndexChanged.connect(lambda _at: self.refresh())
        self.told = words("", wrap=True)
        line = row(gap=8)
        line.addWidget(self.seen_from)
        line.addStretch(1)
        self.there = button("Take the route in hand", self.take_route)
        line.addWidget(self.there)
        outer.addLayout(line)
        outer.addWidget(self.told)
        self.week = WeekPicture(theme)
        self.week.chosen.connect(self.choose)
        outer.addWidget(self.week, 3)
        self.clash = words("", "brass", wrap=True)
        outer.addWidget(self.clash)
        self.else_ = words("", "second", wrap=True)
        outer.addWidget(words("Who is awake", "title"))
        self.table = RowsTable(
            theme, "Who is awake", "Add a destination with a time zone, and whom to call now stands here."
        )
        self.table.chosen.connect(self._say_else)
        outer.addWidget(self.table, 2)
        outer.addWidget(self.else_)
        self._place_side()
        self._tick = QTimer(self)
        self._tick.setInterval(_EVERY_MS)
        self._tick.timeout.connect(self._time_goes_on)
        self._tick.start()
        for signal in (bench.plan_changed, bench.results_changed, book.changed, theme.changed):
            signal.connect(self.refresh)
        self.refresh()

    def _place_side(self) -> None:
        self.side = QWidget()
        beside = column(self.side, 6)
        self.title = words("", "title", wrap=True)
        self.way = words("", "second", wrap=True)
        self.fields = FieldList(78)
        inside = QWidget()
        inner = column(inside, 6)
        for part in (self.title, self.way, self.fields):
            inner.addWidget(part)
        inner.addStretch(1)
        beside.addWidget(scrolled(inside), 1)
        self.check = button(
            "Ten minutes before", self.coming.ask_check, tip="What is in order for this net, and what is not"
        )
        beside.addWidget(self.check)
        self.add = button("Add a net", self.ask_add, "main")
        bring = button("Import iCalendar", self.files.ask_import)
        self.save = button("Save as iCalendar", self.files.ask_save)
        beside.addLayout(rows_of(self.add, bring, self.save, gap=6))

    @property
    def zone(self) -> str:
        """The zone one is in: of the trip that is chosen or on, else this computer's."""
        return zone_here(self.bench.index, self.bench.clock.utc(), home_zone(), self.seen_from.currentData() or "")

    @property
    def net(self) -> Net | None:
        """The net in hand."""
        return next((item for item in self.bench.plan.nets if item.key == self.in_hand), None)

    def choose(self, key: str) -> None:
        """Take a net in hand."""
        self.in_hand = key
        self.refresh()

    def _time_goes_on(self) -> None:
        if self.isVisible():
            self.refresh()

    # showing

    def refresh(self) -> None:
        """Show the week, what is next, the net in hand, and who is awake."""
        nets, now = self.bench.plan.nets, self.bench.clock.utc()
        if self.net is None:
            self.in_hand = nets[0].key if nets else ""
        self._fill_places()
        self.bench.jobs.latest("nets-week", lambda: _week_of(nets, now), self._show_week)
        self._show_net()
        self._show_awake()
        self.save.setEnabled(bool(nets))

    def _fill_places(self) -> None:
        on = trip_on(self.bench.plan.trips, self.bench.clock.utc())
        first = f"on the trip {on.name}, as the calendar says" if on is not None else "at home"
        wanted = [(first, ""), *((f"on the trip {item.name}", item.key) for item in self.bench.plan.trips)]
        if wanted == [
            (self.seen_from.itemText(at), self.seen_from.itemData(at)) for at in range(self.seen_from.count())
        ]:
            return
        chosen = self.seen_from.currentData()
        self.seen_from.blockSignals(True)
        self.seen_from.clear()
        for text, key in wanted:
            self.seen_from.addItem(text, key)
        self.seen_from.setCurrentIndex(max(0, self.seen_from.findData(chosen)))
        self.seen_from.blockSignals(False)

    def _show_week(self, week: "Week") -> None:
        names = {item.key: item.name for item in week.nets}
        self.week.show_week(week.meetings, names, week.now, self.zone, self.in_hand)
        self.coming.say_next(week)
        self._say_clashes(week, names)

    def _say_clashes(self, week: "Week", names: Mapping[str, str]) -> None:
        told = [
            f"{names[item.one.net]} and {names[item.other.net]} meet at the same time"
            + (
                f", {item.times} times in four weeks"
                if item.times > 1
                else f" on {max(item.one.start, item.other.start):%d %b}"
            )
            for item in week.clashes[:3]
        ]
        self.clash.setText("; ".join(told) + "." if told else "")
        self.clash.setVisible(bool(told))

    def _show_net(self) -> None:
        net = self.net
        self.title.setText(net.name if net is not None else "Nets")
        self.there.setEnabled(net is not None)
        self.fields.setVisible(net is not None)
        if net is None:
            self.way.setText(_NO_NET)
            return
        fault = net_fault(net)
        self.way.setText(fault or f"{_first_up(rule_words(net))}. {self.coming.way_words(net)}")
        remove = Act("Remove", partial(self.bench.do_told, remove_net(net)))
        self.fields.show_fields(self._editor.fields(net), [remove], about=net.key)

    def _show_awake(self) -> None:
        bench = self.bench
        self.ranked = awake(bench.index, self.bench.clock.utc(), self.zone, self.coming.fits, self.book.proofs)
        time = self.theme.measures.time
        rows = [
            (item.name, f"{item.there:%a} {time(item.there)}", "night" if item.night else "day", item.best, item.words)
            for item in self.ranked
        ]
        tones = ["" if item.words == "call now" else "ink2" for item in self.ranked]
        at = self.table.row_now
        self.table.show_rows(_HEADS, rows, tones, mono=False)
        if 0 <= at < len(rows):
            self.table.choose(at)
        self._say_else(self.table.row_now)

    def _say_else(self, at: int) -> None:
        if not self.ranked:
            self.else_.setText(_NO_ZONE)
        elif 0 <= at < len(self.ranked):
            item = self.ranked[at]
            other = ", ".join(
                f"{one.name} ({one.there:%H:%M} there)" for one in where_else(self.ranked, item.destination)
            )
            self.else_.setText(
                f"Nobody at {item.name}? {f'Try {other}.' if other else 'Nobody else is awake either: try later.'}"
            )
        else:
            self.else_.setText(
                "Choose one: where else to call stands here. Wait for a gap, identify, hand over. Not while driving."
            )

    # doing

    def take_route(self) -> None:
        """Take the route to the net in hand into hand, in the sheet too."""
        net = self.net
        found = way_there(self.bench.index, self.coming.fits, net, self.coming.here()) if net is not None else None
        route = self.bench.index.routes.get(found.route) if found is not None else None
        if route is None:
            self.bench.say(found.missing if found is not None else "Choose a net first.", "stop")
            return
        self.bench.select(Selection(route.service, route.destination, route.slot))
        self.bench.say(f"In hand: {self.bench.index.labels.of(route)}.")

    def ask_add(self) -> None:
        """Ask for a new net."""
        sheet = AddNet(self.bench, self, self.zone)
        if sheet.exec() and sheet.key:
            self.choose(sheet.key)

    def take_focus(self) -> None:
        """Give the keyboard to the week."""
        self.week.setFocus()

    def reach(self, field: str) -> bool:
        """The week, or who is awake."""
        found = {"week": self.week, "awake": self.table, "add": self.add}.get(field)
        if found is not None:
            found.setFocus()
        return found is not None


def _week_of(nets: tuple[Net, ...], now: datetime) -> Week:
    coming = [(found, net) for net in nets if (found := next_meeting(net, now)) is not None]
    first = min(coming, key=lambda item: item[0].start, default=None)
    return Week(nets, now, in_order(nets, now, now + timedelta(days=DAYS)), first, clashes(nets, now))


def _first_up(text: str) -> str:
    return text[:1].upper() + text[1:]
