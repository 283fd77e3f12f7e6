"""A club pack looked at before it is taken: each part on its own, with what is there already, and what was refused and why."""

from collections.abc import Callable

from PyQt6.QtWidgets import QDialog, QWidget

from umbra_awl.core.hands.kinds import KINDS
from umbra_awl.core.hands.pack import Pack, PackPart
from umbra_awl.core.hands.taking import holds
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.theme.theme import Theme

_HEADS = ("Part", "Name", "Here")
_LEAD = "Nothing is taken yet. Choose a part, look at it, and take it; each one by itself. A plan is merged, and asked about."


class PackWindow(QDialog):
    """Shows a pack. `take` takes a part and gives what became of it; `here` says what is there already of it."""

    def __init__(
        self,
        theme: Theme,
        parent: QWidget,
        pack: Pack,
        here: Callable[[PackPart], str],
        take: Callable[[PackPart], str],
    ) -> None:
        super().__init__(parent)
        self.pack, self._here, self._take = pack, here, take
        self.setWindowTitle(f"Club pack: {pack.name}")
        self.resize(theme.px(780), theme.px(520))
        outer = column(self, 8, 16)
        outer.addWidget(words(f"{pack.name}, made {pack.made}", "title"))
        outer.addWidget(words(_LEAD, "second", wrap=True))
        self.table = RowsTable(theme, "Parts of the pack")
        self.table.chosen.connect(lambda _at: self._show_part())
        outer.addWidget(self.table, 3)
        self.text = words("", wrap=True)
        outer.addWidget(self.text)
        self.refused = words("", "stop", wrap=True)
        told = "; ".join(pack.refused[:4]) + (f" and {len(pack.refused) - 4} more" if len(pack.refused) > 4 else "")
        self.refused.setText(f"Refused: {told}" if pack.refused else "")
        self.refused.setVisible(bool(pack.refused))
        outer.addWidget(self.refused)
        self.told = words("", wrap=True)
        outer.addWidget(self.told)
        end = row(gap=8)
        end.addStretch(1)
        end.addWidget(button("Close", self.reject))
        self.go = button("Take this part", self.take, "main")
        end.addWidget(self.go)
        outer.addLayout(end)
        self.refresh()
        if pack.parts:
            self.table.choose(0)
        self.table.setFocus()

    def refresh(self) -> None:
        """Show the parts, and which are here already."""
        at = self.table.row_now
        rows = [(KINDS[item.kind].words, item.title, self._here(item)) for item in self.pack.parts]
        self.table.show_rows(_HEADS, rows, mono=False)
        if 0 <= at < len(rows):
            self.table.choose(at)
        self._show_part()

    def _show_part(self) -> None:
        part = self.part
        self.go.setEnabled(part is not None)
        self.text.setText(holds(part) if part is not None else "")

    @property
    def part(self) -> PackPart | None:
        """The part in hand."""
        at = self.table.row_now
        return self.pack.parts[at] if 0 <= at < len(self.pack.parts) else None

    def take(self) -> None:
        """Take the part in hand."""
        part = self.part
        if part is not None:
            self.told.setText(self._take(part))
            self.refresh()
