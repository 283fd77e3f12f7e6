"""The keyboard stays where the hand is: what takes its place when the control under it goes.

When a row is filled anew, hidden or shut, the toolkit hands the keyboard to whatever comes next in the window, which is the menu
of the plan. Here it goes to the control of the same name in the same place, else to the nearest one there, else to the page.
"""

from collections.abc import Callable
from typing import NamedTuple

from PyQt6 import sip
from PyQt6.QtCore import QObject, QPoint, Qt, QTimer
from PyQt6.QtWidgets import QApplication, QMainWindow, QWidget


class _Was(NamedTuple):
    """Where the keyboard was: the control, its kind and name, its place in the window, and what it stood in, innermost first."""

    widget: QWidget
    kind: type
    name: str
    at: QPoint
    inside: tuple[QWidget, ...]


class KeepFocus(QObject):
    """Watches one window. `kept` are the parts that it is kept in; `otherwise` gives the keyboard to the page."""

    def __init__(self, window: QMainWindow, kept: tuple[QWidget, ...], otherwise: Callable[[], object]) -> None:
        super().__init__(window)
        self._window, self._kept, self._otherwise = window, kept, otherwise
        self._was: _Was | None = None
        application = QApplication.instance()
        if isinstance(application, QApplication):
            application.focusChanged.connect(self._changed)

    def _changed(self, _old: QWidget | None, now: QWidget | None) -> None:
        if now is not None and self._is_kept(now):
            self._was = self._noted(now)
        elif self._was is not None:
            QTimer.singleShot(0, self._settle)  # what is being hidden is still called visible

    def _is_kept(self, widget: QWidget | None) -> bool:
        return widget is not None and any(part is widget or part.isAncestorOf(widget) for part in self._kept)

    def _noted(self, widget: QWidget) -> _Was:
        inside, parent = list[QWidget](), widget.parentWidget()
        while parent is not None and parent is not self._window:
            inside.append(parent)
            parent = parent.parentWidget()
        return _Was(widget, type(widget), _name(widget), _middle(widget, self._window), tuple(inside))

    def _settle(self) -> None:
        """Give the keyboard to what stands where it was, unless it has found a place among what is kept."""
        was, focused = self._was, QApplication.focusWidget()
        if was is None or self._is_kept(focused) or QApplication.activePopupWidget() is not None:
            return
        if QApplication.activeModalWidget() is not None or (
            focused is not None and focused.window() is not self._window
        ):
            return
        self._was = None
        if not _is_gone(was.widget):
            return  # it was taken elsewhere on purpose
        for outer in was.inside:
            if sip.isdeleted(outer) or not outer.isVisible():
                continue
            there = [item for item in outer.findChildren(QWidget) if _takes(item)]
            if there:
                alike = [item for item in there if type(item) is was.kind and _name(item) == was.name]
                min(alike or there, key=lambda item: _away(_middle(item, self._window), was.at)).setFocus()
                return
        self._otherwise()
        if not self._is_kept(QApplication.focusWidget()):
            there = [item for part in self._kept for item in part.findChildren(QWidget) if _takes(item)]
            if there:
                min(there, key=lambda item: _away(_middle(item, self._window), was.at)).setFocus()


def _name(widget: QWidget) -> str:
    """What a control is called; of a value only its label, which stays while the value changes."""
    return (widget.accessibleName() or str(getattr(widget, "text", lambda: "")())).partition(":")[0]


def _is_gone(widget: QWidget) -> bool:
    return sip.isdeleted(widget) or not widget.isVisible() or not widget.isEnabled()


def _takes(widget: QWidget) -> bool:
    return widget.isVisible() and widget.isEnabled() and bool(widget.focusPolicy() & Qt.FocusPolicy.TabFocus)


def _middle(widget: QWidget, window: QWidget) -> QPoint:
    return widget.mapTo(window, widget.rect().center())


def _away(one: QPoint, other: QPoint) -> int:
    return (one - other).manhattanLength()
