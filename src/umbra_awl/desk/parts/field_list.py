"""A card that reads like a label on a chassis: name left, value right, edited in place.

Click, Enter or F2 edits; Enter commits; Esc reverts. A refused value stays open with the reason under it.
"""

from collections.abc import Callable, Sequence
from typing import NamedTuple

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import (
    QFrame,
    QGridLayout,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import act, button, clear, column, restyle, row, rule, words

Commit = Callable[[str], str]


class Choice(NamedTuple):
    """One of several values: the word shown and what choosing it does."""

    word: str
    does: Callable[[], object]
    chosen: bool = False


class Field(NamedTuple):
    """One line, or half of one. `commit` takes the typed text and gives the reason of a refusal, or an empty text."""

    label: str
    value: str
    mono: bool = False
    tone: str = ""
    commit: Commit | None = None
    choices: Sequence[Choice] = ()
    text: str | None = None
    tip: str = ""
    half: bool = False


class Act(NamedTuple):
    """An action under the fields."""

    label: str
    does: Callable[[], object]
    main: bool = False


RULE = Field("", "")
_LINE = 24
_ROUND_VALUE = 12


class _Place(NamedTuple):
    """Where a value stands in a card's grid."""

    grid: QGridLayout
    line: int
    column: int
    span: int

    def put(self, widget: QWidget) -> None:
        """Put a widget there."""
        self.grid.addWidget(widget, 2 * self.line, self.column, 1, self.span)

    def put_under(self, widget: QWidget) -> None:
        """Put a widget on the line under it, over the card's whole width."""
        self.grid.addWidget(widget, 2 * self.line + 1, 0, 1, 4)


class _Typing(QLineEdit):
    """The line edit of a value in the making."""

    def __init__(self, text: str, done: Callable[[bool], None]) -> None:
        super().__init__(text)
        self._done = done
        self.selectAll()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self._done(False)
        elif event is not None and event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self._done(True)
        else:
            super().keyPressEvent(event)


class ValueButton(QPushButton):
    """A value that can be edited: F2 works as well as Enter and a click. A long one is cut with dots; its tip has it whole."""

    def __init__(self, field: Field, begin: Callable[[], None]) -> None:
        super().__init__(field.value or "–")
        self.setProperty("role", "value")
        self.setProperty("mono", "true" if field.mono else "false")
        self.setProperty("tone", field.tone)
        self.setAutoDefault(False)
        self.setAccessibleName(f"{field.label}: {field.value or 'empty'}. Press Enter to change.")
        set_tip(self, field.tip or "Click, Enter or F2 to change")
        self._whole = field.value or "–"
        self._tip = self.toolTip()
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self._begin = begin
        self.clicked.connect(lambda _checked=False: begin())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        shown = self.fontMetrics().elidedText(self._whole, Qt.TextElideMode.ElideRight, self.width() - _ROUND_VALUE)
        if shown != self.text():
            self.setText(shown)
            set_tip(self, self._tip if shown == self._whole else f"{self._whole}\n{self._tip}")

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() in {Qt.Key.Key_F2, Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self._begin()
        else:
            super().keyPressEvent(event)


class FieldList(QFrame):
    """Shows fields and actions; keeps the focus on a field of the same name when it is filled anew."""

    def __init__(self, label_width: int = 96) -> None:
        super().__init__()
        self.setProperty("role", "card")
        self._label_width = label_width
        self._outer = column(self, 4, 8)
        self._fault: QLabel | None = None
        self._values: dict[str, QWidget] = {}
        self._editing: _Typing | None = None

    def show_fields(self, fields: Sequence[Field], acts: Sequence[Act] = (), note: str = "") -> None:
        """Fill the card."""
        focused = next((name for name, widget in self._values.items() if widget.hasFocus()), "")
        clear(self._outer)
        self._values = {}
        self._fault = self._editing = None
        grid = QGridLayout()
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(0)
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(3, 1)
        line, right = -1, True
        for field in fields:
            right = field.half and not right
            line += not right
            self._place(grid, line, field, 2 if right else 0, 1 if field.half else 3)
            right = right or not field.half
        self._outer.addLayout(grid)
        self._fault = words("", "stop", wrap=True)
        self._fault.hide()
        if note:
            self._outer.addWidget(words(note, "second", wrap=True))
        self._place_acts(self._outer, acts)
        if focused in self._values:
            _take_focus(self._values[focused])

    def _place(self, grid: QGridLayout, line: int, field: Field, left: int, span: int) -> None:
        if field is RULE:
            grid.addWidget(rule(), 2 * line, 0, 1, 4)
            return
        label = words(field.label, "second")
        label.setFixedWidth(self._label_width if not left else 58)
        label.setMinimumHeight(_LINE)
        editable = field.commit is not None or field.choices
        grid.addWidget(label, 2 * line, left, Qt.AlignmentFlag.AlignVCenter if editable else Qt.AlignmentFlag.AlignTop)
        place = _Place(grid, line, left + 1, span)
        value: QWidget
        if editable:
            value = ValueButton(field, lambda: self._begin(field, place))
        else:
            text = words(field.value, "mono" if field.mono else "", wrap=not field.mono)
            if field.tone:
                text.setProperty("role", field.tone)
            text.setMinimumHeight(_LINE)
            text.setContentsMargins(6, 0, 0, 0)
            if field.tip:
                set_tip(text, field.tip)
            value = text
        self._values[field.label] = value
        place.put(value)

    @staticmethod
    def _place_acts(outer: QVBoxLayout, acts: Sequence[Act]) -> None:
        if not acts:
            return
        line = row(gap=4)
        for item in acts:
            line.addWidget(button(item.label, item.does, "main" if item.main else ""))
        line.addStretch(1)
        outer.addLayout(line)

    def _begin(self, field: Field, place: _Place) -> None:
        shown = self._values[field.label]
        if field.choices:
            self._choose(field, shown)
            return
        typing = _Typing(field.value if field.text is None else field.text, lambda keep: self._finish(field, keep))
        typing.setAccessibleName(field.label)
        shown.hide()
        place.put(typing)
        if self._fault is not None:
            place.put_under(self._fault)
        typing.setFocus()
        self._editing = typing

    def _choose(self, field: Field, shown: QWidget) -> None:
        menu = QMenu(self)
        for choice in field.choices:
            act(menu, ("● " if choice.chosen else "○ ") + choice.word, choice.does)
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(shown.mapToGlobal(shown.rect().bottomLeft()))

    def _finish(self, field: Field, keep: bool) -> None:
        typing = self._editing
        if typing is None or field.commit is None:
            return
        fault = field.commit(typing.text().strip()) if keep else ""
        if self._editing is not typing:
            return  # the card was filled anew by the commit
        if fault and self._fault is not None:
            restyle(typing, "wrong", "true")
            self._fault.setText(fault)
            self._fault.show()
            return
        self._editing = None
        typing.hide()
        typing.deleteLater()
        if self._fault is not None:
            self._fault.hide()
        self._values[field.label].show()
        self._values[field.label].setFocus()

    def focus_first(self) -> None:
        """Give the keyboard to the first value."""
        for value in self._values.values():
            _take_focus(value)
            return

    def edit(self, label: str) -> None:
        """Begin editing a field by its label."""
        value = self._values.get(label)
        if isinstance(value, ValueButton):
            value.click()


def _take_focus(value: QWidget) -> None:
    """Give a value that was just put in place the keyboard: only what is shown can take it."""
    value.show()
    value.setFocus()
