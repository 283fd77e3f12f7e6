"""A plain table of texts: headings, rows, the last column taking the room that is left."""

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QResizeEvent
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QTableView

from umbra_awl.desk.parts.tips import plain
from umbra_awl.desk.theme.theme import Theme

MOST_ROWS = 1_000
_MEASURED = 60
_TOO_MANY = 0.12
_WIDEST, _ROOM = 320, 22
_LEAST_LAST, _LEAST = 84, 44
_ROOT = QModelIndex()


class RowsModel(QAbstractTableModel):
    """Rows of texts, each with a tone."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.heads: tuple[str, ...] = ()
        self.rows: list[Sequence[str]] = []
        self._tones: Sequence[str] = ()
        self._mono = True

    def put(self, heads: Sequence[str], rows: Sequence[Sequence[str]], tones: Sequence[str], *, mono: bool) -> None:
        """Take other rows."""
        self.beginResetModel()
        self.heads, self.rows, self._tones, self._mono = tuple(heads), list(rows[:MOST_ROWS]), tones, mono
        self.endResetModel()

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

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self._theme = theme
        self.texts = RowsModel(theme)
        self.texts.setParent(self)
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

    def show_rows(
        self, heads: Sequence[str], rows: Sequence[Sequence[str]], tones: Sequence[str] = (), *, mono: bool = True
    ) -> None:
        """Show rows under headings, the first thousand of them; `tones` gives a row another colour by token."""
        self.texts.put(heads, rows, tones, mono=mono)
        self._spread()

    @property
    def whole_height(self) -> int:
        """The height in which all its rows stand without scrolling, in pixels."""
        rows, header = self.verticalHeader(), self.horizontalHeader()
        above = header.sizeHint().height() if header is not None else 0
        return above + (rows.length() if rows is not None else 0) + 2 * self.frameWidth()

    def text(self, row: int, column: int) -> str:
        """The text of a cell."""
        return self.texts.rows[row][column]

    @property
    def row_now(self) -> int:
        """The chosen row; -1 for none."""
        return self.currentIndex().row()

    def choose(self, row: int) -> None:
        """Choose a row."""
        self.setCurrentIndex(self.texts.index(row, 0))

    def currentChanged(self, current: QModelIndex, previous: QModelIndex) -> None:
        super().currentChanged(current, previous)
        self.chosen.emit(current.row())

    def _spread(self) -> None:
        """Give each column the room that its heading and first texts need."""
        metrics, head = self.texts.metrics(), QFontMetrics(self._theme.font(13))
        widths: list[int] = []
        for at, title in enumerate(self.texts.heads):
            cells = (row[at] for row in self.texts.rows[:_MEASURED] if at < len(row))
            widest = max((metrics.horizontalAdvance(text) for text in cells), default=0)
            wide = max(widest, head.horizontalAdvance(title)) + self._theme.px(_ROOM)
            widths.append(min(wide, self._theme.px(_WIDEST)))
        if widths:
            self._share(widths)

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
