"""Entries of the log from files and into files."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFileDialog

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.logbook.adif import Imported, adif_text
from umbra_awl.core.logbook.csv_log import csv_text
from umbra_awl.core.logbook.file_in import read_entries_file
from umbra_awl.core.logbook.giving import given_away
from umbra_awl.core.logbook.joining import Joined, join
from umbra_awl.core.logbook.model import Entry
from umbra_awl.desk.parts.asking import CANCEL, ask
from umbra_awl.desk.parts.saving import ask_place, save_file

if TYPE_CHECKING:
    from umbra_awl.desk.log.entries_page import EntriesPage


_WHOSE = "Who is it for? What is given away goes by your station's privacy: {}."


_LEFT_OUT = {
    "exact": "notes and unknown fields of other programs are left out",
    "locator": "notes, spots, ways and unknown fields are left out, and the place is rounded to the square of six",
    "none": "notes, spots, ways, places and unknown fields are left out",
}


MYSELF, OTHERS = "For myself, all of it", "To give away"


class EntryFiles:
    """Brings in, joins and exports for a page."""

    def __init__(self, owner: "EntriesPage") -> None:
        self._page = owner

    def ask_import(self) -> None:
        """Ask for an ADIF or CSV file."""
        name, _kind = QFileDialog.getOpenFileName(
            self._page, "Import a log", str(Path.home()), "Logs (*.adi *.adif *.csv *.tsv *.txt *.xlsx);;All files (*)"
        )
        if name:
            self.bring_in(Path(name))

    def bring_in(self, path: Path) -> None:
        """Import a log: what is there already is left, what cannot be taken is told by its number."""
        held = self._page.book.entries
        self._page.bench.jobs.read(
            "adif",
            read_entries_file,
            path,
            tuple(item.key for item in held),
            done=lambda found: self._join(path.name, held, found),
            failed=self._not_read,
        )

    def _join(self, name: str, held: tuple[Entry, ...], found: Imported) -> None:
        done = partial(self._brought, name, self._page.book.file.path)
        self._page.bench.jobs.latest("adif", lambda: join(held, found), done, self._not_read)

    def _not_read(self, error: Exception) -> None:
        self._page.bench.say(f"The file cannot be read: {plain_reason(error)}. Choose an ADIF or CSV file.", "stop")

    def _brought(self, name: str, into: Path, found: Joined) -> None:
        if into != self._page.book.file.path:
            self._page.bench.say(
                "Another plan was opened meanwhile: nothing was imported. Import it again where it belongs.", "stop"
            )
            return
        if found.moved:
            count = len(found.moved)
            self._page.book.add(found.moved, f"Import {count:,} entr{'y' if count == 1 else 'ies'} from {name}")
        self._page.bench.say(f"“{name}”: {found.words}", "report" if found.moved else "stop")

    def ask_adif(self) -> None:
        """Save what fits as ADIF."""
        self._ask("Save as ADIF", "log.adi", "ADIF (*.adi)", adif_text)

    def ask_csv(self) -> None:
        """Save what fits as CSV, every field."""
        self._ask("Save as CSV", "log.csv", "CSV (*.csv)", csv_text)

    def _ask(self, title: str, name: str, kinds: str, form: Callable[[tuple[Entry, ...]], str]) -> None:
        chosen, privacy = self._page.chosen(), self._page.bench.plan.station.privacy
        whose = ask(self._page, title, _WHOSE.format(_LEFT_OUT[privacy]), [MYSELF, OTHERS])
        if whose == CANCEL:
            return
        place = ask_place(self._page, title, name, kinds, Path(name).suffix)
        if place is not None:
            told = given_away(chosen, privacy) if whose == OTHERS else chosen
            save_file(self._page.bench, place, lambda: form(told).encode(), f"Saved {counted(len(told), 'entry')}.")
