"""What is said when a scene is over: what became of one's overs, what was missed, and what to do right."""

import pytest

from umbra_awl.core.simulation.outcome import outcome
from umbra_awl.core.simulation.play import Play
from umbra_awl.core.simulation.scenes import lay_out, shipped_scenes

SCENES = {item.key: item for item in shipped_scenes()}
SAYS = {
    "echo": "1 over went through",
    "busy-simplex": "deaf",
    "busy-duplex": "2 overs went through",
    "one-slot": "held",
    "quiet-time": "leaves",
    "link-left": "Cut twice",
    "scan-four": "You did not hear",
    "watch": "You did not hear",
    "doubling": "keyed first",
    "time-out": "time-out",
    "wrong-dgid": "wants DG-ID",
}


@pytest.mark.parametrize("key", SCENES)
def test_the_end_of_a_scene_is_told(key, index, fits, profiles):
    laid = lay_out(SCENES[key], index, fits, profiles.get, "tarn")
    play = laid.play(3)
    play.advance(60 * laid.scene.minutes)
    told = " ".join(outcome(play))
    assert SAYS.get(key, "") in told
    assert laid.scene.right.endswith(".")
    assert all(line.endswith((".", ":")) for line in outcome(play))


def test_by_ones_own_hand_nobody_keys_for_one(index, fits, profiles):
    play = lay_out(SCENES["echo"], index, fits, profiles.get, "tarn").play(3, shown=False)
    assert isinstance(play, Play)
    play.advance(42)
    assert outcome(play) == ("Nobody keyed, and nothing was missed.",)
