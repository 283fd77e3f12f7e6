"""The ways to say a site or a destination in few characters, each with its cost: what a careful person would write.

A name is its words, and each word may stand whole, by its customary short form, cut at its end, without its vowels, as its
first letter, or not at all. Words with digits stay whole, and so do lone capitals: they are the module or the letter that
tells two apart. Costs only rank: 0 is the name in full, about 1 still reads well, above 4 nobody would choose.
"""

import re
from collections.abc import Iterator
from functools import lru_cache
from typing import NamedTuple

from umbra_awl.core.facts.callsign import call_suffix
from umbra_awl.core.facts.short_forms import short_forms
from umbra_awl.core.radio.display import NameRules, fold

Shorts = tuple[tuple[str, str], ...]
_Bit = tuple[str, float, bool]
_MOST_WORDS = 3
_MOST_WAYS = 40
_SQUEEZED = 3.2
_LONELY = 2.5
_BARE = 3.0
"""What a code costs of which only digits are left, where the name has words: “Hill 60” as 60 says nothing."""
_WITH_LETTER = 1.5
_DEAREST = 7.2
_WORTH_SQUEEZING = 3.0
_CALL_LETTERS = 0.8
_LESS_THAN_CALL = 3.0
_NUMBER = 7.5
_OWN = 0.1
_VOWELS = re.compile(r"[aeiouAEIOU]")


class RouteWay(NamedTuple):
    """One way to say something: its text, its cost, and whether a word of it lost letters by being cut."""

    text: str
    cost: float
    cut: bool


class Sayable(NamedTuple):
    """What a name is made of: its text, a call sign's letters or a number that can stand for it, words others share."""

    text: str
    call: str = ""
    number: int | None = None
    shared: frozenset[str] = frozenset()
    by_call: bool = False


@lru_cache(maxsize=16_384)
def ways_of(said: Sayable, rules: NameRules, shorts: Shorts) -> tuple[RouteWay, ...]:
    """The ways to say something on a display, cheapest first, each text once. `shorts` are words and their short forms."""
    best: dict[str, RouteWay] = {}
    for way in (*_by_call(said, rules), *_by_words(said, rules, shorts), *_by_number(said)):
        if way.text and len(way.text) < rules.length:
            held = best.get(way.text)
            if held is None or way.cost < held.cost:
                best[way.text] = way
    ranked = sorted(best.values(), key=lambda way: (way.cost, way.text)) or [RouteWay("X", 0.0, False)]
    return tuple(_cheapest_of_each_length(ranked))


def _cheapest_of_each_length(ranked: list[RouteWay]) -> list[RouteWay]:
    """The cheapest ways, and of each length enough that a short display has a choice."""
    count: dict[int, int] = {}
    kept = []
    for at, way in enumerate(ranked):
        length = len(way.text)
        count[length] = count.get(length, 0) + 1
        if at < _MOST_WAYS or count[length] <= 6:
            kept.append(way)
    return kept


def _by_call(said: Sayable, rules: NameRules) -> list[RouteWay]:
    """By the call sign: whole where it leads, else the letters behind its digit; two of them at the worst."""
    call = fold(said.call, rules)
    if not call:
        return []
    letters = call_suffix(call)
    whole = [RouteWay(call, 0.0, False)] if said.by_call else []
    start = _LESS_THAN_CALL if said.by_call else _CALL_LETTERS
    return [*whole, RouteWay(letters, start, False), RouteWay(letters[:2], start + 4.0, True)]


def _by_number(said: Sayable) -> list[RouteWay]:
    return [] if said.number is None else [RouteWay(str(said.number), _NUMBER, False)]


def _by_words(said: Sayable, rules: NameRules, shorts: Shorts) -> list[RouteWay]:
    """Every choice of a way for each word, joined by blanks, and run together at a price."""
    if said.by_call and said.call:
        return []
    full = fold(said.text, rules)
    words = _telling_words(said.text, rules)
    found = [RouteWay(full, 0.0, False)] if len(full) < rules.length else []
    if not words:
        return found
    own = dict(shorts)
    dropped = 0.2 * (len(full.split()) - len(words))
    squeezed = _SQUEEZED + 0.2 * rules.upper
    choices = [_bits(word, own, said.shared, rules) for word in words]
    longest = max(len(words), 2)
    for kept, cost in _combined(choices, 0, dropped, ()):
        cut = any(bit[2] for bit in kept)
        if len(kept) == 1:
            text = kept[0][0]
            lonely = len(text) < 3 and len(text) < (longest if cut else len(words))
            bare = len(words) > 1 and not any(map(str.isalpha, text))
            found.append(RouteWay(text, cost + _LONELY * lonely + _BARE * bare, cut))
            if bare and words[0][0].isalpha():
                found.append(RouteWay(words[0][0].upper() + text, cost + _WITH_LETTER, True))
        elif kept:
            found.append(RouteWay(" ".join([bit[0] for bit in kept]), cost, cut))
            if cost <= _WORTH_SQUEEZING:
                joined = "".join([bit[0] if bit[0][0].isupper() else bit[0][0].upper() + bit[0][1:] for bit in kept])
                found.append(RouteWay(joined, cost + squeezed * (len(kept) - 1), cut))
    return found


def _combined(
    choices: list[list[_Bit]], at: int, cost: float, kept: tuple[_Bit, ...]
) -> Iterator[tuple[tuple[_Bit, ...], float]]:
    """Every choice of one bit for each word that is worth its cost: the bits that are kept, and what they cost together.

    The bits of a word come cheapest first, so the first that is too dear ends them.
    """
    last = at + 1 == len(choices)
    for bit in choices[at]:
        price = cost + bit[1]
        if price > _DEAREST:
            return
        held = (*kept, bit) if bit[0] else kept
        if last:
            yield held, price
        else:
            yield from _combined(choices, at + 1, price, held)


def _telling_words(text: str, rules: NameRules) -> list[str]:
    """The words that say something, at most three of them: of a longer name, those that say little go first."""
    facts = short_forms()
    words = [fold(word, rules) for word in text.split() if not _says_nothing(word)]
    words = [word for word in words if word] or [fold(text, rules)]
    for little in (facts.optional, facts.generic):
        for word in [item for item in words if item.casefold() in little]:
            if len(words) > _MOST_WORDS:
                words.remove(word)
    while len(words) > _MOST_WORDS:
        words.remove(min(reversed(words), key=lambda item: (any(map(str.isdigit, item)), len(item))))
    return [word for word in words if word]


def _says_nothing(word: str) -> bool:
    """A word that says nothing; a lone capital is a module's letter and says much."""
    return word.casefold() in short_forms().small and not (len(word) == 1 and word.isupper())


def _bits(word: str, own: dict[str, str], shared: frozenset[str], rules: NameRules) -> list[_Bit]:
    """The ways to write one word as text, cost and whether it was cut; empty where the name can do without it."""
    if len(word) == 1:
        return [(word, 0.0, False)]
    if any(map(str.isdigit, word)):
        return _with_digits(word)
    best: dict[str, _Bit] = {}
    for bit in ((word, 0.0, False), *_known_bits(word, own, rules), *_cuts(word), _dropped(word, shared)):
        if bit[0] not in best or bit[1] < best[bit[0]][1]:
            best[bit[0]] = bit
    return sorted(best.values(), key=_cost)


def _cost(bit: _Bit) -> float:
    return bit[1]


def _with_digits(word: str) -> list[_Bit]:
    """A word with digits keeps them; the letters in front of them shrink to one, or go, at the worst."""
    letters = len(word) - len(word.lstrip("".join(filter(str.isalpha, word)) or " "))
    found = [(word, 0.0, False)]
    return [*found, (word[0] + word[letters:], 4.5, False), (word[letters:], 5.5, False)] if letters > 1 else found


def _known_bits(word: str, own: dict[str, str], rules: NameRules) -> list[_Bit]:
    """The operator's own short form or the customary one, and the first part of a word with a hyphen."""
    found = []
    if word.casefold() in own:
        found.append((fold(own[word.casefold()], rules), _OWN, False))
    elif short := fold(short_forms().words.get(word.casefold(), ""), rules):
        found.append((short, 0.45 + 0.03 * (len(word) - len(short)), False))
    first, hyphen, rest = word.partition("-")
    if hyphen and len(first) > 2 and rest:
        found.append((first, 0.7, False))
    return found


def _cuts(word: str) -> list[_Bit]:
    """Cut at its end to five, four or three letters, without its vowels, as its first letter."""
    length = len(word)
    found = [(word[:keep], 1.4 + 0.22 * (length - keep), True) for keep in (5, 4, 3) if keep < length]
    bones = word[:1] + _VOWELS.sub("", word[1:])
    if bones != word:
        kept = (keep for keep in (4, 3) if keep <= len(bones))
        found += [(bones[:keep], 2.2 + 0.22 * (length - keep), True) for keep in kept]
    return [bit for bit in (*found, (word[:1], 2.8 + 0.1 * length, True)) if bit[0][-1].isalnum()]


def _dropped(word: str, shared: frozenset[str]) -> _Bit:
    """Left out: cheap where the word says little or others say it too, dear where it is what tells."""
    facts, small = short_forms(), word.casefold()
    if small in facts.optional:
        return ("", 0.4, False)
    if small in facts.generic:
        return ("", 0.6, False)
    return ("", 1.0 if small in shared else 3.4, False)
