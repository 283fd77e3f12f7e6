"""Many evenings: the same seed the same figures, shares that add up, and changes that are tried."""

from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.core.simulation.conftest import HOME, TRAVEL
from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.simulation.evenings import Cancelled, Tally, in_reach, many_evenings, one_evening, share, sum_up
from umbra_awl.core.simulation.helps import EveningGround, what_helps
from umbra_awl.core.simulation.parameters import (
    SHIPPED,
    assume,
    figures,
    hour_factors,
    pattern_of,
    set_traffic,
    shipped_world,
)
from umbra_awl.core.simulation.setting import ListeningChoice, NoSetting, make_setting

AWAY = ListeningChoice("tarn", TRAVEL[:2], sat_down=True)


def test_the_same_seed_gives_the_same_figures_and_another_seed_others(index, fits):
    def run(seed):
        return many_evenings(make_setting(index, fits, AWAY), AWAY.routes, 8, seed)[2:]

    assert run(3) == run(3)
    assert run(3) != run(4)


def test_every_call_is_heard_or_missed_for_a_reason(index, fits):
    setting = make_setting(index, fits, ListeningChoice("tarn", HOME, "scan", sat_down=True))
    found = many_evenings(setting, HOME, 30)
    assert sum(share.value for _why, share in found.reasons) == pytest.approx(found.missed.value)
    assert all(why for why, _share in found.reasons)
    assert found.round_s == pytest.approx(3 * 0.35)
    assert found.deaf.value == 0  # it is a duplex hotspot


def test_a_single_evening_counts_what_it_says(index, fits):
    tally = one_evening(make_setting(index, fits, AWAY), AWAY.routes, 5, {})
    assert tally.calls >= sum(tally.missed.values())
    assert all(wait.seconds >= 0 for wait in tally.waits)
    assert all(not wait.gave_up or wait.blocked for wait in tally.waits)


def test_stopping_stops_at_once(index, fits):
    done = []
    with pytest.raises(Cancelled):
        many_evenings(make_setting(index, fits, AWAY), AWAY.routes, 50, 1, lambda at, _all: done.append(at) or at < 2)
    assert done == [0, 1, 2]


def test_what_helps_is_computed_by_trying_it(index, fits, profiles):
    found = what_helps(EveningGround(index, fits, profiles["tarn16"]), AWAY, 40)
    by_words = {item.change.words: item for item in found}
    assert found == tuple(sorted(found, key=lambda item: -item.gain))
    duplex = by_words["A duplex board at Travel spot"]
    assert duplex.after.deaf.value == 0 < duplex.before.deaf.value
    assert duplex.after.blocked.value < duplex.before.blocked.value
    lists = by_words["Receive group lists at Travel spot take all of the slot"]
    assert lists.sure
    assert "group list" not in dict(lists.after.reasons)
    assert lists.change.edit is not None
    assert "missed" in lists.line()


def test_a_scan_lists_own_changes_are_tried(plan, profiles):
    routes = ("calling-fm>local@0", "blackfell-fm>local@0")
    by_hand = tuple(replace(item, by="hand", members=routes) for item in plan.scans)
    index = PlanIndex(replace(plan, scans=by_hand), TODAY)
    fits = {"tarn": fit(index, index.radios["tarn"], profiles["tarn16"])}
    found = what_helps(
        EveningGround(index, fits, profiles["tarn16"]), ListeningChoice("tarn", routes, "scan", "fm-watch"), 3
    )
    words = [item.change.words for item in found]
    assert any(text.startswith("Priority to") for text in words)
    assert any(text.endswith("out of the scan list") for text in words)


def test_for_two_channels_other_pairs_are_tried(index, fits, profiles):
    choice = ListeningChoice("tarn", HOME, "watch", sat_down=True)
    words = [item.change.words for item in what_helps(EveningGround(index, fits, profiles["tarn16"]), choice, 3)]
    assert "Watch Q4WRN slot 1 to Isles-wide as the second" in words
    assert "Scan them all" in words


def test_reach_is_a_share_and_ones_own_hotspot_is_always_there(made):
    reach = in_reach(made("moor", ("blackfell-dmr>isles-wide@2", "home-dmr>isles-wide@1")))
    assert "home-dmr" not in reach
    assert all(0 <= share <= 1 for share in reach.values())


@given(st.lists(st.tuples(st.integers(0, 9), st.integers(0, 9)).map(sorted), max_size=40))
def test_a_share_lies_between_nothing_and_all_and_its_spread_is_no_less_than_nothing(pairs):
    found = share([low for low, _high in pairs], [high for _low, high in pairs])
    assert 0 <= found.value <= 1
    assert found.off >= 0
    assert found.words()


def test_the_interval_of_a_share_holds_the_truth_as_often_as_it_says():
    from random import Random

    chance = Random(1)
    inside = 0
    for _run in range(300):
        wholes = [chance.randrange(5, 15) for _ in range(40)]
        parts = [sum(chance.random() < 0.3 for _ in range(whole)) for whole in wholes]
        found = share(parts, wholes)
        inside += abs(found.value - 0.3) <= found.off
    assert 0.90 <= inside / 300 <= 0.99


def test_no_evening_at_all_is_told_as_nothing(made):
    found = sum_up(made("tarn", TRAVEL), 1, [Tally(0, Counter(), ())])
    assert found.missed.words() == "–"
    assert found.half_s == 0


def test_a_radio_without_the_routes_is_refused_in_a_sentence(index, fits):
    with pytest.raises(NoSetting, match="None of these routes"):
        make_setting(index, fits, ListeningChoice("crag", TRAVEL))


def test_figures_are_the_plans_own_within_their_limits(plan):
    assert figures(plan.evening)["latency_s"] == 0.4
    changed = assume("latency_s", 1.5).apply(plan)
    assert figures(changed.evening)["latency_s"] == 1.5
    assert assume("latency_s", None).apply(changed).evening == plan.evening
    with pytest.raises(EditRefused, match="outside"):
        assume("latency_s", 99.0).apply(plan)
    assert all(item.source and item.low <= item.usual <= item.high for item in shipped_world().figure)
    assert len(hour_factors()) == 24


def test_every_figure_is_used_somewhere():
    sources = "".join(path.read_text("utf-8") for path in SHIPPED.parent.glob("*.py"))
    pieces = {"hang_repeater_s", "hang_hotspot_s"}
    assert [
        item.name for item in shipped_world().figure if f'"{item.name}"' not in sources and item.name not in pieces
    ] == []


def test_traffic_is_the_kinds_usual_or_what_is_known_better(plan, index):
    worldwide = index.destinations["worldwide"]
    assert pattern_of(plan, worldwide).kind == "wide"
    assert pattern_of(plan, index.destinations["slow-speech"]).kind == "quiet"
    changed = set_traffic(worldwide, conversations_per_h=2.0, source="own log").apply(plan)
    known = pattern_of(changed, worldwide)
    assert (known.conversations_per_h, known.source) == (2.0, "own log")
    assert known.busy < pattern_of(plan, worldwide).busy
    with pytest.raises(EditRefused):
        set_traffic(worldwide, over_s=9_999.0).apply(plan)
