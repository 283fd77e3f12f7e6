"""A radio that listens: late entry, one decoder, what a scan finds and when."""

import pytest

from tests.core.simulation.conftest import FOUR, call
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.receiver import was_heard


def test_dual_watch_decodes_one_call_and_takes_the_other_when_it_is_over(listener):
    radio, clock = listener("watch", FOUR[:2])
    first, second = call(1, FOUR[0]), call(2, FOUR[1])
    radio.begins(*first, clock.now)
    clock.run(4)
    radio.begins(*second, clock.now)
    assert radio.talk is first[0]
    assert radio.unheard.why_not(second[1]) == "decoder taken"
    clock.run(10)
    radio.ends(first[0], clock.now)
    assert radio.talk is second[0]  # late entry
    clock.run(15)
    radio.ends(second[0], clock.now)
    assert (first[0].heard_s, second[0].heard_s) == (10, 5)


@pytest.mark.parametrize("moment", [0.0, 0.1, 0.5, 0.9, 1.3])
def test_a_scan_finds_a_call_within_a_round_and_a_dwell(listener, moment):
    radio, clock = listener("scan")
    assert radio.round_s == pytest.approx(4 * 0.35)
    clock.run(moment)
    wanted = call(1, FOUR[2])
    radio.begins(*wanted, clock.now)
    assert radio.talk is None
    clock.run(moment + radio.round_s + 0.35)
    assert radio.talk is wanted[0]


def test_a_scan_that_stands_misses_what_comes_elsewhere_and_goes_on_after_its_hang_time(listener):
    radio, clock = listener("scan", hang_s=3.0)
    first, other = call(1, FOUR[0]), call(2, FOUR[1], 4.0)
    radio.begins(*first, clock.now)
    clock.run(3)
    other[0].to_me = True
    radio.begins(*other, clock.now)
    assert other[0].why == "scan elsewhere"
    clock.run(7)
    radio.ends(other[0], clock.now)
    assert not was_heard(other[0])
    radio.ends(first[0], clock.now)
    again = call(3, FOUR[1])
    clock.run(8)
    radio.begins(*again, clock.now)
    clock.run(9.9)
    assert radio.talk is None  # still waiting on the first channel
    clock.run(12)
    assert radio.talk is again[0]


def test_the_priority_channel_is_looked_at_between(listener):
    radio, clock = listener("scan", priority=FOUR[1])
    first, urgent = call(1, FOUR[0]), call(2, FOUR[1])
    radio.begins(*first, clock.now)
    clock.run(5)
    radio.begins(*urgent, clock.now)
    assert radio.talk is first[0]
    clock.run(7.1)
    assert radio.talk is urgent[0]


def test_a_radio_that_sends_hears_nothing_and_takes_up_what_is_there_after(listener):
    radio, clock = listener("channel", FOUR[:1])
    radio.send(clock.now)
    heard = call(1, FOUR[0])
    radio.begins(*heard, clock.now)
    clock.run(5)
    assert radio.talk is None
    assert radio.unheard.why_not(heard[1]) == "sending"
    radio.sent(clock.now)
    assert radio.talk is heard[0]


def test_why_a_call_is_not_heard_is_told_by_its_kind(listener):
    radio, _clock = listener("channel", FOUR[:1])
    assert radio.unheard.why_not(("blackfell-dmr", 1, "great-velmar")) == "other slot"
    assert radio.unheard.why_not(("blackfell-dmr", 2, "nessa-torrick")) == "group list"
    assert radio.unheard.why_not(("cairnlow-dmr", 2, "isles-wide")) == "elsewhere"
    radio.open_all = True
    assert radio.unheard.why_not(("blackfell-dmr", 2, "nessa-torrick")) == "another call"


@pytest.mark.parametrize(
    ("heard", "whole", "enough"), [(2.0, 8.0, True), (1.9, 8.0, False), (1.3, 3.0, True), (1.1, 3.0, False)]
)
def test_enough_of_a_call_has_to_be_heard(heard, whole, enough):
    talk = TalkGroupPost(1, "Q1", "g", 0.0, whole)
    talk.heard_s = heard
    assert was_heard(talk) is enough
