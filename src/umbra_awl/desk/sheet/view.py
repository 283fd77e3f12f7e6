"""A sheet that is looked at: which part of it is in view, scrolling, bringing a cell into view."""

from PyQt6.QtCore import QRect
from PyQt6.QtWidgets import QAbstractScrollArea

from umbra_awl.core.plan.index import NO_DAY, PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.desk.sheet.grid import Grid
from umbra_awl.desk.sheet.heads import SheetScroll
from umbra_awl.desk.sheet.in_view import Cell
from umbra_awl.desk.sheet.layout import SheetLayout, Sizes
from umbra_awl.desk.theme.theme import Theme

_LEFT, _MORE_LEFT = 200, 70
_NARROW, _WIDE = 45, 96
"""A column is no narrower than its two slots can be told apart and hit, and no wider than serves it."""


class SheetView(QAbstractScrollArea):
    """Holds a layout and the part of it in view; who paints it and what hands do to it is for whoever is one."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._grid = Grid()
        self._zoom = 1.0
        self.sheet = SheetLayout(PlanIndex(Plan(), NO_DAY), Grid())

    def repaint_all(self) -> None:
        """Have all of it painted anew."""
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()

    def _px(self, size: float) -> int:
        return self._theme.px(size * self._zoom)

    def _sizes(self) -> Sizes:
        """How large everything is, as it finds room across: the columns take what there is first, then the names."""
        px, viewport, count = self._px, self.viewport(), max(len(self._grid.columns), 1)
        room = max((viewport.width() if viewport is not None else 0) - px(_LEFT), 0)
        column = min(max(room // count, px(_NARROW)), px(_WIDE))
        left = px(_LEFT) + min(max(room - column * count, 0), px(_MORE_LEFT))
        return Sizes(left, max(px(92), self._theme.px(70)), column, px(26), px(24), self._zoom)

    def view(self) -> SheetScroll:
        """The part of the sheet in view."""
        across, down, viewport = self.horizontalScrollBar(), self.verticalScrollBar(), self.viewport()
        assert across is not None
        assert down is not None
        assert viewport is not None
        return SheetScroll(across.value(), down.value(), viewport.width(), viewport.height())

    def _set_bars(self) -> None:
        across, down, viewport = self.horizontalScrollBar(), self.verticalScrollBar(), self.viewport()
        if across is None or down is None or viewport is None:
            return
        wide, high = viewport.width() - self.sheet.sizes.left, viewport.height() - self.sheet.sizes.head
        across.setRange(0, max(0, self.sheet.width - wide))
        across.setPageStep(max(wide, 1))
        across.setSingleStep(self.sheet.sizes.column // 2)
        down.setRange(0, max(0, self.sheet.height - high))
        down.setPageStep(max(high, 1))
        down.setSingleStep(self.sheet.sizes.row)

    def scrollContentsBy(self, dx: int, dy: int) -> None:
        """Move the pixels that stay; only what comes into view is painted. The head stays."""
        viewport, sizes = self.viewport(), self.sheet.sizes
        if viewport is None:
            return
        if dy:
            viewport.scroll(0, dy, QRect(0, sizes.head, viewport.width(), viewport.height() - sizes.head))
        if dx:
            viewport.scroll(dx, 0, QRect(sizes.left, 0, viewport.width() - sizes.left, viewport.height()))

    def _update_cell(self, cell: Cell | None) -> None:
        viewport = self.viewport()
        if cell is None or viewport is None:
            return
        sizes, view = self.sheet.sizes, self.view()
        left = sizes.left - view.x + cell.column * sizes.column
        top = sizes.head - view.y + self.sheet.tops[cell.row]
        viewport.update(QRect(left, top, sizes.column, sizes.row))

    def _reveal(self, cell: Cell) -> None:
        """Bring a cell into view, with the name of its band where it is the first there."""
        across, down = self.horizontalScrollBar(), self.verticalScrollBar()
        if across is None or down is None:
            return
        sizes, view, tops = self.sheet.sizes, self.view(), self.sheet.tops
        above = next(
            (tops[at] for at in (cell.row - 1,) if at >= 0 and not self.sheet.rows[at].destination), tops[cell.row]
        )
        for bar, at, end, room in (
            (across, cell.column * sizes.column, (cell.column + 1) * sizes.column, view.width - sizes.left),
            (down, above, tops[cell.row] + sizes.row, view.height - sizes.head),
        ):
            if at < bar.value():
                bar.setValue(at)
            elif end > bar.value() + room:
                bar.setValue(end - room)
