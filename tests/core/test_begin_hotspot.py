"""A hotspot of one's own comes into a plan; what its echo is asked for by; what is said of where it stands."""

import numpy as np
import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.facts.bands import band_at
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.hotspot.begin import NewHotspot, band_to_begin, begin_hotspot, drafted, fault_of
from umbra_awl.core.hotspot.echo import echo_over, echo_routes
from umbra_awl.core.hotspot.place.after import around, asked_for, place_of
from umbra_awl.core.hotspot.place.ruler import RulerPlace, best_pairs, ruler
from umbra_awl.core.hotspot.place.seek import WORTH_A_MOVE, FoundPlaces, verdict
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.index import PlanIndex

ALL = {"dmr": "lattice", "dstar": "skein", "fusion": "commons"}
HERE = RulerPlace(433_712_500, 433_712_500, 90, "good")
PAIR = RulerPlace(434_800_000, 433_200_000, 90, "good")


def added(index, wanted, place=HERE):
    return PlanIndex(begin_hotspot(index, wanted, place).apply(index.plan), TODAY)


@pytest.mark.parametrize("place", [HERE, PAIR])
def test_it_comes_as_one_whole_that_agrees_with_itself(index, place, profiles):
    made = added(index, NewHotspot("Field spot", ALL, "reed-2", duplex=place is PAIR), place)
    access, hotspot = made.plan.access[-1], made.plan.hotspots[-1]
    assert (hotspot.access, hotspot.transmit_hz, hotspot.receive_hz) == (access.key, place.hz, place.tx_hz)
    assert hotspot.duplex == (place is PAIR)
    assert {item.mode for item in access.services} == set(ALL)
    assert {(item.rx_hz, item.tx_hz) for item in access.services} == {(place.hz, place.tx_hz)}
    keys = {item.key for item in access.services} | {hotspot.key, access.key}
    new = [item for item in findings_of(made, profiles) if item.target.key in keys and item.rule.severity == "stop"]
    assert not new


def test_its_echo_is_punched_and_a_simplex_one_uses_slot_two(index):
    made = added(index, NewHotspot("Field spot", ALL))
    routes = echo_routes(made, made.plan.access[-1])
    assert {made.services[route.service][1].mode for route in routes} >= {"dmr", "dstar"}
    assert {route.slot for route in routes if made.services[route.service][1].mode == "dmr"} == {2}


def test_an_echo_is_made_where_its_network_tells_one(index):
    plan = index.plan
    bare = replace(
        plan,
        destinations=tuple(item for item in plan.destinations if item.kind != "echo"),
        routes=tuple(item for item in plan.routes if "echo" not in item.destination),
    )
    made = added(PlanIndex(bare, TODAY), NewHotspot("Field spot", {"dmr": "lattice"}))
    (echo,) = [item for item in made.plan.destinations if item.kind == "echo"]
    assert echo.network == "lattice"
    assert [route.destination for route in echo_routes(made, made.plan.access[-1])] == [echo.key]


def test_a_second_one_of_the_same_call_takes_another_letter(index):
    one = added(index, NewHotspot("Field spot", {"dstar": "skein"}))
    two = added(one, NewHotspot("Field spot", {"dstar": "skein"}), PAIR)
    letters = [s.air.module for a, s in two.all_services() if a.call == "Q4WRN" and s.mode == "dstar"]
    assert len(letters) == len(set(letters)) == 4
    assert len({item.key for item in two.plan.access}) == len(two.plan.access)


@pytest.mark.parametrize(("wanted", "word"), [(NewHotspot(" ", ALL), "name"), (NewHotspot("Field spot", {}), "mode")])
def test_what_is_missing_is_said(index, wanted, word):
    assert word in fault_of(index, wanted)
    with pytest.raises(EditRefused, match=word):
        begin_hotspot(index, wanted, HERE)


def test_it_is_not_put_where_it_may_not_send(index):
    with pytest.raises(EditRefused, match="outside licence"):
        begin_hotspot(index, NewHotspot("Field spot", ALL), RulerPlace(470_000_000, 470_000_000, 0, "forbidden"))


def test_the_echo_is_asked_for_as_the_radio_holds_it(index, profiles):
    made = added(index, NewHotspot("Field spot", {"dmr": "lattice"}))
    radio = next(item for item in made.plan.radios if item.key == "moor")
    memory = fit(made, radio, profiles[radio.profile]).memory
    found = echo_over(made, made.plan.access[-1], memory)
    assert found.told["tx_hz"] == "433712500"
    assert (found.told["to"], found.told["echo"], found.told["slot"]) == ("999097", "999097", "2")
    wrong = replace(memory, contacts=tuple(replace(item, call=999_000) for item in memory.contacts))
    assert echo_over(made, made.plan.access[-1], wrong).told["to"] == "999000"
    deaf = replace(memory, channels=tuple(replace(item, receive_only=True) for item in memory.channels))
    assert echo_over(made, made.plan.access[-1], deaf) is None


def found_for(index, access):
    asked = asked_for(index, access, None)._replace(band=band_to_begin(index))
    users = around(index.plan, access, (), place_of(index.plan, access))
    return FoundPlaces(ruler(asked, users), best_pairs(asked, users))


def test_the_verdict_says_whether_it_stands_well(index):
    access = drafted(index, NewHotspot("new", {"dmr": ""}), 433_712_500, 433_712_500)
    found = found_for(index, access)
    best, made = found.best[0], found.ruler
    assert verdict(found, made.at(best.hz), best.hz).startswith("It stands well")
    assert verdict(found, made.at(best.hz), 0).startswith("This channel is")
    bad = int(np.flatnonzero(made.state == 0)[0])
    assert verdict(found, bad, int(made.hz[bad])).startswith("It must move: ")
    assert verdict(found, bad, 0).startswith("Not here: ")
    low = next((int(at) for at in np.flatnonzero(made.state >= 2) if best.score - made.score[at] >= WORTH_A_MOVE), None)
    assert low is not None
    assert "would be better" in verdict(found, low, int(made.hz[low]))
    assert band_at(index.bands, best.hz).name == "70 cm"
