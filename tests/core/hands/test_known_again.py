"""Things of another's plan known again without an ancestor, what saves tell, what stays mine: rule by rule, at the edges."""

from datetime import datetime, timedelta

import pytest
from msgspec.structs import replace

from tests.days import LOCAL, TODAY
from umbra_awl.core.facts.bands import Band, bands_for
from umbra_awl.core.hands import ancestor
from umbra_awl.core.hands.alike import aligned
from umbra_awl.core.hands.ancestor import MOST_LOOKED_AT, ancestor_of, told_by_saves
from umbra_awl.core.hands.bands import narrowed
from umbra_awl.core.hands.followed import FollowedPlan, follow, followed_by, place_of, unfollow
from umbra_awl.core.hands.merge import merge
from umbra_awl.core.hands.offered import harmless, offered_by, with_doubts
from umbra_awl.core.hands.refer import put_back, references
from umbra_awl.core.plan.authority import ASKED_ROWS
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.saves import keep_save
from umbra_awl.core.plan.disk.store import Document, read_plan
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.model import (
    AccessPoint,
    Destination,
    DmrAir,
    FmAir,
    Identity,
    Licence,
    Network,
    OwnedRadio,
    Plan,
    Route,
    ScanList,
    Service,
    Station,
    Step,
    Zone,
)
from umbra_awl.core.plan.sharing import private_position
from umbra_awl.demo.fresh import demo_plan

BASE = demo_plan(TODAY)
NOW = datetime(2026, 11, 20, 18, 0)


def service(key, rx_hz, **more):
    return Service(key, rx_hz, rx_hz - 7_600_000, DmrAir(6, "lat"), **more)


def world(*services, **more):
    """A plan of one repeater with these services and two talk groups."""
    fields = {
        "networks": (Network("lat", "Lattice", "dmr"),),
        "access": (AccessPoint("a", "Q0BLK", "Blackfell", "repeater", "", services or (service("s", 438_600_000),)),),
        "destinations": (
            Destination("g1", "Isles", "group", "lat", 99_901),
            Destination("g2", "Vel", "group", "lat", 99_902),
        ),
    }
    return Plan(**(fields | more))


def keys(row):
    return [item.key for item in row]


# known again


def test_services_of_one_repeater_are_paired_by_frequency_each_once():
    mine = world(service("low", 438_100_000), service("high", 439_200_000))
    theirs = world(service("x", 439_190_000), service("y", 438_110_000))
    assert keys(aligned(mine, theirs).access[0].services) == ["high", "low"]
    both_near = world(service("x", 438_100_000), service("y", 438_101_000))
    assert sorted(keys(aligned(mine, both_near).access[0].services)) == ["high", "low"]
    third = world(service("x", 438_100_000), service("y", 439_200_000), service("z", 439_210_000))
    assert keys(aligned(mine, third).access[0].services) == ["low", "high", "z"]


def test_two_of_one_name_are_never_made_one():
    mine = world(zones=(Zone("z1", "Home", "own"),))
    theirs = world(zones=(Zone("z1", "Home", "own"), Zone("z9", "Home", "own")))
    assert keys(aligned(mine, theirs).zones) == ["z1", "z9"]


def test_a_destination_is_its_number_and_only_without_one_its_name():
    mine = world(
        destinations=(
            Destination("g1", "Isles", "group", "lat", 99_901),
            Destination("loc", "Local", "local"),
            Destination("ref", "Reflector", "reflector", "", None, text="VLR001 C"),
        )
    )
    theirs = world(
        destinations=(
            Destination("t1", "Isles wide", "group", "lat", 99_901),
            Destination("t2", "Local", "local"),
            Destination("t3", "Other", "local"),
            Destination("t4", "The same reflector", "reflector", "", None, text="VLR001 C"),
            Destination("t5", "Isles", "group", "lat", 99_909),
        )
    )
    assert keys(aligned(mine, theirs).destinations) == ["g1", "loc", "t3", "ref", "t5"]


def test_keys_that_are_all_others_by_chance_are_exchanged_everywhere():
    mine = Plan(networks=(Network("lat", "Lattice", "dmr"),))
    theirs = Plan(networks=(Network("x", "Lattice", "dmr"),))
    assert keys(aligned(mine, theirs).networks) == ["lat"]


def test_what_points_to_what_they_do_not_have_is_untold_and_what_they_took_out_is_told():
    routes = tuple(Route("s", key, 1) for key in ("g1", "g2"))
    mine = world(routes=routes, scans=(ScanList("sc", "Scan", members=tuple(item.key for item in routes)),))
    without = replace(
        mine,
        destinations=mine.destinations[:1],
        routes=routes[:1],
        scans=(ScanList("sc", "Scan", members=(routes[0].key,)),),
    )
    assert aligned(mine, without).scans == mine.scans
    taken_out = replace(mine, scans=(ScanList("sc", "Scan", members=(routes[0].key,)),))
    assert aligned(mine, taken_out).scans == taken_out.scans
    hears = replace(mine, routes=(replace(routes[0], hears=("g1", "g2")), routes[1]))
    fewer = replace(hears, routes=(replace(routes[0], hears=("g1",)), routes[1]))
    assert aligned(hears, fewer).routes == fewer.routes
    gone = replace(fewer, destinations=mine.destinations[:1], routes=fewer.routes[:1])
    assert aligned(hears, gone).routes[0].hears == ("g1", "g2")


@pytest.mark.parametrize(
    ("field", "held", "there"),
    [("zones", ("z1", "z2"), "zones"), ("one_touch", ("g1", "g2"), "destinations")],
)
def test_a_radios_own_rows_are_untold_only_where_their_things_are(field, held, there):
    things = {"zones": (Zone("z1", "One", "own"), Zone("z2", "Two", "own"))}
    radio = OwnedRadio("r", "Tarn", "tarn-5")
    mine = world(radios=(replace(radio, **{field: held}),), **things)
    cut = replace(mine, radios=(replace(radio, **{field: held[:1]}),))
    assert getattr(aligned(mine, cut).radios[0], field) == held[:1]
    gone = replace(cut, **{there: getattr(cut, there)[:1]})
    assert getattr(aligned(mine, gone).radios[0], field) == held


def test_a_rounded_place_is_the_place_and_another_one_is_another():
    mine = BASE.access[0]
    assert mine.lat is not None
    told = private_position(mine.lat, mine.lon, BASE.station.privacy)
    rounded = tuple(told) if told else (None, None)
    for place, kept in ((rounded, True), ((None, None), True), ((1.0, 2.0), False)):
        theirs = replace(BASE, access=(replace(mine, lat=place[0], lon=place[1]), *BASE.access[1:]))
        found = aligned(BASE, theirs).access[0]
        assert ((found.lat, found.lon) == (mine.lat, mine.lon)) == kept


# what saves tell


def test_one_save_or_many_are_said_and_a_plan_of_nothing_comes_from_nothing(tmp_path):
    mine = tmp_path / "mine.awl.json"
    document = Document.create(mine, BASE, LOCAL)
    plan = document.plan
    document.close()
    theirs = replace(BASE, name="Theirs")
    keep_save(mine, plan_bytes(BASE), NOW)
    assert ancestor_of(mine, plan, tmp_path / "t.awl.json", theirs).words == "what the save of yours tell"
    keep_save(mine, plan_bytes(replace(BASE, name="B")), NOW + timedelta(hours=1))
    assert ancestor_of(mine, plan, tmp_path / "t.awl.json", theirs).words == "what 2 saves of yours tell"
    assert ancestor_of(mine, plan, tmp_path / "t.awl.json", Plan()) is None


def test_the_oldest_save_is_looked_at_however_many_there_are(tmp_path, monkeypatch):
    assert MOST_LOOKED_AT == 60
    monkeypatch.setattr(ancestor, "MOST_LOOKED_AT", 2)
    mine = tmp_path / "mine.awl.json"
    document = Document.create(mine, replace(BASE, name="now"), LOCAL)
    plan = document.plan
    document.close()
    for at in range(5):
        keep_save(mine, plan_bytes(replace(BASE, name=f"n{at}")), NOW + timedelta(hours=at))
    read = []
    monkeypatch.setattr(ancestor, "read_plan", lambda path: read.append(path) or read_plan(path))
    found = ancestor_of(mine, plan, tmp_path / "t.awl.json", replace(BASE, name="n0"))
    assert [read_plan(path).name for path in read] == ["n0", "n3", "n4"]
    assert found.plan.name == "n0"


def test_kin_is_a_matter_of_shares_on_both_sides():
    def of(*numbers):
        return Plan(destinations=tuple(Destination(f"g{at}", f"G{at}", "group", "", at) for at in numbers))

    ten = of(*range(10))
    kin = ancestor._of_mine
    assert kin([ten], of(*range(6)))
    assert not kin([ten], of(*range(5)))
    assert kin([ten], of(*range(6), *range(100, 104)))
    assert not kin([ten], of(*range(6), *range(100, 105)))
    assert kin([ten, of(*range(100, 110))], of(*range(6), *range(100, 104)))
    assert not kin([ten, of(*range(100, 110))], of(*range(100, 110)))


def test_a_save_tells_values_rows_and_orders():
    old, mine = world(), world(service("s", 438_700_000))
    theirs_of_old = told_by_saves([old], mine, old)
    assert theirs_of_old == old
    other = world(service("s", 438_900_000))
    assert told_by_saves([old], mine, other).access == old.access
    reverse = replace(old, destinations=old.destinations[::-1])
    assert told_by_saves([old], old, reverse).destinations == old.destinations
    assert told_by_saves([reverse, old], old, reverse).destinations == reverse.destinations
    grown = replace(old, destinations=(Destination("g0", "New", "group", "lat", 99_900), *reverse.destinations))
    assert keys(told_by_saves([reverse], old, grown).destinations) == ["g2", "g1"]
    assert keys(told_by_saves([old, reverse], old, grown).destinations) == ["g2", "g1"]
    assert keys(told_by_saves([old, old], old, grown).destinations) == ["g1", "g2"]
    lost = replace(old, destinations=old.destinations[:1])
    assert keys(told_by_saves([old], lost, old).destinations) == ["g1", "g2"]
    assert (
        told_by_saves([rename_plan("A").apply(old)], rename_plan("B").apply(old), rename_plan("C").apply(old)).name
        == "A"
    )


# bands


def test_bands_that_only_touch_are_not_inside_and_equal_ones_change_nothing():
    station = BASE.station
    two = next(item for item in bands_for(station.region, station.bands) if item.name == "2 m")
    for offered in (
        Band("x", two.high_hz, two.high_hz + 1_000_000),
        Band("x", two.low_hz - 1_000_000, two.low_hz),
    ):
        found = narrowed(station, [offered])
        assert found.bands == station.bands
        assert found.outside
    same = narrowed(station, [Band("2 m", two.low_hz, two.high_hz, "club")])
    assert (same.bands, same.outside) == (station.bands, "")
    for low, high in ((two.low_hz, two.high_hz - 1), (two.low_hz + 1, two.high_hz)):
        found = narrowed(station, [Band("2 m", low, high, "club")])
        band = next(item for item in found.bands if item.name == "2 m")
        assert (band.low_hz, band.high_hz, band.source) == (low, high, "club")
        assert found.outside == ""
    unsaid = narrowed(station, [Band("2 m", two.low_hz + 1, two.high_hz)])
    assert next(item for item in unsaid.bands if item.name == "2 m").source == two.source


# followed


def test_what_is_followed_is_private_read_within_bounds_and_only_of_its_own_form(tmp_path):
    plan_file = tmp_path / "mine.awl.json"
    follow(plan_file, tmp_path / "club.awl.json", None)
    place = place_of(plan_file)
    assert place.stat().st_mode & 0o777 == 0o600
    assert followed_by(plan_file).taken() is None
    good = place.read_bytes()
    assert FollowedPlan("x").version == 1
    for spoiled in (
        good.replace(b'"version":1', b'"version":2'),
        good.replace(b"followed plan", b"other"),
        b"[",
        b"\xff",
    ):
        assert spoiled != good
        place.write_bytes(spoiled)
        assert followed_by(plan_file) is None
    place.write_bytes(good.replace(str(tmp_path / "club.awl.json").encode(), b""))
    assert followed_by(plan_file) is None
    unfollow(plan_file)
    unfollow(plan_file)
    assert followed_by(plan_file) is None


def test_what_cannot_be_kept_or_taken_away_is_said(tmp_path, monkeypatch):
    with pytest.raises(StoreError, match="cannot be kept"):
        follow(tmp_path / "none" / "mine.awl.json", tmp_path / "club.awl.json", None)
    place_of(tmp_path / "mine.awl.json").mkdir()
    with pytest.raises(StoreError, match="cannot be taken away"):
        unfollow(tmp_path / "mine.awl.json")


# mine alone


def test_their_people_get_keys_of_their_own_no_licence_and_their_radios_stay_theirs():
    mine = Plan(
        station=Station(identities=(Identity("me", "Q4WRN", "Wren"), Identity("x", "Q3AMB", "Amber"))),
        radios=(OwnedRadio("r1", "Tarn", "tarn-5", identity="me"),),
    )
    theirs = Plan(
        station=Station(
            identities=(
                Identity("me", "Q7FEN", "Fen", licence=Licence("Full", granted=True), shares_licence=True),
                Identity("me-2", "Q7SED", "Sedge", shares_licence=True),
                Identity("y", "Q3AMB", "Amber"),
            )
        ),
        radios=(
            OwnedRadio("r2", "Theirs", "tarn-5"),
            OwnedRadio("r3", "Ambers", "tarn-5", identity="y"),
            OwnedRadio("r4", "Sedges", "tarn-5", identity="me-2"),
            OwnedRadio("r5", "A ghost's", "tarn-5", identity="ghost"),
        ),
        steps=(Step("st", "Buy a radio", who="me"), Step("su", "Nobody's")),
    )
    found = offered_by(mine, theirs).plan
    people = {item.key: item for item in found.station.identities}
    assert len(people) == 4
    new = {item.call: item for item in people.values()}
    assert set(new) == {"Q4WRN", "Q3AMB", "Q7FEN", "Q7SED"}
    for call in ("Q7FEN", "Q7SED"):
        assert not new[call].shares_licence
        assert new[call].licence == Licence()
    owners = {radio.key: people[radio.identity].call for radio in found.radios if radio.key != "r5"}
    assert owners == {"r2": "Q7FEN", "r3": "Q3AMB", "r4": "Q7SED"}
    assert found.radios[-1].identity == "ghost"
    assert [people[step.who].call if step.who else "" for step in found.steps] == ["Q7FEN", ""]


def test_what_is_new_of_theirs_is_harmless_anywhere_in_it():
    hotspot = replace(BASE.hotspots[0], tx_correction_hz=900, rx_correction_hz=-900, wifi=("Theirs",))
    clean = harmless((hotspot,))[0]
    assert (clean.tx_correction_hz, clean.rx_correction_hz, clean.wifi) == (0, 0, ())
    assert clean.transmit_hz == hotspot.transmit_hz
    assert harmless(BASE.radios[0]).identity == BASE.radios[0].identity
    assert harmless(BASE.access) == BASE.access
    assert harmless(7) == 7
    theirs = replace(BASE, hotspots=(*BASE.hotspots, replace(hotspot, key="new")))
    assert offered_by(BASE, theirs).plan.hotspots[-1].tx_correction_hz == 0
    mine = replace(BASE, hotspots=(hotspot, *BASE.hotspots[1:]))
    found = offered_by(mine, replace(BASE, hotspots=(replace(BASE.hotspots[0], host="theirs"), *BASE.hotspots[1:])))
    assert (found.plan.hotspots[0].tx_correction_hz, found.plan.hotspots[0].host) == (900, "theirs")
    assert {item.path[-1] for item in found.kept} == {"tx_correction_hz", "rx_correction_hz", "wifi"}


def test_what_comes_and_goes_only_with_an_answer():
    assert {"radios", "hotspots", "steps", "identities"} == ASKED_ROWS


def test_a_service_of_another_mode_under_the_same_key_is_theirs_as_it_is():
    access = BASE.access[0]
    first = access.services[0]
    other = replace(first, air=FmAir("88.5"))
    theirs = replace(BASE, access=(replace(access, services=(other, *access.services[1:])), *BASE.access[1:]))
    assert offered_by(BASE, theirs).plan.access[0].services[0].air == FmAir("88.5")
    assert merge(BASE, BASE, theirs).plan.access[0].services[0].air == FmAir("88.5")


def test_a_doubt_is_only_where_they_alone_changed_what_is_asked():
    route = BASE.routes[0]
    changed = (replace(route, encrypted=True), *BASE.routes[1:])
    assert with_doubts(None, BASE, BASE) is None
    assert with_doubts(BASE, BASE, BASE) == BASE
    assert [item.path for item in merge(BASE, BASE, replace(BASE, routes=changed)).questions] == [
        ("routes", route.key, "encrypted")
    ]
    assert not merge(BASE, replace(BASE, routes=changed), BASE).questions, "my own change is no doubt"
    assert not merge(BASE, replace(BASE, routes=changed), replace(BASE, routes=changed)).questions
    free = (replace(route, color_code=9), *BASE.routes[1:])
    assert not merge(BASE, BASE, replace(BASE, routes=free)).questions


# what points to what


def test_references_are_found_in_rows_and_inside_of_things():
    route = Route("s", "g1", 1, hears=("g2",))
    found = set(references((route, ScanList("sc", "Scan", members=(route.key,)))))
    assert found == {("service", "s"), ("destination", "g1"), ("destination", "g2"), ("route", route.key)}
    assert set(references(world().access)) == {("network", "lat")}
    assert not list(references(7))


def test_what_is_needed_is_put_back_round_by_round_and_people_once():
    mine = world(routes=(Route("s", "g1", 1),), scans=(ScanList("sc", "Scan", members=("s>g1@1",)),))
    bare = replace(mine, networks=(), access=(), destinations=(), routes=())
    plan, back = put_back(bare, mine, Plan())
    assert plan == replace(mine, destinations=mine.destinations[:1])
    assert {side for _path, side in back} == {"mine"}
    assert put_back(mine, mine, Plan()) == (mine, [])
    person = Identity("p", "Q3AMB")
    both = Plan(station=Station(identities=(person,)), radios=(OwnedRadio("r", "Tarn", "tarn-5", identity="p"),))
    plan, back = put_back(replace(both, station=Station()), both, both)
    assert plan == both
    assert back == [(("station", "identities", "p"), "mine")]
