"""The phone-app page of Transfer: the phone's list taken, what would happen to each line of it, handed over, read back."""

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QFrame, QInputDialog, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.naming import readable_name
from umbra_awl.core.transfer.app.form import app_bytes, to_hand_on
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.saving import ask_place, save_later
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import button, card, column, row, words
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.app.app_job import AppJob
from umbra_awl.desk.transfer.app.app_picture import AppPicture
from umbra_awl.desk.transfer.app.app_side import AppSide
from umbra_awl.desk.transfer.cable.progress_thread import ProgressThread

APP_STEPS = (
    ("Read", "the phone's list, and keep it"),
    ("Compare", "own entries stay"),
    ("Write", "one yes overwrites both"),
    ("Prove", "what the app mirrors"),
)
_MARKS = {"added": "+ added", "changed": "~ changed", "same": "same", "own, stays": "own, stays", "goes": "− goes"}
_TONES = {"added": "ok", "changed": "brass", "goes": "stop"}
_TEACH = (
    "An app keeps a list of its own, apart from the radio's. Handing a list over overwrites the radio's after one yes, so the "
    "phone's is taken first, a copy is kept, and your own entries stay in it."
)
_AWAKE = "Keep the phone's screen on until it is proven: asleep it loses the radio."


class AppPage(QWidget):
    """The canvas page; `side` says what the apps can carry."""

    def __init__(self, bench: Workbench, theme: Theme, runner: Runner) -> None:
        super().__init__()
        self._bench, self._runner = bench, runner
        self.job = AppJob(bench, runner)
        outer = column(self, 8)
        head = row(gap=6)
        head.addWidget(RadioTabs(bench), 1)
        head.addWidget(words("Phone", "second"))
        self.address = button("", self.choose_phone, "value", "The address that the app shows")
        head.addWidget(self.address)
        outer.addLayout(head)
        self.picture = AppPicture(theme)
        outer.addWidget(self.picture)
        self.steps = ProgressThread(theme, APP_STEPS)
        outer.addWidget(self.steps)
        outer.addWidget(self._action_card())
        self.table = RowsTable(
            theme,
            "What happens to the phone's list",
            "Read the phone's list, and what happens to each line stands here before anything is sent.",
        )
        outer.addWidget(self.table, 1)
        self._teach = words(_TEACH, "second", wrap=True)
        outer.addWidget(self._teach)
        self._room = QWidget()
        outer.addWidget(self._room, 1)
        self.side = AppSide(bench, runner)
        self.job.changed.connect(self.refresh)
        bench.plan_changed.connect(self.refresh)
        self.refresh()

    def _action_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 4, 10)
        line = row()
        self.main = button("", self.go, "main")
        self.again = button("Take it again", self.job.read, tip="Take the phone's list anew")
        self.hand_on = button(
            "For another person …", self.ask_save, tip="Save the list as a file without your identity"
        )
        self.lay_in = button("Lay in a list …", self.ask_open, tip="A friend's list, beside the plan's")
        self._state = words("", wrap=True)
        line.addWidget(self.main)
        line.addWidget(self._state, 1)
        line.addWidget(self.again)
        line.addWidget(self.lay_in)
        line.addWidget(self.hand_on)
        inner.addLayout(line)
        self._missing = words("", "brass", wrap=True)
        inner.addWidget(self._missing)
        self._fault = words("", "stop", wrap=True)
        inner.addWidget(self._fault)
        return frame

    def take_focus(self) -> None:
        """Give the keyboard to the one action."""
        (self.main if self.main.isEnabled() else self.address).setFocus()

    def reach(self, field: str) -> bool:
        """The one action."""
        if field == "act":
            self.take_focus()
        return field == "act"

    def choose_phone(self) -> None:
        """Type the phone's address."""
        now = self._runner.ways.phone or "http://127.0.0.1:"
        address, given = QInputDialog.getText(self, "Phone", "The address that the app shows:", text=now)
        if given:
            self._runner.ways.set_phone(address.strip())
            self.job.forget()

    def go(self) -> None:
        """Do the next step."""
        if self.job.stand == "taken":
            self.job.write()
        elif not self._runner.ways.phone:
            self.choose_phone()
        else:
            self.job.read()

    def refresh(self) -> None:
        """Show how far it has come."""
        job, radio, profile = self.job, self._bench.radio, self._runner.profile
        if radio is None or profile is None:
            return
        phone = self._runner.ways.phone
        self.address.setText(phone.rpartition("//")[2] or "give its address")
        set_tip(self.address, phone or "The address that the app shows")
        taken = job.taken if job.stand != "start" else None
        self.picture.show_state(radio.name, job.front, self._phone_lines())
        changes = taken.merge.changes if taken is not None else 0
        done = {"start": 0, "taken": 2, "proven": 4}[job.stand]
        self.steps.show_state(done, broken=bool(job.fault))
        had = self.main.hasFocus()
        self.main.setText(self._main_words(changes))
        self.main.setEnabled(not job.running and not (job.stand == "taken" and not changes))
        if had and self.main.isEnabled():
            self.main.setFocus()
        self.again.setVisible(job.stand == "taken" and not job.running)
        self.hand_on.setVisible(taken is not None and not job.running)
        self.lay_in.setVisible(bool(phone) and not job.running)
        self._state.setText(self._state_words(changes))
        missing = ", ".join(taken.merge.missing) if taken is not None else ""
        self._missing.setText(f"This app does not carry: {missing}. Set it on the radio." if missing else "")
        self._missing.setVisible(bool(missing))
        self._fault.setText(job.fault)
        self._fault.setVisible(bool(job.fault))
        self._show_lines()
        self.side.refresh()

    def _phone_lines(self) -> tuple[str, ...]:
        taken = self.job.taken
        if taken is None:
            return ("its list is not taken yet",)
        shown = taken.merge.made if self.job.proven else taken.present
        own = sum(line.fate == "own, stays" for line in taken.merge.lines)
        return (
            f"{len(shown.access_list)} in its access list",
            counted(len(shown.call_signs), "call sign"),
            f"{own} of its own",
        )

    def _show_lines(self) -> None:
        taken = self.job.taken
        lines = taken.merge.lines if taken is not None else ()
        self.table.setVisible(bool(lines))
        self._teach.setVisible(not lines)
        self._room.setVisible(not lines)
        rows = [(_MARKS[line.fate], line.table, line.name, line.detail) for line in lines]
        self.table.show_rows(
            ("What happens", "Table", "Name", "What"), rows, [_TONES.get(line.fate, "") for line in lines]
        )

    def _main_words(self, changes: int) -> str:
        job = self.job
        if job.running:
            return "With the phone …"
        if job.stand == "taken":
            return f"Hand over {counted(changes, 'change')}" if changes else "Nothing to hand over"
        if not self._runner.ways.phone:
            return "Choose the phone"
        return "Take it again" if job.stand == "proven" else "Take the phone's list"

    def _state_words(self, changes: int) -> str:
        job = self.job
        if job.stand == "taken" and changes:
            return f"{job.success} {_AWAKE}".strip()
        if job.stand == "taken":
            return f"{job.success} The phone holds the plan's list already."
        return job.success

    def ask_open(self) -> None:
        """Take a friend's list from a file."""
        path, _kind = QFileDialog.getOpenFileName(self, "A friend's list", str(Path.home()), "App list (*.app.json)")
        if path:
            self.job.lay_in(Path(path))

    def ask_save(self) -> None:
        """Save the list for another person: without who one is."""
        taken, radio = self.job.taken, self._bench.radio
        if taken is None or radio is None:
            return
        suggested = Path.home() / f"{readable_name(radio.name, 'radio')}.app.json"
        place = ask_place(self, "Save the list for another person", suggested, "App list (*.app.json)", ".app.json")
        if place is not None:
            made = to_hand_on(taken.merge.made)
            said = f"The list is in “{place.path.name}”, without your call sign and message. “Lay in a list” takes it elsewhere."
            save_later(self._bench, place, lambda: app_bytes(made), said)
