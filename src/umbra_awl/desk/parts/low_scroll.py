"""What stands beside a page: it fills its room, and scrolls as one where the window is too low for it."""

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QFrame, QScrollArea, QSizePolicy, QWidget

from umbra_awl.desk.parts.rows_table import RowsTable


class LowScroll(QScrollArea):
    """Shows a column with a table in it. Where it does not fit, the table has all its rows: one thing scrolls, not two."""

    def __init__(self, inside: QWidget, table: RowsTable) -> None:
        super().__init__()
        inside.setObjectName("flow")
        self._table = table
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setWidget(inside)
        table.setSizePolicy(
            QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored
        )  # it asks for its least height only
        table.texts.modelReset.connect(self._fit)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        """Give the table the height of all its rows where the column is too high for its room; else what is left."""
        inside = self.widget()
        layout = inside.layout() if inside is not None else None
        if layout is None:
            return
        self._table.setMinimumHeight(0)
        low = layout.heightForWidth(self.viewport().width()) > self.viewport().height()  # type: ignore[union-attr]
        self._table.setMinimumHeight(self._table.whole_height if low else 0)
