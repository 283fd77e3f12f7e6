"""What the findings say of spoiled plans, as reviewed in tests/data/findings.txt; and the same found step by step."""

import pytest

from tests.core.golden_findings import PLACE, PROFILES, SPOILED, findings_text
from umbra_awl.core.findings.evaluate import Evaluator, findings_of
from umbra_awl.core.plan.index import PlanIndex


def test_findings_say_what_was_reviewed():
    found, kept = findings_text().splitlines(), PLACE.read_text("utf-8").splitlines()
    assert found == kept, "run python -m tests.core.golden_findings and read what changed"


def test_no_repair_leaves_what_it_repairs():
    assert "STAYS" not in PLACE.read_text("utf-8")


def seen(plan, findings):
    """What is seen of findings: an edit is a function, so what it leads to stands for it."""
    return [
        (
            item.key,
            item.text,
            item.repair and (item.repair.label, item.repair.edit.sentence, item.repair.edit.apply(plan)),
        )
        for item in findings
    ]


@pytest.fixture(scope="module")
def warm():
    return Evaluator(PROFILES)


@pytest.mark.parametrize("name", SPOILED)
def test_looking_again_after_each_slip_and_its_undoing_finds_the_same(plan, warm, name):
    spoiled = SPOILED[name](plan)
    index = PlanIndex(plan)
    warm.evaluate(index)
    for step, before in ((spoiled, index), (plan, PlanIndex(spoiled))):
        after = before.after(step)
        assert seen(step, warm.evaluate(after)) == seen(step, findings_of(PlanIndex(step), PROFILES))
