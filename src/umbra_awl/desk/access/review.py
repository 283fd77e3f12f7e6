"""A list line by line before it is taken: what it would put on the air, what is doubtful, which lines go into the plan."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any, NamedTuple

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt, pyqtSignal
from PyQt6.QtWidgets import QHeaderView, QSizePolicy, QTableView, QWidget

from umbra_awl.core.directory.importing import IncomingEntries, ReportLine, report_csv
from umbra_awl.core.directory.judged import Judging
from umbra_awl.core.facts.counting import counted
from umbra_awl.desk.access.line_card import LineCard
from umbra_awl.desk.access.line_networks import LineNetworks
from umbra_awl.desk.access.line_table import Lines, LinesView
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.saving import FilePlace, ask_place, save_file
from umbra_awl.desk.parts.side_by_side import SideBySide
from umbra_awl.desk.parts.tips import plain
from umbra_awl.desk.parts.widgets import button, column, restyle, row, scrolled, words
from umbra_awl.desk.theme.theme import Theme

_CARD, _TABLE, _LOW = 96, 130, 560
"""Pixels: the least height of a line's card and of the lines, and that below which the report is folded at first."""
_KIND_WORDS = {"added": "new", "changed": "changed", "vanished": "gone"}


class ListDecision(NamedTuple):
    """What the operator decided about a list. `ticked` lines go into the plan, on the networks chosen by mode."""

    incoming: IncomingEntries
    give_up: frozenset[str]
    mends: Mapping[str, Mapping[str, Any]]
    ticked: frozenset[tuple[str, int]]
    networks: Mapping[str, str]


class ReviewRows(QAbstractTableModel):
    """A table of texts made when they are shown."""

    def __init__(self, headers: Sequence[str], texts: Callable[[Any], Sequence[str]]) -> None:
        super().__init__()
        self._headers, self._texts = headers, texts
        self.items: list[Any] = []

    def show_items(self, items: list[Any]) -> None:
        """Set what is shown."""
        self.beginResetModel()
        self.items = items
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.items)

    def columnCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self._headers)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or role not in {Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole}:
            return None
        text = self._texts(self.items[index.row()])[index.column()]
        return text if role == Qt.ItemDataRole.DisplayRole else plain(text)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if orientation == Qt.Orientation.Horizontal and role == Qt.ItemDataRole.DisplayRole:
            return self._headers[section]
        return None


def table_of(model: QAbstractTableModel, widths: Sequence[int], name: str) -> QTableView:
    """A plain table over rows; the last column takes what room is left."""
    view = QTableView()
    view.setModel(model)
    model.setParent(view)  # so that it goes after the view and not before
    view.setAccessibleName(name)
    view.setSelectionBehavior(QTableView.SelectionBehavior.SelectRows)
    view.setShowGrid(False)
    view.setWordWrap(False)
    view.setTabKeyNavigation(False)
    header, side = view.horizontalHeader(), view.verticalHeader()
    assert header is not None and side is not None  # noqa: PT018  (a table has both)
    side.hide()
    side.setDefaultSectionSize(26)
    side.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
    header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
    header.setStretchLastSection(True)
    for at, width in enumerate(widths):
        view.setColumnWidth(at, width)
    return view


class Review(QWidget):
    """Shows one list; `taken` carries what was decided."""

    taken = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench, self._theme = bench, theme
        self.incoming: IncomingEntries | None = None
        self.report: list[ReportLine] = []
        outer = column(self, 6)
        self.lines = Lines(theme)
        self.lines_view = LinesView(self.lines, theme)
        self.card = LineCard(self.lines)
        self.lines_view.chosen.connect(self.card.look)
        self.networks = LineNetworks(bench, self.lines)
        outer.addLayout(self._head())
        self._lead = words("", "second", wrap=True)
        outer.addWidget(self._lead)
        outer.addWidget(self.networks)
        beside = scrolled(self.card)
        beside.setMinimumHeight(theme.px(_CARD))
        self.lines_view.setMinimumHeight(theme.px(_TABLE))
        self._both = SideBySide(theme, self.lines_view, beside, (16, 5), 900)
        outer.addWidget(self._both, 5)
        outer.addWidget(self._report_part(), 2)
        self.lines.changed.connect(self._say_acts)

    def _head(self) -> Any:
        head = row(gap=6)
        self._title = words("", "title")
        head.addWidget(self._title)
        head.addStretch(1)
        head.addWidget(button("Back", self.left.emit))
        self._take = button("Keep in the directory", self.take, tip="Known to the directory, nothing to the plan")
        self._add = button("Add to the plan", self.add, "main", "The ticked lines go into the plan, as one step")
        head.addWidget(self._take)
        head.addWidget(self._add)
        return head

    def _report_part(self) -> QWidget:
        self._told = QWidget()
        outer = column(self._told, 4)
        head = row(gap=4)
        self._report_title = words("", "title")
        head.addWidget(self._report_title)
        head.addStretch(1)
        self._fold = button("Show", self._toggle_report, tip="Every line that was mended or refused, and why")
        head.addWidget(self._fold)
        head.addWidget(button("Save the report", self._ask_export))
        outer.addLayout(head)
        self.told = ReviewRows(("Line", "", "Why or how"), lambda item: (str(item.line), item.what, item.text))
        self.told_view = table_of(self.told, (64, 84), "Rows that were mended or refused")
        outer.addWidget(self.told_view, 1)
        return self._told

    def _toggle_report(self) -> None:
        self._open_report(self.told_view.isHidden())

    def _open_report(self, on: bool) -> None:
        self.told_view.setVisible(on)
        upright = QSizePolicy.Policy.Preferred if on else QSizePolicy.Policy.Maximum
        self._told.setSizePolicy(QSizePolicy.Policy.Preferred, upright)
        self._fold.setText("Hide" if on else "Show")

    def show_incoming(self, judging: Judging, ticked: frozenset[tuple[str, int]]) -> None:
        """Show what a list of access points would do, with the lines that are ticked at first."""
        incoming = self.incoming = judging.incoming
        counts = incoming.counts()
        words_ = ", ".join(f"{counts[kind]:,} {word}" for kind, word in _KIND_WORDS.items() if counts[kind])
        same = len(incoming.bodies) - counts["added"] - counts["changed"]
        said = ", ".join(filter(None, (words_, f"{same:,} as before" if same else "")))
        self._title.setText(f"{incoming.file}: {said or 'nothing in it'}")
        lead = "Nothing is taken yet. Your notes and own edits stay; what is gone from the list is kept, marked."
        self._lead.setText(f"{incoming.older} {lead}" if incoming.older else lead)
        self._show_report(incoming.report, incoming.rows)
        self._both.setVisible(True)
        self.lines.show_lines(judging, ticked)
        self.card.look(-1)
        if self.lines.items:
            self.lines_view.setCurrentIndex(self.lines.index(0, 1))

    def show_done(self, words_: str, report: list[ReportLine], rows: int) -> None:
        """Show the report of an import that was done."""
        self.incoming = None
        self.lines.show_lines(None)
        self._title.setText(words_)
        self._lead.setText("It can be undone in the list of imports.")
        self._show_report(report, rows)
        self._both.setVisible(False)
        self._told.setVisible(True)

    def _say_acts(self) -> None:
        """Say what the acts would do now; the filled one is what most would do next."""
        count = len({key for key, _at in self.lines.ticked})
        there = self.incoming is not None
        self._take.setVisible(there)
        self._add.setVisible(there and bool(count))
        self._add.setText(f"Add {count} to the plan")
        restyle(self._take, "role", "" if count else "main")
        self._take.setEnabled(there and bool(self.lines.items))

    def _show_report(self, report: list[ReportLine], rows: int) -> None:
        self.report = report
        refused = sum(line.what == "refused" for line in report)
        self._report_title.setText(
            f"{counted(rows + refused, 'row')} read, {len(report) - refused:,} mended, {refused:,} refused"
        )
        self._told.setVisible(bool(report))
        self._open_report(self.incoming is None or self.height() > self._theme.px(_LOW))
        self.told.show_items(sorted(report, key=lambda item: (item.what != "refused", item.line)))

    def _ask_export(self) -> None:
        place = ask_place(self, "Save the report", "import-report.csv", "CSV (*.csv)", ".csv")
        if place is not None:
            self.export(place)

    def export(self, place: FilePlace) -> None:
        """Save the report as CSV."""
        said = f"The report is saved as {place.path.name}."
        save_file(self._bench, place, lambda: report_csv(self.report).encode(), said)

    def take(self) -> None:
        """Take the list into the directory; the plan stays as it is."""
        self._send(frozenset())

    def add(self) -> None:
        """Take the list into the directory and its ticked lines into the plan."""
        self._send(frozenset(self.lines.ticked))

    def _send(self, ticked: frozenset[tuple[str, int]]) -> None:
        if self.incoming is not None:
            lines = self.lines
            mends = {key: dict(fields) for key, fields in lines.mends.items()}
            self.taken.emit(
                ListDecision(self.incoming, frozenset(lines.give_up), mends, ticked, self.networks.chosen())
            )
