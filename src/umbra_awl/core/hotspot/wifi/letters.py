"""Two names or passwords letter for letter: what differs and why it is easily overlooked. Nothing of it is kept anywhere."""

import unicodedata
from difflib import SequenceMatcher
from typing import Literal, NamedTuple

from umbra_awl.core.facts.counting import counted

Kind = Literal["same", "case", "quote", "blank", "look-alike", "composed", "hidden", "other", "missing", "more"]
KIND_WORDS: dict[Kind, str] = {
    "same": "the same",
    "case": "capital and small letter",
    "quote": "curly and plain quotation mark",
    "blank": "a blank, or another kind of blank",
    "look-alike": "letters that look alike",
    "composed": "one letter written in two ways",
    "hidden": "a character that cannot be seen",
    "other": "another character",
    "missing": "missing in the second",
    "more": "only in the second",
}
_QUOTES = {"’": "'", "‘": "'", "‚": "'", "′": "'", "`": "'", "´": "'", "“": '"', "”": '"', "„": '"', "″": '"'}
_DASHES = {"–": "-", "—": "-", "−": "-", "‐": "-", "‑": "-"}
_ALIKE = (
    "0OoОоΟο",
    "1lI|Іі",
    "5S",
    "2Z",
    "8B",
    "6b",
    "9gq",
    "uv",
    "аa",
    "еe",
    "рp",
    "сc",
    "хx",
    "ΑA",
    "ΒB",
    "ΕE",
    "ΗH",
)
MOST = 256
_WIDE = "　\u00a0\u2007\u202f\u2009\u200a\t"


class LetterMark(NamedTuple):
    """One place: the character of each text there (empty where one has none), and how they differ."""

    one: str
    other: str
    kind: Kind


def compare(one: str, other: str) -> tuple[LetterMark, ...]:
    """Two texts side by side, aligned. Only the first 256 characters are looked at."""
    first, second = _letters(one), _letters(other)
    matcher = SequenceMatcher(None, [_fold(item) for item in first], [_fold(item) for item in second], autojunk=False)
    marks: list[LetterMark] = []
    for tag, low, high, low2, high2 in matcher.get_opcodes():
        left, right = first[low:high], second[low2:high2]
        if tag in {"equal", "replace"}:
            both = min(len(left), len(right))
            marks += [LetterMark(a, b, kind_of(a, b)) for a, b in zip(left[:both], right[:both], strict=True)]
            left, right = left[both:], right[both:]
        marks += [LetterMark(item, "", _alone(item, "missing")) for item in left]
        marks += [LetterMark("", item, _alone(item, "more")) for item in right]
    return tuple(marks)


def _letters(text: str) -> list[str]:
    """Characters, each with the accents that follow it."""
    made: list[str] = []
    for char in text[:MOST]:
        if made and unicodedata.combining(char):
            made[-1] += char
        else:
            made.append(char)
    return made


def _fold(letter: str) -> str:
    """What look-alikes have in common, so that texts are aligned by what one sees."""
    plain = unicodedata.normalize("NFC", letter)
    plain = _QUOTES.get(plain, _DASHES.get(plain, plain))
    group = next((group for group in _ALIKE if plain in group), "")
    return group or plain.casefold()


def kind_of(one: str, other: str) -> Kind:
    """How two characters differ: the first of these that holds."""
    tests: tuple[tuple[Kind, bool], ...] = (
        ("same", one == other),
        ("composed", unicodedata.normalize("NFC", one) == unicodedata.normalize("NFC", other)),
        ("blank", one.isspace() or other.isspace()),
        ("hidden", _hidden(one) or _hidden(other)),
        ("quote", _QUOTES.get(one, one) == _QUOTES.get(other, other)),
        ("look-alike", _DASHES.get(one, one) == _DASHES.get(other, other)),
        ("case", one.casefold() == other.casefold()),
        ("look-alike", _fold(one) == _fold(other)),
    )
    return next((kind for kind, holds in tests if holds), "other")


def _alone(letter: str, kind: Kind) -> Kind:
    return "blank" if letter.isspace() else "hidden" if _hidden(letter) else kind


def _hidden(letter: str) -> bool:
    return all(unicodedata.category(char) in {"Cf", "Cc", "Mn"} for char in letter) or letter in _WIDE


def shown(letter: str) -> str:
    """A character as it is shown where each place counts: blanks and what cannot be seen have a sign."""
    if letter == " ":
        return "␣"
    if not letter:
        return "∅"
    return "▯" if _hidden(letter) or not letter.isprintable() else letter


def verdict(marks: tuple[LetterMark, ...]) -> str:
    """The comparison in a sentence, without the texts themselves."""
    odd = [(at, mark) for at, mark in enumerate(marks, 1) if mark.kind != "same"]
    if not marks:
        return "Type both to compare them."
    if not odd:
        return f"The same, all {len(marks)} characters."
    told = "; ".join(f"place {at}: {KIND_WORDS[mark.kind]}" for at, mark in odd[:4]).capitalize()
    more = f"; and {len(odd) - 4} more" if len(odd) > 4 else ""
    return f"{counted(len(odd), f'of {len(marks)} differs', f'of {len(marks)} differ')}. {told}{more}."


def doubts(text: str) -> tuple[str, ...]:
    """What in a single name or password is easily typed otherwise on the other side."""
    letters = _letters(text)
    found = []
    if text != text.strip():
        found.append("it begins or ends with a blank")
    if any(letter in _QUOTES for letter in letters):
        found.append("it has a curly quotation mark; phones make those by themselves")
    if any(_hidden(letter) for letter in letters):
        found.append("it has a character that cannot be seen")
    if unicodedata.normalize("NFC", text) != text:
        found.append("it has a letter with its accent written apart")
    if any(ord(char) > 126 for char in text) and not found:
        found.append("it has a character that small computers may write otherwise")
    if len(text.encode()) > 32:
        found.append("a Wi-Fi name has at most 32 bytes")
    return tuple(found)
