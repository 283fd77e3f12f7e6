"""What holds for the whole radio, in its image: written where it is set, left alone where it is not."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.examples import examples
from umbra_awl.core.plan.radios import TIME_OUT_OFF
from umbra_awl.core.radio.memory import HeldSettings, KeyPress, Memory
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.difference import difference
from umbra_awl.core.transfer.image import decode, merge
from umbra_awl.core.transfer.image_settings import put_settings, read_settings, settings_span
from umbra_awl.standins.radio.device import factory_image

PROFILES = shipped_profiles()
MOOR, TARN = PROFILES["moor4k"], PROFILES["tarn16"]
TEXT = st.text("ABC xyz019-", max_size=12).map(str.strip)


@st.composite
def settings_of(draw, profile):
    """Settings that a radio of a profile can hold, each given or left out."""
    extras = profile.extras
    presses = [(key.name, press) for key in extras.keys for press in key.presses]
    wanted = draw(st.dictionaries(st.sampled_from(presses), st.sampled_from(extras.actions)))
    count = draw(st.integers(0, min(extras.quick_texts, 4)))
    return HeldSettings(
        draw(st.one_of(st.none(), TEXT.filter(bool))),
        tuple(draw(TEXT.filter(bool)) for _ in range(count)),
        draw(st.one_of(st.none(), st.sampled_from(extras.position))) if extras.position != ("none",) else None,
        draw(st.sampled_from([0, *extras.time_outs_s, *([TIME_OUT_OFF] if extras.time_out_off else [])])),
        keys=tuple(KeyPress(key, press, wanted[key, press]) for key, press in presses if (key, press) in wanted),
    )


@examples(30)
@given(st.data(), st.sampled_from([MOOR, TARN]))
def test_what_is_set_reads_back_and_the_rest_stays_as_it_was(data, profile):
    first, second = data.draw(settings_of(profile)), data.draw(settings_of(profile))
    image = bytearray(factory_image(profile))
    before = read_settings(bytes(image), profile)
    put_settings(image, first, profile)
    put_settings(image, second, profile)
    held = read_settings(bytes(image), profile)
    assert held.startup == (second.startup or first.startup or before.startup)
    assert held.quick_texts == (second.quick_texts or first.quick_texts or before.quick_texts)
    assert held.position == (second.position or first.position or before.position)
    assert held.time_out_s == (second.time_out_s or first.time_out_s or before.time_out_s)
    said = {(item.key, item.press): item.action for items in (before.keys, first.keys, second.keys) for item in items}
    assert {(item.key, item.press): item.action for item in held.keys} == said


@pytest.mark.parametrize("profile", [MOOR, TARN], ids=lambda item: item.key)
def test_no_byte_outside_the_settings_is_touched(profile):
    image = factory_image(profile)
    changed = bytearray(image)
    put_settings(changed, HeldSettings("Hello", ("one",) * (profile.extras.quick_texts > 0), None, 60), profile)
    at, length = settings_span(profile)
    assert bytes(changed[:at]) == image[:at]
    assert bytes(changed[at + length :]) == image[at + length :]
    assert bytes(changed) != image


def test_an_action_that_the_radio_lacks_changes_nothing():
    image = bytearray(factory_image(TARN))
    before = bytes(image)
    put_settings(image, HeldSettings(keys=(KeyPress("Upper", "short", "fly"), KeyPress("P9", "long", "scan"))), TARN)
    assert bytes(image) == before


def test_the_change_sheet_tells_only_what_a_plan_sets():
    empty = merge(factory_image(MOOR), Memory("moor4k"), MOOR)
    wanted = HeldSettings("Good day", ("On my way",), "none", 180, keys=(KeyPress("Palm", "short", "scan"),))
    target = merge(empty, Memory("moor4k", settings=wanted), MOOR)
    sheet = difference(decode(empty, MOOR), decode(target, MOOR))
    told = {change.name for change in sheet.of_table("settings")}
    assert told >= {"start-up text", "position", "time-out timer", "quick texts", "key Palm, short"}
    assert not difference(decode(target, MOOR), Memory("moor4k")).of_table("settings")
    again = merge(target, replace(Memory("moor4k"), settings=wanted), MOOR)
    assert again == target
