"""Painting the punch sheet: only what is visible, in batches."""

from collections.abc import Mapping
from typing import NamedTuple

from PyQt6.QtCore import QLineF, QPointF, QRect, QRectF, Qt
from PyQt6.QtGui import QColor, QFontMetrics, QPainter, QPen, QPolygonF

from umbra_awl.core.plan.model import Route
from umbra_awl.core.plan.places import LINKS, TALKS
from umbra_awl.desk.parts.thread import stitch
from umbra_awl.desk.routes.sheet_layout import Cell, SheetLayout
from umbra_awl.desk.theme.theme import Theme

HOLE = 5.5
RING = 9.0


class Marks(NamedTuple):
    """What is drawn over the cells: rings by route key, marked columns, the cursor, the painted run, shown members."""

    rings: Mapping[str, str]
    flagged: Mapping[str, str]
    cursor: Cell | None
    run: frozenset[tuple[int, int]]
    members: frozenset[str]
    focused: bool


class View(NamedTuple):
    """The part of the sheet in view: offsets and size in pixels."""

    x: int
    y: int
    width: int
    height: int


class SheetPainter:
    """Paints a layout."""

    def __init__(self, theme: Theme) -> None:
        self._theme = theme

    def paint(self, painter: QPainter, layout: SheetLayout, view: View, marks: Marks, dirty: QRect) -> None:
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
            self._left(painter, layout, view, marks, dirty)
        if dirty.top() < sizes.head:
            self._head(painter, layout, view, marks, dirty)

    def _cells(self, painter: QPainter, layout: SheetLayout, marks: Marks, part: QRect) -> None:
        rows = [at for at in layout.visible_rows(part.top(), part.bottom()) if layout.rows[at].destination]
        columns = layout.visible_columns(part.left(), part.right() + 1)
        if not rows or not columns:
            return
        self._surfaces(painter, layout, rows, columns)
        self._grid(painter, layout, rows, columns)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._overlays(painter, layout, marks)
        self._holes(painter, layout, marks, rows, columns)
        if marks.cursor is not None and marks.cursor.row in rows and marks.cursor.column in columns:
            self._cursor(painter, layout, marks)

    def _surfaces(self, painter: QPainter, layout: SheetLayout, rows: list[int], columns: range) -> None:
        """Sheet where a crossing is possible; shade, drawn as joined runs, where not."""
        width, height = layout.sizes.column, layout.sizes.row
        open_, shaded = [], []
        for at in rows:
            top = layout.tops[at]
            open_.append(QRect(columns.start * width, top, len(columns) * width, height))
            start = None
            for column in (*columns, -1):
                blocked = column >= 0 and not layout.possible(at, column)
                if blocked and start is None:
                    start = column
                elif not blocked and start is not None:
                    end = column if column >= 0 else columns.stop
                    shaded.append(QRect(start * width, top, (end - start) * width, height))
                    start = None
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("sheet"))
        painter.drawRects(*open_)
        painter.setBrush(self._theme.color("shade"))
        if shaded:
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
        painter.setPen(QPen(self._theme.color("line"), 1))
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

    def _overlays(self, painter: QPainter, layout: SheetLayout, marks: Marks) -> None:
        width, height = layout.sizes.column, layout.sizes.row
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._theme.color("violet_tint"))
        places = [self._place(layout, key) for key in marks.members] + [Cell(*at) for at in marks.run]
        if marks.cursor is not None:
            places.append(marks.cursor)
        for cell in places:
            if cell is not None and cell.row < len(layout.rows):
                painter.drawRect(QRectF(cell.column * width, layout.tops[cell.row], width - 1, height - 1))

    @staticmethod
    def _place(layout: SheetLayout, key: str) -> Cell | None:
        route = layout.index.routes.get(key)
        row = layout.row_at.get(route.destination) if route else None
        column = layout.column_at.get(route.service) if route else None
        return Cell(row, column) if row is not None and column is not None else None

    def _holes(self, painter: QPainter, layout: SheetLayout, marks: Marks, rows: list[int], columns: range) -> None:
        punched: list[tuple[QPointF, Route]] = []
        eyelets: list[QPointF] = []
        crossings = layout.index.by_crossing
        for at in rows:
            destination = layout.rows[at].destination
            for column in columns:
                here = crossings.get((layout.columns[column].service, destination), ())
                if not here:
                    continue
                punched.extend((hole_centre(layout, at, column, route.slot), route) for route in here)
                if layout.columns[column].mode == "dstar" and layout.places(at, column):
                    eyelets.extend(hole_centre(layout, at, column, LINKS) for route in here if route.slot == LINKS)
                    self._thread(painter, layout, at, column, len(here))
        if punched:
            pen = QPen(self._theme.color("hole"), 2 * HOLE)
            pen.setCapStyle(Qt.PenCapStyle.RoundCap)
            painter.setPen(pen)
            painter.drawPoints(QPolygonF([centre for centre, _route in punched]))
        for centre in eyelets:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self._theme.color("sheet"))
            painter.drawEllipse(centre, HOLE - 2.6, HOLE - 2.6)
        for centre, route in punched:
            self._extras(painter, centre, route, marks)

    def _thread(self, painter: QPainter, layout: SheetLayout, row: int, column: int, holes: int) -> None:
        """The stitch from a memory that links to the one that talks."""
        if holes > 1:
            start, end = hole_centre(layout, row, column, LINKS), hole_centre(layout, row, column, TALKS)
            stitch(painter, start, end, self._theme.color("hole"), solid=True)

    def _extras(self, painter: QPainter, at: QPointF, route: Route, marks: Marks) -> None:
        if route.receive_only:
            painter.fillRect(QRectF(at.x() - HOLE, at.y() + HOLE + 1.5, 2 * HOLE, 1.6), self._theme.color("hole"))
        severity = marks.rings.get(route.key)
        if severity:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(self._tone(severity), 2))
            painter.drawEllipse(at, RING, RING)

    def _tone(self, severity: str) -> QColor:
        return self._theme.color({"stop": "stop", "warn": "brass"}.get(severity, "ink2"))

    def _cursor(self, painter: QPainter, layout: SheetLayout, marks: Marks) -> None:
        cell = marks.cursor
        if cell is None or cell.row >= len(layout.rows):
            return
        width, height = layout.sizes.column, layout.sizes.row
        if layout.possible(cell.row, cell.column):
            self._hollow(painter, layout, cell)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(self._theme.color("violet"), 2.4 if marks.focused else 1.4))
        painter.drawRoundedRect(
            QRectF(cell.column * width + 0.5, layout.tops[cell.row] + 0.5, width - 2, height - 2), 4, 4
        )

    def _hollow(self, painter: QPainter, layout: SheetLayout, cell: Cell) -> None:
        """Hollow circles where the cursor's cell could still be punched."""
        column = layout.columns[cell.column]
        here = layout.index.by_crossing.get((column.service, layout.rows[cell.row].destination), ())
        taken = {route.slot for route in here}
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(self._theme.color("ink2"), 1.4))
        for slot in layout.places(cell.row, cell.column) or (0,):
            if slot not in taken:
                painter.drawEllipse(hole_centre(layout, cell.row, cell.column, slot), HOLE - 1, HOLE - 1)

    def _left(self, painter: QPainter, layout: SheetLayout, view: View, marks: Marks, dirty: QRect) -> None:
        theme, sizes = self._theme, layout.sizes
        part = QRect(0, sizes.head, sizes.left, view.height - sizes.head).intersected(dirty)
        painter.save()
        painter.setClipRect(part)
        painter.fillRect(part, theme.color("bg"))
        painter.translate(0, sizes.head - view.y)
        plain, bold, mono = theme.font(13), theme.font(13, weight=600), theme.font(12, mono=True)
        metrics = QFontMetrics(bold)
        for at in layout.visible_rows(part.top() - sizes.head + view.y, part.bottom() - sizes.head + view.y):
            row, top = layout.rows[at], layout.tops[at]
            if not row.destination:
                painter.setFont(theme.font(12, weight=600))
                painter.setPen(theme.color("ink2"))
                painter.drawText(QRectF(4, top, 600, sizes.group), _MIDDLE, row.name)
                continue
            painter.fillRect(QRectF(0, top, sizes.left, sizes.row), theme.color("panel"))
            painter.fillRect(QRectF(0, top + sizes.row - 1, sizes.left, 1), theme.color("line"))
            chosen = marks.cursor is not None and marks.cursor.row == at
            painter.setPen(theme.color("violet" if chosen else "ink"))
            painter.setFont(bold if chosen else plain)
            number = metrics.horizontalAdvance(row.number) + 18 if row.number else 8
            name = metrics.elidedText(row.name, Qt.TextElideMode.ElideRight, sizes.left - number - 10)
            painter.drawText(QRectF(10, top, sizes.left, sizes.row), _MIDDLE, name)
            painter.setPen(theme.color("ink2"))
            painter.setFont(mono)
            painter.drawText(QRectF(0, top, sizes.left - 8, sizes.row), _RIGHT, row.number)
        painter.restore()

    def _head(self, painter: QPainter, layout: SheetLayout, view: View, marks: Marks, dirty: QRect) -> None:
        theme, sizes = self._theme, layout.sizes
        painter.save()
        painter.setClipRect(dirty)
        painter.fillRect(0, 0, view.width, sizes.head, theme.color("bg"))
        painter.fillRect(0, 0, min(view.width, sizes.left + layout.width), sizes.head - 4, theme.color("panel"))
        part = QRect(sizes.left, 0, view.width - sizes.left, sizes.head).intersected(dirty)
        painter.setClipRect(part)
        painter.translate(sizes.left - view.x, 0)
        visible = layout.visible_columns(part.left() - sizes.left + view.x, part.right() + 1 - sizes.left + view.x)
        painter.setFont(theme.font(13, weight=600))
        for first, last, site in layout.site_spans():
            if last > visible.start and first < visible.stop:
                box = QRectF(first * sizes.column + 2, 3, (last - first) * sizes.column - 4, sizes.head * 0.24)
                painter.setPen(theme.color("ink"))
                shown = QFontMetrics(painter.font()).elidedText(site, Qt.TextElideMode.ElideRight, int(box.width()))
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, shown)
                painter.fillRect(QRectF(last * sizes.column - 1, 4, 1, sizes.head - 12), theme.color("line"))
        for at in visible:
            self._column_head(painter, layout, at, marks)
        painter.restore()

    def _column_head(self, painter: QPainter, layout: SheetLayout, at: int, marks: Marks) -> None:
        theme, sizes, column = self._theme, layout.sizes, layout.columns[at]
        left, width, line = at * sizes.column, sizes.column, sizes.head * 0.235
        flagged = marks.flagged.get(column.service)
        chosen = marks.cursor is not None and marks.cursor.column == at
        painter.setFont(theme.font(13, mono=True, weight=600 if chosen else 400))
        painter.setPen(self._tone(flagged) if flagged else theme.color("violet" if chosen else "ink"))
        box = QRectF(left, sizes.head * 0.255, width, line)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, column.call)
        if flagged:
            painter.setPen(QPen(self._tone(flagged), 1.6))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(4, 0.5, -4, -0.5), 7, 7)
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("ink2"))
        painter.drawText(QRectF(left, sizes.head * 0.49, width, line), Qt.AlignmentFlag.AlignCenter, column.head)
        painter.setFont(theme.font(12, weight=600))
        for slot in column.slots:
            x = hole_centre(layout, 0, at, slot).x()
            painter.drawText(QRectF(x - 10, sizes.head * 0.71, 20, line), Qt.AlignmentFlag.AlignCenter, str(slot))


_MIDDLE = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
_RIGHT = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight


def hole_centre(layout: SheetLayout, row: int, column: int, slot: int) -> QPointF:
    """Where a hole lies in its cell: left for slot 1 or a link, right for slot 2 or a talk memory, else centred."""
    sizes = layout.sizes
    share = {1: 0.27, 2: 0.73}.get(slot, 0.5)
    return QPointF((column + share) * sizes.column, layout.tops[row] + sizes.row / 2 - 0.5)


def _runs(rows: list[int]) -> list[tuple[int, int]]:
    """Rows without a gap, as (first, last)."""
    runs: list[tuple[int, int]] = []
    for at in rows:
        if runs and runs[-1][1] == at - 1:
            runs[-1] = (runs[-1][0], at)
        else:
            runs.append((at, at))
    return runs
