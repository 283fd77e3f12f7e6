"""Putting a finding aside with a reason, and taking it back; repairing all of one kind."""

from collections.abc import Iterable, Mapping

from msgspec.structs import replace

from umbra_awl.core.findings.evaluate import Evaluator
from umbra_awl.core.findings.model import Finding, Repair
from umbra_awl.core.fit.profile import Profile
from umbra_awl.core.plan.edits import Edit, EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan, Silence


def silence(finding: Finding, reason: str) -> Edit:
    """Put a finding aside; the reason stays in the plan. Raises EditRefused without a reason, and for a safety rule."""
    if finding.rule.safety:
        raise EditRefused(f"“{finding.rule.title}” cannot be put aside: repair it, or make it receive-only.")
    if not reason.strip():
        raise EditRefused("Give a reason, so that you know later why it was put aside.")
    rule, kind, thing, part = finding.key
    entry = Silence(rule, kind, thing, part, reason.strip())

    def apply(plan: Plan) -> Plan:
        kept = tuple(item for item in plan.silenced if item.key != finding.key)
        return replace(plan, silenced=(*kept, entry))

    return Edit(f"Put aside: {finding.rule.title.lower()}", apply)


def heed(finding: Finding) -> Edit:
    """Take a finding back from those put aside."""

    def apply(plan: Plan) -> Plan:
        return replace(plan, silenced=tuple(item for item in plan.silenced if item.key != finding.key))

    return Edit(f"Heed again: {finding.rule.title.lower()}", apply)


def reason_for(plan: Plan, finding: Finding) -> str:
    """Why a finding was put aside."""
    return next((item.reason for item in plan.silenced if item.key == finding.key), "")


def without_gone(plan: Plan, findings: Iterable[Finding]) -> tuple[Silence, ...]:
    """The silences that still put something aside, given all findings of the plan, put aside or not."""
    there = {item.key for item in findings}
    return tuple(item for item in plan.silenced if item.key in there)


def repair_all(plan: Plan, rule: str, profiles: Mapping[str, Profile]) -> Edit:
    """Repair everything one rule finds as one step. Raises EditRefused when nothing can be repaired.

    Repairs of routes do not touch one another and are done together, one a route; others one after another, each taken from
    the findings of the plan as the repairs before it have left it.
    """
    evaluator = Evaluator(profiles)
    done: set[tuple[str, str, str, str]] = set()
    after, title = plan, ""
    while batch := _next_repairs(evaluator, PlanIndex(after), rule, done):
        for finding, repair in batch:
            done.add(finding.key)
            title = finding.rule.title.lower()
            after = repair.edit.apply(after)
    if not done:
        raise EditRefused("None of these can be repaired by a rule; each needs a decision of yours.")
    steps = f"{len(done)} finding{'' if len(done) == 1 else 's'}"

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
