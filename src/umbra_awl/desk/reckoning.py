"""What follows from a plan, worked out in the background: the fit of each radio, and the findings.

Results carry what they were made of. Whatever shows, writes, prints or exports them asks first whether that is still in force.
"""

import logging
from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.findings.model import SEVERITY_ORDER, Finding
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio, Plan

if TYPE_CHECKING:
    from umbra_awl.core.findings.evaluate import Evaluator
    from umbra_awl.core.fit.fitting import Fit
    from umbra_awl.core.fit.profile import Profile

_log = logging.getLogger(__name__)


class Basis:
    """What results are made of: a plan and the profiles of the moment. One is another's equal only if it is the same."""

    __slots__ = ("index",)

    def __init__(self, index: PlanIndex) -> None:
        self.index = index


class Results(NamedTuple):
    """What was worked out from a basis (None: nothing yet). A radio that could not be fitted has no fit; a finding says so."""

    basis: Basis | None = None
    fits: "Mapping[str, Fit]" = {}  # noqa: RUF012  (read only)
    findings: tuple[Finding, ...] = ()
    silenced: tuple[Finding, ...] = ()

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

    def reckon(self, basis: Basis) -> Results:
        """Everything that follows from a basis. What it needs is imported here, in the background."""
        from umbra_awl.core.findings.evaluate import Evaluator

        if self._profiles is None:
            self._profiles = dict(self._take_profiles())
        if self._evaluator is None:
            self._evaluator = Evaluator(self._profiles)
        fits, failed = self._fits(basis.index, self._profiles)
        found = (*failed, *self._evaluator.evaluate(basis.index))
        ordered = tuple(sorted(found, key=lambda item: SEVERITY_ORDER[item.severity]))
        return Results(basis, fits, ordered, self._evaluator.silenced)

    def _fits(self, index: PlanIndex, profiles: "Mapping[str, Profile]") -> "tuple[dict[str, Fit], list[Finding]]":
        """The fit of each radio that has a profile; of one that fails, the finding that says so."""
        from umbra_awl.core.findings.guarded import not_fitted

        fits: dict[str, Fit] = {}
        failed: list[Finding] = []
        for radio in index.plan.radios:
            if radio.profile in profiles:
                try:
                    fits[radio.key] = self._fit(index, radio, profiles[radio.profile])
                except Exception as error:  # noqa: BLE001  (one radio's failure must not take the others along)
                    _log.warning("a radio could not be fitted", exc_info=True)
                    failed.append(not_fitted(radio, error))
        return fits, failed

    def _fit(self, index: PlanIndex, radio: OwnedRadio, profile: "Profile") -> "Fit":
        from umbra_awl.core.fit.fitting import fit

        return fit(index, radio, profile)
