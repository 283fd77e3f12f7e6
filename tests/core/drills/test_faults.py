"""Seeded faults: every slip of the list has a seed, each is found by its finding, each repair is complete, the plan is a copy."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.drills.fault import Maker, NoCaseError, judge, sound_copy
from umbra_awl.core.drills.seeds import SEEDS
from umbra_awl.core.drills.slips import shipped_slips
from umbra_awl.core.drills.way import SCENES, way_case
from umbra_awl.core.findings.aside import silence
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.trace.keyup import trace
from umbra_awl.demo.fresh import demo_plan

PROFILES = shipped_profiles()
DEMO = demo_plan(TODAY)
MAKER = Maker(DEMO, PROFILES, TODAY)


def keys(plan):
    return {item.key for item in findings_of(PlanIndex(plan, TODAY), PROFILES)}


def repaired(plan, rules):
    """The plan with every finding of some rules repaired as it offers."""
    for _step in range(6):
        found = [
            item
            for item in findings_of(PlanIndex(plan, TODAY), PROFILES)
            if item.rule.name in rules and item.repair is not None
        ]
        if not found:
            break
        plan = found[0].repair.edit.apply(plan)
    return plan


def test_every_slip_of_the_list_can_be_practised():
    slips = shipped_slips()
    assert len(slips) >= 36
    assert {key for key, slip in slips.items() if slip.where == "plan"} == set(SEEDS)
    assert {key for key, slip in slips.items() if slip.where == "way"} == set(SCENES)
    assert MAKER.possible() == list(SEEDS)


@pytest.mark.parametrize("key", SEEDS)
@pytest.mark.parametrize("seed", range(4))
def test_each_seeded_fault_is_found_and_its_repair_is_complete(key, seed):
    case = MAKER.case(seed, 1, [key])
    (fault,) = case.faults
    assert fault.slip.key == key
    assert fault.finding.rule.name in fault.slip.rules
    assert fault.finding.key in keys(case.plan) - keys(case.sound)
    assert "{" not in fault.symptom
    assert fault.slip.words.casefold() not in fault.symptom.casefold()  # the symptom does not give it away
    assert parse_plan(plan_bytes(case.plan)) == case.plan
    assert not judge(case, case.plan, [key], PROFILES, TODAY).repaired
    mended = repaired(case.plan, fault.slip.rules) if fault.finding.repair is not None else case.sound
    judged = judge(case, mended, [key], PROFILES, TODAY)
    assert judged.repaired == {key}, judged
    assert judged.done(case)
    assert judge(case, case.sound, [key], PROFILES, TODAY).done(case)


@given(st.integers(0, 10_000), st.integers(1, 3))
@settings(max_examples=20)
def test_several_faults_at_once_are_each_found_and_the_given_plan_stays(seed, count):
    before = plan_bytes(DEMO)
    case = MAKER.case(seed, count)
    assert 1 <= len(case.faults) <= count
    there = keys(case.plan)
    assert all(item.finding.key in there for item in case.faults)
    assert len({item.slip.key for item in case.faults}) == len(case.faults)
    none = judge(case, case.plan, [], PROFILES, TODAY)
    assert not none.named
    assert not none.done(case)
    assert judge(case, case.sound, [item.slip.key for item in case.faults], PROFILES, TODAY).done(case)
    assert plan_bytes(DEMO) == before


def test_naming_a_slip_that_was_not_made_and_breaking_something_else_are_not_right():
    case = MAKER.case(1, 1, ["encrypted"])
    assert judge(case, case.sound, ["padding"], PROFILES, TODAY).named == frozenset()
    broken = MAKER.case(2, 1, ["offset-sign"]).plan
    judged = judge(case, broken, ["encrypted"], PROFILES, TODAY)
    assert judged.repaired == {"encrypted"}
    assert [item.rule.name for item in judged.new][:1] == ["out-of-band"]
    assert not judged.done(case)


def test_a_sound_copy_has_nothing_left_that_a_repair_would_mend():
    found = findings_of(PlanIndex(sound_copy(DEMO, PROFILES, TODAY), TODAY), PROFILES)
    assert not [item for item in found if item.repair is not None and item.severity != "note"]


def test_a_plan_without_anything_in_it_says_so():
    with pytest.raises(NoCaseError, match="demo's plan"):
        Maker(Plan(), PROFILES, TODAY).case(1, 1, ["padding", "copied-slot"])


@pytest.mark.parametrize("key", SCENES)
def test_what_lies_beside_the_plan_is_explained_by_the_check_itself(key):
    index = PlanIndex(DEMO, TODAY)
    for seed in range(5):
        case = way_case(index, key, seed)
        assert len(case.looks) >= 3
        assert case.finding
        assert case.finding not in {item.text for item in case.looks}
        assert case.repairs[case.right] == case.slip.repairs[0]
        assert len(set(case.repairs)) == len(case.repairs) >= 4
        assert "{" not in case.symptom


def test_without_a_radio_of_a_kind_one_that_ships_is_taken_or_it_is_said():
    bare = PlanIndex(Plan(), TODAY)
    made = 0
    for key in SCENES:
        try:
            way_case(bare, key, 1)
            made += 1
        except NoCaseError as error:
            assert "no" in str(error)
    assert made >= 8


@pytest.mark.parametrize("key", [key for key in SEEDS if shipped_slips()[key].trace])
@pytest.mark.parametrize("seed", range(3))
def test_a_symptom_says_what_the_trace_says(key, seed):
    case = MAKER.case(seed, 1, [key])
    index, before = PlanIndex(case.plan, TODAY), PlanIndex(case.sound, TODAY)
    fits = {radio.key: fit(index, radio, PROFILES[radio.profile]) for radio in case.plan.radios}
    changed = {
        route.key
        for route in case.plan.routes
        if not route.receive_only
        and (
            route != before.routes.get(route.key)
            or index.services[route.service][1] != before.services[route.service][1]
            or index.destinations[route.destination] != before.destinations[route.destination]
        )
    }
    traced = [trace(index, fits, radio, key) for radio in fits for key in changed if fits[radio].channel_of(key)]
    assert traced
    for item in traced:
        assert item.reaches == (case.faults[0].slip.trace == "reaches"), item.broken


@pytest.mark.parametrize("key", SEEDS)
def test_taking_away_or_putting_aside_what_is_wrong_repairs_nothing(key):
    case = MAKER.case(1, 1, [key])
    finding = case.faults[0].finding
    ways = [replace(case.plan, routes=()), replace(case.plan, routes=case.plan.routes[1:])]
    ways.append(replace(case.plan, routes=tuple(replace(item, receive_only=True) for item in case.plan.routes)))
    ways.append(replace(case.plan, hotspots=(), zones=(), scans=()))
    if not finding.rule.safety:
        ways.append(silence(finding, "never mind").apply(case.plan))
    for present in ways:
        judged = judge(case, present, [key], PROFILES, TODAY)
        assert not judged.repaired
        assert not judged.done(case)
    assert not judge(case, ways[0], [key], PROFILES, TODAY).intact
