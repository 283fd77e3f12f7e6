"""The entries of the log: searched while typing, ADIF in and out, taken out and back."""

import csv
import io
from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QLineEdit, QWidget

from umbra_awl.core.keep.cells import guarded
from umbra_awl.core.keep.limits import read_within
from umbra_awl.core.logbook.adif import adif_text
from umbra_awl.core.logbook.joining import Joined, join, read_file
from umbra_awl.core.logbook.log_file import LOG_BYTES
from umbra_awl.core.logbook.model import GRADE_WORDS, Entry
from umbra_awl.desk.log.book import LogBook
from umbra_awl.desk.parts.rows_table import MOST_ROWS, RowsTable
from umbra_awl.desk.parts.saving import ask_place, save_file
from umbra_awl.desk.parts.widgets import button, column, row, rows_of, words
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

_COLUMNS = ("UTC", "Call", "Proof", "Route", "Report", "BER", "Spot", "Note")
_EMPTY = "No entry yet. Log one on the proof map, or import an ADIF log: what you worked before counts as well."


class EntriesPage(QWidget):
    """The canvas page."""

    def __init__(self, bench: Workbench, theme: Theme, book: LogBook) -> None:
        super().__init__()
        self._bench, self.book = bench, book
        self.shown: list[Entry] = []
        outer = column(self, 6)
        line = row(gap=8)
        self.search = QLineEdit()
        self.search.setAccessibleName("Search the log")
        self.search.setPlaceholderText("Search: call, route, spot, note, day")
        self.search.textChanged.connect(lambda _text: self.refresh())
        line.addWidget(self.search, 1)
        outer.addLayout(line)
        self.told = words("", "second", wrap=True)
        outer.addWidget(self.told)
        self.table = RowsTable(theme, "Entries")
        self.table.chosen.connect(lambda _at: self._enable())
        outer.addWidget(self.table, 1)
        self.out = button("Take it out", self.take_out)
        self.save_adif = button("Save as ADIF", self.ask_adif)
        self.save_csv = button("Save as CSV", self.ask_csv)
        self.bring = button("Import ADIF", self.ask_import)
        outer.addLayout(rows_of(self.bring, self.save_adif, self.save_csv, self.out, gap=6))
        book.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the entries that hold every word that is typed, the latest first."""
        wanted = self.search.text().casefold().split()
        found = [item for item in self.book.entries if all(word in self._text(item) for word in wanted)]
        found.sort(key=lambda item: item.utc, reverse=True)
        self.shown = found
        rows = [self._row(item) for item in found[:MOST_ROWS]]
        tones = ["" if item.proves else "ink2" for item in found[:MOST_ROWS]]
        self.table.show_rows(_COLUMNS, rows, tones, mono=False)
        more = f" The first {MOST_ROWS:,} are shown." if len(found) > MOST_ROWS else ""
        count = f"{len(found):,} of {len(self.book.entries):,} entries.{more}" if self.book.entries else _EMPTY
        self.told.setText(f"{count} {self.book.trouble}".strip())
        self._enable()

    def _route_words(self, item: Entry) -> str:
        route = self._bench.index.routes.get(item.route)
        return self._bench.index.label(route) if route is not None else item.route

    def _text(self, item: Entry) -> str:
        words_ = (
            item.utc,
            item.call,
            item.name,
            item.place,
            item.report,
            item.spot,
            item.note,
            GRADE_WORDS[item.grade],
        )
        return " ".join((*words_, self._route_words(item))).casefold()

    def _row(self, item: Entry) -> tuple[str, ...]:
        simulated = "" if item.proves else " (simulated)"
        ber = f"{item.ber:g} %" if item.ber is not None else ""
        utc = item.utc.replace("T", " ").rstrip("Z")[:16]
        proof = GRADE_WORDS[item.grade] + simulated
        return (utc, item.call, proof, self._route_words(item), item.report, ber, item.spot, item.note)

    def _enable(self) -> None:
        self.out.setEnabled(0 <= self.table.row_now < len(self.shown))
        for made in (self.save_adif, self.save_csv):
            made.setEnabled(bool(self.shown))

    def take_out(self) -> None:
        """Take the chosen entry out."""
        at = self.table.row_now
        if 0 <= at < len(self.shown):
            item = self.shown[at]
            self.book.take_out([item.key], f"Take the entry of {item.utc[:10]} out of the log")

    # files

    def ask_import(self) -> None:
        """Ask for an ADIF file."""
        name, _kind = QFileDialog.getOpenFileName(
            self, "Import a log", str(Path.home()), "ADIF (*.adi *.adif);;All files (*)"
        )
        if name:
            self.bring_in(Path(name))

    def bring_in(self, path: Path) -> None:
        """Import an ADIF file: what is there already is left, what cannot be taken is told by its number."""
        held = self.book.entries
        self._bench.jobs.latest(
            "adif",
            lambda: join(held, read_file(read_within(path, LOG_BYTES), (item.key for item in held))),
            partial(self._brought, path.name, self.book.file.path),
            self._not_read,
        )

    def _not_read(self, error: Exception) -> None:
        self._bench.say(f"The file cannot be read: {error}. Choose an ADIF file.", "stop")

    def _brought(self, name: str, into: Path, found: Joined) -> None:
        if into != self.book.file.path:
            self._bench.say(
                "Another plan was opened meanwhile: nothing was imported. Import it again where it belongs.", "stop"
            )
            return
        if found.fresh:
            count = len(found.fresh)
            self.book.add(found.fresh, f"Import {count:,} entr{'y' if count == 1 else 'ies'} from {name}")
        self.told.setText(found.words)
        if not found.fresh:
            self._bench.say(found.words, "stop")

    def ask_adif(self) -> None:
        """Save what is shown as ADIF."""
        shown = tuple(reversed(self.shown))
        place = ask_place(self, "Save as ADIF", "log.adi", "ADIF (*.adi)", ".adi")
        if place is not None:
            save_file(self._bench, place, lambda: adif_text(shown).encode(), f"Saved {len(shown):,} entries.")

    def ask_csv(self) -> None:
        """Save what is shown as CSV."""
        rows = [self._row(item) for item in reversed(self.shown)]
        place = ask_place(self, "Save as CSV", "log.csv", "CSV (*.csv)", ".csv")
        if place is not None:
            save_file(self._bench, place, lambda: _csv(rows), f"Saved {len(rows):,} entries.")

    def take_focus(self) -> None:
        """Give the keyboard to the search."""
        self.search.setFocus()

    def reach(self, field: str) -> bool:
        """The search."""
        if field == "search":
            self.search.setFocus()
        return field == "search"


def _csv(rows: list[tuple[str, ...]]) -> bytes:
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(_COLUMNS)
    writer.writerows([guarded(cell) for cell in line] for line in rows)
    return out.getvalue().encode()
