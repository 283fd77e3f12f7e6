"""Advice at its edges: what is said of a key-up, and what is not said because it was done rightly."""

from types import SimpleNamespace

import pytest

from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.simulation.advice import advice_now
from umbra_awl.core.simulation.after import AfterTarget
from umbra_awl.core.simulation.keyed import Keyed
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.told import Cut

SHIPPED = shipped_profiles()
WIDE, ECHO, LOCAL = "travel-dmr>worldwide@2", "travel-dmr>echo@2", "blackfell-fm>local@0"


@pytest.fixture
def said(index, profiles):
    """Makes what is said of overs, the last of which is looked at: `said(over(…), over(…))`."""

    def make(*overs, profile="tarn16", now=60.0, known=frozenset()):
        done = []
        for route, starts, seconds, more in overs:
            one = Keyed(target(index, route), TalkGroupPost(len(done), "Q4WRN", "g", starts, seconds), None)
            one.talk.why = more.get("why", "")
            one.released = more.get("released", True)
            one.stopped = more.get("stopped")
            done.append(one)
        setting = SimpleNamespace(index=index, profile=profiles[profile] if profile else None)
        play = SimpleNamespace(setting=setting, keyer=SimpleNamespace(done=done), now=now)
        return [item.key for item in advice_now(play, known)]

    return make


def target(index, route):
    row = index.routes[route]
    return AfterTarget(row, index.parts(row)[2], (row.service, row.slot), "g")


def over(route=WIDE, starts=10.0, seconds=8.0, **more):
    return route, starts, seconds, more


def test_nothing_is_said_before_anybody_keyed(said):
    assert said() == []


def test_three_seconds_of_listening_are_enough(said):
    assert "listen" in said(over(starts=2.99))
    assert "listen" not in said(over(starts=3.0))


def test_a_gap_of_a_second_and_a_half_lets_others_in(said):
    assert "gap" in said(over(starts=10.0, seconds=5.0), over(starts=16.4))
    assert "gap" not in said(over(starts=10.0, seconds=5.0), over(starts=16.5))
    assert "gap" not in said(over(starts=10.0, seconds=5.0, released=False), over(starts=15.1))
    assert "gap" not in said(over(starts=15.1))


def test_a_short_over_is_told_to_wait_unless_something_stopped_it(said):
    assert "wait" in said(over(seconds=1.99))
    assert "wait" not in said(over(seconds=2.0))
    assert "wait" not in said(over(seconds=1.0, released=False))
    stopped = Cut(0, 10.0, "radio", "denied")
    assert "wait" not in said(over(seconds=1.0, stopped=stopped))
    assert "denied" in said(over(seconds=1.0, stopped=stopped))
    assert "denied" not in said(over(seconds=1.0))
    assert "wait" in said(over(seconds=9.0, stopped=Cut(0, 10.0, "radio", "too short for the path")))


def test_the_call_sign_is_asked_for_at_the_first_over_within_ten_minutes(said):
    assert "identify" in said(over(starts=10.0), now=609.9)
    assert "identify" not in said(over(starts=10.0), now=610.0)
    assert "identify" not in said(over(starts=10.0), over(starts=40.0))
    assert "identify" not in said(over(released=False))


def test_an_echo_first_where_nothing_was_proven(said):
    assert "echo" in said(over(WIDE))
    assert "echo" not in said(over(ECHO))
    assert "echo" not in said(over(LOCAL))
    assert "echo" not in said(over(ECHO), over(WIDE, starts=40.0))


def test_a_wide_group_is_named_and_a_local_one_not(said):
    assert "wide" in said(over(WIDE))
    assert "wide" not in said(over(ECHO))
    assert "wide" not in said(over(LOCAL))


def test_after_linking_only_the_way_back_is_said(said, index):
    linking = [
        key for key, row in index.routes.items() if row.slot == 1 and index.services[row.service][1].mode == "dstar"
    ]
    assert linking
    told = said(over(linking[0]))
    assert "back" in told
    assert not {"echo", "wide"} & set(told)
    assert "back" not in said(over(WIDE))


def test_who_drives_is_told_not_to(said):
    assert "driving" not in said(over(), profile="tarn16")
    assert "driving" not in said(over(), profile="")
    assert "driving" in said(over(), profile=next(key for key, item in SHIPPED.items() if item.shape == "mobile"))


def test_a_deaf_hotspot_comes_first_and_what_is_known_is_left_out(said):
    assert said(over(starts=1.0, why="deaf"))[0] == "deaf"
    assert "deaf" not in said(over(starts=1.0))
    assert "listen" not in said(over(starts=1.0), known=frozenset({"listen"}))
    told = said(over(starts=1.0, seconds=1.0))
    assert len(set(told)) == len(told)
