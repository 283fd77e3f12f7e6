"""Files for other programs: the chosen radio's memory through a layout, what that layout cannot hold, own layouts."""

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QStackedWidget, QWidget

from umbra_awl.core.plan.files import write_atomic
from umbra_awl.core.sheets.csv_out import Notes, sheet_rows
from umbra_awl.core.sheets.fields import MemoryRows
from umbra_awl.core.sheets.layout import (
    ColumnsError,
    Layout,
    layout_text,
    own_layouts,
    read_layout,
    save_layout,
    shipped_layouts,
)
from umbra_awl.core.sheets.round_trip import RoundTrip, round_trip
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.saving import save_file
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.parts.wrap import WrapList
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.layout_maker import LayoutMaker
from umbra_awl.desk.workbench import Workbench

_TEACH = (
    "A layout says which of our fields stands in which column of somebody's files, and how it is written there. "
    "Make one from a sample."
)


class FilesPage(QStackedWidget):
    """The canvas page: the files, or a layout in the making. `side` holds the layouts."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        self.layouts: list[Layout] = []
        self.trip: RoundTrip | None = None
        page = QWidget()
        outer = column(page, 6)
        line = row(gap=6)
        line.addWidget(RadioTabs(bench))
        line.addStretch(1)
        outer.addLayout(line)
        self._tabs_line = row(gap=6)
        self.tabs = Tabs((), self.show_sheet)
        self._tabs_line.addWidget(self.tabs)
        self._tabs_line.addStretch(1)
        outer.addLayout(self._tabs_line)
        self.table = RowsTable(theme, "The file as it would be written")
        outer.addWidget(self.table, 1)
        self._say = words("", wrap=True)
        outer.addWidget(self._say)
        self.addWidget(page)
        self.maker = LayoutMaker(bench, theme)
        self.maker.left.connect(lambda: self.setCurrentIndex(0))
        self.maker.done.connect(self._made)
        self.addWidget(self.maker)
        self.side = self._side()
        for signal in (bench.results_changed, bench.radio_changed):
            signal.connect(self.refresh)
        self.reload()

    def _side(self) -> QWidget:
        side = QWidget()
        outer = column(side, 6)
        outer.addWidget(words("Layouts", "title"))
        self.list = WrapList()
        self.list.setAccessibleName("Layouts of files")
        self.list.setMaximumHeight(150)
        self.list.currentRowChanged.connect(lambda _at: self.refresh())
        outer.addWidget(self.list)
        line = row(gap=4)
        line.addWidget(button("From a sample …", self.ask_sample))
        line.addWidget(button("Bring in …", self.ask_bring))
        line.addWidget(button("Save as …", self.ask_export, tip="Save the layout as a file that others can bring in"))
        line.addStretch(1)
        outer.addLayout(line)
        outer.addWidget(words(_TEACH, "second", wrap=True))
        outer.addWidget(words("Written and read back", "title"))
        self.lost = WrapList()
        self.lost.setAccessibleName("What the layout cannot hold of this memory")
        outer.addWidget(self.lost, 1)
        self.write_button = button("Write the files …", self.ask_write, "main")
        outer.addWidget(self.write_button)
        return side

    def take_focus(self) -> None:
        """Give the keyboard to the layouts."""
        self.list.setFocus()

    @property
    def layout_chosen(self) -> Layout | None:
        """The chosen layout."""
        at = self.list.currentRow()
        return self.layouts[at] if 0 <= at < len(self.layouts) else None

    def reload(self, choose: str = "") -> None:
        """Read the layouts again, and choose one by name."""
        own, wrong = own_layouts(self._folder)
        for text in wrong:
            self._bench.say(text, "stop")
        self.layouts = [*shipped_layouts(), *own]
        self.list.blockSignals(True)
        self.list.clear()
        self.list.addItems(
            [f"{item.name}: {(item.summary or f'{len(item.sheet)} files').lower()}" for item in self.layouts]
        )
        self.list.blockSignals(False)
        at = next((place for place, item in enumerate(self.layouts) if item.name == choose), 0)
        self.list.setCurrentRow(at)
        self.refresh()

    @property
    def _folder(self) -> Path:
        return self._bench.profiles.folder / "columns"

    def refresh(self) -> None:
        """Write the memory and read it back, in the background; the latest wins."""
        fit, layout = self._bench.fit, self.layout_chosen
        self.write_button.setEnabled(fit is not None and layout is not None)
        if fit is None or layout is None:
            self.trip = None
            self._say.setText(
                "Add a radio at Radios first; then its memory is shown here as files." if fit is None else ""
            )
            self.table.show_rows((), ())
            return
        memory = fit.memory

        def work() -> RoundTrip | str:
            try:
                return round_trip(memory, layout)
            except ColumnsError as error:
                return str(error)

        self._bench.jobs.latest("files", work, self._take)

    def _take(self, trip: RoundTrip | str) -> None:
        self.lost.clear()
        if isinstance(trip, str):
            self.trip = None
            self._bench.say(trip, "stop")
            return
        self.trip = trip
        self.lost.addItems(list(trip.lost) or ["Nothing is lost: every value comes back as it was."])
        self._fill_tabs()

    def _fill_tabs(self) -> None:
        layout = self.layout_chosen
        if layout is None:
            return
        at = min(self.tabs.marked, len(layout.sheet) - 1) if self.tabs.buttons else 0
        self._tabs_line.removeWidget(self.tabs)
        self.tabs.hide()
        self.tabs.deleteLater()
        self.tabs = Tabs([sheet.file for sheet in layout.sheet], self.show_sheet)
        self._tabs_line.insertWidget(0, self.tabs)
        self.show_sheet(max(at, 0))

    def show_sheet(self, at: int) -> None:
        """Show one of the layout's files."""
        layout, fit = self.layout_chosen, self._bench.fit
        if layout is None or fit is None or at >= len(layout.sheet):
            return
        self.tabs.mark(at)
        sheet = layout.sheet[at]
        rows = sheet_rows(MemoryRows(fit.memory).rows(sheet.what), sheet, layout, Notes())
        self.table.show_rows([item.title for item in sheet.column], rows)
        empty = "It stays empty: this radio has none." if not rows else ""
        self._say.setText(f"{sheet.file}: {len(rows)} rows of {sheet.what}. {empty}".strip())

    def ask_write(self) -> None:
        """Ask for a folder and write the files there."""
        name = QFileDialog.getExistingDirectory(self, "Write the files into", str(Path.home()))
        if name:
            self.write(Path(name))

    def write(self, folder: Path) -> None:
        """Write the files into a folder; files that hold nothing are left out."""
        trip, layout, fit = self.trip, self.layout_chosen, self._bench.fit
        if trip is None or layout is None or fit is None:
            return
        rows = MemoryRows(fit.memory)
        names = [sheet.file for sheet in layout.sheet if rows.rows(sheet.what)]
        try:
            for name in names:
                write_atomic(folder / name, trip.written.files[name])
        except OSError as error:
            self._bench.say(f"The files cannot be written: {error.strerror or error}. Choose another folder.", "stop")
            return
        lost = f" {len(trip.lost)} things do not go along; they are listed." if trip.lost else ""
        self._bench.say(f"{', '.join(names)} written to “{folder.name}”.{lost}")

    def ask_sample(self) -> None:
        """Ask for sample files and begin a layout."""
        names, _kind = QFileDialog.getOpenFileNames(
            self, "Sample files", str(Path.home()), "CSV (*.csv *.txt);;All (*)"
        )
        if names:
            self.make_from([Path(name) for name in names])

    def make_from(self, paths: list[Path]) -> None:
        """Begin a layout from sample files."""
        if self.maker.open(paths):
            self.setCurrentIndex(1)
            self.maker.grid.setFocus()

    def _made(self, layout: Layout) -> None:
        self.setCurrentIndex(0)
        self.reload(layout.name)

    def ask_bring(self) -> None:
        """Ask for a layout's file and keep it among the own ones."""
        name, _kind = QFileDialog.getOpenFileName(self, "Bring a layout in", str(Path.home()), "Layouts (*.toml)")
        if name:
            self.bring_in(Path(name))

    def bring_in(self, path: Path) -> None:
        """Keep a layout's file among the own ones."""
        try:
            layout = read_layout(path)
            save_layout(layout, self._folder)
        except ColumnsError as error:
            self._bench.say(str(error), "stop")
            return
        self.reload(layout.name)

    def ask_export(self) -> None:
        """Ask for a place and save the layout there."""
        layout = self.layout_chosen
        if layout is not None:
            suggested = str(Path.home() / f"{layout.name.lower().replace(' ', '-')}.toml")
            name, _kind = QFileDialog.getSaveFileName(self, "Save the layout", suggested, "Layouts (*.toml)")
            if name:
                save_file(self._bench, Path(name), lambda: layout_text(layout).encode())
