"""Widgets that show part of a plan are filled anew only when that part changed, and only when they are seen."""

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtWidgets import QWidget

_NEVER: tuple[object, ...] = ()


class WhenChanged(QObject):
    """Calls `fill` when what `parts` gives (compared by identity) is not what was shown last; at the latest when it is seen."""

    def __init__(self, widget: QWidget, parts: Callable[[], tuple[object, ...]], fill: Callable[[], object]) -> None:
        super().__init__(widget)
        self._widget, self._parts, self._fill = widget, parts, fill
        self._shown = _NEVER
        widget.installEventFilter(self)
        self.now()

    def now(self) -> None:
        """Fill if something changed, seen or not."""
        parts = self._parts()
        if len(parts) != len(self._shown) or any(
            one is not other for one, other in zip(parts, self._shown, strict=True)
        ):
            self._shown = parts
            self._fill()

    def check(self) -> None:
        """Something may have changed: fill if the widget is seen; else it is done when it comes into sight."""
        if self._widget.isVisible():
            self.now()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and watched is getattr(self, "_widget", None) and event.type() == QEvent.Type.Show:
            self.now()
        return super().eventFilter(watched, event)
