"""What an edit changed, read off the values themselves: an edit keeps every value it does not change as the very same object."""

from typing import TypeVar

_T = TypeVar("_T")


def middles(old: tuple[_T, ...], new: tuple[_T, ...]) -> tuple[int, tuple[_T, ...], tuple[_T, ...]]:
    """Where two tuples begin to differ, and what stands between their same beginning and their same end."""
    most = min(len(old), len(new))
    start = next((at for at in range(most) if old[at] is not new[at]), most)
    end = next((at for at in range(most - start) if old[-1 - at] is not new[-1 - at]), most - start)
    return start, old[start : len(old) - end], new[start : len(new) - end]


def gone_and_come(old: tuple[_T, ...], new: tuple[_T, ...]) -> tuple[list[_T], list[_T]]:
    """The values that are only in the old, and only in the new of two tuples, by identity."""
    if old is new:
        return [], []
    _start, was, now = middles(old, new)
    known, there = set(map(id, was)), set(map(id, now))
    return [item for item in was if id(item) not in there], [item for item in now if id(item) not in known]
