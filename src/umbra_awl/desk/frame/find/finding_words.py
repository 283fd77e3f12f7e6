"""Ranking what the find-or-do box offers: plain logic without widgets."""

from collections.abc import Callable, Iterable, Sequence
from typing import NamedTuple

MOST = 14


class FinderOffer(NamedTuple):
    """Something that can be found or done: its words, a second line, what it does, what else people call it, its icon's name."""

    words: str
    hint: str
    does: Callable[[], object]
    also: str = ""
    icon: str = ""


def rank(offers: Iterable[FinderOffer], typed: str, recent: Sequence[str] = ()) -> list[FinderOffer]:
    """The offers whose words hold every typed word, those that begin with it first, then what was used last.

    All of them when nothing is typed. What else people call a thing counts less than its own words. `recent` are words of
    offers, the last used first.
    """
    wanted = typed.casefold().split()
    used = {words: place for place, words in enumerate(recent)}
    scored: list[tuple[int, int, int, FinderOffer]] = []
    for place, offer in enumerate(offers):
        words = offer.words.casefold()
        score = _score(f"{words} {offer.hint} {offer.also}".casefold(), words, wanted)
        if score is not None:
            scored.append((score, used.get(offer.words, len(used)), place, offer))
    scored.sort(key=lambda item: item[:3])
    return [item[3] for item in scored[:MOST]]


def _score(all_text: str, words: str, wanted: list[str]) -> int | None:
    if any(part not in all_text for part in wanted):
        return None
    starts = words.split()
    return sum(0 if any(start.startswith(part) for start in starts) else 1 if part in words else 2 for part in wanted)
