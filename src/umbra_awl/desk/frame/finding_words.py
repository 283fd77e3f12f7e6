"""Ranking what the find-or-do box offers: plain logic without widgets."""

from collections.abc import Callable, Iterable
from typing import NamedTuple

MOST = 14


class Offer(NamedTuple):
    """Something that can be found or done: its words, a second line, what it does."""

    words: str
    hint: str
    does: Callable[[], object]


def rank(offers: Iterable[Offer], typed: str) -> list[Offer]:
    """The offers whose words hold every typed word, those that begin with it first; all of them when nothing is typed."""
    wanted = typed.casefold().split()
    scored: list[tuple[int, int, Offer]] = []
    for place, offer in enumerate(offers):
        score = _score(f"{offer.words} {offer.hint}".casefold(), offer.words.casefold(), wanted)
        if score is not None:
            scored.append((score, place, offer))
    scored.sort(key=lambda item: item[:2])
    return [offer for _score, _place, offer in scored[:MOST]]


def _score(all_text: str, words: str, wanted: list[str]) -> int | None:
    if any(part not in all_text for part in wanted):
        return None
    starts = words.split()
    return sum(0 if any(start.startswith(part) for start in starts) else 1 if part in words else 2 for part in wanted)
