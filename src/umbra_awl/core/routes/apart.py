"""What is said already on a display, and which further texts could be taken for it: the same, or one a cut of the other."""

from collections.abc import Hashable, Iterator
from typing import NamedTuple

from umbra_awl.core.routes.ways import RouteWay


class _Held(NamedTuple):
    who: Hashable
    words: tuple[str, ...]
    cut: bool


class Spoken:
    """Texts with who holds each. Two texts are apart when they differ by a word, a digit or a letter inside, not by a cut."""

    def __init__(self) -> None:
        self._whole: dict[str, list[_Held]] = {}
        self._heads: dict[str, list[_Held]] = {}
        self._by_initials: dict[str, list[_Held]] = {}
        self._by_two: dict[str, list[_Held]] = {}
        self._with_letter: dict[str, list[_Held]] = {}

    def take(self, who: Hashable, way: RouteWay) -> None:
        """Let somebody hold a text."""
        held, run = _held(who, way)
        self._whole.setdefault(run, []).append(held)
        for end in range(1, len(run)):
            self._heads.setdefault(run[:end], []).append(held)
        for table, key in self._places(held):
            table.setdefault(key, []).append(held)

    def _places(self, held: _Held) -> list[tuple[dict[str, list[_Held]], str]]:
        """Where a text is found by the beginnings of its words: by two letters of each, or by one where a word has no more."""
        initials = _initials(held.words)
        short = any(len(word) == 1 for word in held.words)
        by_words = (self._with_letter, initials) if short else (self._by_two, _two(held.words))
        return [(self._by_initials, initials), by_words]

    def give_back(self, who: Hashable, way: RouteWay) -> None:
        """Let it go again."""
        held, run = _held(who, way)
        self._whole[run].remove(held)
        for end in range(1, len(run)):
            self._heads[run[:end]].remove(held)
        for table, key in self._places(held):
            table[key].remove(held)

    def free(self, who: Hashable, way: RouteWay) -> bool:
        """Whether nobody else holds a text that this one could be taken for."""
        asked, run = _held(who, way)
        return all(held.who == who for held in self._near(asked, run))

    def met(self, who: Hashable, way: RouteWay) -> set[Hashable]:
        """Who else holds a text that this one could be taken for."""
        asked, run = _held(who, way)
        return {held.who for held in self._near(asked, run) if held.who != who}

    def _near(self, asked: _Held, run: str) -> Iterator[_Held]:
        yield from self._whole.get(run, ())
        for held in self._heads.get(run, ()):
            if (held.cut or asked.cut) and not _ends_between(held.words, len(run)):
                yield held
        for end in range(1, len(run)):
            for held in self._whole.get(run[:end], ()):
                if (held.cut or asked.cut) and not _ends_between(asked.words, end):
                    yield held
        for held in self._alike(asked.words):
            if (held.cut or asked.cut) and _word_by_word(held.words, asked.words):
                yield held

    def _alike(self, words: tuple[str, ...]) -> Iterator[_Held]:
        """Texts whose words may begin like these."""
        initials = _initials(words)
        if any(len(word) == 1 for word in words):
            yield from self._by_initials.get(initials, ())
        else:
            yield from self._by_two.get(_two(words), ())
            yield from self._with_letter.get(initials, ())


def _held(who: Hashable, way: RouteWay) -> tuple[_Held, str]:
    words = tuple(way.text.casefold().split())
    return _Held(who, words, way.cut), "".join(words)


def _initials(words: tuple[str, ...]) -> str:
    return " ".join(word[0] for word in words)


def _two(words: tuple[str, ...]) -> str:
    return " ".join(word[:2] for word in words)


def _ends_between(words: tuple[str, ...], length: int) -> bool:
    """Whether so many characters are whole words, so that what follows is a word of its own."""
    for word in words:
        length -= len(word)
        if length <= 0:
            return length == 0
    return False


def _word_by_word(one: tuple[str, ...], other: tuple[str, ...]) -> bool:
    """Whether each word of one begins like the other's: “Gt Europ” and “Great Europe” do not, “Gr Eur” and “Gr Europe” do."""
    if len(one) != len(other):
        return False
    return all(
        a == b or (a.isalpha() and b.isalpha() and (a.startswith(b) or b.startswith(a)))
        for a, b in zip(one, other, strict=True)
    )
