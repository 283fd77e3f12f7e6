"""The columns of a file beside its first rows: which column is which field, to be corrected and kept as a layout."""

from functools import partial
from pathlib import Path
from typing import NamedTuple

import msgspec
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QCheckBox,
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QTableWidget,
    QTableWidgetItem,
    QWidget,
)

from umbra_awl.core.directory.importing import pairs_of
from umbra_awl.core.directory.lists.guess import guess, guess_of, passed_over, sample, with_head
from umbra_awl.core.directory.lists.layout import FIELDS, WHAT_WORDS, TableLayout, What, kept_layout, save_layout
from umbra_awl.core.directory.lists.sides import Known
from umbra_awl.core.drivers.reading import driven_table
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.core.tables.rows import Table
from umbra_awl.core.tables.table import open_table
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import button, column, row, words

_ROWS = 10
_WIDE = 148


class _Looked(NamedTuple):
    """A table with its first rows, the kept layout that fits where there is one, and the layout to begin with."""

    table: Table
    kept: TableLayout | None
    layout: TableLayout
    told: str = ""
    asks: str = ""


def _looked_at(path: Path, folder: Path, what: What | None, known: Known) -> _Looked:
    """Open a list as far as its columns need. Raises SourceError."""
    table = with_head(driven_table(path) or open_table(path))
    kept = kept_layout(folder, table.headers, what)
    found = guess_of(table, what, known)
    return _Looked(table, kept, kept or found.layout, "" if kept else found.told, "" if kept else found.asks)


class Mapping(QWidget):
    """Shows one file at a time."""

    ready = pyqtSignal(object, object)
    opened = pyqtSignal()
    left = pyqtSignal()

    def __init__(self, bench: Workbench, directory: Directory) -> None:
        super().__init__()
        self._bench, self._directory = bench, directory
        self.table: Table | None = None
        self.boxes: list[QComboBox] = []
        self._told = self._asks = ""
        outer = column(self, 8)
        self._title = words("", "title")
        outer.addWidget(self._title)
        self._lead = words("", "second", wrap=True)
        outer.addWidget(self._lead)
        outer.addLayout(self._options())
        self.grid = QTableWidget()
        self.grid.setAccessibleName("Columns and sample rows. The first line chooses the field of each column.")
        self.grid.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.grid.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        header = self.grid.verticalHeader()
        assert header is not None
        header.hide()
        outer.addWidget(self.grid, 1)
        self.fault = words("", "stop", wrap=True)
        outer.addWidget(self.fault)
        acts = row(gap=6)
        self.name = QLineEdit()
        self.name.setPlaceholderText("Name, to keep these columns as a layout")
        self.name.setAccessibleName("Name of the layout")
        acts.addWidget(self.name, 1)
        acts.addWidget(button("Back", self.left.emit))
        self._go = button("Compare with the directory", self.go, "main")
        acts.addWidget(self._go)
        outer.addLayout(acts)

    def _options(self) -> QHBoxLayout:
        """What the file holds, where it comes from, and how it writes offsets."""
        line = row(gap=6)
        self.what = QComboBox()
        self.what.setAccessibleName("What the file holds")
        for key, text in WHAT_WORDS.items():
            self.what.addItem(f"holds {text}", key)
        self.what.currentIndexChanged.connect(lambda _at: self._guess_again())
        line.addWidget(self.what)
        line.addWidget(words("Source", "second"))
        self.source = QLineEdit()
        self.source.setAccessibleName("Source: the directory this comes from")
        set_tip(self.source, "A newer file of the same source is compared with what came before")
        line.addWidget(self.source, 1)
        line.addWidget(words("70 cm offset, MHz", "second"))
        self.offset = QLineEdit()
        self.offset.setAccessibleName("Size of 70 cm offsets in MHz, where the file tells only the sign")
        self.offset.setPlaceholderText("if only a sign")
        self.offset.setFixedWidth(110)
        line.addWidget(self.offset)
        self.simplex = QCheckBox("Simplex stations")
        set_tip(self.simplex, "They send on what they hear; no column tells an input or an offset")
        self.simplex.toggled.connect(lambda _on: self._check() if self.table is not None else None)
        line.addWidget(self.simplex)
        return line

    def open(self, path: Path, what: What | None = None) -> None:
        """Look at a file in the background and show it; an error is said."""
        folder, plan, directory = self._directory.folder / "layouts", self._bench.plan, self._directory

        def known(call: str) -> list[tuple[int, int]]:
            own = [(item.rx_hz, item.tx_hz) for held in plan.access if held.call == call for item in held.services]
            return [*own, *pairs_of(directory.store)(call)]

        self._bench.jobs.latest(
            "list",
            lambda: _looked_at(path, folder, what, known),
            partial(self._show, path),
            lambda error: self._bench.say(plain_reason(error), "stop"),
            lane="reads",
        )

    def _show(self, path: Path, found: "_Looked") -> None:
        self.table, kept, layout, self._told, self._asks = found
        how = (
            f"The kept layout “{kept.name}” fits."
            if kept
            else "The columns were guessed; correct them in the first line."
        )
        shape = self.table.kind.upper()
        if self.table.kind == "csv":
            mark = {"\t": "tab", ";": "semicolon", ",": "comma", "|": "bar"}.get(self.table.delimiter, "")
            shape = f"CSV, {mark}, {self.table.encoding}"
        self._title.setText(path.name)
        self._lead.setText(f"{shape}. {how} {self._told}".strip())
        self.name.setText(kept.name if kept else "")
        self.source.setText((kept.source if kept else "") or self._usual_source(layout.what, path))
        self.offset.setText(f"{layout.offset_70cm_mhz:g}" if layout.offset_70cm_mhz else "")
        self.simplex.blockSignals(True)
        self.simplex.setChecked(layout.simplex)
        self.simplex.blockSignals(False)
        self._fill(layout)
        self.opened.emit()

    def _usual_source(self, what: What, path: Path) -> str:
        """The newest source of this kind, when its name is like the file's; else the file's name."""
        stem = path.stem.lower().removesuffix("-newer")
        known = self._directory.store.sources(what)
        return next((name for name in known if name.lower()[:8] == stem[:8]), path.stem)

    def _fill(self, layout: TableLayout) -> None:
        table = self.table
        assert table is not None
        self.what.blockSignals(True)
        self.what.setCurrentIndex(self.what.findData(layout.what))
        self.what.blockSignals(False)
        rows = sample(table, _ROWS)
        self.grid.clear()
        self.grid.setColumnCount(len(table.headers))
        self.grid.setRowCount(len(rows) + 1)
        self.grid.setHorizontalHeaderLabels(table.headers)
        field_of = {column: field for field, column in layout.columns.items()}
        self.boxes = []
        for at, header in enumerate(table.headers):
            box = QComboBox()
            box.setAccessibleName(f"Field of the column {header}")
            box.addItem("left out", "")
            for field, (text, _words) in FIELDS[layout.what].items():
                box.addItem(text, field)
            box.setCurrentIndex(max(0, box.findData(field_of.get(header, ""))))
            box.currentIndexChanged.connect(lambda _at: self._check())
            self.boxes.append(box)
            self.grid.setCellWidget(0, at, box)
            self.grid.setColumnWidth(at, _WIDE)
            for line, cells in enumerate(rows, 1):
                self.grid.setItem(line, at, QTableWidgetItem(cells[at][:80]))
        self.grid.setRowHeight(0, 34)
        self._check()

    def _guess_again(self) -> None:
        if self.table is None:
            return
        try:
            self._fill(guess(self.table, self.what.currentData()))
        except SourceError as error:
            self._bench.say(str(error), "stop")

    def layout_now(self) -> TableLayout:
        """The layout as it is chosen. Raises ValueError for an offset that is no number."""
        assert self.table is not None
        columns = {
            box.currentData(): header
            for box, header in zip(self.boxes, self.table.headers, strict=True)
            if box.currentData()
        }
        text = self.offset.text().strip().replace(",", ".").lstrip("+-−")
        try:
            offset = float(text or 0)
        except ValueError:
            raise ValueError(f"“{self.offset.text()}” is not an offset. Type megahertz, for example 7.6.") from None
        return TableLayout(
            self.what.currentData(),
            columns,
            self.name.text().strip(),
            self.source.text().strip(),
            offset_70cm_mhz=offset,
            simplex=self.simplex.isChecked(),
        )

    def faults(self) -> list[str]:
        """What keeps the chosen columns from being used."""
        assert self.table is not None
        chosen = [box.currentData() for box in self.boxes if box.currentData()]
        doubled = next((field for field in chosen if chosen.count(field) > 1), None)
        if doubled:
            return [f"Two columns are chosen for {FIELDS[self.what.currentData()][doubled][0]}. Leave one of them out."]
        try:
            return self.layout_now().faults(self.table.headers)
        except ValueError as error:
            return [str(error)]

    def _check(self) -> None:
        faults = self.faults()
        if self._asks and not {"rx", "tx"} <= {box.currentData() for box in self.boxes}:
            faults = [self._asks, *faults]
        doubts = [] if faults or self.table is None else _doubts(self.table, self.layout_now())
        self.fault.setText("".join((*faults[:1], *doubts[:1])))
        self.fault.setVisible(bool(faults or doubts))
        self._go.setEnabled(not faults)
        what = self.what.currentData()
        self._go.setText("Compare with the directory" if what == "access" else "Take them in")

    def go(self) -> None:
        """Keep the layout when it has a name, and go on."""
        faults = self.faults()
        if faults or self.table is None:
            self.fault.setText(faults[0] if faults else "")
            return
        layout = self.layout_now()
        if layout.name:
            try:
                save_layout(layout, self._directory.folder / "layouts")
            except SourceError as error:
                self._bench.say(str(error), "stop")
                return
        self.ready.emit(self.table, msgspec.structs.replace(layout, source=layout.source or self.table.name))


def _doubts(table: Table, layout: TableLayout) -> list[str]:
    """Columns that are used for nothing and look like one of the fields, as sentences."""
    like = [item for item in passed_over(table, layout) if item.like]
    return [f"The column “{item.column}” is not used; it looks like “{item.like}”." for item in like]
