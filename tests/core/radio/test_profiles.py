"""Profiles: seven that ship, contradictions said, a profile of one's own made value by value."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from umbra_awl.core.radio.profile import Display, Key, NumberSpan
from umbra_awl.core.radio.profile_check import profile_faults
from umbra_awl.core.radio.profile_edit import from_similar, set_value
from umbra_awl.core.radio.profile_file import (
    ProfileError,
    own_profiles,
    parse_profile,
    profile_schema,
    profile_text,
    read_profile,
    save_profile,
    shipped_of,
    shipped_profiles,
)
from umbra_awl.core.radio.profile_values import printed, values_of
from umbra_awl.core.radio.ways_in import Firmware

PROFILES = shipped_profiles()
TARN, MOOR, FELL = PROFILES["tarn16"], PROFILES["moor4k"], PROFILES["fell-d2"]


def test_all_seven_ship_without_a_fault_and_survive_writing():
    assert len(PROFILES) == 7
    for profile in PROFILES.values():
        assert profile_faults(profile) == []
        assert parse_profile(profile_text(profile)) == profile


def test_the_published_schema_accepts_what_ships():
    import tomllib

    import jsonschema

    schema = profile_schema()
    for profile in PROFILES.values():
        jsonschema.validate(tomllib.loads(profile_text(profile)), schema)


@pytest.mark.parametrize(
    ("profile", "field", "words"),
    [
        (replace(TARN, modes=()), "modes", "at least one of fm"),
        (replace(TARN, ways_in=()), "ways_in", "at least one of cable"),
        (replace(TARN, name=" "), "name", "needs a name"),
        (replace(TARN, display=Display(10, "abc", upper=True)), "display", "4 to 64 characters"),
        (replace(MOOR, display=replace(MOOR.display, upper=True)), "display", "small letters are among"),
        (replace(TARN, limits=replace(TARN.limits, zone_channels=999)), "limits.zone_channels", "longer than the 256"),
        (replace(TARN, limits=replace(TARN.limits, zones=0)), "limits.zones", "at least 1"),
        (replace(TARN, limits=replace(TARN.limits, contacts=2_000_000)), "limits.contacts", "no radio holds so much"),
        (replace(TARN, transmit=(NumberSpan(50_000_000, 54_000_000),)), "transmit", "where it does not receive"),
        (replace(TARN, receive=(NumberSpan(480_000_000, 400_000_000),)), "receive", "lower edge first"),
        (replace(TARN, receive=(), transmit=()), "receive", "at least one range"),
        (replace(TARN, power_watts=(5.0, 1.0)), "power_watts", "lowest first"),
        (replace(TARN, power_watts=(1.0,)), "battery", "as many as the power steps"),
        (replace(TARN, limits=replace(TARN.limits, rooms=5)), "limits.rooms", "belong to System Fusion"),
        (replace(TARN, limits=replace(TARN.limits, call_signs=5)), "limits.access_list", "belong to D-STAR"),
        (replace(TARN, firmware=(Firmware("a", "A", 10),)), "people", "give [people]"),
        (replace(MOOR, firmware=(Firmware("a", "A"), Firmware("a", "B"))), "firmware", "same key"),
        (replace(TARN, extras=replace(TARN.extras, keys=(Key("P1"), Key("P1")))), "extras.keys", "same name"),
        (replace(TARN, extras=replace(TARN.extras, one_touch=False)), "extras.one_touch", "“one_touch” is off"),
        (replace(TARN, ways_in=("cable",)), "ways_in", "A keypad is described"),
        (replace(TARN, display=Display(10, TARN.display.characters + "é", upper=False)), "keypad", "which no key types"),
        (replace(TARN, image=replace(TARN.image, size=50_000)), "image", "beyond its size"),
        (replace(TARN, knob_positions=900), "knob_positions", "0 (it turns on and on) to 64"),
    ],
)  # fmt: skip
def test_a_contradiction_is_said_with_its_field(profile, field, words):
    found = profile_faults(profile)
    assert [fault for fault in found if fault.field == field and words in fault.text], found


def test_a_profile_of_ones_own_begins_as_another_and_needs_no_cable():
    mine = from_similar(MOOR, PROFILES)
    assert (mine.key, mine.name, mine.ways_in, mine.own_of) == ("my-moor-4k", "My Moor 4K", ("file",), "moor4k")
    assert profile_faults(mine) == []


@pytest.mark.parametrize("key", list(PROFILES))
def test_every_value_shown_can_be_typed_back(key):
    mine = from_similar(PROFILES[key], PROFILES)
    for spec in values_of(mine):
        if not spec.options:
            assert set_value(mine, spec.field, printed(mine, spec)) == mine, spec.field


@pytest.mark.parametrize(
    ("field", "text", "shown"),
    [
        ("receive", "136-174; 400–480 MHz", "136-174, 400-480"),
        ("power_watts", "0.5, 5 W", "0.5, 5"),
        ("limits.channels", "1,000", "1000"),
        ("display.upper", "yes", "yes"),
        ("modes", "dmr", "fm"),
        ("ways_in", "card", "file, card"),
        ("beside", "a cable, sold apart;a clip", "a cable, sold apart; a clip"),
    ],
)
def test_values_are_read_as_people_type_them(field, text, shown):
    mine = from_similar(MOOR, PROFILES)
    spec = next(item for item in values_of(mine) if item.field == field)
    assert printed(set_value(mine, field, text), spec) == shown


@pytest.mark.parametrize(
    ("field", "text", "words"),
    [
        ("receive", "wide", "is not a range"),
        ("power_watts", "much", "is not a power"),
        ("limits.zones", "many", "is not a whole number"),
    ],
)
def test_a_value_that_is_none_is_refused_in_words(field, text, words):
    with pytest.raises(ValueError, match=words):
        set_value(from_similar(MOOR, PROFILES), field, text)


def test_capitals_only_takes_the_small_letters_away_and_back():
    mine = set_value(from_similar(MOOR, PROFILES), "display.upper", "yes")
    assert "a" not in mine.display.characters
    assert profile_faults(mine) == []
    assert "a" in set_value(mine, "display.upper", "no").display.characters


def test_other_power_steps_let_go_of_currents_that_were_for_the_old_ones():
    mine = set_value(from_similar(MOOR, PROFILES), "power_watts", "1, 5")
    assert mine.battery is None
    assert profile_faults(mine) == []


def test_own_profiles_are_kept_found_and_a_broken_one_said(tmp_path):
    mine = from_similar(FELL, PROFILES)
    save_profile(mine, tmp_path / "profiles" / "mine.toml")
    (tmp_path / "profiles" / "broken.toml").write_text("key = 3")
    found, faults = own_profiles(tmp_path / "profiles")
    assert found == {mine.key: mine}
    assert "“broken.toml” cannot be used" in faults[0]
    assert read_profile(tmp_path / "profiles" / "mine.toml") == mine


def test_a_profile_that_contradicts_itself_is_not_kept(tmp_path):
    with pytest.raises(ProfileError, match=r"not kept\. “modes”"):
        save_profile(replace(FELL, modes=()), tmp_path / "mine.toml")
    assert not list(tmp_path.iterdir())


@given(st.sampled_from(list(PROFILES)), st.data())
def test_any_typing_gives_a_profile_or_a_sentence_and_never_a_broken_file(key, data):
    mine = from_similar(PROFILES[key], PROFILES)
    for _ in range(4):
        spec = data.draw(st.sampled_from(values_of(mine)))
        text = data.draw(
            st.sampled_from([*spec.options]) if spec.options else st.text("0123456789.,- aZé猫", max_size=20)
        )
        try:
            mine = set_value(mine, spec.field, text)
        except ValueError as error:
            assert str(error)
    if not profile_faults(mine):
        assert parse_profile(profile_text(mine)) == mine


def test_a_shipped_file_is_named_after_its_key_so_that_only_wanted_ones_are_read():
    assert shipped_of(PROFILES) == PROFILES
    assert set(shipped_of(["tarn16", "unheard-of"])) == {"tarn16"}
