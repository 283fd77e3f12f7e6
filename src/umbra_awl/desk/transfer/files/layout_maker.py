"""Making a layout from sample files: each column with its field and how it is written, and the memory as it would go out."""

from typing import NamedTuple

from msgspec.structs import replace
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QLineEdit, QWidget

from umbra_awl.core.columns.begun import Begun
from umbra_awl.core.columns.csv_out import Notes, sendable, sheet_rows
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.fields import MemoryRows
from umbra_awl.core.columns.layout import ColumnLayout, Sheet, faults, save_layout
from umbra_awl.core.columns.round_trip import round_trip
from umbra_awl.core.radio.memory import Memory
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.files.columns_editor import ColumnsEditor

_PREVIEW_ROWS = 6


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


class LayoutMaker(QWidget):
    """Works on one layout at a time."""

    done = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench, self._theme = bench, theme
        outer = column(self, 6)
        self.columns = ColumnsEditor(bench, theme, "always the same, or blank")
        self.columns.changed.connect(self._check)
        outer.addWidget(self.columns, 3)
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

    @property
    def layout_now(self) -> ColumnLayout:
        """The layout as it is chosen, with its name."""
        return replace(self.columns.layout_now, name=self.name.text().strip())

    def open(self, begun: Begun) -> None:
        """Begin with samples and a guessed layout."""
        self.name.setText(begun.layout.name)
        self.columns.open(begun.samples, begun.layout)

    def _check(self) -> None:
        """Say what keeps the layout from being kept, and show the memory through it."""
        wrong = faults(self.layout_now)
        self._fault.setText(wrong[0] if wrong else "")
        self._fault.setVisible(bool(wrong))
        self.keep_button.setEnabled(not wrong)
        fit = self._bench.fit
        if wrong or fit is None:
            self.preview.show_rows((), ())
            self._say.setText("")
            return
        memory, sheet, layout = fit.memory, self.columns.sheet, self.layout_now
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
