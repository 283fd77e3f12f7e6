"""Paper: field cards, key sheets and labels for one radio or many; the very pages that will be printed, as pictures.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from functools import partial
from typing import NamedTuple

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QPixmap, QResizeEvent
from PyQt6.QtWidgets import QLabel, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.paper.bundle import PAPER_WORDS, Bundle, PaperKind, ReadyRadio, bundle
from umbra_awl.core.paper.letters import FORMS
from umbra_awl.desk.held.reckoning import Basis
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.menus import lead, menu_button
from umbra_awl.desk.parts.radio_picker import RadioPicker, listed_radios
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, column, rows_of, scrolled, words
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.paper.paper_out import PaperOut
from umbra_awl.desk.transfer.paper.pdf_pages import MOST_PICTURES, pictures_of

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
        self.out = PaperOut(self)
        self.bench, self._theme = bench, theme
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
        self.print = button("Print …", self.out.ask_printer, "main")
        self.pdf = button("Save as PDF …", self.out.ask_pdf)
        self.html = button(
            "Save as a page …", self.out.ask_html, tip="One radio's field card, for a phone or a browser"
        )
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
        radios = listed_radios(self.bench)
        RadioPicker(self, radios, self.for_radios, self.take_radios, several=True).pop_up(self.radios)

    def take_radios(self, keys: tuple[str, ...]) -> None:
        """Make it for these radios; a single one is the chosen radio from then on, as everywhere."""
        self.chosen = keys if len(keys) > 1 else ()
        if len(keys) == 1:
            self.bench.choose_radio(keys[0])
        self.refresh()

    @property
    def for_radios(self) -> tuple[str, ...]:
        """The radios that were picked and are still there; the chosen radio where none was."""
        there = tuple(key for key in self.chosen if key in self.bench.index.radios)
        return there if len(there) > 1 else (self.bench.radio_key,)

    def ready(self) -> list[ReadyRadio]:
        bench, made = self.bench, list[ReadyRadio]()
        for key in self.for_radios:
            radio, fit = bench.index.radios.get(key), bench.worked.results.fits.get(key)
            profile = bench.profiles.get(radio.profile) if radio is not None else None
            if radio is not None and fit is not None and profile is not None:
                made.append(ReadyRadio(radio, profile, fit))
        return made

    # showing

    def refresh(self) -> None:
        """Lay the pages out anew, in the background; the latest wins."""
        names = [self.bench.index.radios[key].name for key in self.for_radios if key in self.bench.index.radios]
        told = ", ".join(names) if len(names) <= _MOST_NAMED else counted(len(names), "radio")
        self.radios.setText(f"{told or 'no radio'} ▾")
        self.radios.setAccessibleName(f"Radios on the paper: {', '.join(names)}. Enter picks others, several at once.")
        self.form_choice.setText(self.form)
        chosen_of(self.kinds, self.kind)
        self._title.setText(PAPER_WORDS[self.kind])
        self._note.setText(_NOTES[self.kind])
        ready, kind, form = self.ready(), self.kind, self.form
        if not ready:
            self.made = None
            self._show()
            self._words.setText(self.bench.worked.waiting_words(self.bench.radio_key) or "Add a radio at Radios first.")
            return
        basis, day = self.bench.worked.basis, self.bench.clock.today().isoformat()
        keys = tuple(item.radio.key for item in ready)
        work = lambda: MadePaper(bundle(kind, basis.index, ready, day, form), keys, basis)  # noqa: E731
        self.bench.jobs.latest("paper", work, self._take)

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
