"""Where Tab goes: by reading order through the canvas, then what stands beside it, the findings last before the foot.

The toolkit's own order is that in which widgets were made, and much of the window is made anew as it is used.
"""

from collections.abc import Sequence

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QAbstractScrollArea, QWidget

_ROW = 12
"""So many pixels up or down still count as one line."""


def stops(window: QWidget, panes: Sequence[QWidget]) -> list[QWidget]:
    """Every widget of a window that Tab stops at, pane by pane and there by reading order; other parts come before the panes."""
    found: list[QWidget] = []
    widget = window.nextInFocusChain()
    while widget is not None and widget is not window:
        if _takes_tab(widget, window):
            found.append(widget)
        widget = widget.nextInFocusChain()
    return sorted(found, key=lambda item: _place(item, window, panes))


def _takes_tab(widget: QWidget, window: QWidget) -> bool:
    by_tab = bool(widget.focusPolicy() & Qt.FocusPolicy.TabFocus)
    return by_tab and widget.isEnabled() and widget.isVisibleTo(window) and widget.focusProxy() is None


def _place(widget: QWidget, window: QWidget, panes: Sequence[QWidget]) -> tuple[int, ...]:
    pane = next((at for at, pane in enumerate(panes) if pane is widget or pane.isAncestorOf(widget)), -1)
    groups = (*_groups_of(widget, window), widget)
    return pane, *(step for item in groups for step in _line(item, window))


def _groups_of(widget: QWidget, window: QWidget) -> list[QWidget]:
    """What a widget lies in that is gone through whole, outermost first: halves of a page, a card, a scrolled part of a card."""
    found: list[QWidget] = []
    parent = widget.parentWidget()
    while parent is not None and parent is not window:
        if (
            parent.property("whole")
            or parent.property("role") == "card"
            or (isinstance(parent, QAbstractScrollArea) and _in_card(parent, window))
        ):
            found.append(parent)
        parent = parent.parentWidget()
    return found[::-1]


def _in_card(area: QWidget, window: QWidget) -> bool:
    """Whether a scrolled part lies in a card: it moves as one goes, so it is gone through whole."""
    parent = area.parentWidget()
    while parent is not None and parent is not window:
        if parent.property("role") == "card":
            return True
        parent = parent.parentWidget()
    return False


def _line(widget: QWidget, window: QWidget) -> tuple[int, int]:
    at = widget.mapTo(window, QPoint(0, 0))
    return (at.y() + _ROW // 2) // _ROW, at.x()


def go(window: QWidget, panes: Sequence[QWidget], *, forward: bool) -> bool:
    """Give the keyboard to the next stop, or to the one before; False where there is none."""
    order = stops(window, panes)
    if not order:
        return False
    now = window.focusWidget()
    before = order.index(now) if now in order else -1 if forward else 0
    order[(before + (1 if forward else -1)) % len(order)].setFocus(
        Qt.FocusReason.TabFocusReason if forward else Qt.FocusReason.BacktabFocusReason
    )
    return True
