"""One plan on all seven profiles, and on profiles that nobody has made yet."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.core.golden import memory_text
from tests.days import TODAY
from tests.examples import examples
from tests.strategies import plans
from umbra_awl.core.fit.choices import decisions, leave_all, name_on_radio, set_key, set_radio, set_settings
from umbra_awl.core.fit.compare import tried
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import NameStyle, Zone
from umbra_awl.core.radio.memory import memory_bytes, parse_memory
from umbra_awl.core.radio.profile import Display
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.trace.keyup import trace
from umbra_awl.demo.fresh import hand_programmed

PROFILES = shipped_profiles()
GOLDEN = Path(__file__).parent.parent / "data" / "memories"


@pytest.mark.parametrize("key", list(PROFILES))
def test_the_demo_on_every_profile_is_what_was_reviewed(plan, key):
    made = tried(PlanIndex(hand_programmed(plan), TODAY), PROFILES[key])
    assert memory_text(made.memory) == (GOLDEN / f"{key}.txt").read_text("utf-8")
    assert parse_memory(memory_bytes(made.memory))[0] == made.memory


@st.composite
def profiles(draw):
    """A radio that might exist: a shipped one with other limits, display and modes."""
    base = draw(st.sampled_from(list(PROFILES.values())))
    channels = draw(st.integers(1, 40))
    limits = replace(
        base.limits,
        channels=channels,
        zones=draw(st.integers(1, 6)),
        zone_channels=draw(st.integers(1, channels)),
        contacts=draw(st.integers(1, 12)),
        group_lists=draw(st.integers(1, 5)),
        group_list_members=draw(st.integers(1, 4)),
        scan_lists=1,
        scan_members=draw(st.integers(1, 8)),
        access_list=draw(st.integers(0, 3)) if "dstar" in base.modes else 0,
        call_signs=draw(st.integers(0, 3)) if "dstar" in base.modes else 0,
        rooms=draw(st.integers(0, 2)) if "fusion" in base.modes else 0,
    )
    upper = draw(st.booleans())
    letters = " ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-" + ("" if upper else "abcdefghijklmnopqrstuvwxyz")
    return replace(base, limits=limits, display=Display(draw(st.integers(4, 20)), letters, upper))


@given(plans(), profiles())
@examples(120)
def test_no_radio_is_given_more_than_it_holds_and_nothing_is_lost_in_silence(plan, profile):
    index = PlanIndex(plan, TODAY)
    made = tried(index, profile)
    memory, limits = made.memory, profile.limits
    assert len(memory.channels) <= limits.channels
    assert len(memory.zones) <= limits.zones
    assert all(len(zone.members) <= limits.zone_channels for zone in memory.zones)
    assert len(memory.contacts) <= limits.contacts
    assert len(memory.group_lists) <= limits.group_lists
    assert all(len(item.members) <= limits.group_list_members for item in memory.group_lists)
    assert all(len(item.members) <= limits.scan_members for item in memory.scans)
    assert len(memory.access_list) <= limits.access_list
    assert len(memory.call_signs) <= limits.call_signs
    assert len(memory.rooms) <= limits.rooms
    shown = [item.name for item in memory.channels]
    assert len(set(shown)) == len(shown)
    assert all(len(name) <= profile.display.length and set(name) <= set(profile.display.characters) for name in shown)
    assert {channel.mode for channel in memory.channels} <= set(profile.modes)
    carried = {channel.route for channel in memory.channels}
    said = {line.key for kind in ("left out", "other mode") for line in made.report.of_kind(kind)}
    assert {route.key for route in plan.routes} <= carried | said


def fitted(plan, radio="tarn"):
    index = PlanIndex(plan, TODAY)
    owned = index.radios[radio]
    return fit(index, owned, PROFILES[owned.profile])


def lines(plan, kind, radio="tarn"):
    return fitted(plan, radio).report.of_kind(kind)


def radio(plan, key="tarn"):
    return PlanIndex(plan, TODAY).radios[key]


def decide(plan, line, label, key="tarn"):
    index = PlanIndex(plan, TODAY)
    found = {item.label: item.edit for item in decisions(index, index.radios[key], line)}
    return found[label].apply(plan)


def test_a_route_left_out_by_choice_stays_out_is_said_and_can_come_back(plan):
    line = lines(plan, "shortened")[0]
    without = decide(plan, line, "Leave it out")
    assert line.key not in {channel.route for channel in fitted(without).memory.channels}
    said = lines(without, "by choice")
    assert [item.key for item in said] == [line.key]
    assert decide(without, said[0], "Take it along again") == plan
    index = PlanIndex(without, TODAY)
    fits = {item.key: fit(index, item, PROFILES[item.profile]) for item in index.plan.radios}
    stop = trace(index, fits, "tarn", line.key).broken
    assert (stop.text, stop.detail) == ("not on Tarn 16", "You chose to leave it out of this radio.")


def test_all_of_a_kind_are_left_out_at_once_and_zones_over_the_limit_one_by_one(plan, monkeypatch):
    held = lines(plan, "receive-only")
    edit = leave_all(radio(plan), list(held))
    assert edit.label == f"Leave all {len(held)} out"
    assert not lines(edit.edit.apply(plan), "receive-only")
    few = replace(PROFILES["tarn16"], limits=replace(PROFILES["tarn16"].limits, zones=3))
    monkeypatch.setitem(PROFILES, "tarn16", few)
    over = [line for line in lines(plan, "left out") if "holds 3 zones" in line.reason]
    assert over
    assert not [
        line for line in lines(decide(plan, over[0], "Leave the zone out"), "left out") if line.key == over[0].key
    ]


def test_when_there_is_no_room_the_chosen_ones_come_first(plan, monkeypatch):
    tight = replace(PROFILES["tarn16"], limits=replace(PROFILES["tarn16"].limits, channels=20))
    monkeypatch.setitem(PROFILES, "tarn16", tight)
    lost = lines(plan, "left out")[-1]
    kept = decide(plan, lost, "Keep it before others")
    channels = fitted(kept).memory.channels
    assert lost.key in {channel.route for channel in channels}
    assert len(channels) == 20


def test_a_long_zone_is_split_or_cut_as_decided(plan):
    long = replace(plan, zones=(Zone("all", "Everything", "everything"),))
    line = lines(long, "split")[0]
    cut = decide(long, line, "Keep the first part only")
    assert [len(zone.members) for zone in fitted(cut).memory.zones] == [16]
    assert decide(cut, lines(cut, "cut")[0], "Split it again") == long
    assert fitted(decide(long, line, "Leave the zone out")).memory.zones == ()


def test_a_name_for_one_radio_only(plan):
    rules = PROFILES["tarn16"].display.rules
    named = name_on_radio(radio(plan), "blackfell-dmr>isles-wide@2", "Isles!", rules).apply(plan)
    assert "ISLES" in {channel.name for channel in fitted(named).memory.channels}
    assert fitted(named, "moor").memory == fitted(plan, "moor").memory
    assert name_on_radio(radio(named), "blackfell-dmr>isles-wide@2", "", rules).apply(named) == plan
    for text, words in (("猫猫", "can show none of"), ("A VERY LONG NAME", "has 16 characters; Tarn 16 shows 10")):
        with pytest.raises(EditRefused, match=words):
            name_on_radio(radio(plan), "x", text, rules)


def test_characters_that_no_radio_has_are_said(plan):
    routes = tuple(replace(item, name="Isles 猫") if item is plan.routes[6] else item for item in plan.routes)
    said = lines(replace(plan, routes=routes), "characters")
    assert "cannot show 猫" in said[0].reason


def test_schools_trips_and_style_of_one_radio(plan):
    channels = set_radio(radio(plan), "x", school="channels").apply(plan)
    assert any("dials none" in line.reason for line in lines(channels, "left out"))
    dial = set_radio(radio(plan), "x", school="dial").apply(plan)
    index = PlanIndex(dial, TODAY)
    there = [index.routes[channel.route].destination for channel in fitted(dial).memory.channels]
    kinds = {index.destinations[key].kind for key in there}
    assert "group" not in kinds
    assert "dial" in kinds
    by_call = set_radio(radio(plan), "x", style=NameStyle("call")).apply(plan)
    assert any(channel.name.startswith("Q0BLK") for channel in fitted(by_call).memory.channels)
    zones = (*plan.zones, Zone("away", "Away", "trip", plan.trips[0].key))
    goes = replace(plan, zones=zones)
    assert "AWAY" in {zone.name for zone in fitted(goes).memory.zones}
    stays = set_radio(radio(goes), "x", trips=()).apply(goes)
    assert "AWAY" not in {zone.name for zone in fitted(stays).memory.zones}
    along = set_radio(radio(goes), "x", trips=(plan.trips[0].key,)).apply(goes)
    assert fitted(along).memory == fitted(goes).memory


def test_what_holds_for_the_whole_radio_is_cut_to_what_it_takes(plan):
    changed = plan
    texts = {"startup": "Hello there, everybody", "quick_texts": tuple("abc")}
    for fields in (texts, {"time_out_s": 150}, {"position": "gps"}):
        changed = set_settings(radio(changed, "moor"), "x", **fields).apply(changed)
    changed = set_key(radio(changed, "moor"), "Heel", "long", "one-touch").apply(changed)
    changed = set_key(radio(changed, "moor"), "P9", "long", "scan").apply(changed)
    settings_ = fitted(changed, "moor").memory.settings
    assert (settings_.startup, settings_.quick_texts, settings_.position) == (
        "Hello there, everybody",
        ("a", "b", "c"),
        "gps",
    )
    assert settings_.time_out_s == 120
    keys = {(item.key, item.press): item.action for item in settings_.keys}
    assert keys == {("Heel", "short"): "zone up", ("Heel", "long"): "one-touch"}
    assert any("offers 30, 60, 90" in line.reason for line in lines(changed, "set", "moor"))


def test_the_automatic_offset_goes_off_where_it_would_fight(plan):
    said = lines(plan, "set", "fell")
    assert said[0].title == "Automatic offset off"
    assert (
        fitted(set_settings(radio(plan, "fell"), "x", auto_offset=True).apply(plan), "fell").memory.settings.auto_offset
        is True
    )


def test_a_radio_that_takes_a_call_sign_once_says_what_it_left_out(plan):
    index = PlanIndex(plan, TODAY)
    access, service = index.services["travel-dstar"]
    air = replace(service.air, module="D")
    twin = replace(
        access, services=tuple(replace(item, air=air) if item is service else item for item in access.services)
    )
    both = replace(plan, access=tuple(twin if item is access else item for item in plan.access))
    said = [line for line in lines(both, "left out", "fell") if "access list" in line.title]
    assert "takes “Q4WRN  D” once" in said[0].reason
    assert len(fitted(both, "fell").memory.access_list) == 3
