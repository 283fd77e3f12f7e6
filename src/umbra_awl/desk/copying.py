"""Ctrl C anywhere: what is selected, or the value that has the keyboard, goes to the clipboard as it is shown."""

from typing import Protocol, runtime_checkable

from PyQt6.QtCore import QAbstractItemModel, QModelIndex, Qt
from PyQt6.QtWidgets import QAbstractItemView, QComboBox, QWidget

from umbra_awl.desk.parts.cards.typing import ValueButton

MOST_ROWS = 5_000


@runtime_checkable
class Copied(Protocol):
    """A widget that says itself what is copied of it."""

    def copied(self) -> str:
        """What is selected in it, as text; empty where nothing is."""


def copied_from(widget: QWidget | None) -> str:
    """What Ctrl C takes from the widget that has the keyboard, or from what it lies in; empty where there is nothing."""
    while widget is not None:
        text = _of(widget)
        if text:
            return text
        widget = widget.parentWidget()
    return ""


def _of(widget: QWidget) -> str:
    if isinstance(widget, Copied):
        return widget.copied()
    if isinstance(widget, QAbstractItemView):
        return _rows(widget)
    if isinstance(widget, ValueButton):
        return widget.whole
    return widget.currentText() if isinstance(widget, QComboBox) else ""


def _rows(view: QAbstractItemView) -> str:
    """The selected rows of a list or table, a line each, cells parted by tabs; without a selection the current one."""
    model, selection = view.model(), view.selectionModel()
    if model is None or selection is None:
        return ""
    chosen = {index.row(): index for index in selection.selectedIndexes()}
    current = view.currentIndex()
    if not chosen and current.isValid():
        chosen = {current.row(): current}
    return "\n".join(_line(model, chosen[at]) for at in sorted(chosen)[:MOST_ROWS])


def rows_text(view: QAbstractItemView) -> str:
    """All rows of a list or table under its headings, as a spreadsheet takes them: a line each, cells parted by tabs."""
    model = view.model()
    if model is None:
        return ""
    heads = [model.headerData(at, Qt.Orientation.Horizontal) for at in range(model.columnCount())]
    told = ["\t".join(str(head) for head in heads)] if len(heads) > 1 and any(heads) else []
    return "\n".join([*told, *(_line(model, model.index(at, 0)) for at in range(min(model.rowCount(), MOST_ROWS)))])


def _line(model: QAbstractItemModel, index: QModelIndex) -> str:
    cells = [
        model.index(index.row(), column, index.parent()).data() for column in range(model.columnCount(index.parent()))
    ]
    return "\t".join(" ".join(str(cell).split()) if cell is not None else "" for cell in cells).strip("\t")
