"""What follows from a plan, worked out in the background: the fit of each radio, and the findings.

Results carry what they were made of. Whatever shows, writes, prints or exports them asks first whether that is still in force.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.findings.model import SEVERITY_ORDER, Finding
from umbra_awl.core.keep.notes import DiaryNotes
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.known import NOTHING_KNOWN, Known
from umbra_awl.core.plan.model import OwnedRadio, Plan

if TYPE_CHECKING:
    from umbra_awl.core.findings.evaluate import Evaluator
    from umbra_awl.core.fit.fitting import Fit
    from umbra_awl.core.radio.profile import Profile

_log = DiaryNotes(__name__)


class Basis:
    """What results are made of: a plan and the profiles of the moment. One is another's equal only if it is the same."""

    __slots__ = ("index", "known")

    def __init__(self, index: PlanIndex, known: Known = NOTHING_KNOWN) -> None:
        """`known` is what the directory says of the plan's things, where it was asked."""
        self.index = index
        self.known = known


AT_ONCE = 20_000
"""Up to so many routes times radios are fitted in one go; beyond it the chosen radio comes first and the others after it."""


class Results(NamedTuple):
    """What was worked out from a basis (None: nothing yet). A radio that could not be fitted has no fit; a finding says so.

    `waiting` are the radios whose turn has not come yet.
    """

    basis: Basis | None = None
    fits: "Mapping[str, Fit]" = {}  # noqa: RUF012  (read only)
    findings: tuple[Finding, ...] = ()
    silenced: tuple[Finding, ...] = ()
    waiting: tuple[str, ...] = ()

    @property
    def plan(self) -> Plan | None:
        """The plan they were made of."""
        return self.basis.index.plan if self.basis is not None else None


class Reckoner:
    """Works out results, and remembers what the next ones can use again. For one thread at a time."""

    def __init__(self, profiles: "Callable[[], Mapping[str, Profile]]") -> None:
        """`profiles` gives the profiles of the moment; they are taken once, when first needed."""
        self._take_profiles = profiles
        self._profiles: Mapping[str, Profile] | None = None
        self._evaluator: Evaluator | None = None

    def reckon(self, basis: Basis, first: str = "") -> Results:
        """What follows from a basis: the findings, and the fits, of a big plan only that of the radio `first`.

        What it needs is imported here, in the background.
        """
        from umbra_awl.core.findings.evaluate import Evaluator

        if self._profiles is None:
            self._profiles = dict(self._take_profiles())
        if self._evaluator is None:
            self._evaluator = Evaluator(self._profiles)
        plan = basis.index.plan
        wanted = tuple(radio.key for radio in plan.radios if radio.profile in self._profiles)
        at_once = wanted if len(plan.routes) * len(wanted) <= AT_ONCE else tuple(key for key in wanted if key == first)
        waiting = tuple(key for key in wanted if key not in at_once)
        results = self._with_fits(Results(basis, waiting=waiting), at_once)
        found = (*results.findings, *self._evaluator.evaluate(basis.index, basis.known))
        return results._replace(findings=_ordered(found), silenced=self._evaluator.silenced)

    def more(self, results: Results, key: str) -> Results:
        """The results with one of the waiting radios fitted as well."""
        left = tuple(item for item in results.waiting if item != key)
        return self._with_fits(results._replace(waiting=left), (key,))

    def _with_fits(self, results: Results, keys: tuple[str, ...]) -> Results:
        """The results with the fits of some radios; of one that fails, with the finding that says so."""
        from umbra_awl.core.findings.guarded import not_fitted

        assert results.basis is not None
        assert self._profiles is not None
        index, fits, failed = results.basis.index, dict(results.fits), list[Finding]()
        for radio in map(index.radios.__getitem__, keys):
            try:
                fits[radio.key] = self._fit(index, radio, self._profiles[radio.profile])
            except Exception as error:  # noqa: BLE001  (one radio's failure must not take the others along)
                _log.warning("a radio could not be fitted", exc_info=True)
                failed.append(not_fitted(radio, error))
        found = _ordered((*failed, *results.findings)) if failed else results.findings
        return results._replace(fits=fits, findings=found)

    def _fit(self, index: PlanIndex, radio: OwnedRadio, profile: "Profile") -> "Fit":
        from umbra_awl.core.fit.fitting import fit

        return fit(index, radio, profile)


def _ordered(findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    return tuple(sorted(findings, key=lambda item: SEVERITY_ORDER[item.severity]))
