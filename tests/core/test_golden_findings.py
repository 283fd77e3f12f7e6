"""What the findings say of spoiled plans, as reviewed in tests/data/findings.txt; and the same found step by step."""

import pytest
from msgspec.structs import replace

from tests.core.golden_findings import PLACE, PROFILES, SPOILED, findings_text
from tests.days import TODAY
from umbra_awl.core.findings.evaluate import Evaluator, findings_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Silence


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
    index = PlanIndex(plan, TODAY)
    warm.evaluate(index)
    for step, before in ((spoiled, index), (plan, PlanIndex(spoiled, TODAY))):
        after = before.after(step)
        assert seen(step, warm.evaluate(after)) == seen(step, findings_of(PlanIndex(step, TODAY), PROFILES))


def test_from_one_slip_to_the_next_the_same_is_found_as_afresh(plan, warm):
    """Every change of a plan is a step that the evaluator may meet, also one that touches a station and a route at once."""
    index = PlanIndex(plan, TODAY)
    warm.evaluate(index)
    for name, spoil in SPOILED.items():
        step = spoil(plan)
        index = index.after(step)
        assert seen(step, warm.evaluate(index)) == seen(step, findings_of(PlanIndex(step, TODAY), PROFILES)), name


def test_what_may_be_put_aside_is_and_what_guards_a_transmitter_is_not(plan):
    aside = [Silence(*item.key, "seen") for item in findings_of(PlanIndex(plan, TODAY), PROFILES)]
    made = replace(plan, silenced=tuple(aside))
    evaluator = Evaluator(PROFILES)
    kept = evaluator.evaluate(PlanIndex(made, TODAY))
    assert {item.rule.name for item in kept} == {"out-of-band", "hotspot-in-satellite-segment"}
    assert {item.rule.name for item in evaluator.silenced} == {
        "command-left-on", "names-meet", "wifi-name-case", "color-code-differs",
    }  # fmt: skip
