"""Ports and firmware: where the way to the radio breaks with the line to type, and which firmware it has and should have."""

from functools import partial
from pathlib import Path

from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QFileDialog, QFrame, QProgressBar, QWidget

from umbra_awl.core.fit.choices import set_radio
from umbra_awl.core.fit.people import choose_people
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.core.transfer.firmware.wanted import load_steps, updates_words, wanted_variant
from umbra_awl.core.transfer.ports.checks import words_of_way
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, card, column, row, words
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.ports.port_job import PortJob
from umbra_awl.desk.transfer.ports.port_picture import PortPicture
from umbra_awl.standins.launch import StandInError

_TEACH = "Press “Plug it in now”, then plug the cable in and switch the radio on. Each place of the way is looked at in turn."
_HANDS = {"you": "your hands", "here": "this computer", "radio": "the radio"}
_CAUTION = "Never without a backup, never on a low battery. Firmware is loaded into the simulated radio only."


class PortPage(QWidget):
    """The canvas page."""

    def __init__(self, bench: Workbench, theme: Theme, runner: Runner, directory: Directory) -> None:
        super().__init__()
        self._bench, self._runner, self._directory = bench, runner, directory
        self._people = 0
        self.job = PortJob(bench, runner)
        outer = column(self, 8)
        outer.addWidget(RadioTabs(bench))
        self.picture = PortPicture(theme)
        outer.addWidget(self.picture)
        outer.addWidget(self._port_card())
        outer.addWidget(words("Firmware", "title"))
        outer.addWidget(self._firmware_card())
        self.table = RowsTable(theme, "The way to another firmware")
        outer.addWidget(self.table, 1)
        self._room = QWidget()
        outer.addWidget(self._room, 1)
        self.job.changed.connect(self.refresh)
        self._counted = WhenChanged(self, lambda: (bench.plan.routes, bench.radio), self._count)
        for signal in (bench.plan_changed, bench.radio_changed, runner.changed):
            signal.connect(self.refresh)
            signal.connect(self._counted.check)
        self.refresh()

    def _port_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 4, 10)
        line = row()
        self.main = button("", self.go, "main")
        self.knock = button("Look again", self.job.knock, tip="At the chosen port, and who answers there")
        self._told = words("", wrap=True)
        line.addWidget(self.main)
        line.addWidget(self._told, 1)
        line.addWidget(self.knock)
        inner.addLayout(line)
        typed = row()
        self.line = words("", "mono")
        self.copy = button("Copy the line", self.copy_line, tip="To type it in a terminal")
        typed.addWidget(self.line)
        typed.addWidget(self.copy)
        typed.addStretch(1)
        inner.addLayout(typed)
        return frame

    def _firmware_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 4, 10)
        line = row()
        self._wanted = words("", wrap=True)
        self.switches = [
            button(text, partial(self._switch, on=on, keys=keys), "plain", tip)
            for text, on, keys, tip in (
                ("Off", False, False, "Switch the simulated radio off"),
                ("On", True, False, "Switch the simulated radio on"),
                ("On, keys held", True, True, "Switch it on with its keys held: loading state"),
            )
        ]
        self.load = button("Load a file …", self.ask_load, tip="Into the simulated radio")
        line.addWidget(self._wanted, 1)
        for switch in self.switches:
            line.addWidget(switch)
        self.looked = button("Looked today", self.note_looked, "plain", "I looked whether there is a newer firmware")
        line.addWidget(self.looked)
        line.addWidget(self.load)
        inner.addLayout(line)
        self.bar = QProgressBar()
        self.bar.setMaximum(1_000)
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName("Progress of the firmware")
        inner.addWidget(self.bar)
        self._caution = words(_CAUTION, "second", wrap=True)
        inner.addWidget(self._caution)
        self._fault = words("", "stop", wrap=True)
        inner.addWidget(self._fault)
        return frame

    def _count(self) -> None:
        """How many people are chosen for the radio, found out in the background."""
        radio, profile, index, directory = self._bench.radio, self._runner.profile, self._bench.index, self._directory
        if radio is None or profile is None or profile.people is None or radio.people is None:
            self._people = 0
            return

        def work() -> int:
            try:
                return choose_people(directory.store, index, radio, profile).wanted
            except SourceError:
                return 0

        self._bench.jobs.latest("people-counted", work, self._take_count)

    def _take_count(self, people: int) -> None:
        self._people = people
        self.refresh()

    def take_focus(self) -> None:
        """Give the keyboard to the one action."""
        self.main.setFocus()

    def reach(self, field: str) -> bool:
        """The one action, or what notes that one looked for newer firmware."""
        target = {"act": self.main, "looked": self.looked}.get(field)
        if target is not None:
            target.setFocus()
        return target is not None

    def go(self) -> None:
        """Watch for the cable, or stop watching."""
        if self.job.waiting:
            self.job.stop()
        else:
            self.job.wait_for_cable()

    def copy_line(self) -> None:
        """Put the line to type onto the clipboard."""
        clipboard = QGuiApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(self.line.text())
            self._bench.say("The line is on the clipboard.")

    def note_looked(self) -> None:
        """Note that one looked for newer firmware of the chosen radio today."""
        radio = self._bench.radio
        if radio is not None:
            day = self._bench.clock.today().isoformat()
            self._bench.do(set_radio(radio, f"Looked for newer firmware of {radio.name}", updated=day))

    def _switch(self, *, on: bool, keys: bool) -> None:
        """What the owner's hands do with the simulated radio."""
        radio = self._runner.ways.cabled.get(self._bench.radio_key)
        if radio is None:
            return
        try:
            shown = radio.switch(on=on, keys=keys)
        except StandInError as error:
            self._bench.say(str(error), "stop")
            return
        self._bench.say(f"Its display: {shown or 'dark'}.")

    def ask_load(self) -> None:
        """Ask for a firmware file and load it."""
        path, _kind = QFileDialog.getOpenFileName(self, "Firmware", str(Path.home()), "Firmware (*.awf)")
        if path:
            self.job.load(Path(path))

    def refresh(self) -> None:
        """Show how far the way goes, and what the firmware is."""
        job, profile, radio = self.job, self._runner.profile, self._bench.radio
        if profile is None or radio is None:
            return
        seen, trouble = job.seen, job.trouble
        self.picture.show_way(words_of_way(seen) if seen is not None else ("",) * 6, trouble)
        self.main.setText("Stop waiting" if job.waiting else "Plug it in now")
        self.main.setEnabled(not job.running)
        self.knock.setVisible(bool(self._runner.port) and not job.waiting)
        self.knock.setEnabled(not job.running)
        self._told.setText(self._words())
        self.line.setText(trouble.line if trouble is not None else "")
        for part in (self.line, self.copy):
            part.setVisible(bool(self.line.text()))
        self._show_firmware()

    def _words(self) -> str:
        job = self.job
        if job.waiting:
            return "Plug the cable in now, and switch the radio on …"
        if job.running:
            return "Asking who is there …"
        if job.trouble is not None:
            return job.trouble.text
        if job.seen is not None and job.seen.answer is not None:
            return "The way is whole: the radio answers and lets itself be written."
        port = self._runner.port.rpartition("/")[2]
        return f"{port} is chosen. {_TEACH}" if port else _TEACH

    def _show_firmware(self) -> None:
        job, profile, radio = self.job, self._runner.profile, self._bench.radio
        assert profile is not None
        assert radio is not None
        answer = job.seen.answer if job.seen is not None else None
        found = wanted_variant(profile, answer.variant if answer is not None else "", radio.firmware, self._people)
        identity = answer.identity if answer is not None else None
        inside = f"In the radio: version {identity.firmware}. " if identity is not None else ""
        habit = updates_words(self._bench.plan.station.habits.updates, radio.updated)
        self._wanted.setText(f"{job.success} {inside}{found.text} {habit}".strip())
        steps = load_steps(profile, found.now, radio.hardware)
        for switch in self.switches:
            switch.setVisible(self._bench.radio_key in self._runner.ways.cabled and not job.running)
        self.looked.setVisible(bool(steps))
        self.load.setVisible(bool(steps) and job.on_bench and not job.running)
        self.bar.setVisible(job.running and bool(job.share))
        self.bar.setValue(round(1_000 * job.share))
        self._caution.setVisible(bool(steps))
        self._fault.setText(job.fault)
        self._fault.setVisible(bool(job.fault))
        self.table.setVisible(bool(steps))
        self._room.setVisible(not steps)
        rows = [(str(at), _HANDS[step.hands], step.title, step.sees) for at, step in enumerate(steps, 1)]
        self.table.show_rows(("", "Whose hands", "What", "What one sees"), rows, mono=False)
