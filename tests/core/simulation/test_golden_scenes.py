"""What happens in every scene, read once by a person, stays so."""

from tests.core.simulation.golden_scenes import PLACE, dump


def test_scenes_hands_and_evenings_are_as_they_were_read():
    assert dump() == PLACE.read_text("utf-8"), (
        "read the difference, then run python -m tests.core.simulation.golden_scenes"
    )
