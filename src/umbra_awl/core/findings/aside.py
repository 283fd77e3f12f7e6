"""Putting a finding aside with a reason, and taking it back."""

from msgspec.structs import replace

from umbra_awl.core.facts.wording import within
from umbra_awl.core.findings.model import Finding
from umbra_awl.core.plan.edit.edits import Edit, EditRefused
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

    return Edit(f"Put aside: {within(finding.rule.title)}", apply)


def unsilence(finding: Finding) -> Edit:
    """Take a finding back from those put aside."""

    def apply(plan: Plan) -> Plan:
        return replace(plan, silenced=tuple(item for item in plan.silenced if item.key != finding.key))

    return Edit(f"Heed again: {within(finding.rule.title)}", apply)


def reason_for(plan: Plan, finding: Finding) -> str:
    """Why a finding was put aside."""
    return next((item.reason for item in plan.silenced if item.key == finding.key), "")
