"""What is worked out of the plan in the background, whether it is still in force, and why there is nothing where there is not."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.known import NOTHING_KNOWN, Known
from umbra_awl.desk.held.reckoning import Basis, Reckoner, Results

if TYPE_CHECKING:
    from umbra_awl.desk.held.workbench import Workbench

_WORKING = "The plan is just being worked out anew."
_NO_FIT = "It could not be worked out what goes into this radio; a finding says why. Nothing is offered to be written or saved."


def _all(results: Results) -> Results:
    return results


class WorkedOut:
    """Has fits and findings of a workbench's plan worked out; the newest plan wins.

    `seen` is what is shown of results: all of them, unless it is practised to find what is wrong.
    """

    def __init__(self, bench: "Workbench", index: PlanIndex) -> None:
        self._bench = bench
        self.known = NOTHING_KNOWN
        self.basis = Basis(index)
        self.results = Results()
        self.trouble = ""
        self.seen: Callable[[Results], Results] = _all
        self._reckoner = Reckoner(bench.profiles.snapshot)

    def forget(self) -> None:
        """Another plan is open: nothing is known of it yet."""
        self.results = Results()

    def renew(self) -> None:
        """Begin from nothing at the next turn: the profiles, or the day, are other ones."""
        self._reckoner = Reckoner(self._bench.profiles.snapshot)

    def follow(self, index: PlanIndex) -> None:
        """Take another plan as what counts from now on; `reckon` works it out."""
        self.basis, self.trouble = Basis(index, self.known), ""

    def know(self, known: Known) -> None:
        """Take what the directory says of the plan's things, and look for findings again where it is something new."""
        if known != self.known:
            self.known = known
            self.again()

    def again(self) -> None:
        """Work out the same plan once more, on a basis of its own."""
        self.basis = Basis(self.basis.index, self.known)
        self.reckon()

    def reckon(self) -> None:
        """Have everything worked out that follows from the plan of the moment."""
        basis, reckoner, first = self.basis, self._reckoner, self._bench.radio_key
        self._bench.jobs.latest(
            "results", lambda: reckoner.reckon(basis, first), self._take, self._nothing, lane="plan"
        )

    def _take(self, results: Results) -> None:
        self.results, self.trouble = self.seen(results), ""
        self._bench.results_changed.emit()
        self._bench.repairs.do_wanted()
        self._more()

    def _more(self) -> None:
        """Fit the radios that are still waiting, one after another, the chosen one first; an edit comes between."""
        results, reckoner, chosen = self.results, self._reckoner, self._bench.radio_key
        if results.waiting and self.fresh:
            key = chosen if chosen in results.waiting else results.waiting[0]
            self._bench.jobs.latest(
                "results", lambda: reckoner.more(results, key), self._take_more, self._nothing, lane="plan"
            )

    def _take_more(self, results: Results) -> None:
        radio = self._bench.radio_key
        chosen = radio in self.results.waiting and radio not in results.waiting
        self.results = self.seen(results)
        if chosen or not results.waiting:
            self._bench.results_changed.emit()
        self._more()

    def _nothing(self, error: Exception) -> None:
        """Nothing could be worked out: what there is stays marked as of another plan, and is not used."""
        self._bench.repairs.forget()
        self.trouble = (
            f"The plan could not be worked out ({type(error).__name__}): nothing is written, printed or saved from it. Undo the "
            "last edit; “Copy what happened” puts what is needed to mend it on the clipboard."
        )
        self._bench.say(self.trouble, "stop")
        self._bench.results_changed.emit()

    @property
    def fresh(self) -> bool:
        """Whether the results are of the present plan and profiles."""
        return self.results.basis is self.basis

    def holds(self, basis: Basis | None) -> bool:
        """Whether something made of a basis is still in force."""
        return basis is self.basis

    def may_use(self, basis: Basis | None) -> bool:
        """The same for something that is to be written, printed or saved: where it is not in force, that is said."""
        if self.holds(basis):
            return True
        self._bench.say(f"{self.trouble or _WORKING} Nothing was written; look again and repeat.", "stop")
        return False

    def failed(self, radio_key: str) -> bool:
        """Whether nothing can be known about a radio: the plan, or its fit, could not be worked out."""
        done = self.fresh and radio_key not in self.results.waiting
        return bool(self.trouble) or (done and radio_key not in self.results.fits)

    def waiting_words(self, radio_key: str) -> str:
        """Why there is nothing on a radio just now; empty when there is."""
        if self.trouble:
            return self.trouble
        if not self.fresh or radio_key in self.results.waiting:
            return _WORKING
        return _NO_FIT if radio_key not in self.results.fits else ""
