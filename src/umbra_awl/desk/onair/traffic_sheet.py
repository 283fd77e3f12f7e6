"""How much others talk on each destination: the kinds in a table, changed in place, taken from a hotspot's log where it tells."""

from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import QComboBox, QFileDialog, QLineEdit, QWidget

from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.plan.model import Destination
from umbra_awl.core.simulation.measured import LEAST_OVERS, Measured, measure_log, take_measured
from umbra_awl.core.simulation.parameters import TRAFFIC_LIMITS, kind_words, pattern_of, set_traffic
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.theme.theme import Theme

_LOGS = "Logs (*.log *.txt);;All files (*)"
_TALKED = frozenset({"group", "reflector", "room", "local", "direct"})
_FIELDS = {
    "conversations_per_h": "Conversations an hour",
    "overs": "Overs in one",
    "over_s": "Seconds of an over",
    "gap_s": "Seconds between",
}


class TrafficTable(QWidget):
    """Shows the destinations that the plan uses; the chosen one can be set."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        self._filling = False
        outer = column(self, 6)
        self.table = RowsTable(theme, "Traffic by destination", "No destination yet: punch a route first.")
        self.table.chosen.connect(lambda _at: self._show_chosen())
        outer.addWidget(self.table, 1)
        self.kind = QComboBox()
        self.kind.setAccessibleName("Kind of traffic")
        for key, text in kind_words().items():
            self.kind.addItem(text, key)
        self.kind.activated.connect(lambda _at: self._set(kind=self.kind.currentData()))
        outer.addWidget(self.kind)
        self.fields: dict[str, QLineEdit] = {}
        for name, text in _FIELDS.items():
            line = row(gap=6)
            line.addWidget(words(text, "second"), 1)
            made = QLineEdit()
            made.setAccessibleName(text)
            made.setMaximumWidth(theme.px(80))
            made.editingFinished.connect(partial(self._typed, name))
            line.addWidget(made)
            self.fields[name] = made
            outer.addLayout(line)
        line = row(gap=6)
        self.source = words("", "second", wrap=True)
        line.addWidget(self.source, 1)
        line.addWidget(button("As usual", self.reset, tip="The usual figures of its kind"))
        outer.addLayout(line)
        self.from_log = button(
            "Measure from a hotspot's log", self.ask_log, tip="Overs, gaps and conversations of its lines"
        )
        outer.addWidget(self.from_log)
        bench.plan_changed.connect(self.refresh)

    def showEvent(self, event: object) -> None:
        self.refresh()
        super().showEvent(event)  # type: ignore[arg-type]

    @property
    def destinations(self) -> list[Destination]:
        """The destinations that are talked on, those with routes first."""
        index = self._bench.index
        used = {route.destination for route in index.plan.routes}
        found = [item for item in index.plan.destinations if item.kind in _TALKED]
        return sorted(found, key=lambda item: item.key not in used)

    def refresh(self) -> None:
        """Show the destinations with their traffic."""
        if not self.isVisible():
            return
        plan, at = self._bench.plan, self.table.row_now
        rows, tones = [], []
        own = {item.destination for item in plan.evening.traffic}
        for item in self.destinations:
            pattern = pattern_of(plan, item)
            rows.append((item.name, pattern.kind, f"{100 * pattern.busy:.0f} %"))
            tones.append("violet" if item.key in own else "")
        self.table.show_rows(("Destination", "Kind", "Busy"), rows, tones, mono=False)
        self.table.choose(max(at, 0))
        self._show_chosen()

    def chosen(self) -> Destination | None:
        """The destination in hand."""
        at, found = self.table.row_now, self.destinations
        return found[at] if 0 <= at < len(found) else None

    def _show_chosen(self) -> None:
        item = self.chosen()
        if item is None:
            return
        pattern = pattern_of(self._bench.plan, item)
        self._filling = True
        self.kind.setCurrentIndex(max(0, self.kind.findData(pattern.kind)))
        for name, line in self.fields.items():
            line.setText(f"{getattr(pattern, name):g}")
        self.source.setText(f"{pattern.source}.")
        self._filling = False

    def _typed(self, name: str) -> None:
        item = self.chosen()
        text = self.fields[name].text().strip().replace(",", ".")
        if item is None or self._filling or text == f"{getattr(pattern_of(self._bench.plan, item), name):g}":
            return
        try:
            value = float(text)
        except ValueError:
            low, high = TRAFFIC_LIMITS[name]
            self._bench.say(f"“{text}” is not a number between {low:g} and {high:g}.", "stop")
            self._show_chosen()
            return
        self._set(**{name: value, "source": "Set by hand"})

    def _set(self, **fields: object) -> None:
        item = self.chosen()
        if item is not None:
            if "kind" in fields:
                fields |= dict.fromkeys(_FIELDS)
            self._bench.do(set_traffic(item, **fields))
            self._show_chosen()

    def ask_log(self) -> None:
        """Ask for a log."""
        name, _kind = QFileDialog.getOpenFileName(self, "The hotspot's log", str(Path.home()), _LOGS)
        if name:
            self.measure(Path(name))

    def measure(self, path: Path) -> None:
        """Measure the traffic that a log tells of, and take it into the plan."""
        plan = self._bench.plan
        self._bench.jobs.read("traffic", measure_log, plan, path, done=self._take, failed=self._not_read)

    def _not_read(self, error: Exception) -> None:
        self._bench.say(f"The log cannot be read: {plain_reason(error)}. Choose another file.", "stop")

    def _take(self, found: tuple[Measured, ...]) -> None:
        if not found:
            text = f"The log tells of no destination of this plan often enough: {LEAST_OVERS} overs are needed."
            self._bench.say(text, "stop")
        elif self._bench.do(take_measured(found)):
            names = ", ".join(item.destination.name for item in found)
            self._bench.say(f"Measured: {names}. Ctrl Z takes it back.")

    def reset(self) -> None:
        """The usual figures of its kind."""
        self._set(**dict.fromkeys(_FIELDS), source="")
