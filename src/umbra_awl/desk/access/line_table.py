"""A list line by line: what each would be on the air, how far it is, what is doubtful; ticked lines go into the plan."""

from collections.abc import Iterable
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QHeaderView, QTableView

from umbra_awl.core.directory.importing import EntryChange
from umbra_awl.core.directory.judged import JudgedLine, Judging, ListLine
from umbra_awl.core.directory.private import field_words
from umbra_awl.core.facts.frequency import format_mhz, format_offset
from umbra_awl.core.modes.table import mode_of
from umbra_awl.desk.parts.tips import plain
from umbra_awl.desk.theme.theme import Theme

_HEADS = ("", "Call", "Site", "Receive", "Transmit", "Opens with", "Far", "What to know")
_WIDTHS = (30, 78, 118, 84, 156, 104, 66)
_MONO = {1, 3, 4}
_TONES = {"wrong": "stop", "doubtful": "brass"}
_KINDS = {"vanished": "no longer listed", "same": "as before"}
_MOST_SHOWN = 120
_ROOT = QModelIndex()


def change_words(change: EntryChange) -> str:
    """What would change, in words: “DMR input 446.3875 → 431.1875”."""
    on_air_first = sorted(change.fields.items(), key=lambda item: "-" not in item[0])
    return "; ".join(
        f"{field_words(path)} {_shown(path, old)} → {_shown(path, new)}" for path, (old, new) in on_air_first
    )


def _shown(path: str, value: object) -> str:
    if path.endswith("_hz") and isinstance(value, int):
        return format_mhz(value)
    return "none" if value in {"", None} else str(value)


def held_words(change: EntryChange) -> str:
    """Which of the operator's own edits stay."""
    fields = sorted({field_words(path) for path in change.held})
    return f"yours stays: {', '.join(fields)}" if fields else ""


class Lines(QAbstractTableModel):
    """The lines of one list, judged as they are shown. `ticked`, `mends` and `give_up` are what was decided so far."""

    changed = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.judging: Judging | None = None
        self.items: tuple[ListLine, ...] = ()
        self.ticked: set[tuple[str, int]] = set()
        self.mends: dict[str, dict[str, Any]] = {}
        self.give_up: set[str] = set()
        self._known: dict[tuple[str, int], JudgedLine] = {}

    def show_lines(self, judging: Judging | None, ticked: Iterable[tuple[str, int]] = ()) -> None:
        """Show another list."""
        self.beginResetModel()
        self._known.clear()
        self.judging, self.items = judging, judging.lines if judging is not None else ()
        self.ticked, self.mends, self.give_up = set(ticked), {}, set()
        self.endResetModel()
        self.changed.emit()

    def decided(self) -> None:
        """Something was decided: what is shown follows."""
        self._known.clear()
        self.dataChanged.emit(self.index(0, 0), self.index(max(len(self.items) - 1, 0), len(_HEADS) - 1))
        self.changed.emit()

    def judged(self, line: ListLine) -> JudgedLine:
        """A line as it would stand, judged once for all its cells."""
        assert self.judging is not None
        found = self._known.get(line.mark)
        if found is None:
            found = self._known[line.mark] = self.judging.judged(line, self.mends, self.give_up)
        return found

    def texts(self, line: ListLine) -> tuple[str, ...]:
        """The cells of a line, without its tick."""
        found, measures = self.judged(line), self._theme.measures
        service = found.service
        shift = service.tx_hz - service.rx_hz
        sent = f"{format_mhz(service.tx_hz)} {format_offset(shift)}" if shift else "the same"
        far = measures.distance(line.km) if line.km is not None else "not told"
        what = "; ".join(filter(None, (self.change_words(line), *(item.text for item in found.doubts), found.untold)))
        opened = mode_of(service).head(service.air)
        return found.access.call, found.access.site, format_mhz(service.rx_hz), sent, opened, far, what

    def change_words(self, line: ListLine) -> str:
        """What would become of its entry: in the plan or not, changed in what, whose values stay."""
        change = line.change
        used = self.judging is not None and change.key in self.judging.incoming.used
        held = "the list's values are taken" if change.key in self.give_up else held_words(change)
        said = change_words(change) if change.kind == "changed" else _KINDS.get(change.kind, "")
        return "; ".join(filter(None, ("in the plan" if used else "", held, said)))

    def grade(self, line: ListLine) -> str:
        """The gravest grade of what speaks against it; empty for none."""
        found = self.judged(line).doubts
        return found[0].grade if found else ""

    def tick(self, rows: Iterable[int]) -> None:
        """Tick lines, or take their ticks away where all of them are ticked; what is no longer listed has none."""
        marks = {self.items[at].mark for at in rows if self.items[at].change.kind != "vanished"}
        if not marks:
            return
        self.ticked = self.ticked - marks if marks <= self.ticked else self.ticked | marks
        self.decided()

    # what the view asks

    def rowCount(self, parent: QModelIndex = _ROOT) -> int:
        return 0 if parent.isValid() else len(self.items)

    def columnCount(self, parent: QModelIndex = _ROOT) -> int:
        return 0 if parent.isValid() else len(_HEADS)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        shown = orientation == Qt.Orientation.Horizontal and role == Qt.ItemDataRole.DisplayRole
        return _HEADS[section] if shown else None

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        usual = super().flags(index)
        can = index.column() == 0 and index.isValid() and self.items[index.row()].change.kind != "vanished"
        return usual | Qt.ItemFlag.ItemIsUserCheckable if can else usual

    def setData(self, index: QModelIndex, _value: Any, role: int = Qt.ItemDataRole.EditRole) -> bool:
        if role != Qt.ItemDataRole.CheckStateRole or not index.isValid():
            return False
        self.tick([index.row()])
        return True

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid():
            return None
        line, at = self.items[index.row()], index.column()
        if at == 0:
            return self._tick_data(line, role)
        if role in {Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole}:
            text = self.texts(line)[at - 1]
            return text[:_MOST_SHOWN] if role == Qt.ItemDataRole.DisplayRole else plain(text)
        if role == Qt.ItemDataRole.FontRole and at in _MONO:
            return self._theme.font(13, mono=True)
        if role == Qt.ItemDataRole.ForegroundRole and at == len(_HEADS) - 1:
            return self._theme.color(_TONES.get(self.grade(line), "ink2"))
        return None

    def _tick_data(self, line: ListLine, role: int) -> Any:
        can = line.change.kind != "vanished"
        if role == Qt.ItemDataRole.CheckStateRole and can:
            return Qt.CheckState.Checked if line.mark in self.ticked else Qt.CheckState.Unchecked
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return "no longer listed" if not can else "goes into the plan" if line.mark in self.ticked else "left out"
        return None


class LinesView(QTableView):
    """Space ticks the selected lines; `chosen` tells that another line is looked at."""

    chosen = pyqtSignal(int)

    def __init__(self, model: Lines, theme: Theme) -> None:
        super().__init__()
        self._lines = model
        self.setModel(model)
        model.setParent(self)
        self.setAccessibleName("Lines of the list. Space ticks those that go into the plan.")
        self.setSelectionBehavior(QTableView.SelectionBehavior.SelectRows)
        self.setShowGrid(False)
        self.setWordWrap(False)
        self.setTabKeyNavigation(False)
        header, side = self.horizontalHeader(), self.verticalHeader()
        assert header is not None
        assert side is not None
        side.hide()
        side.setDefaultSectionSize(theme.px(26))
        side.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        header.setStretchLastSection(True)
        header.setHighlightSections(False)
        for at, width in enumerate(_WIDTHS):
            self.setColumnWidth(at, theme.px(width))

    def rows(self) -> list[int]:
        """The selected lines."""
        return sorted({index.row() for index in self.selectedIndexes()})

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Space and not event.modifiers():
            self._lines.tick(self.rows())
            return
        super().keyPressEvent(event)

    def currentChanged(self, current: QModelIndex, previous: QModelIndex) -> None:
        super().currentChanged(current, previous)
        self.chosen.emit(current.row())
