"""Paper printed, and saved as PDF or HTML."""

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtPrintSupport import QPrintDialog, QPrinter

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.wording import within
from umbra_awl.core.keep.naming import readable_name
from umbra_awl.core.paper.bundle import PAPER_WORDS
from umbra_awl.desk.parts.cards.kept_names import keep_names
from umbra_awl.desk.parts.saving import FilePlace, ask_place, save_file
from umbra_awl.desk.transfer.paper.pdf_pages import print_pages

if TYPE_CHECKING:
    from umbra_awl.desk.transfer.paper.paper_page import PaperPage


class PaperOut:
    """Gives out the sheets of a page."""

    def __init__(self, owner: "PaperPage") -> None:
        self._page = owner

    def ask_printer(self) -> None:
        """Ask for a printer by the system's own window, and print the pages that are shown."""
        made = self._page.made
        if made is None or not self._page.bench.worked.may_use(made.basis):
            return
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setDocName(f"{self._page.bench.plan.name}: {PAPER_WORDS[self._page.kind]}")
        if QPrintDialog(printer, self._page).exec():
            self.print_to(printer)

    def print_to(self, printer: QPrinter) -> None:
        """Print the pages that are shown."""
        made = self._page.made
        if made is None:
            return
        count = print_pages(made.bundle.data, printer)
        if count:
            self._page.bench.say(f"{counted(count, 'page')} went to the printer.")
            self._keep(saved=True)
        else:
            self._page.bench.say("The printer took nothing. Choose another one, or save as PDF.", "stop")

    def _ask(self, form: str) -> FilePlace | None:
        keys = self._page.made.radios if self._page.made is not None else ()
        name = keys[0] if len(keys) == 1 else self._page.bench.plan.name
        suggested = Path.home() / f"{readable_name(name, 'radio')}-{self._page.kind}.{form}"
        return ask_place(
            self._page,
            f"Save the {within(PAPER_WORDS[self._page.kind])}",
            suggested,
            f"{form.upper()} (*.{form})",
            f".{form}",
        )

    def ask_pdf(self) -> None:
        """Ask for a place and save the pages there."""
        place = self._ask("pdf") if self._page.made is not None else None
        if place is not None:
            self.save_pdf(place)

    def ask_html(self) -> None:
        """Ask for a place and save one radio's card there as a page."""
        place = self._ask("html") if self._page.made is not None else None
        if place is not None:
            self.save_html(place)

    def save_pdf(self, place: FilePlace) -> None:
        """Write the pages that are shown to a file."""
        made = self._page.made
        if made is not None and self._page.bench.worked.may_use(made.basis):
            said = f"{PAPER_WORDS[self._page.kind]} are in “{place.path.name}”."
            self._keep(saved=save_file(self._page.bench, place, lambda: made.bundle.data, said))

    def save_html(self, place: FilePlace) -> None:
        """Save the card as a page that stands alone."""
        from umbra_awl.core.paper.field_card import field_card
        from umbra_awl.core.paper.pages import card_html

        made, ready = self._page.made, self._page.ready()
        if made is None or len(ready) != 1 or not self._page.bench.worked.may_use(made.basis):
            return
        card = field_card(made.basis.index, *ready[0], self._page.bench.clock.today().isoformat())
        said = f"The field card is in “{place.path.name}”."
        self._keep(saved=save_file(self._page.bench, place, lambda: card_html(card).encode(), said))

    def _keep(self, *, saved: bool) -> None:
        """What is on paper stays named so."""
        if saved and self._page.made is not None:
            for key in self._page.made.radios:
                keep_names(self._page.bench, key)
