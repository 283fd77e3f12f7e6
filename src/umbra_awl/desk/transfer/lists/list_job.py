"""What goes into a radio beside its memory, its people or its list around: made and carried in the background."""

import threading
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any, NamedTuple

from PyQt6.QtCore import pyqtSignal

from umbra_awl.core.directory.people import people_listed_on
from umbra_awl.core.fit.people import choose_people, firmware_fault, transfer_seconds
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.core.transfer.around.carry import AroundFound, around_found
from umbra_awl.core.transfer.around.rows import HEADINGS, around_csv, around_list, sources_in
from umbra_awl.core.transfer.carry import Follow, Phase
from umbra_awl.core.transfer.pace import Pace, pace
from umbra_awl.core.transfer.people.mark import PeopleMark, people_mark
from umbra_awl.core.transfer.people.records import people_bytes
from umbra_awl.core.transfer.way import Cable
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.transfer.lists.list_writing import ChosenList, ListWriting
from umbra_awl.desk.transfer.long_job import LongJob

_TELL_EVERY_S = 0.08
_AROUND_SHOWN = (0, 1, 3, 4, 5, 6)
"""Of a line of the list around: name, call sign, frequencies, mode, tone; the rest has no room on a small screen."""
_PEOPLE_HEADS = ("Call sign", "Name", "Place", "Country")


class _Wish(NamedTuple):
    """What the list around is to hold: FM ones too, and of which directories (none: all)."""

    fm: bool
    sources: frozenset[str]


class ListJob(LongJob):
    """One list at a time."""

    progressed = pyqtSignal()

    def __init__(self, bench: Workbench, runner: Runner, directory: Directory) -> None:
        super().__init__(bench)
        self.writing = ListWriting(self)
        self.runner, self.directory = runner, directory
        self._cancel = threading.Event()
        self.chosen: ChosenList | None = None
        self.found = AroundFound()
        self.mark = PeopleMark()
        self.phase: Phase | None = None
        self.pace, self.share = Pace(), 0.0
        self._told = self._begun = 0.0
        self._awake = False
        self.with_fm = True
        self.sources: frozenset[str] = frozenset()
        for signal in (bench.radio_changed, bench.plan_changed, directory.changed):
            signal.connect(self.refresh)
        directory.look()

    def take_fm(self, *, wanted: bool) -> None:
        """Take FM access points into the list around, or not."""
        self.with_fm = wanted
        self.refresh()

    def watch(self, *, on: bool) -> None:
        """Choose anew only while somebody looks: a quarter of a million people are not gone through for a hidden page."""
        self._awake = on
        if on:
            self.refresh()

    def directories(self) -> list[tuple[str, int]]:
        """The directories that the list around can be filled from, with their sizes; none where the store cannot be read."""
        try:
            return sources_in(self.directory.store)
        except SourceError as error:
            self.bench.say(str(error), "stop")
            return []

    def take_from(self, source: str) -> None:
        """Fill the list around from one directory more or less; none chosen means all."""
        self.sources ^= {source}
        self.refresh()

    def refresh(self) -> None:
        """Choose anew, in the background."""
        radio, profile = self.bench.radio, self.runner.profile
        if self.running or radio is None or profile is None or self.bench.document is None or not self._awake:
            return
        self.fault = self.success = ""
        work = partial(self._make, self.bench.index, radio, profile, _Wish(self.with_fm, self.sources))
        self.bench.jobs.latest("list", work, self._take)

    def _make(self, index: PlanIndex, radio: OwnedRadio, profile: Profile, wish: _Wish) -> ChosenList | str:
        try:
            if profile.people is not None:
                return self._people(index, radio, profile)
            return self._around(index, radio, profile, wish)
        except SourceError as error:
            return str(error)

    def _people(self, index: PlanIndex, radio: OwnedRadio, profile: Profile) -> ChosenList:
        store = self.directory.store
        found = choose_people(store, index, radio, profile)
        shown = [(item.call, item.name, item.place, item.country) for item in found.rows[:200]]
        day = people_listed_on(store)
        fault = firmware_fault(profile, radio, found.wanted)
        body = people_bytes(found.rows, profile)
        seconds = transfer_seconds(len(found.rows), profile)
        return ChosenList(radio.key, True, body, _PEOPLE_HEADS, shown, len(found.rows), found.room, day, fault, seconds)

    def _around(self, index: PlanIndex, radio: OwnedRadio, profile: Profile, wish: _Wish) -> ChosenList:
        place = self.directory.place
        card = profile.card
        if place is None or card is None or card.around is None:
            return ChosenList(radio.key, False, b"", HEADINGS, [], 0, 0, "")
        station = index.owners.station_of(radio)
        store = self.directory.store
        made = around_list(store, place.position, profile, station, fm=wish.fm, sources=wish.sources)
        words = (
            f"The nearest {len(made.lines):,}, as far as {made.far_km:,.0f} km from {place.words}."
            if made.lines
            else ""
        )
        body, day = around_csv(made), self.bench.clock.today().isoformat()
        shown = [tuple(line[at] for at in _AROUND_SHOWN) for line in made.lines[:200]]
        heads = tuple(HEADINGS[at] for at in _AROUND_SHOWN)
        return ChosenList(radio.key, False, body, heads, shown, len(made.lines), made.room, day, words=words)

    def _take(self, made: ChosenList | str) -> None:
        if isinstance(made, str):
            self.fault, self.chosen = made, None
        else:
            self.chosen = made if made.radio == self.bench.radio_key else self.chosen
        self.look()

    def look(self) -> None:
        """See, in the background, what is known of the list in the radio."""
        shelf, profile, chosen = self.runner.shelf(), self.runner.profile, self.chosen
        if shelf is None or profile is None:
            return
        card, looker = self.runner.ways.card, self.runner.ways.looker

        def work() -> tuple[PeopleMark, AroundFound]:
            view = looker.look(Path(card), profile) if profile.by_card and card and chosen is not None else None
            found = around_found(view, chosen.body) if view is not None and chosen is not None else AroundFound()
            return people_mark(shelf), found

        self.bench.jobs.latest("list-held", work, self._take_held)

    def _take_held(self, held: tuple[PeopleMark, AroundFound]) -> None:
        self.mark, self.found = held
        self.changed.emit()

    def go(self) -> None:
        """Write the people by cable, or lay the list around onto the card."""
        chosen, way, radio = self.chosen, self.runner.ways.way(), self.bench.radio
        if self.running or self.runner.running or chosen is None or way is None or radio is None:
            return
        if why_not := way.why_not():
            self.fault = why_not
            self.changed.emit()
            return
        if isinstance(way, Cable):
            self._begin(radio, partial(self.writing.write_people, way, chosen, radio), self.writing.people_written)
        else:
            self._begin(radio, partial(self.writing.send_around, chosen), self.writing.around_sent)

    def _begin(self, radio: OwnedRadio, work: Callable[[Follow], Any], done: Callable[[Any], None]) -> None:
        self._cancel.clear()
        self.phase, self.share, self.pace = "read", 0.0, Pace()
        self._begun = time.monotonic()
        follow = Follow(self._tell, self._cancel.is_set)
        busy = f"A list is on its way into the {radio.name}. Stop it first, or wait until it is proven."
        self._run(busy, lambda: work(follow), done)

    def _over(self) -> None:
        super()._over()
        self.phase = None

    def _let_go(self) -> None:
        self.look()

    def stop(self) -> None:
        """Stop at the next block; what was sent stays, and is not sent again."""
        self._cancel.set()

    def _tell(self, phase: Phase, done: int, total: int) -> None:
        now = time.monotonic()
        if phase != self.phase:
            self._begun = now
        if done == total or now - self._told > _TELL_EVERY_S:
            self._told = now
            self.bench.jobs.tell(partial(self._progress, phase, done, total, now - self._begun))

    def _progress(self, phase: Phase, done: int, total: int, seconds: float) -> None:
        if self.running:
            self.phase, self.share = phase, done / max(total, 1)
            self.pace = pace(done, total, seconds)
            self.progressed.emit()
