"""A small sheet that asks for something new: fields under a lead, one filled button, the refusal under them."""

from collections.abc import Callable, Sequence
from itertools import pairwise

from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QComboBox, QDialog, QFormLayout, QLabel, QLineEdit, QWidget

from umbra_awl.desk.parts.widgets import button, column, row, words

_ALL = 30
"""A list of choices is as tall as it has choices, up to so many."""


class FormSheet(QDialog):
    """A form whose one filled button tries; a refusal is shown under it and the form stays."""

    def __init__(self, parent: QWidget, title: str, lead: str, attempt: Callable[[], str]) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setMinimumWidth(400)
        outer = column(self, 10, 16)
        outer.addWidget(words(title, "title"))
        outer.addWidget(words(lead, "second", wrap=True))
        self.form = QFormLayout()
        self.form.setVerticalSpacing(6)
        outer.addLayout(self.form)
        self.fault = words("", "stop", wrap=True)
        outer.addWidget(self.fault)
        acts = row()
        acts.addStretch(1)
        self._cancel = button("Cancel", self.reject)
        acts.addWidget(self._cancel)
        self._done = button("Add", lambda: self._try(attempt), "main")
        self._done.setDefault(True)
        acts.addWidget(self._done)
        outer.addLayout(acts)

    def _try(self, attempt: Callable[[], str]) -> None:
        fault = attempt()
        self.fault.setText(fault)
        if not fault:
            self.accept()

    def showEvent(self, event: QShowEvent | None) -> None:
        """Tab runs through the fields from the first, then to the buttons."""
        fields = [self.form.itemAt(at, QFormLayout.ItemRole.FieldRole) for at in range(self.form.rowCount())]
        there = [widget for item in fields if item is not None and (widget := item.widget()) is not None]
        order = [widget for widget in there if not isinstance(widget, QLabel)]
        order += [self._done, self._cancel]
        for one, after in pairwise(order):
            QWidget.setTabOrder(one, after)
        order[0].setFocus()
        super().showEvent(event)

    def line(self, label: str, example: str = "") -> QLineEdit:
        """Add a text field."""
        made = QLineEdit()
        made.setPlaceholderText(example)
        made.setAccessibleName(label)
        self.form.addRow(label, made)
        return made

    def choice(self, label: str, options: Sequence[tuple[str, object]]) -> QComboBox:
        """Add a choice of (words, data)."""
        made = QComboBox()
        made.setMaxVisibleItems(_ALL)
        made.setAccessibleName(label)
        for text, data in options:
            made.addItem(text, data)
        self.form.addRow(label, made)
        return made

    def remark(self) -> QLabel:
        """Add a line of words under the field before it."""
        made = words("", "second", wrap=True)
        self.form.addRow("", made)
        return made
