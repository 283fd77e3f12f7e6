"""Findings put aside with a reason, all of one kind repaired, and the page made from the rules."""

import importlib
import pkgutil
from pathlib import Path

import pytest
from hypothesis import given
from msgspec.structs import replace

import umbra_awl.core.findings
from tests.days import TODAY
from tests.strategies import plans
from umbra_awl.core.facts import glossary
from umbra_awl.core.findings.aside import reason_for, silence, unsilence
from umbra_awl.core.findings.evaluate import Evaluator, findings_of
from umbra_awl.core.findings.model import Rule
from umbra_awl.core.findings.repair_kind import repair_all
from umbra_awl.core.findings.rules import all_rules, page
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.routes.punch import set_route

PROFILES = shipped_profiles()


def one(plan, rule):
    return next(item for item in findings_of(PlanIndex(plan, TODAY), PROFILES) if item.rule.name == rule)


def test_put_aside_kept_in_the_file_and_heeded_again(plan):
    finding = one(plan, "names-meet")
    quiet = parse_plan(plan_bytes(silence(finding, " I know them apart ").apply(plan)))
    evaluator = Evaluator(PROFILES)
    assert finding.key not in {item.key for item in evaluator.evaluate(PlanIndex(quiet, TODAY))}
    assert [item.key for item in evaluator.silenced] == [finding.key]
    assert reason_for(quiet, finding) == "I know them apart"
    assert unsilence(finding).apply(quiet) == plan


def test_what_cannot_be_put_aside(plan):
    with pytest.raises(EditRefused, match="Give a reason"):
        silence(one(plan, "names-meet"), "  ")
    with pytest.raises(EditRefused, match="cannot be put aside"):
        silence(one(plan, "out-of-band"), "I am sure")
    from umbra_awl.core.plan.model import Silence

    rule, kind, thing, part = one(plan, "out-of-band").key
    forced = replace(plan, silenced=(Silence(rule, kind, thing, part, "by editing the file"),))
    assert one(forced, "out-of-band").severity == "stop"


def test_all_of_one_kind_as_one_step(plan, index):
    for key in ("blackfell-dmr>exercise@2", "blackfell-dmr>echo@2"):
        plan = set_route(PlanIndex(plan, TODAY), key, "x", color_code=2).apply(plan)
    edit = repair_all(plan, "color-code-differs", PROFILES, TODAY)
    assert edit.sentence == "Repair 3 findings: another color code than the access point"
    after = edit.apply(plan)
    assert not [
        item for item in findings_of(PlanIndex(after, TODAY), PROFILES) if item.rule.name == "color-code-differs"
    ]
    with pytest.raises(EditRefused, match="changed meanwhile"):
        edit.apply(index.plan)
    with pytest.raises(EditRefused, match="None of these"):
        repair_all(after, "color-code-differs", PROFILES, TODAY)


@given(plans())
def test_repairing_all_of_a_kind_leaves_none_that_could_be_repaired(plan):
    for rule in {item.rule.name for item in findings_of(PlanIndex(plan, TODAY), PROFILES) if item.repair is not None}:
        after = repair_all(plan, rule, PROFILES, TODAY).apply(plan)
        assert not [
            item for item in findings_of(PlanIndex(after, TODAY), PROFILES) if item.rule.name == rule and item.repair
        ]


def test_the_page_tells_every_rule():
    assert (Path(__file__).parents[2] / "docs" / "findings.md").read_text("utf-8") == page()
    defined = set()
    for module in pkgutil.iter_modules(umbra_awl.core.findings.__path__):
        found = vars(importlib.import_module(f"umbra_awl.core.findings.{module.name}")).values()
        defined |= {item.name for item in found if isinstance(item, Rule)}
    assert defined == set(all_rules())
    for rule in all_rules().values():
        assert rule.title[0].isupper()
        assert rule.why.endswith(".")


def test_the_glossary_page_is_that_of_the_words_and_each_word_is_told_once():
    assert (Path(__file__).parents[2] / "docs" / "glossary.md").read_text("utf-8") == glossary.page()
    words = [item.word for item in glossary.GLOSSARY]
    assert len(set(words)) == len(words)
