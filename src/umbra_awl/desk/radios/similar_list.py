"""The radios that one's own may be like, compared at a glance; the last line is for one that none of them resembles."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.radio.profile import WAY_WORDS, Profile
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, rows_of
from umbra_awl.desk.theme.theme import Theme

_HEADS = ("Radio", "What it is", "Modes", "Channels", "Letters", "Goes in by")
_NOTHING_LIKE = (
    "None of these",
    "Nothing is taken over: every value is asked for, and none is guessed",
    "",
    "",
    "",
    "",
)


class SimilarList(QWidget):
    """`taken` is told the profile to begin from; None where nothing is to be taken over."""

    taken = pyqtSignal(object)

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 6)
        self.table = RowsTable(theme, "Radios to begin from. Enter takes one.")
        self.table.activated.connect(lambda _index: self.take())
        outer.addWidget(self.table, 1)
        self.take_it = button("Begin from this one", self.take, "main")
        outer.addLayout(rows_of(self.take_it))

    def refresh(self) -> None:
        """Show the radios that are known now."""
        rows = [*map(_row, self._bench.profiles.values()), _NOTHING_LIKE]
        if self.table.texts.given != rows:
            self.table.show_rows(_HEADS, rows, mono=False)
            self.table.choose(0)

    def take(self) -> None:
        """Begin from the line that is chosen."""
        profiles: list[Profile | None] = [*self._bench.profiles.values(), None]
        if 0 <= self.table.row_now < len(profiles):
            self.taken.emit(profiles[self.table.row_now])


def _row(item: Profile) -> tuple[str, ...]:
    modes, ways = ", ".join(MODE_WORDS[mode] for mode in item.modes), ", ".join(WAY_WORDS[way] for way in item.ways_in)
    return item.name, item.summary, modes, f"{item.limits.channels:,}", str(item.display.length), ways
