"""Other people at their edges: when nobody talks, where a local group is heard, what becomes of an over on a taken channel."""

from itertools import pairwise
from types import SimpleNamespace

import pytest

from tests.core.simulation.conftest import FOUR, TRAVEL
from umbra_awl.core.simulation.others import conversations, here, over
from umbra_awl.core.simulation.parameters import Pattern
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.told import Book
from umbra_awl.core.simulation.world import World

ALL_DAY = (1.0,) * 24


def overs_of(setting, group, pattern, seconds, factors=ALL_DAY, seed=1):
    """The overs of others on a group, with their beginnings and lengths."""
    world = World(setting, seed, Book())
    begun, begin = [], world.begin

    def watched(talk):
        begun.append((talk.group, world.now, talk.seconds))
        begin(talk)

    world.begin = watched
    world.env.process(conversations(world, group, pattern, factors))
    world.run(seconds)
    return begun


def test_a_group_without_conversations_is_silent_for_ever(made):
    setting = made("tarn", TRAVEL)
    assert overs_of(setting, "worldwide", Pattern(0.0, 4.0, 10.0, 2.0), 36_000) == []
    assert overs_of(setting, "worldwide", Pattern(0.5, 4.0, 10.0, 2.0), 360_000)


def test_as_many_conversations_an_hour_come_as_the_pattern_says(made):
    setting, pattern = made("tarn", TRAVEL), Pattern(6.0, 5.0, 8.0, 2.0)
    hours = 60
    counts = []
    for seed in range(3):
        begun = overs_of(setting, "worldwide", pattern, hours * 3600, seed=seed)
        pauses = [later[1] - earlier[1] - earlier[2] for earlier, later in pairwise(begun)]
        counts.append((1 + sum(gap > 30 for gap in pauses)) / hours)
        lengths = [item[2] for item in begun]
        assert sum(lengths) / len(lengths) == pytest.approx(8.0, rel=0.1)
        assert len(begun) / hours == pytest.approx(30, rel=0.25)
    assert sum(counts) / 3 == pytest.approx(6.0, rel=0.25)


def test_at_night_there_is_less_and_never_nothing_at_all(made):
    setting, pattern = made("tarn", TRAVEL), Pattern(6.0, 5.0, 8.0, 2.0)
    day = len(overs_of(setting, "worldwide", pattern, 100_000))
    night = len(overs_of(setting, "worldwide", pattern, 100_000, (0.1,) * 24))
    none = overs_of(setting, "worldwide", pattern, 1_000_000, (0.0,) * 24)
    assert 0 < night < day / 2
    assert len(none) < day


def test_the_hour_decides_which_share_of_the_day_holds(made):
    setting = made("tarn", TRAVEL)
    pattern = Pattern(20.0, 3.0, 4.0, 1.0)

    def in_an_hour(hour):
        factors = [0.01] * 24
        factors[hour % 24] = 1.0
        return sum(len(overs_of(setting, "worldwide", pattern, 3600, tuple(factors), seed=seed)) for seed in range(6))

    first = int(setting.hour)
    assert in_an_hour(first) > 5 * max(in_an_hour(first + 1), in_an_hour(first - 1), 1)


def test_a_group_that_is_always_busy_still_pauses(made):
    begun = overs_of(made("tarn", TRAVEL), "worldwide", Pattern(120.0, 20.0, 30.0, 2.0), 20_000)
    pauses = [later[1] - earlier[1] - earlier[2] for earlier, later in pairwise(begun)]
    assert min(pauses) > 0
    assert max(pauses) > 2.8


def test_doubling_is_told_as_often_as_it_is_assumed(made):
    from dataclasses import replace

    setting = made("tarn", TRAVEL)
    for share, some in ((1.0, True), (0.0, False)):
        held = replace(setting, figures={**setting.figures, "doubling_share": share})
        world = World(held, 1, Book())
        world.env.process(conversations(world, "worldwide", Pattern(20.0, 4.0, 8.0, 2.0), ALL_DAY))
        world.run(3600)
        assert any("doubling" in cut.reason for cut in world.book.cuts) is some
    unseen = World(replace(setting, figures={**setting.figures, "doubling_share": 1.0}), 1)
    unseen.env.process(conversations(unseen, "worldwide", Pattern(20.0, 4.0, 8.0, 2.0), ALL_DAY))
    unseen.run(600)
    assert unseen.book is None


def ear(service, group, slot):
    return SimpleNamespace(service=service, group=group, slot=slot)


def test_a_local_group_is_heard_on_the_slot_of_its_own_channel_and_service():
    posts = {"a": SimpleNamespace(slots=(1, 2))}
    ears = (ear("b", "local a", 1), ear("a", "other", 1), ear("a", "local a", 2))
    world = SimpleNamespace(setting=SimpleNamespace(ears=ears), posts=posts)
    assert here(world, "a", "local a") == ("a", 2)
    world.setting.ears = ears[:2]
    assert here(world, "a", "local a") == ("a", 1)
    assert here(world, "nowhere", "local a") == ("nowhere", 0)


def test_somebody_nearby_is_not_heard_where_the_channel_is_taken(made):
    setting = made("moor", FOUR)
    service = "blackfell-dmr"
    group = next((item.group for item in setting.ears if item.group.partition(" ")[2] == service), f"local {service}")
    world = World(setting, 1, Book())
    slot = here(world, service, group)[1]
    first = TalkGroupPost(world.number(), "Q7QBY", group, 0.0, 10.0)
    world.env.process(over(world, first))
    world.run(2.0)
    assert world.posts[service].refuses_up(slot, world.now) is not None
    second = TalkGroupPost(world.number(), "Q3AMB", group, 2.0, 3.0)
    world.env.process(over(world, second))
    world.run(4.0)
    assert first.origin == "here"
    assert second.origin != "here"
    assert {item.over for item in world.book.bars if "nearby" in item.text} == {first.number}
    world.run(30.0)
    third = TalkGroupPost(world.number(), "Q3AMB", group, 30.0, 3.0)
    world.env.process(over(world, third))
    world.run(31.0)
    assert third.origin == "here"
