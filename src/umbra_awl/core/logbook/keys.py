"""Keys of entries: those that are made here, and those that come in, each given once however often a file has it."""

from collections.abc import Iterable
from datetime import datetime
from secrets import token_hex


def new_key(now: datetime) -> str:
    """A key for an entry of this moment, UTC: two hands log in the same second, and none takes the other's place."""
    return f"{now:%Y%m%d%H%M%S}-{token_hex(6)}"


class Keys:
    """The keys that are taken. What comes doubled gets a number behind it; finding one takes no longer for many."""

    def __init__(self, taken: Iterable[str] = ()) -> None:
        self._taken = set(taken)
        self._next: dict[str, int] = {}

    def free(self, key: str) -> str:
        """The key, or where it is taken the same with a number; it is taken from now on."""
        made = key
        while made in self._taken:
            number = self._next[key] = self._next.get(key, 1) + 1
            made = f"{key}-{number}"
        self._taken.add(made)
        return made
