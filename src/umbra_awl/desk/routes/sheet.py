"""The punch sheet: services across, destinations down; a punched hole is a route."""

from PyQt6.QtCore import QEvent, QRect, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QAbstractScrollArea, QFrame, QLineEdit

from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.moved import gone_and_come
from umbra_awl.desk.parts.tips import show_tip
from umbra_awl.desk.routes import punching
from umbra_awl.desk.routes.area import Area
from umbra_awl.desk.routes.sheet_layout import Cell, SheetLayout, Sizes
from umbra_awl.desk.routes.sheet_paint import Marks, SheetPainter, View
from umbra_awl.desk.selection import Selection
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

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


class PunchSheet(QAbstractScrollArea):
    """Shows and edits the routes of the workbench's plan."""

    edit_asked = pyqtSignal()
    mode_shown = pyqtSignal(str)

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        self._theme = theme
        self._painter = SheetPainter(theme)
        self.sheet = SheetLayout(PlanIndex(Plan()))
        self.cursor_cell: Cell | None = None
        self._run = Area()
        self._area = Area()
        self._pressed: Cell | None = None
        self._mode = ""
        self._rings: dict[str, str] = {}
        self._flagged: dict[str, str] = {}
        self._members: frozenset[str] = frozenset()
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Punch sheet")
        self.filter = QLineEdit(self.viewport())
        self.filter.setProperty("role", "filter")
        self.filter.setPlaceholderText("Filter destinations")
        self.filter.setAccessibleName("Filter destinations")
        self.filter.setClearButtonEnabled(True)
        self.filter.textChanged.connect(lambda _text: self.rebuild())
        bench.plan_changed.connect(self._plan_changed)
        bench.results_changed.connect(self._take_findings)
        bench.selection_changed.connect(self._take_selection)
        theme.changed.connect(self.rebuild)
        self.rebuild()

    def _refresh_all(self) -> None:
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()

    def _sizes(self) -> Sizes:
        """Few columns take the room there is: the names first, then the columns."""
        px, viewport = self._theme.px, self.viewport()
        columns = sum(self._mode in {"", service.mode} for _access, service in self._bench.index.all_services())
        spare = max(viewport.width() - px(200) - columns * px(80), 0) if viewport is not None else 0
        left = px(200) + min(spare, px(70))
        column = px(80) + min(max(spare - px(70), 0) // max(columns, 1), px(24))
        return Sizes(left, px(74), column, px(26), px(24))

    def rebuild(self) -> None:
        """Lay the sheet out anew, keeping the cursor on its crossing."""
        self.sheet = SheetLayout(self._bench.index, self.filter.text(), self._sizes(), self._mode)
        self.filter.setGeometry(
            8, self.sheet.sizes.head - self._theme.px(34), self.sheet.sizes.left - 18, self._theme.px(26)
        )
        self.filter.setVisible(bool(self._bench.plan.destinations))
        self._place_cursor()
        self._set_bars()
        self._refresh_all()

    def show_mode(self, mode: str) -> None:
        """Leave only one mode's services and what they reach; an empty text shows them all."""
        self._mode = mode
        self.mode_shown.emit(mode)
        self.rebuild()

    def _plan_changed(self) -> None:
        old, index = self.sheet.index.plan, self._bench.index
        same = (
            old.access == index.plan.access
            and old.destinations == index.plan.destinations
            and old.networks == index.plan.networks
        )
        if not same:
            self.rebuild()
            return
        gone, come = gone_and_come(old.routes, index.plan.routes)
        self.sheet.index = index
        for route in (*gone, *come):
            self._update_cell(self.sheet.row_at.get(route.destination), self.sheet.column_at.get(route.service))

    def _take_findings(self) -> None:
        rings: dict[str, str] = {}
        flagged: dict[str, str] = {}
        for finding in reversed(self._bench.results.findings):
            if finding.target.kind == "route":
                rings[finding.target.key] = finding.severity
            elif finding.target.kind == "service":
                flagged[finding.target.key] = finding.severity
        for key, route in self._bench.index.routes.items():
            if flagged.get(route.service) == "stop":
                rings[key] = "stop"
        if (rings, flagged) != (self._rings, self._flagged):
            self._rings, self._flagged = rings, flagged
            self._refresh_all()

    def show_members(self, keys: frozenset[str]) -> None:
        """Tint the crossings of these routes (a zone's)."""
        if keys != self._members:
            self._members = keys
            self._refresh_all()

    def _take_selection(self) -> None:
        before = self.cursor_cell
        service = self._bench.index.services.get(self._bench.selection.service)
        if self._mode and service is not None and service[1].mode != self._mode:
            self.show_mode("")
        self._place_cursor()
        if self.cursor_cell != before and self.cursor_cell is not None:
            self._reveal(self.cursor_cell)
        self._refresh_all()

    def _place_cursor(self) -> None:
        selection = self._bench.selection
        row = self.sheet.row_at.get(selection.destination)
        column = self.sheet.column_at.get(selection.service)
        self.cursor_cell = Cell(row, column, selection.slot) if row is not None and column is not None else None

    def _view(self) -> View:
        across, down, viewport = self.horizontalScrollBar(), self.verticalScrollBar(), self.viewport()
        assert across is not None
        assert down is not None
        assert viewport is not None
        return View(across.value(), down.value(), viewport.width(), viewport.height())

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
        """Move the pixels that stay; only what comes into view is painted. The heads stay where they are."""
        viewport, sizes = self.viewport(), self.sheet.sizes
        if viewport is None:
            return
        if dy:
            viewport.scroll(0, dy, QRect(0, sizes.head, viewport.width(), viewport.height() - sizes.head))
        if dx:
            viewport.scroll(dx, 0, QRect(sizes.left, 0, viewport.width() - sizes.left, viewport.height()))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if self._sizes() != self.sheet.sizes:
            self.rebuild()
        self._set_bars()

    def marks(self) -> Marks:
        """What is drawn over the cells now."""
        cells = self._run.cells or self._area.cells or self.sheet.cells(self._bench.selection.many)
        run = frozenset((cell.row, cell.column) for cell in cells)
        return Marks(self._rings, self._flagged, self.cursor_cell, run, self._members, self.hasFocus())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        viewport = self.viewport()
        if event is None or viewport is None:
            return
        painter = QPainter(viewport)
        self._painter.paint(painter, self.sheet, self._view(), self.marks(), event.rect())
        if not self.sheet.columns or not self.sheet.rows:
            self._paint_empty(painter)

    def _paint_empty(self, painter: QPainter) -> None:
        painter.setPen(self._theme.color("ink2"))
        painter.setFont(self._theme.font(13))
        view = self._view()
        text = "Nothing of that name. Clear the filter to see every destination."
        if not self.sheet.columns:
            text = "Services stand across, destinations down, and a punched hole is a route."
            text += "\nAdd an access point to begin (Ctrl Shift A)."
        elif not self.filter.text():
            text = "Add a destination: a talk group, a station, or simply “local” (Ctrl Shift D)."
        painter.drawText(QRectF(20, 90, view.width - 40, 120), Qt.AlignmentFlag.AlignCenter, text)

    def _update_cell(self, row: int | None, column: int | None) -> None:
        viewport = self.viewport()
        if row is None or column is None or viewport is None:
            return
        sizes, view = self.sheet.sizes, self._view()
        left = sizes.left - view.x + column * sizes.column
        top = sizes.head - view.y + self.sheet.tops[row]
        viewport.update(QRect(left, top, sizes.column, sizes.row))

    def _reveal(self, cell: Cell) -> None:
        across, down = self.horizontalScrollBar(), self.verticalScrollBar()
        if across is None or down is None:
            return
        sizes, view = self.sheet.sizes, self._view()
        for bar, at, size, room in (
            (across, cell.column * sizes.column, sizes.column, view.width - sizes.left),
            (
                down,
                self.sheet.tops[cell.row] - (sizes.group if cell.row <= 1 else 0),
                sizes.row,
                view.height - sizes.head,
            ),
        ):
            if at < bar.value():
                bar.setValue(at)
            elif at + size > bar.value() + room:
                bar.setValue(at + size - room)

    def move_to(self, cell: Cell, many: tuple[tuple[str, str], ...] = ()) -> None:
        """Put the cursor on a cell and select its crossing, or many with it."""
        slot = cell.slot or self._usual_slot(cell)
        at = self.sheet.columns[cell.column], self.sheet.rows[cell.row]
        self._bench.select(Selection(at[0].service, at[1].destination, slot, many=many))

    def select_shown(self) -> None:
        """Select every crossing that is shown: all of them, or what filter and mode have left."""
        rows = list(self.sheet.row_at.values())
        if rows and self.sheet.columns:
            cells = self.sheet.between(Cell(rows[0], 0), Cell(rows[-1], len(self.sheet.columns) - 1))
            self.move_to(self.cursor_cell or Cell(rows[0], 0), self.sheet.names(cells))

    def _usual_slot(self, cell: Cell) -> int:
        column = self.sheet.columns[cell.column]
        here = self._bench.index.by_crossing.get((column.service, self.sheet.rows[cell.row].destination), ())
        places = self.sheet.places(cell.row, cell.column)
        return here[0].slot if here else places[0] if places else 0

    def _cell_under(self, event: QMouseEvent) -> Cell | None:
        sizes, view = self.sheet.sizes, self._view()
        x, y = int(event.position().x()), int(event.position().y())
        if x < sizes.left or y < sizes.head:
            return None
        return self.sheet.cell_at(x - sizes.left + view.x, y - sizes.head + view.y)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        self.setFocus()
        cell = self._cell_under(event)
        if cell is None:
            self._press_head(event)
            return
        self._pressed = cell
        self._leave()
        again = self.cursor_cell is not None and self.cursor_cell[:2] == cell[:2] and not self._bench.selection.many
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier and self.cursor_cell is not None:
            self.move_to(cell, self.sheet.names(self.sheet.between(self.cursor_cell, cell)))
            return
        self.move_to(cell)
        if again:
            punching.toggle(self._bench, cell.slot)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag a rectangle of crossings."""
        cell = self._cell_under(event) if event is not None else None
        if cell is None or self._pressed is None or (cell[:2] == self._pressed[:2] and not self._area.cells):
            return
        self._area.stretch(self.sheet, self._pressed, cell)
        self._refresh_all()

    def mouseReleaseEvent(self, _event: QMouseEvent | None) -> None:
        """End of the drag: the rectangle is selected."""
        cells, pressed, self._pressed = self._area.take(), self._pressed, None
        if len(cells) > 1 and pressed is not None:
            self.move_to(pressed, self.sheet.names(cells))

    def _press_head(self, event: QMouseEvent) -> None:
        sizes, view = self.sheet.sizes, self._view()
        x, y = int(event.position().x()), int(event.position().y())
        if y < sizes.head and x >= sizes.left:
            column = (x - sizes.left + view.x) // sizes.column
            if column < len(self.sheet.columns):
                self._bench.select(Selection(service=self.sheet.columns[column].service))
        elif y >= sizes.head:
            row = self.sheet.row_under(y - sizes.head + view.y)
            if row is not None:
                self._bench.select(Selection(destination=self.sheet.rows[row].destination))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        key, held = Qt.Key(event.key()), event.modifiers()
        arrows = _ARROWS.get(key)
        control = bool(held & Qt.KeyboardModifier.ControlModifier)
        if arrows is not None:
            self._arrow(*arrows, running=bool(held & Qt.KeyboardModifier.ShiftModifier), selecting=control)
        elif key == Qt.Key.Key_A and control:
            self.select_shown()
        elif self.cursor_cell is None or not self._cell_key(key, held):
            super().keyPressEvent(event)

    def _cell_key(self, key: Qt.Key, modifiers: Qt.KeyboardModifier) -> bool:
        many = bool(self._bench.selection.many)
        if key == Qt.Key.Key_Escape and (self._run.cells or many):
            self._leave()
            self._bench.select(self._bench.selection._replace(many=()))
            self._refresh_all()
        elif key in {Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2}:
            self.edit_asked.emit()
        elif many:
            return punching.key_on_many(self._bench, key)
        else:
            return punching.key_on_one(self._bench, key, modifiers)
        return True

    def _leave(self) -> None:
        """Let go of every rectangle and run in the making: what was left is not acted upon any more."""
        self._run.take()
        self._area.take()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        self._leave()
        self._refresh_all()

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Shift and self._run.cells:
            punching.paint_run(self._bench, self.sheet.names(self._run.take()))
            QTimer.singleShot(0, self._refresh_all)
        super().keyReleaseEvent(event)

    def _arrow(self, rows: int, columns: int, *, running: bool, selecting: bool) -> None:
        if not self.sheet.columns or not self.sheet.row_at:
            return
        here = self.cursor_cell or Cell(next(iter(self.sheet.row_at.values())), 0)
        there = self.sheet.step(here, rows, columns) if self.cursor_cell is not None else here
        if running and selecting:
            if self._bench.selection.many != self.sheet.names(self._area.cells):
                self._area.take()  # something else was selected since: a new rectangle begins here
            self._area.stretch(self.sheet, here, there)
            self.move_to(there, self.sheet.names(self._area.cells))
            return
        self._area.take()
        if running:
            self._run.stretch(self.sheet, here, there)
        self.move_to(there)

    def viewportEvent(self, event: QEvent | None) -> bool:
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            show_tip(event.globalPos(), self._hover_words(event), self)
            return True
        return super().viewportEvent(event)

    def _hover_words(self, event: QHelpEvent) -> str:
        sizes, view = self.sheet.sizes, self._view()
        x, y = event.pos().x() - sizes.left, event.pos().y() - sizes.head
        cell = self.sheet.cell_at(x + view.x, y + view.y) if x >= 0 and y >= 0 else None
        return self.sheet.crossing(cell.row, cell.column).reason if cell is not None else ""
