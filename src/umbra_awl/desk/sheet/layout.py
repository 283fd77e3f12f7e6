"""Where everything on the punch sheet lies, and which crossings are in shadow: plain arithmetic without widgets."""

from bisect import bisect_right
from collections.abc import Iterable, Iterator, Sequence
from itertools import accumulate
from typing import NamedTuple

from umbra_awl.core.modes.behaviour import Crossing
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.places import LINKED, PAIR
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.desk.sheet.blocks import Column, Draft, SheetRow, Shown, drafts


class Sizes(NamedTuple):
    """Lengths in pixels. `head` is as high as the head of a block; `zoom` is how large it all is drawn."""

    left: int = 200
    head: int = 74
    column: int = 72
    row: int = 26
    group: int = 24
    zoom: float = 1.0


class Cell(NamedTuple):
    """A place on the sheet: row and column numbers, and the half of the cell (slot) that was meant, 0 for no half.

    Columns are counted in the block of the row.
    """

    row: int
    column: int
    slot: int = 0


class Block(NamedTuple):
    """Services that stand over some rows: its name, its columns, the place of each service, its first row and past its last."""

    name: str
    columns: tuple[Column, ...]
    at: dict[str, int]
    first: int
    stop: int


class Part(NamedTuple):
    """Rows of destinations of one block."""

    block: Block
    rows: list[int]


def slot_share(slot: int) -> float:
    """Where in its cell a hole lies across: left for slot 1 or a link, right for slot 2 or a talk memory, else in the middle."""
    return {1: 0.27, 2: 0.73}.get(slot, 0.5)


class SheetLayout:
    """The sheet of one plan, as far as it is shown."""

    def __init__(
        self,
        index: PlanIndex,
        made: Sequence[Draft] | None = None,
        sizes: Sizes = Sizes(),  # noqa: B008  (frozen)
    ) -> None:
        """`made` are the blocks; all of the plan when not given."""
        self.index = index
        self.sizes = sizes
        self.blocks: list[Block] = []
        self.rows: list[SheetRow] = []
        for draft in drafts(index, Shown()) if made is None else made:
            self._add(draft)
        high = {"row": sizes.row, "group": sizes.group, "head": sizes.head, "fold": sizes.row, "note": sizes.group}
        self.tops = [0, *accumulate(high[row.kind] for row in self.rows)]
        self._rows_of: dict[str, list[int]] = {}
        for at, row in enumerate(self.rows):
            if row.destination:
                self._rows_of.setdefault(row.destination, []).append(at)
        self._ends = [block.stop for block in self.blocks]
        self._verdicts: dict[tuple[object, ...], bool] = {}

    def _add(self, draft: Draft) -> None:
        """Put a block under those that are there. The head of the first stands over the rows and is none of them."""
        first = len(self.rows)
        self.rows += [SheetRow("", draft.name, kind="head")] * bool(self.blocks) + list(draft.rows)
        at = {column.service: place for place, column in enumerate(draft.columns)}
        self.blocks.append(Block(draft.name, draft.columns, at, first, len(self.rows)))

    def block_of(self, row: int) -> Block:
        """The block in which a row stands."""
        return self.blocks[bisect_right(self._ends, row)]

    def block_at(self, y: int) -> Block | None:
        """The block at a height in pixels: the one whose head belongs over what is seen there; None for an empty sheet."""
        row = min(max(bisect_right(self.tops, y) - 1, 0), len(self.rows) - 1)
        if self.rows and row and self.rows[row].kind == "head":
            row -= 1  # its head is seen where it stands; the one before stays over it until that has gone under
        return self.block_of(row) if self.rows else self.blocks[0] if self.blocks else None

    def column(self, cell: Cell) -> Column:
        """The column of a cell."""
        return self.block_of(cell.row).columns[cell.column]

    def cell_of(self, service: str, destination: str, slot: int = 0) -> Cell | None:
        """The cell of a crossing; None where it is not shown."""
        for row in self._rows_of.get(destination, ()):
            column = self.block_of(row).at.get(service)
            if column is not None:
                return Cell(row, column, slot)
        return None

    @property
    def destinations(self) -> list[str]:
        """The keys of the destinations that are shown."""
        return list(self._rows_of)

    @property
    def widest(self) -> int:
        """How many columns the widest block has."""
        return max((len(block.columns) for block in self.blocks), default=0)

    @property
    def width(self) -> int:
        """Width of all columns, without the left heads."""
        return self.widest * self.sizes.column

    @property
    def height(self) -> int:
        """Height of all rows, without the head of the first block."""
        return self.tops[-1]

    def possible(self, row: int, column: int) -> bool:
        """Whether a crossing can be punched; remembered by what it depends on, not for each crossing."""
        destination = self.index.destinations[self.rows[row].destination]
        key = (self.block_of(row).columns[column].service, destination.kind, destination.network)
        verdict = self._verdicts.get(key)
        if verdict is None:
            verdict = self._verdicts[key] = self.crossing(row, column).possible
        return verdict

    def places(self, row: int, column: int) -> tuple[int, ...]:
        """The places of a crossing that are told apart: slots, or link and talk; none where there is one in the middle."""
        head = self.block_of(row).columns[column]
        if head.mode == "dstar" and self.index.destinations[self.rows[row].destination].kind in LINKED:
            return PAIR
        return head.slots

    def between(self, one: Cell, other: Cell) -> tuple[Cell, ...]:
        """The cells of a rectangle, heads left out."""
        rows = range(min(one.row, other.row), max(one.row, other.row) + 1)
        columns = range(min(one.column, other.column), max(one.column, other.column) + 1)
        return tuple(
            Cell(row, column)
            for row in rows
            if self.rows[row].destination
            for column in columns[: max(len(self.block_of(row).columns) - columns.start, 0)]
        )

    def every_cell(self) -> tuple[Cell, ...]:
        """Every cell that is shown."""
        return tuple(
            Cell(row, column)
            for rows in self._rows_of.values()
            for row in rows
            for column in range(len(self.block_of(row).columns))
        )

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
        access, service = self.index.services[self.block_of(row).columns[column].service]
        return crossing(self.index, access, service, self.index.destinations[self.rows[row].destination])

    def visible_rows(self, top: int, bottom: int) -> range:
        """The rows that touch a span of pixels."""
        first = max(0, bisect_right(self.tops, top) - 1)
        last = min(len(self.rows), bisect_right(self.tops, bottom))
        return range(first, last)

    def parts(self, rows: range) -> Iterator[Part]:
        """The destinations among some rows, block by block."""
        for block in self.blocks:
            inside = range(max(block.first, rows.start), min(block.stop, rows.stop))
            found = [at for at in inside if self.rows[at].destination]
            if found:
                yield Part(block, found)

    def visible_columns(self, block: Block, left: int, right: int) -> range:
        """The columns of a block that touch a span of pixels."""
        width = self.sizes.column
        return range(max(0, left // width), min(len(block.columns), -(-right // width)))

    def cell_at(self, x: int, y: int) -> Cell | None:
        """The cell at a place in pixels from the first cell's corner; None on a head or beside the sheet."""
        column = x // self.sizes.column
        row = self.row_under(y)
        if row is None or not self.rows[row].destination or not 0 <= column < len(self.block_of(row).columns):
            return None
        half = 1 if x % self.sizes.column < self.sizes.column / 2 else 2
        slots = self.places(row, column)
        return Cell(row, column, half if half in slots else slots[0] if slots else 0)

    def row_under(self, y: int) -> int | None:
        """The row at a height in pixels, or None."""
        row = bisect_right(self.tops, y) - 1
        return row if 0 <= row < len(self.rows) else None

    def step(self, cell: Cell, rows: int, columns: int) -> Cell:
        """The cell so many rows and columns on, passing over heads and stopping at the edges.

        In another block it stays with the service, or else at the same place across.
        """
        here = self.block_of(cell.row)
        column = min(max(cell.column + columns, 0), len(here.columns) - 1)
        row, left = cell.row, abs(rows)
        sign = 1 if rows > 0 else -1
        probe = row + sign
        while left and 0 <= probe < len(self.rows):
            if self.rows[probe].destination and self.block_of(probe).columns:
                row, left = probe, left - 1
            probe += sign
        there = self.block_of(row)
        if there is not here:
            column = there.at.get(here.columns[column].service, min(column, len(there.columns) - 1))
        return Cell(row, column, cell.slot if columns == 0 and there is here else 0)

    def other_block(self, cell: Cell, sign: int) -> Cell:
        """The first cell of the next block (sign 1) or of the one before (−1); the cell itself at the ends."""
        at = self.blocks.index(self.block_of(cell.row)) + sign
        while 0 <= at < len(self.blocks):
            block = self.blocks[at]
            row = next((row for row in range(block.first, block.stop) if self.rows[row].destination), None)
            if row is not None and block.columns:
                return Cell(row, block.at.get(self.column(cell).service, 0))
            at += sign
        return cell

    def first_cell(self) -> Cell | None:
        """The first cell there is."""
        return next((Cell(row, 0) for at in self._rows_of.values() for row in at if self.block_of(row).columns), None)

    @staticmethod
    def site_spans(block: Block) -> list[tuple[int, int, str]]:
        """Runs of columns of one access point: first, one past the last, site name."""
        spans: list[tuple[int, int, str]] = []
        for at, column in enumerate(block.columns):
            if spans and block.columns[spans[-1][0]].access == column.access:
                spans[-1] = (spans[-1][0], at + 1, column.site)
            else:
                spans.append((at, at + 1, column.site))
        return spans
