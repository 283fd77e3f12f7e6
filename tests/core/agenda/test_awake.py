"""Who is awake, where else to call, and how a net is reached from where one is."""

from datetime import UTC, datetime
from zoneinfo import ZoneInfo

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.agenda.awake import awake, best_hours, busy_at, trip_on, where_else, zone_here, zone_of
from umbra_awl.core.agenda.way_there import way_there
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Net
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

PROFILES = shipped_profiles()
HOME = "Atlantic/Azores"


@pytest.fixture(scope="module")
def index():
    return PlanIndex(demo_plan(TODAY), TODAY)


@pytest.fixture(scope="module")
def fits(index):
    return {radio.key: fit(index, radio, PROFILES[radio.profile]) for radio in index.plan.radios}


def at(hour):
    return datetime(2026, 11, 27, hour, 0, tzinfo=UTC)


def test_the_far_ends_clock_ranks_whom_to_call(index, fits):
    for hour in range(24):
        ranked = awake(index, at(hour), HOME, fits, {})
        assert [item.score for item in ranked] == sorted((item.score for item in ranked), reverse=True)
        for item in ranked:
            assert item.there == at(hour).astimezone(ZoneInfo(item.zone))
            if not item.route:
                assert item.words == "no route goes there"
            elif 0 <= item.there.hour < 5:
                assert item.words == "they sleep"
            elif item.there.hour in {19, 20}:
                assert item.words == "call now"


def test_nobody_in_one_country_leads_to_one_where_it_is_evening(index, fits):
    ranked = awake(index, at(13), HOME, fits, {})  # 19:00 on the Amber Coast
    assert ranked[0].name == "Amber Coast"
    silent = next(item for item in ranked if item.name == "Northern Reach")
    assert [item.name for item in where_else(ranked, silent.destination)][:1] == ["Amber Coast"]
    assert all(item.route for item in where_else(ranked, silent.destination))


def test_the_busiest_hours_are_told_by_ones_own_clock():
    assert best_hours("Etc/UTC", "Etc/UTC", at(3)) == "19:00–22:00"
    assert best_hours("Etc/GMT-6", "Etc/UTC", at(3)) == "13:00–16:00"
    assert best_hours("Etc/GMT-6", "Etc/GMT+3", at(20)) == "10:00–13:00"
    assert busy_at(at(20)) > busy_at(at(9)) > busy_at(at(3))
    half = at(22).replace(minute=30)
    assert busy_at(half) == pytest.approx((busy_at(at(22)) + busy_at(at(23))) / 2)
    assert busy_at(at(23).replace(minute=30)) == pytest.approx((busy_at(at(23)) + busy_at(at(0))) / 2)


def test_a_destination_that_names_a_repeater_is_where_that_stands(index):
    routed = next(item for item in index.plan.destinations if item.key == "to-signal-c")
    assert zone_of(index, routed) == "Etc/GMT+2"
    assert zone_of(index, replace(routed, time_zone="Asia/Tokyo")) == "Asia/Tokyo"


def test_a_trip_shifts_the_week_into_the_travellers_zone(index):
    trip = replace(index.plan.trips[0], begins="2026-11-26", ends="2026-11-28", time_zone="Asia/Tokyo")
    there = PlanIndex(replace(index.plan, trips=(trip,)), TODAY)
    assert trip_on(there.plan.trips, at(12)) == trip
    days = [trip_on(there.plan.trips, datetime(2026, 11, day, 12, tzinfo=UTC)) is not None for day in range(25, 30)]
    assert days == [False, True, True, True, False]
    day_out = replace(trip, ends="")
    assert [trip_on([day_out], datetime(2026, 11, day, tzinfo=UTC)) is not None for day in (26, 27)] == [True, False]
    assert zone_here(there, at(12), HOME) == "Asia/Tokyo"
    later = datetime(2026, 12, 5, tzinfo=UTC)
    assert zone_here(there, later, HOME) == HOME
    assert zone_here(there, later, HOME, trip.key) == "Asia/Tokyo"


def test_a_net_is_reached_by_its_route_by_the_nearest_or_it_is_said_what_is_missing(index, fits):
    own = way_there(index, fits, Net("n", "N", "isles-wide", "blackfell-dmr>isles-wide@2"))
    assert own.route == "blackfell-dmr>isles-wide@2"
    assert not own.missing
    nearest = way_there(index, fits, Net("n", "N", "isles-wide"))
    assert index.routes[nearest.route].destination == "isles-wide"
    assert "Say whom" in way_there(index, fits, Net("n", "N")).missing
    assert "Say whom" in way_there(index, fits, Net("n", "N", "gone", "gone")).missing
    bare = PlanIndex(replace(index.plan, routes=(), zones=(), scans=(), radios=()), TODAY)
    assert "Punch one" in way_there(bare, {}, Net("n", "N", "isles-wide")).missing
    alone = PlanIndex(replace(bare.plan, access=(), hotspots=(), trips=()), TODAY)
    assert "No access point" in way_there(alone, {}, Net("n", "N", "isles-wide")).missing
    assert "no radio may send" in way_there(index, {}, Net("n", "N", "isles-wide")).missing
    far = way_there(index, fits, Net("n", "N", "", "blackfell-dmr>isles-wide@2"), Position(40.0, -31.0))
    assert "km away" in far.missing
