"""Help for the page that is open: what it is for, how it is worked, and the keys there; shipped with the application."""

import tomllib
from functools import cache
from pathlib import Path

from PyQt6.QtGui import QKeySequence
from PyQt6.QtWidgets import QDialog, QGridLayout, QWidget

from umbra_awl.desk.commands import CommandTable
from umbra_awl.desk.parts.widgets import button, column, row, scrolled, words

_SHIPPED = Path(__file__).with_name("help.toml")


@cache
def help_texts() -> dict[str, dict[str, str]]:
    """Stage to page to what is said of it."""
    found: dict[str, dict[str, str]] = tomllib.loads(_SHIPPED.read_text("utf-8"))
    return found


class HelpSheet(QDialog):
    """Shows the help of one page."""

    def __init__(self, parent: QWidget, commands: CommandTable, stage: str, title: str, page: str) -> None:
        """`stage` is the key, `title` its word, `page` the name of the page; empty ones are the welcome page's."""
        super().__init__(parent)
        self.setWindowTitle("Help")
        self.resize(min(640, parent.width() - 40), min(600, parent.height() - 60))
        outer = column(self, 10, 16)
        outer.addWidget(words(f"{title}: help" if title else "Help", "title"))
        inside = QWidget()
        inner = column(inside, 10)
        inner.addWidget(words(help_texts().get(stage, {}).get(page, help_texts()["anywhere"]["welcome"]), wrap=True))
        for head, menu in ((f"Keys at {title}", f"/{title}"), ("Keys anywhere", "")):
            keys = [
                (QKeySequence(item.keys).toString(QKeySequence.SequenceFormat.NativeText), item.words)
                for item in commands
                if item.keys and (item.menu.endswith(menu) if menu else "/" not in item.menu)
            ]
            if keys and (title or not menu):
                inner.addWidget(words(head, "violet"))
                inner.addLayout(_grid(keys))
        inner.addStretch(1)
        outer.addWidget(scrolled(inside), 1)
        acts = row()
        acts.addStretch(1)
        acts.addWidget(button("Close", self.accept, "main"))
        outer.addLayout(acts)


def _grid(keys: list[tuple[str, str]]) -> QGridLayout:
    grid = QGridLayout()
    grid.setColumnStretch(1, 1)
    for at, (key, text) in enumerate(keys):
        grid.addWidget(words(key, "second"), at, 0)
        grid.addWidget(words(text, wrap=True), at, 1)
    return grid
