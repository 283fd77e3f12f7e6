"""Paper: field cards, key sheets and labels for one radio or many; the very pages that will be printed, as pictures.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from functools import partial
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QPixmap, QResizeEvent
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter
from PyQt6.QtWidgets import QLabel, QWidget

from umbra_awl.core.keep.naming import readable_name
from umbra_awl.core.paper.bundle import PAPER_WORDS, Bundle, PaperKind, ReadyRadio, bundle
from umbra_awl.core.paper.letters import FORMS
from umbra_awl.desk.parts.cards.kept_names import keep_names
from umbra_awl.desk.parts.menus import lead, menu_button
from umbra_awl.desk.parts.radio_picker import RadioPicker, listed_radios
from umbra_awl.desk.parts.saving import FilePlace, ask_place, save_file
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, column, rows_of, scrolled, words
from umbra_awl.desk.reckoning import Basis
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.paper.pdf_pages import MOST_PICTURES, pictures_of, print_pages
from umbra_awl.desk.workbench import Workbench

_PAGE_WIDTH = 560
_NARROWEST, _BESIDE = 240, 28
_LATER_MS = 60
_MOST_NAMED = 2
_NOTES: dict[PaperKind, str] = {
    "card": "Zones and channels as the radio shows them, how to link, and a code with the plan's public part: access points and "
    "talk groups. Your own ID is masked; no position and no hotspot of yours is in the code.",
    "keys": "Every key of every memory. “By its keys” has the cheapest order and names, and other manners.",
    "label": "To be cut out and put on the radio: call sign, radio, zones, how it is loaded. No IDs.",
}


class MadePaper(NamedTuple):
    """The pages, for which radios, and what they were made of."""

    bundle: Bundle
    radios: tuple[str, ...]
    basis: Basis


class PaperPage(QWidget):
    """The canvas page; `side` says what stands on the paper and puts it out."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench, self._theme = bench, theme
        self.kind: PaperKind = "card"
        self.form = "A4"
        self.chosen: tuple[str, ...] = ()
        self.made: MadePaper | None = None
        outer = column(self, 6)
        self.kinds = {key: button(text, partial(self.take_kind, key), "segment") for key, text in PAPER_WORDS.items()}
        self.radios = button("", self.pick, "segment")
        self.form_choice = menu_button(
            "Size of the paper", lambda: [(name, partial(self.take_form, name)) for name in FORMS]
        )
        outer.addLayout(rows_of(*self.kinds.values(), lead("for"), self.radios, lead("on"), self.form_choice, gap=6))
        inside = QWidget()
        self._pages = rows_of(gap=10)
        inside.setLayout(self._pages)
        self._scroll = scrolled(inside)
        outer.addWidget(self._scroll, 1)
        self.labels: list[QLabel] = []
        self._shown_width = 0
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(_LATER_MS)
        self._later.timeout.connect(self._fit_width)
        self.side = self._side()
        self._fresh = WhenChanged(self, lambda: (bench.worked.results, bench.radio), self.refresh)
        for signal in (bench.results_changed, bench.radio_changed):
            signal.connect(self._fresh.check)
        theme.changed.connect(self._show)

    def _side(self) -> QWidget:
        side = QWidget()
        outer = column(side, 6)
        self._title = words("", "title")
        self._words = words("", wrap=True)
        self._note = words("", "second", wrap=True)
        for part in (self._title, self._words, self._note):
            outer.addWidget(part)
        self.print = button("Print …", self.ask_printer, "main")
        self.pdf = button("Save as PDF …", self.ask_pdf)
        self.html = button("Save as a page …", self.ask_html, tip="One radio's field card, for a phone or a browser")
        outer.addLayout(rows_of(self.print, self.pdf, self.html, gap=6))
        outer.addStretch(1)
        return side

    def take_focus(self) -> None:
        """Give the keyboard to what prints it."""
        (self.print if self.print.isEnabled() else self.radios).setFocus()

    # choosing

    def take_kind(self, kind: PaperKind) -> None:
        """Show paper of another kind."""
        self.kind = kind
        self.refresh()

    def take_form(self, form: str) -> None:
        """Lay it out for another size of paper."""
        self.form = form
        self.refresh()

    def pick(self) -> None:
        """Choose for which radios."""
        radios = listed_radios(self._bench)
        RadioPicker(self, radios, self.for_radios, self.take_radios, several=True).pop_up(self.radios)

    def take_radios(self, keys: tuple[str, ...]) -> None:
        """Make it for these radios; a single one is the chosen radio from then on, as everywhere."""
        self.chosen = keys if len(keys) > 1 else ()
        if len(keys) == 1:
            self._bench.choose_radio(keys[0])
        self.refresh()

    @property
    def for_radios(self) -> tuple[str, ...]:
        """The radios that were picked and are still there; the chosen radio where none was."""
        there = tuple(key for key in self.chosen if key in self._bench.index.radios)
        return there if len(there) > 1 else (self._bench.radio_key,)

    def _ready(self) -> list[ReadyRadio]:
        bench, made = self._bench, list[ReadyRadio]()
        for key in self.for_radios:
            radio, fit = bench.index.radios.get(key), bench.worked.results.fits.get(key)
            profile = bench.profiles.get(radio.profile) if radio is not None else None
            if radio is not None and fit is not None and profile is not None:
                made.append(ReadyRadio(radio, profile, fit))
        return made

    # showing

    def refresh(self) -> None:
        """Lay the pages out anew, in the background; the latest wins."""
        names = [self._bench.index.radios[key].name for key in self.for_radios if key in self._bench.index.radios]
        told = ", ".join(names) if len(names) <= _MOST_NAMED else f"{len(names)} radios"
        self.radios.setText(f"{told or 'no radio'} ▾")
        self.radios.setAccessibleName(f"Radios on the paper: {', '.join(names)}. Enter picks others, several at once.")
        self.form_choice.setText(self.form)
        chosen_of(self.kinds, self.kind)
        self._title.setText(PAPER_WORDS[self.kind])
        self._note.setText(_NOTES[self.kind])
        ready, kind, form = self._ready(), self.kind, self.form
        if not ready:
            self.made = None
            self._show()
            self._words.setText(
                self._bench.worked.waiting_words(self._bench.radio_key) or "Add a radio at Radios first."
            )
            return
        basis, day = self._bench.worked.basis, self._bench.clock.today().isoformat()
        keys = tuple(item.radio.key for item in ready)
        work = lambda: MadePaper(bundle(kind, basis.index, ready, day, form), keys, basis)  # noqa: E731
        self._bench.jobs.latest("paper", work, self._take)

    def _page_width(self) -> int:
        """As wide as reads well, and no wider than there is room; labels and many pages side by side."""
        viewport = self._scroll.viewport()
        room = viewport.width() - _BESIDE if viewport is not None else 0
        several = self.made is not None and self.made.bundle.pages > 1
        wide = room // 2 - 10 if several and room > 2 * self._theme.px(_NARROWEST) else self._theme.px(_PAGE_WIDTH)
        return min(wide, max(room, _NARROWEST))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._later.start()

    def _fit_width(self) -> None:
        if self._page_width() != self._shown_width:
            self._show()

    def _take(self, made: MadePaper) -> None:
        self.made = made
        self._show()

    def _show(self) -> None:
        for label in self.labels:
            self._pages.removeWidget(label)
            label.hide()
            label.deleteLater()
        self.labels = []
        able = self.made is not None and self.made.bundle.pages > 0
        for part in (self.print, self.pdf):
            part.setEnabled(able)
        self.html.setVisible(self.kind == "card")
        self.html.setEnabled(able and len(self.for_radios) == 1)
        if self.made is None:
            self._words.setText("")
            return
        found = self.made.bundle
        self._shown_width = self._page_width()
        for at, page in enumerate(pictures_of(found.data, self._shown_width) if found.pages else [], 1):
            label = QLabel()
            label.setPixmap(QPixmap.fromImage(page))
            label.setAccessibleName(f"Page {at} of {found.pages} as it will be printed")
            self._pages.addWidget(label)
            self.labels.append(label)
        pages = {0: "No page", 1: "One page"}.get(found.pages, f"{found.pages} pages")
        first = f" The first {MOST_PICTURES} are shown." if found.pages > MOST_PICTURES else ""
        self._words.setText(" ".join((f"{pages} of {self.form}.{first}", *found.told)))

    # putting out

    def ask_printer(self) -> None:
        """Ask for a printer by the system's own window, and print the pages that are shown."""
        made = self.made
        if made is None or not self._bench.worked.may_use(made.basis):
            return
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setDocName(f"{self._bench.plan.name}: {PAPER_WORDS[self.kind]}")
        if QPrintDialog(printer, self).exec():
            self.print_to(printer)

    def print_to(self, printer: QPrinter) -> None:
        """Print the pages that are shown."""
        made = self.made
        if made is None:
            return
        count = print_pages(made.bundle.data, printer)
        if count:
            self._bench.say(f"{count} page{'' if count == 1 else 's'} went to the printer.")
            self._keep(saved=True)
        else:
            self._bench.say("The printer took nothing. Choose another one, or save as PDF.", "stop")

    def _ask(self, form: str) -> FilePlace | None:
        keys = self.made.radios if self.made is not None else ()
        name = keys[0] if len(keys) == 1 else self._bench.plan.name
        suggested = Path.home() / f"{readable_name(name, 'radio')}-{self.kind}.{form}"
        return ask_place(
            self, f"Save the {PAPER_WORDS[self.kind].lower()}", suggested, f"{form.upper()} (*.{form})", f".{form}"
        )

    def ask_pdf(self) -> None:
        """Ask for a place and save the pages there."""
        place = self._ask("pdf") if self.made is not None else None
        if place is not None:
            self.save_pdf(place)

    def ask_html(self) -> None:
        """Ask for a place and save one radio's card there as a page."""
        place = self._ask("html") if self.made is not None else None
        if place is not None:
            self.save_html(place)

    def save_pdf(self, place: FilePlace) -> None:
        """Write the pages that are shown to a file."""
        made = self.made
        if made is not None and self._bench.worked.may_use(made.basis):
            said = f"{PAPER_WORDS[self.kind]} are in “{place.path.name}”."
            self._keep(saved=save_file(self._bench, place, lambda: made.bundle.data, said))

    def save_html(self, place: FilePlace) -> None:
        """Save the card as a page that stands alone."""
        from umbra_awl.core.paper.field_card import field_card
        from umbra_awl.core.paper.pages import card_html

        made, ready = self.made, self._ready()
        if made is None or len(ready) != 1 or not self._bench.worked.may_use(made.basis):
            return
        card = field_card(made.basis.index, *ready[0], self._bench.clock.today().isoformat())
        said = f"The field card is in “{place.path.name}”."
        self._keep(saved=save_file(self._bench, place, lambda: card_html(card).encode(), said))

    def _keep(self, *, saved: bool) -> None:
        """What is on paper stays named so."""
        if saved and self.made is not None:
            for key in self.made.radios:
                keep_names(self._bench, key)
