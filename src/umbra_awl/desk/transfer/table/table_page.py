"""Table day: plug one in, it is read and recognised, one key writes it for its owner and proves it, next."""

from functools import partial
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QHideEvent, QShowEvent
from PyQt6.QtWidgets import QCheckBox, QFrame, QProgressBar, QWidget

from umbra_awl.core.agenda.next_steps import Where
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.naming import readable_name
from umbra_awl.core.paper.label import Label, label_of, labels_pdf
from umbra_awl.core.paper.loading import loaded_words
from umbra_awl.core.transfer.table.recognise import differs
from umbra_awl.core.transfer.table.roster import Seat
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.saving import ask_place, save_later
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.widgets import button, card, clear, column, row, scrolled, words
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.table.table_job import TableJob
from umbra_awl.desk.transfer.table.table_picture import TablePicture

_PHASES = {"read": "Reading the radio", "write": "Writing", "prove": "Reading back"}
_TEACH = (
    "Everybody in the plan who has a radio of this kind sits here. Plug one in and switch it on: it is read by itself and "
    "offered to its owner. Then one press writes it and proves it. Arrows choose another owner; the list is kept."
)


class TablePage(QWidget):
    """The canvas page; `side` says what the chosen owner's radio has otherwise."""

    paper_wanted = pyqtSignal(object)

    def __init__(self, bench: Workbench, theme: Theme, runner: Runner) -> None:
        super().__init__()
        self._bench, self._runner = bench, runner
        self.job = TableJob(bench, runner)
        self._shown_kinds: tuple[tuple[str, ...], str] = ((), "")
        outer = column(self, 8)
        head = row(gap=6)
        self._kinds = row(gap=2)
        head.addLayout(self._kinds)
        head.addStretch(1)
        head.addWidget(words("Port", "second"))
        self.port = button("", self._choose_port, "value", "The port of the table's cable, chosen at Cable")
        head.addWidget(self.port)
        self.labels = button("Labels …", self.ask_labels, tip="A sheet of labels of those that are done")
        head.addWidget(self.labels)
        self.cards = button("Cards …", self.to_paper, tip="Field cards of those that are done, all at once, at Paper")
        head.addWidget(self.cards)
        outer.addLayout(head)
        outer.addWidget(self._action_card())
        self.picture = TablePicture(theme)
        self.picture.chosen.connect(self.job.choose)
        outer.addWidget(scrolled(self.picture), 1)
        self.side = QWidget()
        beside = column(self.side, 6)
        beside.addWidget(words("Differences", "title"))
        self._otherwise = words("", "second", wrap=True)
        beside.addWidget(self._otherwise)
        self.table = RowsTable(
            theme,
            "How the chosen radio differs from the first",
            "Choose an owner: how their radio differs from the first one stands here.",
        )
        beside.addWidget(self.table, 1)
        self.job.changed.connect(self.refresh)
        bench.radio_changed.connect(self.refresh)
        runner.changed.connect(self.refresh)
        self.job.begin()

    def _action_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 4, 10)
        line = row()
        self.main = button("", self.go, "main")
        self.stop = button("Stop", self.job.cancel, tip="Stop at the next block")
        self._told = words("", wrap=True)
        self.own = QCheckBox("keep them")
        self.own.toggled.connect(lambda on: self.job.take_own(keep=on))
        line.addWidget(self.main)
        line.addWidget(self.stop)
        line.addWidget(self._told, 1)
        line.addWidget(self.own)
        inner.addLayout(line)
        self.bar = QProgressBar()
        self.bar.setMaximum(1_000)
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName("Progress of this radio")
        inner.addWidget(self.bar)
        self._beware = words("", "brass", wrap=True)
        inner.addWidget(self._beware)
        self._fault = words("", "stop", wrap=True)
        inner.addWidget(self._fault)
        return frame

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.job.watch(on=True)

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self.job.watch(on=False)

    def take_focus(self) -> None:
        """Give the keyboard to the one action."""
        (self.main if self.main.isEnabled() else self.picture).setFocus()

    def reach(self, field: str) -> bool:
        """The one action."""
        if field == "act":
            self.take_focus()
        return field == "act"

    def go(self) -> None:
        """Read the radio that is plugged in, or write it for the chosen owner."""
        job = self.job
        if job.plugged is not None and not job.proven_now and job.seat is not None:
            job.transfer.write()
        else:
            job.transfer.read()

    def refresh(self) -> None:
        """Show the table and the radio that is plugged in."""
        job, profile = self.job, self._runner.profile
        if profile is None:
            return
        there = tuple(job.of_profile(profile))
        self._show_kinds()
        self.port.setText(job.port.rpartition("/")[2] or "choose it")
        self.picture.show_seats(there, job.chosen)
        for part in (self.labels, self.cards):
            part.setVisible(any(seat.state == "done" for seat in job.seats))
        had = self.main.hasFocus() or self.stop.hasFocus()
        self.main.setText(self._main_words())
        self.main.setEnabled(not job.running and bool(job.port))
        self.main.setVisible(not job.running)
        self.stop.setVisible(job.running)
        if had:
            (self.stop if job.running else self.main).setFocus()
        self.bar.setVisible(job.running)
        self.bar.setValue(round(1_000 * job.share))
        self._told.setText(self._words())
        found = job.plugged.found if job.plugged is not None and not job.proven_now else None
        self.own.setVisible(found is not None and bool(found.own) and not job.running)
        self.own.blockSignals(True)
        self.own.setChecked(job.keep_own)
        self.own.blockSignals(False)
        self._beware.setText(self._beware_words())
        self._beware.setVisible(bool(self._beware.text()))
        self._fault.setText(job.fault)
        self._fault.setVisible(bool(job.fault))
        self._show_otherwise(there[0].radio if there else "")

    def _choose_port(self) -> None:
        self._bench.where_wanted.emit(Where("transfer", "cable", "port"))

    def _show_kinds(self) -> None:
        """A word for each kind of radio at the table that has a cable."""
        first: dict[str, Seat] = {}
        for seat in self.job.seats:
            profile = self._bench.profiles.get(seat.profile)
            if profile is not None and profile.by_cable:
                first.setdefault(seat.profile, seat)
        now = self._runner.profile
        shown = (tuple(first), now.key if now is not None else "")
        if shown == self._shown_kinds:
            return
        self._shown_kinds = shown
        clear(self._kinds)
        made = {
            key: button(self._bench.profiles[key].name, partial(self._bench.choose_radio, seat.radio), "segment")
            for key, seat in first.items()
        }
        chosen_of(made, shown[1])
        for word in made.values():
            self._kinds.addWidget(word)

    def _main_words(self) -> str:
        job = self.job
        if job.plugged is not None and not job.proven_now and job.seat is not None:
            return f"Write for {job.seat.call} and prove"
        return "Read the radio that is plugged in"

    def _words(self) -> str:
        job = self.job
        if job.running:
            return f"{_PHASES[job.phase or 'read']}, {100 * job.share:.0f} %"
        if job.success:
            return job.success
        if job.plugged is not None:
            changes = len(job.transfer.compared.sheet.changes) if job.transfer.compared is not None else 0
            told = job.plugged.found.text
            seat = job.seat
            if seat is not None and job.plugged.found.seat is not None and seat.radio != job.plugged.found.seat.radio:
                told = f"You chose {seat.call}, {seat.name}."
            return f"{told} {counted(changes, 'change')}."
        return _TEACH if job.port else "Choose the table's port at Cable first. " + _TEACH

    def _beware_words(self) -> str:
        job = self.job
        if job.plugged is None or job.proven_now:
            return ""
        told = [job.plugged.found.beware, job.plugged.nonsense]
        seat = job.seat
        if seat is not None and seat.state == "done" and job.roster.whose(job.plugged.held.unit) != seat.radio:
            told.append(f"{seat.call} has a radio that is done already: this would be a second one for the same owner.")
        return " ".join(item for item in told if item)

    def _show_otherwise(self, first: str) -> None:
        job = self.job
        mine, theirs = job.memories.get(job.chosen), job.memories.get(first)
        if mine is None or theirs is None:
            self._otherwise.setText("Choose an owner to see how their radio differs from the first one.")
            self._otherwise.show()
            self.table.show_rows(("What", "Here", "First"), [])
            return
        found = differs(mine, theirs)
        self._otherwise.setText("" if found else "The same as the first one's in everything.")
        self._otherwise.setVisible(not found)
        self.table.show_rows(("What", "Here", "First"), [tuple(item) for item in found], mono=False)

    def to_paper(self) -> None:
        """Go to Paper with the radios that are done."""
        done = tuple(seat.radio for seat in self.job.seats if seat.state == "done")
        self.paper_wanted.emit(done)

    def ask_labels(self) -> None:
        """Save a sheet of labels for the radios that are done."""
        suggested = Path.home() / f"{readable_name(self._bench.plan.name, 'table')}-labels.pdf"
        place = ask_place(self, "Save the labels", suggested, "PDF (*.pdf)", ".pdf")
        if place is None:
            return
        made = self.label_rows()
        said = f"{len(made)} labels are in “{place.path.name}”. They tell call signs and zones, no IDs."
        title = self._bench.plan.name
        save_later(self._bench, place, lambda: labels_pdf(made, title), said)

    def label_rows(self) -> list[Label]:
        """The labels of the radios that are done."""
        job, profiles = self.job, self._bench.profiles
        today = self._bench.clock.today().isoformat()
        return [
            label_of(job.memories[seat.radio], seat.name, loaded_words(profiles[seat.profile]), today)
            for seat in job.seats
            if seat.state == "done" and seat.radio in job.memories
        ]
