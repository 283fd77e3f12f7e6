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
    card = _card_of(widget, window)
    return pane, *_line(card, window), *_line(_area_of(widget, card), window), *_line(widget, window)


def _card_of(widget: QWidget, window: QWidget) -> QWidget:
    """The outermost card that a widget lies in, which is gone through whole; the widget itself where it lies in none."""
    card, parent = widget, widget.parentWidget()
    while parent is not None and parent is not window:
        if parent.property("role") == "card":
            card = parent
        parent = parent.parentWidget()
    return card


def _area_of(widget: QWidget, card: QWidget) -> QWidget:
    """The outermost scrolled part of a card that a widget lies in, gone through whole, because it moves as one goes."""
    area, parent = widget, widget.parentWidget()
    while parent is not None and card.isAncestorOf(parent):
        if isinstance(parent, QAbstractScrollArea):
            area = parent
        parent = parent.parentWidget()
    return area


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
