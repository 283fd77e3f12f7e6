"""The phone's list taken, merged, handed over and proven, in the background."""

from pathlib import Path
from typing import Literal

from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.transfer.app.carry import AppTaken, hand_over, take
from umbra_awl.core.transfer.app.form import AppList, read_app_file
from umbra_awl.core.transfer.app.merge import key_of
from umbra_awl.core.transfer.app.phone import MirroredFront, SimulatedPhone
from umbra_awl.core.transfer.errors import StaleError, TransferError
from umbra_awl.core.transfer.interlock import lines_that_must_not_send, refusal
from umbra_awl.desk.held.reckoning import Basis
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.transfer.long_job import LongJob

_BUSY = "A list is on its way to the phone. Wait for it."
AppStand = Literal["start", "taken", "proven"]


class AppJob(LongJob):
    """One phone at a time."""

    def __init__(self, bench: Workbench, runner: Runner) -> None:
        super().__init__(bench)
        self._runner = runner
        self.taken: AppTaken | None = None
        self._basis: Basis | None = None
        self.front = MirroredFront()
        self.friend: AppList | None = None
        self.proven = False
        bench.radio_changed.connect(self.forget)
        bench.results_changed.connect(self.changed)

    def forget(self) -> None:
        """Begin anew, for another radio."""
        if not self.running:
            self.taken, self.proven, self.fault, self.success, self.front = None, False, "", "", MirroredFront()
            self.friend = None
            self.changed.emit()

    @property
    def stand(self) -> AppStand:
        """How far it has come; what was taken for another plan than the present one counts no more."""
        if self.taken is None or not self.bench.worked.holds(self._basis):
            return "start"
        return "proven" if self.proven else "taken"

    def lay_in(self, path: Path) -> None:
        """Take a friend's list from a file, to be laid in beside the plan's."""

        def done(friend: AppList) -> None:
            self.friend = friend
            self.read()

        def failed(error: Exception) -> None:
            self._fail(TransferError(f"“{path.name}” cannot be used. {plain_reason(error)}"))

        self.bench.jobs.read("friend's list", read_app_file, path, done=done, failed=failed)

    def read(self) -> None:
        """Take the phone's list and merge the plan into it; nothing is changed there."""
        radio, profile, fit, shelf = self.bench.radio, self._runner.profile, self.bench.fit, self._runner.shelf()
        phone = SimulatedPhone(self._runner.ways.phone)
        if self.running or radio is None or profile is None or fit is None or shelf is None:
            return
        if not phone.address:
            self._fail(TransferError("No phone is chosen. Give the address that its app shows."))
            return
        self._basis, self.proven = self.bench.worked.basis, False
        memory, friend = fit.memory, self.friend

        def work() -> tuple[AppTaken, MirroredFront]:
            taken = take(phone, memory, radio, profile, shelf, self.bench.clock.local(), friend=friend)
            return taken, phone.front()

        self._run(_BUSY, work, self._take_read)

    def _take_read(self, result: tuple[AppTaken, MirroredFront]) -> None:
        self.taken, self.front = result
        self.success = "The phone's list is taken; a copy is kept. Nothing is changed there yet."

    def write(self) -> None:
        """Hand the merged list over: the app overwrites its own and the radio's after one yes, which is given here."""
        taken, shelf = self.taken, self._runner.shelf()
        if self.stand != "taken" or taken is None or shelf is None:
            return
        phone, index = SimulatedPhone(self._runner.ways.phone), self.bench.index
        radio = self.bench.radio
        if radio is None:
            return

        def work() -> MirroredFront:
            station, known = index.owners.station_of(radio), set(map(key_of, taken.present.access_list))
            fresh = [row for row in taken.merge.made.access_list if key_of(row) not in known]
            held = list(lines_that_must_not_send(station, fresh))
            if held:
                raise StaleError(refusal(held))
            hand_over(phone, taken, shelf)
            return phone.front()

        self._run(_BUSY, work, self._take_written)

    def _take_written(self, front: MirroredFront) -> None:
        self.front, self.proven = front, True
        self.success = "Proven: what the app mirrors of the radio is what was handed over."

    def _let_go(self) -> None:
        self.taken = None
