"""Access points, what is carried where, and a listening radio, rule by rule."""

import math

import pytest

from tests.core.simulation.conftest import FOUR, call
from umbra_awl.core.simulation.network import Carried
from umbra_awl.core.simulation.posts import HotspotPost, Post, PostFacts, TalkGroupPost, post_facts

USUAL = PostFacts("p", "a", "Post", "dmr", "repeater", False, (1, 2), 5.0, 10.0, 180.0, 10.0, 0.8)


def over(number=1, group="g", origin="net"):
    return TalkGroupPost(number, f"Q{number}", group, 0.0, 10.0, origin)


def post(**facts):
    return Post(USUAL._replace(**facts), HotspotPost())


def test_a_slot_is_held_for_its_group_and_free_for_others_after_the_hang_time():
    made = post()
    first = over(1, "one")
    made.take(first, 1, up=False)
    assert made.refuses_down(over(2, "one"), 1, 3.0).cause == "slot"
    assert made.refuses_down(over(2, "one"), 2, 3.0) is None
    assert made.give_back(first, 1, 10.0)
    assert not made.give_back(first, 1, 10.0)
    assert made.refuses_down(over(2, "two"), 1, 14.9).cause == "held"
    assert made.refuses_down(over(2, "one"), 1, 14.9) is None
    assert made.refuses_down(over(2, "two"), 1, 15.0) is None
    assert made.refuses_up(1, 12.0) is None  # a key-up takes a slot over that is only held


def test_who_keys_is_refused_by_whoever_is_there():
    made = post()
    made.take(over(1), 1, up=False)
    assert made.refuses_up(1, 1.0).cause == "slot"
    assert made.refuses_up(2, 1.0) is None
    near = over(2, origin="here")
    made.take(near, 2, up=True)
    assert made.refuses_up(2, 1.0).cause == "doubling"
    assert "Q2" in made.refuses_up(2, 1.0).words
    assert made.busy(2)
    assert made.talk_on(2) is near


def test_one_frequency_is_deaf_while_it_sends_and_sends_nothing_while_it_listens():
    made = post(kind="hotspot", half=True)
    sent = over(1)
    made.take(sent, 2, up=False)
    assert made.going_out()
    assert made.refuses_up(1, 1.0).cause == "deaf"
    assert made.refuses_down(over(2), 1, 1.0).cause == "slot"
    made.give_back(sent, 2, 2.0)
    assert not made.going_out()
    made.take(over(3, origin="you"), 1, up=True)
    assert not made.going_out()
    assert made.refuses_down(over(4), 2, 3.0).cause == "own"
    wide = post(kind="hotspot", half=False)
    wide.take(over(1), 1, up=False)
    assert wide.refuses_up(1, 1.0) is None
    assert not wide.going_out()


def test_a_board_serves_one_mode_and_the_other_after_a_while():
    board = HotspotPost()
    dmr, dstar = (
        Post(USUAL._replace(kind="hotspot"), board),
        Post(USUAL._replace(kind="hotspot", mode="dstar", slots=(0,)), board),
    )
    talk = over(1)
    assert dstar.refuses_down(over(2), 0, 0.0) is None
    dmr.take(talk, 1, up=False)
    assert dstar.refuses_down(over(2), 0, 1.0).cause == "mode"
    assert dstar.refuses_up(0, 1.0).cause == "mode"
    dmr.give_back(talk, 1, 5.0)
    assert dstar.refuses_down(over(2), 0, 14.9).cause == "mode"
    assert dstar.refuses_down(over(2), 0, 15.0) is None
    assert dmr.refuses_down(over(3, "g"), 1, 6.0) is None


def test_a_time_out_shuts_the_slot_for_its_penalty():
    made, talk = post(), over(1, origin="you")
    made.take(talk, 1, up=True)
    made.give_back(talk, 1, 100.0, timed_out=True)
    assert made.refuses_up(1, 109.9).cause == "penalty"
    assert made.refuses_up(1, 110.0) is None
    calm = post()
    calm.take(talk, 1, up=True)
    calm.give_back(talk, 1, 100.0)
    assert calm.refuses_up(1, 100.0) is None


def test_the_facts_of_a_post_are_those_of_its_kind(index, made):
    figures = made("tarn", ("calling-fm>local@0",)).figures
    facts = {
        key: post_facts(index, *index.services[key], figures)
        for key in ("blackfell-dmr", "travel-dmr", "home-dmr", "calling-fm", "signal-b", "weather-fm")
    }
    assert (facts["blackfell-dmr"].hang_s, facts["travel-dmr"].hang_s) == (5.0, 2.0)
    assert facts["signal-b"].hang_s == 0.0
    assert [facts[key].half for key in ("blackfell-dmr", "travel-dmr", "home-dmr", "calling-fm")] == [
        False,
        True,
        False,
        False,
    ]
    assert facts["calling-fm"].time_out_s == facts["weather-fm"].time_out_s == math.inf
    assert facts["travel-dmr"].time_out_s == facts["blackfell-dmr"].time_out_s == 180.0
    assert (facts["calling-fm"].wake_s, facts["home-dmr"].wake_s) == (0.0, 0.8)
    assert (facts["home-dmr"].slots, facts["signal-b"].slots) == ((1, 2), (0,))


def test_what_is_carried_joined_linked_and_dropped():
    carried = Carried()
    carried.always("one", ("a", 1))
    assert carried.join("two", ("a", 1), 10.0)
    assert not carried.join("two", ("a", 1), 20.0)
    assert not carried.join("one", ("a", 1), 5.0)
    assert carried.places("two", 19.9) == [("a", 1)]
    assert carried.places("two", 20.0) == []
    assert carried.carries("two", ("a", 1), 19.9)
    assert not carried.carries("two", ("a", 1), 20.0)
    assert not carried.expire("two", ("a", 1), 19.9)
    assert carried.expire("two", ("a", 1), 20.0)
    assert not carried.expire("two", ("a", 1), 99.0) or carried.places("two", 0.0) == []
    assert carried.drop(("a", 1)) == ()
    assert carried.places("one", 1e9) == [("a", 1)]
    carried.link("s", 0, "three")
    carried.link("t", 0, "three")
    carried.link("s", 0, "four")
    assert carried.linked == {"s": "four", "t": "three"}
    assert carried.places("three", 0.0) == [("t", 0)]
    assert carried.unlink("s") == "four"
    assert carried.unlink("s") == ""
    assert carried.places("four", 0.0) == []


def test_a_scan_takes_nothing_that_it_does_not_scan(listener):
    radio, clock = listener("scan", FOUR[:2])
    other = call(1, FOUR[2])
    radio.begins(*other, clock.now)
    clock.run(20)
    assert radio.talk is None
    assert clock.due == []


def test_monitor_opens_a_channel_for_whatever_is_on_its_slot(listener):
    radio, clock = listener("channel", FOUR[:1])
    other = call(1, FOUR[2])
    radio.begins(*other, clock.now)
    assert radio.talk is None
    radio.open_all = True
    radio.stand(radio.stance, clock.now)
    assert radio.talk is other[0]
    radio.ends(other[0], 4.0)
    assert radio.last == (other[1], 4.0)


def test_a_call_to_me_that_is_not_taken_says_why_and_others_do_not(listener):
    radio, clock = listener("channel", FOUR[:1])
    mine, theirs = call(1, FOUR[1]), call(2, FOUR[1])
    mine[0].to_me = True
    radio.begins(*mine, clock.now)
    radio.begins(*theirs, clock.now)
    assert (mine[0].why, theirs[0].why) == ("other slot", "")
    heard = call(3, FOUR[0])
    heard[0].to_me = True
    radio.begins(*heard, clock.now)
    assert heard[0].why == ""


@pytest.mark.parametrize("moment", [0.2, 1.0, 3.5])
def test_the_priority_channel_is_found_within_its_interval_and_not_taken_twice(listener, moment):
    radio, clock = listener("scan", priority=FOUR[1])
    first, urgent = call(1, FOUR[0]), call(2, FOUR[1])
    radio.begins(*first, clock.now)
    clock.run(2.0)
    assert radio.talk is first[0]
    clock.run(2.0 + moment)
    radio.begins(*urgent, clock.now)
    clock.run(clock.now + 2.001)
    assert radio.talk is urgent[0]
    heard = first[0].heard_s
    radio.ends(first[0], clock.now)
    assert first[0].heard_s == heard
    radio.ends(urgent[0], clock.now)
    assert radio.talk is None
