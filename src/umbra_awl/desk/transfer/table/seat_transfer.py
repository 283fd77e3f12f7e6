"""One radio of the table read, compared and written."""

from datetime import datetime
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.carry import Compared, Follow, HeldMemory, compare
from umbra_awl.core.transfer.errors import StaleError, TransferError
from umbra_awl.core.transfer.held import shelf_of
from umbra_awl.core.transfer.interlock import must_not_send, refusal
from umbra_awl.core.transfer.sense import emptied, senseless
from umbra_awl.core.transfer.shelf import print_of
from umbra_awl.core.transfer.table.keep_own import with_own
from umbra_awl.core.transfer.table.recognise import Recognised, recognise
from umbra_awl.core.transfer.table.roster import Done, Seat, roster_file, write_roster
from umbra_awl.core.transfer.way import Cable
from umbra_awl.desk.held.reckoning import Basis
from umbra_awl.desk.parts.cards.kept_names import keep_names

if TYPE_CHECKING:
    from umbra_awl.desk.transfer.table.table_job import TableJob


class Plugged(NamedTuple):
    """The radio on the port: what was read of it, who it is offered to, and the plan and profile it was compared under."""

    held: HeldMemory
    found: Recognised
    basis: Basis
    profile: Profile
    nonsense: str = ""


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


class SeatTransfer:
    """Transfers for a table."""

    def __init__(self, owner: "TableJob") -> None:
        self._table = owner

    def read(self) -> None:
        """Read the radio that is plugged in, keep a backup, and say whose it is."""
        profile = self._table.runner.profile
        way = self._table.way(profile) if profile is not None else None
        if self._table.running or way is None or profile is None:
            return
        if why_not := way.why_not():
            self._table.fault = why_not
            self._table.changed.emit()
            return
        self._table.plugged, self._table.chosen, self._table.proven_now = None, "", False
        basis, roster = self._table.bench.worked.basis, self._table.roster
        there, planned = self._table.of_profile(profile), list(self._table.memories.values())

        def work(follow: Follow) -> Plugged:
            held = way.read(self._table.bench.clock.local(), follow)
            nonsense = senseless(held.memory) if held.state == "known" else ""
            memory = emptied(held.memory) if nonsense else held.memory
            found = recognise(held.unit, memory, roster, there, planned)
            return Plugged(held._replace(memory=memory), found, basis, profile, nonsense)

        self._table.set_out("read", work, self._take_read)

    def _take_read(self, plugged: Plugged) -> None:
        self._table.plugged = plugged
        self._table.chosen = plugged.found.seat.radio if plugged.found.seat is not None else ""
        self._table.keep_own = True
        self.compare()

    @property
    def compared(self) -> Compared | None:
        """What would be written, as long as it is of this radio, this owner and the present plan."""
        plugged, seat = self._table.plugged, self._table.seat
        if plugged is None or seat is None or not self._table.bench.worked.holds(plugged.basis):
            return None
        return (
            self._table.comparisons
            if self._table.compared_of == (id(plugged), seat.radio, self._table.keep_own)
            else None
        )

    def compare(self) -> None:
        """Work out what would be written for the chosen owner, in the background."""
        plugged, seat = self._table.plugged, self._table.seat
        if plugged is None or seat is None or self._table.running or seat.radio not in self._table.memories:
            return
        memory, of = self._memory_for(plugged, seat), (id(plugged), seat.radio, self._table.keep_own)

        def work() -> Compared | None:
            try:
                return compare(plugged.held, memory, plugged.profile)
            except TransferError:
                return None

        def take(made: Compared | None) -> None:
            self._table.comparisons, self._table.compared_of = made, of
            self._table.changed.emit()

        self._table.bench.jobs.latest("table-compare", work, take)

    def _memory_for(self, plugged: Plugged, seat: Seat) -> Memory:
        memory, own = self._table.memories[seat.radio], plugged.found.own
        if not self._table.keep_own or not own:
            return memory
        index = self._table.bench.index
        station = index.owners.station_of(index.radios[seat.radio])
        return with_own(memory, own, plugged.held.memory, plugged.profile, station)

    def write(self) -> None:
        """Write the radio for the chosen owner and prove it; with the proof it is ticked off."""
        plugged, seat = self._table.plugged, self._table.seat
        if self._table.running or plugged is None or seat is None:
            return
        if not self._table.bench.worked.holds(plugged.basis):
            self._table.fault = "The plan has changed since the radio was read. Read it again; nothing was written."
            self._table.plugged = None
            self._table.changed.emit()
            return
        way, index, radio = (
            self._table.way(plugged.profile),
            self._table.bench.index,
            self._table.bench.index.radios[seat.radio],
        )
        document = self._table.bench.document
        if way is None or document is None:
            return
        own = plugged.found.own if self._table.keep_own else ()
        work = partial(_written, way, plugged, own, (index, radio, document.real), self._table.bench.clock.local())
        self._table.set_out("write", work, partial(self._take_written, seat, plugged))

    def _take_written(self, seat: Seat, plugged: Plugged, written: tuple[int, str]) -> None:
        sent, holds = written
        now = f"{self._table.bench.clock.local():%Y-%m-%d %H:%M}"
        done = Done(seat.radio, plugged.held.unit, now, holds)
        self._table.roster = self._table.roster.with_done(done)
        self._table.proven_now = True
        left = sum(item.state != "done" for item in self._table.of_profile(plugged.profile)) - (seat.state != "done")
        after = f"{left} to go: plug the next one in." if left else "All of this kind are done."
        self._table.success = (
            f"Proven: {seat.call}, {sent:,} bytes written, everything read back and found equal. {after}"
        )
        document = self._table.bench.document
        if document is not None:
            try:
                write_roster(roster_file(document.real), self._table.roster)
            except TransferError as error:
                self._table.fault = str(error)
        keep_names(self._table.bench, seat.radio)
        self._table.seat_of()
