"""The change sheet as a table: what would be added, changed and removed, under a head for each kind of thing."""

from PyQt6.QtWidgets import QHeaderView, QTableView

from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.cable.change_model import ChangeModel


class ChangeTable(QTableView):
    """Shows one change sheet; `changes` is its model."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.changes = ChangeModel(theme)
        self.changes.setParent(self)
        self.setModel(self.changes)
        self.setAccessibleName("Change sheet")
        self.setShowGrid(False)
        self.setSelectionBehavior(QTableView.SelectionBehavior.SelectRows)
        self.setWordWrap(False)
        header, rows = self.horizontalHeader(), self.verticalHeader()
        if header is not None and rows is not None:
            header.hide()
            header.setStretchLastSection(True)
            header.setSectionResizeMode(0, QHeaderView.ResizeMode.Fixed)
            rows.hide()
            rows.setDefaultSectionSize(26)
        self.setColumnWidth(0, 104)
        self.setColumnWidth(1, 170)
        self.changes.modelReset.connect(self._span_heads)

    def _span_heads(self) -> None:
        self.clearSpans()
        for at in range(self.changes.rowCount()):
            if self.changes.is_head(at):
                self.setSpan(at, 0, 1, 3)
