"""The radio's routes to choose one from where none is in hand: those with findings first, then by their memory."""

from typing import NamedTuple

from PyQt6.QtCore import QModelIndex

from umbra_awl.core.plan.model import Route
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.theme.theme import Theme

_HEADS = ("Route", "Memory", "Found")
_MOST = 1_000
_TONES = {"stop": "stop", "warn": "brass"}


class _Line(NamedTuple):
    route: Route
    texts: tuple[str, str, str]
    tone: str


class RouteChoice(RowsTable):
    """Enter or a click takes a route in hand; it is traced then."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__(theme, "Routes to trace", "No route yet. Punch one on the sheet.")
        self._bench = bench
        self._lines: list[_Line] = []
        self.clicked.connect(self._take)
        self.activated.connect(self._take)

    def refresh(self) -> None:
        """Show the routes of the plan as the radio in hand has them."""
        lines = self._made()
        if lines != self._lines:
            self._lines = lines
            self.show_rows(_HEADS, [line.texts for line in lines], [line.tone for line in lines], mono=False)

    def _made(self) -> list[_Line]:
        bench, grave = self._bench, dict[str, tuple[str, str]]()
        for finding in reversed(bench.worked.results.findings):
            if finding.target.kind in {"route", "service"}:
                grave[finding.target.key] = (finding.severity, finding.rule.title)
        fit = bench.fit if bench.worked.fresh else None
        numbers = {item.route: f"{item.number}  {item.name}" for item in fit.memory.channels} if fit is not None else {}
        made = []
        for route in bench.plan.routes[:_MOST]:
            severity, title = grave.get(route.key) or grave.get(route.service) or ("", "")
            texts = (bench.index.labels.of(route), numbers.get(route.key, "not on this radio"), title)
            made.append(_Line(route, texts, _TONES.get(severity, "")))
        made.sort(key=lambda line: (["stop", "brass", ""].index(line.tone), line.route.key not in numbers))
        return made

    def _take(self, index: QModelIndex) -> None:
        line = self._lines[self.texts.sources[index.row()]]
        self._bench.select(Selection(line.route.service, line.route.destination, line.route.slot))
