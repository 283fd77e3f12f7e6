"""Questions in a box of their own, in plain text, with the safe answer chosen."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QMessageBox, QWidget

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
