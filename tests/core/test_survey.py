"""The nearest, their verdicts, taking them into the plan, exports, tracks; and what of it may be shared."""

from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from umbra_awl.core.directory.errors import StoreFailedError
from umbra_awl.core.directory.export import as_gpx, write_access
from umbra_awl.core.directory.importing import read_incoming, take
from umbra_awl.core.directory.lists.guess import guess
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.nearest import NearestWanted, boxes_around, dots, labels, nearest, unplaced, within
from umbra_awl.core.directory.sanity import (
    KnownGround,
    age_words,
    doubts,
    sharing_output,
    usual_offsets,
    verdict_words,
)
from umbra_awl.core.directory.store import Store, StoredEntry
from umbra_awl.core.directory.taking import match, take_entries
from umbra_awl.core.directory.track import along, read_track
from umbra_awl.core.estimate.survey import survey
from umbra_awl.core.facts.bands import BANDS
from umbra_awl.core.facts.coast import Land, world_coast
from umbra_awl.core.facts.earth import Position, distance_km
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.edit.edit_access import remove_access
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, DmrAir, FmAir, Licence, Plan, Service
from umbra_awl.core.tables.errors import ReadError
from umbra_awl.core.tables.rows import Row, Table
from umbra_awl.core.tables.table import open_table
from umbra_awl.demo.fresh import lay_out

HOME = Position(46.47, -31.11)
TODAY = date(2026, 11, 24)
GROUND = KnownGround(BANDS[1], None, TODAY, {})
HEADERS = ["call", "site", "rx", "offset", "mode", "lat", "lon", "confirmed"]
NOW = "2026-11-24T12:00:00"


def fill(store, rows):
    table = Table("t.csv", "csv", HEADERS, lambda: (Row(at, list(map(str, row))) for at, row in enumerate(rows, 2)))
    take(store, read_incoming(store, table, TableLayout("access", {name: name for name in HEADERS}, source="t")), NOW)


@pytest.fixture
def velmar(tmp_path):
    store = Store(lay_out(tmp_path, TODAY).directory)
    yield store
    store.close()


def calls(found):
    return [near.entry.access.call for near in found]


POSITIONS = st.lists(
    st.tuples(
        st.one_of(st.floats(-90, 90), st.floats(88, 90), st.floats(-90, -88)),
        st.one_of(st.floats(-180, 180), st.floats(178, 180), st.floats(-180, -178)),
    ),
    min_size=1,
    max_size=30,
)


@given(POSITIONS, st.tuples(st.floats(-90, 90), st.floats(-180, 180)), st.integers(1, 8))
@settings(max_examples=30)
def test_the_nearest_are_those_of_brute_force(tmp_path_factory, spots, here, count):
    store = Store(tmp_path_factory.mktemp("near") / "s.sqlite")
    fill(
        store,
        [
            ("Q0AAA", f"S{at}", "145.7", "-0.6", "FM", f"{lat:.4f}", f"{lon:.4f}", "")
            for at, (lat, lon) in enumerate(spots)
        ],
    )
    place = Position(*here)
    found = [near.km for near in nearest(store, place, count)]
    everything = sorted(
        distance_km(place, Position(entry.access.lat, entry.access.lon)) for entry in store.all_entries()
    )
    assert found == pytest.approx(everything[:count], abs=1e-6)
    store.close()


@given(st.floats(-90, 90), st.floats(-180, 180), st.floats(0.1, 15_000), st.randoms(use_true_random=False))
def test_boxes_hold_their_circle(lat, lon, km, chance):
    place = Position(lat, lon)
    other = Position(chance.uniform(-90, 90), chance.uniform(-180, 180))
    if distance_km(place, other) <= km:
        assert any(
            low <= other.lat <= high and west <= other.lon <= east for low, high, west, east in boxes_around(place, km)
        )


def test_across_the_date_line_and_over_the_pole(tmp_path):
    store = Store(tmp_path / "s.sqlite")
    fill(
        store,
        [
            ("Q0E", "East", 145.7, "-0.6", "FM", 10, 179.9, ""),
            ("Q0W", "West", 145.7, "-0.6", "FM", 10, -179.9, ""),
            ("Q0P", "Pole", 145.7, "-0.6", "FM", 89.9, 10, ""),
        ],
    )
    assert [near.entry.access.site for near in nearest(store, Position(10, 179.95), 2)] == ["East", "West"]
    assert [near.entry.access.site for near in nearest(store, Position(89.9, -170), 1)] == ["Pole"]
    assert nearest(store, Position(0, 0), 99)[-1].km > 9_000
    store.close()


@pytest.mark.parametrize(
    ("wanted", "expected"),
    [
        (NearestWanted(modes=frozenset({"dstar"})), ["Q0SIG"]),
        (NearestWanted(modes=frozenset({"dmr"}), bands=frozenset({"70 cm"})), ["Q0BLK", "Q0NES"]),
        (NearestWanted(text="blackf"), ["Q0BLK"]),
        (NearestWanted(text="438.61"), ["Q0BLK"]),
        (NearestWanted(text="great stenb"), ["Q0STB"]),
        (NearestWanted(since="2026-10-01", modes=frozenset({"dmr", "dstar"})), ["Q0SIG", "Q0BLK"]),
        (NearestWanted(text='"*('), None),
        (NearestWanted(text="nothing like it"), []),
    ],
)
def test_filters(velmar, wanted, expected):
    found = calls(nearest(velmar, HOME, 20, wanted))
    assert found == expected if expected is not None else len(found) == 12


def test_what_has_no_position_and_what_the_map_needs(velmar):
    assert [near.entry.access.site for near in unplaced(velmar, NearestWanted())] == ["Isles calling"]
    points = dots(velmar)
    assert len(points) == 12
    names = labels(velmar, [points[0].id])
    assert names == {points[0].id: ("Q0BLK", "Blackfell")}
    assert calls(within(velmar, HOME, 6)) == ["Q0HAR", "Q0LOW", "Q0GRV", "Q0SIG"]


# verdicts


def entry(access, key="t/x", **more):
    return StoredEntry(1, key, access, "t", "2026-11-01", more.get("gone", ""), "", False)


def point(**fields):
    service = fields.pop("service", Service("dmr-438", 438_612_500, 431_012_500, DmrAir(6)))
    base = AccessPoint("", "Q0BLK", "Blackfell", services=(service,), lat=46.5, lon=-31.0, confirmed="2026-11-01")
    return replace(base, **fields)


def fm(rx, tx, tone=""):
    return Service(f"fm-{rx // 1_000_000}", rx, tx, FmAir(tone))


CASES = [
    (point(), set()),
    (point(service=Service("dmr-438", 438_787_500, 446_387_500, DmrAir(2))), {"out-of-band"}),
    (point(service=fm(145_712_500, 146_312_500)), {"out-of-band"}),
    (point(service=fm(160_000_000, 165_000_000)), {"output-out"}),
    (point(service=fm(438_612_500, 435_612_500)), {"unusual-offset"}),
    (point(service=fm(145_712_500, 438_000_000)), {"cross-band"}),
    (point(service=fm(145_713_300, 145_113_300)), {"raster"}),
    (point(service=fm(145_712_500, 145_712_500)), {"no-offset"}),
    (point(service=fm(145_712_500, 145_112_500, "103.4")), {"tone"}),
    (point(service=Service("dmr-438", 438_612_500, 431_012_500, DmrAir(16))), {"color-code"}),
    (point(lat=None), {"no-position"}),
    (point(confirmed=""), {"unconfirmed"}),
    (point(confirmed="last spring"), {"unconfirmed"}),
    (point(confirmed="2022-10-08"), {"old"}),
    (point(call="q0 blk"), {"call-sign"}),
    (point(call="HILLTOP"), {"call-sign"}),
    (
        AccessPoint("", "", "Calling", "simplex", services=(fm(145_500_000, 145_500_000),), confirmed="2026-11-01"),
        set(),
    ),
]


@pytest.mark.parametrize(
    ("access", "rules"), CASES, ids=[", ".join(sorted(rules)) or "sane" for _access, rules in CASES]
)
def test_each_verdict_and_no_other(access, rules):
    found = doubts(entry(access), GROUND)
    assert {doubt.rule for doubt in found} == rules
    assert all(doubt.text.endswith((".", "only.")) for doubt in found)
    assert verdict_words(found) == (found[0].grade if rules else "sane")


def test_vanished_entries_are_doubted():
    assert [doubt.rule for doubt in doubts(entry(point(), gone="2026-11-20"), GROUND)] == ["vanished"]


@pytest.mark.parametrize("access", [access for access, _rules in CASES])
def test_every_repair_removes_its_doubt(tmp_path_factory, access):
    from umbra_awl.core.directory.private import with_edits

    for doubt in doubts(entry(access), GROUND):
        if doubt.mend is not None:
            mended = with_edits(access, dict(doubt.mend.edits))
            left = [item.text for item in doubts(entry(mended), GROUND)]
            assert doubt.text not in left, doubt


def test_the_offset_usual_around_here(velmar):
    around = [near.entry for near in nearest(velmar, HOME, 60)]
    usual = usual_offsets(around, BANDS[1])
    assert usual == {"70 cm": -7_600_000, "2 m": -600_000}
    odd = point(service=fm(438_812_500, 434_412_500))
    found = doubts(entry(odd), GROUND._replace(usual_hz=usual))
    assert [(doubt.rule, dict(doubt.mend.edits)) for doubt in found] == [
        ("unusual-offset", {"fm-438/tx_hz": 431_212_500})
    ]
    assert usual_offsets(around[:2], BANDS[1]) == {}


def test_a_position_in_the_sea_of_another_continent():
    land = KnownGround(BANDS[1], Land(world_coast()), TODAY, {}, Position(48.8, 2.3))
    paris = point(lat=48.85, lon=2.35)
    assert doubts(entry(paris), land) == []
    lost = doubts(entry(replace(paris, lat=41.0, lon=74.0 - 110)), land)
    assert [doubt.rule for doubt in lost] == ["in-the-sea"]
    swapped = doubts(entry(replace(paris, lat=-35.0, lon=-20.0 - 0)), land)
    assert swapped[0].rule == "in-the-sea"
    for home in (Position(46.5, -31.0), None):
        assert doubts(entry(replace(paris, lat=46.5, lon=-31.5)), land._replace(home=home)) == []
    mends = doubts(entry(replace(paris, lat=48.85, lon=-22.35)), land)
    assert mends[0].mend is not None
    assert dict(mends[0].mend.edits) == {"lat": 48.85, "lon": 22.35}


def test_two_on_the_same_output_near_each_other(velmar):
    hill = velmar.entry("velmar-directory/Q0BLK/blackfell")
    found = doubts(hill, GROUND, sharing_output(velmar, hill))
    assert [doubt.rule for doubt in found] == ["same-output"]
    assert "Q0NSN, 24 km away" in found[0].text
    quay = velmar.entry("velmar-directory/Q0SIG/signal down")
    assert sharing_output(velmar, quay) == []


@pytest.mark.parametrize(
    ("day", "words"),
    [
        ("2026-11-20", "this month"),
        ("2026-09-01", "2 months ago"),
        ("2025-11-01", "1 year ago"),
        ("2022-10-08", "4 years ago"),
        ("", "never"),
        ("2027-01-01", "in the future"),
    ],
)
def test_age_in_words(day, words):
    assert age_words(day, TODAY) == words


# survey and taking


def test_a_survey_marks_the_plans_own(velmar, plan):
    found = survey(velmar, plan, HOME, NearestWanted(), GROUND)
    here = {spot.access.site: spot for spot in found.spots}
    assert here["Blackfell"].in_plan
    assert here["Blackfell"].entry is not None
    assert here["Home spot"].entry is None
    assert not here["Stenby"].in_plan
    assert here["Stenby"].grade == "wrong"
    assert [spot.km for spot in found.spots if spot.km is not None] == sorted(
        spot.km for spot in found.spots if spot.km is not None
    )
    assert found.spots[-1].km is None
    only = survey(velmar, plan, HOME, NearestWanted(modes=frozenset({"dmr"})), GROUND)
    assert {spot.access.site for spot in only.spots} == {"Blackfell", "Cairnlow", "Home spot", "Travel spot"}


def test_entries_are_taken_with_their_networks(velmar, plan):
    plan = remove_access(PlanIndex(plan, TODAY).access["signal-down"]).apply(plan)
    plan = replace(plan, networks=plan.networks[:1])
    wanted = [velmar.entry(f"velmar-directory/{key}") for key in ("Q0SIG/signal down", "Q0STB/stenby")]
    edit, haul, keys = take_entries(plan, wanted)
    made = edit.apply(plan)
    assert structure_faults(made) == []
    assert haul.words == "2 taken"
    assert [network.name for network in made.networks] == ["Lattice", "Skein"]
    signal = next(item for item in made.access if item.key == keys["velmar-directory/Q0SIG/signal down"])
    assert [(service.key, service.air.module, service.air.network) for service in signal.services] == [
        ("signal-down-dstar", "B", "skein"),
        ("signal-down-dstar-2", "C", "skein"),
    ]
    assert parse_plan(plan_bytes(made)) == made
    with pytest.raises(EditRefused, match="Already in the plan"):
        take_entries(made, wanted)


def test_doubles_are_recognised_and_gain_what_they_lack(velmar, plan):
    hill = velmar.entry("velmar-directory/Q0BLK/blackfell")
    bare = next(item for item in plan.access if item.key == "blackfell")
    half = replace(
        plan, access=tuple(replace(item, services=item.services[:1]) if item is bare else item for item in plan.access)
    )
    half = replace(half, routes=tuple(route for route in half.routes if route.service != "blackfell-fm"))
    edit, haul, _keys = take_entries(half, [hill])
    made = edit.apply(half)
    assert haul.words == "1 given more services"
    assert len(made.access) == len(half.access)
    assert [service.mode for service in next(item for item in made.access if item.key == "blackfell").services] == [
        "dmr",
        "fm",
    ]
    renamed = replace(hill.access, call="Q0BLX", site="Hilltop")
    assert match(plan, "x", renamed).how == "same output and place"
    assert match(plan, "x", replace(renamed, lat=40.0)) is None
    assert match(plan, "x", replace(hill.access, services=())).how == "same call sign and site"


def second_source(store, *rows):
    table = Table("b.csv", "csv", HEADERS, lambda: (Row(at, list(row)) for at, row in enumerate(rows, 2)))
    layout = TableLayout("access", {name: name for name in HEADERS}, source="other")
    take(store, read_incoming(store, table, layout), NOW)


def around(store):
    return {spot.access.call: spot for spot in survey(store, Plan(), HOME, NearestWanted(), GROUND).spots}


def test_a_second_directory_that_lists_the_same_is_told_once_with_where_it_differs(velmar):
    before = around(velmar)
    newest = before["Q0HAR"].access.confirmed
    second_source(
        velmar,
        ("Q0HAR", "Harrow Quay", "439.2500", "+7.6", "FM", "46.47", "-31.11", "2026-10-01"),
        ("Q0BLK", "Blackfell", "438.6125", "-7.6", "DMR", "46.5", "-31.0", "2019-01-01"),
        ("Q0XYZ", "Elsewhere", "439.2500", "-7.6", "FM", "46.47", "-31.11", "2026-10-01"),
    )
    spots = survey(velmar, Plan(), HOME, NearestWanted(), GROUND).spots
    calls = [spot.access.call for spot in spots]
    assert calls.count("Q0HAR") == calls.count("Q0BLK") == 1
    assert "Q0XYZ" in calls, "another call sign on the same output stays a line of its own"
    spot = around(velmar)["Q0HAR"]
    assert spot.access.confirmed == "2026-10-01" > newest
    assert [item.source for item in spot.also] == ["velmar-directory"]
    assert "FM input" in spot.also[0].differs
    assert "says otherwise: FM input" in spot.also[0].words
    assert not any(doubt.text.startswith("Q0BLK") for doubt in around(velmar)["Q0BLK"].doubts), (
        "it is no neighbour of itself"
    )
    assert around(velmar)["Q0BLK"].also[0].source == "other"


def test_taking_is_not_done_on_a_plan_that_moved_on(velmar, plan):
    edit, _haul, _keys = take_entries(plan, [velmar.entry("velmar-directory/Q0STB/stenby")])
    with pytest.raises(EditRefused, match="changed meanwhile"):
        edit.apply(replace(plan, name="Other"))
    with pytest.raises(EditRefused, match="Nothing is chosen"):
        take_entries(plan, [])


# exports and tracks


@pytest.mark.parametrize("suffix", [".csv", ".geojson"])
def test_what_goes_out_comes_back(velmar, tmp_path, suffix):
    path = tmp_path / f"out{suffix}"
    before = [entry.access for entry in velmar.all_entries()]
    write_access(path, before)
    table = open_table(path)
    store = Store(tmp_path / "again.sqlite")
    take(store, read_incoming(store, table, guess(table, "access")), NOW)
    after = {access.site: access for access in (entry.access for entry in store.all_entries())}
    for access in before:
        again = after[access.site]
        assert [(service.mode, service.rx_hz, service.tx_hz) for service in again.services] == [
            (service.mode, service.rx_hz, service.tx_hz) for service in access.services
        ]
        assert (again.lat, again.lon, again.confirmed) == (access.lat, access.lon, access.confirmed)
    store.close()


def test_gpx_is_readable_and_other_forms_are_refused(velmar, tmp_path):
    import gpxpy

    read = gpxpy.parse(as_gpx(entry.access for entry in velmar.all_entries()))
    assert len(read.waypoints) == 12
    hill = next(item for item in read.waypoints if item.name == "Q0BLK Blackfell")
    assert "DMR 438.6125 heard, 431.0125 sent color code 6" in hill.description
    with pytest.raises(StoreFailedError, match="not a form to export"):
        write_access(tmp_path / "out.doc", [])
    with pytest.raises(StoreFailedError, match="cannot be written"):
        write_access(tmp_path / "no" / "such" / "out.csv", [])


def test_a_track_is_a_moving_position(tmp_path, velmar):
    lay_out(tmp_path / "demo", TODAY)
    track = read_track(tmp_path / "demo" / "ferry-to-nessa.gpx")
    assert (track.name, track.length_s) == ("Ferry to Nessa", 90 * 60)
    assert track.at(-5) == track.positions[0]
    assert track.at(10**9) == track.positions[-1]
    half = track.at(track.seconds[1] / 2)
    assert half.lat == pytest.approx((track.positions[0].lat + track.positions[1].lat) / 2)
    passed = calls(along(velmar, track, 5))
    assert passed[0] == "Q0HAR"
    assert passed[-1] in {"Q0NES", "Q0NSN"}
    assert "Q0STB" not in passed


def test_tracks_that_are_none(tmp_path):
    for text, words in (
        ("<gpx", "not a readable"),
        ("<?xml version='1.0'?><gpx version='1.1' creator='x'/>", "at least two points"),
    ):
        (tmp_path / "t.gpx").write_text(text, "utf-8")
        with pytest.raises(ReadError, match=words):
            read_track(tmp_path / "t.gpx")


def test_a_track_without_times_moves_at_its_own_speed(tmp_path):
    (tmp_path / "t.gpx").write_text(
        "<?xml version='1.0'?><gpx version='1.1' creator='x' xmlns='http://www.topografix.com/GPX/1/1'><rte>"
        "<rtept lat='46' lon='-31'/><rtept lat='46.2698' lon='-31'/></rte></gpx>", "utf-8",
    )  # fmt: skip
    assert read_track(tmp_path / "t.gpx").length_s == pytest.approx(3600, rel=0.01)


# licences


def test_a_radio_for_somebody_without_a_licence_is_receive_only(plan, profiles):
    from umbra_awl.core.findings.evaluate import findings_of
    from umbra_awl.core.fit.fitting import fit
    from umbra_awl.core.plan.edit.edit_station import own_licence, remove_identity, set_granted, set_guard
    from umbra_awl.core.plan.index import PlanIndex

    radios = (replace(plan.radios[0], identity="odile"), *plan.radios[1:])
    club = replace(plan, radios=radios)
    index = PlanIndex(club, TODAY)
    made = fit(index, club.radios[0], profiles["tarn16"])
    assert all(channel.receive_only for channel in made.memory.channels)
    assert made.memory.call == "Q9ODL"
    assert not all(channel.receive_only for channel in fit(index, club.radios[1], profiles["moor4k"]).memory.channels)
    assert "Odile" not in str(club.station.licence)
    assert any(item.rule.name == "guard-on" and item.target.key == "tarn" for item in findings_of(index, profiles))
    granted = set_guard(False, "odile").apply(set_granted(True, "odile").apply(club))
    assert not all(
        channel.receive_only
        for channel in fit(PlanIndex(granted, TODAY), granted.radios[0], profiles["tarn16"]).memory.channels
    )
    shared = own_licence("odile", False).apply(club)
    assert PlanIndex(shared, TODAY).owners.station_of(shared.radios[0]) == shared.station
    assert own_licence("odile", True).apply(shared).station.identities[1].licence == Licence()
    with pytest.raises(EditRefused, match="Tarn 16 is programmed for Odile"):
        remove_identity("odile", "Odile").apply(club)
    assert len(remove_identity("odile", "Odile").apply(plan).station.identities) == 2
    with pytest.raises(EditRefused, match="stays on until"):
        set_guard(False, "odile").apply(club)
    with pytest.raises(EditRefused, match="owner's and stays"):
        remove_identity("wren", "Wren").apply(club)


def test_generated_directories_are_doubted_about_as_often_as_they_are_spoiled(tmp_path):
    from umbra_awl.standins.registry.world import ACCESS_HEADERS, access_rows, as_csv

    (tmp_path / "a.csv").write_bytes(as_csv(ACCESS_HEADERS, access_rows(400, seed=3)))
    table = open_table(tmp_path / "a.csv")
    store = Store(tmp_path / "s.sqlite")
    take(store, read_incoming(store, table, guess(table)), NOW)
    wrong = [item for item in store.all_entries() if verdict_words(doubts(item, GROUND)) == "wrong"]
    assert 0.01 < len(wrong) / 400 < 0.12
    store.close()


def test_without_a_place_nothing_has_a_distance(velmar, plan):
    found = survey(velmar, plan, None, NearestWanted(), GROUND)
    assert {spot.km for spot in found.spots} == {None}
    assert {spot.reach for spot in found.spots} == {None}
    listed_calls = [spot.access.call for spot in found.spots if spot.entry is not None and spot.access.lat is not None]
    assert listed_calls == sorted(listed_calls)


def test_what_vanished_is_told_of_the_plans_own_and_shown_on_request(velmar, plan, tmp_path):
    from umbra_awl.demo.fresh import DIRECTORY_FILES

    table = open_table(lay_out(tmp_path / "again", TODAY).plan.parent / DIRECTORY_FILES[1])
    layout = replace(guess(table, "access"), source="velmar-directory")
    take(velmar, read_incoming(velmar, table, layout), NOW)
    found = {spot.access.call: spot for spot in survey(velmar, plan, HOME, NearestWanted(), GROUND).spots}
    assert "vanished" in {doubt.rule for doubt in found["Q0HAR"].doubts}
    bare = replace(plan, access=tuple(item for item in plan.access if item.key != "harrowquay"), routes=())
    assert "Q0HAR" not in {spot.access.call for spot in survey(velmar, bare, HOME, NearestWanted(), GROUND).spots}
    assert "Q0HAR" in {
        spot.access.call for spot in survey(velmar, bare, HOME, NearestWanted(vanished=True), GROUND).spots
    }
