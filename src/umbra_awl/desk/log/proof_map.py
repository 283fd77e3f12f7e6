"""The proof map: the punch sheet once more, each hole a disc filled as far as its route is proven.

A quarter: the repeater was heard; a half: one's own key; three quarters: the echo; whole: heard by somebody, with a dot while
nobody answered. A cross failed; a ring is doubtful, broken where it is old. Never tried is hollow.
"""

from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QFrame

from umbra_awl.core.logbook.model import SHARES
from umbra_awl.core.logbook.proof import RouteProof, proof_words
from umbra_awl.core.plan.model import Route
from umbra_awl.desk.book.log_book import LogBook
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.thread import cross, disc
from umbra_awl.desk.sheet.grid import grid_of
from umbra_awl.desk.sheet.heads import SheetMarks
from umbra_awl.desk.sheet.in_view import Cell
from umbra_awl.desk.sheet.layout import SheetLayout
from umbra_awl.desk.sheet.paint import RING, SheetPainter, hole_centre
from umbra_awl.desk.sheet.view import SheetView
from umbra_awl.desk.theme.theme import Theme


class ProofPainter(SheetPainter):
    """Paints discs in place of holes."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.proofs: dict[str, RouteProof] = {}

    def _holes(
        self, painter: QPainter, layout: SheetLayout, _marks: SheetMarks, rows: list[int], columns: range
    ) -> None:
        crossings, heads = layout.index.by_crossing, layout.columns
        for at in rows:
            destination = layout.rows[at].destination
            for column in columns:
                for route in crossings.get((heads[column].service, destination), ()):
                    self._proof(painter, hole_centre(layout, at, column, route.slot), route)

    def _proof(self, painter: QPainter, at: QPointF, route: Route) -> None:
        theme, found = self._theme, self.proofs.get(route.key)
        grade = found.grade if found is not None else ""
        if found is None or grade in {"", "failed"}:
            if grade == "failed":
                cross(painter, at, theme.color("stop"))
            else:
                disc(painter, at, theme.color("ink2"), theme.color("sheet"), 0.0)
            return
        tone = theme.color("ok" if found.age == "fresh" else "ink2")
        disc(painter, at, tone, theme.color("sheet"), SHARES[grade])
        if grade == "heard-by":
            painter.setBrush(theme.color("sheet"))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.drawEllipse(at, 1.8, 1.8)
        if found.failed:
            cross(painter, at, theme.color("stop"))
        elif found.changed or found.age == "old":
            pen = QPen(theme.color("brass"), 1.8)
            if not found.changed:
                pen.setDashPattern([2, 2])
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(pen)
            painter.drawEllipse(at, RING, RING)

    def _hollow(self, _painter: QPainter, _layout: SheetLayout, _cell: Cell, _hover: Cell | None) -> None:
        """Nothing is punched here."""


class ProofMap(SheetView):
    """Shows the proofs of a plan's routes; arrows and the mouse choose one, which the window has in hand then."""

    chosen = pyqtSignal()

    def __init__(self, bench: Workbench, theme: Theme, book: LogBook) -> None:
        super().__init__(theme)
        self._bench, self._book = bench, book
        self._painter = ProofPainter(theme)
        self.cursor_cell: Cell | None = None
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        bench.plan_changed.connect(self.rebuild)
        bench.selection_changed.connect(self._take_selection)
        book.changed.connect(self._take_proofs)
        theme.changed.connect(self.rebuild)
        self.rebuild()

    def rebuild(self) -> None:
        """Lay the sheet out anew."""
        self._grid = grid_of(self._bench.index)
        self.sheet = SheetLayout(self._bench.index, self._grid, self._sizes())
        self._set_bars()
        self._take_selection()
        self._take_proofs()

    def _take_proofs(self) -> None:
        self._painter.proofs = self._book.proofs
        self._describe()
        self.repaint_all()

    def _take_selection(self) -> None:
        selection = self._bench.selection
        self.cursor_cell = self.sheet.cell_of(selection.service, selection.destination, selection.slot)
        if self.cursor_cell is not None and self.isVisible():
            self._reveal(self.cursor_cell)
        self._describe()
        self.repaint_all()
        self.chosen.emit()

    @property
    def route(self) -> Route | None:
        """The route in hand, where the crossing has one."""
        return self._bench.route

    def _describe(self) -> None:
        route = self.route
        found = self._book.proofs.get(route.key) if route is not None else None
        if route is None or found is None:
            self.setAccessibleName("Proof map: no route chosen")
            return
        self.setAccessibleName(f"Proof map. {self._bench.index.labels.of(route)}: {proof_words(found)}")

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        if self._sizes() != self.sheet.sizes:
            self.rebuild()
        self._set_bars()

    def _marks(self) -> SheetMarks:
        return SheetMarks({}, {}, self.cursor_cell, frozenset(), frozenset(), self.hasFocus())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        viewport = self.viewport()
        if event is not None and viewport is not None:
            self._painter.paint(QPainter(viewport), self.sheet, self.view(), self._marks(), event.rect())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self.setFocus()
        sizes, view = self.sheet.sizes, self.view()
        x, y = event.position().x() - sizes.left + view.x, event.position().y() - sizes.head + view.y
        cell = self.sheet.seen.cell_at(int(x), int(y)) if x >= 0 and y >= 0 else None
        if cell is not None:
            self._go(cell)

    def _go(self, cell: Cell) -> None:
        service, destination = self.sheet.column(cell).service, self.sheet.rows[cell.row].destination
        here = self._bench.index.by_crossing.get((service, destination), ())
        slot = cell.slot if any(item.slot == cell.slot for item in here) else here[0].slot if here else cell.slot
        self._bench.select(Selection(service, destination, slot))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = {
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Down: 1,
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Up: -1,
        }.get(Qt.Key(event.key()) if event is not None else Qt.Key.Key_unknown)
        if step is None:
            super().keyPressEvent(event)
            return
        down = event is not None and event.key() in {Qt.Key.Key_Down, Qt.Key.Key_Up}
        self._step(step, by_row=down)

    def _step(self, step: int, *, by_row: bool) -> None:
        """Go to the next route: along a row, or down a column."""
        places = [
            (self.sheet.cell_of(route.service, route.destination), route) for route in self._bench.index.plan.routes
        ]
        found = [(cell, route) for cell, route in places if cell is not None]

        def place(item: tuple[Cell, Route]) -> tuple[int, int, int]:
            cell, route = item
            return (cell.column, cell.row, route.slot) if by_row else (cell.row, cell.column, route.slot)

        order = sorted(found, key=place)
        if not order:
            return
        route = self.route
        at = next((number for number, item in enumerate(order) if route is not None and item[1].key == route.key), -1)
        _cell, wanted = order[(at + step) % len(order)]
        self._bench.select(Selection(wanted.service, wanted.destination, wanted.slot))

    def focusInEvent(self, event: object) -> None:
        super().focusInEvent(event)  # type: ignore[arg-type]
        self.repaint_all()

    def focusOutEvent(self, event: object) -> None:
        super().focusOutEvent(event)  # type: ignore[arg-type]
        self.repaint_all()
