"""What is mine is mine: whatever comes in from another's file, nothing may be sent that might not have been sent before."""

import ast

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import LOCAL, TODAY
from tests.examples import examples
from tests.source import nodes_of_modules_with
from umbra_awl.core.facts.bands import Band
from umbra_awl.core.facts.emissions import emission
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.hands.ancestor import ancestor_of
from umbra_awl.core.hands.bands import narrowed
from umbra_awl.core.hands.followed import CHOICES, follow, followed_by, news
from umbra_awl.core.hands.kinds import parse_band_plan
from umbra_awl.core.hands.merge import brought_back, merge
from umbra_awl.core.plan.authority import AUTHORITY, hand_of
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.saves import keep_save
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Identity, Licence, Plan, RadioId, Trip
from umbra_awl.core.plan.parts import TYPES
from umbra_awl.core.plan.permit import band_permit, guard_permit
from umbra_awl.core.plan.privacy import parts_of
from umbra_awl.core.plan.sharing import shareable
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

BASE = demo_plan(TODAY)
NONE = Licence()
FULL = Licence("Full", granted=True, guard=False)
HOT = Identity("evil", "Q9EVL", "Evil", (RadioId(9991234),), shares_licence=True)
PROBES = [
    emission(mode, hz)
    for mode in ("fm", "dmr")
    for hz in (
        28_500_000,
        101_000_000,
        143_995_000,
        144_300_000,
        145_600_000,
        146_500_000,
        433_000_000,
        438_612_500,
        445_000_000,
    )
]


def with_station(plan, **fields):
    return replace(plan, station=replace(plan.station, **fields))


UNLICENSED = with_station(BASE, licence=NONE)


def permits(plan):
    """For whom, on what, with how much: everything that may be sent under a plan; 0 W stands for as much as one likes."""
    index, found = PlanIndex(plan, TODAY), {}
    for radio in (None, *plan.radios):
        who = "" if radio is None else radio.identity
        station = plan.station if radio is None else index.owners.station_of(radio)
        licence = station.licence
        watts = licence.max_watts or float("inf")
        may = guard_permit(licence).allowed
        for sent in PROBES if may else ():
            if band_permit(station, sent).allowed:
                key = (who, sent)
                found[key] = max(found.get(key, 0.0), watts)
    for person in plan.station.identities:
        licence = index.owners.licence_of(person)
        if guard_permit(licence).allowed:
            found["may", person.key] = licence.max_watts or float("inf")
    return found


def no_wider(before, after):
    was = permits(before)
    return [key for key, watts in permits(after).items() if watts > was.get(key, 0.0)]


def sends(plan, who=None):
    index, profiles = PlanIndex(plan, TODAY), shipped_profiles()
    radios = [item for item in plan.radios if who in {None, item.identity}]
    return sum(
        not row.receive_only for item in radios for row in fit(index, item, profiles[item.profile]).memory.channels
    )


def test_every_field_says_by_whose_hand_it_may_change():
    missing = {
        f"{kind.__name__}.{field}"
        for kind in parts_of(Plan)
        for field in kind.__struct_fields__
        if field not in AUTHORITY.get(kind, {})
    }
    assert missing == set()
    known = {kind: set(kind.__struct_fields__) for kind in AUTHORITY}
    assert {kind: set(fields) for kind, fields in AUTHORITY.items()} == known


def test_what_the_table_does_not_know_is_mine():
    class Unknown(msgspec.Struct):
        field: int = 0

    assert hand_of(Unknown, "field") == "mine"
    assert hand_of(type(BASE), "no such field") == "mine"


def test_only_one_place_joins_plans():
    users = {
        str(path)
        for path, node in nodes_of_modules_with("threeway")
        if isinstance(node, ast.ImportFrom)
        and node.module == "umbra_awl.core.hands.threeway"
        and any(item.name == "joined" for item in node.names)
    }
    assert users == {"core/hands/merge.py"}


@st.composite
def foreign(draw):
    """Somebody's plan that tries to give me what it has."""
    plan = BASE
    licences = st.sampled_from([NONE, FULL, replace(FULL, max_watts=1_000.0), replace(FULL, granted_on="2020-01-01")])
    bands = st.sampled_from([(), (Band("2 m", 100_000_000, 200_000_000), Band("70 cm", 400_000_000, 500_000_000))])
    people = draw(
        st.lists(
            st.sampled_from([HOT, replace(HOT, key="wren"), replace(HOT, shares_licence=False, licence=FULL)]),
            max_size=1,
        )
    )
    own = list(plan.station.identities)
    if draw(st.booleans()):
        own[1] = replace(own[1], licence=FULL, shares_licence=draw(st.booleans()))
    rows = [*people, *own] if draw(st.booleans()) else [*own, *people]
    rows = list({item.key: item for item in rows}.values())
    plan = with_station(
        plan, licence=draw(licences), bands=draw(bands), region=draw(st.sampled_from([1, 2, 3])), identities=tuple(rows)
    )
    who = [item.key for item in rows]
    radios = [replace(item, identity=draw(st.sampled_from([*who, ""]))) for item in plan.radios]
    radios += [replace(radios[0], key="more", name="More", identity=draw(st.sampled_from([*who, ""])))] * draw(
        st.integers(0, 1)
    )
    return replace(plan, radios=tuple(radios), name="Theirs")


@pytest.mark.parametrize("mine", [BASE, UNLICENSED], ids=["licensed", "unlicensed"])
@given(theirs=foreign(), base=st.sampled_from(["none", "mine", "older"]), side=st.sampled_from(["mine", "theirs"]))
@examples(160)
def test_nothing_that_comes_in_makes_the_permit_wider_however_it_is_answered(mine, theirs, base, side):
    ancestor = {"none": None, "mine": mine, "older": with_station(mine, licence=FULL)}[base]
    found = merge(ancestor, mine, theirs)
    answered = merge(ancestor, mine, theirs, dict.fromkeys((item.path for item in found.questions), side))
    for plan in (found.plan, answered.plan, brought_back(mine, theirs)):
        assert no_wider(mine, plan) == []
        assert plan.station.licence == mine.station.licence
        assert plan.station.bands == mine.station.bands
        assert plan.station.identities[: len(mine.station.identities)] == mine.station.identities
        assert structure_faults(plan) == []


def test_news_of_a_club_bring_no_licence_and_say_what_stays():
    theirs = with_station(UNLICENSED, licence=FULL)
    found = merge(UNLICENSED, UNLICENSED, theirs)
    assert found.plan == UNLICENSED
    assert found.questions == ()
    assert [item.path for item in found.kept] == [("station", "licence")]
    assert sends(found.plan) == 0


def test_somebody_who_shares_my_licence_comes_as_a_person_to_be_asked_about_and_without_it():
    radio = replace(BASE.radios[0], key="evilradio", name="Evil radio", identity="evil")
    theirs = replace(with_station(BASE, identities=(*BASE.station.identities, HOT)), radios=(*BASE.radios, radio))
    for base in (None, BASE):
        found = merge(base, BASE, theirs)
        assert {item.path for item in found.open_questions} == {
            ("station", "identities", "evil"),
            ("radios", "evilradio"),
        }
        assert found.plan == BASE, "until it is answered nothing has come"
        taken = merge(base, BASE, theirs, {item.path: "theirs" for item in found.questions}).plan
        assert [item.key for item in taken.station.identities][-1] == "evil"
        assert sends(taken, "evil") == 0


def test_a_person_with_the_key_of_one_of_mine_is_another_person_all_the_same():
    stranger = replace(HOT, key="wren")
    theirs = with_station(BASE, identities=(stranger, *BASE.station.identities[1:]))
    found = merge(None, BASE, theirs, {("station", "identities", "wren-2"): "theirs"})
    assert [item.call for item in found.plan.station.identities] == ["Q4WRN", "Q9ODL", "Q1VRC", "Q9EVL"]


def test_another_cannot_put_themselves_in_the_owners_place():
    theirs = with_station(BASE, identities=(replace(HOT, licence=FULL), *BASE.station.identities))
    for base in (None, BASE):
        found = merge(base, BASE, theirs)
        assert found.plan.station.identities[0].call == "Q4WRN"


def test_corrections_of_a_transmitter_stay_and_new_ones_begin_at_none():
    spoiled = tuple(replace(item, tx_correction_hz=90_000_000) for item in BASE.hotspots)
    more = replace(spoiled[0], key="new", access=BASE.hotspots[0].access)
    found = merge(BASE, BASE, replace(BASE, hotspots=(*spoiled, more)), {("hotspots", "new"): "theirs"})
    assert [item.tx_correction_hz for item in found.plan.hotspots] == [0, 0, 0]


def test_what_keeps_a_channel_quiet_is_asked_even_where_only_they_changed_it():
    quiet = replace(BASE, routes=(replace(BASE.routes[0], receive_only=True), *BASE.routes[1:]))
    theirs = replace(quiet, routes=(replace(BASE.routes[0], receive_only=False), *BASE.routes[1:]))
    found = merge(quiet, quiet, theirs)
    assert [item.path[-1] for item in found.open_questions] == ["receive_only"]
    assert found.plan == quiet


def test_where_i_am_and_what_i_put_aside_is_not_taken_from_others():
    trip = Trip("away", "Away", 46.0, -31.0, begins=TODAY.isoformat())
    found = merge(BASE, BASE, replace(BASE, trips=(*BASE.trips, trip), silenced=()))
    assert found.plan == BASE


def test_going_back_to_a_save_brings_no_licence_back():
    now = with_station(BASE, licence=NONE)
    back = brought_back(now, replace(BASE, name="As it was"))
    assert (back.name, back.station.licence) == ("As it was", NONE)


@pytest.mark.parametrize("with_ids", [False, True])
def test_a_copy_to_share_taken_back_changes_nothing(with_ids):
    found = merge(None, BASE, shareable(BASE, with_ids=with_ids))
    assert found.plan == BASE
    assert (found.questions, found.taken) == ((), ())


def test_a_key_that_is_the_same_by_luck_makes_two_things_not_one():
    other = replace(BASE.destinations[0], name="Quite another", kind="group", network="lattice", number=99_999)
    theirs = replace(BASE, destinations=(other, *BASE.destinations[1:]), routes=(), zones=(), scans=(), nets=())
    found = merge(None, BASE, theirs)
    assert found.questions == ()
    assert BASE.destinations[0] in found.plan.destinations
    assert [item.number for item in found.plan.destinations].count(99_999) == 1


def edges(*rows):
    return tuple(Band(name, low, high) for name, low, high in rows)


@pytest.mark.parametrize(
    ("offered", "low", "high", "told"),
    [
        (edges(("2 m", 100_000_000, 200_000_000)), 144_000_000, 146_000_000, "further than your bands: 2 m 100"),
        (edges(("2 m", 144_500_000, 148_000_000)), 144_500_000, 146_000_000, "No file widens what you may send on"),
        (edges(("2 m", 144_100_000, 145_900_000)), 144_100_000, 145_900_000, ""),
        (edges(("70 cm", 430_000_000, 440_000_000)), 144_000_000, 146_000_000, ""),
    ],
)
def test_a_clubs_band_edges_only_ever_narrow(offered, low, high, told):
    found = narrowed(BASE.station, offered)
    after = with_station(BASE, bands=found.bands)
    band = next(item for item in PlanIndex(after, TODAY).bands if item.name == "2 m")
    assert (band.low_hz, band.high_hz) == (low, high)
    assert told.casefold() in found.outside.casefold()
    assert no_wider(BASE, after) == []


@given(st.lists(st.tuples(st.integers(1, 600), st.integers(1, 60)), max_size=4))
def test_whatever_band_plan_is_taken_nothing_is_wider(rows):
    offered = edges(*((f"b{at}", low * 1_000_000, (low + wide) * 1_000_000) for at, (low, wide) in enumerate(rows)))
    assert no_wider(BASE, with_station(BASE, bands=narrowed(BASE.station, offered).bands)) == []


@pytest.mark.parametrize(("low", "high"), [(1, 999_999_999), (140_000_000, 148_000_000), (144_000_000, 149_000_000)])
def test_a_band_plan_beyond_every_region_is_no_band_plan(low, high):
    text = f'format = "umbra-awl band plan"\nversion = 1\nname = "B"\n[[bands]]\nname = "2 m"\nlow_hz = {low}\nhigh_hz = {high}\n'
    with pytest.raises(ValueError, match="no amateur band of any region"):
        parse_band_plan(text)


def test_an_unrelated_plan_is_no_descendant_of_my_saves(tmp_path):
    mine, theirs = tmp_path / "mine.awl.json", tmp_path / "theirs.awl.json"
    other = Plan(name="Other", networks=BASE.networks, destinations=BASE.destinations[:2])
    for path, plan in ((mine, BASE), (theirs, other)):
        path.write_bytes(plan_bytes(plan))
    keep_save(mine, plan_bytes(BASE), LOCAL)
    assert ancestor_of(mine, BASE, theirs, other) is None
    assert ancestor_of(mine, BASE, theirs, replace(BASE, name="Of mine")) is not None
    assert merge(None, BASE, other).plan == replace(BASE, name=BASE.name)


def test_of_a_club_only_what_is_followed_comes(tmp_path):
    plan_file = tmp_path / "mine.awl.json"
    follow(plan_file, tmp_path / "club.awl.json", BASE, ("destinations",))
    moved = replace(BASE.access[0], place="Elsewhere")
    more = replace(BASE.destinations[0], key="new", name="New group", number=99_912)
    club = replace(BASE, name="Club", access=(moved, *BASE.access[1:]), destinations=(*BASE.destinations, more))
    found = news(followed_by(plan_file), BASE, club)
    assert found.plan == replace(BASE, destinations=(*BASE.destinations, more))
    assert found.questions == ()
    for parts in CHOICES.values():
        assert set(parts) <= set(TYPES)
