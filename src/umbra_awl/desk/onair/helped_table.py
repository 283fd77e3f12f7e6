"""Single changes that were tried on the same evenings: what each does to the figures, and doing it."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from umbra_awl.core.simulation.helps import Helped
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, rows_of, words
from umbra_awl.desk.theme.theme import Theme

_EMPTY = "“What helps?” tries single changes on the same evenings: an order, a group list, a priority channel, a duplex board."


class HelpedTable(QWidget):
    """Shows the changes, the best first; `wanted` asks for one to be done."""

    wanted = pyqtSignal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.found: tuple[Helped, ...] = ()
        outer = column(self, 6)
        self.table = RowsTable(
            theme, "Changes tried", "Play some evenings, then “What helps?” tries single changes on them."
        )
        self.table.chosen.connect(lambda _at: self._explain())
        outer.addWidget(self.table, 1)
        self.why = words(_EMPTY, "second", wrap=True)
        outer.addWidget(self.why)
        self.do_it = button("Do it", self.do_chosen, "main")
        outer.addLayout(rows_of(self.do_it))
        self._explain()

    def show_found(self, found: tuple[Helped, ...]) -> None:
        """Show other changes."""
        self.found = found
        rows = [(f"{100 * item.gain:+.0f}", item.change.words) for item in found]
        tones = ["ok" if item.sure else "stop" if item.gain < -item.off else "ink2" for item in found]
        self.table.show_rows(("Points", "Change"), rows, tones, mono=False)
        if rows:
            self.table.choose(0)
        self._explain()

    @property
    def chosen(self) -> Helped | None:
        """The change in hand."""
        at = self.table.row_now
        return self.found[at] if 0 <= at < len(self.found) else None

    def _explain(self) -> None:
        item = self.chosen
        self.do_it.setVisible(item is not None)
        if item is None:
            self.why.setText(_EMPTY)
            return
        change = item.change
        sure = "Surely more than chance" if item.sure else "Within what chance may do"
        extra = f" {change.bought}" if change.bought else ""
        self.why.setText(f"{change.words}: {item.line()}. {sure} (± {100 * item.off:.0f} points).{extra}")
        self.do_it.setEnabled(change.edit is not None or change.choice is not None)

    def do_chosen(self) -> None:
        """Ask for the change in hand to be done."""
        if self.chosen is not None and self.do_it.isEnabled():
            self.wanted.emit(self.chosen)
