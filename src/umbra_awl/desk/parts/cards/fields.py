"""What a card of fields is filled with: fields with their values and choices, and acts under them; as values."""

from collections.abc import Callable, Sequence
from typing import NamedTuple

Commit = Callable[[str], str]


class Choice(NamedTuple):
    """One of several values: the word shown and what choosing it does."""

    word: str
    does: Callable[[], object]
    chosen: bool = False


class Field(NamedTuple):
    """One line, or half of one. `commit` takes the typed text and gives the reason of a refusal, or an empty text."""

    label: str
    value: str
    mono: bool = False
    tone: str = ""
    commit: Commit | None = None
    choices: Sequence[Choice] = ()
    text: str | None = None
    tip: str = ""
    half: bool = False


class Act(NamedTuple):
    """An action under the fields."""

    label: str
    does: Callable[[], object]
    main: bool = False


RULE = Field("", "")
