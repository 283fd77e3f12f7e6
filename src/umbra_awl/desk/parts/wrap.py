"""A list whose items wrap their text and are as high as it needs."""

from PyQt6.QtCore import QModelIndex, QRect, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QResizeEvent
from PyQt6.QtWidgets import QListWidget, QStyledItemDelegate, QStyleOptionViewItem

_MARGIN = 22


def in_lines(*aligned: Qt.AlignmentFlag) -> int:
    """The flags of a text that goes on in a new line, as a number: joining two kinds of flags costs a twentieth of a second."""
    return sum(flag.value for flag in (Qt.TextFlag.TextWordWrap, *aligned))


_BATCH = 60


class _Wrapping(QStyledItemDelegate):
    """Measures an item at its view's width."""

    def __init__(self, view: QListWidget) -> None:
        super().__init__(view)
        self._view = view

    def sizeHint(self, _option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        viewport = self._view.viewport()
        width = (viewport.width() if viewport is not None else 200) - _MARGIN
        font = index.data(Qt.ItemDataRole.FontRole) or self._view.font()
        flags = int(Qt.TextFlag.TextWordWrap)
        box = QFontMetrics(font).boundingRect(QRect(0, 0, width, 10_000), flags, str(index.data()))
        return QSize(width, box.height() + 8)


class WrapList(QListWidget):
    """A list of sentences."""

    def __init__(self) -> None:
        super().__init__()
        self.setWordWrap(True)
        self.setLayoutMode(QListWidget.LayoutMode.Batched)  # a long list is measured bit by bit
        self.setBatchSize(_BATCH)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setItemDelegate(_Wrapping(self))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.scheduleDelayedItemsLayout()
