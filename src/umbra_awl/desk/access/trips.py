"""Trips: a place and dates with what goes along, as a panel beside the map."""

from functools import partial

from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QCheckBox, QHBoxLayout, QWidget

from umbra_awl.core.agenda.calendar import trip_ics
from umbra_awl.core.agenda.kit import KitItem, kit
from umbra_awl.core.agenda.trips import (
    add_trip,
    dates_fault,
    local_time,
    remove_trip,
    set_trip,
    take_along,
    zone_fault,
    zone_typed,
    zone_words,
)
from umbra_awl.core.directory.nearest import nearest
from umbra_awl.core.directory.taking import match, take_entries
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.earth import Position, format_position
from umbra_awl.core.keep.naming import path_name
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, together
from umbra_awl.core.plan.model import Plan, Reminder, Trip
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory, LookedAtPlace
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Act, Commit, Field
from umbra_awl.desk.parts.saving import FilePlace, ask_place, save_file
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, card, clear, column, row, scrolled, words
from umbra_awl.desk.theme.theme import Theme

_ALONG = 5
_LEAD = (
    "Look around the place you go to: type it above the map, or double click it. Then plan the trip here. The nearest access "
    "points come along, with a zone of their own, the local time and reminders."
)


class TripsPanel(QWidget):
    """All trips of the plan."""

    def __init__(self, bench: Workbench, directory: Directory, theme: Theme) -> None:
        super().__init__()
        self._bench, self._directory, self._theme = bench, directory, theme
        outer = column(self, 6)
        head = row(gap=4)
        head.addWidget(words("Trips", "title"))
        head.addStretch(1)
        self._plan = button("Plan a trip here", self.plan_trip, "main")
        head.addWidget(self._plan)
        outer.addLayout(head)
        inside = QWidget()
        self._inner = column(inside, 8)
        outer.addWidget(scrolled(inside), 1)
        directory.place_changed.connect(self._say_place)
        self._fresh = WhenChanged(self, lambda: (bench.plan.trips, bench.plan.access), self.refresh)
        bench.plan_changed.connect(self._fresh.check)
        theme.changed.connect(self.refresh)

    def _say_place(self) -> None:
        place = self._directory.place
        self._plan.setEnabled(place is not None)
        self._plan.setText(
            f"Plan a trip to {place.words}" if place and not self._directory.at_home else "Plan a trip here"
        )

    def refresh(self) -> None:
        """Show the plan's trips."""
        clear(self._inner)
        self._say_place()
        for trip in self._bench.plan.trips:
            self._inner.addWidget(self._trip(trip))
        if not self._bench.plan.trips:
            self._inner.addWidget(words(_LEAD, "second", wrap=True))
        self._inner.addStretch(1)

    def _trip(self, trip: Trip) -> QWidget:
        made = FieldList(78)
        sites = ", ".join(self._bench.index.access[key].site for key in trip.access) or "nothing yet"
        fields = [
            Field("To", trip.name, commit=self._set(trip, "name", "Call the trip {}"), text=trip.name),
            Field("First day", trip.begins or "not set", commit=self._set_day(trip, "begins"), text=trip.begins),
            Field("Last day", trip.ends or "not set", commit=self._set_day(trip, "ends"), text=trip.ends),
            Field(
                "Time zone",
                self._clock(trip),
                commit=self._set_zone(trip),
                text=zone_words(trip.time_zone),
                tip="An IANA name; guessed from the longitude",
            ),
            Field("Place", format_position(trip.lat, trip.lon)),
            Field("Along", sites),
        ]
        acts = [
            Act("Go there", partial(self._directory.go_to, LookedAtPlace(Position(trip.lat, trip.lon), trip.name))),
            Act("Take the nearest along", partial(self.take_nearest, trip.key)),
        ]
        made.show_fields(fields, acts)
        whole = card("")
        inner = column(whole, 4)
        inner.addWidget(made)
        for at, reminder in enumerate(trip.reminders):
            inner.addLayout(self._reminder(trip, at, reminder))
        inner.addWidget(self._kit(trip))
        line = row(gap=0)
        line.addWidget(button("Save as a calendar", partial(self._ask_calendar, trip)))
        line.addStretch(1)
        line.addWidget(
            button("Remove", partial(self._bench.do_told, remove_trip(trip), "Its access points stay in the plan."))
        )
        inner.addLayout(line)
        return whole

    def _kit(self, trip: Trip) -> QWidget:
        """What goes along, worked out from the plan, ticked as it is packed."""
        made = QWidget()
        inner = column(made, 2)
        items = kit(self._bench.index, self._bench.profiles.snapshot(), trip)
        ready = sum(item.key in trip.packed for item in items)
        inner.addWidget(words(f"Take along: {ready} of {len(items)} lie ready", "violet"))
        for item in items:
            inner.addLayout(self._kit_line(trip, item))
        return made

    def _kit_line(self, trip: Trip, item: KitItem) -> QHBoxLayout:
        packed = item.key in trip.packed
        tick = QCheckBox()
        tick.setAccessibleName(f"{item.words}: {item.why}")
        tick.setChecked(packed)
        tick.toggled.connect(partial(self._pack, trip, item))
        said = words(item.words, "second" if packed else "", wrap=True)
        set_tip(said, item.why)
        line = row(gap=4)
        line.addWidget(tick, 0, Qt.AlignmentFlag.AlignTop)
        line.addWidget(said, 1)
        return line

    def _pack(self, trip: Trip, item: KitItem, done: bool) -> None:
        left = tuple(key for key in trip.packed if key != item.key)
        sentence = f"{'Pack' if done else 'Unpack'} {item.words}"
        self._bench.do(set_trip(trip.key, sentence, packed=(*left, item.key) if done else left))

    def _clock(self, trip: Trip) -> str:
        if zone_fault(trip.time_zone):
            return trip.time_zone or "not set"
        now = local_time(trip.time_zone, self._bench.clock.utc(), self._theme.measures.time)
        return f"{zone_words(trip.time_zone)}, now {now}"

    def _reminder(self, trip: Trip, at: int, reminder: Reminder) -> QHBoxLayout:
        days = f"{counted(reminder.days_before, 'day')} before"
        made = QCheckBox()
        made.setAccessibleName(f"{days}: {reminder.text}")
        made.setChecked(reminder.done)
        made.toggled.connect(lambda done: self._bench.do(_tick(trip, at, done)))
        line = row(gap=4)
        line.addWidget(made, 0, Qt.AlignmentFlag.AlignTop)
        line.addWidget(words(f"{days}: {reminder.text}", "second" if reminder.done else "", wrap=True), 1)
        return line

    def _set(self, trip: Trip, field: str, sentence: str) -> Commit:
        def commit(text: str) -> str:
            if not text:
                return "A trip needs a name."
            self._bench.do(set_trip(trip.key, sentence.format(text), **{field: text}))
            return ""

        return commit

    def _set_day(self, trip: Trip, field: str) -> Commit:
        def commit(text: str) -> str:
            days = {"begins": trip.begins, "ends": trip.ends, field: text}
            fault = dates_fault(days["begins"], days["ends"])
            if not fault:
                self._bench.do(set_trip(trip.key, f"Set the dates of the trip {trip.name}", **{field: text}))
            return fault

        return commit

    def _set_zone(self, trip: Trip) -> Commit:
        def commit(text: str) -> str:
            text = zone_typed(text)
            fault = zone_fault(text)
            if not fault:
                self._bench.do(set_trip(trip.key, f"Set the time zone of {trip.name}", time_zone=text))
            return fault

        return commit

    def plan_trip(self) -> None:
        """Make a trip to the place looked at, with the nearest access points."""
        place = self._directory.place
        if place is None:
            self._bench.say("Choose a place first: type a locator, a position or a site above the map.", "stop")
            return
        try:
            edit = add_trip(self._bench.plan, place.words, place.position)
        except EditRefused as error:
            self._bench.say(str(error), "stop")
            return
        after = edit.apply(self._bench.plan)
        trip = after.trips[-1]
        self._bench.do(together(edit.sentence, [edit, *self._along(after, trip)]))

    def take_nearest(self, key: str) -> None:
        """Take the nearest access points along, into the plan where they are not yet, as one step."""
        trip = next(item for item in self._bench.plan.trips if item.key == key)
        steps = self._along(self._bench.plan, trip)
        if not steps:
            self._bench.say("The directory knows nothing near there. Import one, or add access points by hand.")
        elif not self._bench.do(together(f"Take the nearest along on {trip.name}", steps)):
            self._bench.say(f"The nearest go along on {trip.name} already.")

    def _along(self, plan: Plan, trip: Trip) -> list[Edit]:
        """The edits that take the nearest access points into the plan and along."""
        near = nearest(self._directory.store, Position(trip.lat, trip.lon), _ALONG)
        if not near:
            return []
        try:
            edit, _haul, keys = take_entries(plan, [item.entry for item in near])
            return [edit, take_along(trip, keys.values())]
        except EditRefused:
            known = [found.access.key for item in near if (found := match(plan, item.entry.key, item.entry.access))]
            return [take_along(trip, known)]

    def _ask_calendar(self, trip: Trip) -> None:
        suggested = f"{path_name(trip.key, 'trip')}.ics"
        place = ask_place(self, "Save the trip as a calendar", suggested, "iCalendar (*.ics)", ".ics")
        if place is not None:
            self.save_calendar(place, trip)

    def save_calendar(self, place: FilePlace, trip: Trip) -> None:
        """Write a trip as iCalendar; a refusal is said."""
        if not trip.begins:
            self._bench.say("Give the trip its first day first.", "stop")
            return
        save_file(self._bench, place, lambda: trip_ics(trip))


def _tick(trip: Trip, at: int, done: bool) -> Edit:
    reminders = tuple(replace(item, done=done) if place == at else item for place, item in enumerate(trip.reminders))
    word = "done" if done else "not done"
    return set_trip(trip.key, f"Mark “{trip.reminders[at].text}” as {word}", reminders=reminders)
