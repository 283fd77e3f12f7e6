"""Painting the heads of the punch sheet: destinations at the left, services over each block."""

from collections.abc import Mapping
from typing import NamedTuple

from PyQt6.QtCore import QRect, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetrics, QPainter, QPen

from umbra_awl.desk.sheet.blocks import SheetRow
from umbra_awl.desk.sheet.layout import Block, Cell, SheetLayout, slot_share
from umbra_awl.desk.theme.theme import Theme

SMALLEST = 8
_MIDDLE = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
_RIGHT = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight


class Marks(NamedTuple):
    """What is drawn over the cells: rings by route key, marked columns, the cursor, the painted run, shown members.

    `hover` is the cell under the mouse where a click would punch a hole; `over` the block whose head stands over the cells, so
    that it is not drawn twice.
    """

    rings: Mapping[str, str]
    flagged: Mapping[str, str]
    cursor: Cell | None
    run: frozenset[tuple[int, int]]
    members: frozenset[str]
    focused: bool
    hover: Cell | None = None
    over: Block | None = None


class View(NamedTuple):
    """The part of the sheet in view: offsets and size in pixels."""

    x: int
    y: int
    width: int
    height: int


def tone(theme: Theme, severity: str) -> QColor:
    """The colour of a finding's grade."""
    return theme.color({"stop": "stop", "warn": "brass"}.get(severity, "ink2"))


class HeadPainter:
    """Paints what stands at the left and over the cells."""

    def __init__(self, theme: Theme) -> None:
        self._theme = theme

    def _font(self, zoom: float, size: int, *, mono: bool = False, weight: int = 400) -> QFont:
        return self._theme.font(max(round(size * zoom), SMALLEST), mono=mono, weight=weight)

    def _that_fits(self, text: str, width: float, zoom: float) -> QFont:
        """The font of a site's name: a little smaller where that saves it from being cut."""
        fonts = [self._font(zoom, size, weight=600) for size in (13, 12, 11)]
        return next((font for font in fonts if QFontMetrics(font).horizontalAdvance(text) < width - 1), fonts[-1])

    def left(self, painter: QPainter, layout: SheetLayout, view: View, marks: Marks, dirty: QRect) -> None:
        """The destinations, and the names of the blocks but the first."""
        theme, sizes = self._theme, layout.sizes
        part = QRect(0, sizes.head, sizes.left, view.height - sizes.head).intersected(dirty)
        painter.save()
        painter.setClipRect(part)
        painter.fillRect(part, theme.color("bg"))
        painter.translate(0, sizes.head - view.y)
        for at in layout.visible_rows(part.top() - sizes.head + view.y, part.bottom() + 1 - sizes.head + view.y):
            row = layout.rows[at]
            if row.kind == "row":
                self._destination(painter, layout, marks, at)
            elif row.kind != "note" and not (row.kind == "head" and layout.block_of(at) is marks.over):
                self._word(painter, layout, at, row)
        painter.restore()

    def _word(self, painter: QPainter, layout: SheetLayout, at: int, row: SheetRow) -> None:
        """The name of a block or a group, or what is folded away."""
        sizes, theme = layout.sizes, self._theme
        top, high = layout.tops[at], layout.tops[at + 1] - layout.tops[at]
        if row.kind == "head":
            self._block_name(painter, layout, row.name, top)
            return
        painter.setFont(self._font(sizes.zoom, 12, weight=600 if row.kind == "group" else 400))
        painter.setPen(theme.color("violet" if row.kind == "fold" else "ink2"))
        painter.drawText(QRectF(4, top, sizes.left - 6, high), _MIDDLE, row.name)

    def _block_name(self, painter: QPainter, layout: SheetLayout, name: str, top: int) -> None:
        painter.setFont(self._font(layout.sizes.zoom, 13, weight=600))
        painter.setPen(self._theme.color("ink"))
        painter.drawText(QRectF(8, top + 2, layout.sizes.left - 12, layout.sizes.head * 0.42), _MIDDLE, name)

    def _destination(self, painter: QPainter, layout: SheetLayout, marks: Marks, at: int) -> None:
        theme, sizes, row, top = self._theme, layout.sizes, layout.rows[at], layout.tops[at]
        painter.fillRect(QRectF(0, top, sizes.left, sizes.row), theme.color("panel"))
        painter.fillRect(QRectF(0, top + sizes.row - 1, sizes.left, 1), theme.color("line"))
        chosen = marks.cursor is not None and marks.cursor.row == at
        mono = self._font(sizes.zoom, 12, mono=True)
        number = QFontMetrics(mono).horizontalAdvance(row.number) + 18 if row.number else 8
        painter.setFont(self._font(sizes.zoom, 13, weight=600 if chosen else 400))
        painter.setPen(theme.color("violet" if chosen else "ink"))
        name = painter.fontMetrics().elidedText(row.name, Qt.TextElideMode.ElideRight, sizes.left - number - 10)
        painter.drawText(QRectF(10, top, sizes.left, sizes.row), _MIDDLE, name)
        painter.setPen(theme.color("ink2"))
        painter.setFont(mono)
        painter.drawText(QRectF(0, top, sizes.left - 8, sizes.row), _RIGHT, row.number)

    def top(self, painter: QPainter, layout: SheetLayout, view: View, marks: Marks, dirty: QRect) -> None:
        """The head of the block that is seen under it, which stays while its rows are scrolled."""
        sizes, block = layout.sizes, layout.block_at(view.y)
        if block is None:
            return
        painter.save()
        painter.setClipRect(dirty.intersected(QRect(0, 0, view.width, sizes.head)))
        painter.fillRect(0, 0, view.width, sizes.head, self._theme.color("bg"))
        painter.fillRect(0, 0, sizes.left, sizes.head - 4, self._theme.color("panel"))
        self._block_name(painter, layout, block.name, 0)
        part = QRect(sizes.left, 0, view.width - sizes.left, sizes.head).intersected(dirty)
        painter.setClipRect(part)
        painter.translate(sizes.left - view.x, 0)
        self._over(painter, layout, block, marks, part.translated(view.x - sizes.left, 0))
        painter.restore()

    def within(self, painter: QPainter, layout: SheetLayout, marks: Marks, rows: range, part: QRect) -> None:
        """The heads of blocks that lie among these rows, and remarks; in the cells' own coordinates."""
        for at in rows:
            row, top = layout.rows[at], layout.tops[at]
            if row.kind == "head" and layout.block_of(at) is not marks.over:
                painter.save()
                painter.translate(0, top)
                self._over(painter, layout, layout.block_of(at), marks, part)
                painter.restore()
            elif row.kind == "note":
                painter.setFont(self._font(layout.sizes.zoom, 12))
                painter.setPen(self._theme.color("ink2"))
                painter.drawText(QRectF(8, top, max(layout.width, 700), layout.sizes.group), _MIDDLE, row.name)

    def _over(self, painter: QPainter, layout: SheetLayout, block: Block, marks: Marks, part: QRect) -> None:
        """The services of a block, as far as they are seen."""
        theme, sizes = self._theme, layout.sizes
        painter.fillRect(QRectF(0, 0, len(block.columns) * sizes.column, sizes.head - 4), theme.color("panel"))
        visible = layout.visible_columns(block, part.left(), part.right() + 1)
        for first, last, site in layout.site_spans(block):
            if last > visible.start and first < visible.stop:
                box = QRectF(first * sizes.column + 2, 3, (last - first) * sizes.column - 4, sizes.head * 0.24)
                painter.setPen(theme.color("ink"))
                painter.setFont(self._that_fits(site, box.width(), sizes.zoom))
                shown = painter.fontMetrics().elidedText(site, Qt.TextElideMode.ElideRight, int(box.width()))
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, shown)
                painter.fillRect(QRectF(last * sizes.column - 1, 4, 1, sizes.head - 12), theme.color("line"))
        for at in visible:
            self._service(painter, layout, block, at, marks)

    def _service(self, painter: QPainter, layout: SheetLayout, block: Block, at: int, marks: Marks) -> None:
        theme, sizes, column = self._theme, layout.sizes, block.columns[at]
        left, width, line, zoom = at * sizes.column, sizes.column, sizes.head * 0.235, sizes.zoom
        flagged, cursor = marks.flagged.get(column.service), marks.cursor
        chosen = cursor is not None and cursor.column == at and layout.block_of(cursor.row) is block
        painter.setFont(self._font(zoom, 13, mono=True, weight=600 if chosen else 400))
        painter.setPen(tone(theme, flagged) if flagged else theme.color("violet" if chosen else "ink"))
        box = QRectF(left, sizes.head * 0.255, width, line)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, column.call)
        if flagged:
            painter.setPen(QPen(tone(theme, flagged), 1.6))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(4, 0.5, -4, -0.5), 7, 7)
        painter.setFont(self._font(zoom, 12))
        painter.setPen(theme.color("ink2"))
        painter.drawText(QRectF(left, sizes.head * 0.49, width, line), Qt.AlignmentFlag.AlignCenter, column.head)
        painter.setFont(self._font(zoom, 12, weight=600))
        for slot in column.slots:
            x = (at + slot_share(slot)) * width
            painter.drawText(QRectF(x - 10, sizes.head * 0.71, 20, line), Qt.AlignmentFlag.AlignCenter, str(slot))
