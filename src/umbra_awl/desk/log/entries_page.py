"""The entries of the log: searched while typing, ADIF and CSV in and out, confirmed, taken out and back, people made of them."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QLineEdit, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.logbook.joining import CONFIRMED
from umbra_awl.core.logbook.model import GRADE_WORDS, Entry
from umbra_awl.desk.book.log_book import LogBook
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.log.entry_files import EntryFiles
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, row, rows_of, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.desk.known.directory import Directory


_COLUMNS = ("UTC", "Call", "Name", "Proof", "Route", "Report", "BER", "Spot", "Note")
_EMPTY = "No entry yet. Log one on the proof map, or import an ADIF log: what you worked before counts as well."


class EntriesPage(QWidget):
    """The canvas page."""

    def __init__(
        self, bench: Workbench, theme: Theme, book: LogBook, directory: "Callable[[], Directory] | None" = None
    ) -> None:
        super().__init__()
        self.files = EntryFiles(self)
        self.bench, self.book, self._directory = bench, book, directory
        self.shown: tuple[Entry, ...] = ()
        outer = column(self, 6)
        line = row(gap=8)
        self.search = QLineEdit()
        self.search.setAccessibleName("Search the log")
        self.search.setPlaceholderText("Search: call, name, route, spot, note, day")
        self.search.textChanged.connect(lambda _text: self.refresh())
        line.addWidget(self.search, 1)
        outer.addLayout(line)
        self.told = words("", "second", wrap=True)
        outer.addWidget(self.told)
        self.table = RowsTable(theme, "Entries")
        self.table.chosen.connect(lambda _at: self._enable())
        outer.addWidget(self.table, 1)
        self.out = button("Take it out", self.take_out)
        self.confirm = button("Confirmed by them", self.toggle_confirmed)
        self.save_adif = button("Save as ADIF", self.files.ask_adif)
        self.save_csv = button("Save as CSV", self.files.ask_csv)
        self.bring = button("Import ADIF or CSV", self.files.ask_import)
        self.people = button("Calls into the people list", self.take_people)
        wrong = button("Corrections to send", self.ask_corrections)
        files = (self.bring, self.save_adif, self.save_csv, self.people, wrong, self.confirm, self.out)
        outer.addLayout(rows_of(*files, gap=6))
        book.indexed.connect(self.refresh)
        book.changed.connect(self._enable)
        self.refresh()

    def refresh(self) -> None:
        """Show the entries that have every word that is typed, the latest first."""
        index = self.book.index
        hits = index.search(self.search.text()) if index is not None else None
        self.shown = hits.entries if hits is not None else ()
        rows = [self._row(item) for item in self.shown]
        tones = ["" if item.proves else "ink2" for item in self.shown]
        self.table.show_rows(_COLUMNS, rows, tones, mono=False)
        self.told.setText(f"{self._count(more=hits is not None and hits.more)} {self.book.trouble}".strip())
        self._enable()

    def _count(self, *, more: bool) -> str:
        whole = len(self.book.entries)
        if not whole:
            return _EMPTY
        if more:
            return f"The latest {len(self.shown):,} that fit, of {counted(whole, 'entry')}. Type more to narrow it."
        return f"{len(self.shown):,} of {counted(whole, 'entry')}."

    def _route_words(self, item: Entry) -> str:
        route = self.bench.index.routes.get(item.route)
        return self.bench.index.labels.of(route) if route is not None else item.route

    def _row(self, item: Entry) -> tuple[str, ...]:
        simulated = "" if item.proves else " (simulated)"
        confirmed = ", confirmed" if item.confirmed.upper() in CONFIRMED else ""
        ber = f"{item.ber:g} %" if item.ber is not None else ""
        utc = item.utc.replace("T", " ").rstrip("Z")[:16]
        proof = GRADE_WORDS[item.grade] + simulated + confirmed
        spot = ", ".join(filter(None, (item.spot, item.here)))
        return (utc, item.call, item.name, proof, self._route_words(item), item.report, ber, spot, item.note)

    @property
    def in_hand(self) -> Entry | None:
        """The chosen entry."""
        at = self.table.row_now
        return self.shown[at] if 0 <= at < len(self.shown) else None

    def _enable(self) -> None:
        self.out.setEnabled(self.in_hand is not None)
        self.confirm.setEnabled(self.in_hand is not None)
        for made in (self.save_adif, self.save_csv):
            made.setEnabled(bool(self.book.entries))
        self.people.setEnabled(bool(self.book.entries) and self.bench.radio is not None)

    # one entry

    def take_out(self) -> None:
        """Take the chosen entry out."""
        item = self.in_hand
        if item is not None:
            self.book.take_out([item.key], f"Take the entry of {item.utc[:10]} out of the log")

    def toggle_confirmed(self) -> None:
        """The other side confirmed the chosen entry, or did not after all."""
        item = self.in_hand
        if item is not None:
            known = item.confirmed.upper() in CONFIRMED
            word = "not confirmed after all" if known else "confirmed"
            self.book.change(
                item, f"{item.call or 'The entry'} of {item.utc[:10]}: {word}", confirmed="" if known else "Y"
            )

    # many

    def take_people(self) -> None:
        """Have whom one talked to go along in the chosen radio's people list."""
        from umbra_awl.core.fit.choices import set_people

        radio = self.bench.radio
        calls = tuple(
            dict.fromkeys(item.call.upper() for item in reversed(self.book.entries) if item.call and item.proves)
        )
        if radio is None or not calls:
            self.bench.say("No entry with a call sign is in the log yet.", "stop")
            return
        edit = set_people(radio, f"Whom you talked to goes along in {radio.name}", from_log=True, log_calls=calls)
        self.bench.do_told(edit, f"{len(calls):,} call signs of the log.")

    def ask_corrections(self) -> None:
        """Save the listings that were found wrong, to be sent to whoever keeps the list."""
        from umbra_awl.desk.log.wrong_sheet import save_corrections

        if self._directory is not None:
            save_corrections(self.bench, self._directory(), self)

    # files

    def chosen(self) -> tuple[Entry, ...]:
        """All entries that fit what is typed, the earliest first."""
        index = self.book.index
        if index is None:
            return self.book.entries
        return tuple(reversed(index.search(self.search.text(), max(len(self.book.entries), 1)).entries))

    def take_focus(self) -> None:
        """Give the keyboard to the search."""
        self.search.setFocus()

    def reach(self, field: str) -> bool:
        """The search."""
        if field == "search":
            self.search.setFocus()
        return field == "search"
