"""Drills at their edges: how many slips, what a symptom names, what counts as right, when a card comes back."""

import random
from datetime import timedelta

import msgspec
import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.drills.fault import MOST_FAULTS, Maker, judge
from umbra_awl.core.drills.keyed import task_of
from umbra_awl.core.drills.keypad_radio import KeypadRadio
from umbra_awl.core.drills.rounds import KINDS, QuestionGround, questions
from umbra_awl.core.drills.schedule import (
    BOX_DAYS,
    MOST_CARDS,
    DrillCard,
    Practice,
    answered,
    boxes,
    keep_practice,
    read_practice,
)
from umbra_awl.core.drills.way import way_case
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.hotspot.logs.reading import read_log
from umbra_awl.core.hotspot.pairing.devices import shipped_devices
from umbra_awl.core.hotspot.pairing.machine import PairingSides, next_move
from umbra_awl.core.modes.dstar import computed_rpt
from umbra_awl.core.paper.keys import wanted_value
from umbra_awl.core.paper.taps import WAIT
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import DmrAir, DstarAir
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

PROFILES = shipped_profiles()
DEMO = demo_plan(TODAY)
INDEX = PlanIndex(DEMO, TODAY)
MAKER = Maker(DEMO, PROFILES, TODAY)
FITS = {item.key: fit(INDEX, item, PROFILES[item.profile]) for item in DEMO.radios}


def test_three_slips_at_most_whatever_is_asked_for():
    assert MOST_FAULTS == 3
    assert len(MAKER.case(4, 9).faults) == 3
    assert len(MAKER.case(4, 1).faults) == 1
    case = MAKER.case(4, 2, ["encrypted", "padding", "id-short"])
    assert [item.slip.key for item in case.faults] == ["encrypted", "padding"]


def test_without_a_wish_the_first_slip_is_not_always_the_same():
    assert len({MAKER.case(seed).faults[0].slip.key for seed in range(12)}) > 6


def test_one_of_two_slips_repaired_is_half_the_work_and_the_other_finding_is_no_new_harm():
    case = MAKER.case(3, 2, ["encrypted", "offset-sign"])
    one, other = (item.slip.key for item in case.faults)
    half = MAKER.case(3, 1, [other])
    judged = judge(case, half.plan, [one, other], PROFILES, TODAY)
    assert judged.repaired == {one}
    assert judged.intact
    assert not judged.new
    assert not judged.done(case)


def test_done_is_named_and_repaired_and_nothing_broken():
    case = MAKER.case(3, 1, ["encrypted"])
    assert judge(case, case.sound, ["encrypted", "padding"], PROFILES, TODAY).named == {"encrypted"}
    assert not judge(case, case.sound, ["padding"], PROFILES, TODAY).done(case)
    assert not judge(case, case.plan, ["encrypted"], PROFILES, TODAY).done(case)
    assert judge(case, case.sound, ["encrypted"], PROFILES, TODAY).done(case)


def test_a_service_taken_away_is_not_intact():
    case = MAKER.case(3, 1, ["encrypted"])
    first = case.sound.access[0]
    more = replace(first, services=(*first.services, replace(first.services[0], key="one-more")))
    with_more = case._replace(sound=replace(case.sound, access=(more, *case.sound.access[1:])))
    assert judge(with_more, with_more.sound, ["encrypted"], PROFILES, TODAY).intact
    assert not judge(with_more, case.sound, ["encrypted"], PROFILES, TODAY).intact


@pytest.mark.parametrize("seed", range(3))
def test_a_symptom_names_the_destination_and_the_site_with_the_mode_where_there_are_several(seed):
    fault = MAKER.case(seed, 1, ["digit-off"]).faults[0]
    assert any(item.name in fault.symptom for item in DEMO.destinations)
    one = MAKER.case(seed, 1, ["offset-sign"])
    (key,) = {
        key for key, (_a, service) in PlanIndex(one.plan, TODAY).services.items()
        if service != PlanIndex(one.sound, TODAY).services[key][1]
    }  # fmt: skip
    access, _service = INDEX.services[key]
    assert access.by_site in one.faults[0].symptom
    words = {"FM", "DMR", "D-STAR", "Fusion"}
    several = len({item.mode for item in access.services}) > 1
    told = one.faults[0].symptom.partition(access.by_site)[2]
    assert told.startswith(tuple(f" on {word}" for word in words)) is several


def question(key, seed=1):
    return questions(QuestionGround(INDEX, FITS, PROFILES), seed, 400)[key]


def test_an_offset_is_said_with_its_sign_and_added_up():
    for key, (_access, service) in INDEX.services.items():
        if service.tx_hz == service.rx_hz:
            continue
        item = question(f"offset {key}")
        sign = "+" if service.tx_hz > service.rx_hz else "−"
        mhz = abs(service.tx_hz - service.rx_hz) / 1e6
        assert f"offset is {sign}" in item.ask
        assert f" {sign} {mhz:.4f}" in item.why or f" {sign} {mhz:g}" in item.why
        assert float(item.answer) == service.tx_hz / 1e6


def test_fields_are_asked_of_access_points_that_have_a_call_sign():
    found = questions(QuestionGround(INDEX, FITS, PROFILES), 1, 400)
    for key, route in INDEX.routes.items():
        access, service, _destination = INDEX.parts(route)
        asks = isinstance(service.air, DstarAir) and bool(access.call)
        assert (f"dstar RPT1 {key}" in found) is asks
        if asks:
            rpt = computed_rpt(access, service.air)
            assert (found[f"dstar RPT1 {key}"].answer, found[f"dstar RPT2 {key}"].answer) == tuple(
                item.ljust(8) for item in rpt
            )
    bare = replace(DEMO, access=tuple(replace(item, call="") for item in DEMO.access))
    none = questions(QuestionGround(PlanIndex(bare, TODAY), FITS, PROFILES), 1, 400)
    assert not [key for key in none if key.startswith("dstar ")]


def test_the_right_choice_does_not_always_stand_at_the_same_place_and_there_are_four_at_most():
    found = [item for item in questions(QuestionGround(INDEX, FITS, PROFILES), 1, 60).values() if item.choices]
    knobs = [item for item in found if item.kind == "Zone and knob"]
    assert {item.choices.index(item.answer) for item in knobs} == {0, 1, 2, 3}
    assert all(2 <= len(item.choices) <= 4 for item in knobs)


def test_the_steps_of_a_card_are_five_in_a_row_from_any_beginning():
    seen = {
        question("card " + key, seed).answer
        for key, profile in PROFILES.items()
        if profile.by_card
        for seed in range(40)
    }
    assert all(len(item.split("\n")) == 5 for item in seen)
    assert len(seen) > 4


def test_at_most_so_many_of_each_kind_and_another_seed_asks_others():
    ground = QuestionGround(INDEX, FITS, PROFILES)
    few = questions(ground, 1, 3)
    assert all(sum(item.kind == kind for item in few.values()) <= 3 for kind in KINDS)
    spelt = [tuple(key for key in questions(ground, seed, 3) if key.startswith("spell")) for seed in range(6)]
    assert len(set(spelt)) > 1


def test_a_first_right_answer_stays_in_the_first_box_and_the_last_box_holds():
    assert (BOX_DAYS, MOST_CARDS) == ((1, 3, 7, 16, 35), 5_000)
    first = answered(Practice(), "k", right=True, today=TODAY).cards["k"]
    assert (first.box, first.times, first.right) == (0, 1, 1)
    last = DrillCard(99, TODAY.isoformat(), 9)
    assert last.due() == TODAY + timedelta(days=35)
    assert DrillCard(-4, TODAY.isoformat()).due() == TODAY + timedelta(days=1)
    assert boxes(Practice({"k": last}), "kn") == {-1: ["n"], 0: [], 1: [], 2: [], 3: [], 4: ["k"]}
    assert DrillCard(0, "some day").due() is None


def test_a_wrong_answer_is_asked_again_from_today_even_before_its_day():
    held = Practice({"k": DrillCard(3, TODAY.isoformat(), 5, 5)})
    tomorrow = TODAY + timedelta(days=1)
    early = answered(held, "k", right=True, today=tomorrow).cards["k"]
    assert (early.box, early.asked) == (3, TODAY.isoformat())
    wrong = answered(held, "k", right=False, today=tomorrow).cards["k"]
    assert (wrong.box, wrong.asked) == (0, tomorrow.isoformat())
    on_the_day = answered(held, "k", right=True, today=TODAY + timedelta(days=16)).cards["k"]
    assert on_the_day.box == 4


def test_the_oldest_cards_go_when_there_are_too_many():
    many = Practice({f"k{at}": DrillCard(0, "2026-01-01", 1) for at in range(MOST_CARDS)})
    more = answered(many, "new", right=True, today=TODAY)
    assert len(more.cards) == MOST_CARDS
    assert "k0" not in more.cards
    assert "new" in more.cards


@pytest.mark.parametrize("other", [{"format": "other"}, {"version": 2}])
def test_practice_of_another_kind_or_a_later_one_is_not_read(tmp_path, other):
    path = tmp_path / "practice.json"
    path.write_bytes(msgspec.json.encode(msgspec.structs.replace(Practice({"k": DrillCard()}), **other)))
    assert read_practice(path) == Practice()


def seen(key, seed=1, index=INDEX):
    case = way_case(index, key, seed)
    return case, {item.title: item.text for item in case.looks}


def test_what_the_directory_says_today_is_another_color_code():
    for seed in range(8):
        case, looks = seen("entry-outdated", seed)
        mine = int(looks["Your plan"].rpartition(" ")[2])
        now = int(looks["The directory of today"].removeprefix("color code ").partition(",")[0])
        site = looks["Your plan"].partition(":")[0]
        assert now == (mine + 3) % 16
        assert site in case.symptom + case.finding
        assert mine in {
            service.air.color_code for access, service in INDEX.services.values()
            if access.by_site == site and isinstance(service.air, DmrAir)
        }  # fmt: skip


def test_the_log_begins_with_the_start_and_repeats_the_refused_login():
    _case, looks = seen("master-or-password")
    lines = looks["Its log"].split("\n")
    assert len(lines) == 3
    assert lines[0] != lines[1] == lines[2]
    found = read_log(looks["Its log"])
    assert "login" in found.cause.rule.key
    assert found.cause.times == 2
    assert [item.rule.key for item in found.states] == ["starts"]


def test_the_broken_write_and_the_broken_save_are_half_done():
    case, looks = seen("off-during-write")
    old, new = looks["Digests before and after the write"].split(" and ")
    assert {len(old), len(new), len(looks["Digest of the radio's memory now"])} == {12}
    assert looks["Digest of the radio's memory now"] not in {old, new}
    assert "neither" in case.finding
    case, looks = seen("card-pulled")
    assert case.finding != way_case(INDEX, "saved-not-sent", 1).finding
    half = int(looks["On the card"].rpartition(", ")[2].split()[0])
    assert half == int(looks["The radio's earlier saves"].split()[0]) // 2


def test_a_name_that_was_not_saved_is_another_one_of_a_radio_with_keys():
    for seed in range(6):
        case, looks = seen("name-and-save", seed)
        assert looks["Your plan"] != looks["The radio's display"]
        assert looks["Your plan"] in case.finding
        keyed = [FITS[item.key] for item in DEMO.radios if PROFILES[item.profile].keypad is not None]
        assert any(looks["Your plan"] == channel.name for held in keyed for channel in held.memory.channels)


def test_a_file_of_another_model_has_another_size_and_repairs_stand_in_any_order():
    _case, looks = seen("wrong-model")
    size = looks["The file"].rpartition(", ")[2]
    assert size not in looks["Your radio"]
    assert len({seen("wrong-model", seed)[0].right for seed in range(12)}) > 1


def test_a_friends_list_turns_the_offset_round_and_nothing_else():
    for seed in range(6):
        case, looks = seen("old-over-own", seed)
        (said,) = {looks["What the import would have shown"].partition(": ")[2].removesuffix(" changed")}
        assert said.endswith("input")
        assert f"{said} would be changed" in case.finding


def test_pairing_begins_where_it_is_asked_for_over_the_air():
    devices = {item.key: item for item in shipped_devices().device}
    for key, item in questions(QuestionGround(INDEX, FITS, PROFILES), 1, 60).items():
        if key.startswith("pair "):
            first = item.answer.split("\n")[0]
            assert first == next_move(devices[key.removeprefix("pair ")], PairingSides({}, wireless=False)).words


KEYED = [item for item in DEMO.radios if PROFILES[item.profile].keypad is not None]


@pytest.mark.parametrize("radio", KEYED, ids=lambda item: item.key)
def test_one_key_too_many_is_counted_and_the_cheapest_way_is_not_told(radio):
    profile = PROFILES[radio.profile]
    made = task_of(FITS[radio.key], profile, 1)
    for step in made.entered.steps:
        for key in step.keys:
            made.press(key)
    assert made.saved
    made.pressed = made.cheapest
    assert made.verdict().endswith("keys.")
    made.pressed = made.cheapest + 1
    assert made.verdict().endswith("1 more than the cheapest way.")


def test_a_memory_saved_under_another_number_is_told():
    radio = next(item for item in KEYED if item.profile == "tarn16")
    made = task_of(FITS[radio.key], PROFILES["tarn16"], 1)
    save = next(item for item in made.keypad.menus if item.kind == "save")
    wrong = "077" if made.channel.number != 77 else "078"
    for step in made.entered.steps:
        for key in step.keys if step.field != save.field else (*save.keys, *wrong[-save.width :], made.keypad.enter):
            made.press(key)
    told = [item for item in made.wrong() if item.label == "Memory"]
    assert [item.has for item in told] == [str(int(wrong[-save.width :]))]
    assert told[0].meant == str(made.channel.number)


def test_a_radio_without_any_channel_has_no_task_and_a_chosen_number_is_that_one():
    radio = KEYED[0]
    held, profile = FITS[radio.key], PROFILES[radio.profile]
    number = held.memory.channels[-1].number
    assert task_of(held, profile, 5, number).channel.number == number
    assert task_of(held._replace(memory=replace(held.memory, channels=())), profile, 5) is None
    assert len({task_of(held, profile, seed).channel.number for seed in range(10)}) > 1


def test_chance_is_that_of_the_seed_alone():
    random.seed(1)
    first = questions(QuestionGround(INDEX, FITS, PROFILES), 7)
    random.seed(2)
    assert questions(QuestionGround(INDEX, FITS, PROFILES), 7) == first


def test_a_pause_is_no_key_and_before_anything_is_saved_nothing_is_wrong():
    made = task_of(FITS[KEYED[0].key], PROFILES[KEYED[0].profile], 1)
    assert made.wrong() == []
    made.press(WAIT)
    assert made.pressed == 0
    made.press("0")
    assert made.pressed == 1


@pytest.mark.parametrize("radio", KEYED, ids=lambda item: item.key)
def test_what_is_left_over_is_what_the_menus_keep_of_another_memory(radio):
    profile, fitted = PROFILES[radio.profile], FITS[radio.key]
    fields = [menu.field for menu in profile.keypad.menus if menu.field in profile.keypad.keeps and menu.kind != "save"]
    assert fields
    for seed in range(6):
        made = task_of(fitted, profile, seed)
        others = [item for item in fitted.memory.channels if item.number != made.channel.number]
        held = {
            menu.field: {wanted_value(menu, other, fitted.memory, other.name) for other in others}
            for menu in profile.keypad.menus
            if menu.field in fields and menu.field in {"rx", "tx", "shift", "offset", "tone_tx"}
        }
        for field, values in held.items():
            assert made.radio.held[field] in values | {KeypadRadio(profile.keypad).held[field]}


def test_without_two_zones_nobody_is_asked_for_one():
    one = {
        key: fitted._replace(memory=replace(fitted.memory, zones=fitted.memory.zones[:1]))
        for key, fitted in FITS.items()
    }
    found = questions(QuestionGround(INDEX, one, PROFILES), 1, 60)
    assert not [key for key in found if key.startswith("knob ")]
    two = {
        key: fitted._replace(memory=replace(fitted.memory, zones=fitted.memory.zones[:2]))
        for key, fitted in FITS.items()
    }
    asked = [
        item for item in questions(QuestionGround(INDEX, two, PROFILES), 1, 60).values() if item.kind == "Zone and knob"
    ]
    assert asked
    for item in asked:
        assert all(int(choice.rpartition(", ")[2]) >= 1 for choice in item.choices)


def test_offsets_come_in_another_order_with_another_seed():
    orders = {
        tuple(key for key in questions(QuestionGround(INDEX, FITS, PROFILES), seed) if key.startswith("offset "))
        for seed in range(5)
    }
    assert len(orders) > 1
    usual = questions(QuestionGround(INDEX, FITS, PROFILES), 1)
    assert max(sum(item.kind == kind for item in usual.values()) for kind in KINDS) == 12


def test_progress_is_kept_for_oneself_alone(tmp_path):
    path = tmp_path / "practice.json"
    keep_practice(path, Practice())
    assert path.stat().st_mode & 0o077 == 0


def test_the_broken_save_on_a_card_is_told_as_one():
    case, _looks = seen("card-pulled")
    assert "“SAVE0007.AWC” cannot be used: it is damaged" in case.finding
