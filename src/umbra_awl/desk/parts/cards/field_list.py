"""A card that reads like a label on a chassis: name left, value right, edited in place.

Click, Enter or F2 edits. Enter, Tab and leaving the field commit; Esc alone drops what was typed. A refused value stays open
with the reason under it. While somebody types, nothing is filled anew under their hands.
"""

from collections.abc import Sequence
from typing import NamedTuple

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QFrame,
    QGridLayout,
    QLabel,
    QMenu,
    QVBoxLayout,
    QWidget,
)

from umbra_awl.desk.parts.cards.fields import RULE, Act, Field
from umbra_awl.desk.parts.cards.typing import AWAY, LINE, Typing, ValueButton
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import act, button, clear, column, restyle, row, rule, words


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


class _Shown(NamedTuple):
    """What a card is filled with."""

    fields: Sequence[Field]
    acts: Sequence[Act]
    note: str


class FieldList(QFrame):
    """Shows fields and actions; keeps the focus on a field of the same name when it is filled anew."""

    def __init__(self, label_width: int = 96) -> None:
        super().__init__()
        self.setProperty("role", "card")
        self._label_width = label_width
        self._outer = column(self, 4, 8)
        self._fault: QLabel | None = None
        self._values: dict[str, QWidget] = {}
        self._editing: Typing | None = None
        self._label = ""
        self._waiting: _Shown | None = None
        self._committing = False
        self._about: object = None

    def show_fields(
        self, fields: Sequence[Field], acts: Sequence[Act] = (), note: str = "", about: object = None
    ) -> None:
        """Fill the card; while a value is being typed, once that is done, unless the card is `about` another thing now."""
        shown, same = _Shown(fields, acts, note), about == self._about
        self._about = about
        if self._editing is not None and same:
            self._waiting = shown
            return
        self._editing = None
        self._fill(shown)

    def _fill(self, shown: _Shown) -> None:
        self._waiting = None
        focused = next((name for name, widget in self._values.items() if widget.hasFocus()), "")
        clear(self._outer)
        self._values = {}
        self._fault = None
        grid = QGridLayout()
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(0)
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(3, 1)
        line, right = -1, True
        for field in shown.fields:
            right = field.half and not right
            line += not right
            self._place(grid, line, field, 2 if right else 0, 1 if field.half else 3)
            right = right or not field.half
        self._outer.addLayout(grid)
        self._fault = words("", "stop", wrap=True)
        self._fault.hide()
        if shown.note:
            self._outer.addWidget(words(shown.note, "second", wrap=True))
        self._place_acts(self._outer, shown.acts)
        if focused in self._values:
            _take_focus(self._values[focused])

    def _place(self, grid: QGridLayout, line: int, field: Field, left: int, span: int) -> None:
        if field is RULE:
            grid.addWidget(rule(), 2 * line, 0, 1, 4)
            return
        label = words(field.label, "second")
        label.setMinimumWidth(self._label_width if not left else 58)
        label.setMinimumHeight(LINE)
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
            text.setMinimumHeight(LINE)
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
        typing = Typing(
            field.value if field.text is None else field.text, lambda keep, on: self._finish(field, keep, on)
        )
        typing.setAccessibleName(field.label)
        shown.hide()
        place.put(typing)
        if self._fault is not None:
            place.put_under(self._fault)
        self._editing, self._label = typing, field.label
        _take_focus(typing)

    def _choose(self, field: Field, shown: QWidget) -> None:
        menu = QMenu(self)
        for choice in field.choices:
            act(menu, ("● " if choice.chosen else "○ ") + choice.word, choice.does)
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(shown.mapToGlobal(shown.rect().bottomLeft()))
        present = next((at for at, choice in enumerate(field.choices) if choice.chosen), 0)
        menu.setActiveAction(menu.actions()[present])

    def _finish(self, field: Field, keep: bool, on: int) -> None:
        """End typing: keep the value or drop it, then go `on` so many fields from there."""
        typing = self._editing
        if typing is None or field.commit is None or self._committing:
            return
        self._committing = True
        fault = field.commit(typing.text().strip()) if keep else ""
        self._committing = False
        if fault and self._fault is not None:
            restyle(typing, "wrong", "true")
            typing.refused = True
            typing.setModified(False)
            self._fault.setText(fault)
            self._fault.show()
            return
        self._editing = None
        if self._waiting is not None:
            self._fill(self._waiting)
        else:
            self._put_back(typing)
        if on != AWAY:
            self._go(self._label, on)

    def _put_back(self, typing: Typing) -> None:
        """Show the value in the place of what was typed."""
        typing.hide()
        typing.deleteLater()
        if self._fault is not None:
            self._fault.hide()
        if self._label in self._values:
            self._values[self._label].show()

    def _go(self, label: str, on: int) -> None:
        """Give the keyboard to a value, or to the one so many further; past the last it goes where Tab goes."""
        labels = [name for name, value in self._values.items() if isinstance(value, ValueButton)]
        if label not in labels:
            self.focus_first()
            return
        at = labels.index(label) + on
        if 0 <= at < len(labels):
            _take_focus(self._values[labels[at]])
        else:
            _take_focus(self._values[label])
            self._values[label].focusNextPrevChild(on > 0)

    def reach(self, field: str) -> bool:
        """Put the cursor into a field by its label, the first of several parted by bars; False where none is there."""
        label = next((name for name in field.split("|") if name in self._values), "")
        if not label or not self.isVisible():
            return False
        _take_focus(self._values[label])
        return True

    def focus_first(self) -> None:
        """Give the keyboard to the first value that can be changed."""
        values = list(self._values.values())
        first = next((value for value in values if isinstance(value, ValueButton)), next(iter(values), None))
        if first is not None:
            _take_focus(first)

    def edit(self, label: str) -> None:
        """Begin editing a field by its label."""
        value = self._values.get(label)
        if isinstance(value, ValueButton):
            value.click()


def _take_focus(value: QWidget) -> None:
    """Give a value that was just put in place the keyboard: only what is shown can take it."""
    value.show()
    value.setFocus()
