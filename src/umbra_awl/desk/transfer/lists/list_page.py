"""People and lists: what goes into a radio beside its memory, as a separate act with its own proof."""

from functools import partial

from PyQt6.QtGui import QHideEvent, QShowEvent
from PyQt6.QtWidgets import QCheckBox, QFrame, QMenu, QProgressBar, QWidget

from umbra_awl.core.agenda.next_steps import Where
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.radio.profile import Profile
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import act, button, card, column, row, words
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.cable.progress_thread import ProgressThread
from umbra_awl.desk.transfer.lists.list_job import ListJob
from umbra_awl.desk.transfer.lists.list_writing import ChosenList
from umbra_awl.desk.transfer.lists.region_picture import RegionPicture

LIST_STEPS = (
    ("Read", "what the list there is"),
    ("Compare", "which blocks differ"),
    ("Write", "only those"),
    ("Prove", "by checksums"),
)
_STEPS = {"read": 0, "write": 2, "prove": 3}
_PHASES = {"read": "Comparing checksums", "write": "Writing people", "prove": "Proving by checksums"}
_TEACH = "Nobody is chosen. Choose countries, a distance or your log first; then they are written here, apart from the memory."


class ListPage(QWidget):
    """The canvas page."""

    def __init__(self, bench: Workbench, theme: Theme, runner: Runner, directory: Directory) -> None:
        super().__init__()
        self._bench, self._runner = bench, runner
        self.job = ListJob(bench, runner, directory)
        outer = column(self, 5)
        outer.addWidget(RadioTabs(bench))
        self.picture = RegionPicture(theme)
        outer.addWidget(self.picture)
        self.steps = ProgressThread(theme, LIST_STEPS)
        outer.addWidget(self.steps)
        self._action = self._action_card()
        outer.addWidget(self._action)
        self.table = RowsTable(
            theme, "The list as it goes over", "Choose people, and the list stands here line by line."
        )
        outer.addWidget(self.table, 1)
        self._empty = words("", "second", wrap=True)
        outer.addWidget(self._empty)
        self._room = QWidget()
        outer.addWidget(self._room, 1)
        self.job.changed.connect(self.refresh)
        self.job.progressed.connect(self._progress)

    def _action_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 4, 10)
        line = row()
        self.main = button("", self.job.go, "main")
        self.stop = button("Stop", self.job.stop, tip="What was sent stays, and is not sent again")
        self._state = words("", wrap=True)
        self.choose = button("Choose people …", self._choose, tip="At Radios, People")
        self.fm = QCheckBox("with FM ones")
        self.fm.setChecked(True)
        self.fm.toggled.connect(lambda on: self.job.take_fm(wanted=on))
        line.addWidget(self.main)
        line.addWidget(self.stop)
        line.addWidget(self._state, 1)
        self.of = button("", self._choose_directories, "value", "Which directories it is filled from, a country each")
        line.addWidget(self.of)
        line.addWidget(self.fm)
        line.addWidget(self.choose)
        inner.addLayout(line)
        self.bar = QProgressBar()
        self.bar.setMaximum(1_000)
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName("Progress of the list")
        inner.addWidget(self.bar)
        self._todo = words("", "second", wrap=True)
        inner.addWidget(self._todo)
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
        (self.main if self.main.isEnabled() else self.choose).setFocus()

    def reach(self, field: str) -> bool:
        """The one action."""
        if field == "act":
            self.take_focus()
        return field == "act"

    def _choose(self) -> None:
        self._bench.where_wanted.emit(Where("radios", "people"))

    def _choose_directories(self) -> None:
        menu = QMenu(self)
        for source, count in self.job.directories():
            mark = "● " if source in self.job.sources else "○ "
            act(menu, f"{mark}{source}   {count:,}", partial(self.job.take_from, source))
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(self.of.mapToGlobal(self.of.rect().bottomLeft()))

    def refresh(self) -> None:
        """Show the chosen radio's list."""
        job, profile, radio = self.job, self._runner.profile, self._bench.radio
        chosen = job.chosen
        if profile is None or radio is None or chosen is None or chosen.radio != radio.key:
            return
        keeps = profile.keeps_lists
        for part in (self.picture, self.steps, self._action):
            part.setVisible(keeps)
        self._empty.setText("" if keeps and chosen.total else _TEACH if keeps else "")
        self._empty.setVisible(bool(self._empty.text()))
        if job.running:
            self._progress()
        self.picture.show_regions(chosen, job.mark, job.found, chosen.total)
        done = self._done(chosen)
        self.steps.show_state(done, broken=bool(job.fault))
        self.main.setText(self._main_words(chosen))
        self.main.setEnabled(not job.running and bool(chosen.total))
        had = self.main.hasFocus() or self.stop.hasFocus()
        self.stop.setVisible(job.running)
        self.main.setVisible(not job.running)
        if had:
            (self.stop if job.running else self.main).setFocus()
        self.choose.setVisible(chosen.people and not job.running)
        self.of.setText(", ".join(sorted(job.sources)) or "all directories")
        self.of.setVisible(not chosen.people and not job.running)
        self.fm.setVisible(not chosen.people and not job.running)
        self.bar.setVisible(job.running)
        self._state.setText(job.success or self._state_words(chosen))
        self._todo.setText(self._todo_words(chosen, profile))
        self._todo.setVisible(bool(self._todo.text()))
        self._fault.setText(job.fault or ("" if job.running or job.success else chosen.fault))
        self._fault.setVisible(bool(self._fault.text()))
        self.table.setVisible(bool(chosen.total))
        self._room.setVisible(not chosen.total)
        self.table.show_rows(chosen.heads, chosen.rows)

    def _done(self, chosen: ChosenList) -> int:
        job = self.job
        if job.running:
            return _STEPS[job.phase or "read"]
        if job.success.startswith("Proven") or (not chosen.people and job.found.taken):
            return 4
        return 3 if job.success or (not chosen.people and job.found.sent) else 0

    def _main_words(self, chosen: ChosenList) -> str:
        if not chosen.people:
            return f"Send {counted(chosen.total, 'access point')} to the card"
        return f"Write {counted(chosen.total, 'person', 'people')}" if chosen.total else "Nobody to write"

    def _state_words(self, chosen: ChosenList) -> str:
        if not chosen.people:
            return chosen.words
        minutes = f"about {chosen.seconds / 60:.0f} min" if chosen.seconds > 90 else f"about {chosen.seconds:.0f} s"
        listed = f" The directory's list is of {chosen.day}." if chosen.day else ""
        return f"{minutes} by cable; only what differs is sent.{listed}" if chosen.total else ""

    def _todo_words(self, chosen: ChosenList, profile: Profile) -> str:
        card_, found = profile.card, self.job.found
        if chosen.people or card_ is None or card_.around is None:
            return ""
        into, out = " › ".join(card_.around.read_in), " › ".join(card_.around.write_out)
        if found.taken:
            return "The radio wrote out this very list: it has it."
        if found.sent:
            return f"Next, on the radio: {into}. To prove it: {out}, off, and the card back in here."
        return f"A file of its own with steps of its own: {into}. Writing the memories does not send it."

    def _progress(self) -> None:
        job = self.job
        self.bar.setValue(round(1_000 * job.share))
        told = job.pace.words()
        self._state.setText(f"{_PHASES[job.phase or 'read']}, {100 * job.share:.0f} %{f': {told}' if told else ''}")
        self.steps.show_state(_STEPS[job.phase or "read"], broken=False)
