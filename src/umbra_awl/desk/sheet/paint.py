"""Painting the punch sheet: only what is visible, in batches."""

from PyQt6.QtCore import QLineF, QPointF, QRect, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF

from umbra_awl.core.plan.model import Route
from umbra_awl.core.plan.places import LINKS, TALKS
from umbra_awl.desk.parts.thread import stitch
from umbra_awl.desk.sheet.heads import HeadPainter, SheetMarks, SheetScroll, tone
from umbra_awl.desk.sheet.in_view import Cell
from umbra_awl.desk.sheet.layout import SheetLayout, slot_share
from umbra_awl.desk.theme.theme import Theme

HOLE = 5.5
RING = 9.0


class SheetPainter:
    """Paints a layout."""

    def __init__(self, theme: Theme) -> None:
        self._theme = theme
        self._heads = HeadPainter(theme)

    def paint(self, painter: QPainter, layout: SheetLayout, view: SheetScroll, marks: SheetMarks, dirty: QRect) -> None:
        """Paint what of the sheet lies in the dirty part of the viewport."""
        painter.fillRect(dirty, self._theme.color("bg"))
        sizes = layout.sizes
        cells = QRect(sizes.left, sizes.head, view.width - sizes.left, view.height - sizes.head)
        inside = cells.intersected(dirty)
        if not inside.isEmpty():
            painter.save()
            painter.setClipRect(inside)
            painter.translate(sizes.left - view.x, sizes.head - view.y)
            self._cells(painter, layout, marks, inside.translated(view.x - sizes.left, view.y - sizes.head))
            painter.restore()
        if dirty.left() < sizes.left:
            self._heads.left(painter, layout, view, marks, dirty)
        if dirty.top() < sizes.head:
            self._heads.top(painter, layout, view, marks, dirty)

    def _cells(self, painter: QPainter, layout: SheetLayout, marks: SheetMarks, part: QRect) -> None:
        visible = layout.seen.visible_rows(part.top(), part.bottom() + 1)
        rows, columns = layout.seen.destinations_in(visible), layout.seen.visible_columns(part.left(), part.right() + 1)
        if rows and columns:
            self._surfaces(painter, layout, rows, columns)
            self._grid(painter, layout, rows, columns)
            self._shade(painter, layout, rows, columns)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._overlays(painter, layout, marks)
        if columns:
            self._holes(painter, layout, marks, rows, columns)
        self._heads.within(painter, layout, visible)
        for cell in (marks.hover, marks.cursor):
            if cell is not None and cell.row in visible:
                self._cursor(painter, layout, marks, cell)

    def _surfaces(self, painter: QPainter, layout: SheetLayout, rows: list[int], columns: range) -> None:
        """What can be worked on."""
        width, height = layout.sizes.column, layout.sizes.row
        color = self._theme.color("sheet")
        for at in rows:
            painter.fillRect(columns.start * width, layout.tops[at], len(columns) * width, height, color)

    def _shade(self, painter: QPainter, layout: SheetLayout, rows: list[int], columns: range) -> None:
        """Over what is impossible: joined runs that hide the lines, so that the shade is in one piece."""
        width, height = layout.sizes.column, layout.sizes.row
        shaded = []
        for at in rows:
            start = None
            for column in (*columns, -1):
                blocked = column >= 0 and not layout.possible(at, column)
                if blocked and start is None:
                    start = column
                elif not blocked and start is not None:
                    end = column if column >= 0 else columns.stop
                    shaded.append(QRect(start * width, layout.tops[at], (end - start) * width, height))
                    start = None
        if shaded:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self._theme.color("shade"))
            painter.drawRects(*shaded)

    def _grid(self, painter: QPainter, layout: SheetLayout, rows: list[int], columns: range) -> None:
        width, height = layout.sizes.column, layout.sizes.row
        left, right = columns.start * width, columns.stop * width
        lines = [QLineF(left, layout.tops[at] + height - 0.5, right, layout.tops[at] + height - 0.5) for at in rows]
        for first, last in _runs(rows):
            top, bottom = layout.tops[first], layout.tops[last] + height
            lines.append(QLineF(left, top - 0.5, right, top - 0.5))
            lines.extend(
                QLineF(column * width - 0.5, top, column * width - 0.5, bottom) for column in (*columns, columns.stop)
            )
            self._halves(painter, layout, columns, top, bottom)
        painter.setPen(self._theme.color("line"))
        painter.drawLines(*lines)

    def _halves(self, painter: QPainter, layout: SheetLayout, columns: range, top: int, bottom: int) -> None:
        """The dotted line between two slots; its dots stay where they are however much of it is painted."""
        width = layout.sizes.column
        slotted = [column for column in columns if len(layout.columns[column].slots) > 1]
        if slotted:
            dots = QPen(self._theme.color("line"), 1)
            dots.setDashPattern([1, 4])
            dots.setDashOffset(top % 5)
            painter.setPen(dots)
            painter.drawLines(
                *(QLineF((column + 0.5) * width, top, (column + 0.5) * width, bottom) for column in slotted)
            )

    def _overlays(self, painter: QPainter, layout: SheetLayout, marks: SheetMarks) -> None:
        width, height = layout.sizes.column, layout.sizes.row
        places = [self._place(layout, key) for key in marks.members] + [Cell(*at) for at in marks.run]
        if marks.cursor is not None:
            places.append(marks.cursor)
        if not places:
            return
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("violet_tint"))
        for cell in places:
            if cell is not None and cell.row < len(layout.rows):
                painter.drawRect(QRectF(cell.column * width, layout.tops[cell.row], width - 1, height - 1))

    @staticmethod
    def _place(layout: SheetLayout, key: str) -> Cell | None:
        route = layout.index.routes.get(key)
        return layout.cell_of(route.service, route.destination) if route else None

    def _holes(
        self, painter: QPainter, layout: SheetLayout, marks: SheetMarks, rows: list[int], columns: range
    ) -> None:
        punched: list[tuple[QPointF, Route]] = []
        eyelets: list[QPointF] = []
        crossings, heads = layout.index.by_crossing, layout.columns
        for at in rows:
            destination = layout.rows[at].destination
            for column in columns:
                here = crossings.get((heads[column].service, destination), ())
                if not here:
                    continue
                punched.extend((hole_centre(layout, at, column, route.slot), route) for route in here)
                if heads[column].mode == "dstar" and layout.places(at, column):
                    eyelets.extend(hole_centre(layout, at, column, LINKS) for route in here if route.slot == LINKS)
                    self._thread(painter, layout, at, column, len(here))
        if punched:
            pen = QPen(self._theme.color("hole"), 2 * HOLE * layout.sizes.zoom)
            pen.setCapStyle(Qt.PenCapStyle.RoundCap)
            painter.setPen(pen)
            painter.drawPoints(QPolygonF([centre for centre, _route in punched]))
        for centre in eyelets:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self._theme.color("sheet"))
            eyelet = (HOLE - 2.6) * layout.sizes.zoom
            painter.drawEllipse(centre, eyelet, eyelet)
        for centre, route in punched:
            self._extras(painter, centre, route, marks, layout.sizes.zoom)

    def _thread(self, painter: QPainter, layout: SheetLayout, row: int, column: int, holes: int) -> None:
        """The stitch from a memory that links to the one that talks."""
        if holes > 1:
            start, end = hole_centre(layout, row, column, LINKS), hole_centre(layout, row, column, TALKS)
            stitch(painter, start, end, self._theme.color("hole"), solid=True)

    def _extras(self, painter: QPainter, at: QPointF, route: Route, marks: SheetMarks, zoom: float) -> None:
        hole = HOLE * zoom
        if route.receive_only:
            painter.fillRect(QRectF(at.x() - hole, at.y() + hole + 1.5, 2 * hole, 1.6), self._theme.color("hole"))
        severity = marks.rings.get(route.key)
        if severity:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(tone(self._theme, severity), 2))
            painter.drawEllipse(at, RING * zoom, RING * zoom)

    def _cursor(self, painter: QPainter, layout: SheetLayout, marks: SheetMarks, cell: Cell) -> None:
        """The cell of the cursor, or the one under the mouse: hollow circles where it could be punched."""
        width, height = layout.sizes.column, layout.sizes.row
        if layout.possible(cell.row, cell.column):
            self._hollow(painter, layout, cell, marks.hover)
        if cell is marks.hover:
            return
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(self._theme.color("violet"), 2.4 if marks.focused else 1.4))
        painter.drawRoundedRect(
            QRectF(cell.column * width + 0.5, layout.tops[cell.row] + 0.5, width - 2, height - 2), 4, 4
        )

    def _hollow(self, painter: QPainter, layout: SheetLayout, cell: Cell, hover: Cell | None) -> None:
        """Hollow circles where a cell could still be punched; the one that a click would punch is filled faintly."""
        column = layout.column(cell)
        here = layout.index.by_crossing.get((column.service, layout.rows[cell.row].destination), ())
        taken = {route.slot for route in here}
        faint = QColor(self._theme.color("hole"))
        faint.setAlpha(70)
        size = (HOLE - 1) * layout.sizes.zoom
        painter.setPen(QPen(self._theme.color("ink2"), 1.4))
        for slot in layout.places(cell.row, cell.column) or (0,):
            if slot not in taken:
                painter.setBrush(
                    faint if hover is not None and cell == hover and slot == hover.slot else Qt.BrushStyle.NoBrush
                )
                painter.drawEllipse(hole_centre(layout, cell.row, cell.column, slot), size, size)


def hole_centre(layout: SheetLayout, row: int, column: int, slot: int) -> QPointF:
    """Where a hole lies in its cell: left for slot 1 or a link, right for slot 2 or a talk memory, else centred."""
    sizes = layout.sizes
    return QPointF((column + slot_share(slot)) * sizes.column, layout.tops[row] + sizes.row / 2 - 0.5)


def _runs(rows: list[int]) -> list[tuple[int, int]]:
    """Rows without a gap, as (first, last)."""
    runs: list[tuple[int, int]] = []
    for at in rows:
        if runs and runs[-1][1] == at - 1:
            runs[-1] = (runs[-1][0], at)
        else:
            runs.append((at, at))
    return runs
