"""Where a radio's memory is brought in from: what was read of it, a backup, a memory file, files through a layout."""

from functools import partial
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QMenu

from umbra_awl.core.columns.as_found import as_found, passed_over
from umbra_awl.core.columns.csv_guess import guess_layout
from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.layout import ColumnLayout, own_layouts, shipped_layouts
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.columns.sample import Sample, take_sample
from umbra_awl.core.columns.sources import files_of
from umbra_awl.core.columns.told import told_once
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.radio.memory import Memory, read_memory_file
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.errors import TransferError
from umbra_awl.core.transfer.protocols import codec_of
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import PressButton, act
from umbra_awl.desk.runs.runner import Runner


class Files(NamedTuple):
    """Files of columns: where they are, their first rows, what each column is taken for, and how that was found."""

    paths: tuple[Path, ...]
    samples: tuple[Sample, ...]
    layout: ColumnLayout
    how: str


class Source(NamedTuple):
    """A memory, its radio's profile where known, where it comes from in words, and what could not be read there.

    `files` are what it was read from, where it was columns.
    """

    memory: Memory
    profile: Profile | None
    where: str
    faults: tuple[str, ...] = ()
    files: Files | None = None


class Sources(QObject):
    """The button with its menu; `found` carries a Source."""

    found = pyqtSignal(object)

    def __init__(self, bench: Workbench, runner: Runner) -> None:
        super().__init__()
        self._bench, self._runner = bench, runner
        self.button = PressButton("Take it from …")
        self._menu = QMenu(self.button)
        self._menu.aboutToShow.connect(self._fill_menu)
        self.button.setMenu(self._menu)

    def _fill_menu(self) -> None:
        self._menu.clear()
        held, radio = self._runner.held, self._bench.radio
        if held is not None and radio is not None:
            act(self._menu, f"What was read of the {radio.name}", self.take_held)
        shelf = self._runner.shelf()
        for backup in (shelf.backups() if shelf is not None else [])[:8]:
            act(self._menu, f"The backup of {backup.when}", partial(self.take_backup, backup.path))
        act(self._menu, "Files …", self.ask_files)
        act(self._menu, "A memory file …", self.ask_memory)
        if held is None and radio is not None:
            teach = "Read it first, by its cable or its card (F5), then come back here."
            act(self._menu, f"Read the {radio.name} first", lambda: self._bench.say(teach))

    def take_held(self) -> None:
        """Take what was read of the chosen radio."""
        held = self._runner.held
        if held is not None:
            self.found.emit(Source(held.memory, self._runner.profile, "what was read"))

    def take_backup(self, path: Path) -> None:
        """Take a backup of the chosen radio."""
        profile, shelf = self._runner.profile, self._runner.shelf()
        if profile is None or shelf is None:
            return
        backup = next((item for item in shelf.backups() if item.path == path), None)
        try:
            if backup is not None:
                memory = codec_of(profile).decode(shelf.load(backup).image)
                self.found.emit(Source(memory, profile, f"the backup of {backup.when}"))
        except (TransferError, OSError, ValueError) as error:
            self._bench.say(str(error), "stop")

    def ask_files(self) -> None:
        """Ask for files and take them through the layout that suits, or one guessed."""
        names, _kind = QFileDialog.getOpenFileNames(
            self.button, "Files of a radio", str(Path.home()), "CSV (*.csv *.txt);;All (*)"
        )
        if names:
            self.take_files([Path(name) for name in names])

    def take_files(self, paths: list[Path], layout: ColumnLayout | None = None) -> None:
        """Take files in the background; a layout whose file names and columns suit is used, else the columns are guessed."""
        own = self._bench.profiles.folder / "columns"

        def failed(error: Exception) -> None:
            self._tell(f"The files cannot be read: {plain_reason(error)}.".replace("..", "."))

        self._bench.jobs.read("files-taken", _of_files, paths, layout, own, done=self._tell, failed=failed)

    def _tell(self, source: Source | str) -> None:
        if isinstance(source, str):
            self._bench.say(source, "stop")
        else:
            self.found.emit(source)

    def ask_memory(self) -> None:
        """Ask for a memory file and take it."""
        name, _kind = QFileDialog.getOpenFileName(self.button, "A memory file", str(Path.home()), "Memories (*.json)")
        if name:
            self.take_memory(Path(name))

    def take_memory(self, path: Path) -> None:
        """Take a memory file."""
        self._bench.jobs.read(
            "memory-file",
            read_memory_file,
            path,
            done=lambda memory: self.found.emit(
                Source(memory, self._bench.profiles.get(memory.profile), f"“{path.name}”")
            ),
            failed=lambda error: self._bench.say(f"“{path.name}” cannot be used: {plain_reason(error)}", "stop"),
        )


def _of_files(paths: list[Path], layout: ColumnLayout | None, own: Path) -> Source:
    """The memory in some files with what could not be read. Raises OSError and ColumnsError."""
    files = files_of(paths)
    samples = tuple(take_sample(name, data) for name, data in files.items())
    kept = _suiting(files, own) if layout is None else None
    chosen = as_found(layout or kept or guess_layout(list(samples), "guessed columns"), samples)
    sheets = read_files(files, chosen)
    maker = MemoryMaker(sheets)
    memory = maker.make()
    extra = told_once((*sheets.faults, *maker.faults))[:100]
    extra += [f"Not used: the column {text}" for text in passed_over(chosen, samples)[:40]]
    how = f"By the kept layout “{kept.name}”." if kept is not None else "Guessed; correct what is wrong."
    taken = Files(tuple(paths), samples, chosen, "Corrected by hand." if layout is not None else how)
    where = f"{', '.join(files)} by {f'the layout “{kept.name}”' if kept is not None else 'its columns'}"
    return Source(memory, None, where, tuple(extra), taken)


def _suiting(files: dict[str, bytes], own: Path) -> ColumnLayout | None:
    """The own or shipped layout that these files suit, if there is one."""
    for layout in (*own_layouts(own)[0], *shipped_layouts()):
        if files.keys() <= {sheet.file for sheet in layout.sheet}:
            try:
                read_files(files, layout)
            except ColumnsError:
                continue
            return layout
    return None
