"""What every hop, listener and condition says, word by word, as reviewed in tests/data/traces.txt."""

from tests.core.golden_traces import PLACE, traces_text


def test_traces_and_silences_say_what_was_reviewed():
    found, kept = traces_text().splitlines(), PLACE.read_text("utf-8").splitlines()
    assert found == kept, "run python -m tests.core.golden_traces and read what changed"
