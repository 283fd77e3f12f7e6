"""“What did I change last?” on a sheet of its own: plan, radios, hotspots and the log as one dated list."""

from functools import partial

from PyQt6.QtWidgets import QDialog, QWidget

from umbra_awl.core.hands.changed_last import DatedChange, changed_last
from umbra_awl.core.logbook.model import Entry
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.theme.theme import Theme

_LEAD = (
    "When something stopped working, look here first: most faults came with the last change. The plan's dated saves, what was "
    "found in each radio whenever it was read, hotspots, and what failed in the log."
)
_HEADS = ("When", "On", "What")
_NONE = "Nothing was changed since the first save, and no radio was read yet."


class ChangedSheet(QDialog):
    """Shows the list, worked out in the background."""

    def __init__(self, parent: QWidget, bench: Workbench, theme: Theme, entries: tuple[Entry, ...]) -> None:
        super().__init__(parent)
        self.setWindowTitle("What was changed last?")
        self.resize(min(900, parent.width() - 40), min(560, parent.height() - 60))
        outer = column(self, 10, 16)
        outer.addWidget(words("What was changed last?", "title"))
        outer.addWidget(words(_LEAD, "second", wrap=True))
        self.table = RowsTable(theme, "Changes, the latest first", "It is looked up …")
        outer.addWidget(self.table, 1)
        acts = row()
        acts.addStretch(1)
        acts.addWidget(button("Close", self.accept, "main"))
        outer.addLayout(acts)
        document = bench.document
        if document is not None:
            work = partial(changed_last, bench.plan, document.real, entries)
            bench.jobs.latest("changed", work, self._show)

    def _show(self, found: tuple[DatedChange, ...]) -> None:
        rows = [tuple(item) for item in found] or [("", "", _NONE)]
        self.table.show_rows(_HEADS, rows, ["brass" if item.when == "now" else "" for item in found], mono=False)
