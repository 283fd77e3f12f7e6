"""Files for other programs: the chosen radio's memory through a layout, what that layout cannot hold, own layouts."""

import os
from collections.abc import Callable, Mapping
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from PyQt6.QtWidgets import QFileDialog, QStackedWidget, QWidget

from umbra_awl.core.columns.csv_out import Notes, People, sendable, sheet_rows, write_files
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.fields import MemoryRows
from umbra_awl.core.columns.foreign import ForeignAsk, asked_of, with_foreign
from umbra_awl.core.columns.layout import (
    ColumnLayout,
    going_blank,
    layout_text,
    own_layouts,
    read_layout,
    save_layout,
    shipped_layouts,
)
from umbra_awl.core.columns.round_trip import RoundTrip, round_trip
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.wording import within
from umbra_awl.core.fit.people import choose_people
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.keep.naming import readable_name
from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.desk.held.reckoning import Basis
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.asking import ask
from umbra_awl.desk.parts.cards.kept_names import keep_names
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.rows_table import MOST_ROWS, RowsTable
from umbra_awl.desk.parts.saving import REPLACE, FilePlace, ask_place, put, save_file
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, column, row, rows_of, words
from umbra_awl.desk.parts.wrap import WrapList
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.files.layout_maker import LayoutMaker
from umbra_awl.desk.transfer.files.layout_making import LayoutMaking

if TYPE_CHECKING:
    from umbra_awl.desk.known.directory import Directory

_TEACH = (
    "A layout says which of our fields stands in which column of somebody's files, and how it is written there. "
    "Make one from a sample."
)


class Tried(NamedTuple):
    """A memory through a layout: written and read back, the first rows of each file, how many rows each has."""

    trip: RoundTrip
    rows: dict[str, list[list[str]]]
    counts: dict[str, int]


def _tried(memory: Memory, layout: ColumnLayout) -> Tried:
    plain = MemoryRows(sendable(memory, layout, Notes()))
    rows: dict[str, list[list[str]]] = {}
    counts: dict[str, int] = {}
    for sheet in layout.sheet:
        found = plain.rows(sheet.what)
        counts[sheet.file] = len(found)
        rows[sheet.file] = sheet_rows(found[:MOST_ROWS], sheet, layout, Notes())
    return Tried(round_trip(memory, layout), rows, counts)


def _is_people(layout: ColumnLayout, file: str) -> bool:
    return any(sheet.file == file and sheet.what == "people" for sheet in layout.sheet)


_LOW = 40
_NOTHING = "leave it blank"


class FilesPage(QStackedWidget):
    """The canvas page: the files, or a layout in the making. `side` holds the layouts."""

    def __init__(self, bench: Workbench, theme: Theme, directory: "Callable[[], Directory]") -> None:
        super().__init__()
        self.making = LayoutMaking(self)
        self.bench, self._theme, self._directory = bench, theme, directory
        self.layouts: list[ColumnLayout] = []
        self.tried: Tried | None = None
        self._basis: Basis | None = None
        page = QWidget()
        outer = column(page, 6)
        line = row(gap=6)
        line.addWidget(RadioTabs(bench), 1)
        outer.addLayout(line)
        self._tabs_line = row(gap=6)
        self.tabs = Tabs((), self.show_sheet)
        self._tabs_line.addWidget(self.tabs, 1)
        outer.addLayout(self._tabs_line)
        self.table = RowsTable(
            theme, "The file as it would be written", "Choose a layout, and the file stands here before it is written."
        )
        outer.addWidget(self.table, 1)
        self._say = words("", wrap=True)
        outer.addWidget(self._say)
        self.addWidget(page)
        self.side = self._side()
        self.reload()
        self._fresh = WhenChanged(self, lambda: (bench.worked.results, bench.radio), self.refresh)
        for signal in (bench.results_changed, bench.radio_changed):
            signal.connect(self._fresh.check)

    @cached_property
    def maker(self) -> LayoutMaker:
        """Where a layout is made, itself made when first needed."""
        made = LayoutMaker(self.bench, self._theme)
        made.left.connect(lambda: self.setCurrentIndex(0))
        made.done.connect(self.making.made)
        self.addWidget(made)
        return made

    def _side(self) -> QWidget:
        side = QWidget()
        outer = column(side, 6)
        outer.addWidget(words("Layouts", "title"))
        self.list = WrapList()
        self.list.setAccessibleName("Layouts of files")
        self.list.setMaximumHeight(150)
        self.list.setMinimumHeight(_LOW)
        self.list.currentRowChanged.connect(lambda _at: self.refresh())
        outer.addWidget(self.list)
        outer.addLayout(
            rows_of(
                button("From a sample …", self.making.ask_sample),
                button("Bring in …", self.ask_bring),
                button("Save as …", self.ask_export, tip="Save the layout as a file that others can bring in"),
            )
        )
        outer.addWidget(words(_TEACH, "second", wrap=True))
        outer.addWidget(words("Written and read back", "title"))
        self.lost = WrapList()
        self.lost.setAccessibleName("What the layout cannot hold of this memory")
        self.lost.setMinimumHeight(_LOW)
        outer.addWidget(self.lost, 1)
        self.write_button = button("Write the files …", self.ask_write, "main")
        outer.addWidget(self.write_button)
        return side

    def take_focus(self) -> None:
        """Give the keyboard to the layouts."""
        self.list.setFocus()

    @property
    def layout_chosen(self) -> ColumnLayout | None:
        """The chosen layout."""
        at = self.list.currentRow()
        return self.layouts[at] if 0 <= at < len(self.layouts) else None

    def reload(self, choose: str = "") -> None:
        """Read the layouts again, and choose one by name."""
        own, wrong = own_layouts(self._folder)
        for text in wrong:
            self.bench.say(text, "stop")
        self.layouts = [*shipped_layouts(), *own]
        self.list.blockSignals(True)
        self.list.clear()
        self.list.addItems(
            [f"{item.name}: {within(item.summary or counted(len(item.sheet), 'file'))}" for item in self.layouts]
        )
        self.list.blockSignals(False)
        at = next((place for place, item in enumerate(self.layouts) if item.name == choose), 0)
        self.list.setCurrentRow(at)
        self.refresh()

    @property
    def _folder(self) -> Path:
        return self.bench.profiles.folder / "columns"

    def refresh(self) -> None:
        """Write the memory and read it back, in the background; the latest wins."""
        fit, layout = self.bench.fit, self.layout_chosen
        self.write_button.setEnabled(fit is not None and layout is not None)
        if fit is None or layout is None:
            self.tried = None
            waiting = self.bench.worked.waiting_words(self.bench.radio_key) if self.bench.radio is not None else ""
            teach = waiting or "Add a radio at Radios first; then its memory is shown here as files."
            self._say.setText(teach if fit is None else "")
            self.table.show_rows((), ())
            return
        memory, basis = fit.memory, self.bench.worked.basis

        def work() -> Tried | str:
            try:
                return _tried(memory, layout)
            except ColumnsError as error:
                return str(error)

        self.bench.jobs.latest("files", work, lambda tried: self._take(tried, basis))

    def _take(self, tried: "Tried | str", basis: Basis) -> None:
        self._basis = basis
        self.lost.clear()
        if isinstance(tried, str):
            self.tried = None
            self.bench.say(tried, "stop")
            return
        self.tried = tried
        self.lost.addItems(list(tried.trip.lost) or ["Nothing is lost: every value comes back as it was."])
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
        self._tabs_line.insertWidget(0, self.tabs, 1)
        self.show_sheet(max(at, 0))

    def show_sheet(self, at: int) -> None:
        """Show one of the layout's files."""
        layout, tried = self.layout_chosen, self.tried
        if layout is None or tried is None or at >= len(layout.sheet):
            return
        self.tabs.mark(at)
        sheet = layout.sheet[at]
        rows, count = tried.rows[sheet.file], tried.counts[sheet.file]
        self.table.show_rows([item.title for item in sheet.column], rows)
        empty = "" if count else "It stays empty: this radio has none."
        if sheet.what == "people":
            empty = "The people chosen at Radios go along when the files are written."
        self._say.setText(f"{sheet.file}: {counted(count, 'row')} of {sheet.what}. {empty}".strip())

    def ask_write(self) -> None:
        """Ask for a folder and write the files there; what is there already is asked about."""
        name, layout = (
            QFileDialog.getExistingDirectory(self, "Write the files into", str(Path.home())),
            self.layout_chosen,
        )
        if not name or layout is None:
            return
        there = [sheet.file for sheet in layout.sheet if os.path.lexists(Path(name) / sheet.file)]
        question = f"In “{Path(name).name}” there is already {', '.join(there)}. Write our columns into it anew?"
        question += " What stands in other columns stays with its channel."
        if not there:
            self.write(Path(name))
        elif ask(self, "Write the files", question, [REPLACE]) == REPLACE:
            self.rewrite(Path(name))

    def rewrite(self, folder: Path) -> None:
        """Write files that are there anew: what other columns get for new channels is asked first, once for each."""
        layout, fit = self.layout_chosen, self.bench.fit
        if layout is None or fit is None:
            return
        memory = fit.memory

        def work() -> tuple[ForeignAsk, ...] | str:
            try:
                return asked_of(folder, layout, write_files(memory, layout).files)
            except (ColumnsError, OSError) as error:
                return f"The files were not written. {plain_reason(error)}"

        def done(found: tuple[ForeignAsk, ...] | str) -> None:
            if isinstance(found, str):
                self.bench.say(found, "stop")
                return
            answers = self._answers(found)
            if answers is not None:
                self.write(folder, replace=True, answers=answers)

        self.bench.jobs.latest("files-kept", work, done)

    def _answers(self, asks: tuple[ForeignAsk, ...]) -> dict[str, str] | None:
        """What new channels get in columns of others; None where it was given up."""
        given: dict[str, str] = {}
        for item in asks:
            offered = {value or _NOTHING: value for value in (*item.values[:4], "")}
            question = (
                f"“{item.title}” in {item.file} is none of our columns, and what stands in it varies. What do the "
                f"{item.rows} new ones get? The others keep theirs."
            )
            told = ask(self, "Columns of others", question, list(offered))
            if told not in offered:
                return None
            given[item.title] = offered[told]
        return given

    def write(self, folder: Path, *, replace: bool = False, answers: Mapping[str, str] | None = None) -> None:
        """Write the files into a folder, in the background; files that hold nothing are left out."""
        tried, layout, fit, radio = self.tried, self.layout_chosen, self.bench.fit, self.bench.radio
        if not self.bench.worked.may_use(self._basis):
            return
        if tried is None or layout is None or fit is None or radio is None:
            return
        memory, index, profile = fit.memory, self.bench.index, self.bench.profiles.get(radio.profile)
        wants_people = radio.people is not None and any(sheet.what == "people" for sheet in layout.sheet)

        def work() -> str:
            people: People = ()
            try:
                if wants_people and profile is not None:
                    people = tuple(choose_people(self._directory().store, index, radio, profile).rows)
                written = write_files(memory, layout, people)
                wanted = [
                    name for name, count in tried.counts.items() if count or (people and _is_people(layout, name))
                ]
                kept = with_foreign(folder, layout, written.files, answers or {}) if replace else written.files
                for name in wanted:
                    put(FilePlace(folder / name, replace), kept[name])
            except FileExistsError as error:
                return f"!“{Path(error.filename or '').name}” is there already. Choose another folder; it was not replaced."
            except OSError as error:
                return f"!The files cannot be written: {error.strerror or error}. Choose another folder."
            except (ColumnsError, SourceError) as error:
                return f"!{error}"
            lost = (
                f" {counted(len(tried.trip.lost), 'thing does', 'things do')} not go along; see the list."
                if tried.trip.lost
                else ""
            )
            blank = () if replace else going_blank(layout)
            empty = f" Blank in them, since no field is chosen: {', '.join(blank[:8])}." if blank else ""
            return f"{', '.join(wanted)} written to “{folder.name}”.{lost}{empty}"

        keep_names(self.bench, radio.key)
        self.bench.jobs.keep("files", work, self._say_written, lambda error: self._say_written(f"!{error}"))

    def _say_written(self, text: str) -> None:
        self.bench.say(text.removeprefix("!"), "stop" if text.startswith("!") else "say")

    def ask_bring(self) -> None:
        """Ask for a layout's file and keep it among the own ones."""
        name, _kind = QFileDialog.getOpenFileName(self, "Bring a layout in", str(Path.home()), "Layouts (*.toml)")
        if name:
            self.bring_in(Path(name))

    def bring_in(self, path: Path) -> None:
        """Keep a layout's file among the own ones."""
        self.bench.jobs.read(
            "columns-layout",
            read_layout,
            path,
            done=self._brought,
            failed=lambda error: self.bench.say(plain_reason(error), "stop"),
        )

    def _brought(self, layout: ColumnLayout) -> None:
        try:
            save_layout(layout, self._folder)
        except ColumnsError as error:
            self.bench.say(str(error), "stop")
            return
        self.reload(layout.name)

    def ask_export(self) -> None:
        """Ask for a place and save the layout there."""
        layout = self.layout_chosen
        if layout is not None:
            suggested = Path.home() / f"{readable_name(layout.name, 'layout')}.toml"
            place = ask_place(self, "Save the layout", suggested, "Layouts (*.toml)", ".toml")
            if place is not None:
                save_file(self.bench, place, lambda: layout_text(layout).encode())
