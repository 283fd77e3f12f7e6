"""What an import would do, before it is done: added, changed and vanished entries, and the rows that were mended or refused."""

from collections.abc import Callable, Sequence
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt, pyqtSignal
from PyQt6.QtWidgets import QHeaderView, QTableView, QWidget

from umbra_awl.core.directory.importing import Change, Incoming, ReportLine, report_csv
from umbra_awl.core.directory.private import field_words
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.desk.directory import Directory
from umbra_awl.desk.parts.saving import FilePlace, ask_place, save_file
from umbra_awl.desk.parts.tips import plain
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.workbench import Workbench

_KIND_WORDS = {"added": "new", "changed": "changed", "vanished": "gone"}


def change_words(change: Change) -> str:
    """What would change, in words: “DMR input 446.3875 → 431.1875”."""
    if change.kind == "added":
        return "not known before"
    if change.kind == "vanished":
        return "no longer listed; it is kept, marked as vanished"
    on_air_first = sorted(change.fields.items(), key=lambda item: "-" not in item[0])
    return "; ".join(
        f"{field_words(path)} {_shown(path, old)} → {_shown(path, new)}" for path, (old, new) in on_air_first
    )


def _shown(path: str, value: object) -> str:
    if path.endswith("_hz") and isinstance(value, int):
        return format_mhz(value)
    return "none" if value in {"", None} else str(value)


def held_words(change: Change) -> str:
    """Which of the operator's own edits stay."""
    fields = sorted({field_words(path) for path in change.held})
    return f"yours stays: {', '.join(fields)}" if fields else ""


class Rows(QAbstractTableModel):
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
    """Shows one import; `taken` carries the keys whose private edits are given up."""

    taken = pyqtSignal(object, object)
    left = pyqtSignal()

    def __init__(self, bench: Workbench, directory: Directory) -> None:
        super().__init__()
        self._bench, self._directory = bench, directory
        self.incoming: Incoming | None = None
        self.report: list[ReportLine] = []
        self._used: frozenset[str] = frozenset()
        self.give_up: set[str] = set()
        outer = column(self, 6)
        self._title = words("", "title")
        outer.addWidget(self._title)
        self._lead = words("", "", wrap=True)
        outer.addWidget(self._lead)
        self.changes = Rows(("", "Access point", "In the plan", "What"), self._change_texts)
        self.changes_view = table_of(self.changes, (74, 190, 84), "Entries that would change")
        outer.addWidget(self.changes_view, 3)
        self._mine = button("Take the directory's values for the selected", self._toggle_mine)
        line = row(gap=4)
        line.addWidget(self._mine)
        line.addStretch(1)
        outer.addLayout(line)
        head = row(gap=4)
        self._report_title = words("", "title")
        head.addWidget(self._report_title)
        head.addStretch(1)
        self._export = button("Save the report", self._ask_export)
        head.addWidget(self._export)
        outer.addLayout(head)
        self.lines = Rows(("Line", "", "Why or how"), lambda item: (str(item.line), item.what, item.text))
        self.lines_view = table_of(self.lines, (64, 84), "Rows that were mended or refused")
        outer.addWidget(self.lines_view, 2)
        acts = row(gap=6)
        acts.addStretch(1)
        self._back = button("Back", self.left.emit)
        acts.addWidget(self._back)
        self._take = button("Take it into the directory", self.take, "main")
        acts.addWidget(self._take)
        outer.addLayout(acts)

    def _change_texts(self, change: Change) -> tuple[str, str, str, str]:
        held = "the directory's values are taken" if change.key in self.give_up else held_words(change)
        what = "; ".join(filter(None, (held, change_words(change))))
        return _KIND_WORDS[change.kind], change.label, "used" if change.key in self._used else "", what

    def show_incoming(self, incoming: Incoming) -> None:
        """Show what an import of access points would do."""
        self.incoming, self.give_up = incoming, set()
        self._used = incoming.used
        counts = incoming.counts()
        words_ = ", ".join(f"{counts[kind]:,} {word}" for kind, word in _KIND_WORDS.items())
        same = len(incoming.bodies) - counts["added"] - counts["changed"]
        self._title.setText(f"{incoming.file}: {words_}, {same:,} the same")
        lead = "Nothing is taken yet. Your notes and your own edits stay; entries that are gone are kept and marked."
        self._lead.setText(f"{incoming.older} {lead}" if incoming.older else lead)
        self.changes.show_items(incoming.changes)
        self._show_report(incoming.report, incoming.rows)
        for made in (self.changes_view, self._take):
            made.setVisible(True)
        self._mine.setVisible(any(change.held for change in incoming.changes))
        self._take.setEnabled(bool(incoming.changes) or bool(incoming.bodies))

    def show_done(self, words_: str, report: list[ReportLine], rows: int) -> None:
        """Show the report of an import that was done."""
        self.incoming = None
        self._title.setText(words_)
        self._lead.setText("It can be undone in the list of imports.")
        self._show_report(report, rows)
        for made in (self.changes_view, self._mine, self._take):
            made.setVisible(False)

    def _show_report(self, report: list[ReportLine], rows: int) -> None:
        self.report = report
        refused = sum(line.what == "refused" for line in report)
        self._report_title.setText(
            f"{rows + refused:,} rows read, {len(report) - refused:,} mended, {refused:,} refused"
        )
        self._export.setEnabled(bool(report))
        self.lines.show_items(sorted(report, key=lambda item: (item.what != "refused", item.line)))

    def _toggle_mine(self) -> None:
        rows = {index.row() for index in self.changes_view.selectedIndexes()}
        keys = {self.changes.items[at].key for at in rows if self.changes.items[at].held}
        if not keys:
            self._bench.say("Select entries that hold your own edits first.")
            return
        self.give_up ^= keys
        self.changes.layoutChanged.emit()

    def _ask_export(self) -> None:
        place = ask_place(self, "Save the report", "import-report.csv", "CSV (*.csv)", ".csv")
        if place is not None:
            self.export(place)

    def export(self, place: FilePlace) -> None:
        """Save the report as CSV."""
        said = f"The report is saved as {place.path.name}."
        save_file(self._bench, place, lambda: report_csv(self.report).encode(), said)

    def take(self) -> None:
        """Take the import."""
        if self.incoming is not None:
            self.taken.emit(self.incoming, frozenset(self.give_up))
