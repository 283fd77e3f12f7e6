"""The four modes by the words operators use, and what a text in a list says of them."""

import re
from functools import lru_cache
from typing import Literal

ModeName = Literal["fm", "dmr", "dstar", "fusion"]
MODE_WORDS = {"fm": "FM", "dmr": "DMR", "dstar": "D-STAR", "fusion": "System Fusion"}
_IN_TEXT: tuple[tuple[re.Pattern[str], ModeName], ...] = (
    (re.compile(r"\bdmr(?![a-z]{3})|\btier ?2\b|\btier ?ii\b|\bcc ?\d{1,2}\b"), "dmr"),
    (re.compile(r"\bd-?\s?star\b|\bdv\b"), "dstar"),
    (re.compile(r"\bc4fm\b|\bfusion\b|\bsystem fusion\b|\bsf\b"), "fusion"),
    (re.compile(r"(?<!c4)\bn?w?fm[nw]?\b|\banalog\w*\b|\bf3e\b"), "fm"),
)
_CODE = re.compile(r"(?:\bcc|\bdmr[-/ ]*(?:cc)?|colou?r code)\s*[:=]?\s*(\d{1,2})(?!\d)", re.IGNORECASE)


@lru_cache(maxsize=1_024)
def modes_in(text: str) -> tuple[ModeName, ...]:
    """The modes named in a text such as “FM/DMR” or “C4FM”, in a fixed order; empty when none is."""
    plain = text.lower().replace("_", " ")
    return tuple(mode for pattern, mode in _IN_TEXT if pattern.search(plain))


def code_in(text: str) -> int | None:
    """The color code that a mode's text carries: “DMR-CC6”, “DMR CC 12”, “CC3”; None where it carries none."""
    found = _CODE.search(text)
    return int(found[1]) if found and int(found[1]) <= 15 else None
