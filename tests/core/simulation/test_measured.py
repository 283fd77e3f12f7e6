"""Traffic measured from a hotspot's log: what was simulated is found again; what tells nothing is left."""

from datetime import datetime, timedelta

import pytest

from umbra_awl.core.hotspot.logs.reading import HeardCall
from umbra_awl.core.simulation.measured import LEAST_OVERS, PAUSE_S, measure, take_measured
from umbra_awl.core.simulation.parameters import pattern_of

BEGUN = datetime(2026, 11, 27, 19, 0)


def heard(ends_s, seconds, to="99900", way="call-network"):
    return HeardCall(1, str(BEGUN + timedelta(seconds=ends_s)), "dmr", "Q7QBY", to, seconds, way)


def conversation(start_s, count, seconds=10.0, gap=2.0, **more):
    return [heard(start_s + (at + 1) * seconds + at * gap, seconds, **more) for at in range(count)]


def test_overs_gaps_and_conversations_are_found_again(plan):
    calls = [*conversation(0, 6), *conversation(1800, 6), heard(3600, 5.0, to="4299")]
    (found,) = measure(plan, calls)
    assert found.destination.key == "isles-wide"
    assert (found.over_s, found.gap_s, found.overs, found.number) == (10.0, 2.0, 6.0, 12)
    assert found.conversations_per_h == pytest.approx(2.0, abs=0.02)
    changed = take_measured([found]).apply(plan)
    pattern = pattern_of(changed, found.destination)
    assert pattern.over_s == 10.0
    assert pattern.source.startswith("Measured: 12 overs")


def test_ones_own_overs_few_overs_and_strange_lines_tell_nothing(plan):
    own = conversation(0, 20, way="call-heard")
    few = conversation(0, LEAST_OVERS - 1)
    strange = [*conversation(0, 20, to="77777"), HeardCall(1, "no time", "dmr", "Q", "99900", 5.0, "call-network")]
    assert measure(plan, own) == measure(plan, few) == measure(plan, strange) == measure(plan, []) == ()


def test_a_destination_is_found_by_number_name_or_text(plan):
    for to, key in (("TG 4299", "worldwide"), ("VLR001 C", "vlr001-c"), ("velmar commons", "velmar-commons")):
        (found,) = measure(plan, conversation(0, 10, to=to))
        assert found.destination.key == key


def test_a_pause_longer_than_a_minute_begins_another_conversation_and_a_gap_is_what_lies_between(plan):
    for gap, count in ((PAUSE_S, 1), (PAUSE_S + 1, 12)):
        (found,) = measure(plan, conversation(0, 12, gap=gap))
        assert found.overs == pytest.approx(12 / count)
        assert found.gap_s == (gap if count == 1 else 3.0)


def test_a_call_without_a_length_is_no_over(plan):
    calls = [*conversation(0, LEAST_OVERS - 1), heard(900, 0.0)]
    assert measure(plan, calls) == ()
    assert len(measure(plan, [*conversation(0, LEAST_OVERS - 1), heard(900, 1.0)])) == 1
