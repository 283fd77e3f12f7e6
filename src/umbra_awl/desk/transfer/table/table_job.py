"""A table day in the background: the plugged-in radio is read and recognised, written for its owner, proven, ticked off."""

import threading
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QTimer

from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.carry import Compared, Follow, Phase
from umbra_awl.core.transfer.held import shelves_of
from umbra_awl.core.transfer.shelf import Shelf, print_of
from umbra_awl.core.transfer.table.roster import Roster, Seat, read_roster, roster_file, seats
from umbra_awl.core.transfer.way import Cable, by_cable
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.transfer.long_job import LongJob
from umbra_awl.desk.transfer.table.seat_transfer import Plugged, SeatTransfer

LOOK_MS = 300
SHELF = "table"
_BUSY = "A radio of the table is being read or written. Stop it first, or wait until it is proven."


class TableJob(LongJob):
    """One radio at a time, at one port."""

    def __init__(self, bench: Workbench, runner: Runner) -> None:
        super().__init__(bench)
        self.transfer = SeatTransfer(self)
        self.runner = runner
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
        self.comparisons: Compared | None = None
        self.compared_of: tuple[int, str, bool] = (0, "", True)
        self._cancel = threading.Event()
        self._watch = QTimer(self)
        self._watch.setInterval(LOOK_MS)
        self._watch.timeout.connect(self.look)
        bench.document_changed.connect(self.begin)
        bench.results_changed.connect(self.refresh)

    @property
    def port(self) -> str:
        """The port of the table: the chosen radio's."""
        return self.runner.port

    def begin(self) -> None:
        """Take up the list where it was left, also after a restart."""
        document = self.bench.document
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
            self.transfer.read()

    def refresh(self) -> None:
        """Work the seats out anew, in the background."""
        if self.bench.document is None or not self._awake:
            return  # nobody looks: it is done when the page comes into sight
        basis, profiles = self.bench.worked.basis, self.bench.profiles
        known = {
            radio.profile: profiles[radio.profile] for radio in basis.index.plan.radios if radio.profile in profiles
        }

        def work() -> dict[str, Memory]:
            return {
                radio.key: fit(basis.index, radio, known[radio.profile]).memory
                for radio in basis.index.plan.radios
                if radio.profile in known
            }

        self.bench.jobs.latest("table", work, self._take_memories)

    def _take_memories(self, memories: dict[str, Memory]) -> None:
        self.memories = memories
        self.seat_of()

    def seat_of(self) -> None:
        prints = {key: print_of(memory) for key, memory in self.memories.items()}
        self.seats = seats(self.bench.index, self.roster, prints)
        self.changed.emit()

    def of_profile(self, profile: Profile) -> list[Seat]:
        """The seats of one kind of radio."""
        return [seat for seat in self.seats if seat.profile == profile.key]

    def choose(self, radio: str) -> None:
        """Offer the radio that is plugged in to another seat."""
        self.chosen = radio
        self.transfer.compare()
        self.changed.emit()

    def take_own(self, *, keep: bool) -> None:
        """Keep a radio's own channels behind the plan's, or let them go on purpose."""
        self.keep_own = keep
        self.transfer.compare()
        self.changed.emit()

    @property
    def seat(self) -> Seat | None:
        """The seat that the radio is to be written for."""
        return next((seat for seat in self.seats if seat.radio == self.chosen), None)

    def way(self, profile: Profile) -> Cable | None:
        document = self.bench.document
        if document is None:
            return None
        return by_cable(self.port, profile, Shelf(shelves_of(document.real) / SHELF))

    def cancel(self) -> None:
        """Stop at the next block."""
        self._cancel.set()

    def set_out(self, phase: Phase, work: Callable[[Follow], Any], done: Callable[[Any], None]) -> None:
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
            self.bench.jobs.tell(partial(self._progress, phase, done / max(total, 1)))

    def _progress(self, phase: Phase, share: float) -> None:
        if self.running:
            self.phase, self.share = phase, share
            self.changed.emit()
