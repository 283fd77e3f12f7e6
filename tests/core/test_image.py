import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.days import TODAY
from tests.examples import examples
from tests.strategies import plans
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.memory import Memory, without_routes
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.routes.punch import punch
from umbra_awl.core.transfer.difference import difference
from umbra_awl.core.transfer.errors import ImageError
from umbra_awl.core.transfer.image import decode, merge, owned_spans
from umbra_awl.standins.radio.device import factory_image

PROFILES = shipped_profiles()
KEYS = st.sampled_from(["tarn", "moor"])
FACTORY = {key: factory_image(profile) for key, profile in PROFILES.items()}


def memory_of(plan, radio="tarn"):
    index = PlanIndex(plan, TODAY)
    return fit(index, index.radios[radio], PROFILES[index.radios[radio].profile]).memory


def foreign(image, profile):
    """The bytes that are not ours."""
    kept = bytearray(image)
    for start, end in owned_spans(profile):
        kept[start:end] = bytes(end - start)
    return bytes(kept)


@examples(30)
@given(plans(), KEYS)
def test_merging_leaves_every_foreign_byte_alone(plan, radio):
    memory = memory_of(plan, radio)
    profile = PROFILES[memory.profile]
    merged = merge(FACTORY[profile.key], memory, profile)
    assert foreign(merged, profile) == foreign(FACTORY[profile.key], profile)


@examples(30)
@given(plans(), KEYS)
def test_what_is_merged_reads_back_the_same(plan, radio):
    memory = _writable(memory_of(plan, radio))
    profile = PROFILES[memory.profile]
    assert decode(merge(FACTORY[profile.key], memory, profile), profile) == without_routes(memory)


def _writable(memory):
    """What a radio can keep: tones that exist, color codes of four bits, calls signs of eight characters."""
    from umbra_awl.core.facts.tones import is_tone

    channels = tuple(
        msgspec.structs.replace(
            channel,
            tone_tx=channel.tone_tx if is_tone(channel.tone_tx) else "",
            tone_rx=channel.tone_rx if is_tone(channel.tone_rx) else "",
            color_code=channel.color_code & 15,
            **{name: _field(getattr(channel, name)) for name in ("ur", "rpt1", "rpt2")},
            way=channel.way if channel.way in {"FM", "AMS", "DN", "VW"} else "",
        )
        for channel in memory.channels
    )
    return msgspec.structs.replace(memory, channels=channels, call=memory.call[:8].rstrip())


def _field(text):
    """Eight characters that the air knows; a field that is not given stays so."""
    return text.encode("ascii", "replace").decode()[:8].ljust(8) if text else ""


@given(plans())
def test_merging_twice_is_merging_once(plan):
    memory, profile = memory_of(plan), PROFILES["tarn16"]
    once = merge(FACTORY["tarn16"], memory, profile)
    assert merge(once, memory, profile) == once


@given(st.integers(0, 2**32))
def test_any_image_decodes_without_a_fault(seed):
    import random

    profile = PROFILES["tarn16"]
    image = random.Random(seed).randbytes(profile.image.size)
    memory = decode(image, profile)
    assert isinstance(memory, Memory)
    difference(memory, memory)


def test_an_image_of_another_size_is_refused():
    with pytest.raises(ImageError, match="has 10 bytes"):
        decode(bytes(10), PROFILES["tarn16"])
    with pytest.raises(ImageError):
        merge(bytes(10), Memory("tarn16"), PROFILES["tarn16"])


def held(plan):
    profile = PROFILES["tarn16"]
    return decode(merge(FACTORY["tarn16"], memory_of(plan), profile), profile)


def test_no_difference_between_equal_memories(plan):
    sheet = difference(held(plan), held(plan))
    assert sheet.changes == ()
    assert sheet.untouched["channel"] == 29


def test_a_punched_crossing_is_exactly_one_channel_and_its_zone(plan):
    more = punch(PlanIndex(plan, TODAY), "blackfell-dmr", "worldwide").apply(plan)
    sheet = difference(held(plan), held(more))
    assert [(item.kind, item.table, item.name) for item in sheet.changes] == [
        ("added", "channel", "BLK WW"),
        ("changed", "zone", "BLACKFELL"),
    ]
    assert sheet.changes[0].detail == "438.6125 cc 6 slot 1, calls 4299 group"
    assert sheet.changes[1].detail == "+ BLK WW"


def test_taking_a_route_out_of_the_middle_is_one_removal_though_all_numbers_move(plan):
    fewer = msgspec.structs.replace(plan, routes=(*plan.routes[:5], *plan.routes[6:]))
    sheet = difference(held(plan), held(fewer))
    assert [(item.kind, item.name) for item in sheet.of_table("channel")] == [("removed", "BLK VELMAR")]
    assert [item.detail for item in sheet.of_table("zone")] == ["− BLK VELMAR"]


def test_a_renamed_channel_is_a_change_of_name(plan):
    named = msgspec.structs.replace(plan.routes[6], name="Club net")
    renamed = msgspec.structs.replace(plan, routes=(*plan.routes[:6], named, *plan.routes[7:]))
    sheet = difference(held(plan), held(renamed))
    assert [(item.kind, item.detail) for item in sheet.of_table("channel")] == [
        ("changed", "name BLK ISLES → CLUB NET")
    ]
    assert not sheet.of_table("zone")


def test_a_changed_id_is_told_masked(plan):
    old = held(plan)
    new = msgspec.structs.replace(old, dmr_id=9991234)
    (change,) = difference(old, new).changes
    assert change.detail == "999•••• → 999••••"


@examples(30)
@given(plans(), plans())
def test_writing_what_a_change_sheet_says_leaves_nothing_to_change(old, new):
    """From any held memory to any other: once merged, a second comparison finds nothing."""
    profile = PROFILES["tarn16"]
    image = merge(FACTORY["tarn16"], memory_of(old), profile)
    target = merge(image, memory_of(new), profile)
    sheet = difference(decode(image, profile), decode(target, profile))
    again = difference(decode(target, profile), decode(merge(target, memory_of(new), profile), profile))
    assert again.changes == ()
    names = {channel.name for channel in decode(target, profile).channels}
    assert {item.name for item in sheet.of_table("channel") if item.kind != "removed"} <= names


@given(plans())
def test_the_sheet_from_an_empty_radio_lists_every_channel(plan):
    profile = PROFILES["tarn16"]
    empty = merge(FACTORY["tarn16"], Memory("tarn16"), profile)
    memory = memory_of(plan)
    sheet = difference(decode(empty, profile), decode(merge(empty, memory, profile), profile))
    added = [item.name for item in sheet.of_table("channel")]
    assert added == [channel.name for channel in memory.channels]
    assert {item.kind for item in sheet.changes} <= {"added", "changed"}
    back = difference(decode(merge(empty, memory, profile), profile), decode(empty, profile))
    assert sorted(item.name for item in back.of_table("channel")) == sorted(added)
    assert {item.kind for item in back.of_table("channel")} <= {"removed"}
