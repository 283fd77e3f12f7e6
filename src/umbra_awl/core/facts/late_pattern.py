"""Patterns compiled when they are first used: most starts do without most of them, and each costs a start up to a millisecond."""

import re
from typing import Any


class LatePattern:
    """As a compiled pattern, which it becomes when it is first asked to match."""

    __slots__ = ("_flags", "_made", "_text")

    def __init__(self, text: str, flags: int = 0) -> None:
        self._text, self._flags = text, flags
        self._made: re.Pattern[str] | None = None

    @property
    def _pattern(self) -> re.Pattern[str]:
        if self._made is None:
            self._made = re.compile(self._text, self._flags)
        return self._made

    def match(self, text: str) -> re.Match[str] | None:
        """As `re.Pattern.match`."""
        return self._pattern.match(text)

    def fullmatch(self, text: str) -> re.Match[str] | None:
        """As `re.Pattern.fullmatch`."""
        return self._pattern.fullmatch(text)

    def search(self, text: str) -> re.Match[str] | None:
        """As `re.Pattern.search`."""
        return self._pattern.search(text)

    def findall(self, text: str) -> list[Any]:
        """As `re.Pattern.findall`: texts, or tuples of them where the pattern has several groups."""
        return self._pattern.findall(text)

    def sub(self, instead: str, text: str) -> str:
        """As `re.Pattern.sub`."""
        return self._pattern.sub(instead, text)
