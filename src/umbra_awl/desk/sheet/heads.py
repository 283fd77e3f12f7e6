"""Painting the heads of the punch sheet: destinations at the left in their bands, services over all of them."""

from collections.abc import Mapping
from typing import NamedTuple

from PyQt6.QtCore import QRect, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetrics, QPainter, QPen

from umbra_awl.desk.sheet.grid import Column, SheetRow
from umbra_awl.desk.sheet.in_view import Cell
from umbra_awl.desk.sheet.layout import SheetLayout, slot_share
from umbra_awl.desk.theme.theme import Theme

SMALLEST = 8
_MIDDLE = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
_WORDS = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
_LETTERS = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWrapAnywhere)
_RIGHT = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight


class SheetMarks(NamedTuple):
    """What is drawn over the cells: rings by route key, marked columns, the cursor, the painted run, shown members.

    `hover` is the cell under the mouse where a click would punch a hole.
    """

    rings: Mapping[str, str]
    flagged: Mapping[str, str]
    cursor: Cell | None
    run: frozenset[tuple[int, int]]
    members: frozenset[str]
    focused: bool
    hover: Cell | None = None


class SheetScroll(NamedTuple):
    """The part of the sheet in view: offsets and size in pixels."""

    x: int
    y: int
    width: int
    height: int


def tone(theme: Theme, severity: str) -> QColor:
    """The colour of a finding's grade."""
    return theme.color({"stop": "stop", "warn": "brass"}.get(severity, "ink2"))


_APART = 4
"""Between the words of two columns, in pixels."""
_SITE_FONTS = ((13, 100), (12, 100), (11, 100), (11, 88), (10, 88), (10, 78), (10, 70), (10, 62))
"""Sizes of a site's name and how wide its letters are, in per cent: the first in which it fits is taken."""


class HeadPainter:
    """Paints what stands at the left and over the cells."""

    def __init__(self, theme: Theme) -> None:
        self._theme = theme

    def _font(self, zoom: float, size: int, *, mono: bool = False, weight: int = 400) -> QFont:
        return self._theme.font(max(round(size * zoom), SMALLEST), mono=mono, weight=weight)

    def _that_fits(self, text: str, width: float, zoom: float, *, mono: bool, weight: int) -> QFont:
        """The font of a word over a column: smaller, then narrower, where that saves it from being cut."""
        font = self._font(zoom, 13, mono=mono, weight=weight)
        for size, stretch in _SITE_FONTS:
            font = self._font(zoom, size, mono=mono, weight=weight)
            font.setStretch(stretch)
            if QFontMetrics(font).horizontalAdvance(text) < width - _APART:
                break
        return font

    def _site(self, painter: QPainter, box: QRectF, text: str, zoom: float) -> None:
        """A site's name, in two lines where it needs them, in narrower letters where a word is long; broken only at the last."""
        for size, stretch in _SITE_FONTS:
            font = self._font(zoom, size, weight=600)
            font.setStretch(stretch)
            painter.setFont(font)
            metrics = painter.fontMetrics()
            widest = max((metrics.horizontalAdvance(word) for word in text.split()), default=0)
            if widest < box.width() and metrics.boundingRect(box.toRect(), _WORDS, text).height() <= box.height() + 1:
                painter.drawText(box, _WORDS, text)
                return
        painter.setFont(self._font(zoom, 10, weight=600))
        painter.drawText(box, _LETTERS, text)

    def left(self, painter: QPainter, layout: SheetLayout, view: SheetScroll, marks: SheetMarks, dirty: QRect) -> None:
        """The destinations, and the names of the bands."""
        theme, sizes = self._theme, layout.sizes
        part = QRect(0, sizes.head, sizes.left, view.height - sizes.head).intersected(dirty)
        painter.save()
        painter.setClipRect(part)
        painter.fillRect(part, theme.color("bg"))
        painter.translate(0, sizes.head - view.y)
        for at in layout.seen.visible_rows(part.top() - sizes.head + view.y, part.bottom() + 1 - sizes.head + view.y):
            row = layout.rows[at]
            if row.kind == "row":
                self._destination(painter, layout, marks, at)
            elif row.kind != "note":
                self._word(painter, layout, at, row)
        painter.restore()

    def _word(self, painter: QPainter, layout: SheetLayout, at: int, row: SheetRow) -> None:
        """The name of a band, or what is folded away."""
        sizes, theme = layout.sizes, self._theme
        top, high = layout.tops[at], layout.tops[at + 1] - layout.tops[at]
        painter.setFont(self._font(sizes.zoom, 12, weight=600 if row.kind == "group" else 400))
        painter.setPen(theme.color("violet" if row.kind == "fold" else "ink2"))
        painter.drawText(QRectF(4, top, sizes.left - 6, high), _MIDDLE, row.name)

    def _destination(self, painter: QPainter, layout: SheetLayout, marks: SheetMarks, at: int) -> None:
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

    def top(self, painter: QPainter, layout: SheetLayout, view: SheetScroll, marks: SheetMarks, dirty: QRect) -> None:
        """The services over the rows, which stay while the rows are scrolled."""
        sizes = layout.sizes
        painter.save()
        painter.setClipRect(dirty.intersected(QRect(0, 0, view.width, sizes.head)))
        painter.fillRect(0, 0, view.width, sizes.head, self._theme.color("bg"))
        painter.fillRect(0, 0, sizes.left, sizes.head - 4, self._theme.color("panel"))
        part = QRect(sizes.left, 0, view.width - sizes.left, sizes.head).intersected(dirty)
        painter.setClipRect(part)
        painter.translate(sizes.left - view.x, 0)
        self._over(painter, layout, marks, part.translated(view.x - sizes.left, 0))
        painter.restore()

    def within(self, painter: QPainter, layout: SheetLayout, rows: range) -> None:
        """The remarks among these rows; in the cells' own coordinates."""
        remarks = [at for at in rows if layout.rows[at].kind == "note"]
        if not remarks:
            return
        painter.setFont(self._font(layout.sizes.zoom, 12))
        painter.setPen(self._theme.color("ink2"))
        for at in remarks:
            box = QRectF(8, layout.tops[at], max(layout.width, 700), layout.sizes.group)
            painter.drawText(box, _MIDDLE, layout.rows[at].name)

    def _over(self, painter: QPainter, layout: SheetLayout, marks: SheetMarks, part: QRect) -> None:
        """The services, as far as they are seen: their site over all of one place, then each."""
        theme, sizes = self._theme, layout.sizes
        painter.fillRect(QRectF(0, 0, layout.width, sizes.head - 4), theme.color("panel"))
        visible = layout.seen.visible_columns(part.left(), part.right() + 1)
        for first, last, site in layout.site_spans():
            if last > visible.start and first < visible.stop:
                box = QRectF(first * sizes.column + 2, 2, (last - first) * sizes.column - 4, sizes.head * 0.31)
                painter.setPen(theme.color("ink"))
                self._site(painter, box, site, sizes.zoom)
                painter.fillRect(QRectF(last * sizes.column - 1, 4, 1, sizes.head - 12), theme.color("line"))
        for at in visible:
            self._service(painter, layout, at, marks)

    def _service(self, painter: QPainter, layout: SheetLayout, at: int, marks: SheetMarks) -> None:
        theme, sizes, column = self._theme, layout.sizes, layout.columns[at]
        left, width, zoom = at * sizes.column, sizes.column, sizes.zoom
        flagged = marks.flagged.get(column.service)
        chosen = marks.cursor is not None and marks.cursor.column == at
        box = QRectF(left, sizes.head * 0.34, width, sizes.head * 0.19)
        room = width - (10 if flagged else 5)
        painter.setFont(self._that_fits(column.call, room, zoom, mono=True, weight=600 if chosen else 400))
        painter.setPen(tone(theme, flagged) if flagged else theme.color("violet" if chosen else "ink"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, column.call)
        if flagged:
            painter.setPen(QPen(tone(theme, flagged), 1.6))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box.adjusted(2, 0.5, -2, -0.5), 7, 7)
        self._mode(painter, layout, at, column)

    def _mode(self, painter: QPainter, layout: SheetLayout, at: int, column: Column) -> None:
        """The mode, under it what opens it, then its slots."""
        sizes = layout.sizes
        painter.setPen(self._theme.color("ink2"))
        mode, _blank, opener = column.head.partition(" ")
        for text, top in ((mode, 0.53), (opener, 0.67)):
            box = QRectF(at * sizes.column, sizes.head * top, sizes.column, sizes.head * 0.15)
            painter.setFont(self._that_fits(text, sizes.column - 2, sizes.zoom * 0.92, mono=False, weight=400))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
        painter.setFont(self._font(sizes.zoom, 11, weight=600))
        for slot in column.slots:
            x = (at + slot_share(slot)) * sizes.column
            painter.drawText(
                QRectF(x - 10, sizes.head * 0.8, 20, sizes.head * 0.15), Qt.AlignmentFlag.AlignCenter, str(slot)
            )
