"""Patterns that come from files: matched in a time that grows with the text and never faster, whatever the pattern is.

The matcher has no look-around and no back references; a pattern that needs them is refused. No guess is made at which patterns
would take for ever: this one cannot.
"""

from functools import lru_cache
from typing import Any

MOST_LETTERS = 600
_MOST_BYTES = 8 << 20


class PatternError(ValueError):
    """A pattern that cannot be used; the message says why."""


class SafePattern:
    """A pattern ready to be searched for; case does not matter."""

    def __init__(self, made: Any) -> None:
        self._made = made

    def holds(self, text: str) -> bool:
        """Whether it matches anywhere."""
        return self._made.search(text) is not None

    def search(self, text: str) -> dict[str, str | None] | None:
        """The named groups of the first match, those that took no part with None; None where nothing matches."""
        found = self._made.search(text)
        return dict(found.groupdict()) if found is not None else None


@lru_cache(1_000)
def pattern_of(text: str) -> SafePattern:
    """A pattern from its text. Raises PatternError."""
    import re2

    if len(text) > MOST_LETTERS:
        raise PatternError(f"it is longer than {MOST_LETTERS} characters")
    options = re2.Options()
    options.case_sensitive = False
    options.log_errors = False
    options.max_mem = _MOST_BYTES
    try:
        return SafePattern(re2.compile(text, options))
    except re2.error as error:
        told = error.args[0] if error.args else error
        raise PatternError(str(told.decode("utf-8", "replace") if isinstance(told, bytes) else told)[:160]) from None
