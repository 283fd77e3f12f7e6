"""Small TOML files: read back to the same, refused in one sentence."""

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.keep.toml_form import from_toml, to_toml

HEAD = ("a test", 2)


class Inner(msgspec.Struct, frozen=True, omit_defaults=True):
    word: str = ""
    numbers: tuple[int, ...] = ()


class Thing(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    name: str
    inner: Inner | None = None
    rows: tuple[Inner, ...] = ()
    words: dict[str, str] = {}
    format: str = HEAD[0]
    version: int = HEAD[1]


INNERS = st.builds(Inner, st.text(max_size=8), st.lists(st.integers(-9, 9**9), max_size=3).map(tuple))
WORDS = st.dictionaries(st.text(max_size=4), st.text(max_size=4))
THINGS = st.builds(Thing, st.text(max_size=8), st.none() | INNERS, st.lists(INNERS, max_size=3).map(tuple), WORDS)


@given(THINGS)
def test_what_is_written_reads_back_to_the_same(thing):
    assert from_toml(to_toml(thing, HEAD), Thing, HEAD, "it", ValueError) == thing


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("name =", "it is not readable TOML"),
        ("name = 3", "it cannot be used. Expected `str`"),
        ('name = "x"\nother = 1', "unknown field"),
        (
            'name = "x"\nversion = 3',
            "it was written by a newer Umbra Awl (form 3; this one reads 2). Update first; nothing was touched.",
        ),
        ('name = "x"\nformat = "other"', "it has the form “other” 2"),
    ],
)
def test_what_is_wrong_is_said_in_one_sentence(text, words):
    with pytest.raises(ValueError, match="it") as caught:
        from_toml(text, Thing, HEAD, "it", ValueError)
    assert words in str(caught.value)
