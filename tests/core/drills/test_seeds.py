"""A seed makes the very slip it is named after, in the very thing it names, and touches nothing else."""

import random

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.drills.fault import Maker
from umbra_awl.core.drills.seeds import SEEDS
from umbra_awl.core.drills.slips import shipped_slips
from umbra_awl.core.facts.tones import TONES
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    AccessPoint,
    DmrAir,
    FmAir,
    Licence,
    Phone,
    Plan,
    RadioId,
    ScanList,
    Service,
    Station,
    Zone,
)
from umbra_awl.core.plan.parts import PARTS
from umbra_awl.core.plan.places import is_pair
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

SOUND = Maker(demo_plan(TODAY), shipped_profiles(), TODAY).sound
INDEX = PlanIndex(SOUND, TODAY)


def offered(key, plan=SOUND, seed=1):
    return list(SEEDS[key](PlanIndex(plan, TODAY), random.Random(seed)))


def changed(one):
    """What is other than in the sound plan: the rows of the plan, and in each of them what is new there."""
    found = {
        name: [item for item in part.of(one.plan) if item not in part.of(SOUND)]
        for name, part in PARTS.items()
        if part.of(one.plan) != part.of(SOUND)
    }
    if one.plan.station != SOUND.station:
        found["station"] = [one.plan.station]
    return found


def fields_of(was, now):
    return {name for name in was.__struct_fields__ if getattr(was, name) != getattr(now, name)}


def services_of(one):
    """The services that are other than in the sound plan: as they were and as they are."""
    now = PlanIndex(one.plan, TODAY).services
    return [(was, now[key][1]) for key, (_access, was) in INDEX.services.items() if now[key][1] != was]


def routes_of(one):
    """The routes that are other, by their place: as they were and as they are."""
    return [(was, now) for was, now in zip(SOUND.routes, one.plan.routes, strict=True) if was != now]


def shift(service):
    return service.tx_hz - service.rx_hz


@pytest.mark.parametrize(
    ("key", "slip"),
    [
        ("offset-sign", lambda was, now: shift(now) == -shift(was) != 0),
        ("offset-short", lambda was, now: shift(now) * 10 == shift(was) != 0),
        ("offset-left-on", lambda was, now: shift(was) == 0 and shift(now) in {-600_000, 600_000, -7_600_000}),
    ],
)
def test_a_shift_is_made_wrong_at_one_service_that_a_route_uses(key, slip):
    made = offered(key)
    assert made
    for one in made:
        ((was, now),) = services_of(one)
        assert slip(was, now)
        assert fields_of(was, now) == {"tx_hz"}
        assert set(changed(one)) == {"access"}
        assert INDEX.routes[one.route].service == was.key
        access = INDEX.services[was.key][0]
        assert access.key == one.access
        assert access.kind == ("simplex" if key == "offset-left-on" else "repeater")


def test_every_repeater_with_a_shift_can_have_it_made_wrong():
    used = {item.service for item in SOUND.routes}
    there = {
        service.key
        for access, service in INDEX.services.values()
        if access.kind == "repeater" and shift(service) and service.key in used
    }
    for key in ("offset-sign", "offset-short"):
        assert {services_of(one)[0][0].key for one in offered(key)} == there


def test_one_digit_of_a_number_is_other_and_it_is_as_long():
    made = offered("digit-off")
    for one in made:
        ((now,),) = changed(one).values()
        was = INDEX.destinations[now.key]
        before, after = str(was.number), str(now.number).rjust(len(str(was.number)), "0")
        assert fields_of(was, now) == {"number"}
        assert len(before) == len(after)
        assert sum(a != b for a, b in zip(before, after, strict=True)) == 1
        assert one.destination == now.key
        assert not one.route or INDEX.routes[one.route].destination == now.key
    for item in SOUND.destinations:
        count = sum(one.destination == item.key for one in made)
        if item.number is not None and count:  # nine others for each digit, one less where none would be left
            assert count == 9 * len(str(item.number)) - (len(str(item.number)) == 1)
    last = [str(changed(one)["destinations"][0].number)[:-1] for one in made[:9]]
    assert len(set(last)) == 1  # the last digit first, as it is mistyped


@pytest.mark.parametrize(("key", "fields"), [("group-for-private", {"call"}), ("no-contact", {"number"})])
def test_a_destination_is_called_wrongly_or_has_no_number(key, fields):
    made = offered(key)
    assert {one.destination for one in made} == {
        item.key for item in SOUND.destinations if key == "group-for-private" or item.number is not None
    }
    for one in made:
        now = PlanIndex(one.plan, TODAY).destinations[one.destination]
        was = INDEX.destinations[one.destination]
        assert fields_of(was, now) == fields
        assert now.number is None or (now.call == "private") is (was.call == "group")
        assert one.route == next((item.key for item in SOUND.routes if item.destination == now.key), "")


@pytest.mark.parametrize(
    ("key", "mode", "field", "slip"),
    [
        ("copied-color-code", "dmr", "color_code", lambda was, now, air: now.color_code not in {None, air.color_code}),
        ("copied-slot", "dmr", "slot", lambda was, now, air: {was.slot or 1, now.slot} == {1, 2}),
        ("group-list", "dmr", "hears", lambda was, now, air: now.hears == ()),
        ("encrypted", "dmr", "encrypted", lambda was, now, air: now.encrypted and not was.encrypted),
        ("wide-for-narrow", "fm", "width_hz", lambda was, now, air: now.width_hz == 25_000),
        ("digital-on-fm", "fm", "color_code", lambda was, now, air: now.color_code == 1),
        ("tone-on-receive", "fm", "tone_rx", lambda was, now, air: now.tone_rx == (air.tone_tx or TONES[1])),
        ("command-left", "dstar", "ur", lambda was, now, air: len(now.ur) == 8 and now.ur[7] == "L"),
        ("padding", "dstar", "rpt1", lambda was, now, air: now.rpt1.rstrip()[-2:] == f" {air.module}"),
    ],
)
def test_one_field_of_one_route_of_the_mode_is_wrong(key, mode, field, slip):
    made = offered(key)
    assert made
    for one in made:
        ((was, now),) = routes_of(one)
        service = INDEX.services[was.service][1]
        assert service.mode == mode
        assert not was.receive_only
        assert fields_of(was, now) == {field}
        assert slip(was, now, service.air)
        assert one.route == now.key
        assert set(changed(one)) <= {"routes", "zones", "scans"}


def test_a_route_that_is_renamed_by_its_slip_stays_in_its_zones_and_scan_lists():
    for one in offered("copied-slot"):
        ((was, now),) = routes_of(one)
        assert was.key != now.key
        for part in ("zones", "scans"):
            rows = zip(PARTS[part].of(SOUND), PARTS[part].of(one.plan), strict=True)
            for before, after in rows:
                assert after.members == tuple(now.key if item == was.key else item for item in before.members)


def test_a_slot_is_copied_from_either_to_the_other_and_stays_in_lists_made_by_hand():
    assert {routes_of(one)[0][0].slot for one in offered("copied-slot")} == {1, 2}
    keys = tuple(item.key for item in SOUND.routes[:30])
    by_hand = replace(
        SOUND, scans=(ScanList("mine", "Mine", "hand", members=keys),), zones=(Zone("z", "Z", "hand", members=keys),)
    )
    for one in offered("copied-slot", by_hand):
        (now,) = set(one.plan.routes) - set(SOUND.routes)
        (was,) = set(SOUND.routes) - set(one.plan.routes)
        wanted = tuple(now.key if key == was.key else key for key in keys)
        assert one.plan.scans[0].members == one.plan.zones[0].members == wanted


def test_where_all_color_codes_are_alike_another_one_is_taken():
    def alike(service):
        return replace(service, air=replace(service.air, color_code=7)) if isinstance(service.air, DmrAir) else service

    access = tuple(replace(item, services=tuple(map(alike, item.services))) for item in SOUND.access)
    codes = {
        route.color_code
        for one in offered("copied-color-code", replace(SOUND, access=access))
        for route in one.plan.routes
        if route.key == one.route
    }
    assert codes == {3}


def test_a_slot_is_not_copied_where_the_same_group_is_on_the_other_one_already():
    keys = set(INDEX.routes)
    first = offered("copied-slot")[0]
    ((_was, now),) = routes_of(first)
    there = replace(SOUND, routes=(*SOUND.routes, now))
    made = SEEDS["copied-slot"](PlanIndex(there, TODAY), random.Random(1))
    assert now.key not in {one.route for one in made}
    assert now.key not in keys


def test_fields_of_dstar_go_wrong_at_the_kind_of_thing_where_they_can():
    for one in offered("padding"):
        access = INDEX.parts(INDEX.routes[one.route])[0]
        assert access.kind == "repeater"
        assert access.call
        ((_was, now),) = routes_of(one)
        assert now.rpt1[7] != now.rpt1.rstrip()[-1] or len(access.call) == 6
    for one in offered("duplex-missing"):
        assert INDEX.parts(INDEX.routes[one.route])[0].kind == "hotspot"
        ((_was, now),) = routes_of(one)
        assert (now.rpt1, now.rpt2) == (" " * 8, " " * 8)
    for one in offered("command-left"):
        _access, service, destination = INDEX.parts(INDEX.routes[one.route])
        assert is_pair(service, destination)
        assert PlanIndex(one.plan, TODAY).routes[one.route].ur[:6] == destination.text[:6]


def test_a_tone_is_asked_for_only_at_a_repeater_that_sends_none():
    sending = {
        service.key
        for access, service in INDEX.services.values()
        if access.kind == "repeater" and isinstance(service.air, FmAir) and not service.air.tone_rx
    }
    assert {INDEX.routes[one.route].service for one in offered("tone-on-receive")} <= sending
    assert all(
        one.access == INDEX.services[INDEX.routes[one.route].service][0].key for one in offered("tone-on-receive")
    )


def test_an_id_loses_its_last_digit_and_no_other_id_is_touched():
    made = offered("id-short")
    assert made
    for one in made:
        before, after = SOUND.station.identities, one.plan.station.identities
        ((was, now),) = [(a, b) for a, b in zip(before, after, strict=True) if a != b]
        assert now.ids[0].number == was.ids[0].number // 10
        assert now.ids[1:] == was.ids[1:]
        assert fields_of(SOUND.station, one.plan.station) == {"identities"}
    first = SOUND.station.identities[0]
    two = replace(first, ids=(RadioId(9_990_123), RadioId(9_990_456)))
    both = replace(SOUND, station=replace(SOUND.station, identities=(two,)))
    (one,) = offered("id-short", both)
    assert [item.number for item in one.plan.station.identities[0].ids] == [999_012, 9_990_456]


def test_two_names_begin_alike_only_within_one_mode():
    for one in offered("names-meet"):
        (first, second) = routes_of(one)
        modes = {INDEX.services[item[0].service][1].mode for item in (first, second)}
        assert len(modes) == 1
        assert {first[1].name[-3:], second[1].name[-3:]} == {"one", "two"}
        assert one.radio in INDEX.radios


@pytest.mark.parametrize(("key", "part"), [("zone-too-long", "zones"), ("scan-too-long", "scans")])
def test_a_list_of_everything_is_added_for_each_radio(key, part):
    made = offered(key)
    assert {one.radio for one in made} == set(INDEX.radios)
    for one in made:
        (more,) = changed(one)[part]
        assert more.name == "Everything"
        radio = PlanIndex(one.plan, TODAY).radios[one.radio]
        assert key != "zone-too-long" or more.key in radio.zones


def test_a_hotspot_is_told_another_frequency_than_its_radio():
    made = offered("hotspot-apart")
    assert {one.access for one in made} == {item.access for item in SOUND.hotspots}
    for one in made:
        ((now,),) = changed(one).values()
        was = next(item for item in SOUND.hotspots if item.key == now.key)
        assert abs(now.receive_hz - was.receive_hz) == 12_500
        assert (now.transmit_hz == was.transmit_hz) is was.duplex
    for one in offered("satellites"):
        moved = next(item for item in one.plan.hotspots if item.access == one.access)
        assert not moved.duplex
        assert moved.receive_hz == moved.transmit_hz in {435_500_000, 145_900_000}
        rows = PlanIndex(one.plan, TODAY).access[one.access].services
        assert {(item.rx_hz, item.tx_hz) for item in rows} == {(moved.receive_hz, moved.receive_hz)}


def test_two_hotspots_of_one_call_are_made_alike_but_a_hotspot_and_a_repeater_never():
    made = offered("two-alike")
    for one in made:
        ((_was, now),) = services_of(one)
        access = INDEX.access[one.access]
        twins = [
            item
            for other in SOUND.access
            if other.key != access.key and other.call == access.call and other.kind == access.kind == "hotspot"
            for item in other.services
        ]
        assert now.air.module in {getattr(item.air, "module", None) for item in twins}
    lone = replace(SOUND, access=tuple(item for item in SOUND.access if item.kind != "hotspot"), routes=tuple(
        item for item in SOUND.routes if INDEX.parts(item)[0].kind != "hotspot"
    ))  # fmt: skip
    assert not offered("two-alike", lone)


def test_the_name_of_a_wireless_network_differs_by_case_only_and_only_where_one_is_shared():
    phone = Phone("Wren Phone")
    held = tuple(replace(item, wifi=("Shed", "Wren Phone", "1234")) for item in SOUND.hotspots)
    shared = replace(SOUND, station=replace(SOUND.station, phone=phone), hotspots=held)
    made = offered("wifi-case", shared)
    assert len(made) == len(held)
    for one in made:
        now = next(item for item in one.plan.hotspots if item.access == one.access)
        assert now.wifi == ("Shed", "wREN pHONE", "1234")
    digits = replace(shared, station=replace(shared.station, phone=replace(phone, sharing="1234")))
    assert not offered("wifi-case", digits)
    for none in (None, replace(phone, sharing="")):
        assert not offered("wifi-case", replace(shared, station=replace(shared.station, phone=none)))
        assert bool(offered("five-ghz", replace(shared, station=replace(shared.station, phone=none)))) is (
            none is not None
        )
    assert all(one.plan.station.phone.band_ghz == 5 for one in offered("five-ghz", shared))


def test_a_guard_is_forgotten_or_taken_off_early():
    (forgotten,) = offered("guard-forgotten")
    (early,) = offered("guard-early")
    assert forgotten.plan.station.licence == replace(SOUND.station.licence, guard=True)
    assert early.plan.station.licence == replace(SOUND.station.licence, granted=False, granted_on="", guard=False)


def test_a_plan_without_such_a_thing_offers_nothing_and_raises_nothing():
    bare = Plan(station=Station(licence=Licence()))
    lone = replace(
        bare,
        access=(AccessPoint("a", "A", "repeater", services=(Service("a-fm", 145_600_000, 145_000_000, FmAir()),)),),
    )
    for plan in (bare, lone):
        for key in SEEDS:
            assert not offered(key, plan) or key in {"guard-forgotten", "guard-early"}
    assert all(shipped_slips()[key].where == "plan" for key in SEEDS)


def test_what_is_wrong_already_is_not_made_wrong_again():
    (first, *_more) = offered("encrypted")
    again = offered("encrypted", first.plan)
    assert first.route not in {one.route for one in again}
    assert len(again) == len(offered("encrypted")) - 1


def test_a_field_with_the_module_one_place_off_is_still_eight_characters():
    for one in offered("padding"):
        ((_was, now),) = routes_of(one)
        assert len(now.rpt1) == 8
