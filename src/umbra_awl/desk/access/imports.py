"""The imports page: open a file, fetch one from a service, the list of imports with undo; then columns, then review."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import Any, NamedTuple

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QApplication, QFileDialog, QLineEdit, QProgressBar, QStackedWidget, QWidget

from umbra_awl.core.directory.importing import IncomingEntries, read_incoming, take, undo_import
from umbra_awl.core.directory.judged import Judging, chosen_entries, judging, on_network
from umbra_awl.core.directory.lists.layout import WHAT_WORDS, TableLayout, What
from umbra_awl.core.directory.pasted import pasted_table
from umbra_awl.core.directory.people import import_people, undo_people
from umbra_awl.core.directory.sanity import KnownGround
from umbra_awl.core.directory.store import Batch, Store, StoredEntry
from umbra_awl.core.directory.targets import import_targets, undo_targets
from umbra_awl.core.drivers.reading import kinds_with
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.core.tables.rows import Table
from umbra_awl.desk.access.mapping import Mapping
from umbra_awl.desk.access.review import ListDecision, Review, ReviewRows, table_of
from umbra_awl.desk.access.service_lists import ServiceLists
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory, now_text
from umbra_awl.desk.parts.widgets import button, card, column, row, words
from umbra_awl.desk.theme.theme import Theme

_FILTER = "Directories (*.csv *.txt *.tsv *.xlsx *.geojson *.json *.gpx);;All files (*)"
_LEAD = (
    "CSV of any shape, XLSX, GeoJSON or GPX. Columns are guessed and shown beside sample rows; nothing is taken before you have "
    "seen what it would do. Drop a file here, choose one, or paste a list from a page or a message (Ctrl V)."
)


class Imports(QStackedWidget):
    """Three faces: start, columns, review."""

    imported = pyqtSignal()

    def __init__(
        self, bench: Workbench, directory: Directory, theme: Theme, into_plan: Callable[[Sequence[StoredEntry]], object]
    ) -> None:
        """`into_plan` takes entries of the directory into the plan."""
        super().__init__()
        self.services = ServiceLists(self)
        self.bench, self.directory, self._into_plan = bench, directory, into_plan
        self.setAcceptDrops(True)
        self.mapping = Mapping(bench, directory)
        self.review = Review(bench, theme)
        self.addWidget(self._start())
        self.addWidget(self.mapping)
        self.addWidget(self.review)
        self.mapping.ready.connect(self._read)
        self.mapping.left.connect(lambda: self.setCurrentIndex(0))
        self.mapping.opened.connect(self._show_mapping)
        self.review.left.connect(self._back)
        self.review.taken.connect(self._take)
        directory.changed.connect(self.refresh)
        directory.work_changed.connect(self._show_work)
        self.refresh()

    def _start(self) -> QWidget:
        page = QWidget()
        outer = column(page, 8)
        head = row(gap=6)
        head.addWidget(words("Bring a directory in", "title"))
        head.addStretch(1)
        head.addWidget(button("Paste a list", self.paste, tip="From a page, a message or a spreadsheet (Ctrl V)"))
        self._choose = button("Choose a file", self.ask, "main", "Ctrl Shift I")
        head.addWidget(self._choose)
        outer.addLayout(head)
        outer.addWidget(words(_LEAD, "second", wrap=True))
        outer.addWidget(self._services())
        self._work_line = QWidget()
        line = row(self._work_line, 8)
        self._work_words = words("", "violet")
        self._bar = QProgressBar()
        self._bar.setTextVisible(False)
        self._bar.setRange(0, 1000)
        line.addWidget(self._work_words)
        line.addWidget(self._bar, 1)
        line.addWidget(button("Stop", self.directory.tasks.stop))
        self._work_line.hide()
        outer.addWidget(self._work_line)
        outer.addWidget(words("Imports", "title"))
        self.batches = ReviewRows(("When", "From", "What", "Result"), _batch_texts)
        self.batches_view = table_of(self.batches, (130, 190, 130), "Imports, the newest first")
        outer.addWidget(self.batches_view, 1)
        line = row(gap=4)
        self._counts = words("", "second")
        line.addWidget(self._counts)
        line.addStretch(1)
        line.addWidget(button("Undo the selected import", self.undo_selected))
        outer.addLayout(line)
        return page

    def _services(self) -> QWidget:
        made = card()
        outer = column(made, 6, 8)
        line = row(gap=6)
        line.addWidget(words("From a service", "second"))
        self.address = QLineEdit()
        self.address.setPlaceholderText("Address of a directory service, for example directory.velmar.test")
        self.address.setAccessibleName("Address of a directory service")
        self.address.setText(self.directory.settings.kept.service)
        self.address.returnPressed.connect(self.services.ask_service)
        line.addWidget(self.address, 1)
        line.addWidget(button("Ask what it offers", self.services.ask_service))
        outer.addLayout(line)
        self.offers = column(gap=2)
        outer.addLayout(self.offers)
        return made

    def refresh(self) -> None:
        """Show the list of imports."""
        store = self.directory.store
        self.batches.show_items(store.batches())
        counts = store.counts()
        self._counts.setText(", ".join(f"{counts[what]:,} {text}" for what, text in WHAT_WORDS.items()))

    def _show_work(self) -> None:
        self._work_line.setVisible(bool(self.directory.tasks.work))
        self._work_words.setText(self.directory.tasks.work)
        self._bar.setValue(round(1000 * self.directory.tasks.done_share))
        self._choose.setEnabled(not self.directory.tasks.work)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        mime = event.mimeData() if event is not None else None
        if event is not None and mime is not None and mime.hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        mime = event.mimeData() if event is not None else None
        if mime is not None and mime.urls():
            self.open(Path(mime.urls()[0].toLocalFile()))

    def ask(self) -> None:
        """Ask for a file."""
        name, _ = QFileDialog.getOpenFileName(self, "A directory file", "", kinds_with(_FILTER))
        if name:
            self.open(Path(name))

    def paste(self) -> None:
        """Take a list from the clipboard; what was pasted is kept beside the directory, as every list that came in."""
        clipboard = QApplication.clipboard()
        text = clipboard.text() if clipboard is not None else ""
        path = self.directory.folder / "pasted" / f"pasted {self.bench.clock.local():%Y-%m-%d %H-%M-%S}.csv"
        try:
            table = pasted_table(text)
            path.parent.mkdir(parents=True, exist_ok=True)
            write_over(path, table.encode())
        except (SourceError, OSError) as error:
            self.bench.say(plain_reason(error), "stop")
            return
        self.open(path)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Ctrl V takes a list from the clipboard."""
        if event is not None and event.matches(QKeySequence.StandardKey.Paste) and self.currentIndex() == 0:
            self.paste()
        else:
            super().keyPressEvent(event)

    def open(self, path: Path, what: What | None = None) -> None:
        """Show the columns of a file."""
        self.mapping.open(path, what)

    def _show_mapping(self) -> None:
        self.setCurrentWidget(self.mapping)
        self.mapping.boxes[0].setFocus()

    def _read(self, table: Table, layout: TableLayout) -> None:
        self.setCurrentIndex(0)
        directory = self.directory
        if layout.what == "access":
            plan = self.bench.plan
            ground = directory.ground()
            work = partial(_compare, table=table, layout=layout, directory=directory, plan=plan, ground=ground)
            directory.tasks.run(f"Reading {table.name} …", work, self._show_incoming)
        else:
            importer = import_people if layout.what == "people" else import_targets

            def take_in(store: Store) -> Any:
                return importer(
                    store,
                    table,
                    layout,
                    now_text(self.bench.clock),
                    lambda rows: directory.tasks.progress(_share(rows), counted(rows, "row")),
                    directory.tasks.stopped,
                )

            directory.tasks.run(f"Taking {table.name} in …", take_in, lambda done: self._show_taken(table.name, done))

    def _show_incoming(self, found: "_Compared") -> None:
        self.review.show_incoming(*found)
        self.setCurrentWidget(self.review)
        self.review.lines_view.setFocus()

    def _show_taken(self, name: str, done: Any) -> None:
        self.review.show_done(
            f"{name}: {done.added:,} new, {done.changed:,} changed, {done.vanished:,} gone", done.report, done.rows
        )
        self.setCurrentWidget(self.review)
        self.directory.refresh()
        self.imported.emit()

    def _take(self, taken: ListDecision) -> None:
        self.setCurrentIndex(0)
        file, now = taken.incoming.file, now_text(self.bench.clock)
        self.directory.tasks.run(
            f"Taking {file} in …", partial(_taken_in, taken=taken, now=now), partial(self._taken, taken.incoming)
        )

    def _taken(self, incoming: IncomingEntries, entries: list[StoredEntry]) -> None:
        counts = incoming.counts()
        self.bench.say(f"{incoming.file} is in the directory: {counts['added']:,} new, {counts['changed']:,} changed.")
        self.directory.refresh()
        self.imported.emit()
        if entries:
            self._into_plan(entries)

    def _back(self) -> None:
        self.setCurrentWidget(self.mapping if self.review.incoming is not None else self.widget(0))

    def undo_selected(self) -> None:
        """Undo the selected import, or the newest."""
        rows = sorted({index.row() for index in self.batches_view.selectedIndexes()})
        standing = [item for item in self.batches.items if not item.undone]
        if not standing:
            self.bench.say("There is no import to undo.")
            return
        batch: Batch = self.batches.items[rows[0]] if rows else standing[0]
        undo = {"people": undo_people, "destinations": undo_targets}.get(batch.what, undo_import)
        words_ = f"Undoing the import of {batch.file} …"
        self.directory.tasks.run(words_, lambda store: undo(store, batch.id), lambda _none: self._undone(batch))

    def _undone(self, batch: Batch) -> None:
        self.bench.say(f"Undone: the import of {batch.file}.")
        self.directory.refresh()


def _share(rows: int) -> float:
    """A share that grows with rows when their number is not known beforehand."""
    return rows / (rows + 60_000)


class _Compared(NamedTuple):
    """A list as it is looked at, and the lines that are ticked at first."""

    judging: Judging
    ticked: frozenset[tuple[str, int]]


def _compare(
    store: Store, table: Table, layout: TableLayout, directory: Directory, plan: Plan, ground: KnownGround
) -> _Compared:
    def progress(rows: int) -> None:
        directory.tasks.progress(_share(rows), f"Reading {table.name}: {counted(rows, 'row')}")

    incoming = read_incoming(store, table, layout, progress, directory.tasks.stopped)
    found = judging(store, incoming, plan, ground._replace(land=directory.coast()[1]))
    return _Compared(found, found.ticked_at_first())


def _taken_in(store: Store, taken: ListDecision, now: str) -> list[StoredEntry]:
    """Take a list into the store, keep the repairs as own edits; gives what is to go into the plan."""
    take(store, taken.incoming, now, taken.give_up, taken.mends)
    keys = dict.fromkeys(key for key, _at in sorted(taken.ticked))
    entries = [entry for key in keys if (entry := store.entry(key)) is not None]
    return [on_network(entry, taken.networks) for entry in chosen_entries(entries, taken.ticked)]


def _batch_texts(batch: Batch) -> tuple[str, str, str, str]:
    counts = f"{counted(batch.taken, 'row')}, {batch.mended:,} mended, {batch.refused:,} refused; "
    result = f"{batch.added:,} new, {batch.changed:,} changed, {batch.vanished:,} gone"
    what = {"access": "access points", "people": "people"}.get(batch.what, "destinations")
    return batch.at.replace("T", " ")[:16], batch.file, what, "undone" if batch.undone else counts + result
