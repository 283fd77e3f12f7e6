"""The change page of Transfer: read, compare, write, prove, with the change sheet, the progress and the shelf of backups.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from functools import partial

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QFrame, QInputDialog, QMenu, QProgressBar, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import act, button, card, column, row, words
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.cable.change_table import ChangeTable
from umbra_awl.desk.transfer.cable.progress_thread import ProgressThread
from umbra_awl.desk.transfer.cable.shelf_panel import ShelfPanel
from umbra_awl.desk.transfer.cable.strip import MemoryStrip, cell_kinds

_DONE = {"start": 0, "read": 1, "compared": 2, "proven": 4}
_PHASE_STEP = {"read": 0, "write": 2, "prove": 3}
_PHASE_WORDS = {"read": "Reading", "write": "Writing", "prove": "Reading back"}
_CAUTION = (
    "While it writes: leave the cable in and the radio on. If it breaks off all the same, the backup brings it back."
)
_ANEW = (
    "What was read is kept as it is. Look whether this is the radio you mean. Begin it anew to write the plan into it as "
    "into an empty one; settings that are not in the plan stay as they are."
)
_WAIT_MS, _WAIT_TURNS = 500, 60
_NO_PORT = (
    "No new port appeared. Pull the cable and plug it in again; try another socket. Its driver may be missing: a port shows up "
    "only once that is there."
)


class ChangePage(QWidget):
    """The canvas page; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme, runner: Runner) -> None:
        super().__init__()
        self._bench = bench
        self.runner = runner
        self._broken_at = 0
        self._waiting_focus = False
        outer = column(self, 8)
        head = row(gap=6)
        head.addWidget(RadioTabs(bench), 1)
        head.addWidget(words("Port", "second"))
        self.port = button("", self.choose_port, "value", "The port that the radio's cable appears on")
        head.addWidget(self.port)
        outer.addLayout(head)
        self.steps = ProgressThread(theme)
        outer.addWidget(self.steps)
        self.strip = MemoryStrip(theme)
        outer.addWidget(self.strip)
        outer.addWidget(self._action_card())
        self.table = ChangeTable(theme)
        self.model = self.table.changes
        outer.addWidget(self.table, 1)
        self._teach = words("", "second", wrap=True)
        self._teach.setAlignment(Qt.AlignmentFlag.AlignTop)
        outer.addWidget(self._teach, 1)
        self.side = ShelfPanel(runner)
        runner.changed.connect(self.refresh)
        runner.progressed.connect(self._progress)
        bench.radio_changed.connect(self.refresh)
        bench.plan_changed.connect(self.refresh)
        self.refresh()

    def take_focus(self) -> None:
        """Give the keyboard to the one action."""
        self.main.setFocus()

    def reach(self, field: str) -> bool:
        """The one action, or the port."""
        if field == "port":
            self.port.setFocus()
        if field == "act":
            self.main.setFocus()
        return field in {"act", "port"}

    def _action_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 6, 10)
        line = row()
        self.main = button("", self.go, "main")
        self.cancel = button("Stop", self.runner.cancel, tip="Stop at the next block")
        self.again = button("Read again", self.runner.read, tip="Read the radio anew")
        self.all_the_same = button("Restore it all the same", self._restore_other, tip="Write it into this other radio")
        self._state = words("", wrap=True)
        line.addWidget(self.main)
        line.addWidget(self.again)
        line.addWidget(self.all_the_same)
        line.addWidget(self.cancel)
        line.addWidget(self._state, 1)
        inner.addLayout(line)
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName("Progress of the transfer")
        inner.addWidget(self.bar)
        self._fault = words("", "stop", wrap=True)
        inner.addWidget(self._fault)
        return frame

    def choose_port(self) -> None:
        """Choose among the ports of this machine, or type one."""
        from umbra_awl.core.transfer.serial_line import ports

        menu, found = QMenu(self), ports()
        likely = [port for port in found if port.likely]
        for port in likely:
            act(menu, f"{port.device}   {port.what}".strip(), partial(self._set_port, port.device))
        if not likely:
            act(menu, "No cable is plugged in", lambda: None)
        act(menu, "Plug it in now: I find it …", self.wait_for_cable)
        others = [port for port in found if not port.likely]
        if others:
            more = menu.addMenu("Built-in ports")
            for port in others:
                act(more, f"{port.device}   {port.what}".strip(), partial(self._set_port, port.device))  # type: ignore[arg-type]
        act(menu, "Type a port …", self._type_port)
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(self.port.mapToGlobal(self.port.rect().bottomLeft()))

    def wait_for_cable(self) -> None:
        """Take the next port that appears, for half a minute."""
        from umbra_awl.core.transfer.serial_line import ports

        before = {port.device for port in ports()}
        self._bench.say("Plug the cable in now, and switch the radio on. I wait half a minute for a new port.")
        left = [_WAIT_TURNS]

        def look() -> None:
            fresh = next((port for port in ports() if port.device not in before), None)
            left[0] -= 1
            if fresh is not None:
                self._set_port(fresh.device)
                self._bench.say(f"The new port is {fresh.device}. {fresh.what}".strip())
            elif not left[0]:
                self._bench.say(_NO_PORT, "stop")
            if fresh is not None or not left[0]:
                timer.stop()
                timer.deleteLater()

        timer = QTimer(self)
        timer.timeout.connect(look)
        timer.start(_WAIT_MS)

    def _set_port(self, port: str) -> None:
        self.runner.set_port(port)

    def _type_port(self) -> None:
        port, given = QInputDialog.getText(self, "Port", "The port's name:", text=self.runner.port)
        if given:
            self.runner.set_port(port.strip())

    def go(self) -> None:
        """Do the next step."""
        runner = self.runner
        unfinished, shelf = runner.ways.unfinished(), runner.shelf()
        backup = shelf.backup_before(unfinished) if unfinished is not None and shelf is not None else None
        if backup is not None and runner.held is None:
            runner.restoring.restore(backup)
        elif runner.senseless:
            runner.difference.begin_anew()
        elif runner.stand == "compared":
            runner.write()
        elif runner.stand != "read":
            runner.read()

    def _restore_other(self) -> None:
        if self.runner.other is not None:
            self.runner.restoring.restore(self.runner.other, other_unit=True)

    def refresh(self) -> None:
        """Show how far the chosen radio has come."""
        runner = self.runner
        had_focus = self.main.hasFocus()
        radio = self._bench.radio
        self.setEnabled(radio is not None)
        if runner.profile is not None and not runner.profile.by_cable:
            return  # another page is about it
        port = runner.port
        self.port.setText(port.rpartition("/")[2] or "choose one")
        set_tip(self.port, port or "The port that the radio's cable appears on")
        changes = len(runner.difference.compared.sheet.changes) if runner.difference.compared is not None else 0
        if not runner.fault:
            self._broken_at = _DONE[runner.stand]
        self.steps.show_state(self._broken_at if runner.fault else self._shown_step(), broken=bool(runner.fault))
        self.main.setText(self._main_words(changes))
        if runner.running:
            self._swap_buttons(running=True)  # before the button is out of use: the keyboard goes along
        self.main.setEnabled(not runner.running and not self._nothing_to_do(changes))
        if self.main.isEnabled() and (had_focus or self._waiting_focus):
            self.main.setFocus()  # out of use for a moment only: the keyboard comes back to it
        self._waiting_focus = runner.difference.comparing and (had_focus or self._waiting_focus)
        unproven = runner.stand == "start" and runner.ways.unfinished() is not None
        self.again.setVisible(not runner.running and (runner.stand in {"read", "compared"} or unproven))
        self.all_the_same.setVisible(runner.other is not None and not runner.running)
        self._swap_buttons(running=runner.running)
        self.bar.setVisible(runner.running)
        self._state.setText(self._state_words(changes))
        self._fault.setText(self._fault_words())
        self._fault.setVisible(bool(self._fault.text()))
        self._show_strip()
        self.model.show_sheet(runner.difference.compared.sheet if runner.difference.compared is not None else None)
        self.table.setVisible(runner.difference.compared is not None)
        self._teach.setVisible(runner.difference.compared is None)
        self._teach.setText(self._teach_words())

    def _nothing_to_do(self, changes: int) -> bool:
        """Whether the main action is out of use: nothing differs, or the comparison is not of the present plan."""
        runner = self.runner
        return (runner.stand == "compared" and not changes) or (runner.stand == "read" and not runner.senseless)

    def _swap_buttons(self, *, running: bool) -> None:
        """Show the one action, or how to stop it; the keyboard stays with whichever is shown."""
        shown, hidden = (self.cancel, self.main) if running else (self.main, self.cancel)
        focused = hidden.hasFocus()
        shown.show()
        if focused:
            shown.setFocus()
        hidden.hide()

    def _show_strip(self) -> None:
        runner, profile = self.runner, self.runner.profile
        self.strip.setVisible(profile is not None)
        if profile is None:
            return
        compared = runner.held is not None and runner.difference.compared is not None
        before = runner.held.image if compared and runner.held is not None else b""
        after = runner.difference.compared.target if compared and runner.difference.compared is not None else b""
        self.strip.show_kinds(cell_kinds(profile, before, after, proven=runner.stand == "proven"))
        self.strip.show_progress(0)

    def _shown_step(self) -> int:
        return _PHASE_STEP[self.runner.phase] if self.runner.phase is not None else _DONE[self.runner.stand]

    def _main_words(self, changes: int) -> str:
        runner = self.runner
        if runner.ways.unfinished() is not None and runner.held is None:
            return "Restore the backup"
        if runner.senseless:
            return "Begin it anew"
        if runner.stand == "read":
            return "Comparing …" if runner.difference.comparing else "Nothing to write"
        if runner.stand == "compared":
            return f"Write {counted(changes, 'change')}" if changes else "Nothing to write"
        if runner.stand == "proven":
            return "Read again"
        return f"Read the {self._bench.radio.name}" if self._bench.radio is not None else "Read"

    def _state_words(self, changes: int) -> str:
        runner = self.runner
        if runner.running:
            return f"{_PHASE_WORDS[runner.phase or 'read']} …"
        if runner.senseless:
            return f"{runner.senseless} {_ANEW}"
        if runner.stand == "read":
            return self._bench.worked.waiting_words(self._bench.radio_key) or runner.success
        if runner.stand == "compared" and not changes and not runner.success.startswith("Proven"):
            return f"{runner.success} The radio holds the plan already."
        if runner.stand == "compared" and changes:
            return f"{runner.success} {_CAUTION}"
        return runner.success

    def _fault_words(self) -> str:
        runner = self.runner
        unfinished = runner.ways.unfinished()
        if unfinished is None or runner.running or runner.held is not None:
            return runner.fault
        lead = f"{runner.fault} " if runner.fault else ""
        shelf = runner.shelf()
        backup = shelf.backup_before(unfinished) if shelf is not None else None
        when = f" of {backup.when}" if backup is not None else ""
        state = "A write was not proven: the radio may hold neither its old memory nor the new one whole."
        return f"{lead}{state} Restore the backup{when}."

    def _teach_words(self) -> str:
        if self._bench.radio is None:
            return "Add a radio at Radios first; then its memory is read, compared with the plan, and written here."
        return (
            "First the radio is read and a dated backup is kept. Then you see, line by line, what would be added, "
            "changed and removed. Only then is anything written, and afterwards everything is read back and compared. Settings "
            "that are not in the plan stay as the radio has them, byte for byte."
        )

    def _progress(self) -> None:
        runner = self.runner
        self.bar.setMaximum(max(runner.all_bytes, 1))
        self.bar.setValue(min(runner.done_bytes, runner.all_bytes))
        kb = f"{min(runner.done_bytes, runner.all_bytes) // 1024:,} of {runner.all_bytes // 1024:,} KB"
        self._state.setText(f"{_PHASE_WORDS[runner.phase or 'read']}: {kb}")
        self.strip.show_progress(runner.done_bytes / max(runner.all_bytes, 1) if runner.phase != "write" else 0)
        step = _PHASE_STEP[runner.phase] if runner.phase is not None else 0
        self._broken_at = step
        self.steps.show_state(step, broken=False)
