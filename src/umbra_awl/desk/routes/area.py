"""A stretch of cells in the making: begun at one cell, stretched to another."""

from umbra_awl.desk.sheet.in_view import Cell
from umbra_awl.desk.sheet.layout import SheetLayout


class Area:
    """A rectangle of cells between an anchor and where the hand is now."""

    def __init__(self) -> None:
        self._anchor: Cell | None = None
        self.cells: tuple[Cell, ...] = ()

    def stretch(self, sheet: SheetLayout, here: Cell, there: Cell) -> None:
        """Stretch it to a cell; the first time it begins at `here`."""
        self._anchor = self._anchor or here
        self.cells = sheet.between(self._anchor, there)

    def take(self) -> tuple[Cell, ...]:
        """The cells; the area is empty afterwards."""
        cells, self.cells, self._anchor = self.cells, (), None
        return cells
