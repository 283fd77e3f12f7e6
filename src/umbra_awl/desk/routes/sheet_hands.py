"""What mouse and keys do on the punch sheet."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QPoint, Qt, QTimer
from PyQt6.QtGui import QKeyEvent, QMouseEvent

from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.routes import punching
from umbra_awl.desk.routes.area import Area
from umbra_awl.desk.sheet.in_view import Cell
from umbra_awl.desk.sheet.layout import SheetLayout, slot_share

if TYPE_CHECKING:
    from umbra_awl.desk.routes.sheet import PunchSheet

_ARROWS = {
    Qt.Key.Key_Left: (0, -1),
    Qt.Key.Key_Right: (0, 1),
    Qt.Key.Key_Up: (-1, 0),
    Qt.Key.Key_Down: (1, 0),
    Qt.Key.Key_PageUp: (-12, 0),
    Qt.Key.Key_PageDown: (12, 0),
    Qt.Key.Key_Home: (0, -100_000),
    Qt.Key.Key_End: (0, 100_000),
}
_BANDS = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}
_ZOOMS = {Qt.Key.Key_Plus: 1, Qt.Key.Key_Equal: 1, Qt.Key.Key_Minus: -1, Qt.Key.Key_0: 0}
NEAR = 11
"""So many pixels round the middle of a hole belong to it."""


class SheetHands:
    """Turns what the hands do into selections and edits. `run` and `area` are cells in the making, `hover` a hole offered."""

    def __init__(self, sheet: "PunchSheet", bench: Workbench) -> None:
        self._sheet, self._bench = sheet, bench
        self.run = Area()
        self.area = Area()
        self.hover: Cell | None = None
        self._pressed: Cell | None = None
        self._punches = False

    @property
    def _layout(self) -> SheetLayout:
        return self._sheet.sheet

    def leave(self) -> None:
        """Let go of every rectangle and run in the making: what was left is not acted upon any more."""
        self.run.take()
        self.area.take()

    # mouse

    def _spot(self, at: QPoint) -> tuple[int, int]:
        """A place in the viewport, from the first cell's corner."""
        sizes, view = self._layout.sizes, self._sheet.view()
        return at.x() - sizes.left + view.x, at.y() - sizes.head + view.y

    def cell_under(self, at: QPoint) -> Cell | None:
        """The cell at a place in the viewport; None on the heads and beside the sheet."""
        sizes = self._layout.sizes
        return self._layout.seen.cell_at(*self._spot(at)) if at.x() >= sizes.left and at.y() >= sizes.head else None

    def _hole_under(self, at: QPoint) -> Cell | None:
        """The cell whose hole, not punched yet, is at a place in the viewport."""
        cell, layout = self.cell_under(at), self._layout
        if cell is None or not layout.possible(cell.row, cell.column):
            return None
        x, y = self._spot(at)
        sizes = layout.sizes
        away_x = x - (cell.column + slot_share(cell.slot)) * sizes.column
        away_y = y - layout.tops[cell.row] - sizes.row / 2
        taken = any(route.slot == cell.slot for route in self._bench.index.by_crossing.get(self._names(cell), ()))
        return None if taken or away_x**2 + away_y**2 > (NEAR * sizes.zoom) ** 2 else cell

    def _names(self, cell: Cell) -> tuple[str, str]:
        return self._layout.names([cell])[0]

    def press(self, event: QMouseEvent) -> None:
        """Select a cell or a head; a hole that is offered is punched when the button is let go where it was pressed."""
        at = event.position().toPoint()
        cell = self.cell_under(at)
        if cell is None:
            self._press_head(at)
            return
        self._pressed = cell
        self.leave()
        cursor, many = self._sheet.cursor_cell, bool(self._bench.selection.many)
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier and cursor is not None:
            self._pressed = None
            self._sheet.move_to(cell, self._layout.names(self._layout.between(cursor, cell)))
            return
        again = cursor is not None and cursor[:2] == cell[:2] and not many
        self._punches = again or self._hole_under(at) is not None
        self._sheet.move_to(cell)

    def move(self, event: QMouseEvent) -> None:
        """Drag a rectangle of crossings, or offer the hole under the mouse."""
        at = event.position().toPoint()
        if not event.buttons() & Qt.MouseButton.LeftButton:
            self._offer(self._hole_under(at))
            return
        cell = self.cell_under(at)
        if cell is None or self._pressed is None or (cell[:2] == self._pressed[:2] and not self.area.cells):
            return
        self._offer(None)
        self.area.stretch(self._layout, self._pressed, cell)
        self._sheet.repaint_all()

    def release(self) -> None:
        """End of a drag: the rectangle is selected. Without one, a hole that was offered is punched."""
        cells, pressed, self._pressed = self.area.take(), self._pressed, None
        if len(cells) > 1 and pressed is not None:
            self._sheet.move_to(pressed, self._layout.names(cells))
        elif pressed is not None and self._punches:
            self._offer(None)
            punching.toggle(self._bench, pressed.slot)

    def out(self) -> None:
        """The mouse has left the sheet."""
        self._offer(None)

    def _offer(self, cell: Cell | None) -> None:
        if cell != self.hover:
            before, self.hover = self.hover, cell
            self._sheet.show_offer(before, cell)

    def _press_head(self, at: QPoint) -> None:
        layout, sizes = self._layout, self._layout.sizes
        x, y = self._spot(at)
        row = layout.seen.row_under(y) if at.y() >= sizes.head else None
        if at.x() >= sizes.left:
            column = x // sizes.column
            if at.y() < sizes.head and column < len(layout.columns):
                self._bench.select(Selection(service=layout.columns[column].service))
        elif row is not None and layout.rows[row].kind == "fold":
            self._sheet.fold(layout.rows[row].network)
        elif row is not None and layout.rows[row].destination:
            self._bench.select(Selection(destination=layout.rows[row].destination))

    # keys

    def key(self, event: QKeyEvent) -> bool:
        """What a key does; False where it does nothing here."""
        key, held = Qt.Key(event.key()), event.modifiers()
        arrows, control = _ARROWS.get(key), bool(held & Qt.KeyboardModifier.ControlModifier)
        if arrows is not None:
            running = bool(held & Qt.KeyboardModifier.ShiftModifier)
            if control and not running and key in _BANDS and self._sheet.cursor_cell is not None:
                self._sheet.move_to(self._layout.other_band(self._sheet.cursor_cell, _BANDS[key]))
                return True
            self._arrow(*arrows, running=running, selecting=control)
        elif key in _ZOOMS and not control:
            self._sheet.zoom(_ZOOMS[key])
        elif key == Qt.Key.Key_A and control:
            self._sheet.select_shown()
        else:
            return self._cell_key(key, held)
        return True

    def _cell_key(self, key: Qt.Key, modifiers: Qt.KeyboardModifier) -> bool:
        selection = self._bench.selection
        if not self._bench.crossing_selected:
            return False
        if key == Qt.Key.Key_Escape and (self.run.cells or selection.many):
            self.leave()
            self._bench.select(selection._replace(many=()))
            self._sheet.repaint_all()
        elif key in {Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2}:
            self._sheet.edit_asked.emit()
        elif selection.many:
            return punching.key_on_many(self._bench, key)
        else:
            return punching.key_on_one(self._bench, key, modifiers)
        return True

    def shift_released(self) -> None:
        """A run that was painted is punched."""
        if self.run.cells:
            punching.paint_run(self._bench, self._layout.names(self.run.take()))
            QTimer.singleShot(0, self._sheet.repaint_all)

    def _arrow(self, rows: int, columns: int, *, running: bool, selecting: bool) -> None:
        first, cursor = self._layout.first_cell(), self._sheet.cursor_cell
        if first is None:
            return
        here = cursor or first
        there = self._layout.step(here, rows, columns) if cursor is not None else here
        if running and selecting:
            if self._bench.selection.many != self._layout.names(self.area.cells):
                self.area.take()  # something else was selected since: a new rectangle begins here
            self.area.stretch(self._layout, here, there)
            self._sheet.move_to(there, self._layout.names(self.area.cells))
            return
        self.area.take()
        if running:
            self.run.stretch(self._layout, here, there)
        self._sheet.move_to(there)
