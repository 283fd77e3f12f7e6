"""The spots that one worked from, as places on the map, with what came of it there."""

from collections.abc import Iterable
from typing import NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.earth import Position, PositionError, parse_locator
from umbra_awl.core.logbook.model import GRADE_WORDS, RANK, Entry, Grade


class WorkedFrom(NamedTuple):
    """A spot: where it is, its name as it was typed last, its locator, how many overs were logged there, the best proof."""

    position: Position
    name: str
    locator: str
    overs: int
    best: Grade

    @property
    def words(self) -> str:
        """The spot in a line."""
        many = counted(self.overs, "entry")
        there = self.locator.casefold() in self.name.casefold()
        named = self.name if there else f"{self.name}, {self.locator}"
        return f"{named}: {many}, best: {GRADE_WORDS[self.best]}"


def worked_from(entries: Iterable[Entry]) -> tuple[WorkedFrom, ...]:
    """Every spot of a log that is a place on the map, the most used first; what was only simulated is none."""
    found: dict[str, list[Entry]] = {}
    for item in entries:
        if item.my_locator and item.proves:
            found.setdefault(item.my_locator.upper(), []).append(item)
    made = (_spot(items) for items in found.values())
    return tuple(sorted(filter(None, made), key=lambda spot: (-spot.overs, spot.locator)))


def _spot(items: list[Entry]) -> WorkedFrom | None:
    last = max(items, key=lambda item: item.utc)
    try:
        position = parse_locator(last.my_locator)
    except PositionError:
        return None
    best = max((item.grade for item in items), key=RANK.__getitem__)
    return WorkedFrom(position, last.spot or last.my_locator, last.my_locator, len(items), best)
