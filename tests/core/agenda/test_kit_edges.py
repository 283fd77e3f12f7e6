"""The kit thing by thing, the ten minutes check by check, and radios set otherwise than was chosen, at their edges."""

import pytest
from msgspec.structs import replace

from tests.core.agenda.test_kit_and_minutes import NOW, TRIP, by_title, known  # noqa: F401  (a fixture)
from tests.core.test_habits import found, keeping, with_settings
from umbra_awl.core.agenda.kit import hours_on_a_charge, kit
from umbra_awl.core.agenda.ten_minutes import ten_minutes
from umbra_awl.core.findings.model import Finding, Rule, Target
from umbra_awl.core.findings.on_habits import USUAL_S
from umbra_awl.core.logbook.proof import RouteProof
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.radios import TIME_OUT_OFF, OptionSetting
from umbra_awl.core.radio.profile import App, Battery


def things(index, profiles, only, trip=TRIP, hotspots=()):
    radios = tuple(radio for radio in index.plan.radios if radio.profile in only)
    alone = PlanIndex(replace(index.plan, radios=radios, hotspots=hotspots), index.today)
    return {item.key: item for item in kit(alone, profiles, trip)}


def with_profile(profiles, key, **fields):
    return {**profiles, key: replace(profiles[key], **fields)}


@pytest.mark.parametrize(("capacity", "more"), [(1_000.0, True), (100_000.0, False)])
def test_a_second_battery_where_a_charge_does_not_last_the_day(index, profiles, capacity, more):
    made = with_profile(profiles, "tarn16", battery=Battery(capacity, (500.0, 1_500.0), 120.0, 60.0))
    charger = next(item for key, item in things(index, made, {"tarn16"}).items() if key.startswith("charger"))
    assert ("second battery" in charger.words) == more
    assert f"about {hours_on_a_charge(made['tarn16']):.0f} h" in charger.why


def test_without_figures_nothing_is_claimed_of_a_charge(index, profiles):
    bare = with_profile(profiles, "tarn16", battery=None)
    charger = next(item for key, item in things(index, bare, {"tarn16"}).items() if key.startswith("charger"))
    assert (charger.words.endswith("second battery"), "is not known" in charger.why) == (False, True)
    assert hours_on_a_charge(bare["tarn16"]) == 0.0
    odd = with_profile(profiles, "tarn16", battery=Battery(0.0, (0.0,), 0.0, 0.0))
    assert hours_on_a_charge(odd["tarn16"]) == 0.0


@pytest.mark.parametrize(("begins", "ends", "days"), [
    ("2026-12-01", "2026-12-07", "7 days"), ("2026-12-01", "2026-12-02", "2 days"), ("2026-12-01", "2026-12-01", ""),
    ("", "", ""),
])  # fmt: skip
def test_the_days_of_a_trip_stand_at_its_charger(index, profiles, begins, ends, days):
    found_ = things(index, profiles, {"tarn16"}, replace(TRIP, begins=begins, ends=ends))
    why = next(item.why for key, item in found_.items() if key.startswith("charger"))
    assert (days in why) if days else ("days" not in why)


def test_a_mobile_wants_its_power_and_a_handheld_its_charger(index, profiles):
    mobile = with_profile(
        profiles, "tarn16", shape="mobile", ways_in=("cable",), beside=("Programming cable", "microphone")
    )
    keys = set(things(index, mobile, {"tarn16"}))
    radio = next(item.key for item in index.plan.radios if item.profile == "tarn16")
    assert {f"radio {radio}", f"power {radio}", "cable tarn16", "beside microphone", "field cards", "licence"} <= keys
    assert not keys & {
        f"charger {radio}",
        "card reader",
        "beside Programming cable",
        "phone",
        "power bank",
        "road sheet",
    }


def test_a_card_takes_the_place_of_the_cable_and_keys_want_their_sheet(index, profiles):
    by_card = {
        key
        for key, item in profiles.items()
        if item.by_card and any(radio.profile == key for radio in index.plan.radios)
    }
    assert by_card
    for key in by_card:
        keys = things(index, profiles, {key}).keys()
        assert "card reader" in keys
        assert f"cable {key}" not in keys
    by_keys = [
        key
        for key, item in profiles.items()
        if item.by_keys and any(radio.profile == key for radio in index.plan.radios)
    ]
    others = [radio.profile for radio in index.plan.radios if not profiles[radio.profile].by_keys]
    assert "key sheet" in things(index, profiles, {by_keys[0]})
    assert "key sheet" not in things(index, profiles, set(others))


def test_an_app_wants_the_phone_and_says_for_what(index, profiles):
    made = (
        with_profile(profiles, "tarn16", apps=(App(platform="Linnet"),))
        if "carries" not in App.__struct_fields__
        else profiles
    )
    apps = [key for key, item in made.items() if item.apps and any(radio.profile == key for radio in index.plan.radios)]
    for key in apps:
        assert "app of the" in things(index, made, {key})["phone"].why


def test_each_hotspot_goes_along_by_its_name_and_once_the_bank_and_the_sheet(index, profiles):
    found_ = things(index, profiles, set(), hotspots=index.plan.hotspots)
    for hotspot in index.plan.hotspots:
        assert index.access[hotspot.access].site in found_[f"hotspot {hotspot.key}"].words
    assert {"power bank", "phone", "road sheet", "licence"} <= found_.keys()
    assert "field cards" not in found_


# before a net


def routed(index):
    return next(item for item in index.plan.nets if item.route)


def test_the_last_words_are_there_where_one_can_speak(index, known):  # noqa: F811
    net = routed(index)
    assert "First over" in by_title(ten_minutes(index, known, net, NOW))
    deaf = known._replace(fits={})
    checks = by_title(ten_minutes(index, deaf, net, NOW))
    assert not checks.keys() & {"Memory", "Battery", "Licence"}
    assert checks["Way there"].state == "look"


def test_a_battery_is_looked_at_where_it_lasts_less_than_one_and_a_half_nets(index, known):  # noqa: F811
    net = routed(index)
    checks = by_title(ten_minutes(index, known, net, NOW))
    hours = float(checks["Battery"].words.split("about ")[1].split()[0]) if "about" in checks["Battery"].words else 0.0
    assert checks["Battery"].state == "ask"
    long = by_title(ten_minutes(index, known, replace(net, minutes=60 * 48), NOW))["Battery"]
    assert long.state == ("look" if hours else "ask")
    bare = known._replace(profiles={key: replace(item, battery=None) for key, item in known.profiles.items()})
    asked = by_title(ten_minutes(index, bare, net, NOW))["Battery"]
    assert asked.state == "ask"
    assert asked.words.startswith("Is the ")


def finding(severity, key, text="It is wrong."):
    return Finding(Rule("x", severity, "X", "why"), Target("route", key), text)


def test_only_what_stops_this_very_way_is_looked_at(index, known):  # noqa: F811
    net = routed(index)
    service = index.routes[net.route].service
    for item, there in ((finding("stop", net.route), True), (finding("stop", service), True), (finding("note", net.route), False),
                        (finding("stop", "another"), False)):  # fmt: skip
        checks = by_title(ten_minutes(index, known._replace(findings=(item,)), net, NOW))
        assert ("Findings" in checks) == there
    two = known._replace(
        findings=(
            finding("note", net.route, "no"),
            finding("stop", net.route, "first"),
            finding("stop", service, "second"),
        )
    )
    assert by_title(ten_minutes(index, two, net, NOW))["Findings"].words == "first"


def test_a_proof_is_said_with_its_age_and_what_came_since(index, known):  # noqa: F811
    net = routed(index)
    proof = RouteProof(net.route, "answered", True, True, "2026-11-20T10:00:00Z")

    def said(**fields):
        return by_title(ten_minutes(index, known._replace(proofs={net.route: proof._replace(**fields)}), net, NOW))[
            "Proof"
        ]

    assert (said().state, said().words) == ("ok", "Answered.")
    assert said(changed=("tone",)).words == "Answered. Since then changed: tone."
    failed = said(failed="yesterday")
    assert (failed.state, failed.words) == ("look", "Answered. It failed since: yesterday.")
    assert by_title(ten_minutes(index, known, net, NOW))["Proof"].state == "look"


# what was chosen


def of_tarn(plan, profiles, time_out, offered, can_off=False):
    made = {
        **profiles,
        "tarn16": replace(
            profiles["tarn16"], extras=replace(profiles["tarn16"].extras, time_outs_s=offered, time_out_off=can_off)
        ),
    }
    return [item for item in found(with_settings(plan, "tarn", time_out_s=time_out), made) if item.target.key == "tarn"]


@pytest.mark.parametrize(("offered", "seconds"), [
    ((60, 180, 300), 180), ((60, 179, 181), 179), ((240, 300), 240), ((180,), 180),
])  # fmt: skip
def test_a_time_out_is_set_to_three_minutes_or_the_nearest_below(plan, profiles, offered, seconds):
    assert USUAL_S == 180
    keeps = keeping(plan, time_out="set")
    for now in (0, TIME_OUT_OFF):
        (told,) = of_tarn(keeps, profiles, now, offered)
        assert told.repair.label == f"Set {seconds} s"
        assert (
            of_tarn(told.repair.edit.apply(with_settings(keeps, "tarn", time_out_s=now)), profiles, seconds, offered)
            == []
        )
    assert of_tarn(keeps, profiles, 1, offered) == []
    assert of_tarn(keeps, profiles, 0, ()) == []


def test_a_time_out_goes_off_where_the_radio_can(plan, profiles):
    keeps = keeping(plan, time_out="off")
    (told,) = of_tarn(keeps, profiles, 1, (60,), can_off=True)
    assert (told.repair.label, "after 1 s" in told.text) == ("Switch it off", True)
    assert of_tarn(keeps, profiles, 60, (60,))[0].repair.label == "Leave it as the radio has it"
    assert of_tarn(keeps, profiles, 0, (60,)) == []
    assert of_tarn(keeps, profiles, TIME_OUT_OFF, (60,)) == []


def test_data_are_told_of_radios_that_send_some_and_only_where_it_is_said(plan, profiles):
    data = {radio.key for radio in plan.radios if profiles[radio.profile].extras.data != "none"}
    none = {radio.key for radio in plan.radios} - data
    assert data
    assert none

    def told(habit, by_itself):
        made = plan
        for radio in plan.radios:
            made = with_settings(made, radio.key, data_by_itself=by_itself)
        return {item.target.key for item in found(keeping(made, texts=habit), profiles)}

    assert told("alone", True) == data
    assert told("alone", False) == told("alone", None) == set()
    assert told("beside", False) == data
    assert told("beside", None) == told("beside", True) == set()


def test_a_radio_whose_profile_is_gone_is_passed_over(plan, profiles):
    without = {key: item for key, item in profiles.items() if key != "tarn16"}
    keeps = keeping(with_settings(plan, "tarn", options=(OptionSetting("Squelch", "2"),)), settings="alone")
    assert {item.target.key for item in found(keeps, profiles)} == {"tarn"}
    assert found(keeps, without) == []


def test_a_trip_without_days_has_none(index, profiles):
    odd = things(index, profiles, {"tarn16"}, replace(TRIP, begins="soon", ends="later"))
    assert "days" not in next(item.why for key, item in odd.items() if key.startswith("charger"))


def test_the_radio_before_a_net_is_one_that_may_send_there(index, known):  # noqa: F811
    net = routed(index)
    held = {
        key: made
        for key, made in known.fits.items()
        if any(item.route == net.route and not item.receive_only for item in made.memory.channels)
    }
    assert len(held) >= 1
    name = index.radios[list(held)[-1]].name
    assert name in by_title(ten_minutes(index, known, net, NOW))["Memory"].words
    deaf = {
        key: made._replace(
            memory=replace(
                made.memory, channels=tuple(replace(item, receive_only=True) for item in made.memory.channels)
            )
        )
        for key, made in held.items()
    }
    assert "Memory" not in by_title(ten_minutes(index, known._replace(fits=deaf), net, NOW))


@pytest.mark.parametrize(("minutes", "state"), [(60, "ask"), (61, "look")])
def test_a_charge_of_an_hour_and_a_half_is_enough_for_one_hour(index, known, minutes, state):  # noqa: F811
    net = routed(index)
    lasting = Battery(1_500.0, (1_000.0,), 1_000.0, 1_000.0)
    held = known._replace(profiles={key: replace(item, battery=lasting) for key, item in known.profiles.items()})
    exact = hours_on_a_charge(next(iter(held.profiles.values())))
    capacity = 1_500.0 * 1.5 / exact
    held = known._replace(
        profiles={
            key: replace(item, battery=replace(lasting, capacity_mah=capacity)) for key, item in known.profiles.items()
        }
    )
    assert by_title(ten_minutes(index, held, replace(net, minutes=minutes), NOW))["Battery"].state == state
