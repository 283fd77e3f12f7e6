"""What a display takes, and a text in its own characters."""

import re
import unicodedata
from functools import lru_cache
from typing import NamedTuple


class NameRules(NamedTuple):
    """What a display takes: length in characters, the characters it knows, capitals only or not."""

    length: int
    characters: str
    upper: bool


def fold(text: str, rules: NameRules) -> str:
    """The text in the display's own characters: accents dropped, capitals where needed, unknown characters left out."""
    plain = text if text.isascii() else unicodedata.normalize("NFKD", text.replace("–", "-").replace("’", "'"))
    plain = plain.upper() if rules.upper else plain
    if plain.isascii():
        kept = plain.translate(_dropping(rules.characters))
    else:
        kept = "".join(char for char in plain if char in rules.characters)
    return re.sub(r" {2,}", " ", kept).strip() if "  " in kept else kept.strip()


@lru_cache(maxsize=64)
def _dropping(characters: str) -> dict[int, None]:
    """A translation that drops every ASCII character a display lacks."""
    return {code: None for code in range(128) if chr(code) not in characters}


def lost_characters(text: str, rules: NameRules) -> str:
    """The characters of a text that a display cannot show even without accent or as capitals, each once."""
    lost = (char for char in text if not char.isspace() and not fold(char, rules))
    return "".join(dict.fromkeys(lost))
