"""The columns of somebody's files: each with our field, how it is written and what stands in it, corrected in place."""

from collections.abc import Sequence
from typing import get_args

from msgspec.structs import replace
from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QAbstractItemView, QComboBox, QHeaderView, QTableWidget, QTableWidgetItem, QWidget

from umbra_awl.core.columns.csv_guess import guess_sheet
from umbra_awl.core.columns.fields import FIELDS, What
from umbra_awl.core.columns.guess_written import column_for
from umbra_awl.core.columns.layout import ColumnLayout, FileColumn, Sheet
from umbra_awl.core.columns.sample import Sample
from umbra_awl.core.columns.written import with_written, written
from umbra_awl.core.facts.counting import counted
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import column, row, words
from umbra_awl.desk.theme.theme import Theme

_HEADS = ("Column", "Our field", "Written", "In the file")
_FIELD, _WRITTEN = 1, 2


class ColumnsEditor(QWidget):
    """Works on the layout of some sample files; `changed` after each correction. `blank` is the word for no field of ours."""

    changed = pyqtSignal()

    def __init__(self, bench: Workbench, theme: Theme, blank: str) -> None:
        super().__init__()
        self._bench, self._theme, self._blank = bench, theme, blank
        self.layout_now = ColumnLayout("", ())
        self.samples: Sequence[Sample] = ()
        self._filling = False
        self._how = ""
        outer = column(self, 6)
        line = row(gap=6)
        self.sheets = QComboBox()
        self.sheets.setAccessibleName("Which of the sample files")
        self.sheets.currentIndexChanged.connect(lambda _at: self._fill())
        line.addWidget(self.sheets)
        self.what = QComboBox()
        self.what.setAccessibleName("What the file holds")
        for item in get_args(What):
            self.what.addItem(f"holds {item}", item)
        self.what.currentIndexChanged.connect(lambda _at: self._set_what())
        line.addWidget(self.what)
        self._shape = words("", "second", wrap=True)
        line.addWidget(self._shape, 1)
        outer.addLayout(line)
        self.grid = self._grid(theme)
        outer.addWidget(self.grid, 1)

    def _grid(self, theme: Theme) -> QTableWidget:
        grid = QTableWidget(0, len(_HEADS))
        grid.setAccessibleName("Columns of the sample: our field, how it is written, values")
        grid.setHorizontalHeaderLabels(list(_HEADS))
        grid.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        grid.setShowGrid(False)
        header, rows = grid.horizontalHeader(), grid.verticalHeader()
        assert header is not None
        assert rows is not None
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        header.setStretchLastSection(True)
        header.setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        rows.hide()
        rows.setDefaultSectionSize(theme.px(32))
        for at, width in enumerate((150, 190, 216)):
            grid.setColumnWidth(at, theme.px(width))
        grid.itemChanged.connect(self._written_changed)
        return grid

    def open(
        self, samples: Sequence[Sample], layout: ColumnLayout, how: str = "Guessed; correct what is wrong."
    ) -> None:
        """Begin with sample files and what their columns are taken for; `how` that was found."""
        self.samples, self.layout_now, self._how = samples, layout, how
        self._fill_sheets()

    def _fill_sheets(self) -> None:
        self.sheets.blockSignals(True)
        self.sheets.clear()
        self.sheets.addItems([sheet.file for sheet in self.layout_now.sheet])
        self.sheets.blockSignals(False)
        self.sheets.setVisible(len(self.layout_now.sheet) > 1)
        mark = {"\t": "tab", ";": "semicolon", ",": "comma", "|": "bar"}.get(self.layout_now.delimiter, "")
        lead = len(self.layout_now.sheet[0].lead)
        above = f", {counted(lead, 'line')} above the headings" if lead else ""
        decimal = "decimal comma" if self.layout_now.decimal == "," else "decimal point"
        self._shape.setText(f"{mark}, {decimal}, {self.layout_now.encoding}{above}. {self._how}")
        self._fill()

    @property
    def _at(self) -> int:
        return max(self.sheets.currentIndex(), 0)

    @property
    def sheet(self) -> Sheet:
        """The file worked on."""
        return self.layout_now.sheet[self._at]

    def _fill(self) -> None:
        if not self.layout_now.sheet:
            return
        self._filling = True
        sheet, sample = self.sheet, self.samples[self._at]
        self.what.setCurrentIndex(self.what.findData(sheet.what))
        self.grid.setRowCount(len(sheet.column))
        for at, item in enumerate(sheet.column):
            self._fill_row(at, item, sample)
        self._filling = False
        self.changed.emit()

    def _fill_row(self, at: int, item: FileColumn, sample: Sample) -> None:
        fixed = Qt.ItemFlag.ItemIsEnabled
        title = QTableWidgetItem(item.title)
        title.setFlags(fixed)
        self.grid.setItem(at, 0, title)
        box = QComboBox()
        box.setAccessibleName(f"Our field for the column {item.title}")
        box.addItem(self._blank, "")
        for field, spec in FIELDS[self.sheet.what].items():
            box.addItem(spec.label, field)
        box.setCurrentIndex(max(0, box.findData(item.field)))
        box.currentIndexChanged.connect(lambda _index, row_=at, made=box: self._set_field(row_, made.currentData()))
        self.grid.setCellWidget(at, _FIELD, box)
        how = QTableWidgetItem(written(item, self.sheet.what))
        how.setFont(self._theme.font(13, mono=True))
        set_tip(
            how, "Double click or F2 to change: MHz, 5 decimals · fm=Analog, dmr=Digital · nothing is Off · always x"
        )
        self.grid.setItem(at, _WRITTEN, how)
        values = QTableWidgetItem(" · ".join(dict.fromkeys(sample.values(at)[:12])))
        values.setFlags(fixed)
        values.setFont(self._theme.font(13, mono=True))
        self.grid.setItem(at, 3, values)

    def _put(self, at: int, item: FileColumn) -> None:
        columns = list(self.sheet.column)
        columns[at] = item
        self._put_sheet(replace(self.sheet, column=tuple(columns)))

    def _put_sheet(self, sheet: Sheet) -> None:
        sheets = list(self.layout_now.sheet)
        sheets[self._at] = sheet
        self.layout_now = replace(self.layout_now, sheet=tuple(sheets))

    def _set_what(self) -> None:
        if self._filling or not self.layout_now.sheet:
            return
        self._put_sheet(guess_sheet(self.samples[self._at], self.what.currentData()))
        self._fill()

    def _set_field(self, at: int, field: str) -> None:
        """Give a column another field, written as the sample suggests."""
        made = column_for(self.samples[self._at], at, self.sheet.what, field)
        self._put(at, made)
        self._filling = True
        item = self.grid.item(at, _WRITTEN)
        if item is not None:
            item.setText(written(made, self.sheet.what))
        self._filling = False
        self.changed.emit()

    def _written_changed(self, item: QTableWidgetItem) -> None:
        if self._filling or item.column() != _WRITTEN:
            return
        at = item.row()
        try:
            self._put(at, with_written(self.sheet.column[at], item.text(), self.sheet.what))
        except ValueError as error:
            self._bench.say(str(error), "stop")
        self._filling = True
        item.setText(written(self.sheet.column[at], self.sheet.what))
        self._filling = False
        self.changed.emit()
