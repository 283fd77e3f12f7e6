"""Which single changes are tried for a choice, and what each of them is."""

import pytest
from msgspec.structs import replace

from tests.core.simulation.conftest import FOUR, HOME, TRAVEL
from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.simulation.evenings import COMMANDS, Evenings, Share
from umbra_awl.core.simulation.helps import MOST_TRIED, EveningGround, Helped, TriedChange, changes, what_helps
from umbra_awl.core.simulation.setting import ListeningChoice, make_setting


def talks(index, key):
    return index.parts(index.routes[key])[2].kind not in COMMANDS


@pytest.fixture
def tried(index, fits):
    def make(choice, plan_index=index, plan_fits=fits):
        return {item.words: item for item in changes(plan_index, make_setting(plan_index, plan_fits, choice), choice)}

    return make


def test_on_one_channel_each_other_that_talks_is_stayed_on_and_all_are_scanned(tried, index):
    choice = ListeningChoice("tarn", TRAVEL)
    found = tried(choice)
    assert found["Scan them all"].choice == choice._replace(stance="scan", scan="")
    stays = {words: item for words, item in found.items() if words.startswith("Stay on ")}
    talked = [key for key in TRAVEL[1:] if index.parts(index.routes[key])[2].kind not in COMMANDS]
    assert list(stays) == [f"Stay on {index.labels.of(index.routes[key])}" for key in talked]
    for key, item in zip(talked, stays.values(), strict=True):
        assert item.choice.routes == (key, *(other for other in TRAVEL if other != key))
    assert "Scan them all" not in tried(ListeningChoice("tarn", TRAVEL[:1]))
    assert not any(words.startswith(("Watch", "Without")) for words in found)


def test_at_most_four_others_are_tried_to_stay_on(tried, index):
    on = [key for key in index.routes if key.startswith(("blackfell-", "home-dmr")) and talks(index, key)]
    found = tried(ListeningChoice("moor", tuple(on)))
    assert sum(words.startswith("Stay on ") for words in found) == 4
    watched = tried(ListeningChoice("moor", tuple(on), "watch"))
    assert sum(words.startswith("Watch ") for words in watched) == 4


def test_of_two_channels_the_second_is_exchanged_and_the_first_stays(tried, index):
    found = {words: item for words, item in tried(ListeningChoice("tarn", HOME, "watch")).items() if "Watch" in words}
    (item,) = found.values()
    assert item.choice.routes == (HOME[0], HOME[2], HOME[1])
    assert "Scan them all" in tried(ListeningChoice("tarn", HOME, "watch"))


def test_a_zone_that_is_scanned_is_tried_without_each_of_its_channels(tried):
    found = tried(ListeningChoice("moor", FOUR, "scan"))
    without = [item for words, item in found.items() if words.startswith("Without ")]
    assert {item.choice.routes for item in without} == {tuple(key for key in FOUR if key != out) for out in FOUR}
    assert "Scan them all" not in found
    assert not any("Without" in words for words in tried(ListeningChoice("moor", FOUR[:2], "scan")))


def test_a_scan_list_is_tried_with_other_priorities_members_and_times(plan, profiles, tried):
    routes = ("calling-fm>local@0", "blackfell-fm>local@0")

    def found(**fields):
        scans = tuple(replace(item, by="hand", members=routes, **fields) for item in plan.scans)
        index = PlanIndex(replace(plan, scans=scans), TODAY)
        fits = {"tarn": fit(index, index.radios["tarn"], profiles["tarn16"])}
        return tried(ListeningChoice("tarn", routes, "scan", "fm-watch"), index, fits), index

    words, index = found(priority=routes[0], hang_s=3.0)
    labels = [index.labels.of(index.routes[key]) for key in routes]
    assert [item for item in words if item.startswith("Priority")] == [f"Priority to {labels[1]}"]
    assert {f"{label} out of the scan list" for label in labels} <= set(words)
    assert {"The scan stays 1 s after a call", "The scan stays 10 s after a call"} <= set(words)
    assert not any("Without" in item for item in words)
    one = words["The scan stays 10 s after a call"].edit.apply(index.plan)
    assert next(item for item in one.scans if item.key == "fm-watch").hang_s == 10.0
    near, _index = found(priority=routes[0], hang_s=2.0)
    assert "The scan stays 1 s after a call" not in near
    assert "The scan stays 10 s after a call" in near
    assert not any(item.startswith("The scan stays") for item in tried(ListeningChoice("tarn", routes)))


def test_a_rule_s_scan_list_loses_no_member_by_hand(plan, profiles, tried):
    rule = next(item for item in plan.scans if item.by != "hand")
    index = PlanIndex(plan, TODAY)
    held = fit(index, index.radios["moor"], profiles[index.radios["moor"].profile])
    names = [item.name for item in held.memory.scans]
    assert any(rule.name.startswith(name) for name in names)
    routes = [channel.route for channel in held.memory.channels][:3]
    found = tried(ListeningChoice("moor", tuple(routes), "scan", rule.key), index, {"moor": held})
    assert not any(words.endswith("out of the scan list") for words in found)


def test_a_duplex_board_and_lists_that_take_all_are_tried_where_the_hotspot_has_neither(tried, index):
    found = tried(ListeningChoice("tarn", TRAVEL[:2]))
    assert found["A duplex board at Travel spot"].bought
    assert "Receive group lists at Travel spot take all of the slot" in found
    home = tried(ListeningChoice("tarn", HOME[:2]))
    assert not any(words.startswith("A duplex board") for words in home)


def test_a_group_on_demand_is_carried_always_by_whoever_keeps_the_place(tried, index, fits):
    found = tried(ListeningChoice("tarn", TRAVEL))
    carried = {words: item for words, item in found.items() if words.endswith("always carried at Travel spot")}
    assert carried
    for words, item in carried.items():
        assert item.bought == "Set it on the hotspot's page."
        name = words.removesuffix(" always carried at Travel spot")
        assert next(one for one in index.plan.destinations if one.name == name).kind == "group"
        setting = make_setting(index, fits, ListeningChoice("tarn", TRAVEL))
        more = set(item.world(setting).carried) - set(setting.carried)
        assert [how for _group, _place, how in more] == ["always"]
    repeater = tried(ListeningChoice("moor", FOUR))
    asked = [item for words, item in repeater.items() if "always carried" in words]
    assert all(item.bought == "Ask whoever keeps the repeater." for item in asked)
    held = {
        (item.destination, item.slot)
        for item in index.services["blackfell-dmr"][1].air.static
    }  # fmt: skip
    wanted = [index.routes[key] for key in FOUR]
    assert len(asked) == sum(
        (row.destination, row.slot) not in held and index.parts(row)[2].kind == "group" for row in wanted
    )


def evenings(missed, blocked, off):
    made = {name: Share(0.0, 0.0, 9) if name in {"missed", "blocked", "deaf"} else None for name in Evenings._fields}
    return Evenings(**{**made, "missed": Share(missed, off, 9), "blocked": Share(blocked, off, 9)})


def test_what_it_takes_off_is_sure_when_it_is_more_than_chance():
    helped = Helped(TriedChange("x"), evenings(0.5, 0.3, 0.05), evenings(0.2, 0.25, 0.05))
    assert helped.gain == pytest.approx(0.35)
    assert helped.off == pytest.approx(0.1)
    assert helped.sure
    assert helped.line() == "missed 50 → 20 %, somebody in the way 30 → 25 %"
    same = Helped(TriedChange("x"), evenings(0.5, 0.3, 0.0), evenings(0.5, 0.3, 0.0))
    assert same.gain == same.off == 0
    assert not same.sure


def test_progress_runs_up_to_all_that_is_tried(index, fits, profiles):
    told = []
    choice = ListeningChoice("tarn", TRAVEL[:2])
    ground = EveningGround(index, fits, profiles["tarn16"])
    found = what_helps(ground, choice, 3, progress=lambda at, whole: told.append((at, whole)) or True)
    count = len(list(changes(index, make_setting(index, fits, choice), choice)))
    assert len(found) == count <= MOST_TRIED == 16
    assert {whole for _at, whole in told} == {3, 3 * (count + 1)}
    after = [at for at, whole in told if whole != 3]
    assert after == sorted(after)
    assert min(after) == 3
    assert max(after) < 3 * (count + 1)
