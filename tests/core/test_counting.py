"""Numbers and their nouns."""

import pytest

from umbra_awl.core.facts.counting import counted


@pytest.mark.parametrize(("count", "words", "said"), [
    (0, ["route"], "0 routes"), (1, ["route"], "1 route"), (2, ["route"], "2 routes"),
    (1200, ["access point"], "1,200 access points"),
    (1, ["entry"], "1 entry"), (3, ["entry"], "3 entries"), (2, ["day"], "2 days"), (2, ["press"], "2 presses"),
    (2, ["box"], "2 boxes"), (2, ["match"], "2 matches"), (2, ["identity"], "2 identities"),
    (1, ["person", "people"], "1 person"),
    (2, ["person", "people"], "2 people"), (1, ["row goes", "rows go"], "1 row goes"), (-1, ["day"], "-1 days"),
])  # fmt: skip
def test_a_noun_agrees_with_its_number(count, words, said):
    assert counted(count, *words) == said
