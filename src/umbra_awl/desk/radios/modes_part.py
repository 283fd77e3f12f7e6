"""Why this mode: the modes side by side, and at the side what the chosen row is read for."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QScrollArea, QWidget

from umbra_awl.core.directory.errors import StoreFailedError
from umbra_awl.core.directory.nearest import NearestWanted, count_within
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.facts.modes import EVERY_MODE, MODE_WORDS, Mode
from umbra_awl.core.fit.modes_beside import AROUND_KM, ModeRow, ModeSurround, conclusion, modes_beside
from umbra_awl.desk.parts.widgets import column, scrolled, words
from umbra_awl.desk.radios.modes_sheet import ModesSheet
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.desk.known.directory import Directory
    from umbra_awl.desk.radios.compare_page import ComparePage


def _count(directory: "Directory", place: Position, mode: Mode) -> int:
    return count_within(directory.store, place, AROUND_KM, NearestWanted(modes=frozenset({mode})))


class ModesPart(QWidget):
    """The canvas; `side` explains the chosen cell."""

    def __init__(self, page: "ComparePage", theme: Theme, directory: "Callable[[], Directory]") -> None:
        super().__init__()
        self._page, self._directory = page, directory
        self.sheet = ModesSheet(theme)
        self.sheet.chosen.connect(self._explain)
        self._scroll: QScrollArea = scrolled(self.sheet)
        outer = column(self)
        outer.addWidget(self._scroll, 1)
        self.setFocusProxy(self.sheet)
        self.side = QWidget()
        beside = column(self.side, 6)
        self.verdict = words("", "title", wrap=True)
        self.cell = words("", wrap=True)
        self.reads = words("", "second", wrap=True)
        for part in (self.verdict, self.cell, self.reads):
            beside.addWidget(part)
        beside.addStretch(1)

    def refresh(self) -> None:
        """Work it out anew, in the background: the directory is counted for it."""
        bench, price = self._page.bench, self._page.needs.price
        index, profiles, directory = bench.index, bench.profiles.snapshot(), self._directory()
        place = directory.place

        def work() -> tuple[ModeRow, ...]:
            around = None
            if place is not None:
                try:
                    around = {mode: _count(directory, place.position, mode) for mode in EVERY_MODE}
                except StoreFailedError:
                    around = None  # the directory tells by itself that it cannot be read
            return modes_beside(index, ModeSurround(profiles, price, around))

        self.verdict.setText(conclusion(index))
        bench.jobs.latest("modes-beside", work, self._take)

    def _take(self, rows: tuple[ModeRow, ...]) -> None:
        self.sheet.show_rows(rows)
        self._explain()

    def _explain(self) -> None:
        across, down = self.sheet.at
        if down < len(self.sheet.rows):
            row, mode = self.sheet.rows[down], EVERY_MODE[across]
            self.cell.setText(f"{row.name}, {MODE_WORDS[mode]}: {row.cells[across].words}")
            self.reads.setText(row.reads)
            cell = self.sheet.cell(across, down).toRect()
            self._scroll.ensureVisible(0, cell.center().y(), 0, cell.height())
