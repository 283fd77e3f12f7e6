"""Finding it, and why it does not come up: addresses, its log with the cause first, and symptoms."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QGuiApplication, QHideEvent
from PyQt6.QtWidgets import QFileDialog, QFrame, QInputDialog, QWidget

from umbra_awl.core.directory.people_search import names_of
from umbra_awl.core.drivers.reading import driven_log, kinds_with
from umbra_awl.core.facts.dmr import mask_id
from umbra_awl.core.hotspot.logs.reading import GrowingLog, HeardCall, LogReading, read_log, read_log_bytes
from umbra_awl.core.hotspot.logs.streams import Followed, JournalLog, follow, let_go
from umbra_awl.core.hotspot.logs.teach import meanings
from umbra_awl.core.keep.limits import LimitError
from umbra_awl.core.tables.errors import ReadError, SourceError
from umbra_awl.desk.directory import Directory
from umbra_awl.desk.hotspots.find.seek_panel import SeekPanel
from umbra_awl.desk.hotspots.find.symptom_panel import SymptomPanel
from umbra_awl.desk.hotspots.find.teaching import Teaching
from umbra_awl.desk.hotspots.seen import Seen
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.parts.menus import menu_button
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, card, column, row, rows_of, words
from umbra_awl.desk.theme.theme import Theme

_FOLLOW_MS = 1_000
_KINDS = "Logs (*.log *.txt);;All files (*)"
_TEACH = "Ask it, open its log, or paste it."
_WAYS = {"call-heard": "from a radio", "call-network": "from the network", "echo": "echo"}


class FindPage(QWidget):
    """The canvas page; `side` asks for symptoms."""

    def __init__(self, spot: Spot, theme: Theme, directory: Directory) -> None:
        super().__init__()
        self._spot, self._directory = spot, directory
        self._names: dict[str, str] = {}
        self._followed: Followed | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(_FOLLOW_MS)
        self._timer.timeout.connect(self._follow)
        outer = column(self, 8)
        self.seek = SeekPanel(spot, theme)
        outer.addWidget(self.seek)
        outer.addWidget(self._log_card(theme), 1)
        self.symptoms = SymptomPanel(spot, theme)
        self.side = self.symptoms
        seen = Seen(self, self.refresh)
        spot.changed.connect(seen.changed)
        spot.bench.ids_changed.connect(seen.changed)

    def _log_card(self, theme: Theme) -> QFrame:
        frame = card()
        inner = column(frame, 4, 10)
        line = row(gap=6)
        self.told = words(_TEACH, "title", wrap=True)
        line.addWidget(self.told, 1)
        inner.addLayout(line)
        self.todo = words("", "second", wrap=True)
        inner.addWidget(self.todo)
        self.open = button("Open a log …", self.ask_open)
        self.paste = button("Paste a log", self.paste_log, tip="From the clipboard")
        self.follow = button("Follow a log …", self.ask_follow, tip="What comes into the file is read each second")
        self.teaching = Teaching(self._spot, self._take)
        self.means = menu_button("What the chosen line means", self._meanings, "")
        self.means.setText("What this line means")
        self.journal = button("A service's journal …", self.ask_journal, tip="Where the hotspot runs on this computer")
        inner.addLayout(rows_of(self.open, self.paste, self.follow, self.journal, self.means, gap=6))
        self.faults = RowsTable(
            theme,
            "What the log says",
            "Open a log, or ask the hotspot: what is wrong in it stands here, with its cause.",
        )
        inner.addWidget(self.faults, 3)
        both = row(gap=8)
        self.calls = RowsTable(theme, "Recent calls", "No call is in the log yet.")
        self.unknown = RowsTable(
            theme, "Lines that no rule reads", "Every line of the log was understood, or none was read yet."
        )
        both.addWidget(self.calls, 3)
        both.addWidget(self.unknown, 2)
        inner.addLayout(both, 4)
        self._log_room, self._both = inner, both
        for table in (self.faults, self.calls, self.unknown):
            table.setMinimumHeight(theme.px(36))
        return frame

    def _meanings(self) -> list[tuple[str, Callable[[], object]]]:
        """What the chosen line may be told to mean, and the last one taken back."""
        log, at = self._spot.log, self.unknown.row_now
        example = log.unknown[at].text if log is not None and 0 <= at < len(log.unknown) else ""
        made: list[tuple[str, Callable[[], object]]] = [
            (item.words, partial(self.teaching.teach, example, item)) for item in meanings()
        ]
        return [*made, ("Take the last one back", self.teaching.take_back)]

    def take_focus(self) -> None:
        """Give the keyboard to the name that is sought."""
        self.seek.name.setFocus()

    def reach(self, field: str) -> bool:
        """The log, or the name that is sought."""
        target = {"log": self.open, "act": self.seek.name}.get(field)
        if target is not None:
            target.setFocus()
        return target is not None

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self._stop()

    def _stop(self) -> None:
        self._timer.stop()
        let_go(self._followed)
        self._followed = None
        self.follow.setText("Follow a log …")

    def ask_open(self) -> None:
        """Ask for a log file."""
        path, _kind = QFileDialog.getOpenFileName(self, "The hotspot's log", str(Path.home()), kinds_with(_KINDS))
        if path:
            self.open_log(Path(path))

    def open_log(self, path: Path) -> None:
        """Read a log file in the background."""
        followed, rules, today = GrowingLog(path), self._spot.rules, self._spot.bench.clock.today()

        def work() -> LogReading | OSError | ReadError:
            try:
                read = driven_log(path)
                if read is None:
                    followed.more()
            except (OSError, ReadError) as error:
                return error
            return read_log_bytes(followed.data if read is None else read, rules, today)

        def done(found: LogReading | OSError | ReadError) -> None:
            if isinstance(found, ReadError):
                self._spot.bench.say(str(found), "stop")
                return
            if isinstance(found, OSError):
                why = found.strerror if isinstance(found, LimitError) else found.strerror or str(found)
                self._spot.bench.say(f"“{path.name}” cannot be read: {why}.", "stop")
                return
            self._take(found)

        self._spot.bench.jobs.latest("spot-log", work, done)

    def paste_log(self) -> None:
        """Read what is on the clipboard."""
        clipboard = QGuiApplication.clipboard()
        text = clipboard.text() if clipboard is not None else ""
        if not text.strip():
            self._spot.bench.say("There is no text on the clipboard. Copy the log first.")
            return
        rules, today = self._spot.rules, self._spot.bench.clock.today()
        self._spot.bench.jobs.latest("spot-log", lambda: read_log(text, rules, today), self._take)

    def ask_follow(self) -> None:
        """Ask for a file to follow, or follow it no more."""
        if self._timer.isActive():
            self._stop()
            return
        path, _kind = QFileDialog.getOpenFileName(self, "A log that grows", str(Path.home()), _KINDS)
        if path:
            self.follow_log(Path(path))

    def follow_log(self, path: Path) -> None:
        """Read on in a file, each second."""
        self._begin(lambda: follow(path))

    def ask_journal(self) -> None:
        """Ask of which service of this computer the journal is followed."""
        name, given = QInputDialog.getText(self, "A service's journal", "Name of the service, for example spot.service")
        if given and name.strip():
            self.follow_journal(name.strip())

    def follow_journal(self, unit: str) -> None:
        """Read on in the journal of a service, each second."""
        self._begin(lambda: JournalLog(unit))

    def _begin(self, opens: Callable[[], Followed]) -> None:
        self._stop()
        try:
            self._followed = opens()
        except OSError as error:
            self._spot.bench.say(f"It cannot be followed: {error.strerror or error}", "stop")
            return
        self.follow.setText("Stop following")
        self._timer.start()
        self._follow()

    def _follow(self) -> None:
        followed, rules, today = self._followed, self._spot.rules, self._spot.bench.clock.today()
        if followed is None:
            return

        def work() -> LogReading | OSError | None:
            try:
                return read_log_bytes(followed.data, rules, today) if followed.more() else None
            except OSError as error:
                return error

        def done(found: LogReading | OSError | None) -> None:
            if isinstance(found, OSError):
                self._stop()
                self._spot.bench.say(f"The log cannot be read any more: {found.strerror or found}.", "stop")
            elif found is not None and followed is self._followed:
                self._take(found)

        self._spot.bench.jobs.latest("spot-log", work, done)

    def _look_up(self, log: LogReading) -> None:
        """Who called, out of the directory's people; in the background, each call once."""
        calls = {item.call for item in log.calls[:100]} - self._names.keys()
        directory = self._directory
        if not calls:
            return

        def work() -> dict[str, str]:
            try:
                return names_of(directory.store, calls)
            except SourceError:
                return {}

        def done(found: dict[str, str]) -> None:
            self._names |= dict.fromkeys(calls, "") | found
            if found:
                self.refresh()

        self._spot.bench.jobs.latest("spot-callers", work, done)

    def _take(self, found: LogReading) -> None:
        self._spot.log = found
        self._spot.changed.emit()

    def refresh(self) -> None:
        """Show the log and what it means."""
        spot = self._spot
        hotspot = spot.hotspot
        access = spot.access
        self.seek.fill_name(
            (hotspot.host if hotspot is not None else "") or (access.call.lower() if access is not None else "")
        )
        self.seek.refresh()
        self.symptoms.refresh()
        log = spot.log
        self.todo.setVisible(log is not None and log.cause is not None)
        if log is None:
            self.told.setText(_TEACH)
            self.todo.setText("")
            self.means.setEnabled(False)
            for table in (self.faults, self.calls, self.unknown):
                table.show_rows(("",), [])
            self._show_filled(True, False, False)
            return
        cause = log.cause
        self.told.setText(cause.rule.means if cause is not None else "No fault in this log since its last start.")
        self.todo.setText(f"{cause.rule.setting}: {cause.rule.todo}" if cause is not None else "")
        self._show_told(log)
        self._show_calls(log)
        told = bool(log.faults or log.past or log.states)
        self._show_filled(told, bool(log.calls), bool(log.unknown))
        self._look_up(log)

    def _show_filled(self, told: bool, calls: bool, unknown: bool) -> None:
        """Only the tables that hold something take room."""
        self._log_room.setStretchFactor(self._both, 4 if calls or unknown else 0)
        self.faults.setVisible(told)
        self.calls.setVisible(calls)
        self.unknown.setVisible(unknown)

    def _plain(self, text: str) -> str:
        """A line as it is shown: the operator's own IDs only where they were asked for."""
        for number in self._spot.ids if not self._spot.bench.ids_shown else ():
            text = text.replace(str(number), mask_id(number))
        return text

    def _show_told(self, log: LogReading) -> None:
        rows, tones = [], []
        for item in (*log.faults, *log.past, *log.states):
            cured = item in log.past
            kind = (
                "cured"
                if cured
                else "follows"
                if item.consequence
                else "cause"
                if item.rule.kind == "fault"
                else "state"
            )
            rows.append((kind, item.rule.means, item.rule.setting, f"line {item.first}", self._plain(item.text)))
            tones.append({"cause": "stop", "follows": "brass", "state": "ok", "cured": ""}[kind])
        self.faults.show_rows(("", "What it means", "Setting", "Where", "The line"), rows, tones, mono=False)

    def _show_calls(self, log: LogReading) -> None:
        own = set(self._spot.overs())
        rows = [_call_row(item, own, self._names.get(item.call, "")) for item in log.calls[:100]]
        tones = ["violet" if item in own else "" for item in log.calls[:100]]
        self.calls.show_rows(("When", "Who", "To", "BER", ""), rows, tones, mono=False)
        unknown = [(f"{item.times}×", self._plain(item.text)) for item in log.unknown]
        self.unknown.show_rows(("", f"{log.unknown_lines} lines that no rule reads"), unknown)
        self.means.setEnabled(bool(unknown))
        if unknown and self.unknown.row_now < 0:
            self.unknown.choose(0)


def _call_row(item: HeardCall, own: set[HeardCall], name: str) -> tuple[str, ...]:
    ber = f"{item.ber:g} %" if item.ber is not None else ""
    loss = f", loss {item.loss:g} %" if item.loss is not None else ""
    way = "your own over" if item in own else _WAYS.get(item.way, "")
    return (item.when[11:], f"{item.call} {name}".strip(), item.to, ber, f"{way}, {item.seconds:g} s{loss}")
