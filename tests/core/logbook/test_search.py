"""The log's index: what is typed is found, the latest first, whatever is typed."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.logbook.search import Index


def entry(at, **more):
    return Entry(f"k{at}", f"2026-11-{at % 28 + 1:02d}T10:00:00Z", **{"call": f"Q{at % 10}AMB", **more})


def keys(index, text, most=200):
    return [item.key for item in index.search(text, most).entries]


def test_every_word_must_begin_a_word_of_an_entry_and_the_latest_come_first():
    index = Index(
        [
            entry(3, note="on the balcony"),
            entry(5, route="r", grade="echo"),
            entry(9, by="simulation"),
            entry(1, name="Ælva"),
        ],
        lambda key: f"Blackfell to {key.upper()}sles",
    )
    assert keys(index, "") == ["k9", "k5", "k3", "k1"]
    assert keys(index, "q") == ["k9", "k5", "k3", "k1"]
    assert keys(index, "balc") == ["k3"]
    assert keys(index, "alcony") == []
    assert keys(index, "echo BLACKFELL rsl") == ["k5"]
    assert keys(index, "simulated") == ["k9"]
    assert keys(index, "2026-11-04") == ["k3"]
    assert keys(index, "ælv") == ["k1"]
    index.close()


def test_a_page_says_whether_there_is_more():
    index = Index([entry(at) for at in range(27)])
    assert keys(index, "", 5) == ["k26", "k25", "k24", "k23", "k22"]
    assert index.search("q", 5).more
    assert not index.search("q", 27).more
    assert keys(index, "q", 5) == keys(index, "", 5)


@given(st.text(max_size=40))
def test_nothing_that_is_typed_breaks_it(text):
    index = Index([entry(1, note=text), entry(2)])
    assert set(keys(index, text)) <= {"k1", "k2"}
    words = [word for word in text.split() if word.isascii() and word.isalnum()]
    assert all("k1" in keys(index, word) for word in words[:1])


@pytest.mark.parametrize("text", ["a_b", "1_2", "_", "x_ _y"])
def test_an_underscore_parts_words_as_the_index_does(text):
    assert keys(Index([entry(1, note="a b 1 2 x y")]), text) == ["k1"]
