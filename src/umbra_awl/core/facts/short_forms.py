"""Customary short forms of words, and words that say little, read from the table beside the facts.

Source: `data/short_forms.json`, which says where they are from. A plan's own abbreviations come before them. `small` words say
nothing in a name, `optional` ones little beside another, `generic` ones are those that many places share.
"""

from functools import cache
from pathlib import Path

import msgspec


class ShortForms(msgspec.Struct, frozen=True):
    """Words in small letters: those that say nothing, those that say little, those many places share, and short forms."""

    small: frozenset[str]
    optional: frozenset[str]
    generic: frozenset[str]
    words: dict[str, str]


@cache
def short_forms() -> ShortForms:
    """The table."""
    return msgspec.json.decode((Path(__file__).parent / "data" / "short_forms.json").read_bytes(), type=ShortForms)
