"""The four modes by the words operators use, and what a text in a list says of them."""

import re
from functools import lru_cache
from typing import Generic, Literal, TypedDict, TypeVar

from umbra_awl.core.facts.late_pattern import LatePattern

Mode = Literal["fm", "dmr", "dstar", "fusion"]
T = TypeVar("T")


class ByMode(TypedDict, Generic[T]):
    """A table with something for every mode: the type checker names each table in which a further mode is missing."""

    fm: T
    dmr: T
    dstar: T
    fusion: T


SHORT_WORDS: ByMode[str] = {"fm": "FM", "dmr": "DMR", "dstar": "D-STAR", "fusion": "Fusion"}
EVERY_MODE: tuple[Mode, ...] = ("fm", "dmr", "dstar", "fusion")
"""In the order in which they are shown."""
DIGITAL_MODES: tuple[Mode, ...] = tuple(mode for mode in EVERY_MODE if mode != "fm")
MODE_WORDS: ByMode[str] = {"fm": "FM", "dmr": "DMR", "dstar": "D-STAR", "fusion": "System Fusion"}


def by_mode(table: ByMode[T]) -> list[tuple[Mode, T]]:
    """The rows of such a table, in the order in which modes are shown."""
    return [(mode, table[mode]) for mode in EVERY_MODE]


def of_mode(table: ByMode[T], mode: str) -> T:
    """What a table has for a mode that came as a text. Raises KeyError for a text that is none."""
    return dict(by_mode(table))[mode]  # type: ignore[index]


_IN_TEXT: tuple[tuple[LatePattern, Mode], ...] = (
    (LatePattern(r"\bdmr(?![a-z]{3})|\btier ?2\b|\btier ?ii\b|\bcc ?\d{1,2}\b"), "dmr"),
    (LatePattern(r"\bd-?\s?star\b|\bdv\b"), "dstar"),
    (LatePattern(r"\bc4fm\b|\bfusion\b|\bsystem fusion\b|\bsf\b"), "fusion"),
    (LatePattern(r"(?<!c4)\bn?w?fm[nw]?\b|\banalog\w*\b|\bf3e\b"), "fm"),
)
_CODE = LatePattern(r"(?:\bcc|\bdmr[-/ ]*(?:cc)?|colou?r code)\s*[:=]?\s*(\d{1,2})(?!\d)", re.IGNORECASE)


@lru_cache(maxsize=1_024)
def modes_in(text: str) -> tuple[Mode, ...]:
    """The modes named in a text such as “FM/DMR” or “C4FM”, in a fixed order; empty when none is."""
    plain = text.lower().replace("_", " ")
    return tuple(mode for pattern, mode in _IN_TEXT if pattern.search(plain))


def code_in(text: str) -> int | None:
    """The color code that a mode's text carries: “DMR-CC6”, “DMR CC 12”, “CC3”; None where it carries none."""
    found = _CODE.search(text)
    return int(found[1]) if found and int(found[1]) <= 15 else None
