"""Questions in a box of their own, in plain text, with the safe answer chosen."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QCheckBox, QDialog, QMessageBox, QWidget

from umbra_awl.desk.parts.widgets import button, column, row, scrolled, words

CANCEL = "Cancel"


def ask(parent: QWidget | None, title: str, question: str, answers: Sequence[str]) -> str:
    """Ask; which of the answers was given, or CANCEL.

    The safe answer CANCEL is always there and chosen with Enter and Esc; the first letter of another answer gives it.
    """
    box = QMessageBox(QMessageBox.Icon.Question, title, question, parent=parent)
    box.setTextFormat(Qt.TextFormat.PlainText)
    buttons = {box.addButton(f"&{answer}", QMessageBox.ButtonRole.AcceptRole): answer for answer in answers}
    cancel = box.addButton(CANCEL, QMessageBox.ButtonRole.RejectRole)
    box.setDefaultButton(cancel)
    box.setEscapeButton(cancel)
    box.exec()
    given = box.clickedButton()
    box.deleteLater()
    return next((answer for made, answer in buttons.items() if made is given), CANCEL)


_MOST_AT_ONCE = 14


def ask_choices(
    parent: QWidget | None, title: str, question: str, choices: Sequence[str], ticked: Sequence[str], go: str
) -> tuple[str, ...]:
    """Ask which of some choices are wanted; none where it was called off."""
    dialog = QDialog(parent)
    dialog.setWindowTitle(title)
    outer = column(dialog, 6, 16)
    outer.addWidget(words(question, "title", wrap=True))
    inside = QWidget()
    listed = column(inside, 6)
    boxes = []
    for choice in choices:
        box = QCheckBox(choice)
        box.setChecked(choice in ticked)
        listed.addWidget(box)
        boxes.append(box)
    many = len(choices) > _MOST_AT_ONCE
    outer.addWidget(scrolled(inside) if many else inside, 1)
    if many:
        dialog.resize(inside.sizeHint().width() + 60, 560)
    end = row(gap=8)
    end.addStretch(1)
    end.addWidget(button("Cancel", dialog.reject))
    yes = button(go, dialog.accept, "main")
    yes.setDefault(True)
    yes.setEnabled(any(box.isChecked() for box in boxes))
    end.addWidget(yes)
    outer.addLayout(end)
    for box in boxes:
        box.toggled.connect(lambda _on: yes.setEnabled(any(one.isChecked() for one in boxes)))
    boxes[0].setFocus()
    given = dialog.exec()
    dialog.deleteLater()
    return tuple(box.text() for box in boxes if box.isChecked()) if given else ()
