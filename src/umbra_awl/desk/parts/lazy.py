"""Pages that are made when they are first shown: a stage opens sooner, and what is never looked at is never built."""

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QStackedWidget, QWidget

from umbra_awl.desk.parts.widgets import column


class LazyPages(QStackedWidget):
    """A stack of pages by their place; each is made by a function of its own."""

    def __init__(self, makes: Sequence[Callable[[], QWidget]]) -> None:
        super().__init__()
        self._makes: list[Callable[[], QWidget] | None] = list(makes)
        for _make in makes:
            self.addWidget(QWidget())

    def show_page(self, at: int) -> None:
        """Show a page, making it the first time."""
        make, place = self._makes[at], self.widget(at)
        if make is not None and place is not None:
            self._makes[at] = None
            column(place).addWidget(make())
        self.setCurrentIndex(at)
