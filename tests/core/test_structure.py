"""Every way a plan's structure can be broken is told, and nothing sound is refused."""

import pytest
from hypothesis import given
from msgspec.structs import replace

from tests.days import TODAY
from tests.strategies import plans
from umbra_awl.core.facts.bands import Band
from umbra_awl.core.facts.emissions import emission
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.edit.edit_station import add_identity, set_band_edges, set_identity, set_region, usual_band
from umbra_awl.core.plan.edit.edits import (
    EditRefused,
    add_item,
    drop_item,
    fresh_key,
    rename_plan,
    set_fields,
    together,
)
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    DmrAir,
    FusionAir,
    Hotspot,
    Identity,
    Licence,
    Mapped,
    Network,
    Route,
    Static,
    Station,
    Step,
    Zone,
)
from umbra_awl.core.plan.parts import DESTINATIONS, NETWORKS, SCANS
from umbra_awl.core.plan.permit import band_permit, transmit_permit, transmit_state


@given(plans())
def test_generated_plans_are_sound(plan):
    assert structure_faults(plan) == []


def carried(plan, destination):
    access = plan.access[0]
    air = DmrAir(6, "lattice", static=(Static(1, destination),))
    services = (replace(access.services[0], air=air), *access.services[1:])
    return replace(plan, access=(replace(access, services=services), *plan.access[1:]))


BREAKS = [
    (lambda plan: replace(plan, station=replace(plan.station, region=7)), "region 7"),
    (lambda plan: replace(plan, routes=(*plan.routes, plan.routes[0])), "kind “route”"),
    (lambda plan: replace(plan, access=(*plan.access, plan.access[0])), "kind “access point”"),
    (lambda plan: replace(plan, networks=(*plan.networks, plan.networks[0])), "kind “network”"),
    (lambda plan: replace(plan, zones=(*plan.zones, plan.zones[0])), "kind “zone”"),
    (
        lambda plan: replace(plan, routes=(*plan.routes, Route("blackfell-dmr", "nobody"))),
        "leads to the destination 'nobody'",
    ),
    (lambda plan: replace(plan, routes=(*plan.routes, Route("blackfell-dmr", "local", 3))), "has slot 3"),
    (lambda plan: replace(plan, zones=(Zone("z", "Z", members=("a>b@0",)),)), "holds the route a>b@0"),
    (lambda plan: replace(plan, hotspots=(Hotspot("h", "nowhere", 1, 1),)), "belongs to the access point 'nowhere'"),
    (lambda plan: replace(plan, radios=(replace(plan.radios[0], zones=("gone",)),)), "uses the zone 'gone'"),
    (lambda plan: carried(plan, "gone"), "always carries 'gone'"),
    (lambda plan: replace(plan, routes=(*plan.routes, Route("gone", "local"))), "uses the service 'gone'"),
    (lambda plan: twice_oneself(plan), "kind “identity” have the key 'wren'"),  # noqa: PLW0108
    (lambda plan: suffixed(plan, "12345"), "ID suffix '12345' of 'wren'"),
    (lambda plan: suffixed(plan, "x"), "ID suffix 'x' of 'wren'"),
    (lambda plan: replace(plan, radios=(replace(plan.radios[0], one_touch="gone"),)), "calls 'gone'"),
    (lambda plan: replace(plan, radios=(replace(plan.radios[0], halves=("gone", "")),)), "uses the zone 'gone'"),
    (lambda plan: mapped(plan, "gone"), "maps a DG-ID to 'gone'"),
    (lambda plan: replace(plan, trips=(replace(plan.trips[0], access=("gone",)),)), "takes 'gone' along"),
    (lambda plan: waiting(plan, a="gone"), "The step 'a' waits for 'gone'"),
    (lambda plan: waiting(plan, a="b", b="a"), "The steps a, b wait for one another in a ring"),
    (lambda plan: waiting(plan, **round_way("abcdef")), "The steps a, b, c, d, e, f wait"),
    (lambda plan: waiting(plan, **round_way("abcdefgh")), "The steps a, b, c, d, e, f and 2 more wait"),
]


def twice_oneself(plan):
    people = plan.station.identities
    return replace(plan, station=replace(plan.station, identities=(*people, people[0])))


def suffixed(plan, suffix):
    first, *others = plan.station.identities
    ids = (replace(first.ids[0], suffix=suffix), *first.ids[1:])
    return replace(plan, station=replace(plan.station, identities=(replace(first, ids=ids), *others)))


def mapped(plan, destination):
    access = plan.access[0]
    air = FusionAir(mapped=(Mapped(20, destination),))
    services = (replace(access.services[0], air=air), *access.services[1:])
    return replace(plan, access=(replace(access, services=services), *plan.access[1:]))


def waiting(plan, **after):
    return replace(plan, steps=tuple(Step(key, key, 1, 1, 1, tuple(keys.split())) for key, keys in after.items()))


def round_way(keys):
    return {key: keys[at - 1] for at, key in enumerate(keys)}


@pytest.mark.parametrize(("spoil", "words"), BREAKS)
def test_each_break_is_told_once_and_nothing_else(plan, spoil, words):
    spoilt = spoil(plan)
    faults = structure_faults(spoilt)
    assert sum(words in fault for fault in faults) == 1, faults
    assert structure_faults(spoilt, plan) == faults, "an edit that leads there is refused for the same"
    assert structure_faults(spoilt, spoilt) == [], "what did not change is not looked at"


def test_what_is_sound_is_told_nothing_of(plan):
    assert structure_faults(plan) == []
    assert structure_faults(suffixed(plan, "1234")) == []
    held = plan.routes[0].key
    both = replace(plan, zones=(Zone("z", "Z", members=(held, "gone>x@0")),))
    told = [fault for fault in structure_faults(both) if "holds the route" in fault]
    assert told == ["The list “Z” holds the route gone>x@0, which is not in the plan."]


def test_an_index_hands_on_only_what_is_still_true(plan, index):
    index.services, index.destinations, index.routes, index.by_crossing  # noqa: B018  (look-ups are made when asked for)
    renamed = set_fields(DESTINATIONS, "worldwide", "x", name="World").apply(plan)
    after = index.after(renamed)
    assert after.services is index.services
    assert after.by_crossing is index.by_crossing
    assert after.destinations["worldwide"].name == "World"
    fresh = PlanIndex(renamed, TODAY)
    assert (after.services, after.destinations, after.routes) == (fresh.services, fresh.destinations, fresh.routes)


def test_adding_what_is_there_is_refused(plan):
    with pytest.raises(EditRefused, match="already"):
        add_item(NETWORKS, Network("lattice", "Again", "dmr"), "x").apply(plan)
    with pytest.raises(EditRefused, match="already"):
        add_identity(Identity("wren")).apply(plan)


def test_changing_what_is_gone_is_refused(plan):
    with pytest.raises(EditRefused, match="no longer"):
        set_fields(DESTINATIONS, "gone", "x", name="X").apply(plan)
    with pytest.raises(EditRefused, match="no longer"):
        set_identity("gone", "x", name="X").apply(plan)


def test_edits_together_are_one_step(plan):
    both = together("Both", [rename_plan("A"), set_region(2), drop_item(SCANS, "fm-watch", "x")])
    after = both.apply(plan)
    assert (after.name, after.station.region, after.scans) == ("A", 2, ())


def test_keys_are_made_of_names_and_never_twice():
    assert fresh_key("Great Velmar!", []) == "great-velmar"
    assert fresh_key("Great Velmar", ["great-velmar", "great-velmar-2"]) == "great-velmar-3"
    assert fresh_key("", []) == "item"


def test_own_band_edges(plan):
    narrow = set_band_edges(Band("70 cm", 430_000_000, 433_000_000)).apply(plan)
    assert not band_permit(narrow.station, emission("dmr", 434_000_000)).allowed
    assert usual_band("70 cm").apply(narrow) == plan
    with pytest.raises(EditRefused, match="before it begins"):
        set_band_edges(Band("70 cm", 440_000_000, 430_000_000))


@pytest.mark.parametrize(
    ("licence", "words", "kind"),
    [
        (Licence(), "Receive-only until the licence is granted", "guard"),
        (Licence(granted=True), "Receive-only: the guard is on", "guard"),
        (Licence(granted=True, guard=False), "May transmit: all amateur bands", ""),
        (Licence("Full", True, "", ("70 cm",), 50, False), "May transmit: Full licence, 70 cm, 50 W", "licence"),
    ],
)
def test_the_transmit_state_in_plain_words(licence, words, kind):
    station = Station(licence=licence)
    assert transmit_state(station) == words
    assert transmit_permit(station, emission("fm", 145_000_000)).kind == kind


def test_outside_every_band_the_nearest_is_named():
    station = Station(licence=Licence(granted=True, guard=False))
    assert "2 m is 144.0000 to 146.0000" in band_permit(station, emission("fm", 150_000_000)).reason
