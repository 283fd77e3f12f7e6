"""The lines of a lesson: what is pressed, what the display shows then, and what that is, which can be said where it is open."""

from collections.abc import Sequence

from PyQt6.QtCore import QModelIndex, Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QAbstractItemDelegate,
    QAbstractItemView,
    QComboBox,
    QHeaderView,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableWidget,
    QTableWidgetItem,
    QWidget,
)

from umbra_awl.core.lessons.parts import FIELD_WORDS
from umbra_awl.core.lessons.understood import KEYS_ONLY, SeenLine, UnderstoodLine
from umbra_awl.core.paper.keys import KeyStep
from umbra_awl.desk.parts.tips import plain
from umbra_awl.desk.theme.theme import Theme

_HEADS = ("you press", "it shows", "what it is")
_PRESS, _SHOWS, _IS = range(3)


class NamedEditors(QStyledItemDelegate):
    """Editors that a screen reader can name."""

    def createEditor(self, parent: QWidget | None, option: QStyleOptionViewItem, index: QModelIndex) -> QWidget | None:
        """The usual editor, named after its column and line."""
        made = super().createEditor(parent, option, index)
        if made is not None:
            made.setAccessibleName(f"What {_HEADS[index.column()]}, line {index.row() + 1}")
        return made


class LessonTable(QTableWidget):
    """Lines typed one after another; Enter goes on to the next cell, and the last line is always an empty one."""

    typed = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__(0, len(_HEADS))
        self._filling = False
        self._fixed = False
        self._fields: tuple[str, ...] = ()
        self.setAccessibleName("Lines of the lesson: keys, what the display shows, what it is")
        self.setHorizontalHeaderLabels(list(_HEADS))
        self.setItemDelegate(NamedEditors(self))
        self.setShowGrid(False)
        self.setTabKeyNavigation(False)
        self.setEditTriggers(QAbstractItemView.EditTrigger.AllEditTriggers)
        header, rows = self.horizontalHeader(), self.verticalHeader()
        assert header is not None
        assert rows is not None
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        header.setStretchLastSection(True)
        header.setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        rows.hide()
        rows.setDefaultSectionSize(theme.px(30))
        for at, width in enumerate((190, 130)):
            self.setColumnWidth(at, theme.px(width))
        self.itemChanged.connect(self._changed)

    def begin(self, fields: tuple[str, ...], lines: Sequence[SeenLine] = ()) -> None:
        """Begin a lesson; `fields` are those that a line may be."""
        self._fields, self._fixed = fields, False
        self._fill([(line.keys, line.shows) for line in lines])
        for at, line in enumerate(lines):
            if line.said:
                self._say(at, line.said)

    def foretell(self, steps: Sequence[KeyStep]) -> None:
        """Show what must be pressed and seen; nothing can be typed."""
        self._fixed = True
        self._fill([(" ".join(step.keys), step.shows or "–") for step in steps])
        for at, step in enumerate(steps):
            self._word(at, FIELD_WORDS.get(step.field, "") if step.field in FIELD_WORDS else step.note)

    def _fill(self, rows: Sequence[tuple[str, str]]) -> None:
        self._filling = True
        self.clearContents()
        self.setRowCount(len(rows) + (not self._fixed))
        for at in range(self.rowCount()):
            for place, text in enumerate(rows[at] if at < len(rows) else ("", "")):
                self.setItem(at, place, self._item(text))
            self.setItem(at, _IS, self._item("", fixed=True))
        self._filling = False

    def _item(self, text: str, *, fixed: bool = False) -> QTableWidgetItem:
        made = QTableWidgetItem(text)
        if fixed or self._fixed:
            made.setFlags(made.flags() & ~Qt.ItemFlag.ItemIsEditable)
        return made

    def lines(self) -> list[SeenLine]:
        """The lines as they are typed, without the empty ones."""
        made = []
        for at in range(self.rowCount()):
            keys, shows = (self._text(at, place) for place in (_PRESS, _SHOWS))
            if keys:
                choice = self.cellWidget(at, _IS)
                said = choice.currentData() if isinstance(choice, QComboBox) else ""
                made.append(SeenLine(keys, shows, said or ""))
        return made

    def _text(self, at: int, place: int) -> str:
        item = self.item(at, place)
        return item.text().strip() if item is not None else ""

    def show_understood(self, lines: Sequence[UnderstoodLine]) -> None:
        """Say what each line is; where it may be several things, they are offered."""
        rows = [at for at in range(self.rowCount()) if self._text(at, _PRESS)]
        for at, line in zip(rows, lines, strict=False):
            if line.doubt and self.cellWidget(at, _IS) is None:
                self._offer(at, line)
            elif self.cellWidget(at, _IS) is None:
                self._word(at, line.fault or line.words)

    def _word(self, at: int, text: str) -> None:
        item = self.item(at, _IS)
        if item is not None:
            self._filling = True
            item.setText(text)
            item.setData(Qt.ItemDataRole.ToolTipRole, plain(text))
            self._filling = False

    def _offer(self, at: int, line: UnderstoodLine) -> None:
        self._filling = True
        choice = QComboBox()
        choice.setAccessibleName(f"What line {at + 1} is")
        choice.addItem(f"{line.words}? Say", "")
        for field in dict.fromkeys((*line.doubt, KEYS_ONLY)):
            choice.addItem("keys only" if field == KEYS_ONLY else FIELD_WORDS[field], field)
        choice.currentIndexChanged.connect(lambda _at: self.typed.emit())
        self.setCellWidget(at, _IS, choice)
        self._filling = False

    def _say(self, at: int, field: str) -> None:
        self._offer(at, UnderstoodLine(words=FIELD_WORDS.get(field, field), doubt=(field,)))
        choice = self.cellWidget(at, _IS)
        assert isinstance(choice, QComboBox)
        choice.setCurrentIndex(choice.findData(field))

    def _changed(self, item: QTableWidgetItem) -> None:
        if self._filling or self._fixed:
            return
        if item.column() == _PRESS:
            self._filling = True
            self.removeCellWidget(item.row(), _IS)
            self._filling = False
            self._word(item.row(), "")
        if item.row() == self.rowCount() - 1 and item.text().strip():
            self._filling = True
            self.setRowCount(self.rowCount() + 1)
            for place in range(len(_HEADS)):
                self.setItem(self.rowCount() - 1, place, self._item("", fixed=place == _IS))
            self._filling = False
        self.typed.emit()

    def begin_typing(self) -> None:
        """Put the cursor into the first empty line."""
        self.setFocus()
        if not self._fixed:
            self.setCurrentCell(self.rowCount() - 1, _PRESS)
            if self.state() != QAbstractItemView.State.EditingState:
                self.edit(self.currentIndex())

    def closeEditor(self, editor: QWidget | None, hint: QAbstractItemDelegate.EndEditHint) -> None:
        """Enter takes what was typed, and goes on: from the keys to what is shown, from there to the next line."""
        at, place = self.currentRow(), self.currentColumn()
        super().closeEditor(editor, hint)
        if hint != QAbstractItemDelegate.EndEditHint.SubmitModelCache or self._fixed:
            return
        there = (at, _SHOWS) if place == _PRESS and self._text(at, _PRESS) else (at + 1, _PRESS)
        if there[0] < self.rowCount() and self._text(at, _PRESS):
            self.setCurrentCell(*there)  # which opens it
