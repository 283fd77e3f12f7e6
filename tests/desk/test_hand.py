"""The hand keeps its place: whatever is pressed on whichever page, the keyboard is not thrown to the top of the window."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtPrintSupport import QPrintDialog
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QApplication, QDialog, QFileDialog, QInputDialog, QMenu, QMessageBox

from umbra_awl.desk.stages import STAGES

PAGES = [(key, page) for key, entry in STAGES.items() for page in entry.pages]
BY_DAY = PAGES[::2]
"""Every page is walked by night; by day each second one, for a walk takes a second or more."""
OUTSIDE = (
    "Look for", "Start", "Ask it", "Find it", "Write", "Read", "Send", "Begin", "Fetch", "Play", "Follow", "Simulat", "Apply",
    "Restart", "Practise",
)  # fmt: skip
"""What reaches out of the window, runs long or opens another window is tried where it belongs."""


@pytest.fixture
def alone(monkeypatch):
    """No dialog, menu or file window stops the hand."""
    monkeypatch.setattr(QDialog, "exec", lambda *_given: 0)
    monkeypatch.setattr(QMessageBox, "exec", lambda *_given: 0)
    monkeypatch.setattr(QPrintDialog, "exec", lambda *_given: 0)
    monkeypatch.setattr(QMenu, "popup", lambda *_given: None)
    monkeypatch.setattr(QMenu, "exec", lambda *_given: None)
    monkeypatch.setattr(QInputDialog, "getText", lambda *_given, **_more: ("", False))
    monkeypatch.setattr(QInputDialog, "getItem", lambda *_given, **_more: ("", False))
    for name in ("getOpenFileName", "getSaveFileName"):
        monkeypatch.setattr(QFileDialog, name, lambda *_given, **_more: ("", ""))
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *_given, **_more: ([], ""))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_given, **_more: "")


FOOT_AT = ("routes", "sheet")
"""The findings are the same on every page, and tried on this."""


def controls(window, with_foot):
    """Everything of the page and its side, and of the findings where asked for, that can be pressed now, from the top left."""
    parts = (window.canvas.currentWidget(), window.beside, window.foot)
    found = {}
    for part in parts[: 3 if with_foot else 2]:
        for item in part.findChildren(QAbstractButton):
            if item.isVisible() and item.isEnabled() and not item.text().startswith(OUTSIDE):
                at = item.mapTo(window, item.rect().center())
                found[at.y(), at.x()] = item
    return [found[at] for at in sorted(found)]


def press_all(window, key, page):
    """Press them one after another; what the keyboard was on whenever it was thrown out."""
    window.stages.open(key, page)
    QApplication.processEvents()
    with_foot = (key, page) == FOOT_AT
    count, lost = len(controls(window, with_foot)), []
    for at in range(count):
        if (window.stages.wanted[0], window.stages[key].pages.name) != (
            key,
            page,
        ) or window.canvas.currentWidget() is not window.stages[key]:
            window.stages.open(key, page)
            QApplication.processEvents()
        there = controls(window, with_foot)
        if at >= len(there):
            break
        item, before = there[at], window.bench.plan
        text = item.text() or item.accessibleName()
        item.setFocus()
        if not item.hasFocus():
            continue
        QTest.keyClick(item, Qt.Key.Key_Space)
        for _turn in range(3):
            QApplication.processEvents()
            if popup := QApplication.activePopupWidget():
                popup.close()
        focused = QApplication.focusWidget()
        if focused is None or window.top.isAncestorOf(focused):
            lost.append(f"{key} {page}: {text!r} → {type(focused).__name__}")
        for _step in range(4):
            if window.bench.plan is not before:
                window.bench.steps.back()
    return lost


@pytest.mark.parametrize(
    ("key", "page"), [item if item in BY_DAY else pytest.param(*item, marks=pytest.mark.night) for item in PAGES]
)
def test_no_press_throws_the_keyboard_out_of_the_page(demo_window, alone, key, page):
    demo_window.show()
    demo_window.activateWindow()
    demo_window.setUpdatesEnabled(False)  # where the keyboard is needs no picture
    assert not press_all(demo_window, key, page)
