"""Choosing a radio: musts that exclude, friends' radios, how it is built, the antenna's connector; and the modes side by side."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from tests.examples import examples
from umbra_awl.core.facts.connectors import every_connector, joins, tidy_connector
from umbra_awl.core.facts.modes import EVERY_MODE
from umbra_awl.core.fit.built import NO_AERIAL
from umbra_awl.core.fit.compare import compare
from umbra_awl.core.fit.friends import friends_radios, meets_data
from umbra_awl.core.fit.modes_beside import ModeSurround, conclusion, modes_beside
from umbra_awl.core.fit.needs import MUST, RadioNeeds
from umbra_awl.core.plan.air import Network
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination, Plan
from umbra_awl.core.radio.body import RadioBuild
from umbra_awl.core.radio.profile_file import shipped_profiles

PROFILES = shipped_profiles()
EMPTY = PlanIndex(Plan(), TODAY)


def found(needs, index=EMPTY, profiles=PROFILES, **options):
    return {item.profile.key: item for item in compare(index, profiles.values(), needs, with_plan=False, **options)}


def point(candidate, name):
    return next(item for item in candidate.points if item.name == name)


def with_people(*told):
    network = Network("lattice", "Lattice", "dmr")
    people = tuple(
        Destination(f"p{at}", name, "group", "lattice", 9_990_000 + at, "private", radio=radio)
        for at, (name, radio) in enumerate(told)
    )
    return PlanIndex(Plan(networks=(network,), destinations=people), TODAY)


# musts


def test_what_must_be_there_excludes_however_good_the_rest():
    soft = found(RadioNeeds(position=True, data=True, people=100_000))
    hard = compare(
        EMPTY,
        PROFILES.values(),
        RadioNeeds(head_apart=True, position=True, weight={"head apart": MUST}),
        with_plan=False,
    )
    assert all(not item.out for item in soft.values())
    inside = [item.profile.key for item in hard if not item.out]
    assert inside == [item.profile.key for item in hard][: len(inside)], "those that are out stand last"
    assert set(inside) == {"crag-f3", "beck-m5"} & set(inside)
    assert "beck-m5" in inside
    assert point(found(RadioNeeds(head_apart=True, weight={"head apart": MUST}))["tarn16"], "head apart").excludes


def test_what_nobody_told_excludes_nothing_and_does_not_count():
    bare = {key: replace(profile, build=RadioBuild()) for key, profile in PROFILES.items()}
    needs = RadioNeeds(
        speaker_mw=1_000, sturdy=True, honest_gauge=True, head_apart=True, hands_free=True, aerial="N socket", keypad=True,
        weight=dict.fromkeys(("loud", "sturdy", "honest gauge", "head apart", "hands free", "antenna"), MUST),
    )  # fmt: skip
    candidate = found(needs, profiles=bare)["tarn16"]
    told = {item.name: item.stand for item in candidate.points}
    assert told.pop("keypad") == "met"
    assert set(told.values()) == {"unknown"}
    assert not candidate.out
    assert candidate.share == 1.0


@pytest.mark.parametrize(
    ("needs", "key", "name", "share", "words"),
    [
        (RadioNeeds(speaker_mw=2_000), "tarn16", "loud", 0.5, "gives 1000 mW; 2000 are wanted"),
        (RadioNeeds(speaker_mw=2_000), "beck-m5", "loud", 1.0, "gives 3000 mW"),
        (RadioNeeds(sturdy=True), "tarn16", "sturdy", 0.5, "built for splashes"),
        (RadioNeeds(sturdy=True), "fell-d2", "sturdy", 1.0, "drops and splashes"),
        (RadioNeeds(sturdy=True), "beck-m5", "sturdy", 0.0, "built for indoors"),
        (RadioNeeds(honest_gauge=True), "moor4k", "honest gauge", 0.0, "looks full until shortly before the end"),
        (RadioNeeds(hands_free=True), "fell-d2", "hands free", 1.0, "hands free"),
        (RadioNeeds(seller_tests=True, tested=("gill-p",)), "gill-p", "seller tests", 1.0, "tries each one"),
        (RadioNeeds(seller_tests=True, tested=("gill-p",)), "tarn16", "seller tests", 0.0, "not known to try"),
        (RadioNeeds(aerial="UHF plug"), "beck-m5", "antenna", 1.0, "goes straight onto the UHF plug"),
        (RadioNeeds(aerial="UHF plug"), "fell-d2", "antenna", 0.8, "adapter SMA plug to UHF socket"),
        (RadioNeeds(aerial=NO_AERIAL), "gill-p", "without antenna", 1.0, "over the phone's network"),
    ],
)
def test_each_point_says_what_it_is_held_against(needs, key, name, share, words):
    made = point(found(needs)[key], name)
    assert made.share == pytest.approx(share)
    assert words in made.why


def test_without_an_antenna_only_what_ones_hotspot_carries_counts(index):
    candidates = {item.profile.key: item for item in compare(index, PROFILES.values(), RadioNeeds(aerial=NO_AERIAL))}
    moor = point(candidates["moor4k"], "without antenna")
    assert "Your hotspot carries" in moor.why
    assert 0 < moor.share < 1
    bare = PlanIndex(replace(index.plan, hotspots=()), TODAY)
    none = {item.profile.key: item for item in compare(bare, PROFILES.values(), RadioNeeds(aerial=NO_AERIAL))}
    assert "Add one at Hotspots" in point(none["moor4k"], "without antenna").why


def test_the_adapter_is_what_is_needed_beside_it():
    candidate = found(RadioNeeds(aerial="N socket"))["fell-d2"]
    assert "adapter SMA plug to N plug" in candidate.beside
    assert "adapter" not in " ".join(found(RadioNeeds())["fell-d2"].beside)


# connectors


@pytest.mark.parametrize(
    ("text", "kept"),
    [
        ("sma female", "SMA socket"),
        ("N-male", "N plug"),
        ("reverse sma jack", "reverse SMA socket"),
        ("Fixed", "fixed"),
        ("", ""),
    ],
)
def test_a_connector_is_read_as_people_write_it(text, kept):
    assert tidy_connector(text) == kept


@pytest.mark.parametrize("text", ["SMA", "plug", "XYZ socket", "SMA sideways"])
def test_what_is_no_connector_is_said_with_those_that_are(text):
    with pytest.raises(ValueError, match="BNC"):
        tidy_connector(text)


@examples(60)
@given(st.sampled_from(every_connector()), st.sampled_from(every_connector()))
def test_an_adapter_fits_on_both_sides(radio, aerial):
    made = joins(radio, aerial)
    one, other = radio.rsplit(" ", 1), aerial.rsplit(" ", 1)
    assert made.fits == (one[0] == other[0] and one[1] != other[1])
    if not made.fits:
        near, far = made.adapter.removeprefix("adapter ").split(" to ")
        assert joins(radio, near).fits
        assert joins(far, aerial).fits
        assert made.loss_db > 0


def test_a_look_alike_is_warned_of_and_a_stiff_cable_too():
    assert "make no contact" in joins("SMA plug", "reverse SMA socket").minds
    assert "breaks the radio's" in joins("SMA socket", "N plug").minds
    assert joins("fixed", "N plug") is None
    assert joins("", "N plug") is None


# friends


def test_data_meet_among_alike_radios_only():
    assert meets_data(PROFILES["fell-d2"], PROFILES["fell-d2"])
    assert not meets_data(PROFILES["fell-d2"], PROFILES["tarn16"])
    assert (
        not any(meets_data(PROFILES["gill-p"], item) for item in PROFILES.values())
        or PROFILES["gill-p"].extras.data != "none"
    )


def test_friends_are_counted_by_what_they_own():
    index = with_people(("Ailsa", "Fell D2"), ("Odile", "tarn16"), ("Corm", "Windmill 9"), ("Nobody told", ""))
    told = friends_radios(index, PROFILES.values())
    assert [(item.who, item.profile.key if item.profile else None) for item in told] == [
        ("Ailsa", "fell-d2"), ("Odile", "tarn16"), ("Corm", None),
    ]  # fmt: skip
    by_data = point(found(RadioNeeds(like_friends=True, data=True), index)["fell-d2"], "friends")
    assert by_data.share == 0.5
    assert "It meets 1 of 2 with texts and pictures: Ailsa" in by_data.why
    assert "Not known: Windmill 9." in by_data.why
    by_voice = point(found(RadioNeeds(like_friends=True), index)["moor4k"], "friends")
    assert by_voice.share == 1.0
    assert "Modes in common: FM and DMR." in by_voice.why


def test_without_friends_told_it_says_where_they_are_told():
    made = point(found(RadioNeeds(like_friends=True, weight={"friends": MUST}))["moor4k"], "friends")
    assert not made.excludes
    assert "say which radio they have" in made.why


def test_the_radios_of_others_in_the_plan_are_friends_too(index):
    who = {item.who for item in friends_radios(index, PROFILES.values())}
    first = index.plan.station.identities[0]
    mine = {radio.key for radio in index.plan.radios if index.owners.identity_of(radio) == first}
    assert len(mine) < len(index.plan.radios)
    assert who
    assert first.name not in who


# why this mode


def test_the_modes_stand_side_by_side_on_ones_own_plan(index):
    rows = {
        row.name: row
        for row in modes_beside(index, ModeSurround(PROFILES, {"tarn16": 89, "fell-d2": 400}, {"fm": 8, "dmr": 4}))
    }
    routes = {
        mode: sum(index.services[item.service][1].mode == mode for item in index.plan.routes) for mode in EVERY_MODE
    }
    for at, mode in enumerate(EVERY_MODE):
        assert rows["On this plan"].cells[at].words.startswith(f"{routes[mode]} routes")
    assert [cell.words for cell in rows["Within 60 km"].cells] == ["8", "4", "none", "none"]
    assert [cell.share for cell in rows["Within 60 km"].cells] == [1.0, 0.5, 0.0, 0.0]
    assert rows["Price"].cells[1].words == "from 89, Tarn 16"
    assert rows["Price"].cells[3].words == "no price given"
    assert rows["Width"].cells[1].share < rows["Width"].cells[2].share < rows["Width"].cells[0].share
    assert all(len(row.cells) == len(EVERY_MODE) and row.reads for row in rows.values())
    assert "carries" in conclusion(index)


def test_without_a_plan_nothing_is_counted_and_nothing_fails():
    rows = {row.name: row for row in modes_beside(EMPTY, ModeSurround(PROFILES))}
    assert {cell.words for cell in rows["On this plan"].cells} == {"none"}
    assert {cell.words for cell in rows["Who is there"].cells} == {"nobody told yet"}
    assert "Within 60 km" not in rows
    assert "ask first who is there" in conclusion(EMPTY)
