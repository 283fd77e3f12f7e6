"""The field card: the very pages that will be printed, as pictures; saved as PDF or as a page.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import QBuffer, QByteArray, QSize, Qt, QTimer
from PyQt6.QtGui import QImage, QPainter, QPixmap, QResizeEvent
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtWidgets import QLabel, QWidget

from umbra_awl.core.keep.naming import path_name
from umbra_awl.core.paper.field_card import FieldCard, field_card
from umbra_awl.core.paper.field_card_pdf import Printed, card_pdf
from umbra_awl.desk.parts.kept_names import keep_names
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.saving import FilePlace, ask_place, save_file
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, column, row, scrolled, words
from umbra_awl.desk.reckoning import Basis
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

_PAGE_WIDTH = 560
_NARROWEST, _BESIDE = 240, 28
_LATER_MS = 60
MOST_PICTURES = 4
_NOTE = (
    "Zones and channels as the radio shows them, how to link, and a code with the plan's public part: access points and talk "
    "groups. Your own ID is masked; no position and no hotspot of yours is in the code."
)


class Made(NamedTuple):
    """A card and its printed pages, and what they were made of."""

    card: FieldCard
    printed: Printed
    basis: Basis


def pictures_of(data: bytes, width: int, most: int = MOST_PICTURES) -> list[QImage]:
    """The first pages of a PDF as pictures so many pixels wide, on white."""
    document = QPdfDocument(None)
    buffer = QBuffer()
    buffer.setData(QByteArray(data))
    buffer.open(QBuffer.OpenModeFlag.ReadOnly)
    document.load(buffer)
    pages: list[QImage] = []
    for at in range(min(document.pageCount(), most)):
        points = document.pagePointSize(at)
        size = QSize(width, round(width * points.height() / points.width()))
        page = QImage(size, QImage.Format.Format_RGB32)
        page.fill(Qt.GlobalColor.white)
        painter = QPainter(page)
        painter.drawImage(0, 0, document.render(at, size))
        painter.end()
        pages.append(page)
    document.close()
    return pages


class CardPage(QWidget):
    """The canvas page; `side` says what stands on the card and saves it."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench, self._theme = bench, theme
        self.made: Made | None = None
        outer = column(self, 6)
        line = row(gap=6)
        line.addWidget(RadioTabs(bench), 1)
        outer.addLayout(line)
        self._empty = words("Add a radio at Radios first.", "second", wrap=True)
        outer.addWidget(self._empty)
        inside = QWidget()
        self._pages = column(inside, 10)
        self._pages.setAlignment(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop)
        self._scroll = scrolled(inside)
        outer.addWidget(self._scroll, 1)
        self.labels: list[QLabel] = []
        self._shown_width = 0
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(_LATER_MS)
        self._later.timeout.connect(self._fit_width)
        self.side = self._side()
        self._fresh = WhenChanged(self, lambda: (bench.results, bench.radio), self.refresh)
        for signal in (bench.results_changed, bench.radio_changed):
            signal.connect(self._fresh.check)
        theme.changed.connect(self._show)

    def _side(self) -> QWidget:
        side = QWidget()
        outer = column(side, 6)
        outer.addWidget(words("Field card", "title"))
        self._words = words("", wrap=True)
        outer.addWidget(self._words)
        outer.addWidget(words(_NOTE, "second", wrap=True))
        line = row(gap=6)
        self.pdf = button("Print to PDF …", self.ask_pdf, "main")
        self.html = button("Save as a page …", self.ask_html)
        line.addWidget(self.pdf)
        line.addWidget(self.html)
        line.addStretch(1)
        outer.addLayout(line)
        outer.addStretch(1)
        return side

    def take_focus(self) -> None:
        """Give the keyboard to what prints it."""
        self.pdf.setFocus()

    def refresh(self) -> None:
        """Lay the card out anew, in the background; the latest wins."""
        radio, fit = self._bench.radio, self._bench.fit
        profile = self._bench.profiles.get(radio.profile) if radio is not None else None
        able = radio is not None and profile is not None and fit is not None
        self._empty.setVisible(not able)
        waiting = self._bench.waiting_words(self._bench.radio_key) if profile is not None else ""
        self._empty.setText(waiting or "Add a radio at Radios first.")
        for part in (self.pdf, self.html):
            part.setEnabled(able)
        if radio is None or profile is None or fit is None:
            self.made = None
            self._show()
            return
        basis, day = self._bench.basis, self._bench.clock.today().isoformat()

        def work() -> Made:
            card = field_card(basis.index, radio, profile, fit, day)
            return Made(card, card_pdf(card), basis)

        self._bench.jobs.latest("card", work, self._take)

    def _page_width(self) -> int:
        """As wide as reads well, and no wider than there is room."""
        viewport = self._scroll.viewport()
        room = viewport.width() - _BESIDE if viewport is not None else 0
        return min(self._theme.px(_PAGE_WIDTH), max(room, _NARROWEST))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._later.start()

    def _fit_width(self) -> None:
        if self._page_width() != self._shown_width:
            self._show()

    def _take(self, made: Made) -> None:
        self.made = made
        self._show()

    def _show(self) -> None:
        for label in self.labels:
            label.hide()
            label.deleteLater()
        self.labels = []
        if self.made is None:
            self._words.setText("")
            return
        printed = self.made.printed
        self._shown_width = self._page_width()
        for at, page in enumerate(pictures_of(printed.data, self._shown_width), 1):
            label = QLabel()
            label.setPixmap(QPixmap.fromImage(page))
            label.setAccessibleName(f"Page {at} of {printed.pages} as it will be printed")
            self._pages.addWidget(label)
            self.labels.append(label)
        pages = "one page" if printed.pages == 1 else f"{printed.pages} pages"
        small = "" if printed.size >= 10 else " Fewer zones on it would make the letters larger."
        first = f" The first {MOST_PICTURES} are shown." if printed.pages > MOST_PICTURES else ""
        self._words.setText(f"{pages.capitalize()} of A4, names in letters of {printed.size:g} points.{first}{small}")

    def _ask(self, title: str, form: str, save: Callable[[FilePlace], None]) -> None:
        radio = self._bench.radio
        if radio is not None and self.made is not None:
            suggested = Path.home() / f"{path_name(radio.key, 'radio')}-card.{form}"
            place = ask_place(self, title, suggested, f"{form.upper()} (*.{form})", f".{form}")
            if place is not None:
                save(place)

    def ask_pdf(self) -> None:
        """Ask for a place and print the card there."""
        self._ask("Print the field card", "pdf", self.save_pdf)

    def ask_html(self) -> None:
        """Ask for a place and save the card there as a page."""
        self._ask("Save the field card", "html", self.save_html)

    def save_pdf(self, place: FilePlace) -> None:
        """Write the pages that are shown to a file."""
        made = self.made
        if made is not None and self._bench.may_use(made.basis):
            said = f"The field card is in “{place.path.name}”."
            self._keep(save_file(self._bench, place, lambda: made.printed.data, said))

    def save_html(self, place: FilePlace) -> None:
        """Save the card as a page that stands alone."""
        from umbra_awl.core.paper.pages import card_html

        made = self.made
        if made is not None and self._bench.may_use(made.basis):
            said = f"The field card is in “{place.path.name}”."
            self._keep(save_file(self._bench, place, lambda: card_html(made.card).encode(), said))

    def _keep(self, saved: bool) -> None:
        """What is on paper stays named so."""
        if saved:
            keep_names(self._bench, self._bench.radio_key)
