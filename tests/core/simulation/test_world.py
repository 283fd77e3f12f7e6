"""The simulated world in time: who holds what, what is joined and linked, and that the same seed is the same evening."""

from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.simulation.conftest import HOME, TRAVEL
from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.simulation.parameters import Pattern
from umbra_awl.core.simulation.play import Play, PlayInput, Scripted
from umbra_awl.core.simulation.setting import ListeningChoice, make_setting
from umbra_awl.demo.fresh import demo_plan

LINKED = ("Q3AMB", "vlr001-c", 5)
SECONDS = st.floats(0, 280).map(lambda value: round(value, 2))
INPUTS = st.lists(
    st.one_of(
        st.builds(PlayInput, SECONDS, st.sampled_from(["press", "release"])),
        st.builds(PlayInput, SECONDS, st.sampled_from(["turn", "zone"]), st.sampled_from(["1", "-1"])),
        st.builds(
            PlayInput, SECONDS, st.just("key"), st.sampled_from(["scan", "monitor", "one-touch", "lock", "nonsense"])
        ),
    ),
    max_size=14,
).map(lambda found: tuple(sorted(found, key=lambda item: item.at)))
CHOICES = st.sampled_from(
    [
        ListeningChoice("tarn", TRAVEL),
        ListeningChoice("tarn", HOME, "scan", sat_down=True),
        ListeningChoice("moor", ("blackfell-dmr>isles-wide@2", "blackfell-dmr>great-velmar@1"), "watch"),
        ListeningChoice("fell", ("signal-b>vlr001-a@2", "signal-b>vlr001-a@1")),
        ListeningChoice("crag", ("torrick-fusion>velmar-commons@0", "torrick-fusion>local@0")),
    ]
)


def busy(setting):
    """The same world with much talk on every group, and doubling."""
    patterns = dict.fromkeys(setting.patterns, Pattern(30.0, 5, 9.0, 1.5))
    return replace(setting, patterns=patterns, figures={**setting.figures, "doubling_share": 0.2})


def world_of(choice):
    index, profiles = PlanIndex(demo_plan(TODAY), TODAY), shipped_profiles()
    fits = {
        item.key: fit(index, item, profiles[item.profile]) for item in index.plan.radios if item.key == choice.radio
    }
    return make_setting(index, fits, choice._replace(whole=True))


@given(CHOICES, INPUTS, st.integers(1, 9))
@settings(max_examples=20)
def test_whatever_hands_do_time_goes_on_once_and_the_seed_gives_the_same_events(choice, inputs, seed):
    setting = busy(world_of(choice))
    one, other = Play(setting, seed, inputs), Play(setting, seed, inputs)
    one.advance(300)
    for moment in range(0, 301, 7):  # the steps that somebody watches in change nothing
        other.advance(moment)
    other.advance(300)
    assert one.book.events() == other.book.events()
    assert one.now == 300
    assert all(bar.end is None or bar.end >= bar.start for bar in one.book.bars)
    _one_a_slot(one)
    _seconds_add_up(one)


def _one_a_slot(play):
    """At most one over holds a slot, and on one frequency at most one holds the whole access point."""
    spans = {}
    for bar in play.book.bars:
        if bar.lane.startswith("access"):
            service = bar.lane.split(" ")[1]
            lane = service if play.setting.posts[service].half else bar.lane
            spans.setdefault(lane, []).append((bar.start, bar.end if bar.end is not None else 300.0))
    for found in spans.values():
        ordered = sorted(found)
        assert all(before[1] <= after[0] + 1e-6 for before, after in pairwise(ordered))


def _seconds_add_up(play):
    """What the radio sent is as long as the key was down, and nobody hears more of an over than there was."""
    keyed = [item for item in play.keyer.done if item.lanes or item.reached != "radio" or item.talk.seconds < 1e9]
    sent = sum(bar.end - bar.start for bar in play.book.bars if bar.lane == "you" and bar.text == "key" and bar.end)
    assert sent == pytest.approx(sum(item.talk.seconds for item in keyed if item.talk.seconds < 1e9), abs=1e-6)
    for bar in play.book.bars:
        if bar.tone == "you" and bar.lane not in {"you", "radio"} and bar.end is not None:
            whole = next(item.talk.seconds for item in play.keyer.done if item.talk.number == bar.over)
            assert bar.end - bar.start <= whole + 1e-6


def test_going_back_in_time_is_as_if_what_came_after_was_never_done(made):
    play = Play(made("tarn", TRAVEL), 4)
    play.advance(20)
    play.do("press")
    play.advance(24)
    play.do("release")
    play.advance(90)
    play.back_to(22)
    assert [item.what for item in play.inputs] == ["press"]
    assert play.keyer.now_keyed is not None
    straight = Play(made("tarn", TRAVEL), 4, (PlayInput(20, "press"),))
    straight.advance(22)
    assert play.book.events() == straight.book.events()


def at(play, kind):
    return [(round(item.at, 1), item.words) for item in getattr(play.book, kind)]


def test_a_group_on_demand_joins_by_a_key_up_and_leaves_after_its_quiet_time(made):
    play = Play(
        made("tarn", ("blackfell-dmr>nessa-torrick@2",)),
        script=(Scripted(0, "Q8LOW", "nessa-torrick", 3), Scripted(60, "Q8LOW", "nessa-torrick", 3)),
        inputs=(PlayInput(5, "press"), PlayInput(9, "release")),
        traffic=False,
    )
    play.advance(16 * 60)
    assert [words for _at, words in at(play, "notes")] == [
        "joins Nessa and Torrick for 15 min",
        "Nessa and Torrick leaves after its quiet time",
    ]
    on_air = [bar.start for bar in play.book.bars if bar.lane == "access blackfell-dmr 2" and bar.tone == "others"]
    assert on_air == [60]  # the call before the key-up was never sent out


def test_a_second_key_up_starts_the_quiet_time_anew(made):
    inputs = (PlayInput(5, "press"), PlayInput(9, "release"), PlayInput(600, "press"), PlayInput(604, "release"))
    play = Play(made("tarn", ("blackfell-dmr>nessa-torrick@2",)), inputs=inputs, traffic=False)
    play.advance(16 * 60)
    assert len(play.book.notes) == 1
    play.advance(26 * 60)
    assert [round(item.at) for item in play.book.notes] == [6, 1504]


def test_the_echo_is_as_long_as_what_got_through(made):
    play = Play(
        made("tarn", ("travel-dmr>echo@2",)), inputs=(PlayInput(4, "press"), PlayInput(10, "release")), traffic=False
    )
    play.advance(40)
    (back,) = [bar for bar in play.book.bars if bar.lane == "radio" and bar.tone == "echo"]
    figures = play.setting.figures
    assert back.start == pytest.approx(10 + figures["echo_wait_s"])
    assert back.end - back.start == pytest.approx(6 - figures["wake_s"])


def test_a_key_that_is_let_go_before_the_path_opens_reaches_nobody(made):
    play = Play(
        made("tarn", ("travel-dmr>echo@2",)), inputs=(PlayInput(4, "press"), PlayInput(4.5, "release")), traffic=False
    )
    play.advance(40)
    assert play.keyer.done[-1].stopped.reason.startswith("too short")
    assert not [bar for bar in play.book.bars if bar.tone == "echo"]


def test_a_simplex_hotspot_is_deaf_while_it_sends_and_a_duplex_one_is_not(made):
    script = (Scripted(2, "Q7QBY", "isles-wide", 30),)
    keyed = (PlayInput(1, "number", "travel-dmr>worldwide@2"), PlayInput(10, "press"), PlayInput(15, "release"))
    setting = made("tarn", TRAVEL)
    deaf = Play(setting, inputs=keyed, script=script, traffic=False)
    deaf.advance(60)
    assert deaf.keyer.done[-1].talk.why == "deaf"
    duplex = {key: post._replace(half=False) for key, post in setting.posts.items()}
    heard = Play(replace(setting, posts=duplex), inputs=keyed, script=script, traffic=False)
    heard.advance(60)
    assert heard.keyer.done[-1].stopped is None
    assert "pushed aside" in heard.book.notes[0].words


def test_a_hotspot_serves_one_mode_at_a_time(made):
    setting = made("fell", ("home-dstar>vlr001-c@2",))
    script = (
        Scripted(2, "Q7QBY", "isles-wide", 20),
        Scripted(5, "Q3AMB", "vlr001-c", 5),
        Scripted(40, "Q3AMB", "vlr001-c", 5),
    )
    play = Play(setting, script=script, traffic=False)
    play.advance(60)
    assert [cut.reason for cut in play.book.cuts] == ["Home spot serves another mode just now"]
    assert [bar.start for bar in play.book.bars if bar.lane == "access home-dstar 0"] == [40]


def test_linking_talking_and_unlinking(made):
    link, talk, off = "signal-b>vlr001-c@1", "signal-b>vlr001-a@2", "signal-b>unlink@0"
    setting = replace(made("fell", (link, talk, off)), carried=())
    keys = [
        (2, "number", link),
        (3, "press", ""),
        (5, "release", ""),
        (12, "number", off),
        (13, "press", ""),
        (15, "release", ""),
    ]
    play = Play(setting, inputs=tuple(PlayInput(*item) for item in keys), traffic=False)
    play.advance(11)
    assert play.world.carried.linked == {"signal-b": "vlr001-c"}
    play.advance(30)
    assert play.world.carried.linked == {}
    assert [item.words for item in play.book.notes] == ["VLR001 C is linked", "drops VLR001 C"]


def test_a_time_out_cuts_the_over_and_shuts_the_access_point(made):
    setting = made("tarn", ("blackfell-dmr>isles-wide@2",))
    posts = {key: post._replace(time_out_s=30.0) for key, post in setting.posts.items()}
    keys = (
        PlayInput(1, "press"),
        PlayInput(40, "release"),
        PlayInput(43, "press"),
        PlayInput(46, "release"),
        PlayInput(60, "press"),
    )
    play = Play(replace(setting, posts=posts), inputs=keys, traffic=False)
    play.advance(64)
    reasons = [item.stopped.reason if item.stopped else "" for item in play.keyer.done]
    assert reasons[0] == "time-out of the access point"
    assert reasons[1].startswith("shut for")
    assert reasons[2] == ""


def test_the_radios_own_time_out_lets_go_of_the_key(made):
    play = Play(made("moor", ("blackfell-dmr>isles-wide@2",)), inputs=(PlayInput(1, "press"),), traffic=False)
    play.advance(300)
    (keyed,) = play.keyer.done
    assert keyed.talk.seconds == 180  # as the plan sets this radio
    assert keyed.released


def test_a_polite_radio_is_denied_while_the_slot_is_taken(made):
    script = (Scripted(2, "Q7QBY", "isles-wide", 30),)
    play = Play(
        made("tarn", ("blackfell-dmr>isles-wide@2",)), inputs=(PlayInput(10, "press"),), script=script, traffic=False
    )
    play.advance(12)
    assert [item.kind for item in play.book.sounds] == ["denied"]
    assert play.controls.lines()[0] == "DENIED" or play.book.screens[-1].top != "TX"
    assert not [bar for bar in play.book.bars if bar.lane == "radio" and bar.tone == "you"]


def test_two_on_one_group_the_network_carries_one(made):
    script = (Scripted(2, "Q7QBY", "worldwide", 30),)
    play = Play(
        made("tarn", TRAVEL), inputs=(PlayInput(10, "press"), PlayInput(14, "release")), script=script, traffic=False
    )
    play.advance(40)
    assert play.keyer.done[-1].stopped.reason == "Q7QBY speaks: one at a time"


def figured(setting, **figures):
    return replace(setting, figures={**setting.figures, **figures})


@pytest.mark.parametrize(("share", "lost"), [(0.0, False), (1.0, True)])
def test_the_network_loses_a_share_of_overs_whole(made, share, lost):
    setting = figured(made("tarn", TRAVEL), loss_share=share)
    play = Play(setting, inputs=(PlayInput(1, "press"), PlayInput(6, "release")), traffic=False)
    play.advance(20)
    (keyed,) = play.keyer.done
    assert (keyed.talk.why == "lost") is lost
    assert bool(keyed.heard_by and "all on Worldwide" in keyed.heard_by) is not lost


def test_an_over_that_was_let_go_on_the_way_still_travels_its_whole_length(made):
    setting = figured(made("tarn", TRAVEL), latency_s=3.0)
    play = Play(setting, inputs=(PlayInput(1, "press"), PlayInput(3, "release")), traffic=False)
    play.advance(20)
    bars = {bar.lane: (bar.start, bar.end) for bar in play.book.bars}
    assert bars["access travel-dmr 2"] == (1.8, 3.0)
    assert bars["network"] == pytest.approx((4.8, 6.0))
    far = [span for lane, span in bars.items() if lane.startswith("far")]
    assert far == [pytest.approx((7.8, 9.0))] * 2


def test_the_echo_waits_in_vain_where_its_slot_is_taken_meanwhile(made):
    script = (Scripted(12.5, "Q7QBY", "isles-wide", 20),)
    play = Play(
        figured(made("tarn", TRAVEL), echo_wait_s=5.0),
        inputs=(PlayInput(1, "number", "travel-dmr>echo@2"), PlayInput(4, "press"), PlayInput(10, "release")),
        script=script,
        traffic=False,
    )
    play.advance(40)
    assert any("finds no way back" in note.words for note in play.book.notes)
    assert not [bar for bar in play.book.bars if bar.tone == "echo"]


def test_a_talk_memory_reaches_who_is_linked_and_says_who_that_is(made):
    link, talk = "signal-b>vlr001-c@1", "signal-b>vlr001-a@2"
    for carried, words in (
        ((), "nothing is linked"),
        ((("vlr001-c", ("signal-b", 0), "link"),), "VLR001 C is linked, and hears you"),
    ):
        setting = replace(made("fell", (talk, link)), carried=carried)
        play = Play(setting, inputs=(PlayInput(2, "press"), PlayInput(5, "release")), traffic=False)
        play.advance(20)
        assert any(words in note.words for note in play.book.notes)
        assert not any(bar.lane.startswith("far") and bar.tone == "you" for bar in play.book.bars)


def test_a_repeater_identifies_in_morse_as_often_as_it_is_set_to(made):
    inputs = tuple(
        PlayInput(at, what) for begun in (1, 20, 700) for at, what in ((begun, "press"), (begun + 3, "release"))
    )
    play = Play(made("tarn", ("blackfell-fm>local@0",)), inputs=inputs, traffic=False)
    play.advance(720)
    assert [round(item.at) for item in play.book.sounds if item.kind == "morse"] == [5, 704]
    spot = Play(made("tarn", TRAVEL), inputs=inputs, traffic=False)
    spot.advance(720)
    assert not [item for item in spot.book.sounds if item.kind == "morse"]


def test_local_talk_goes_on_to_what_is_linked(made):
    setting = made("fell", ("signal-b>local@0",))
    setting = replace(setting, carried=(("vlr001-c", ("signal-b", 0), "link"),))
    play = Play(setting, inputs=(PlayInput(2, "press"), PlayInput(5, "release")), traffic=False)
    play.advance(20)
    assert any("goes on to VLR001 C" in note.words for note in play.book.notes)
