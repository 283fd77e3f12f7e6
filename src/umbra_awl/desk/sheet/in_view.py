"""What of a sheet lies in a view, and what lies under a point."""

from bisect import bisect_right
from collections.abc import Iterable
from typing import TYPE_CHECKING, NamedTuple

if TYPE_CHECKING:
    from umbra_awl.desk.sheet.layout import SheetLayout


class Cell(NamedTuple):
    """A place on the sheet: row and column numbers, and the half of the cell (slot) that was meant, 0 for no half."""

    row: int
    column: int
    slot: int = 0


class InView:
    """Looks on a layout."""

    def __init__(self, owner: "SheetLayout") -> None:
        self._layout = owner

    def visible_rows(self, top: int, bottom: int) -> range:
        """The rows that touch a span of pixels."""
        first = max(0, bisect_right(self._layout.tops, top) - 1)
        last = min(len(self._layout.rows), bisect_right(self._layout.tops, bottom))
        return range(first, last)

    def destinations_in(self, rows: Iterable[int]) -> list[int]:
        """Those of some rows that are destinations."""
        return [at for at in rows if self._layout.rows[at].destination]

    def visible_columns(self, left: int, right: int) -> range:
        """The columns that touch a span of pixels."""
        width = self._layout.sizes.column
        return range(max(0, left // width), min(len(self._layout.columns), -(-right // width)))

    def cell_at(self, x: int, y: int) -> Cell | None:
        """The cell at a place in pixels from the first cell's corner; None on a head or beside the sheet."""
        column = x // self._layout.sizes.column
        row = self.row_under(y)
        if row is None or not self._layout.rows[row].destination or not 0 <= column < len(self._layout.columns):
            return None
        half = 1 if x % self._layout.sizes.column < self._layout.sizes.column / 2 else 2
        slots = self._layout.places(row, column)
        return Cell(row, column, half if half in slots else slots[0] if slots else 0)

    def row_under(self, y: int) -> int | None:
        """The row at a height in pixels, or None."""
        row = bisect_right(self._layout.tops, y) - 1
        return row if 0 <= row < len(self._layout.rows) else None
