"""The modes side by side and friends' radios at their edges: what is counted, what is said where there is one or none."""

import pytest
from msgspec.structs import replace

from tests.core.test_choosing import EMPTY, PROFILES, with_people
from tests.days import TODAY
from umbra_awl.core.facts.connectors import joins
from umbra_awl.core.facts.modes import EVERY_MODE
from umbra_awl.core.fit.friends import friend_points
from umbra_awl.core.fit.modes_beside import ModeSurround, conclusion, modes_beside
from umbra_awl.core.fit.needs import RadioNeeds
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DmrAir, FmAir, Net, OwnedRadio, Plan, Route, Service

FM = Service("a-fm", 145_700_000, 145_100_000, FmAir())
DMR = Service("a-dmr", 438_600_000, 431_000_000, DmrAir())
BASE = Plan(
    access=(AccessPoint("a", "A", "repeater", services=(FM, DMR)),),
    destinations=(Destination("local", "Local", "local"), Destination("wide", "Wide", "group", number=4299)),
    routes=(Route("a-fm", "local"), Route("a-dmr", "wide", 1), Route("a-dmr", "wide", 2)),
)


def rows_of(plan, **known):
    made = modes_beside(PlanIndex(plan, TODAY), ModeSurround(PROFILES, **known))
    return {row.name: dict(zip(EVERY_MODE, row.cells, strict=True)) for row in made}


def test_one_route_and_several_are_said_rightly_and_counted_against_the_most():
    cells = rows_of(BASE)["On this plan"]
    assert (cells["fm"].words, cells["fm"].share) == ("1 route, 1 access point", 0.5)
    assert (cells["dmr"].words, cells["dmr"].share) == ("2 routes, 1 access point", 1.0)
    assert (cells["dstar"].words, cells["dstar"].share) == ("none", 0.0)
    bare = rows_of(replace(BASE, routes=()))["On this plan"]
    assert bare["fm"].words == "0 routes, 1 access point"
    assert conclusion(PlanIndex(BASE, TODAY)) == "DMR carries 2 of the plan's 3 routes."


def test_a_net_counts_for_the_mode_of_its_route_or_of_all_that_reach_its_destination():
    by_route = replace(BASE, nets=(Net("n", "N", route="a-fm>local@0"),))
    cells = rows_of(by_route)["Who is there"]
    assert (cells["fm"].words, cells["dmr"].words) == ("1 net", "nobody told yet")
    by_destination = replace(BASE, nets=(Net("n", "N", destination="wide"), Net("m", "M", destination="wide")))
    cells = rows_of(by_destination)["Who is there"]
    assert (cells["fm"].words, cells["dmr"].words) == ("nobody told yet", "2 nets")
    nowhere = rows_of(replace(BASE, nets=(Net("n", "N"),)))["Who is there"]
    assert {cell.words for cell in nowhere.values()} == {"nobody told yet"}


def test_friends_stand_at_the_modes_of_their_radios():
    index = with_people(("Odile", "Fell D2"), ("Wim", "No such"))
    made = modes_beside(index, ModeSurround(PROFILES))
    cells = dict(zip(EVERY_MODE, next(row.cells for row in made if row.name == "Who is there"), strict=True))
    assert {mode: cell.words for mode, cell in cells.items()} == {
        mode: "Odile" if mode in PROFILES["fell-d2"].modes else "nobody told yet" for mode in EVERY_MODE
    }


def test_what_one_owns_is_counted_by_mode_and_a_price_only_where_one_is_given():
    radios = (OwnedRadio("r", "R", "tarn16", ""), OwnedRadio("s", "S", "fell-d2", ""))
    rows = rows_of(replace(BASE, radios=radios))
    for mode, cell in rows["What you own"].items():
        count = sum(mode in PROFILES[item.profile].modes for item in radios)
        assert cell.words == f"{count} of your 2 radios"
    assert "Price" not in rows
    assert "Price" not in rows_of(BASE, price={"unknown": 5.0})
    assert rows_of(replace(BASE, radios=radios[:1]))["What you own"]["fm"].words.endswith("of your 1 radio")
    prices = rows_of(BASE, price={"tarn16": 100.0, "fell-d2": 400.0})["Price"]
    assert (prices["dmr"].words, prices["dmr"].share) == ("from 100, Tarn 16", 0.25)
    assert prices["fusion"].share is None


def test_what_each_mode_is_anywhere_is_told_in_five_rows():
    names = [row.name for row in modes_beside(EMPTY, ModeSurround(PROFILES))]
    assert names[-5:] == ["Width", "Speech", "Texts, pictures", "To begin", "Set on each channel"]
    width = rows_of(Plan())["Width"]
    assert {mode for mode, cell in width.items() if cell.words.endswith("two on one carrier")} == {"dmr"}
    assert max(cell.share for cell in width.values()) == 1.0
    assert rows_of(Plan())["On this plan"]["fm"].share == 0.0


def friends(index, profile, **needs):
    return list(friend_points(index, PROFILES[profile], PROFILES.values(), RadioNeeds(**needs)))


def test_friends_are_only_counted_where_it_is_asked_for():
    index = with_people(("Odile", "Fell D2"))
    assert friends(index, "fell-d2") == []
    (met,) = friends(index, "fell-d2", like_friends=True)
    assert met.share == 1.0
    assert "Modes in common: " in met.why
    assert "1 of 1 by voice: Odile" in met.why
    (data,) = friends(index, "fell-d2", like_friends=True, data=True)
    assert "with texts and pictures" in data.why
    assert ", 1 by voice" in data.why
    assert "Modes in common" not in data.why


def test_modes_in_common_are_those_of_both():
    (met,) = friends(with_people(("Odile", "Fell D2")), "tarn16", like_friends=True)
    both = set(PROFILES["fell-d2"].modes) & set(PROFILES["tarn16"].modes)
    assert both == {"fm"}
    assert met.why.endswith("Modes in common: FM.")


def test_the_first_identity_is_oneself_and_the_second_a_friend(index):
    first, *others = index.plan.station.identities
    assert others
    named = {item.name or item.call for item in others}
    from umbra_awl.core.fit.friends import friends_radios

    told = {item.who for item in friends_radios(index, PROFILES.values())}
    assert named & told
    assert (first.name or first.call) not in told


@pytest.mark.parametrize(("radio", "aerial", "minds"), [
    ("SMA socket", "N plug", True), ("SMA socket", "SMA plug", False), ("N socket", "N plug", False),
    ("N socket", "SMA plug", False),
])  # fmt: skip
def test_only_a_small_connector_before_a_large_one_minds_a_stiff_cable(radio, aerial, minds):
    assert ("stiff cable" in joins(radio, aerial).minds) is minds
