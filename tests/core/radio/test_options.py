"""Settings that only one kind of radio has: said in its profile, set only where the plan says so, told on its key sheet."""

import pytest
from msgspec.structs import replace

from umbra_awl.core.fit.choices import set_option
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.paper.keysheet import key_sheet
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.sharing import shareable
from umbra_awl.core.radio.profile_edit import set_value
from umbra_awl.core.radio.profile_file import parse_profile, profile_text
from umbra_awl.core.radio.profile_values import printed, values_of

TOLD = "Squelch: 0, 1, 2 (MENU 4); Which ID: first, second"


@pytest.fixture
def profile(profiles):
    return set_value(profiles["tarn16"], "options", TOLD)


def test_they_are_typed_as_they_are_printed(profile):
    assert [option.label for option in profile.options] == ["Squelch", "Which ID"]
    assert profile.options[0].keys == ("MENU", "4")
    (spec,) = [item for item in values_of(profile) if item.field == "options"]
    assert printed(profile, spec) == TOLD
    assert parse_profile(profile_text(profile)) == profile
    with pytest.raises(ValueError, match="Type its name, its values"):
        set_value(profile, "options", "Squelch")


def test_what_is_not_said_stays_as_the_radio_has_it(index, profile):
    radio = next(item for item in index.plan.radios if item.profile == "tarn16")
    made = fit(index, radio, profile)
    assert made.memory.settings.options == ()
    assert not [step for step in key_sheet(made.memory, profile).begin if step.field == "option"]


def test_what_is_said_stands_on_the_key_sheet_with_its_keys_and_in_the_report(index, profile):
    radio = next(item for item in index.plan.radios if item.profile == "tarn16")
    plan = set_option(radio, "Squelch", "2").apply(index.plan)
    after = PlanIndex(plan, index.today)
    made = fit(after, after.radios[radio.key], profile)
    (step,) = [step for step in key_sheet(made.memory, profile).begin if step.field == "option"]
    assert (step.label, step.shows, step.keys) == ("Squelch", "2", ("MENU", "4"))
    assert [line.title for line in made.report.of_kind("set") if line.title.startswith("Squelch")] == ["Squelch: 2"]
    back = set_option(after.radios[radio.key], "Squelch", "").apply(plan)
    assert next(item for item in back.radios if item.key == radio.key).settings.options == ()


def test_a_value_that_the_profile_does_not_know_is_left_out_with_the_reason(index, profile):
    radio = next(item for item in index.plan.radios if item.profile == "tarn16")
    plan = set_option(radio, "Squelch", "9").apply(index.plan)
    made = fit(PlanIndex(plan, index.today), plan.radios[index.plan.radios.index(radio)], profile)
    assert made.memory.settings.options == ()
    assert "has no such setting" in next(
        line.reason for line in made.report.of_kind("left out") if "Squelch" in line.title
    )


def test_a_shared_copy_does_not_tell_them(index):
    radio = index.plan.radios[0]
    plan = set_option(replace(radio), "Which ID", "second").apply(index.plan)
    assert all(not item.settings.options for item in shareable(plan).radios)
