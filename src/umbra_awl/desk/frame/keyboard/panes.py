"""The panes of the window, entered one after another."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QWidget

if TYPE_CHECKING:
    from umbra_awl.desk.frame.window import MainWindow


def _takes_keys(widget: QWidget) -> bool:
    return bool(widget.focusPolicy() & Qt.FocusPolicy.TabFocus) and widget.isEnabled()


class Panes:
    """Gives the keyboard to the next pane."""

    def __init__(self, owner: "MainWindow") -> None:
        self._window = owner

    def next_pane(self) -> None:
        """Give the keyboard to the next pane."""
        panes: list[QWidget] = [
            self._window.canvas,
            self._window.beside.side,
            self._window.findings,
            self._window.course,
        ]
        focused = self._window.focusWidget()
        at = next((place for place, pane in enumerate(panes) if focused is not None and pane.isAncestorOf(focused)), -1)
        any(self._enter(panes[(at + step) % len(panes)]) for step in range(1, len(panes) + 1))

    def _enter(self, pane: QWidget) -> bool:
        """Give the keyboard to a pane; False where nothing in it takes it."""
        stage = self._window.stages.stage
        if pane is self._window.canvas and stage is not None:
            stage.take_focus()
            return True
        children = [pane, *pane.findChildren(QWidget)]
        first = next((child for child in children if child.isVisible() and _takes_keys(child)), None)
        if first is not None:
            first.setFocus(Qt.FocusReason.TabFocusReason)
        return first is not None
