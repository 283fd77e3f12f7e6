"""A button with a value whose menu is filled when it is opened."""

from collections.abc import Callable, Iterable

from PyQt6.QtWidgets import QLabel, QMenu, QPushButton

from umbra_awl.desk.parts.widgets import PressButton, act, words

_DOWN = 6


def lead(text: str) -> QLabel:
    """A word of second rank before a button, on its line of writing."""
    made = words(text, "second")
    made.setContentsMargins(0, _DOWN, 0, 0)
    return made


Choices = Callable[[], Iterable[tuple[str, Callable[[], object]]]]


def menu_button(name: str, choices: Choices, role: str = "value") -> QPushButton:
    """A button called so for a screen reader; `choices` are the words and what each does."""
    made = PressButton()
    made.setProperty("role", role)
    made.setAccessibleName(name)
    menu = QMenu(made)
    made.setMenu(menu)

    def fill() -> None:
        menu.clear()
        for text, does in choices():
            act(menu, text, does)

    menu.aboutToShow.connect(fill)
    return made
