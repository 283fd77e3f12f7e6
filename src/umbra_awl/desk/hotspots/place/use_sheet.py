"""What the stretches of the bands are for, and the neighbours' hotspots: shown with their source, changed line by line."""

from msgspec.structs import replace
from PyQt6.QtWidgets import QDialog, QPlainTextEdit, QWidget

from umbra_awl.core.facts.frequency import FrequencyError, format_mhz, parse_hz
from umbra_awl.core.hotspot.place.uses import KIND_WORDS, shipped_uses, uses_of
from umbra_awl.core.plan.edit.edit_station import set_station
from umbra_awl.core.plan.model import Neighbour, Plan, Use, UseKind
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import button, column, row, words

_USES_HELP = (
    "A line each: from – to  use  words. Uses are: " + ", ".join(KIND_WORDS) + ". Empty takes the region's table."
)
_NEAR_HELP = "A line each: frequency, or frequency / frequency, then whose it is."


class LineError(ValueError):
    """A line that cannot be read; the message says which and why."""


def uses_text(plan: Plan) -> str:
    """The uses in force as lines."""
    return "\n".join(
        f"{format_mhz(item.low_hz)} – {format_mhz(item.high_hz)}  {item.kind}  {item.words}"
        for item in uses_of(plan.station)
    )


def parse_uses_text(text: str, source: str) -> tuple[Use, ...]:
    """Uses from lines. Raises LineError."""
    made: list[Use] = []
    for number, line in enumerate(text.splitlines(), 1):
        if not line.strip():
            continue
        span, _gap, rest = line.strip().replace("–", "-").partition("  ")
        low, _dash, high = span.partition("-")
        kind, _space, told = rest.strip().partition(" ")
        if kind not in KIND_WORDS:
            raise LineError(f"Line {number}: “{kind}” is no use. There are {', '.join(KIND_WORDS)}.")
        try:
            edges = parse_hz(low), parse_hz(high)
        except FrequencyError as error:
            raise LineError(f"Line {number}: {error}") from None
        if edges[0] >= edges[1]:
            raise LineError(f"Line {number} would end before it begins.")
        made.append(Use(*edges, _kind(kind), told.strip(), source))
    return tuple(sorted(made, key=lambda item: item.low_hz))


def _kind(text: str) -> UseKind:
    return next(item for item in KIND_WORDS if item == text)


def parse_neighbours(text: str) -> tuple[Neighbour, ...]:
    """Neighbours' hotspots from lines. Raises LineError."""
    made: list[Neighbour] = []
    for number, line in enumerate(text.splitlines(), 1):
        if not line.strip():
            continue
        pair, _gap, note = line.strip().replace(" / ", "/").partition(" ")
        one, _slash, other = pair.partition("/")
        try:
            made.append(Neighbour(parse_hz(one), parse_hz(other) if other else 0, note.strip()))
        except FrequencyError as error:
            raise LineError(f"Line {number}: {error}") from None
    return tuple(made)


class UseSheet(QDialog):
    """Two lists to change; nothing is taken while a line cannot be read."""

    def __init__(self, parent: QWidget, bench: Workbench) -> None:
        super().__init__(parent)
        self._bench = bench
        self.setWindowTitle("Band plan and neighbours")
        self.setMinimumWidth(560)
        outer = column(self, 8, 16)
        outer.addWidget(words("What the stretches are for", "title"))
        source = next(iter(uses_of(bench.plan.station)), None)
        told = source.source if source is not None and source.source else "your own table"
        outer.addWidget(
            words(f"Source: {told}. The national plan and the licence decide. {_USES_HELP}", "second", wrap=True)
        )
        self.uses = self._lines("What the stretches are for", uses_text(bench.plan))
        outer.addWidget(self.uses, 2)
        outer.addWidget(words("Neighbours' hotspots", "title"))
        outer.addWidget(words(_NEAR_HELP, "second", wrap=True))
        near = bench.plan.station.neighbours
        pairs = [
            f"{format_mhz(item.hz)}{f'/{format_mhz(item.other_hz)}' if item.other_hz else ''} {item.note}"
            for item in near
        ]
        self.near = self._lines("Neighbours' hotspots", "\n".join(pairs))
        outer.addWidget(self.near, 1)
        self.fault = words("", "stop", wrap=True)
        outer.addWidget(self.fault)
        acts = row()
        acts.addStretch(1)
        acts.addWidget(button("Cancel", self.reject))
        acts.addWidget(button("Take them", self.take, "main"))
        outer.addLayout(acts)

    @staticmethod
    def _lines(name: str, text: str) -> QPlainTextEdit:
        made = QPlainTextEdit(text)
        made.setAccessibleName(name)
        made.setTabChangesFocus(True)
        made.setMinimumHeight(90)
        return made

    def take(self) -> None:
        """Take both lists as one edit."""
        before = self.uses.toPlainText() == uses_text(self._bench.plan)
        station = self._bench.plan.station
        try:
            uses = station.uses if before else parse_uses_text(self.uses.toPlainText(), "your own table")
            near = parse_neighbours(self.near.toPlainText())
        except LineError as error:
            self.fault.setText(str(error))
            return
        usual = tuple(replace(item, source="your own table") for item in shipped_uses().get(station.region, ()))
        kept = () if uses == usual else uses
        self._bench.do(
            set_station("Note what stretches are for, and the neighbours' hotspots", uses=kept, neighbours=near)
        )
        self.accept()
