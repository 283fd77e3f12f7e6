"""A row of words of which one is chosen: the pages of a stage, or what stands beside it."""

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtWidgets import QPushButton, QWidget

from umbra_awl.desk.parts.widgets import button, row


class Tabs(QWidget):
    """Asks for a page when a word is pressed; `mark` says which is shown. More can be added to `line` behind the words."""

    def __init__(self, words: Sequence[str], ask: Callable[[int], object], gap: int = 2) -> None:
        super().__init__()
        self.line = row(self, gap)
        self.buttons: list[QPushButton] = []
        for at, text in enumerate(words):
            made = button(text, partial(ask, at), "segment")
            made.setCheckable(True)
            self.buttons.append(made)
            self.line.addWidget(made)

    def mark(self, at: int) -> None:
        """Show a word as the chosen one."""
        for number, made in enumerate(self.buttons):
            made.setChecked(number == at)

    @property
    def marked(self) -> int:
        """Which word is chosen."""
        return next((at for at, made in enumerate(self.buttons) if made.isChecked()), 0)
