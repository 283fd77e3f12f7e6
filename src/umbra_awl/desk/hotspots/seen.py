"""What follows a signal is shown anew only while it is seen; else once, when it comes into sight."""

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtWidgets import QWidget


class Seen(QObject):
    """Calls `show` when something changed and the widget is seen, at the latest when it comes into sight."""

    def __init__(self, widget: QWidget, show: Callable[[], object]) -> None:
        super().__init__(widget)
        self._widget, self._show = widget, show
        self._stale = False
        widget.installEventFilter(self)
        show()

    def changed(self) -> None:
        """Something changed."""
        self._stale = not self._widget.isVisible()
        if not self._stale:
            self._show()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if (
            event is not None
            and watched is getattr(self, "_widget", None)
            and event.type() == QEvent.Type.Show
            and self._stale
        ):
            self._stale = False
            self._show()
        return super().eventFilter(watched, event)
