"""The routes of a zone or scan list in their order: moved by keys or by dragging, taken out by Delete."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QDropEvent, QKeyEvent
from PyQt6.QtWidgets import QListWidget, QListWidgetItem


class MemberList(QListWidget):
    """Ctrl Up and Ctrl Down move a route, dragging puts it anywhere, Delete takes it out."""

    moved = pyqtSignal(int)
    removed = pyqtSignal()
    dropped = pyqtSignal(str, int)

    def __init__(self) -> None:
        super().__init__()
        self.setDragDropMode(QListWidget.DragDropMode.InternalMove)
        self.setDefaultDropAction(Qt.DropAction.MoveAction)

    def fill(self, rows: list[tuple[str, str]]) -> None:
        """Show (route key, words) in order, numbered."""
        self.clear()
        for number, (key, text) in enumerate(rows, 1):
            item = QListWidgetItem(f"{number}  {text}")
            item.setData(Qt.ItemDataRole.UserRole, key)
            self.addItem(item)

    def key_at(self, row: int) -> str:
        """The route key of a row; empty when there is none."""
        item = self.item(row)
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None else ""

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Tell where the dragged route was let go; the plan decides and fills the list anew."""
        if event is None:
            return
        key = self.key_at(self.currentRow())
        at = self.indexAt(event.position().toPoint())
        below = self.dropIndicatorPosition() == QListWidget.DropIndicatorPosition.BelowItem
        to = self.count() if not at.isValid() else at.row() + (1 if below else 0)
        event.setDropAction(Qt.DropAction.IgnoreAction)
        event.accept()
        if key:
            self.dropped.emit(key, to - (1 if to > self.currentRow() else 0))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        held = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if held and event.key() in {Qt.Key.Key_Up, Qt.Key.Key_Down}:
            self.moved.emit(-1 if event.key() == Qt.Key.Key_Up else 1)
        elif event.key() == Qt.Key.Key_Delete:
            self.removed.emit()
        else:
            super().keyPressEvent(event)
