"""Words that are not spelled as usual, marked before a text goes out: one types with one hand, outdoors.

Call signs, numbers, frequencies and the field's own words are left alone. The dictionary is loaded when it is first asked.
"""

import re
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

if TYPE_CHECKING:
    from spellchecker import SpellChecker

_WORD = re.compile(r"[^\W\d_]+(?:['’][^\W\d_]+)*")
_OWN = Path(__file__).with_name("words.txt")
_MOST_LETTERS = 24
LANGUAGES = ("en", "es", "fr", "pt", "de", "it", "nl")


class Misspelt(NamedTuple):
    """A word that is not known: where it begins, its length, what may be meant."""

    at: int
    length: int
    better: tuple[str, ...]


@cache
def _dictionary(language: str) -> "SpellChecker":
    from spellchecker import SpellChecker

    made = SpellChecker(language=language, distance=1)
    lines = _OWN.read_text("utf-8").splitlines()
    made.word_frequency.load_words([word for line in lines if not line.startswith("#") for word in line.split()])
    return made


def misspelt(text: str, language: str = "en") -> tuple[Misspelt, ...]:
    """The words of a text that are not known, each with up to three that may be meant. Raises ValueError for a strange one."""
    if language not in LANGUAGES:
        raise ValueError(f"There is no dictionary “{language}”; there are {', '.join(LANGUAGES)}.")
    found = [match for match in _WORD.finditer(text) if _is_word(match, text)]
    if not found:
        return ()
    book = _dictionary(language)
    unknown = book.unknown([_plain(match[0]) for match in found])
    return tuple(
        Misspelt(match.start(), len(match[0]), _meant(book, _plain(match[0])))
        for match in found
        if _plain(match[0]) in unknown
    )


def _plain(word: str) -> str:
    return word.replace("’", "'").lower()


def _is_word(match: re.Match[str], text: str) -> bool:
    """Whether it is a word and no part of a call sign, a number with its unit, or an abbreviation in capitals."""
    word = match[0]
    beside = text[max(match.start() - 1, 0) : match.start()] + text[match.end() : match.end() + 1]
    if any(char.isdigit() or char in "_/@." for char in beside.rstrip(".")) or len(word) > _MOST_LETTERS:
        return False
    return not (word.isupper() and len(word) <= 5) and len(word) > 1


def _meant(book: "SpellChecker", word: str) -> tuple[str, ...]:
    candidates = book.candidates(word) or set()
    ranked = sorted(candidates - {word}, key=lambda item: (-book.word_usage_frequency(item), item))
    return tuple(ranked[:3])
