"""Where everything on the punch sheet lies, and which crossings are in shadow: plain arithmetic without widgets."""

from collections.abc import Iterable, Iterator
from itertools import accumulate
from typing import NamedTuple

from umbra_awl.core.modes.behaviour import Crossing
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.places import LINKED, PAIR
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.desk.sheet.grid import Column, Grid, grid_of
from umbra_awl.desk.sheet.in_view import Cell, InView


class Sizes(NamedTuple):
    """Lengths in pixels. `head` is as high as the head over the columns; `zoom` is how large it all is drawn."""

    left: int = 200
    head: int = 92
    column: int = 72
    row: int = 26
    group: int = 24
    zoom: float = 1.0


def slot_share(slot: int) -> float:
    """Where in its cell a hole lies across: left for slot 1 or a link, right for slot 2 or a talk memory, else in the middle."""
    return {1: 0.27, 2: 0.73}.get(slot, 0.5)


class SheetLayout:
    """The sheet of one plan, as far as it is shown."""

    def __init__(
        self,
        index: PlanIndex,
        grid: Grid | None = None,
        sizes: Sizes = Sizes(),  # noqa: B008  (frozen)
    ) -> None:
        """`grid` is what stands across and down; all of the plan when not given."""
        self.seen = InView(self)
        self.index = index
        self.sizes = sizes
        self.columns, self.rows = grid_of(index) if grid is None else grid
        self.at = {column.service: place for place, column in enumerate(self.columns)}
        high = {"row": sizes.row, "group": sizes.group, "fold": sizes.row, "note": sizes.group}
        self.tops = [0, *accumulate(high[row.kind] for row in self.rows)]
        self._row_of = {row.destination: at for at, row in enumerate(self.rows) if row.destination}
        self._verdicts: dict[tuple[object, ...], bool] = {}

    def column(self, cell: Cell) -> Column:
        """The column of a cell."""
        return self.columns[cell.column]

    def cell_of(self, service: str, destination: str, slot: int = 0) -> Cell | None:
        """The cell of a crossing; None where it is not shown."""
        row, column = self._row_of.get(destination), self.at.get(service)
        return None if row is None or column is None else Cell(row, column, slot)

    @property
    def destinations(self) -> list[str]:
        """The keys of the destinations that are shown."""
        return list(self._row_of)

    @property
    def width(self) -> int:
        """Width of all columns, without the left heads."""
        return len(self.columns) * self.sizes.column

    @property
    def height(self) -> int:
        """Height of all rows, without the head over them."""
        return self.tops[-1]

    def possible(self, row: int, column: int) -> bool:
        """Whether a crossing can be punched; remembered by what it depends on, not for each crossing."""
        destination = self.index.destinations[self.rows[row].destination]
        key = (self.columns[column].service, destination.kind, destination.network)
        verdict = self._verdicts.get(key)
        if verdict is None:
            verdict = self._verdicts[key] = self.crossing(row, column).possible
        return verdict

    def places(self, row: int, column: int) -> tuple[int, ...]:
        """The places of a crossing that are told apart: slots, or link and talk; none where there is one in the middle."""
        head = self.columns[column]
        if head.mode == "dstar" and self.index.destinations[self.rows[row].destination].kind in LINKED:
            return PAIR
        return head.slots

    def between(self, one: Cell, other: Cell) -> tuple[Cell, ...]:
        """The cells of a rectangle, without heads and what cannot be punched."""
        rows = range(min(one.row, other.row), max(one.row, other.row) + 1)
        columns = range(min(one.column, other.column), max(one.column, other.column) + 1)
        return self._open(self.seen.destinations_in(rows), columns)

    def every_cell(self) -> tuple[Cell, ...]:
        """Every cell that is shown and can be punched."""
        return self._open(self._row_of.values(), range(len(self.columns)))

    def _open(self, rows: Iterable[int], columns: range) -> tuple[Cell, ...]:
        return tuple(Cell(row, column) for row in rows for column in columns if self.possible(row, column))

    def names(self, cells: Iterable[Cell]) -> tuple[tuple[str, str], ...]:
        """Cells as (service key, destination key)."""
        return tuple((self.column(cell).service, self.rows[cell.row].destination) for cell in cells)

    def cells(self, crossings: Iterable[tuple[str, str]]) -> Iterator[Cell]:
        """The cells of crossings, those that are shown."""
        for service, destination in crossings:
            cell = self.cell_of(service, destination)
            if cell is not None:
                yield cell

    def crossing(self, row: int, column: int) -> Crossing:
        """The crossing with its reason."""
        access, service = self.index.services[self.columns[column].service]
        return crossing(self.index, access, service, self.index.destinations[self.rows[row].destination])

    def step(self, cell: Cell, rows: int, columns: int) -> Cell:
        """The cell so many rows and columns on, stopping at the edges: over heads, and across over what cannot be punched."""
        column = self._across(cell, columns)
        row, left = cell.row, abs(rows)
        sign = 1 if rows > 0 else -1
        probe = row + sign
        while left and 0 <= probe < len(self.rows):
            if self.rows[probe].destination:
                row, left = probe, left - 1
            probe += sign
        return Cell(row, column, cell.slot if columns == 0 else 0)

    def _across(self, cell: Cell, columns: int) -> int:
        """The column so many open ones on; the cell's own where there is none on that side."""
        ahead = range(cell.column + 1, len(self.columns)) if columns > 0 else range(cell.column - 1, -1, -1)
        found = [at for at in ahead if self.possible(cell.row, at)][: abs(columns)]
        return found[-1] if columns and found else cell.column

    def other_band(self, cell: Cell, sign: int) -> Cell:
        """The first row of the next band (sign 1) or of the one before (−1), at the nearest service that carries it.

        The cell itself at the ends.
        """
        firsts = [at for at in self._row_of.values() if not at or not self.rows[at - 1].destination]
        ahead = [at for at in firsts if at > cell.row] if sign > 0 else [at for at in firsts if at <= cell.row][:-1]
        if not ahead:
            return cell
        row = ahead[0] if sign > 0 else ahead[-1]
        found = [at for at in range(len(self.columns)) if self.possible(row, at)]
        return Cell(row, min(found, key=lambda at: abs(at - cell.column), default=cell.column))

    def first_cell(self) -> Cell | None:
        """The first cell there is."""
        return next((Cell(row, 0) for row in self._row_of.values() if self.columns), None)

    def site_spans(self) -> list[tuple[int, int, str]]:
        """Runs of columns of one access point: first, one past the last, site name."""
        spans: list[tuple[int, int, str]] = []
        for at, column in enumerate(self.columns):
            if spans and self.columns[spans[-1][0]].access == column.access:
                spans[-1] = (spans[-1][0], at + 1, column.site)
            else:
                spans.append((at, at + 1, column.site))
        return spans
