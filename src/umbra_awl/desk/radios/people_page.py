"""The people list of the chosen radio as it will be, the room of each firmware, and the list as a file."""

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.dmr import mask_id
from umbra_awl.core.fit.people import ChosenPeople, choose_people, firmware_fault, people_csv, rooms, transfer_seconds
from umbra_awl.core.keep.naming import path_name
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.desk.asked import ask_button
from umbra_awl.desk.held.reckoning import Basis
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.parts.rows_table import MOST_ROWS, RowsTable
from umbra_awl.desk.parts.saving import FilePlace, ask_place, save_later
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.radios.people_rules import PeopleRules
from umbra_awl.desk.radios.room_bar import RoomBar
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.asked.figure import Figure


class RadioPeoplePage(QWidget):
    """The canvas page; `side` holds the rules."""

    def __init__(self, bench: Workbench, theme: Theme, directory: Directory) -> None:
        super().__init__()
        self._bench, self._theme, self._directory = bench, theme, directory
        self.chosen: ChosenPeople | None = None
        self._basis: Basis | None = None
        outer = column(self, 8)
        self._verdict = words("", wrap=True)
        outer.addWidget(self._verdict)
        self.bar = RoomBar(theme)
        outer.addWidget(self.bar)
        line = row(gap=6)
        self._count = words("", "second", wrap=True)
        line.addWidget(self._count, 1)
        line.addWidget(ask_button(bench))
        self._save = button("Save the list …", self.ask_save, tip="As CSV, with the radio's columns in its order")
        line.addWidget(self._save)
        outer.addLayout(line)
        self.table = RowsTable(
            theme, "The people list as the radio gets it", "Nobody yet: choose who goes into this radio beside."
        )
        outer.addWidget(self.table, 1)
        self.side = PeopleRules(bench, directory)
        self._fresh = WhenChanged(self, lambda: (bench.plan, bench.radio, bench.profiles.own), self.refresh)
        for signal in (bench.radio_changed, bench.plan_changed):
            signal.connect(self._fresh.check)
        bench.ids_changed.connect(self._show)
        directory.changed.connect(self.refresh)

    def take_focus(self) -> None:
        """Give the keyboard to the rules."""
        self.side.card.focus_first()

    def _profile(self) -> Profile | None:
        radio = self._bench.radio
        return self._bench.profiles.get(radio.profile) if radio is not None else None

    def refresh(self) -> None:
        """Choose anew, in the background; the latest wins."""
        radio, profile = self._bench.radio, self._profile()
        self.side.show_radio(radio)
        if radio is None or profile is None:
            return
        basis, directory = self._bench.worked.basis, self._directory

        def work() -> ChosenPeople | str:
            try:
                return choose_people(directory.store, basis.index, radio, profile)
            except SourceError as error:
                return str(error)

        self._bench.jobs.latest("people-chosen", work, lambda chosen: self._take(chosen, basis))

    def _take(self, chosen: ChosenPeople | str, basis: Basis) -> None:
        if isinstance(chosen, str):
            self._bench.say(chosen, "stop")
            return
        self.chosen, self._basis = chosen, basis
        self._show()

    def _show(self) -> None:
        chosen, radio, profile = self.chosen, self._bench.radio, self._profile()
        if chosen is None or radio is None or profile is None:
            return
        fault = firmware_fault(profile, radio, chosen.wanted)
        now = profile.variant(radio.firmware)
        self.bar.setVisible(bool(profile.firmware))
        self.bar.show_rooms(rooms(profile, chosen.wanted), chosen.wanted, now.key if now else "")
        teach = "Nobody is chosen yet. Choose countries, a distance or your log beside this list."
        fits = f"All {chosen.wanted:,} chosen people fit." if chosen.wanted else teach
        self._verdict.setText(fault or fits)
        self._count.setText(_count_words(chosen, profile))
        self._save.setEnabled(bool(chosen.rows))
        self._count.setVisible(bool(chosen.wanted))
        masked = not self._bench.ids_shown
        rows = [
            (mask_id(item.id) if masked else str(item.id), item.call, item.name, item.place, item.country)
            for item in chosen.rows[:MOST_ROWS]
        ]
        self.table.show_rows(("DMR ID", "Call sign", "Name", "Place", "Country"), rows)

    def figures(self) -> "list[Figure]":
        """How many people go into the radio."""
        from umbra_awl.core.asked.counted import people_figure

        radio, profile = self._bench.radio, self._profile()
        if self.chosen is None or radio is None or profile is None:
            return []
        firmware = profile.variant(radio.firmware)
        return [people_figure(self.chosen, firmware.name if firmware is not None else "")]

    def ask_save(self) -> None:
        """Ask for a place and save the list there."""
        radio = self._bench.radio
        if radio is None or self.chosen is None:
            return
        title = "Save the people list: it holds other people's IDs, keep it for your radio"
        suggested = Path.home() / f"{path_name(radio.key, 'radio')}-people.csv"
        place = ask_place(self, title, suggested, "CSV (*.csv)", ".csv")
        if place is not None:
            self.save(place)

    def save(self, place: FilePlace) -> None:
        """Save the list as the radio takes it; it is not to be passed on, which is said again."""
        chosen, profile = self.chosen, self._profile()
        if chosen is not None and profile is not None and self._bench.worked.may_use(self._basis):
            said = f"{counted(len(chosen.rows), 'person is', 'people are')} in “{place.path.name}”. "
            said += "It holds other people's IDs; do not pass it on."
            save_later(self._bench, place, lambda: people_csv(chosen, profile), said)


def _count_words(chosen: ChosenPeople, profile: Profile) -> str:
    parts = [f"{counted(len(chosen.rows), 'person goes', 'people go')} over"]
    if chosen.picked:
        parts.append(f"{chosen.picked} by hand")
    if chosen.left:
        parts.append(f"{chosen.left:,} find no room")
    if chosen.unplaced:
        parts.append(f"{chosen.unplaced:,} passed over: their place is not on the map")
    seconds = transfer_seconds(len(chosen.rows), profile)
    if seconds:
        parts.append(f"about {seconds / 60:.0f} min by cable" if seconds > 90 else f"about {seconds:.0f} s by cable")
    return ", ".join(parts) + "."
