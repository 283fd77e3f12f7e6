"""What to do next, kept up to date: the steps of the present plan, and which radios were found to hold it."""

from collections.abc import Mapping
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.agenda.next_steps import NO_WAYS, NextStep, WaysIn, next_steps
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.desk.held.workbench import Workbench

if TYPE_CHECKING:
    from umbra_awl.core.fit.fitting import Fit
    from umbra_awl.core.radio.profile import Profile


class Agenda(QObject):
    """Works the steps out anew with every result. What lies beside the plan on the disk is looked at in the background."""

    changed = pyqtSignal()

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self._ways = NO_WAYS
        self.steps: tuple[NextStep, ...] = ()
        bench.document_changed.connect(self._begin_anew)
        bench.results_changed.connect(self.look)

    def _begin_anew(self) -> None:
        self._ways = NO_WAYS
        self._work_out()

    def _work_out(self) -> None:
        stops = [item for item in self._bench.worked.results.findings if item.severity == "stop"]
        self.steps = next_steps(self._bench.index, self._bench.clock.today(), stops, self._ways)
        self.changed.emit()

    def look(self) -> None:
        """Work the steps out with what is known, and look which radios hold the plan."""
        self._work_out()
        bench = self._bench
        if bench.document is None or not bench.worked.fresh:
            return
        place, fits, index, profiles = bench.document.real, bench.worked.results.fits, bench.index, bench.profiles
        bench.jobs.latest("proofs", lambda: _ways(place, fits, index, profiles), self._take)

    def _take(self, ways: WaysIn) -> None:
        if ways != self._ways:
            self._ways = ways
            self._work_out()


def _ways(plan_file: Path, fits: "Mapping[str, Fit]", index: PlanIndex, profiles: "Mapping[str, Profile]") -> WaysIn:
    from umbra_awl.core.transfer.held import proved

    held = {key: profiles[radio.profile] for key, radio in index.radios.items() if radio.profile in profiles}
    pages = {key: "slot" if item.by_card else "cable" for key, item in held.items() if item.by_card or item.by_cable}
    loads = frozenset(key for key, item in held.items() if item.loading is not None)
    return WaysIn(pages, proved(plan_file, fits), loads)
