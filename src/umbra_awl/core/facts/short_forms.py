"""Customary short forms of words, and words that say little, read from the table beside the facts.

Source: `data/short_forms.toml`, which says where they are from. A plan's own abbreviations come before them.
"""

import tomllib
from functools import cache
from importlib.resources import files
from typing import NamedTuple


class ShortForms(NamedTuple):
    """Words in small letters: those that say nothing, those that say little, those many places share, and short forms."""

    small: frozenset[str]
    optional: frozenset[str]
    generic: frozenset[str]
    words: dict[str, str]


@cache
def short_forms() -> ShortForms:
    """The table."""
    found = tomllib.loads((files("umbra_awl.core.facts") / "data" / "short_forms.toml").read_text("utf-8"))
    return ShortForms(
        frozenset(found["small"]), frozenset(found["optional"]), frozenset(found["generic"]), dict(found["words"])
    )
