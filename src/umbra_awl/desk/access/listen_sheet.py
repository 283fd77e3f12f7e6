"""Where to begin listening: the band scan with what was heard, the groups in their order, the hours, on a sheet of its own."""

from functools import partial

from PyQt6.QtWidgets import QDialog, QHBoxLayout, QLineEdit, QWidget

from umbra_awl.core.agenda.awake import zone_here
from umbra_awl.core.agenda.listening import (
    BusyHour,
    GroupLine,
    ScanLine,
    busiest_words,
    busy_hours,
    group_lines,
    heard_edit_words,
    scan_lines,
)
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.findings.model import Target
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.messages.history import utc_stamp
from umbra_awl.core.paper.scan_sheet import CAUTION, scan_pdf
from umbra_awl.core.plan.edit.edit_station import set_station
from umbra_awl.core.plan.model import BandHeard
from umbra_awl.desk.access.hours_picture import HoursPicture
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.saving import ask_place, save_later
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.zone import home_zone

_LEAD = (
    "Tune through the band and note what you hear. Then listen where it is quiet and local: there a word is answered."
)
_NOTHING_KNOWN = (
    "No list of access points is there yet: only calling frequencies stand here. Bring a list in at Directory."
)


class ListenSheet(QDialog):
    """The band at the left, what to listen to first at the right. What is noted is an edit of the plan, and can be undone."""

    def __init__(
        self, parent: QWidget, bench: Workbench, theme: Theme, directory: Directory, entries: tuple[Entry, ...]
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("Where to begin listening")
        self.resize(min(1060, parent.width() - 40), min(680, parent.height() - 40))
        self._bench, self._directory, self._entries = bench, directory, entries
        self.lines: tuple[ScanLine, ...] = ()
        self.groups: tuple[GroupLine, ...] = ()
        self.hours: tuple[BusyHour, ...] = ()
        outer = column(self, 8, 16)
        outer.addWidget(words("Where to begin listening", "title"))
        self._lead = words(_LEAD, "second", wrap=True)
        outer.addWidget(self._lead)
        line = row(gap=12)
        left, right = column(gap=6), column(gap=6)
        self.scan = RowsTable(
            theme, "Through the band: frequency, what stands there, whether it is in reach, what was heard"
        )
        self.scan.chosen.connect(lambda _row: self._offer())
        left.addWidget(self.scan, 1)
        left.addLayout(self._noting())
        self.order = RowsTable(theme, "The groups, those that are worth listening to first above")
        self.order.activated.connect(lambda _at: self._go())
        self.order.chosen.connect(lambda _row: self._say_why())
        right.addWidget(words("Then the groups", "violet"))
        right.addWidget(self.order, 3)
        self.why = words("", "second", wrap=True)
        right.addWidget(self.why)
        self.busiest = words("", "second", wrap=True)
        right.addWidget(self.busiest)
        self.picture = HoursPicture(theme)
        right.addWidget(self.picture, 1)
        line.addLayout(left, 3)
        line.addLayout(right, 2)
        outer.addLayout(line, 1)
        foot = row(gap=8)
        foot.addWidget(words(CAUTION, "second", wrap=True), 1)
        foot.addWidget(button("Save as PDF …", self._ask_pdf))
        foot.addWidget(button("Close", self.accept, "main"))
        outer.addLayout(foot)
        self.refresh()
        self.heard.setFocus()

    def _noting(self) -> QHBoxLayout:
        line = row(gap=6)
        self.at = words("", "mono")
        self.heard = QLineEdit()
        self.heard.setPlaceholderText("what you hear: a call, a language, data")
        self.heard.setAccessibleName("What is heard on the chosen frequency")
        self.heard.returnPressed.connect(self.note)
        line.addWidget(self.at)
        line.addWidget(self.heard, 1)
        line.addWidget(button("Heard it", self.note, tip="Noted with the moment; an empty note counts too"))
        line.addWidget(button("Quiet, on", self.go_on, "plain", "To the next frequency"))
        return line

    def refresh(self) -> None:
        """Show the band, the groups and the hours as they are known now."""
        bench, at = self._bench, self.scan.row_now
        spots = self._directory.survey.spots
        self._lead.setText(_LEAD if spots else f"{_LEAD} {_NOTHING_KNOWN}")
        self.lines = scan_lines(bench.index, spots)
        self.groups = group_lines(bench.index)
        self.hours = busy_hours(bench.index, self._entries, zone_here(bench.index, bench.clock.utc(), home_zone(), ""))
        rows = [(format_mhz(item.hz), item.what, item.reach, item.heard_words) for item in self.lines]
        self.scan.show_rows(("MHz", "What stands there", "Reach", "Heard"), rows, mono=False)
        self.scan.choose(max(at, 0))
        self.order.show_rows(("Route", "Kind"), [(item.label, item.kind) for item in self.groups], mono=False)
        self._say_why()
        self.busiest.setText(busiest_words(self.hours))
        self.picture.show_hours(self.hours)
        self._offer()

    def _line(self) -> ScanLine | None:
        at = self.scan.row_now
        return self.lines[at] if 0 <= at < len(self.lines) else None

    def _offer(self) -> None:
        line = self._line()
        self.at.setText(f"{format_mhz(line.hz)} MHz" if line is not None else "")

    def note(self) -> None:
        """Note what is heard on the chosen frequency, and go on to the next."""
        line = self._line()
        if line is None:
            return
        text = self.heard.text().strip()
        made = BandHeard(line.hz, utc_stamp(self._bench.clock.utc()), text)
        heard = (*self._bench.plan.station.heard, made)
        self._bench.do(set_station(heard_edit_words(line.hz, text), heard=heard))
        self.refresh()
        self.go_on()

    def go_on(self) -> None:
        """To the next frequency, after the last to the first."""
        self.heard.clear()
        if self.lines:
            self.scan.choose((self.scan.row_now + 1) % len(self.lines))
        self.heard.setFocus()

    def _say_why(self) -> None:
        at = max(self.order.row_now, 0)
        self.why.setText(self.groups[at].why if at < len(self.groups) else "")

    def _go(self) -> None:
        at = self.order.row_now
        if 0 <= at < len(self.groups):
            self.accept()
            self._bench.target_wanted.emit(Target("route", self.groups[at].route), "")

    def _ask_pdf(self) -> None:
        place = ask_place(self, "Where to begin listening", "listening.pdf", "PDF (*.pdf)")
        if place is not None:
            day = self._bench.clock.today().isoformat()
            made = partial(scan_pdf, self._bench.plan.name, self.lines, self.groups, busiest_words(self.hours), day)
            save_later(self._bench, place, made, f"Saved as {place.path.name}.")
