"""Finding it, and why it does not come up: addresses, its log with the cause first, and symptoms."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QHideEvent
from PyQt6.QtWidgets import QFrame, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.dmr import mask_id
from umbra_awl.core.hotspot.logs.reading import HeardCall, LogReading
from umbra_awl.core.hotspot.logs.streams import Followed, let_go
from umbra_awl.core.hotspot.logs.teach import meanings
from umbra_awl.desk.hotspots.find.log_sources import LogSources
from umbra_awl.desk.hotspots.find.seek_panel import SeekPanel
from umbra_awl.desk.hotspots.find.symptom_panel import SymptomPanel
from umbra_awl.desk.hotspots.find.teaching import Teaching
from umbra_awl.desk.hotspots.seen import Seen
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.parts.menus import menu_button
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, card, column, row, rows_of, words
from umbra_awl.desk.theme.theme import Theme

_FOLLOW_MS = 1_000
_TEACH = "Ask it, open its log, or paste it."
_WAYS = {"call-heard": "from a radio", "call-network": "from the network", "echo": "echo"}


class FindPage(QWidget):
    """The canvas page; `side` asks for symptoms."""

    def __init__(self, spot: Spot, theme: Theme, directory: Directory) -> None:
        super().__init__()
        self.sources = LogSources(self)
        self.spot, self.directory = spot, directory
        self.names: dict[str, str] = {}
        self.followed: Followed | None = None
        self.timer = QTimer(self)
        self.timer.setInterval(_FOLLOW_MS)
        self.timer.timeout.connect(self.sources.follow)
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
        self.open = button("Open a log …", self.sources.ask_open)
        self.paste = button("Paste a log", self.sources.paste_log, tip="From the clipboard")
        self.follow = button(
            "Follow a log …", self.sources.ask_follow, tip="What comes into the file is read each second"
        )
        self.teaching = Teaching(self.spot, self.take)
        self.means = menu_button("What the chosen line means", self._meanings, "")
        self.means.setText("What this line means")
        self.others = menu_button("Other ways by which a log comes", self._other_ways, "")
        self.others.setText("Other ways")
        inner.addLayout(rows_of(self.open, self.paste, self.follow, self.others, self.means, gap=6))
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

    def _other_ways(self) -> list[tuple[str, Callable[[], object]]]:
        return [
            ("A service's journal on this computer …", self.sources.ask_journal),
            ("A page that answers records (JSON) …", self.sources.ask_page),
            ("A topic of an MQTT broker …", self.sources.ask_broker),
        ]

    def _meanings(self) -> list[tuple[str, Callable[[], object]]]:
        """What the chosen line may be told to mean, and the last one taken back."""
        log, at = self.spot.log, self.unknown.row_now
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
        self.stop()

    def stop(self) -> None:
        self.timer.stop()
        let_go(self.followed)
        self.followed = None
        self.follow.setText("Follow a log …")

    def take(self, found: LogReading) -> None:
        self.spot.log = found
        self.spot.changed.emit()

    def refresh(self) -> None:
        """Show the log and what it means."""
        spot = self.spot
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
        self.sources.look_up(log)

    def _show_filled(self, told: bool, calls: bool, unknown: bool) -> None:
        """Only the tables that hold something take room."""
        self._log_room.setStretchFactor(self._both, 4 if calls or unknown else 0)
        self.faults.setVisible(told)
        self.calls.setVisible(calls)
        self.unknown.setVisible(unknown)

    def _plain(self, text: str) -> str:
        """A line as it is shown: the operator's own IDs only where they were asked for."""
        for number in self.spot.own.ids if not self.spot.bench.ids_shown else ():
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
        own = set(self.spot.own.overs())
        rows = [_call_row(item, own, self.names.get(item.call, "")) for item in log.calls[:100]]
        tones = ["violet" if item in own else "" for item in log.calls[:100]]
        self.calls.show_rows(("When", "Who", "To", "BER", ""), rows, tones, mono=False)
        unknown = [(f"{item.times}×", self._plain(item.text)) for item in log.unknown]
        self.unknown.show_rows(("", f"{counted(log.unknown_lines, 'line')} that no rule reads"), unknown)
        self.means.setEnabled(bool(unknown))
        if unknown and self.unknown.row_now < 0:
            self.unknown.choose(0)


def _call_row(item: HeardCall, own: set[HeardCall], name: str) -> tuple[str, ...]:
    ber = f"{item.ber:g} %" if item.ber is not None else ""
    loss = f", loss {item.loss:g} %" if item.loss is not None else ""
    way = "your own over" if item in own else _WAYS.get(item.way, "")
    return (item.clock, f"{item.call} {name}".strip(), item.to, ber, f"{way}, {item.seconds:g} s{loss}")
