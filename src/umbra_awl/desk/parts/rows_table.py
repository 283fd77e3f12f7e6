"""A plain table of texts: headings, rows, the last column taking the room that is left."""

import re
from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QHideEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QTableView

from umbra_awl.desk.parts.tips import plain
from umbra_awl.desk.theme.theme import Theme

MOST_ROWS = 1_000
_MEASURED = 60
_TOO_MANY = 0.12
_WIDEST, _MOST_WIDE, _ROOM = 320, 900, 22
_LEAST_LAST, _LEAST = 84, 44
_RESTS_MS = 250
_ROOT = QModelIndex()


_NUMBER = re.compile(r"-?\d+(?:[.,]\d+)?")


def natural(text: str) -> tuple[int, float, str]:
    """What texts are ordered by: those that begin with a number by it, empty ones last, others by their letters."""
    found = _NUMBER.match(text.strip().replace("−", "-"))
    if found is not None:
        return 0, float(found.group().replace(",", ".")), text
    return (1 if text.strip() else 2), 0.0, text.casefold()


class RowsModel(QAbstractTableModel):
    """Rows of texts, each with a tone, in the order given or sorted by a column."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.heads: tuple[str, ...] = ()
        self.rows: list[Sequence[str]] = []
        self._tones: Sequence[str] = ()
        self._given: list[tuple[Sequence[str], str]] = []
        self.sources: list[int] = []
        """Which of the given rows stands at each place."""
        self._by: tuple[str, bool] = ("", False)
        self._mono = True

    def put(self, heads: Sequence[str], rows: Sequence[Sequence[str]], tones: Sequence[str], *, mono: bool) -> None:
        """Take other rows."""
        self.beginResetModel()
        self.heads, self._mono = tuple(heads), mono
        self._given = [(row, tones[at] if at < len(tones) else "") for at, row in enumerate(rows[:MOST_ROWS])]
        self._arrange()
        self.endResetModel()

    @property
    def given(self) -> list[tuple[str, ...]]:
        """The rows as they were given."""
        return [tuple(row) for row, _tone in self._given]

    def sort_by(self, head: str, *, down: bool) -> None:
        """Order by the column of a heading; an empty one, or one that is not there, gives the order back."""
        self.beginResetModel()
        self._by = (head, down)
        self._arrange()
        self.endResetModel()

    def _arrange(self) -> None:
        head, down = self._by
        order = list(range(len(self._given)))
        if head in self.heads:
            column = self.heads.index(head)
            texts = [row[column] if column < len(row) else "" for row, _tone in self._given]
            order.sort(key=lambda at: natural(texts[at]), reverse=down)
        self.sources = order
        self.rows = [self._given[at][0] for at in order]
        self._tones = [self._given[at][1] for at in order]

    def rowCount(self, parent: QModelIndex = _ROOT) -> int:
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: QModelIndex = _ROOT) -> int:
        return 0 if parent.isValid() else len(self.heads)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if orientation == Qt.Orientation.Horizontal and role == Qt.ItemDataRole.DisplayRole:
            return self.heads[section] if section < len(self.heads) else ""
        return None

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or index.row() >= len(self.rows):
            return None
        cells = self.rows[index.row()]
        text = cells[index.column()] if index.column() < len(cells) else ""
        if role == Qt.ItemDataRole.DisplayRole:
            return f" {text}"
        if role == Qt.ItemDataRole.ToolTipRole:
            return plain(text)
        if role == Qt.ItemDataRole.FontRole:
            return self._theme.font(13, mono=self._mono)
        tone = self._tones[index.row()] if index.row() < len(self._tones) else ""
        return self._theme.color(tone) if role == Qt.ItemDataRole.ForegroundRole and tone else None

    def metrics(self) -> QFontMetrics:
        """What the texts are measured by."""
        return QFontMetrics(self._theme.font(13, mono=self._mono))


class RowsTable(QTableView):
    """Shows rows of texts; cannot be edited. `chosen` tells the row that is chosen."""

    chosen = pyqtSignal(int)

    def __init__(self, theme: Theme, name: str, empty: str = "") -> None:
        """`empty` says what will stand here, where nothing does."""
        super().__init__()
        self._theme, self.empty = theme, empty
        self.texts = RowsModel(theme)
        self.texts.setParent(self)
        self._shown_heads: tuple[str, ...] = ()
        self.setModel(self.texts)
        self.setAccessibleName(name)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setShowGrid(False)
        self.setWordWrap(False)
        self.setTabKeyNavigation(False)
        rows, header = self.verticalHeader(), self.horizontalHeader()
        assert rows is not None
        assert header is not None
        rows.hide()
        rows.setDefaultSectionSize(theme.px(25))
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        header.setHighlightSections(False)
        header.setStretchLastSection(True)
        header.setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        header.setSectionsClickable(True)
        header.sectionClicked.connect(self.sort_column)
        header.sectionResized.connect(self._dragged)
        self._spreading = False
        self._kept = theme.columns.of(name)
        self._rests = QTimer(self)
        self._rests.setSingleShot(True)
        self._rests.setInterval(_RESTS_MS)
        self._rests.timeout.connect(self._keep_widths)

    def show_rows(
        self, heads: Sequence[str], rows: Sequence[Sequence[str]], tones: Sequence[str] = (), *, mono: bool = True
    ) -> None:
        """Show rows under headings, the first thousand of them; `tones` gives a row another colour by token."""
        self.texts.put(heads, rows, tones, mono=mono)
        if self._kept.sorted and tuple(heads) != self._shown_heads:
            self.texts.sort_by(self._kept.sorted, down=self._kept.down)
            self._show_order()
        self._shown_heads = tuple(heads)
        self._spread()

    def sort_column(self, at: int) -> None:
        """Sort by a column; again, the other way round; a third time, as it was given."""
        head, kept = self.texts.heads[at], self._kept
        kept = (
            kept._replace(sorted=head, down=False)
            if kept.sorted != head
            else kept._replace(sorted="" if kept.down else head, down=not kept.down)
        )
        self._kept = self._theme.columns.keep(self.accessibleName(), kept)
        chosen = self.row_now
        self.texts.sort_by(kept.sorted, down=kept.down)
        self._show_order()
        if chosen >= 0:
            self.choose(chosen)

    def _show_order(self) -> None:
        header, kept = self.horizontalHeader(), self._kept
        if header is not None:
            there = kept.sorted in self.texts.heads
            header.setSortIndicatorShown(there)
            order = Qt.SortOrder.DescendingOrder if kept.down else Qt.SortOrder.AscendingOrder
            header.setSortIndicator(self.texts.heads.index(kept.sorted) if there else -1, order)

    def _dragged(self, at: int, _before: int, now: int) -> None:
        """A column that was dragged stays as wide."""
        if not self._spreading and at < len(self.texts.heads) - 1:
            wide = {**dict(self._kept.widths), self.texts.heads[at]: now}
            self._kept = self._kept._replace(widths=tuple(wide.items()))
            self._rests.start()  # a drag is many steps, and the settings are written once

    def _keep_widths(self) -> None:
        self._rests.stop()
        self._theme.columns.keep(self.accessibleName(), self._kept)

    def hideEvent(self, event: QHideEvent | None) -> None:
        """A page that is left just after a drag keeps it as well."""
        if self._rests.isActive():
            self._keep_widths()
        super().hideEvent(event)

    @property
    def whole_height(self) -> int:
        """The height in which all its rows stand without scrolling, in pixels."""
        rows, header = self.verticalHeader(), self.horizontalHeader()
        above = header.sizeHint().height() if header is not None else 0
        return above + (rows.length() if rows is not None else 0) + 2 * self.frameWidth()

    def text(self, row: int, column: int) -> str:
        """The text of a cell, by the place where it stands."""
        return self.texts.rows[row][column]

    @property
    def row_now(self) -> int:
        """The chosen row, as it was given; -1 for none."""
        at = self.currentIndex().row()
        return self.texts.sources[at] if 0 <= at < len(self.texts.sources) else -1

    def choose(self, row: int) -> None:
        """Choose a row, as it was given."""
        at = self.texts.sources.index(row) if row in self.texts.sources else -1
        self.setCurrentIndex(self.texts.index(at, 0))

    def currentChanged(self, current: QModelIndex, previous: QModelIndex) -> None:
        super().currentChanged(current, previous)
        at = current.row()
        self.chosen.emit(self.texts.sources[at] if 0 <= at < len(self.texts.sources) else at)

    def _spread(self) -> None:
        """Give each column the room that its heading and first texts need."""
        metrics, head = self.texts.metrics(), QFontMetrics(self._theme.font(13))
        widths: list[int] = []
        for at, title in enumerate(self.texts.heads):
            cells = (row[at] for row in self.texts.rows[:_MEASURED] if at < len(row))
            widest = max((metrics.horizontalAdvance(text) for text in cells), default=0)
            wide = max(widest, head.horizontalAdvance(title)) + self._theme.px(_ROOM)
            liked = min(max(dict(self._kept.widths).get(title, 0), 0), self._theme.px(_MOST_WIDE))
            widths.append(liked or min(wide, self._theme.px(_WIDEST)))
        if widths:
            self._spreading = True
            self._share(widths)
            self._spreading = False

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        viewport = self.viewport()
        if self.texts.rows or not self.empty or viewport is None:
            return
        painter = QPainter(viewport)
        painter.setFont(self._theme.font(13))
        painter.setPen(self._theme.color("ink2"))
        painter.drawText(viewport.rect().adjusted(10, 8, -10, -8), int(Qt.TextFlag.TextWordWrap), self.empty)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._spread()

    def _share(self, widths: list[int]) -> None:
        """Set the widths; a few pixels too many are taken from the widest ones, so that nothing is scrolled for them."""
        viewport = self.viewport()
        room = viewport.width() if viewport is not None else sum(widths)
        over = sum(widths) - room
        if 0 < over <= _TOO_MANY * sum(widths):
            widest = max(range(len(widths)), key=widths.__getitem__)
            widths[widest] -= over
        elif over > 0 and len(widths) > 1:
            self._narrow(widths, room - min(widths[-1], max(self._theme.px(_LEAST_LAST), room // 3)))
        for at, wide in enumerate(widths[:-1]):
            self.setColumnWidth(at, wide)
        self.setColumnWidth(len(widths) - 1, max(room - sum(widths[:-1]), self._theme.px(_LEAST)))  # what is left

    def _narrow(self, widths: list[int], room: int) -> None:
        """Take from the widest columns but the last, in turn, until they leave it some room; none becomes useless."""
        least = self._theme.px(_LEAST)
        while sum(widths[:-1]) > room and max(widths[:-1]) > least:
            widest = max(range(len(widths) - 1), key=widths.__getitem__)
            others = [wide for at, wide in enumerate(widths[:-1]) if at != widest]
            wanted = max(room - sum(others), max(others, default=0) - 1, least)
            widths[widest] = min(wanted, widths[widest] - 1)
