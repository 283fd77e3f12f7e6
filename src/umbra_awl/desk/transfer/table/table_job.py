"""A table day in the background: the plugged-in radio is read and recognised, written for its owner, proven, ticked off."""

import threading
from collections.abc import Callable
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Any, NamedTuple

from PyQt6.QtCore import QTimer

from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.carry import Compared, Follow, HeldMemory, Phase, compare
from umbra_awl.core.transfer.errors import StaleError, TransferError
from umbra_awl.core.transfer.held import shelf_of, shelves_of
from umbra_awl.core.transfer.interlock import must_not_send, refusal
from umbra_awl.core.transfer.sense import emptied, senseless
from umbra_awl.core.transfer.shelf import Shelf, print_of
from umbra_awl.core.transfer.table.keep_own import with_own
from umbra_awl.core.transfer.table.recognise import Recognised, recognise
from umbra_awl.core.transfer.table.roster import Done, Roster, Seat, read_roster, roster_file, seats, write_roster
from umbra_awl.core.transfer.way import Cable, by_cable
from umbra_awl.desk.parts.cards.kept_names import keep_names
from umbra_awl.desk.reckoning import Basis
from umbra_awl.desk.runner import Runner
from umbra_awl.desk.transfer.long_job import LongJob
from umbra_awl.desk.workbench import Workbench

LOOK_MS = 300
SHELF = "table"
_BUSY = "A radio of the table is being read or written. Stop it first, or wait until it is proven."


class Plugged(NamedTuple):
    """The radio on the port: what was read of it, who it is offered to, and the plan and profile it was compared under."""

    held: HeldMemory
    found: Recognised
    basis: Basis
    profile: Profile
    nonsense: str = ""


class TableJob(LongJob):
    """One radio at a time, at one port."""

    def __init__(self, bench: Workbench, runner: Runner) -> None:
        super().__init__(bench)
        self._runner = runner
        self.roster = Roster()
        self.seats: tuple[Seat, ...] = ()
        self.memories: dict[str, Memory] = {}
        self.plugged: Plugged | None = None
        self.chosen = ""
        self.keep_own = True
        self.phase: Phase | None = None
        self.share = 0.0
        self.proven_now = False
        self._there = self._awake = False
        self._compared: Compared | None = None
        self._compared_of: tuple[int, str, bool] = (0, "", True)
        self._cancel = threading.Event()
        self._watch = QTimer(self)
        self._watch.setInterval(LOOK_MS)
        self._watch.timeout.connect(self.look)
        bench.document_changed.connect(self.begin)
        bench.results_changed.connect(self.refresh)

    @property
    def port(self) -> str:
        """The port of the table: the chosen radio's."""
        return self._runner.port

    def begin(self) -> None:
        """Take up the list where it was left, also after a restart."""
        document = self._bench.document
        self.plugged, self.chosen, self.fault, self.success = None, "", "", ""
        self.roster = read_roster(roster_file(document.real)) if document is not None else Roster()
        self.refresh()

    def watch(self, *, on: bool) -> None:
        """Watch the port while the page is shown: a radio that is plugged in is read by itself."""
        self._awake = on
        if on:
            self.refresh()
            self._there = bool(self.port) and Path(self.port).exists()
            self._watch.start()
        else:
            self._watch.stop()

    def look(self) -> None:
        """See whether a radio was plugged in or taken away."""
        there = bool(self.port) and Path(self.port).exists()
        came, self._there = there and not self._there, there
        if not there and not self.running and self.plugged is not None and self.proven_now:
            self.plugged, self.success, self.proven_now = None, "", False
            self.changed.emit()
        if came and not self.running:
            self.read()

    def refresh(self) -> None:
        """Work the seats out anew, in the background."""
        if self._bench.document is None or not self._awake:
            return  # nobody looks: it is done when the page comes into sight
        basis, profiles = self._bench.worked.basis, self._bench.profiles
        known = {
            radio.profile: profiles[radio.profile] for radio in basis.index.plan.radios if radio.profile in profiles
        }

        def work() -> dict[str, Memory]:
            return {
                radio.key: fit(basis.index, radio, known[radio.profile]).memory
                for radio in basis.index.plan.radios
                if radio.profile in known
            }

        self._bench.jobs.latest("table", work, self._take_memories)

    def _take_memories(self, memories: dict[str, Memory]) -> None:
        self.memories = memories
        self._seat()

    def _seat(self) -> None:
        prints = {key: print_of(memory) for key, memory in self.memories.items()}
        self.seats = seats(self._bench.index, self.roster, prints)
        self.changed.emit()

    def of_profile(self, profile: Profile) -> list[Seat]:
        """The seats of one kind of radio."""
        return [seat for seat in self.seats if seat.profile == profile.key]

    def choose(self, radio: str) -> None:
        """Offer the radio that is plugged in to another seat."""
        self.chosen = radio
        self._compare()
        self.changed.emit()

    def take_own(self, *, keep: bool) -> None:
        """Keep a radio's own channels behind the plan's, or let them go on purpose."""
        self.keep_own = keep
        self._compare()
        self.changed.emit()

    @property
    def seat(self) -> Seat | None:
        """The seat that the radio is to be written for."""
        return next((seat for seat in self.seats if seat.radio == self.chosen), None)

    def _way(self, profile: Profile) -> Cable | None:
        document = self._bench.document
        if document is None:
            return None
        return by_cable(self.port, profile, Shelf(shelves_of(document.real) / SHELF))

    def read(self) -> None:
        """Read the radio that is plugged in, keep a backup, and say whose it is."""
        profile = self._runner.profile
        way = self._way(profile) if profile is not None else None
        if self.running or way is None or profile is None:
            return
        if why_not := way.why_not():
            self.fault = why_not
            self.changed.emit()
            return
        self.plugged, self.chosen, self.proven_now = None, "", False
        basis, roster = self._bench.worked.basis, self.roster
        there, planned = self.of_profile(profile), list(self.memories.values())

        def work(follow: Follow) -> Plugged:
            held = way.read(self._bench.clock.local(), follow)
            nonsense = senseless(held.memory) if held.state == "known" else ""
            memory = emptied(held.memory) if nonsense else held.memory
            found = recognise(held.unit, memory, roster, there, planned)
            return Plugged(held._replace(memory=memory), found, basis, profile, nonsense)

        self._begin("read", work, self._take_read)

    def _take_read(self, plugged: Plugged) -> None:
        self.plugged = plugged
        self.chosen = plugged.found.seat.radio if plugged.found.seat is not None else ""
        self.keep_own = True
        self._compare()

    @property
    def compared(self) -> Compared | None:
        """What would be written, as long as it is of this radio, this owner and the present plan."""
        plugged, seat = self.plugged, self.seat
        if plugged is None or seat is None or not self._bench.worked.holds(plugged.basis):
            return None
        return self._compared if self._compared_of == (id(plugged), seat.radio, self.keep_own) else None

    def _compare(self) -> None:
        """Work out what would be written for the chosen owner, in the background."""
        plugged, seat = self.plugged, self.seat
        if plugged is None or seat is None or self.running or seat.radio not in self.memories:
            return
        memory, of = self._memory_for(plugged, seat), (id(plugged), seat.radio, self.keep_own)

        def work() -> Compared | None:
            try:
                return compare(plugged.held, memory, plugged.profile)
            except TransferError:
                return None

        def take(made: Compared | None) -> None:
            self._compared, self._compared_of = made, of
            self.changed.emit()

        self._bench.jobs.latest("table-compare", work, take)

    def _memory_for(self, plugged: Plugged, seat: Seat) -> Memory:
        memory, own = self.memories[seat.radio], plugged.found.own
        if not self.keep_own or not own:
            return memory
        index = self._bench.index
        station = index.owners.station_of(index.radios[seat.radio])
        return with_own(memory, own, plugged.held.memory, plugged.profile, station)

    def write(self) -> None:
        """Write the radio for the chosen owner and prove it; with the proof it is ticked off."""
        plugged, seat = self.plugged, self.seat
        if self.running or plugged is None or seat is None:
            return
        if not self._bench.worked.holds(plugged.basis):
            self.fault = "The plan has changed since the radio was read. Read it again; nothing was written."
            self.plugged = None
            self.changed.emit()
            return
        way, index, radio = self._way(plugged.profile), self._bench.index, self._bench.index.radios[seat.radio]
        document = self._bench.document
        if way is None or document is None:
            return
        own = plugged.found.own if self.keep_own else ()
        work = partial(_written, way, plugged, own, (index, radio, document.real), self._bench.clock.local())
        self._begin("write", work, partial(self._take_written, seat, plugged))

    def _take_written(self, seat: Seat, plugged: Plugged, written: tuple[int, str]) -> None:
        sent, holds = written
        now = f"{self._bench.clock.local():%Y-%m-%d %H:%M}"
        done = Done(seat.radio, plugged.held.unit, now, holds)
        self.roster = self.roster.with_done(done)
        self.proven_now = True
        left = sum(item.state != "done" for item in self.of_profile(plugged.profile)) - (seat.state != "done")
        after = f"{left} to go: plug the next one in." if left else "All of this kind are done."
        self.success = f"Proven: {seat.call}, {sent:,} bytes written, everything read back and found equal. {after}"
        document = self._bench.document
        if document is not None:
            try:
                write_roster(roster_file(document.real), self.roster)
            except TransferError as error:
                self.fault = str(error)
        keep_names(self._bench, seat.radio)
        self._seat()

    def cancel(self) -> None:
        """Stop at the next block."""
        self._cancel.set()

    def _begin(self, phase: Phase, work: Callable[[Follow], Any], done: Callable[[Any], None]) -> None:
        self._cancel.clear()
        self.phase, self.share = phase, 0.0
        follow = Follow(self._tell, self._cancel.is_set)
        self._run(_BUSY, lambda: work(follow), done)

    def _over(self) -> None:
        super()._over()
        self.phase = None

    def _let_go(self) -> None:
        self.plugged = None

    def _tell(self, phase: Phase, done: int, total: int) -> None:
        if done == total or done % 8_192 < 512:
            self._bench.jobs.tell(partial(self._progress, phase, done / max(total, 1)))

    def _progress(self, phase: Phase, share: float) -> None:
        if self.running:
            self.phase, self.share = phase, share
            self.changed.emit()


def _written(
    way: Cable,
    plugged: Plugged,
    own: tuple[Channel, ...],
    of: tuple[PlanIndex, OwnedRadio, Path],
    now: datetime,
    follow: Follow,
) -> tuple[int, str]:
    """Fit the plan of this moment, look once more what would send, write, prove, and note on the owner's shelf what it holds.

    The bytes sent, and the print of the plan's memory.
    """
    index, radio, plan_file = of
    planned = fit(index, radio, plugged.profile).memory
    memory = with_own(planned, own, plugged.held.memory, plugged.profile, index.owners.station_of(radio))
    held = must_not_send(index, radio, plugged.profile, memory)
    if held:
        raise StaleError(refusal(held))
    compared = compare(plugged.held, memory, plugged.profile)
    written = way.write(plugged.held, compared, follow)
    shelf = shelf_of(plan_file, radio.key)
    shelf.keep(compared.memory, written.image, now, plugged.held.unit)
    shelf.remember_unit(plugged.held.unit)
    shelf.remember_held(print_of(planned))
    return written.sent, print_of(planned)
