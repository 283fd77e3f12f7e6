"""Free tuning is outside every memory: held with the guard, said where it is not, written where the image holds it."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.fit.choices import set_settings
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.paper.howto import cautions_for
from umbra_awl.core.plan.edit.edit_station import set_granted, set_guard
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.free_tuning import prohibited_by, still_sends
from umbra_awl.core.radio.memory import HeldSettings, Memory
from umbra_awl.core.radio.profile import FreeTuning
from umbra_awl.core.radio.profile_check import profile_faults
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.difference import difference
from umbra_awl.core.transfer.image import decode, merge
from umbra_awl.core.transfer.interlock import must_not_send
from umbra_awl.standins.radio.device import factory_image

PROFILES = shipped_profiles()
BY_CABLE = [key for key, profile in PROFILES.items() if profile.free_tuning.by_cable]


def lifted(plan):
    return set_guard(False).apply(set_granted(True).apply(plan))


def fitted(plan, key="tarn16"):
    index = PlanIndex(plan, TODAY)
    radio = next(item for item in plan.radios if item.profile == key)
    return radio, index, fit(index, radio, PROFILES[key])


def test_the_guard_holds_it_on_every_radio_whatever_was_chosen(plan):
    held = set_guard(True).apply(plan)
    for radio in held.radios:
        chosen = set_settings(radio, "sends", free_tuning=True).apply(held)
        made = fit(
            PlanIndex(chosen, TODAY),
            next(item for item in chosen.radios if item.key == radio.key),
            PROFILES[radio.profile],
        )
        assert made.memory.settings.free_tuning is False
        (line,) = [item for item in made.report.lines if item.title == "Free tuning listens only"]
        assert ("written with the memory" in line.reason) == PROFILES[radio.profile].free_tuning.by_cable


@pytest.mark.parametrize("chosen", [None, False, True])
def test_without_the_guard_it_is_as_chosen(plan, chosen):
    plan = lifted(plan)
    plan = set_settings(plan.radios[0], "x", free_tuning=chosen).apply(plan)
    made = fit(PlanIndex(plan, TODAY), plan.radios[0], PROFILES[plan.radios[0].profile])
    assert made.memory.settings.free_tuning is chosen


def test_a_radio_with_memories_only_has_none(plan):
    bare = replace(PROFILES["tarn16"], free_tuning=FreeTuning(()))
    held = set_guard(True).apply(plan)
    radio = next(item for item in held.radios if item.profile == "tarn16")
    assert fit(PlanIndex(held, TODAY), radio, bare).memory.settings.free_tuning is None
    assert still_sends(bare) == ""


@pytest.mark.parametrize("key", BY_CABLE)
@pytest.mark.parametrize("free", [True, False])
def test_a_write_sets_each_half_and_leaves_it_where_nothing_is_said(key, free):
    profile = PROFILES[key]
    image = factory_image(profile)
    set_image = merge(image, Memory(key, settings=HeldSettings(free_tuning=free)), profile)
    assert decode(set_image, profile).settings.free_tuning is free
    at = profile.image.settings_at + profile.settings_length - profile.free_halves
    assert len(set(set_image[at : at + profile.free_halves])) == 1
    untouched = merge(set_image, Memory(key), profile)
    assert decode(untouched, profile).settings.free_tuning is free
    mixed = bytearray(set_image)
    mixed[at] = 3 - mixed[at]
    assert decode(bytes(mixed), profile).settings.free_tuning is None


def test_the_change_sheet_says_it():
    old, new = (
        Memory("tarn16", settings=HeldSettings(free_tuning=True)),
        Memory("tarn16", settings=HeldSettings(free_tuning=False)),
    )
    (change,) = difference(old, new).changes
    assert (change.name, change.detail) == ("free tuning", "sends → listens only")
    assert difference(old, Memory("tarn16")).changes == ()


def test_nothing_is_written_that_lets_it_send_while_the_guard_is_on(plan):
    radio, index, made = fitted(set_guard(True).apply(plan))
    tarn = PROFILES["tarn16"]
    assert must_not_send(index, radio, tarn, made.memory) == []
    for free in (None, True):
        loose = replace(made.memory, settings=replace(made.memory.settings, free_tuning=free))
        assert [name for name, _why in must_not_send(index, radio, tarn, loose)] == ["free tuning"]
        by_hand = replace(tarn, free_tuning=replace(tarn.free_tuning, by_cable=False))
        assert must_not_send(index, radio, by_hand, loose) == []


def test_the_card_says_that_it_is_outside_the_guard(plan):
    _radio, _index, made = fitted(set_guard(True).apply(plan))
    tarn = PROFILES["tarn16"]
    assert any("Free tuning still sends" in line and "LIST 2 4" in line for line in cautions_for(made.memory, tarn))
    _radio, _index, sending = fitted(lifted(plan))
    assert not any("Free tuning" in line for line in cautions_for(sending.memory, tarn))
    unsaid = replace(tarn, free_tuning=None)
    assert any("radio's manual" in line for line in cautions_for(sending.memory, unsaid))
    assert "manual" in prohibited_by(unsaid)


def test_a_profile_that_cannot_hold_it_may_not_say_so():
    tarn = PROFILES["tarn16"]
    nowhere = replace(tarn, image=replace(tarn.image, settings_at=0))
    assert [fault.field for fault in profile_faults(nowhere)] == ["free_tuning.by_cable"]
    twice = replace(tarn, free_tuning=replace(tarn.free_tuning, halves=("A", "A")))
    assert [fault.field for fault in profile_faults(twice)] == ["free_tuning.halves"]
    close = replace(tarn, image=replace(tarn.image, settings_at=tarn.image.channels.at - 4))
    assert any("reaches into" in fault.text for fault in profile_faults(close))
