"""Nets from calendars and into calendars."""

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFileDialog

from umbra_awl.core.agenda.net_calendar import Brought, nets_ics, read_ics_file
from umbra_awl.core.agenda.net_edits import add_nets
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.keep.naming import readable_name
from umbra_awl.desk.parts.saving import ask_place, save_file

if TYPE_CHECKING:
    from umbra_awl.desk.log.nets_page import NetsPage


class NetFiles:
    """Brings in and saves for a page."""

    def __init__(self, owner: "NetsPage") -> None:
        self._page = owner

    def ask_save(self) -> None:
        """Save the nets as a calendar."""
        nets = self._page.bench.plan.nets
        texts = {net.key: self._page.coming.way_words(net) for net in nets}
        name = readable_name(f"{self._page.bench.plan.name} nets", "nets")
        place = ask_place(self._page, "Save the nets as a calendar", f"{name}.ics", "iCalendar (*.ics)", ".ics")
        if place is not None:
            save_file(
                self._page.bench,
                place,
                lambda: nets_ics(nets, texts),
                f"Saved {counted(len(nets), 'net')} as a calendar.",
            )

    def ask_import(self) -> None:
        """Ask for a calendar to take nets from."""
        name, _kind = QFileDialog.getOpenFileName(
            self._page, "Import nets", str(Path.home()), "iCalendar (*.ics);;All files (*)"
        )
        if name:
            self.bring_in(Path(name))

    def bring_in(self, path: Path) -> None:
        """Take the nets of a calendar in, as one step; what is not taken is told."""
        zone = self._page.zone
        document = self._page.bench.document
        self._page.bench.jobs.read(
            "calendar",
            read_ics_file,
            path,
            zone,
            done=lambda found: self._brought(path.name, found) if self._page.bench.document is document else None,
            failed=lambda error: self._page.bench.say(f"“{path.name}” was not read: {plain_reason(error)}", "stop"),
        )

    def _brought(self, name: str, found: Brought) -> None:
        there = {(item.name, item.begins, item.at, item.time_zone) for item in self._page.bench.plan.nets}
        fresh = [item for item in found.nets if (item.name, item.begins, item.at, item.time_zone) not in there]
        faults = (
            f" Not taken: {'; '.join(found.faults[:4])}{' and more' if len(found.faults) > 4 else ''}."
            if found.faults
            else ""
        )
        doubled = len(found.nets) - len(fresh)
        known = f" {doubled} were there already." if doubled else ""
        if not fresh:
            self._page.bench.say(f"No new net in “{name}”.{known}{faults}", "stop")
        elif self._page.bench.do(add_nets(tuple(fresh), f"Import {counted(len(fresh), 'net')} from {name}")):
            self._page.bench.say(
                f"“{name}”: {counted(len(fresh), 'net')} came in.{known}{faults} Say whom each calls.", "report"
            )
