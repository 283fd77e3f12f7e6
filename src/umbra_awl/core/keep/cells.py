"""Text in CSV cells that a spreadsheet would run as a formula is written with an apostrophe in front, and read without it.

Numbers are left alone, and so is a sign or a dash that stands by itself: they are data.
"""

import re

_STARTS = ("=", "+", "-", "@", "\t", "\r")
_HARMLESS = re.compile(r"[+\-]?\d*([.,]\d+)?|[+\-]+")
_GUARDED = re.compile(r"'+[=+\-@\t\r]")


def guarded(text: str) -> str:
    """The text as it is written into a cell."""
    if text.startswith(_STARTS) and not _HARMLESS.fullmatch(text):
        return f"'{text}"
    return f"'{text}" if _GUARDED.match(text) else text


def unguarded(text: str) -> str:
    """The text that a cell of ours stands for; `unguarded(guarded(text))` is the text."""
    return text[1:] if _GUARDED.match(text) else text
