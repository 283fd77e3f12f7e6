"""Labels inside sentences; and that nothing makes them small by itself."""

import re
from pathlib import Path

import pytest

from umbra_awl.core.facts.wording import within

SRC = Path(__file__).parents[2] / "src" / "umbra_awl"


@pytest.mark.parametrize(("label", "said"), [
    ("Time slot", "time slot"), ("ID with suffix", "ID with suffix"), ("D-STAR fields", "D-STAR fields"), ("DMR ID", "DMR ID"),
    ("RPT1", "RPT1"), ("A hotspot", "a hotspot"), ("Wi-Fi name", "Wi-Fi name"), ("2 files", "2 files"), ("", ""),
])  # fmt: skip
def test_a_label_inside_a_sentence_begins_small_unless_it_is_an_abbreviation(label, said):
    assert within(label) == said


def test_no_label_is_made_small_letter_by_letter():
    """“dmr id” is seen by everybody but its maker."""
    made = re.compile(r"\b(words|label|title|summary|heading|sentence|WORDS\[[^\]]*\])\.lower\(\)")
    found = {
        str(path.relative_to(SRC)): hit[0]
        for path in SRC.rglob("*.py")
        for hit in made.finditer(path.read_text("utf-8"))
    }
    assert found == {"core/hotspot/match/guess.py": "words.lower()"}  # there they are compared, and not shown
