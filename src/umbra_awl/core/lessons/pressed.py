"""A line of keys as it is typed: “MENU 3 5”, “hold STO 2s”, “▼ until −”, “3 x4”, “0 7 6 0 0”, “if OVERWRITE?: YES”."""

import re
from typing import NamedTuple

from umbra_awl.core.paper.taps import WAIT

_MOST = 200


class PressedLine(NamedTuple):
    """Keys in order; the word that the last of them is pressed until; what the display must ask for the line to count."""

    keys: tuple[str, ...]
    until: str = ""
    asks: str = ""


_ASKS = re.compile(r"^\s*(?:if|only if)\s+(?:it\s+(?:asks|shows)\s+)?[“\"]?(.+?)[”\"]?\s*:\s*(.+)$", re.IGNORECASE)
_UNTIL = re.compile(r"^(.*\S)\s+(?:until|till)\s+[“\"]?(.+?)[”\"]?\s*$", re.IGNORECASE)
_TIMES = re.compile(r"^[x×](\d{1,2})$|^(\d{1,2})[x×]$", re.IGNORECASE)


def pressed_line(text: str) -> PressedLine:
    """A typed line. Raises ValueError with a sentence."""
    asks = ""
    if (shape := _ASKS.match(text)) is not None:
        asks, text = shape[1].strip(), shape[2]
    until = ""
    if (shape := _UNTIL.match(text)) is not None:
        text, until = shape[1], shape[2].strip()
    keys = _keys(text)
    if not keys:
        raise ValueError("No key stands here. Type the key as it is printed on the radio, for example MENU.")
    if len(keys) > _MOST:
        raise ValueError("So many keys are more than one line. Begin a new line where the display changes.")
    return PressedLine(keys, until, asks)


def _keys(text: str) -> tuple[str, ...]:
    words = text.replace(",", " ").split()
    found: list[str] = []
    at = 0
    while at < len(words):
        word = words[at]
        at += 1
        if (times := _TIMES.match(word)) is not None and found:
            found += [found[-1]] * (int(times[1] or times[2]) - 1)
        elif word.casefold() == "hold" and at < len(words):
            seconds = words[at + 1] if at + 1 < len(words) and re.fullmatch(r"\d+(\.\d+)?s", words[at + 1]) else ""
            found.append(" ".join(filter(None, ("hold", words[at], seconds))))
            at += 2 if seconds else 1
        elif word.casefold() in {"wait", "…", "..."}:
            found.append(WAIT)
        elif word.isdecimal():
            found += word
        else:
            found.append(word)
    return tuple(found)


def typed_line(keys: tuple[str, ...], until: str = "", asks: str = "") -> str:
    """A line as it would be typed."""
    text = " ".join(keys) + (f" until {until}" if until else "")
    return f"if {asks}: {text}" if asks else text
