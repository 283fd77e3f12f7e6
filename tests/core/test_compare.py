"""Which radio, which hotspot: explained, weighted, and true."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.days import TODAY
from tests.examples import examples
from tests.strategies import plans
from umbra_awl.core.fit.compare import compare, platforms
from umbra_awl.core.fit.needs import RadioNeeds
from umbra_awl.core.hotspot.compatible import HotspotNeeds, PartsError, builds, parse_parts, shipped_parts
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.radio.profile_file import shipped_profiles

PROFILES = shipped_profiles()
NEEDS = RadioNeeds(
    ("dmr",), ((430.0, 440.0),), position=True, channels=1000, people=100_000, platform="Alder", data=True, keypad=True, most=100,
    price={"tarn16": 89, "moor4k": 150},
)  # fmt: skip


def verdicts(index, needs=NEEDS, **options):
    return {item.profile.key: item for item in compare(index, PROFILES.values(), needs, **options)}


def point(verdict, name):
    return next(item for item in verdict.points if item.name == name)


def test_a_plan_is_carried_mode_by_mode_and_what_is_lost_is_said(index):
    found = verdicts(index, RadioNeeds())
    assert point(found["moor4k"], "DMR routes").stand == "met"
    assert point(found["fell-d2"], "DMR routes").why == "It has no DMR: 24 routes are lost."
    assert point(found["gill-p"], "FM routes").stand == "met"
    assert found["moor4k"].fit.memory.channels


@pytest.mark.parametrize(
    ("key", "name", "stand", "words"),
    [
        ("tarn16", "position", "missing", "has no GPS"),
        ("tarn16", "capacity", "partly", "holds 256 channels; 1,000 are wanted"),
        ("moor4k", "people", "met", "with the firmware “Crowd” and without the spectrum view"),
        ("crag-f3", "people", "missing", "keeps no people list"),
        ("fell-d2", "app", "met", "works on Alder phones"),
        ("beck-m5", "app", "partly", "with the optional wireless board"),
        ("moor4k", "app", "missing", "No phone app works with it on Alder phones"),
        ("fell-d2", "data", "met", "as fast data"),
        ("gill-p", "keypad", "met", "programmed by its own keys"),
        ("tarn16", "price", "met", "89 is within 100"),
        ("moor4k", "price", "partly", "150 is 50 over 100"),
        ("fell-d2", "430–440 MHz", "met", "sends and hears"),
    ],
)
def test_needs_without_a_plan_are_held_against_each_profile(key, name, stand, words):
    found = point(verdicts(PlanIndex(Plan(), TODAY), with_plan=False)[key], name)
    assert found.stand == stand
    assert words in found.why


def test_a_price_that_nobody_gave_does_not_count():
    found = point(verdicts(PlanIndex(Plan(), TODAY), with_plan=False)["crag-f3"], "price")
    assert (found.weight, found.why) == (0, "Its price is not given, so it does not count.")


def test_weights_decide_which_comes_first():
    def first(weight):
        needs = RadioNeeds(position=True, keypad=True, weight=weight)
        return compare(PlanIndex(Plan(), TODAY), [PROFILES["tarn16"], PROFILES["moor4k"]], needs, with_plan=False)[
            0
        ].profile.key

    assert first({"position": 3, "keypad": 1}) == "moor4k"
    assert first({"position": 1, "keypad": 3}) == "tarn16"


def test_what_is_needed_beside_it(index):
    found = verdicts(index)
    assert found["tarn16"].beside == ("the programming cable, sold apart", "programmed by cable or its keypad")
    assert "the optional wireless board, or a data cable" in found["beck-m5"].beside
    assert platforms(PROFILES.values()) == ["Alder", "Birch"]


@examples(30)
@given(plans(), st.dictionaries(st.sampled_from(["DMR routes", "names in full", "position"]), st.integers(0, 3)))
def test_shares_are_shares_and_the_best_comes_first(plan, weight):
    found = compare(PlanIndex(plan, TODAY), PROFILES.values(), RadioNeeds(position=True, weight=weight))
    assert all(0 <= item.share <= 1 and all(0 <= each.share <= 1 for each in item.points) for item in found)
    assert [item.share for item in found] == sorted((item.share for item in found), reverse=True)
    assert len({tuple(each.name for each in item.points) for item in found}) == 1


def test_hotspots_that_work_come_first_and_the_others_say_why():
    found = builds(shipped_parts(), HotspotNeeds(("dmr", "fusion"), busy=True, travels=True))
    assert [item.works for item in found] == sorted((item.works for item in found), reverse=True)
    best = found[0]
    assert (best.board.name, best.computer.name, best.duplex) == ("Reed Two", "Cobble Grain", True)
    assert "you can change talk group while another is on" in best.costs[0]
    faults = {
        (item.board.key, item.computer.key, item.image.key): " ".join(item.faults) for item in found if not item.works
    }
    assert "the smallest computer has none" in faults["rush-stick", "cobble-grain", "tarnlight-winter"]
    assert "does not start on it" in faults["reed-1", "cobble-flat", "tarnlight-autumn"]
    assert "knows modem firmware up to 1.9" in faults["marsh-amp", "cobble-flat", "tarnlight-autumn"]


def test_other_parts_come_from_a_file_and_a_wrong_one_is_refused():
    with pytest.raises(PartsError, match="cannot be used"):
        parse_parts("board = 3")
    with pytest.raises(PartsError, match="has the form"):
        parse_parts('format = "x"\nversion = 1\nboard = []\ncomputer = []\nimage = []')
