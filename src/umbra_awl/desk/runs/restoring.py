"""A backup written back into a radio."""

from functools import partial
from typing import TYPE_CHECKING

from umbra_awl.core.transfer.carry import Follow, WrittenMemory
from umbra_awl.core.transfer.errors import OtherUnitError
from umbra_awl.core.transfer.shelf import Backup
from umbra_awl.core.transfer.way import Way

if TYPE_CHECKING:
    from umbra_awl.desk.runs.runner import Runner


SENT = "Sent: “{}” lies on the card, {:,} bytes, read back from there and found equal. The radio has yet to take it."


class Restoring:
    """Restores for a runner."""

    def __init__(self, owner: "Runner") -> None:
        self._runner = owner

    def restore(self, backup: Backup, *, other_unit: bool = False) -> None:
        """Bring a backup back into the radio; what it holds now is kept first."""
        self._runner.let_go()

        def work(way: Way, follow: Follow) -> WrittenMemory:
            try:
                return way.restore(backup, self._runner.bench.clock.local(), follow, other_unit=other_unit)
            except OtherUnitError as error:
                self._runner.bench.jobs.tell(partial(self._offer_other, backup, str(error)))
                raise

        self._runner.run("read", work, partial(self._take_restored, backup))

    def _offer_other(self, backup: Backup, fault: str) -> None:
        """A backup of another radio: restoring it all the same is a decision of the operator's."""
        self._runner.other = backup
        self._runner.fault = fault

    def _take_restored(self, backup: Backup, written: WrittenMemory) -> None:
        self._runner.success = (
            f"Restored: the radio holds the memory of {backup.when} again, read back and found equal."
        )
        if not written.proven:
            self._runner.success = SENT.format(written.name, written.sent)
        self._runner.changed.emit()
