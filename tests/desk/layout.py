"""Looks at what is shown: text that does not fit its widget, widgets that overlap, scrolling inside of scrolling."""

from collections.abc import Iterator
from itertools import combinations

from PyQt6.QtCore import QPoint, QRect, Qt
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractScrollArea,
    QComboBox,
    QLabel,
    QPushButton,
    QScrollArea,
    QWidget,
)

from umbra_awl.desk.parts.widgets import Whole
from umbra_awl.desk.sheet.view import SheetView

SLACK = 1
_AS_WIDE_AS_THERE_ARE_COLUMNS = {"The file as it would be written", "Channel names on every radio"}
"""Tables with a column for each of somebody else's fields, or for each radio of the plan."""


def faults(window: QWidget) -> list[str]:
    """What is wrong with the window as it is shown, one line each."""
    shown = [item for item in window.findChildren(QWidget) if item.isVisible() and not item.visibleRegion().isEmpty()]
    return [*_cut(shown), *_overlapping(window, shown), *_sideways(shown), *_nested(shown)]


def _name(widget: QWidget) -> str:
    text = widget.text() if isinstance(widget, QLabel | QAbstractButton) else widget.accessibleName()
    return f"{type(widget).__name__} “{text[:60]}”"


def _cut(shown: list[QWidget]) -> Iterator[str]:
    for widget in shown:
        if isinstance(widget, Whole):
            continue  # shown whole or not at all
        if isinstance(widget, QLabel) and widget.text():
            yield from _cut_label(widget)
        elif isinstance(widget, QPushButton) and widget.text():
            lines = widget.text().split("\n")
            wanted = max(map(widget.fontMetrics().horizontalAdvance, lines))
            if wanted > widget.width() + SLACK:
                yield f"cut: {_name(widget)} wants {wanted}, has {widget.width()}"
            if len(lines) * widget.fontMetrics().height() > widget.height() + SLACK:
                yield f"cut: {_name(widget)} has {len(lines)} lines in a height of {widget.height()}"
            if widget.text().endswith("…") and widget.property("role") == "value":
                yield f"cut with dots: {_name(widget)}"
        elif isinstance(widget, QComboBox):
            wanted = widget.fontMetrics().horizontalAdvance(widget.currentText()) + 30
            if wanted > widget.width() + SLACK:
                yield f"cut: {_name(widget)} “{widget.currentText()}” wants {wanted}, has {widget.width()}"


def _cut_label(label: QLabel) -> Iterator[str]:
    if label.wordWrap():
        wanted = label.heightForWidth(label.width())
        if wanted > label.height() + SLACK:
            yield f"cut: {_name(label)} wants {wanted} high, has {label.height()}"
        longest = max((label.fontMetrics().horizontalAdvance(word) for word in label.text().split()), default=0)
        if longest > label.width() + SLACK:
            yield f"cut: a word of {_name(label)} wants {longest}, has {label.width()}"
        return
    wanted = max(label.fontMetrics().horizontalAdvance(line) for line in label.text().split("\n"))
    if wanted > label.width() + SLACK:
        yield f"cut: {_name(label)} wants {wanted}, has {label.width()}"


def _rect(widget: QWidget, window: QWidget) -> QRect:
    return QRect(widget.mapTo(window, QPoint(0, 0)), widget.size()).intersected(
        widget.visibleRegion().boundingRect().translated(widget.mapTo(window, QPoint(0, 0)))
    )


def _overlapping(window: QWidget, shown: list[QWidget]) -> Iterator[str]:
    leaves = [item for item in shown if isinstance(item, QLabel | QAbstractButton)]
    rects = [(item, _rect(item, window)) for item in leaves]
    for (one, first), (other, second) in combinations(rects, 2):
        if not first.intersects(second):
            continue
        both = first.intersected(second)
        if both.width() > 3 and both.height() > 3 and not one.isAncestorOf(other) and not other.isAncestorOf(one):
            yield f"overlap: {_name(one)} and {_name(other)} by {both.width()}×{both.height()}"


def _sideways(shown: list[QWidget]) -> Iterator[str]:
    for area in shown:
        if (
            isinstance(area, QAbstractScrollArea)
            and not isinstance(area, SheetView)
            and type(area).__name__ != "CandidateSheet"
        ):
            bar = area.horizontalScrollBar()
            never = area.horizontalScrollBarPolicy() == Qt.ScrollBarPolicy.ScrollBarAlwaysOff
            wide = area.accessibleName() in _AS_WIDE_AS_THERE_ARE_COLUMNS
            if bar is not None and bar.maximum() > 0 and not never and not wide:
                yield f"scrolled sideways: {_name(area)} by {bar.maximum()}"
            inside = area.widget() if isinstance(area, QScrollArea) else None
            if never and inside is not None and inside.minimumSizeHint().width() > area.viewport().width() + SLACK:
                yield f"wider than its room: in {_name(area)} {inside.minimumSizeHint().width()}, has {area.viewport().width()}"


def _nested(shown: list[QWidget]) -> Iterator[str]:
    scrolling = [
        item
        for item in shown
        if isinstance(item, QAbstractScrollArea)
        and item.verticalScrollBar() is not None
        and item.verticalScrollBar().maximum() > 0
    ]
    for outer in scrolling:
        for inner in scrolling:
            if outer is not inner and outer.isAncestorOf(inner):
                yield f"scrolls inside of what scrolls: {_name(inner)} in {_name(outer)}"
