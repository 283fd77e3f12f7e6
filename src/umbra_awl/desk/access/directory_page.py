"""What is known from elsewhere, behind one door: lists that were brought in, people, and destinations of networks."""

from collections.abc import Sequence

from PyQt6.QtWidgets import QWidget

from umbra_awl.desk.parts.pages import Page, Pages
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench


class DirectoryPage(QWidget):
    """Shows one of its parts; `parts` are theirs by name."""

    def __init__(self, parts: Sequence[Page], bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self.parts = Pages(parts, bench, theme, gap=0)
        self.parts.tabs.line.addStretch(1)
        outer = column(self, 6)
        outer.addWidget(self.parts.tabs)
        outer.addWidget(self.parts, 1)

    def show_part(self, name: str) -> None:
        """Show a part; the one shown before where the name is none of theirs."""
        if name in self.parts.names or not self.parts.name:
            self.parts.show_page(name if name in self.parts.names else self.parts.names[0])

    def take_focus(self) -> None:
        """Give the keyboard to the part that is shown."""
        self.parts.take_focus()

    def reach(self, field: str) -> bool:
        """Put the cursor into a field of the part that is shown."""
        return self.parts.reach(field)
