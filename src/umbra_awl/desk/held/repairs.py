"""Repairs of findings: one, the one that waits until the plan is worked out, or all of a kind.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from typing import TYPE_CHECKING

from umbra_awl.core.findings.model import Finding, Repair
from umbra_awl.core.plan.edit.edits import Edit, EditRefused

if TYPE_CHECKING:
    from umbra_awl.desk.held.workbench import Workbench


class Repairs:
    """Applies repairs to the workbench's plan; one that was asked for in between looks first whether it still holds."""

    def __init__(self, bench: "Workbench") -> None:
        self._bench = bench
        self._wanted: tuple[str, str, str, str] | None = None

    def forget(self) -> None:
        """Let go of a repair that waits."""
        self._wanted = None

    def one(self, finding: Finding) -> None:
        """Apply the repair of a finding. While the plan is being worked out anew, it waits."""
        if not self._bench.worked.fresh:
            self._wanted = finding.key
        elif finding.repair is not None:
            self.apply(finding.repair)

    def apply(self, repair: Repair) -> None:
        """Apply a repair that was made of the present plan."""
        if self._bench.do(repair.edit):
            self._bench.say(f"Repaired: {repair.edit.sentence}. Ctrl Z takes it back.")

    def do_wanted(self) -> None:
        """Apply the repair that waited, where its finding is still there."""
        wanted, self._wanted = self._wanted, None
        finding = next((item for item in self._bench.worked.results.findings if item.key == wanted), None)
        if finding is not None:
            self.one(finding)
        elif wanted is not None:
            self._bench.say("That finding is gone already.")

    def kind(self, rule: str) -> None:
        """Repair everything one rule finds, as one step; worked out in the background."""
        bench = self._bench
        plan, profiles, today = bench.plan, bench.profiles, bench.index.today

        def work() -> Edit | str:
            from umbra_awl.core.findings.repair_kind import repair_all

            try:
                return repair_all(plan, rule, profiles.snapshot(), today)
            except EditRefused as error:
                return str(error)

        def take(made: Edit | str) -> None:
            if isinstance(made, str):
                bench.say(made, "stop")
            elif bench.do(made):
                bench.say(f"{made.sentence}. Ctrl Z takes it back.")

        bench.jobs.latest("repair", work, take, lane="plan")
