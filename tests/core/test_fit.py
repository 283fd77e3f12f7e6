import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from tests.examples import examples
from tests.strategies import plans
from umbra_awl.core.fit.choices import power_on_radio
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.edit.edit_access import swap_offset
from umbra_awl.core.plan.edit.edit_station import set_guard, set_licence
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Zone
from umbra_awl.core.plan.permit import transmit_permit
from umbra_awl.core.radio.memory import MemoryFormError, memory_bytes, parse_memory
from umbra_awl.core.radio.profile_file import SHIPPED, ProfileError, parse_profile, read_profile, shipped_profiles
from umbra_awl.core.routes.punch import punch, set_route
from umbra_awl.core.transfer.interlock import sent_on

PROFILES = shipped_profiles()


def fitted(plan, radio="tarn", profile=None):
    index = PlanIndex(plan, TODAY)
    owned = index.radios[radio]
    return fit(index, owned, profile or PROFILES[owned.profile])


def small(**limits):
    base = PROFILES["tarn16"]
    return msgspec.structs.replace(base, limits=msgspec.structs.replace(base.limits, **limits))


@examples(30)
@given(plans(), st.sampled_from(["tarn", "moor"]))
def test_the_same_plan_gives_the_same_bytes(plan, radio):
    again = msgspec.json.decode(msgspec.json.encode(plan), type=type(plan))
    assert memory_bytes(fitted(plan, radio).memory) == memory_bytes(fitted(again, radio).memory)


@given(plans(), st.sampled_from(["tarn", "moor"]))
def test_a_memory_stays_inside_every_limit_and_points_nowhere_empty(plan, radio):
    profile = PROFILES[PlanIndex(plan, TODAY).radios[radio].profile]
    memory = fitted(plan, radio).memory
    limits = profile.limits
    assert len(memory.channels) <= limits.channels
    assert len(memory.zones) <= limits.zones
    assert len(memory.contacts) <= limits.contacts
    assert all(0 < len(zone.members) <= limits.zone_channels for zone in memory.zones)
    numbers = {channel.number for channel in memory.channels}
    assert all(set(zone.members) <= numbers for zone in memory.zones)
    assert all(channel.contact <= len(memory.contacts) for channel in memory.channels)
    assert all(channel.group_list <= len(memory.group_lists) for channel in memory.channels)
    assert all(profile.receives(channel.rx_hz) for channel in memory.channels)


@given(plans())
def test_nothing_is_dropped_in_silence(plan):
    result = fitted(plan)
    carried = {channel.route for channel in result.memory.channels}
    left_out = {line.key for kind in ("left out", "other mode") for line in result.report.of_kind(kind)}
    assert {route.key for route in plan.routes} <= carried | left_out


@given(plans())
def test_no_channel_may_transmit_where_the_licence_does_not_allow(plan):
    for channel in fitted(plan).memory.channels:
        if not channel.receive_only:
            assert transmit_permit(plan.station, sent_on(channel)).allowed
            watts = PROFILES["tarn16"].power_watts[channel.power]
            assert not plan.station.licence.max_watts or watts <= plan.station.licence.max_watts


def test_with_the_guard_on_every_channel_is_receive_only(plan):
    guarded = set_guard(True).apply(plan)
    assert all(channel.receive_only for channel in fitted(guarded).memory.channels)


def test_the_wrong_offset_makes_cairnlow_receive_only_until_repaired(plan):
    index = PlanIndex(plan, TODAY)
    nes = [channel for channel in fitted(plan).memory.channels if channel.route.startswith("cairnlow")]
    assert nes
    assert all(channel.receive_only for channel in nes)
    repaired = swap_offset(*index.services["cairnlow-dmr"]).apply(plan)
    again = [channel for channel in fitted(repaired).memory.channels if channel.route.startswith("cairnlow")]
    assert [channel.tx_hz for channel in again] == [431_187_500] * 4
    assert not any(channel.receive_only for channel in again)


def test_power_is_the_highest_step_the_licence_allows(plan):
    assert fitted(set_licence("x", max_watts=2.0).apply(plan)).memory.channels[0].power == 0
    assert fitted(plan, "moor").memory.channels[0].power == 3


@examples(30)
@given(plans(), plans())
def test_what_was_remembered_of_one_plan_does_not_show_in_the_next(one, other):
    """An edit may change anything: the fit of an index that remembers is the fit of one that does not."""
    for radio in one.radios:
        fit(PlanIndex(one, TODAY), radio, PROFILES[radio.profile])
    index = PlanIndex(one, TODAY)
    for radio in one.radios:
        fit(index, radio, PROFILES[radio.profile])
    for field in ("routes", "access", "destinations", "station", "names", "radios"):
        mixed = replace(one, **{field: getattr(other, field)})
        if structure_faults(mixed):
            continue
        after = index.after(mixed)
        for radio in mixed.radios:
            assert fit(after, radio, PROFILES[radio.profile]) == fit(
                PlanIndex(mixed, TODAY), radio, PROFILES[radio.profile]
            )


def powers(plan, key="moor"):
    """Route to power step on one radio."""
    return {channel.route: channel.power for channel in fitted(plan, key).memory.channels}


def test_through_ones_own_hotspot_the_least_power_is_proposed(plan):
    found = powers(plan)
    spots = {step for route, step in found.items() if route.startswith(("home-", "travel-"))}
    assert spots == {0}
    assert found["blackfell-dmr>isles-wide@2"] == 3
    loud = set_route(PlanIndex(plan, TODAY), "home-dmr>isles-wide@1", "x", power="high").apply(plan)
    assert powers(loud)["home-dmr>isles-wide@1"] == 3


def test_every_step_of_a_radio_can_be_chosen_within_the_licence(plan):
    moor = next(radio for radio in plan.radios if radio.key == "moor")
    for step in range(4):
        chosen = power_on_radio(moor, "blackfell-dmr>isles-wide@2", step, "x").apply(plan)
        assert powers(chosen)["blackfell-dmr>isles-wide@2"] == step
        assert powers(chosen, "tarn") == powers(plan, "tarn"), "another radio keeps its own"
    limited = set_licence("x", max_watts=2.5).apply(chosen)
    assert powers(limited)["blackfell-dmr>isles-wide@2"] == max(
        step for step, watts in enumerate(PROFILES["moor4k"].power_watts) if watts <= 2.5
    )


def test_a_new_route_goes_to_the_end_and_moves_nothing(plan):
    before = fitted(plan).memory
    after = fitted(punch(PlanIndex(plan, TODAY), "blackfell-dmr", "worldwide").apply(plan)).memory
    assert after.channels[: len(before.channels)] == before.channels
    assert after.contacts == before.contacts


def test_zones_longer_than_the_knob_are_split_and_said(plan):
    everything = replace(plan, zones=(Zone("all", "Everything", "everything"),))
    result = fitted(everything)
    assert [zone.name for zone in result.memory.zones] == ["EVERYTH 1", "EVERYTH 2"]
    assert [len(zone.members) for zone in result.memory.zones] == [16, 13]
    assert "29 channels" in result.report.of_kind("split")[0].reason


def test_over_the_channel_limit_the_last_punched_are_left_out(plan):
    result = fitted(plan, profile=small(channels=20))
    assert len(result.memory.channels) == 20
    assert len(result.report.of_kind("left out")) == 9
    assert "holds 20 channels" in result.report.of_kind("left out")[0].reason


def test_over_the_contact_limit_those_in_use_come_first(plan):
    result = fitted(plan, profile=small(contacts=12))
    used = [channel.contact for channel in result.memory.channels if channel.mode == "dmr"]
    assert all(used)
    assert any("contacts" in line.title for line in result.report.of_kind("left out"))


def test_without_room_for_group_lists_the_channel_says_so(plan):
    result = fitted(plan, profile=small(group_lists=2))
    assert any("group lists are in use" in line.reason for line in result.report.of_kind("left out"))


def test_a_route_in_no_zone_is_left_out_and_said(plan):
    only = replace(plan, zones=plan.zones[:1])
    lines = fitted(only).report.of_kind("left out")
    assert {line.reason for line in lines} == {"It is in no zone of this radio."}


def test_a_band_the_radio_lacks_leaves_the_route_out(plan):
    deaf = msgspec.structs.replace(PROFILES["tarn16"], receive=PROFILES["tarn16"].receive[1:])
    reasons = {line.reason for line in fitted(plan, profile=deaf).report.of_kind("left out")}
    assert reasons == {"Tarn 16 does not receive on this frequency."}


def test_a_group_list_by_hand(plan):
    route = plan.routes[6]
    hearing = replace(
        plan,
        routes=tuple(
            replace(item, hears=("isles-wide", "exercise")) if item is route else item for item in plan.routes
        ),
    )
    memory = fitted(hearing).memory
    channel = next(item for item in memory.channels if item.route == route.key)
    members = memory.group_lists[channel.group_list - 1].members
    assert [memory.contacts[number - 1].call for number in members] == [99900, 99905]


@given(plans(), st.binary(max_size=64))
def test_a_memory_file_is_identity_and_guards_itself(plan, image):
    memory = fitted(plan).memory
    data = memory_bytes(memory, image)
    assert parse_memory(data) == (memory, image)
    spoiled = data.replace(b'"profile":"tarn16"', b'"profile":"tarn17"')
    with pytest.raises(MemoryFormError, match="damaged"):
        parse_memory(spoiled)


@pytest.mark.parametrize("data", [b"", b"{}", b"[]", b'{"format":"x","version":1,"sha256":"","memory":{}}'])
def test_what_is_no_memory_file_is_refused(data):
    with pytest.raises(MemoryFormError):
        parse_memory(data)


@pytest.mark.parametrize("key", ["tarn16", "moor4k"])
def test_shipped_profiles(key):
    profile = PROFILES[key]
    assert set(profile.modes) == {"fm", "dmr"}
    assert profile.display.length == {"tarn16": 10, "moor4k": 16}[key]
    assert profile.limits.zone_channels == {"tarn16": 16, "moor4k": 64}[key]


@pytest.mark.parametrize(
    ("old", "new", "words"),
    [
        ("zones = 16\n", "", "The value “zones” is missing under [limits]"),
        ("zones = 16\n", "zones = 0\n", "must be at least 1"),
        ("zones = 16\n", 'zones = "many"\n', "at limits.zones"),
        ("version = 1", "version = 2", "newer Umbra Awl"),
        ("key =", "key ==", "not readable TOML"),
        ("record = 48", "record = 480", "reaches into"),
        ("power_watts = [1.0, 5.0]", "power_watts = [5.0, 1.0]", "lowest first"),
        ("length = 10", "length = 2", "show 4 to 64 characters"),
        ("size = 65536", "size = 50000", "beyond its size"),
    ],
)
def test_a_profile_that_cannot_be_used_says_where(old, new, words):
    text = (SHIPPED / "1-tarn16.toml").read_text("utf-8")
    with pytest.raises(ProfileError) as caught:
        parse_profile(text.replace(old, new), "mine.toml")
    assert words in str(caught.value)
    assert "mine.toml" in str(caught.value)


@given(st.text(max_size=60))
def test_any_text_is_a_profile_or_refused(text):
    with pytest.raises(ProfileError):
        parse_profile(text)


def test_a_profile_file_that_is_not_there(tmp_path):
    with pytest.raises(ProfileError, match="cannot be read"):
        read_profile(tmp_path / "none.toml")
