"""What was read from a radio compared with the plan, off the interface thread."""

from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.transfer.carry import Compared, HeldMemory, compare
from umbra_awl.core.transfer.errors import TransferError
from umbra_awl.core.transfer.sense import emptied
from umbra_awl.core.transfer.shelf import print_of
from umbra_awl.desk.held.reckoning import Basis

if TYPE_CHECKING:
    from umbra_awl.desk.runs.runner import Runner


class Comparison(NamedTuple):
    """A comparison with what it is of: the plan and profiles, the radio, the reading."""

    basis: Basis | None
    radio: str
    held: HeldMemory
    compared: Compared


class Comparing:
    """Compares for a runner."""

    def __init__(self, owner: "Runner") -> None:
        self._runner = owner
        self.newest: Comparison | None = None

    @property
    def compared(self) -> Compared | None:
        """The comparison, as long as plan, profiles, radio and reading are those it was made of."""
        made = self.newest
        if made is None or made.held is not self._runner.held or made.radio != self._runner.bench.radio_key:
            return None
        return made.compared if self._runner.bench.worked.holds(made.basis) else None

    @property
    def comparing(self) -> bool:
        """Whether a radio was read and its comparison with the present plan is still being worked out."""
        return (
            self._runner.held is not None
            and not self._runner.senseless
            and self.compared is None
            and not self._runner.bench.worked.failed(self._runner.bench.radio_key)
        )

    def compare(self) -> None:
        """Compare what was read with the plan's newest fit, off the interface thread."""
        held, profile, fit = self._runner.held, self._runner.profile, self._runner.bench.fit
        if self._runner.running or held is None:
            return
        if self._runner.senseless:
            self._runner.changed.emit()
            return
        if profile is None or fit is None:
            self._runner.changed.emit()
            return
        memory, basis, radio = fit.memory, self._runner.bench.worked.basis, self._runner.bench.radio_key
        self._runner.bench.jobs.latest(
            "compare",
            lambda: Comparison(basis, radio, held, compare(held, memory, profile)),
            self._take_comparison,
            self._runner.fail,
            lane="plan",
        )

    def _note_held(self, made: Comparison) -> None:
        """Keep beside the backups whether the radio holds the plan's memory."""
        shelf = self._runner.ways.shelf_of(made.radio)
        if shelf is None:
            return
        try:
            shelf.remember_held("" if made.compared.sheet.changes else print_of(made.compared.memory))
        except TransferError as error:
            self._runner.bench.say(str(error), "stop")

    def _take_comparison(self, made: Comparison) -> None:
        self.newest = made
        if self._runner.bench.worked.holds(made.basis):
            self._note_held(made)
            self._runner.proven_changed.emit()
        if self._runner.proven and made.compared.sheet.changes:
            self._runner.proven = False
        self._runner.changed.emit()

    def begin_anew(self) -> None:
        """Take a memory that makes no sense for an empty one; what it held is kept among the backups."""
        if self._runner.held is not None and self._runner.senseless:
            self._runner.senseless = ""
            self._runner.held = self._runner.held._replace(memory=emptied(self._runner.held.memory))
            self._runner.success = "It is begun anew; what it held before is kept among the backups."
            self.compare()
