"""Choices that are worked out when they are asked for, and never more of them than a menu can show."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from itertools import islice
from typing import Any

from umbra_awl.desk.parts.cards.fields import Choice

MOST_CHOICES = 80


class LateChoices(Sequence[Choice]):
    """Made by a function each time it is gone through; counts as one choice until then."""

    def __init__(self, make: Callable[[], Iterable[Choice]]) -> None:
        self._make = make

    def __len__(self) -> int:
        return 1

    def __getitem__(self, at: Any) -> Any:
        return list(self)[at]

    def __iter__(self) -> Iterator[Choice]:
        return iter(tuple(islice(self._make(), MOST_CHOICES)))
