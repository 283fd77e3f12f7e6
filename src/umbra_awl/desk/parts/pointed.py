"""What can be done with the one thing under the pointer, or under the keyboard: its own acts, above those of the page."""

from collections.abc import Callable, Iterator, Sequence
from functools import partial
from typing import NamedTuple, Protocol, runtime_checkable

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QAbstractItemView, QApplication, QLabel, QWidget

from umbra_awl.desk.copying import copied_from, rows_text
from umbra_awl.desk.parts.cards.typing import ValueButton


class ThingAct(NamedTuple):
    """An act on a thing: its words, and what it does."""

    words: str
    do: Callable[[], object]


@runtime_checkable
class Pointed(Protocol):
    """A widget that knows what can be done with the thing at a place of it."""

    def acts_at(self, at: QPoint) -> Sequence[ThingAct]:
        """Choose the thing at a place of the widget, in its pixels, and tell its acts; none where nothing is there."""


def acts_of(widget: QWidget | None, at: QPoint) -> list[ThingAct]:
    """The acts of what is at a place of the screen, the innermost first; `widget` is what lies there."""
    made: list[ThingAct] = []
    while widget is not None and not widget.isWindow():
        made += _acts(widget, widget.mapFromGlobal(at))
        widget = widget.parentWidget()
    return list({act.words: act for act in reversed(made)}.values())[::-1]


def _acts(widget: QWidget, at: QPoint) -> Iterator[ThingAct]:
    if isinstance(widget, Pointed):
        yield from widget.acts_at(at)
    if isinstance(widget, QAbstractItemView):
        if widget.model() is not None and widget.model().rowCount():  # type: ignore[union-attr]
            yield ThingAct("Copy what is selected", partial(_copy, lambda: copied_from(widget)))
            yield ThingAct("Copy the whole table", partial(_copy, lambda: rows_text(widget)))
    elif isinstance(widget, ValueButton) and widget.whole:
        yield ThingAct("Change it", widget.click)
        yield ThingAct("Copy the value", partial(_copy, lambda: widget.whole))
    elif isinstance(widget, QLabel) and widget.text():
        yield ThingAct("Copy this text", partial(_copy, widget.text))


def _copy(text: Callable[[], str]) -> None:
    clipboard = QApplication.clipboard()
    if clipboard is not None:
        clipboard.setText(text())
