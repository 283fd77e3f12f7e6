"""Sharing by permission: what no rule permits stays away, whatever a plan holds; what is shared can be opened and used."""

import json

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from tests.strategies import plans
from umbra_awl.core.facts.earth import locator_of
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.paper.field_card import field_card
from umbra_awl.core.plan import model
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    Destination,
    Identity,
    PeopleChoice,
    PinnedName,
    RadioId,
    Reminder,
    Silence,
    Trip,
    Zone,
)
from umbra_awl.core.plan.privacy import OWN_ACCESS, RULES, is_person, parts_of
from umbra_awl.core.plan.sharing import private_position, shareable
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

PROFILES = shipped_profiles()
PRIVATE = "zqprivateqz"


def test_every_field_of_a_plan_has_a_rule_and_no_rule_is_for_a_field_that_is_gone():
    kinds = parts_of()
    assert len(kinds) > 25
    for kind in kinds:
        assert set(RULES[kind]) == set(kind.__struct_fields__), kind
    assert set(RULES) == kinds
    assert set(OWN_ACCESS) == set(model.AccessPoint.__struct_fields__)


def test_a_field_without_a_rule_is_private(plan, monkeypatch):
    rules = {name: rule for name, rule in RULES[model.AccessPoint].items() if name != "site"}
    monkeypatch.setitem(RULES, model.AccessPoint, rules)
    with_site = [item for item in shareable(plan).access if item.kind == "repeater" and item.site]
    assert with_site == []  # what needs a value and may not be told goes whole


def everything(plan):
    """The demo with a secret in every place that may hold one."""
    owner, *others = plan.station.identities
    owner = replace(owner, name=PRIVATE, startup=PRIVATE, alias=PRIVATE, dstar_note=PRIVATE, fusion_name=PRIVATE)
    owner = replace(owner, ids=(RadioId(9_991_234, PRIVATE),))
    friend = Identity(f"{PRIVATE}-key", "Q8FRD", PRIVATE, (RadioId(9_995_678),))
    station = replace(plan.station, identities=(owner, *others, friend), place=PRIVATE, phone=model.Phone(PRIVATE))
    person = Destination(f"{PRIVATE}-person", PRIVATE, "private", "lattice", 9_997_777, "private")
    called = Destination("by-call", PRIVATE, "group", "lattice", 9_998_888, "private")
    caller = Destination("station", PRIVATE, "station", text="Q8FRD")
    routes = [model.Route("blackfell-dmr", item.key, 1) for item in (person, called)]
    routes += [model.Route("signal-b", caller.key), model.Route("signal-b", "vlr001-c", 2, ur="Q8FRD")]
    radio = replace(
        plan.radios[0],
        people=PeopleChoice(picked=(9_990_001,), from_log=True, log_calls=(PRIVATE,), countries=(PRIVATE,)),
        settings=model.RadioSettings(startup=PRIVATE, quick_texts=(PRIVATE,), position="gps"),
        names=(PinnedName(routes[0].key, "X"),),
    )
    odiles = replace(plan.radios[0], key="friends", name=PRIVATE, identity=friend.key)
    trip = Trip(f"{PRIVATE}-trip", PRIVATE, 12.345678, 98.765432, "2026-12-24", reminders=(Reminder(PRIVATE),))
    zones = (*plan.zones, Zone("t", PRIVATE, "trip", trip.key), Zone("p", PRIVATE, "place", PRIVATE))
    access = tuple(
        replace(item, note=PRIVATE, services=tuple(replace(one, note=PRIVATE) for one in item.services))
        if item.kind not in {"hotspot", "simplex"}
        else replace(item, note=PRIVATE, place=PRIVATE, confirmed="2026-11-11", height_m=17.5, watts=13.5)
        for item in plan.access
    )
    hotspots = tuple(replace(item, id_label=PRIVATE, wifi=(PRIVATE,)) for item in plan.hotspots)
    have = {route.key for route in routes}
    return replace(
        plan,
        station=station,
        destinations=(*plan.destinations, person, called, caller),
        routes=(*(item for item in plan.routes if item.key not in have), *routes),
        radios=(radio, odiles, *plan.radios[1:]),
        trips=(trip,),
        zones=zones,
        access=access,
        hotspots=hotspots,
        steps=(model.Step(PRIVATE, PRIVATE, needs=PRIVATE, who=friend.key, started="2026-10-10"),),
        silenced=(Silence("x", "route", PRIVATE, reason=PRIVATE),),
    )


@pytest.mark.parametrize("privacy", ["none", "locator"])
@pytest.mark.parametrize("with_ids", [False, True])
def test_nothing_private_goes_out(plan, privacy, with_ids):
    whole = everything(plan)
    whole = replace(whole, station=replace(whole.station, privacy=privacy))
    shared = shareable(whole, with_ids=with_ids)
    text = plan_bytes(shared).decode()
    told = [
        PRIVATE,
        "9995678",
        "9990001",
        "9997777",
        "9998888",
        "Q8FRD",
        "12.3456",
        "98.7654",
        "2026-12-24",
        "2026-11-11",
        "2026-10-10",
    ]
    told += ["17.5", "13.5"]
    assert [item for item in told if item in text] == []
    assert ("9991234" in text) == with_ids
    assert '"granted"' not in text
    assert [item.call for item in shared.station.identities] == ["Q4WRN"]
    assert parse_plan(plan_bytes(shared)) == shared
    assert "-31.11," not in text
    home = next(item for item in shared.access if item.kind == "hotspot")
    assert (home.lat is None) == (privacy == "none")
    assert len(shared.routes) > 40
    assert len(shared.radios) == 3  # the club's radio is not the owner's


def test_what_is_public_is_all_there_and_works_as_before(plan):
    shared = shareable(plan)
    assert [item.call for item in shared.access] == [item.call for item in plan.access]
    repeater = next(item for item in plan.access if item.kind == "repeater")
    assert next(item for item in shared.access if item.site == repeater.site).lat == repeater.lat
    gone = [
        item.destination for item in plan.routes if is_person(PlanIndex(plan, TODAY).destinations[item.destination])
    ]
    assert gone == ["odile"]
    assert len(shared.routes) == len(plan.routes) - 1
    assert locator_of(shared.station.lat, shared.station.lon) == locator_of(plan.station.lat, plan.station.lon)
    assert (shared.station.lat, shared.station.lon) != (plan.station.lat, plan.station.lon)
    rules = {item.rule.name for item in findings_of(PlanIndex(plan, TODAY), PROFILES)}
    again = {item.rule.name for item in findings_of(PlanIndex(shared, TODAY), PROFILES)}
    assert rules - again <= {"no-id", "guard-on", "hotspot-id", "phone-band", "wifi-name-case"}
    mine = fit(PlanIndex(plan, TODAY), plan.radios[0], PROFILES["tarn16"]).memory
    theirs = fit(PlanIndex(shared, TODAY), shared.radios[0], PROFILES["tarn16"]).memory
    assert [item.name for item in theirs.channels] == [item.name for item in mine.channels]
    assert all(item.receive_only for item in theirs.channels)  # its reader's licence is not granted


def test_keys_that_were_names_are_made_anew(plan):
    renamed = json.loads(plan_bytes(plan))
    text = plan_bytes(plan).decode().replace("home-spot", "at-auntie-s-house")
    odd = parse_plan(text.encode())
    assert "auntie" not in plan_bytes(shareable(odd)).decode()
    assert renamed["access"]


@given(plans(), st.booleans(), st.sampled_from(["exact", "locator", "none"]))
def test_whatever_the_plan_its_shared_copy_can_be_opened_and_shared_again(plan, with_ids, privacy):
    plan = replace(plan, station=replace(plan.station, privacy=privacy))
    shared = shareable(plan, with_ids=with_ids)
    assert parse_plan(plan_bytes(shared)) == shared
    assert shareable(shared, with_ids=with_ids) == shared
    assert not shared.station.licence.granted
    assert (shared.trips, shared.steps, shared.silenced) == ((), (), ())


@pytest.mark.parametrize(("privacy", "expected"), [("exact", (46.47, -31.11)), ("none", None)])
def test_positions_by_privacy(privacy, expected):
    assert private_position(46.47, -31.11, privacy) == expected


def test_a_field_card_masks_the_numbers_of_people_and_not_of_an_echo():
    plan = demo_plan(TODAY)
    person = Destination("bram", "Bram", "private", "lattice", 9_997_777, "private")
    route = model.Route("blackfell-dmr", person.key, 1)
    plan = replace(plan, destinations=(*plan.destinations, person), routes=(*plan.routes, route))
    index = PlanIndex(plan, TODAY)
    radio = next(item for item in plan.radios if item.profile == "tarn16")
    made = fit(index, radio, PROFILES["tarn16"])
    assert made.channel_of(route.key) is not None
    card = field_card(index, radio, PROFILES["tarn16"], made, "2026-11-26")
    calls = [row.calls for zone in card.zones for row in zone.rows]
    assert "999•••• private" in calls
    assert "999097 private" in calls
    assert not any("9997777" in item for item in (*calls, card.code))


def test_the_walk_knows_every_way_a_value_may_be_nested():
    """A kind inside an optional, a tuple or a union counts; so does one inside another kind."""
    assert {model.Reminder, model.Short, model.Static, model.Mapped, model.Call, model.Phone} <= parts_of()
    assert all(issubclass(kind, msgspec.Struct) for kind in parts_of())
