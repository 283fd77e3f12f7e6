"""The change sheet as a table model: a section for each kind of thing, its changes, and what stays untouched."""

from typing import Any, NamedTuple

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.transfer.compared import TABLES
from umbra_awl.core.transfer.difference import ChangeSheet, MemoryChange
from umbra_awl.desk.parts.tips import plain
from umbra_awl.desk.theme.theme import Theme

MARKS = {"added": "+ added", "changed": "~ changed", "removed": "− removed"}
_TONES = {"added": "ok", "changed": "brass", "removed": "stop"}


class ChangeRow(NamedTuple):
    """A section's head (without a change) or one change."""

    head: str
    change: MemoryChange | None


class ChangeModel(QAbstractTableModel):
    """Three columns: what happens, to what, from what to what."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._rows: list[ChangeRow] = []

    def show_sheet(self, sheet: ChangeSheet | None) -> None:
        """Show a change sheet; None empties the table."""
        self.beginResetModel()
        self._rows = []
        for table, heading in TABLES.items() if sheet is not None else ():
            assert sheet is not None
            changes = sheet.of_table(table)
            untouched = sheet.untouched.get(table)
            if changes or untouched:
                tail = f", {untouched} untouched" if untouched is not None else ""
                self._rows.append(
                    ChangeRow(
                        f"{heading}: {counted(len(changes), 'change') if changes else 'no changes'}{tail}",
                        None,
                    )
                )
                self._rows.extend(ChangeRow("", change) for change in changes)
        self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008  (Qt's own signature)
        return 0 if parent.isValid() else len(self._rows)

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else 3

    def is_head(self, row: int) -> bool:
        """Whether a row is a section's head."""
        return self._rows[row].change is None

    def changes(self) -> list[MemoryChange]:
        """The changes shown."""
        return [row.change for row in self._rows if row.change is not None]

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid():
            return None
        row = self._rows[index.row()]
        if row.change is None:
            return self._head_data(row, index.column(), role)
        return self._change_data(row.change, index.column(), role)

    def _change_data(self, change: MemoryChange, column: int, role: int) -> Any:
        if role == Qt.ItemDataRole.DisplayRole:
            return (MARKS[change.kind], change.name, change.detail)[column]
        if role == Qt.ItemDataRole.ToolTipRole:
            return plain(change.detail)
        if role == Qt.ItemDataRole.ForegroundRole and column == 0:
            return self._theme.color(_TONES[change.kind])
        if role == Qt.ItemDataRole.FontRole and column == 1:
            return self._theme.font(13, mono=True)
        return None

    def _head_data(self, row: ChangeRow, column: int, role: int) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and column == 0:
            return row.head
        if role == Qt.ItemDataRole.FontRole:
            return self._theme.font(13, weight=600)
        if role == Qt.ItemDataRole.BackgroundRole:
            return self._theme.color("panel")
        return None

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        usual = super().flags(index)
        return usual if not index.isValid() or not self.is_head(index.row()) else Qt.ItemFlag.ItemIsEnabled
