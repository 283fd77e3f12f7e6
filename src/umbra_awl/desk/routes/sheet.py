"""The punch sheet: services across, destinations down; a punched hole is a route."""

from PyQt6.QtCore import QPoint, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QPainter,
    QPaintEvent,
    QResizeEvent,
)
from PyQt6.QtWidgets import QFrame, QLineEdit

from umbra_awl.core.plan.edit.moved import gone_and_come
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.pointed import ThingAct
from umbra_awl.desk.routes.cell_acts import cell_acts
from umbra_awl.desk.routes.said_cell import said_cell
from umbra_awl.desk.routes.sheet_events import SheetEvents
from umbra_awl.desk.routes.sheet_flags import SheetFlags
from umbra_awl.desk.routes.sheet_hands import SheetHands
from umbra_awl.desk.sheet.grid import Shown, column_of, grid_of
from umbra_awl.desk.sheet.in_view import Cell
from umbra_awl.desk.sheet.layout import SheetLayout
from umbra_awl.desk.sheet.paint import SheetPainter
from umbra_awl.desk.sheet.view import SheetView
from umbra_awl.desk.theme.theme import Theme

ZOOMS = (0.6, 0.7, 0.8, 0.9, 1.0, 1.15, 1.3, 1.5)


class PunchSheet(SheetView):
    """Shows and edits the routes of the workbench's plan."""

    edit_asked = pyqtSignal()
    mode_shown = pyqtSignal(str)

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__(theme)
        self.flags = SheetFlags(self)
        self.bench = bench
        self._painter = SheetPainter(theme)
        self.hands = SheetHands(self, bench)
        self.cursor_cell: Cell | None = None
        self._mode = ""
        self._unfolded: frozenset[str] = frozenset()
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.filter = QLineEdit(self.viewport())
        self.filter.setProperty("role", "filter")
        self.filter.setPlaceholderText("Filter destinations")
        self.filter.setAccessibleName("Filter destinations")
        self.filter.setClearButtonEnabled(True)
        self.filter.setCursor(Qt.CursorShape.IBeamCursor)
        self.filter.textChanged.connect(lambda _text: self.rebuild())
        viewport = self.viewport()
        assert viewport is not None
        viewport.setMouseTracking(True)
        SheetEvents(self)
        bench.plan_changed.connect(self._plan_changed)
        bench.results_changed.connect(self.flags.take_findings)
        bench.selection_changed.connect(self._take_selection)
        theme.changed.connect(self.rebuild)
        self.rebuild()

    # what lies where

    def rebuild(self) -> None:
        """Lay the sheet out anew, keeping the cursor on its crossing."""
        words = tuple(self.filter.text().casefold().split())
        self._grid = grid_of(self.bench.index, Shown(words, self._mode, self._unfolded))
        self._lay_out()

    def _lay_out(self) -> None:
        sizes = self._sizes()
        self.sheet = SheetLayout(self.bench.index, self._grid, sizes)
        self.hands.out()
        self.filter.setGeometry(8, sizes.head - self._theme.px(34), sizes.left - 18, self._theme.px(26))
        self.filter.setVisible(bool(self.bench.plan.destinations))
        self._place_cursor()
        self._set_bars()
        self.repaint_all()

    def show_mode(self, mode: str) -> None:
        """Leave only one mode's services and what they reach; an empty text shows them all."""
        self._mode = mode
        self.mode_shown.emit(mode)
        self.rebuild()

    def zoom(self, steps: int) -> None:
        """Draw it larger (steps > 0), smaller, or as large as usual (0)."""
        at = ZOOMS.index(self._zoom) + steps if steps else ZOOMS.index(1.0)
        self._zoom = ZOOMS[min(max(at, 0), len(ZOOMS) - 1)]
        self._lay_out()
        if self.cursor_cell is not None:
            self._reveal(self.cursor_cell)

    def fold(self, network: str) -> None:
        """Unfold a network's stations that no route uses, or fold them."""
        self._unfolded = self._unfolded ^ {network}
        self.rebuild()

    # what is told

    def _plan_changed(self) -> None:
        old, index = self.sheet.index.plan, self.bench.index
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
            self._update_cell(self.sheet.cell_of(route.service, route.destination))

    def say(self) -> None:
        """Let a screen reader say the crossing that the cursor is on."""
        self.setAccessibleName(said_cell(self.bench, self.sheet, self.cursor_cell))

    def _take_selection(self) -> None:
        before = self.cursor_cell
        service = self.bench.index.services.get(self.bench.selection.service)
        if self._mode and service is not None and service[1].mode != self._mode:
            self.show_mode("")
        self._unfold_selected()
        self._place_cursor()
        if self.cursor_cell != before and self.cursor_cell is not None:
            self._reveal(self.cursor_cell)
        self.repaint_all()

    def _unfold_selected(self) -> None:
        """A station that is selected is not left folded away."""
        key = self.bench.selection.destination
        item = self.bench.index.destinations.get(key)
        away = item is not None and key not in self.sheet.destinations and not self.filter.text()
        if item is not None and away and item.network not in self._unfolded:
            self.fold(item.network)

    def _place_cursor(self) -> None:
        selection = self.bench.selection
        self.cursor_cell = self.sheet.cell_of(selection.service, selection.destination, selection.slot)
        self.say()

    def show_offer(self, before: Cell | None, now: Cell | None) -> None:
        """Show that a click would punch a hole here, and no more where it would have."""
        viewport = self.viewport()
        for cell in (before, now):
            self._update_cell(cell if cell is not None and cell.row < len(self.sheet.rows) else None)
        if viewport is not None:
            viewport.setCursor(Qt.CursorShape.PointingHandCursor if now is not None else Qt.CursorShape.ArrowCursor)

    # where one looks

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if self._sizes() != self.sheet.sizes:
            self._lay_out()
        self._set_bars()

    # painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        viewport = self.viewport()
        if event is None or viewport is None:
            return
        painter = QPainter(viewport)
        self._painter.paint(painter, self.sheet, self.view(), self.flags.marks(), event.rect())
        if not self.sheet.rows:
            self._paint_empty(painter)

    def _paint_empty(self, painter: QPainter) -> None:
        painter.setPen(self._theme.color("ink2"))
        painter.setFont(self._theme.font(13))
        text = "Nothing of that name. Clear the filter to see every destination."
        if not self.bench.plan.access and not self.bench.plan.destinations:
            text = "Services stand across, destinations down, and a punched hole is a route."
            text += "\nAdd an access point to begin (Ctrl Shift A)."
        elif not self.filter.text():
            text = "Add a destination: a talk group, a station, or simply “local” (Ctrl Shift D)."
        painter.drawText(QRectF(20, 90, self.view().width - 40, 120), Qt.AlignmentFlag.AlignCenter, text)

    # what is selected

    def move_to(self, cell: Cell, many: tuple[tuple[str, str], ...] = ()) -> None:
        """Put the cursor on a cell and select its crossing, or many with it."""
        slot = cell.slot or self._usual_slot(cell)
        service, destination = self.sheet.column(cell).service, self.sheet.rows[cell.row].destination
        self.bench.select(Selection(service, destination, slot, many=many))

    def select_shown(self) -> None:
        """Select every crossing that is shown: all of them, or what filter and mode have left."""
        first = self.sheet.first_cell()
        if first is not None:
            self.move_to(self.cursor_cell or first, self.sheet.names(self.sheet.every_cell()))

    def _usual_slot(self, cell: Cell) -> int:
        here = self.bench.index.by_crossing.get(self.sheet.names([cell])[0], ())
        places = self.sheet.places(cell.row, cell.column)
        return here[0].slot if here else places[0] if places else 0

    def copied(self) -> str:
        """The selected crossings, a line each: the service, the destination, and where it is punched."""
        selection, index = self.bench.selection, self.bench.index
        one = ((selection.service, selection.destination),) if self.bench.crossing_selected else ()
        lines = []
        for service, destination in selection.many or one:
            slots = ", ".join(str(route.slot) for route in index.by_crossing.get((service, destination), ()))
            access, found = index.services[service]
            head = column_of(access, found).head
            lines.append(f"{access.by_site}\t{head}\t{index.destinations[destination].name}\t{slots}")
        return "\n".join(lines)

    # hands

    def acts_at(self, at: QPoint) -> list[ThingAct]:
        """Take the crossing there in hand, and tell what can be done with it."""
        return cell_acts(self, self.bench, at)
