"""The points of the map as arrays: the directory's, those of the plan, and which come first where they crowd."""

from itertools import count
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from umbra_awl.core.directory.nearest import Dot
from umbra_awl.core.directory.store import KIND_BITS, columns_of
from umbra_awl.core.estimate.survey import SurveySpot
from umbra_awl.core.facts.earth import Position
from umbra_awl.desk.access.chart.map_geometry import Floats, project

_KINDS = {bits: kind for kind, bits in KIND_BITS.items()}
_MODE_MASK = 15


class Points(NamedTuple):
    """One row a point; numbers of spots without an entry count −1, −2, … in their order.

    `rows` has number, bits, in the plan and vanished as plain Python values, for what is drawn one by one.
    """

    ids: NDArray[np.int64]
    km: Floats
    modes: NDArray[np.int64]
    in_plan: NDArray[np.bool_]
    gone: NDArray[np.bool_]
    rank: NDArray[np.int64]
    rows: tuple[tuple[int, int, bool, bool], ...] = ()

    def with_rows(self) -> "Points":
        """With the plain values made; best done away from the interface thread."""
        columns = (self.ids, self.modes, self.in_plan, self.gone)
        return self._replace(rows=tuple(zip(*(column.tolist() for column in columns), strict=True)))


NONE = Points(
    np.zeros(0, np.int64),
    np.zeros((0, 2)),
    np.zeros(0, np.int64),
    np.zeros(0, bool),
    np.zeros(0, bool),
    np.zeros(0, np.int64),
)


def numbers_of(spots: tuple[SurveySpot, ...]) -> list[int]:
    """The number of each spot on the map: its entry's, or −1, −2, … for those without one."""
    own = count(-1, -1)
    return [spot.entry.id if spot.entry else next(own) for spot in spots]


def points_of(dots: list[Dot], spots: tuple[SurveySpot, ...], centre: Position) -> Points:
    """All points around a centre. The plan's come first, then the surveyed in their order, then the rest."""
    numbers = numbers_of(spots)
    extra = [
        (number, spot.access.lat, spot.access.lon or 0.0, columns_of(spot.access)[4])
        for number, spot in zip(numbers, spots, strict=True)
        if number < 0 and spot.access.lat is not None
    ]
    rows = [*extra, *(dot[:4] for dot in dots)]
    both = np.empty((len(rows), 4))
    for column in range(4):  # column by column: one great conversion would keep the window waiting
        both[:, column] = np.fromiter((row[column] for row in rows), np.float64, len(rows))
    ids = both[:, 0].astype(np.int64)
    order = {number: at for at, number in enumerate(numbers)}
    in_plan_ids = [number for number, spot in zip(numbers, spots, strict=True) if spot.in_plan]
    in_plan = np.isin(ids, np.array(in_plan_ids, np.int64))
    rank = np.arange(len(ids), dtype=np.int64) + 1_000_000
    for at in np.flatnonzero(np.isin(ids, np.array(list(order), np.int64))):
        rank[at] = order[int(ids[at])] + (0 if in_plan[at] else 10_000)
    gone = np.concatenate((np.zeros(len(extra), bool), np.array([dot.gone for dot in dots], bool)))
    km = project(centre, both[:, 1], both[:, 2])
    return Points(ids, km, both[:, 3].astype(np.int64), in_plan, gone, rank).with_rows()


def kind_of(modes: int) -> str:
    """The kind in a point's bits."""
    return _KINDS.get(modes & ~_MODE_MASK, "repeater")


def modes_of(modes: int) -> int:
    """The modes in a point's bits."""
    return modes & _MODE_MASK
