"""The order of rows that two hands worked on: in the order of whoever changed it, what is new beside its neighbour."""

from collections.abc import Hashable, Iterable
from typing import TypeVar

_Key = TypeVar("_Key", bound=Hashable)


def merged_row(base: tuple[_Key, ...], mine: tuple[_Key, ...], theirs: tuple[_Key, ...]) -> tuple[_Key, ...] | None:
    """Plain values that both sides changed: what either removed is gone, what either added is there.

    None where both put them in another order.
    """
    gone = {key for key in base if key not in mine or key not in theirs}
    order, both = in_order(base, mine, theirs)
    return None if both else tuple(key for key in order if key not in gone)


def in_order(base: tuple[_Key, ...], mine: tuple[_Key, ...], theirs: tuple[_Key, ...]) -> tuple[tuple[_Key, ...], bool]:
    """Every key of both sides in an order, and whether both put what all have in another order, each differently.

    The order is that of the side that changed it. What one side added stands behind what it stands behind there; of two
    additions at one place the one whose first key is smaller comes first, so that it does not matter who is “mine”.
    """
    own, other = set(mine), set(theirs)
    shared = own & other
    before, one, two = ([key for key in row if key in shared] for row in (base, mine, theirs))
    known = set(before)
    stands_before = [key for key in before if key in shared]
    was_one, was_two = ([key for key in row if key in known] for row in (one, two))
    mine_moved, theirs_moved = was_one != stands_before, was_two != stands_before
    both = mine_moved and theirs_moved and was_one != was_two
    lead, follow = (theirs, mine) if theirs_moved and not mine_moved else (mine, theirs)
    spine = [key for key in lead if key in shared]
    runs: dict[object, list[list[_Key]]] = {}
    for row in (lead, follow):
        for place, run in _runs(row, shared):
            runs.setdefault(place, []).append(run)
    order: list[_Key] = []
    for place in (_START, *spine):
        if place is not _START:
            order.append(place)  # type: ignore[arg-type]
        for run in sorted(runs.get(place, ()), key=lambda item: str(item[0])):
            order.extend(run)
    return tuple(dict.fromkeys(order)), both


_START = object()


def _runs(row: Iterable[_Key], shared: set[_Key]) -> list[tuple[object, list[_Key]]]:
    """The keys of a row that only it has, in runs, each with the shared key that it stands behind."""
    found: list[tuple[object, list[_Key]]] = []
    place: object = _START
    open_run = False
    for key in row:
        if key in shared:
            place, open_run = key, False
        elif open_run:
            found[-1][1].append(key)
        else:
            found.append((place, [key]))
            open_run = True
    return found
