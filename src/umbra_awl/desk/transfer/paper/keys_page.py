"""The key sheet: each memory's exact keys, counted; the cheapest order and names on request; on paper or as a page.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QCheckBox, QListWidget, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.naming import path_name
from umbra_awl.core.paper.begin import BEFORE, begin_words
from umbra_awl.core.paper.kept_to import kept_to
from umbra_awl.core.paper.keys import Manner
from umbra_awl.core.paper.keysheet import NOT_BY_KEYS, Entered, KeySheet, key_sheet, pressed
from umbra_awl.core.radio.profile import WAY_WORDS
from umbra_awl.desk.held.reckoning import Basis
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.kept_names import keep_names
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.saving import FilePlace, ask_place, save_later
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, column, row, scrolled, words
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.paper.key_view import KeyView

if TYPE_CHECKING:
    from umbra_awl.core.radio.profile import Profile

_CAUTIONS = (
    "Not while driving. A memory is kept only by its boxed step. A number field counts only after its last digit: fewer are not "
    "taken. Key up only where you may; the display then shows the frequency that is sent: the proof of the shift."
)


class KeysPage(QWidget):
    """The canvas page; `side` holds the memories and what can be chosen."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        self.sheet: KeySheet | None = None
        self._basis: Basis | None = None
        outer = column(self, 6)
        line = row(gap=6)
        line.addWidget(RadioTabs(bench), 1)
        outer.addLayout(line)
        self._title = words("", "title")
        outer.addWidget(self._title)
        self._lead = words("", "second", wrap=True)
        outer.addWidget(self._lead)
        self.view = KeyView(theme)
        outer.addWidget(scrolled(self.view), 1)
        outer.addWidget(words(_CAUTIONS, "second", wrap=True))
        self.side = self._side()
        self._fresh = WhenChanged(self, lambda: (bench.worked.results, bench.radio), self.refresh)
        for signal in (bench.results_changed, bench.radio_changed):
            signal.connect(self._fresh.check)

    def _side(self) -> QWidget:
        side = QWidget()
        outer = column(side, 6)
        outer.addWidget(words("Memories, in order", "title"))
        self.list = QListWidget()
        self.list.setAccessibleName("Memories in the order to enter them, with how many keys each takes")
        self.list.currentRowChanged.connect(self._show)
        outer.addWidget(self.list, 1)
        self.cheapest = QCheckBox("Order with the fewest keys")
        self.short = QCheckBox("Cheapest names that still differ")
        self.alone = QCheckBox("Each memory by itself, with every menu that matters")
        self.prove = QCheckBox("Prove each one first, then save it")
        self.full = QCheckBox("Transmit frequency in full, no shift")
        for box in (self.cheapest, self.short, self.alone, self.prove, self.full):
            box.toggled.connect(lambda _on: self.refresh())
            outer.addWidget(box)
        self._count = words("", wrap=True)
        outer.addWidget(self._count)
        line = row(gap=6)
        self._pdf = button("Print to PDF …", self.ask_pdf, "main")
        self._html = button("Save as a page …", self.ask_html)
        line.addWidget(self._pdf)
        line.addWidget(self._html)
        line.addStretch(1)
        outer.addLayout(line)
        return side

    def take_focus(self) -> None:
        """Give the keyboard to the list of memories."""
        self.list.setFocus()

    def _profile(self) -> "Profile | None":
        radio = self._bench.radio
        return self._bench.profiles.get(radio.profile) if radio is not None else None

    def refresh(self) -> None:
        """Work the sheet out anew, in the background; the latest wins."""
        profile, fit = self._profile(), self._bench.fit
        able = profile is not None and profile.by_keys and fit is not None
        for part in (self.list, self.cheapest, self.short, self.alone, self.prove, self._pdf, self._html):
            part.setEnabled(able)
        if not able or profile is None or fit is None:
            self.sheet = None
            self.list.clear()
            self._count.setText("")
            self.view.show_memory(None)
            self._title.setText("Key sheet")
            self._lead.setText(self._why_not(profile))
            return
        self.full.setVisible(_both_ways(profile))
        memory, cheapest, short = fit.memory, self.cheapest.isChecked(), self.short.isChecked()
        alone = self.alone.isChecked()
        manner = Manner(self.full.isChecked() and _both_ways(profile), self.prove.isChecked())
        self.cheapest.setEnabled(not alone)
        basis, index, radio = self._bench.worked.basis, self._bench.index, self._bench.radio

        def work() -> KeySheet:
            sheet = key_sheet(memory, profile, cheapest=cheapest, short=short, alone=alone, manner=manner)
            return sheet._replace(kept_to=kept_to(index, radio, profile) if radio is not None else ())

        self._bench.jobs.latest("keys", work, lambda sheet: self._take(sheet, basis))

    def _why_not(self, profile: "Profile | None") -> str:
        if profile is None:
            return "Add a radio at Radios first."
        waiting = self._bench.worked.waiting_words(self._bench.radio_key)
        if profile.by_keys and waiting:
            return waiting
        able = [item.name for item in self._bench.profiles.values() if item.by_keys]
        ways = " or ".join(WAY_WORDS[way] for way in profile.ways_in)
        return (
            f"{profile.name} is not programmed memory by memory with its keys; it goes in by {ways}. "
            f"Radios that are: {', '.join(able)}."
        )

    def _take(self, sheet: KeySheet, basis: Basis) -> None:
        self.sheet, self._basis = sheet, basis
        at = max(self.list.currentRow(), 0)
        self.list.clear()
        if sheet.memories:
            self.list.addItem(f"     {BEFORE}   {counted(pressed(sheet.begin), 'key')}")
        for item in sheet.memories:
            keys = counted(item.presses, "key") if not item.fault else "cannot be entered"
            self.list.addItem(f"{item.channel.number:>3}  {item.name}   {keys}")
        self.list.setCurrentRow(min(at, self.list.count() - 1))
        if not sheet.memories:
            self.view.show_memory(None)
            self._title.setText("Key sheet")
            self._lead.setText("Nothing is fitted to this radio yet: punch a route and put it in a zone.")
        self._count.setText(_count_words(sheet))

    def _show(self, at: int) -> None:
        if self.sheet is None or not 0 <= at <= len(self.sheet.memories):
            return
        if not at:
            self._title.setText(BEFORE)
            self._lead.setText(" ".join((begin_words(self.sheet.profile), *self.sheet.kept_to)))
            self.view.show_steps(self.sheet.begin)
            return
        item = self.sheet.memories[at - 1]
        self._title.setText(f"{item.channel.number}  {item.name}")
        before = self.sheet.memories[at - 2] if at > 1 and not self.sheet.alone else None
        self._lead.setText(_lead_words(item, before))
        self.view.show_memory(item)

    def ask_pdf(self) -> None:
        """Ask for a place and print the sheet there."""
        self._ask("Print the key sheet", "pdf", self.save_pdf)

    def ask_html(self) -> None:
        """Ask for a place and save the sheet there as a page."""
        self._ask("Save the key sheet", "html", self.save_html)

    def _ask(self, title: str, form: str, save: Callable[[FilePlace], None]) -> None:
        radio = self._bench.radio
        if radio is not None and self.sheet is not None:
            suggested = Path.home() / f"{path_name(radio.key, 'radio')}-keys.{form}"
            place = ask_place(self, title, suggested, f"{form.upper()} (*.{form})", f".{form}")
            if place is not None:
                save(place)

    def save_pdf(self, place: FilePlace) -> None:
        """Print the sheet to a PDF file."""
        from umbra_awl.core.paper.keysheet_pdf import keysheet_pdf

        sheet, radio = self.sheet, self._bench.radio
        if sheet is not None and radio is not None and self._bench.worked.may_use(self._basis):
            day = self._bench.clock.today().isoformat()
            said = f"The key sheet is in “{place.path.name}”."
            save_later(self._bench, place, lambda: keysheet_pdf(sheet, radio.name, day), said)
            keep_names(self._bench, radio.key)

    def save_html(self, place: FilePlace) -> None:
        """Save the sheet as a page that stands alone."""
        from umbra_awl.core.paper.pages import keysheet_html

        sheet, radio = self.sheet, self._bench.radio
        if sheet is not None and radio is not None and self._bench.worked.may_use(self._basis):
            day = self._bench.clock.today().isoformat()
            said = f"The key sheet is in “{place.path.name}”."
            save_later(self._bench, place, lambda: keysheet_html(sheet, radio.name, day).encode(), said)
            keep_names(self._bench, radio.key)


def _both_ways(profile: "Profile | None") -> bool:
    """Whether a radio takes the input by shift and offset and in full."""
    fields = (
        {menu.field for menu in profile.keypad.menus} if profile is not None and profile.keypad is not None else set()
    )
    return {"tx", "shift"} <= fields


def _lead_words(item: Entered, before: Entered | None) -> str:
    """How many keys, and where they must be pressed from."""
    if item.fault:
        return ""
    pauses = f", {counted(item.pauses, 'pause')}" if item.pauses else ""
    named = f" Named {item.name} for {item.channel.name}." if item.name != item.channel.name else ""
    follows = (
        f"Entered right after {before.channel.number} {before.name}: menus that hold the right value already are not opened."
        if before is not None
        else "From whatever the radio holds: every menu that matters is opened."
    )
    return f"About {counted(item.presses, 'key')}{pauses}. {follows}{named}"


def _count_words(sheet: KeySheet) -> str:
    saved = sheet.as_planned - sheet.presses
    less = f", {saved} fewer than in the plan's order with full names" if saved > 0 else ""
    lost = sum(bool(item.fault) for item in sheet.memories)
    cannot = f" {lost} cannot be entered." if lost else ""
    return f"About {counted(sheet.presses, 'key')} in all{less}.{cannot} {NOT_BY_KEYS}"
