"""Repairing everything one rule finds."""

from collections.abc import Mapping
from datetime import date

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.wording import within
from umbra_awl.core.findings.evaluate import Evaluator
from umbra_awl.core.findings.model import Finding, Repair
from umbra_awl.core.plan.edit.edits import Edit, EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.radio.profile import Profile


def repair_all(plan: Plan, rule: str, profiles: Mapping[str, Profile], today: date) -> Edit:
    """Repair everything one rule finds as one step. Raises EditRefused when nothing can be repaired.

    Repairs of routes do not touch one another and are done together, one a route; others one after another, each taken from
    the findings of the plan as the repairs before it have left it.
    """
    evaluator = Evaluator(profiles)
    done: set[tuple[str, str, str, str]] = set()
    after, title, mended = plan, "", 0
    while batch := _next_repairs(evaluator, PlanIndex(after, today), rule, done):
        for at, (finding, repair) in enumerate(batch):
            try:
                after = repair.edit.apply(after)
            except EditRefused:  # an earlier one of the batch is in its way: it is worked out anew in the next round
                if at == 0:
                    done.add(finding.key)
                continue
            done.add(finding.key)
            mended += 1
            title = within(finding.rule.title)
    if not mended:
        raise EditRefused("None of these can be repaired by a rule; each needs a decision of yours.")
    steps = counted(mended, "finding")

    def apply(now: Plan) -> Plan:
        if now is not plan:
            raise EditRefused("The plan has changed meanwhile. Look again and repeat.")
        return after

    return Edit(f"Repair {steps}: {title}", apply)


def _next_repairs(
    evaluator: Evaluator, index: PlanIndex, rule: str, done: set[tuple[str, str, str, str]]
) -> list[tuple[Finding, Repair]]:
    """The repairs to do next: one for each route, or else a single one."""
    found: dict[str, tuple[Finding, Repair]] = {}
    for finding in evaluator.evaluate(index):
        if finding.rule.name == rule and finding.repair is not None and finding.key not in done:
            found.setdefault(finding.target.key, (finding, finding.repair))
            if finding.target.kind != "route":
                break
    return list(found.values())
