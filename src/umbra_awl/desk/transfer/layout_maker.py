"""Making a layout from sample files: each column with its field and how it is written, and the memory as it would go out."""

from pathlib import Path
from typing import NamedTuple, get_args

from msgspec.structs import replace
from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QComboBox,
    QHeaderView,
    QLineEdit,
    QTableWidget,
    QTableWidgetItem,
    QWidget,
)

from umbra_awl.core.columns.csv_guess import Sample, column_for, guess_layout, guess_sheet, take_sample
from umbra_awl.core.columns.csv_out import Notes, sendable, sheet_rows
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.fields import FIELDS, MemoryRows, What
from umbra_awl.core.columns.layout import Column, ColumnLayout, Sheet, faults, save_layout
from umbra_awl.core.columns.round_trip import round_trip
from umbra_awl.core.columns.written import with_written, written
from umbra_awl.core.keep.limits import open_regular
from umbra_awl.core.radio.memory import Memory
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

_HEADS = ("Column", "Our field", "Written", "In the sample")
_SAMPLE_BYTES = 262_144
_PREVIEW_ROWS = 6
_FIELD, _WRITTEN = 1, 2


class _Tried(NamedTuple):
    """The first rows as they would be written, and what would be lost in words."""

    heads: tuple[str, ...]
    rows: list[list[str]]
    lost: str


def _tried(memory: Memory, sheet: Sheet, layout: ColumnLayout) -> _Tried:
    rows = MemoryRows(sendable(memory, layout, Notes())).rows(sheet.what)[:_PREVIEW_ROWS]
    cells = sheet_rows(rows, sheet, layout, Notes())
    return _Tried(tuple(item.title for item in sheet.column), cells, _lost_words(memory, layout))


def _lost_words(memory: Memory, layout: ColumnLayout) -> str:
    try:
        lost = round_trip(memory, layout).lost
    except ColumnsError as error:
        return str(error)
    if not lost:
        return "written and read back, nothing is lost."
    more = f" And {len(lost) - 3} more." if len(lost) > 3 else ""
    return f"written and read back, {' '.join(lost[:3])}{more}"


def _beginning(path: Path) -> bytes:
    """The first whole lines of a file: a sample needs no more. Raises OSError."""
    with open_regular(path) as file:
        data = file.read(_SAMPLE_BYTES)
    return data if len(data) < _SAMPLE_BYTES or b"\n" not in data else data[: data.rindex(b"\n") + 1]


class LayoutMaker(QWidget):
    """Works on one layout at a time."""

    done = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench, self._theme = bench, theme
        self.layout_now = ColumnLayout("", ())
        self.samples: list[Sample] = []
        self._filling = False
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
        outer.addWidget(self.grid, 3)
        self._fault = words("", "stop", wrap=True)
        outer.addWidget(self._fault)
        self._say = words("", "second", wrap=True)
        outer.addWidget(self._say)
        self.preview = RowsTable(theme, "The chosen radio's memory as it would be written")
        outer.addWidget(self.preview, 2)
        acts = row(gap=6)
        self.name = QLineEdit()
        self.name.setPlaceholderText("Name of the layout")
        self.name.setAccessibleName("Name of the layout")
        self.name.textChanged.connect(lambda _text: self._check())
        acts.addWidget(self.name, 1)
        acts.addWidget(button("Back", self.left.emit))
        self.keep_button = button("Keep the layout", self.keep, "main")
        acts.addWidget(self.keep_button)
        outer.addLayout(acts)

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

    def open(self, paths: list[Path]) -> bool:
        """Begin with sample files; what cannot be read is said. True when begun."""
        try:
            samples = [take_sample(path.name, _beginning(path)) for path in paths]
            layout = guess_layout(samples, paths[0].stem.replace("-", " ").capitalize() if paths else "")
        except OSError as error:
            self._bench.say(f"The sample cannot be read: {error.strerror or error}.", "stop")
            return False
        except ColumnsError as error:
            self._bench.say(str(error), "stop")
            return False
        self.samples, self.layout_now = samples, layout
        self.name.setText(layout.name)
        self._fill_sheets()
        return True

    def _fill_sheets(self) -> None:
        self.sheets.blockSignals(True)
        self.sheets.clear()
        self.sheets.addItems([sheet.file for sheet in self.layout_now.sheet])
        self.sheets.blockSignals(False)
        self.sheets.setVisible(len(self.layout_now.sheet) > 1)
        mark = {"\t": "tab", ";": "semicolon", ",": "comma", "|": "bar"}.get(self.layout_now.delimiter, "")
        lead = len(self.layout_now.sheet[0].lead)
        above = f", {lead} line{'' if lead == 1 else 's'} above the headings" if lead else ""
        decimal = "decimal comma" if self.layout_now.decimal == "," else "decimal point"
        self._shape.setText(f"{mark}, {decimal}, {self.layout_now.encoding}{above}. Guessed; correct what is wrong.")
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
        self._check()

    def _fill_row(self, at: int, item: Column, sample: Sample) -> None:
        fixed = Qt.ItemFlag.ItemIsEnabled
        title = QTableWidgetItem(item.title)
        title.setFlags(fixed)
        self.grid.setItem(at, 0, title)
        box = QComboBox()
        box.setAccessibleName(f"Our field for the column {item.title}")
        box.addItem("always the same, or blank", "")
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

    def _put(self, at: int, item: Column) -> None:
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
        self._check()

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
        self._check()

    def _check(self) -> None:
        """Say what keeps the layout from being kept, and show the memory through it."""
        self.layout_now = replace(self.layout_now, name=self.name.text().strip())
        wrong = faults(self.layout_now)
        self._fault.setText(wrong[0] if wrong else "")
        self._fault.setVisible(bool(wrong))
        self.keep_button.setEnabled(not wrong)
        fit = self._bench.fit
        if wrong or fit is None:
            self.preview.show_rows((), ())
            self._say.setText("")
            return
        memory, sheet, layout = fit.memory, self.sheet, self.layout_now
        self._bench.jobs.latest("layout-maker", lambda: _tried(memory, sheet, layout), self._show_tried)

    def _show_tried(self, tried: "_Tried") -> None:
        self.preview.show_rows(tried.heads, tried.rows)
        radio = self._bench.radio
        self._say.setText(f"{radio.name if radio else 'The radio'} through it: {tried.lost}")

    def keep(self) -> None:
        """Keep the layout among the own ones."""
        try:
            save_layout(self.layout_now, self._bench.profiles.folder / "columns")
        except ColumnsError as error:
            self._bench.say(str(error), "stop")
            return
        self._bench.say(f"The layout “{self.layout_now.name}” is kept.")
        self.done.emit(self.layout_now)
