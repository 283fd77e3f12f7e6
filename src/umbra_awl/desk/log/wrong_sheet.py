"""A listing found wrong on the air: one step corrects the plan and dates the correction in the directory, a file goes out."""

from pathlib import Path

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.directory.corrections import corrections, corrections_csv
from umbra_awl.core.directory.found_wrong import ListingChange, change_for, listed_service, listing_of, ways_wrong
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.naming import readable_name
from umbra_awl.core.plan.model import AccessPoint, Service
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.parts.cards.form_sheet import FormSheet
from umbra_awl.desk.parts.saving import ask_place, save_file

_LEAD = (
    "The plan is put right, and your directory keeps the correction with its day beside what the list says. Save the file of "
    "corrections, and send it to whoever keeps the list."
)


_IN_NONE = "It is in no directory that you have, so there is no listing to correct."


class WrongSheet(FormSheet):
    """Asks what is wrong with the listing of an access point's service."""

    def __init__(
        self, bench: Workbench, directory: Directory, parent: QWidget, access: AccessPoint, service: Service
    ) -> None:
        super().__init__(parent, f"The listing of {access.by_site} is wrong", _LEAD, self.attempt)
        self._bench, self._directory = bench, directory
        self._access, self._service = access, service
        self._ways = ways_wrong(service)
        self.what = self.choice("What is wrong", [(item.words, item.name) for item in self._ways])
        self.value = self.line("What you found")
        self.what.currentIndexChanged.connect(lambda _at: self._say_value())
        self.send = self.choice("Then", [("save the file of corrections to send", True), ("only keep it", False)])
        self._done.setText("Correct it")
        self._say_value()

    def _say_value(self) -> None:
        way = self._ways[self.what.currentIndex()]
        self.form.setRowVisible(self.value, bool(way.hint))
        self.value.setPlaceholderText(way.hint)

    def attempt(self) -> str:
        """Correct plan and directory as one step; the reason when that cannot be."""
        try:
            entry = listing_of(self._directory.store, self._access, self._service)
            listed = listed_service(entry.access, self._service) if entry is not None else ""
            today = self._bench.clock.today().isoformat()
            made = change_for(self._access, self._service, listed, self.what.currentData(), self.value.text(), today)
        except (ValueError, SourceError) as error:
            return str(error)
        self._do(made, entry.key if entry is not None else "", correctable=bool(listed))
        if self.send.currentData() and entry is not None:
            save_corrections(self._bench, self._directory, self)
        return ""

    def _do(self, made: ListingChange, entry: str, *, correctable: bool) -> None:
        """Keep it in the directory first, then the plan: undo takes back the plan's part, then the directory's."""
        if entry and correctable and made.field:
            self._directory.own.set_private(entry, made.field, made.value)
        if entry and made.note:
            self._directory.own.set_note(entry, made.note)
        if made.edit is not None:
            self._bench.do_told(made.edit, "The directory keeps the correction." if entry else _IN_NONE)
        elif not entry:
            self._bench.say(_IN_NONE, "stop")
        else:
            found = " ".join(filter(None, (self.what.currentText(), self.value.text().strip()))).rstrip(".")
            self._bench.say(
                f"{self._access.by_site}: {found}. Your directory keeps it, with its day; the plan has it right already."
            )


def save_corrections(bench: Workbench, directory: Directory, parent: QWidget) -> None:
    """Ask for a place and save every correction that the directory keeps, to be sent."""
    try:
        found = corrections(directory.store)
    except SourceError as error:
        bench.say(str(error), "stop")
        return
    if not found:
        bench.say("The directory keeps no correction yet.", "stop")
        return
    identity = next(iter(bench.plan.station.identities), None)
    by = identity.call if identity is not None else ""
    suggested = Path.home() / f"{readable_name(f'corrections {bench.clock.today().isoformat()}', 'corrections')}.csv"
    place = ask_place(parent, "Save the corrections to send", suggested, "CSV (*.csv)", ".csv")
    if place is not None:
        count = len(found)
        said = f"Saved {counted(count, 'correction')} with day and call sign. Send it to whoever keeps the list."
        save_file(bench, place, lambda: corrections_csv(found, by).encode("utf-8-sig"), said)
