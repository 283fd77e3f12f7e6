"""Every scene shows on the demo what it says, and advice comes at its moment, once."""

import pytest

from tests.days import TODAY
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.simulation.advice import advice_now
from umbra_awl.core.simulation.play import Play, PlayInput, lanes_of
from umbra_awl.core.simulation.scenes import SceneError, lay_out, parse_scenes, shipped_scenes
from umbra_awl.core.simulation.setting import NoSetting

SCENES = {item.key: item for item in shipped_scenes()}
SHOWS = {
    "echo": lambda play: any(bar.tone == "echo" for bar in play.book.bars),
    "busy-simplex": lambda play: any("deaf" in cut.reason for cut in play.book.cuts),
    "busy-duplex": lambda play: any("pushed aside" in note.words for note in play.book.notes),
    "one-slot": lambda play: any("held" in cut.reason for cut in play.book.cuts),
    "quiet-time": lambda play: any("leaves" in note.words for note in play.book.notes),
    "link-left": lambda play: any("again" in cut.reason for cut in play.book.cuts),
    "scan-four": lambda play: any(bar.text == "scan is elsewhere" for bar in play.book.bars),
    "watch": lambda play: any(bar.text == "decoder taken" for bar in play.book.bars),
    "fm-ear": lambda play: any(sound.kind == "noise" for sound in play.book.sounds),
    "doubling": lambda play: any("keyed first" in cut.reason for cut in play.book.cuts),
    "time-out": lambda play: any("time-out" in cut.reason for cut in play.book.cuts),
    "wrong-dgid": lambda play: any("wants DG-ID" in cut.reason for cut in play.book.cuts),
}


@pytest.fixture
def laid(index, fits, profiles):
    return lambda key: lay_out(SCENES[key], index, fits, profiles.get, "tarn")


@pytest.mark.parametrize("key", SCENES)
def test_a_scene_shows_what_it_is_about(laid, key):
    scene = laid(key)
    play = scene.play(3)
    play.advance(60 * scene.scene.minutes)
    assert SHOWS[key](play)
    shown = {bar.lane for bar in play.book.bars}
    lanes = {lane.key for lane in lanes_of(scene.setting, scene.seen)}
    assert "you" in lanes
    assert shown & lanes


def test_a_plan_that_lacks_what_a_scene_needs_is_told_what(profiles):
    with pytest.raises(NoSetting, match="wanted is a room or local through a repeater or hotspot, System Fusion"):
        lay_out(SCENES["wrong-dgid"], PlanIndex(Plan(), TODAY), {}, profiles.get, "")


def test_a_scene_file_of_another_kind_is_refused():
    with pytest.raises(SceneError):
        parse_scenes('format = "x"\nversion = 1\nscene = []')


def test_advice_comes_when_it_matters_and_once(laid):
    scene = laid("busy-simplex")
    play = Play(scene.setting, 3, (PlayInput(1, "press"), PlayInput(2, "release")), scene.script)
    play.advance(5)
    keys = [item.key for item in advice_now(play)]
    assert keys[0] == "deaf"  # what stopped it comes first
    assert {"listen", "echo", "wide"} <= set(keys)
    assert "listen" not in [item.key for item in advice_now(play, frozenset({"listen"}))]


def test_a_gap_is_asked_for_when_one_keys_again_at_once(laid):
    scene = laid("echo")
    keys = (PlayInput(5, "press"), PlayInput(9, "release"), PlayInput(9.5, "press"), PlayInput(12, "release"))
    play = Play(scene.setting, 3, keys, traffic=False)
    play.advance(20)
    assert "gap" in [item.key for item in advice_now(play)]


def test_linking_reminds_of_the_general_call_and_a_mobile_of_the_road(index, fits, profiles, made):
    play = Play(
        made("fell", ("signal-b>vlr001-c@1",)), 1, (PlayInput(5, "press"), PlayInput(7, "release")), traffic=False
    )
    play.advance(20)
    assert "back" in [item.key for item in advice_now(play)]
    driven = lay_out(SCENES["wrong-dgid"], index, fits, profiles.get, "crag").play(1)
    driven.advance(20)
    assert "driving" in [item.key for item in advice_now(driven)]


def test_the_front_of_the_radio_does_what_its_keys_are_set_to(made):
    play = Play(made("moor", ("blackfell-dmr>isles-wide@2",)), traffic=False)
    first = play.controls.channel.name
    play.do("turn", "1")
    assert play.controls.channel.name != first
    play.do("key", "lock")
    held = play.controls.channel.name
    play.do("turn", "1")
    assert play.controls.channel.name == held
    play.do("key", "lock")
    play.do("zone", "1")
    assert play.controls.channel.name != held
    play.do("key", "scan")
    assert play.world.receiver.stance.kind == "scan"
    play.advance(3)
    assert play.book.screens[-1].top == "SCAN"
    play.do("key", "scan")
    play.do("key", "monitor")
    assert play.world.receiver.open_all
    assert play.book.screens[-1].top == "MONITOR"


def test_the_one_touch_key_calls_its_contact(made, index, fits, profiles, plan):
    from msgspec.structs import replace

    from umbra_awl.core.fit.fitting import fit
    from umbra_awl.core.simulation.setting import ListeningChoice, make_setting

    radios = tuple(replace(item, one_touch="disconnect") if item.key == "moor" else item for item in plan.radios)
    changed = PlanIndex(replace(plan, radios=radios), TODAY)
    moor = {"moor": fit(changed, changed.radios["moor"], profiles["moor4k"])}
    play = Play(make_setting(changed, moor, ListeningChoice("moor", ("home-dmr>isles-wide@1",))), traffic=False)
    play.do("key", "one-touch")
    play.advance(10)
    assert any("drops" in note.words or "nothing was joined" in note.words for note in play.book.notes)
