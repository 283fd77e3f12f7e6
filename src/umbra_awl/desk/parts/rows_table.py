"""A plain table of texts: headings, rows, the last column taking the room that is left."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget, QTableWidgetItem

from umbra_awl.desk.theme.theme import Theme

MOST_ROWS = 1_000
_WIDEST = 320


class RowsTable(QTableWidget):
    """Shows rows of texts in the mono face; cannot be edited."""

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self._theme = theme
        self.setAccessibleName(name)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setShowGrid(False)
        self.setWordWrap(False)
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
        """Show rows under headings; `tones` gives a row another colour by token."""
        self.clear()
        shown = list(rows)[:MOST_ROWS]
        self.setColumnCount(len(heads))
        self.setRowCount(len(shown))
        self.setHorizontalHeaderLabels(list(heads))
        font = self._theme.font(13, mono=mono)
        for down, cells in enumerate(shown):
            for across, text in enumerate(cells):
                item = QTableWidgetItem(text)
                item.setFont(font)
                item.setToolTip(text)
                if down < len(tones) and tones[down]:
                    item.setForeground(self._theme.color(tones[down]))
                self.setItem(down, across, item)
        self.spread()

    def spread(self) -> None:
        """Give each column the room its texts need."""
        self.resizeColumnsToContents()
        for at in range(self.columnCount()):
            self.setColumnWidth(at, min(self.columnWidth(at) + 8, self._theme.px(_WIDEST)))
