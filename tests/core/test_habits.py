"""Where practitioners disagree: one choice, and findings, fit, sheets, steps, simulation and drills follow it."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.agenda.next_steps import WaysIn, next_steps
from umbra_awl.core.drills.rounds import QuestionGround, is_right, questions
from umbra_awl.core.facts.habits import habit_questions
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.messages.permit import etiquette
from umbra_awl.core.paper.field_card import field_card
from umbra_awl.core.paper.kept_to import kept_to
from umbra_awl.core.plan.edit.edit_station import set_habit
from umbra_awl.core.plan.edit.edits import swap_item
from umbra_awl.core.plan.habits import Habits
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.radios import TIME_OUT_OFF, OptionSetting
from umbra_awl.core.radio.profile import RadioOption
from umbra_awl.core.transfer.firmware.wanted import updates_words

ON_HABITS = {
    "time-out-not-set", "time-out-set", "settings-not-looked-at", "settings-not-left-alone", "data-by-themselves",
    "data-wait-for-key",
}  # fmt: skip


def keeping(plan, **habits):
    return replace(plan, station=replace(plan.station, habits=Habits(**habits)))


def with_settings(plan, radio, **fields):
    made = swap_item(plan.radios, radio, lambda item: replace(item, settings=replace(item.settings, **fields)))
    return replace(plan, radios=made)


def found(plan, profiles):
    return [item for item in findings_of(PlanIndex(plan, TODAY), profiles) if item.rule.name in ON_HABITS]


@pytest.fixture
def optioned(profiles):
    """The profiles, with settings of its own on the Moor."""
    options = (RadioOption("Squelch", ("0", "1", "2"), ("MENU", "4")), RadioOption("Back-light", ("off", "5 s")))
    return {**profiles, "moor4k": replace(profiles["moor4k"], options=options)}


def test_every_question_has_a_field_and_two_ways_with_reasons():
    assert {item.field for item in habit_questions()} == set(Habits.__struct_fields__)
    for question in habit_questions():
        assert len(question.ways) == 2
        assert all(way.words and way.why for way in question.ways)
        for way in question.ways:
            assert (
                getattr(set_habit(question, way.key).apply(keeping_nothing()).station.habits, question.field) == way.key
            )


def keeping_nothing():
    from umbra_awl.core.plan.model import Plan

    return Plan()


def test_without_a_choice_nothing_is_said(plan, optioned):
    wrong = with_settings(plan, "moor", time_out_s=180, options=(OptionSetting("Squelch", "1"),), data_by_itself=True)
    assert not found(wrong, optioned)
    assert kept_to(PlanIndex(wrong, TODAY), wrong.radios[0], optioned["moor4k"]) == ()


@pytest.mark.parametrize(
    ("habits", "radio", "settings", "rule"),
    [
        ({"time_out": "set"}, "moor", {"time_out_s": 0}, "time-out-not-set"),
        ({"time_out": "set"}, "moor", {"time_out_s": TIME_OUT_OFF}, "time-out-not-set"),
        ({"time_out": "off"}, "moor", {"time_out_s": 180}, "time-out-set"),
        ({"time_out": "off"}, "crag", {"time_out_s": 180}, "time-out-set"),
        ({"settings": "all"}, "moor", {}, "settings-not-looked-at"),
        ({"settings": "alone"}, "moor", {"options": (OptionSetting("Squelch", "1"),)}, "settings-not-left-alone"),
        ({"texts": "alone"}, "fell", {"data_by_itself": True}, "data-by-themselves"),
        ({"texts": "beside"}, "fell", {"data_by_itself": False}, "data-wait-for-key"),
    ],
)
def test_a_radio_set_otherwise_is_told_and_its_repair_clears_it(plan, optioned, habits, radio, settings, rule):
    wrong = with_settings(keeping(plan, **habits), radio, **settings)
    made = next(item for item in found(wrong, optioned) if item.rule.name == rule and item.target.key == radio)
    if made.repair is None:
        assert "Squelch" in made.text
        return
    mended = made.repair.edit.apply(wrong)
    assert not any(item.rule.name == rule and item.target.key == radio for item in found(mended, optioned))


def test_what_is_chosen_well_is_not_told(plan, optioned):
    right = with_settings(keeping(plan, time_out="set", texts="alone"), "moor", time_out_s=60)
    assert not any(item.target.key == "moor" for item in found(right, optioned))
    off = with_settings(keeping(plan, time_out="off", settings="alone"), "moor", time_out_s=TIME_OUT_OFF)
    assert not any(item.target.key == "moor" for item in found(off, optioned))


def test_off_is_off_where_a_radio_can_and_its_longest_where_not(plan, profiles):
    index = PlanIndex(
        with_settings(with_settings(plan, "moor", time_out_s=TIME_OUT_OFF), "crag", time_out_s=TIME_OUT_OFF), TODAY
    )
    moor = fit(index, index.radios["moor"], profiles["moor4k"])
    crag = fit(index, index.radios["crag"], profiles["crag-f3"])
    assert moor.memory.settings.time_out_s == TIME_OUT_OFF
    assert crag.memory.settings.time_out_s == max(profiles["crag-f3"].extras.time_outs_s)
    assert any("cannot be switched off" in line.reason for line in crag.report.of_kind("set"))


def test_sheets_and_cards_say_what_is_kept_to_and_what_is_looked_at(plan, optioned):
    kept = keeping(plan, time_out="set", settings="all", updates="first", texts="beside")
    kept = with_settings(kept, "moor", time_out_s=180, options=(OptionSetting("Squelch", "1"),))
    index, profile = PlanIndex(kept, TODAY), optioned["moor4k"]
    told = kept_to(index, index.radios["moor"], profile)
    assert len(told) == 4
    assert told[0].endswith("180 s.")
    assert "☐ Squelch (MENU 4): 1." in told[1]
    assert "☐ Back-light: look: off, 5 s." in told[1]
    assert "☐ Is there a newer one?" in told[2]
    card = field_card(index, index.radios["moor"], profile, fit(index, index.radios["moor"], profile), "2026-11-25")
    assert ("What you keep to", told) in card.how_to


def test_newest_first_is_a_step_before_the_write_until_it_was_looked(plan):
    ways = WaysIn({"moor": "cable", "tarn": "cable"}, frozenset(), frozenset({"moor"}))

    def words(plan):
        return [step.words for step in next_steps(PlanIndex(plan, TODAY), TODAY, (), ways) if not step.done]

    first = words(keeping(plan, updates="first"))
    look = first.index("Look whether Moor 4K has the newest firmware")
    assert first[look + 1] == "Write Moor 4K, and prove it"
    assert sum("newest firmware" in item for item in first) == 1
    assert not any("newest" in item for item in words(keeping(plan, updates="needed")))
    looked = replace(plan, radios=swap_item(plan.radios, "moor", lambda item: replace(item, updated="2026-11-20")))
    assert not any("newest" in item for item in words(keeping(looked, updates="first")))
    assert "on 2026-11-20" in updates_words("first", "2026-11-20")
    assert "never without need" in updates_words("needed", "")
    assert updates_words("", "") == ""


def test_speech_only_is_said_before_data_on_a_shared_channel(plan):
    index = PlanIndex(keeping(plan, texts="alone"), TODAY)
    wide = next(item for item in plan.routes if index.parts(item)[2].kind == "reflector")
    local = next(item for item in plan.routes if index.parts(item)[2].kind == "local")
    assert "speech only" in etiquette(index, wide.key, "text")[0]
    assert not any("speech only" in item for item in etiquette(index, local.key, "text"))


def test_drills_ask_for_the_reason_of_the_way_that_was_chosen(plan, profiles):
    def asked(plan):
        made = questions(QuestionGround(PlanIndex(plan, TODAY), {}, profiles), 7)
        return [item for item in made.values() if item.kind == "What you keep to"]

    assert asked(plan) == []
    one, other = asked(keeping(plan, time_out="set"))[0], asked(keeping(plan, time_out="off"))[0]
    assert set(one.choices) == set(other.choices)
    assert is_right(one, one.answer)
    assert not is_right(one, other.answer)


def test_a_time_out_is_said_on_paper_only_where_one_is_set_and_at_its_own_question(plan, optioned):
    kept = keeping(plan, time_out="set", updates="needed")

    def told(**settings):
        index = PlanIndex(with_settings(kept, "moor", **settings), TODAY)
        return kept_to(index, index.radios["moor"], optioned["moor4k"])

    assert told(time_out_s=60)[0].endswith(" 60 s.")
    assert told(time_out_s=TIME_OUT_OFF)[0].endswith(" Off.")
    assert not told(time_out_s=0)[0].endswith(("s.", "Off."))
    assert not told(time_out_s=60)[1].endswith("60 s.")
