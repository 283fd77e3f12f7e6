"""Shared parts: filling when seen, tabs, saving, and garbage that is collected on the interface thread."""

import gc
import threading
import weakref
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QObject, Qt, QTimer
from PyQt6.QtWidgets import QApplication, QCheckBox, QMenu, QPushButton, QStackedWidget, QWidget

from umbra_awl.desk import app
from umbra_awl.desk.garbage import Collector
from umbra_awl.desk.parts.asking import ask_choices
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Field
from umbra_awl.desk.parts.cards.typing import broken
from umbra_awl.desk.parts.saving import FilePlace, save_file
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import act


@pytest.fixture
def shown(qtbot):
    stack = QStackedWidget()
    page, other = QWidget(), QWidget()
    stack.addWidget(page)
    stack.addWidget(other)
    qtbot.addWidget(stack)
    stack.show()
    return stack, page, other


def test_a_part_is_filled_only_when_it_changed(shown):
    _stack, page, _other = shown
    parts, filled = [("a",)], []
    fresh = WhenChanged(page, lambda: parts[0], lambda: filled.append(parts[0]))
    assert filled == [("a",)]
    fresh.check()
    assert len(filled) == 1
    parts[0] = (object(),)
    fresh.check()
    assert len(filled) == 2


def test_a_hidden_part_is_filled_when_it_comes_into_sight(shown):
    stack, page, other = shown
    parts, filled = [("a",)], []
    fresh = WhenChanged(page, lambda: parts[0], lambda: filled.append(parts[0]))
    stack.setCurrentWidget(other)
    parts[0] = ("b",)
    fresh.check()
    fresh.check()
    assert filled == [("a",)]
    stack.setCurrentWidget(page)
    assert filled == [("a",), ("b",)]


def test_stages_out_of_sight_do_no_work_for_an_edit(window, demo):
    from umbra_awl.core.plan.edit.edit_station import set_station

    window._directory_path = demo.directory
    window.stages.open("station")
    station = window.stages["station"]
    window.stages.open("routes")
    told = []
    station.who.refresh = lambda: told.append("who")
    window.bench.do(set_station("x", place="Elsewhere"))
    assert told == []
    window.stages.open("station")
    assert station.place.card._values["Place"].text() == "Elsewhere"
    assert told == ["who"]


def test_tabs_ask_and_mark(qtbot):
    asked = []
    tabs = Tabs(("One", "Two"), asked.append)
    qtbot.addWidget(tabs)
    tabs.show()
    qtbot.mouseClick(tabs.buttons[1], Qt.MouseButton.LeftButton)
    assert asked == [1]
    tabs.mark(0)
    assert tabs.marked == 0
    assert [made.isChecked() for made in tabs.buttons] == [True, False]


def test_saving_says_how_it_went(window, tmp_path):
    assert save_file(window.bench, FilePlace(tmp_path / "a.txt"), lambda: b"text", "Done.")
    assert ((tmp_path / "a.txt").read_bytes(), window.message.text()) == (b"text", "Done.")
    assert not save_file(window.bench, FilePlace(tmp_path / "a.txt"), lambda: b"other")
    assert "is there already" in window.message.text()
    assert (tmp_path / "a.txt").read_bytes() == b"text"
    assert save_file(window.bench, FilePlace(tmp_path / "a.txt", replace=True), lambda: b"other")
    assert not save_file(window.bench, FilePlace(tmp_path, replace=True), lambda: b"text")
    assert "cannot be written" in window.message.text()
    with pytest.raises(ValueError, match="no date"):
        save_file(window.bench, FilePlace(tmp_path / "b.txt"), lambda: (_ for _ in ()).throw(ValueError("no date")))


def test_actions_of_a_menu(qtbot):
    menu, done = QMenu(), []
    qtbot.addWidget(menu)
    act(menu, "Do it", lambda: done.append(1), "A tip")
    menu.actions()[0].trigger()
    assert (done, menu.actions()[0].toolTip()) == ([1], "A tip")


def test_a_long_value_takes_the_lines_it_needs(qtbot):
    card = FieldList(60)
    qtbot.addWidget(card)
    card.resize(200, 80)
    card.show_fields(
        [
            Field(
                "Note",
                "A very long note that cannot possibly fit beside its label",
                commit=lambda _text: "",
                tip="A tip",
            )
        ]
    )
    card.show()
    value = card._values["Note"]
    qtbot.waitUntil(lambda: "\n" in value.text())
    card.adjustSize()
    lines = value.text().split("\n")
    assert " ".join(lines) == "A very long note that cannot possibly fit beside its label"
    assert value.sizeHint().height() >= len(lines) * value.fontMetrics().height()
    assert value.toolTip() == "A tip"


@given(st.text(alphabet="ab WM-", max_size=60), st.integers(1, 200))
def test_breaking_a_text_loses_nothing_but_blanks(text, width):
    from PyQt6.QtGui import QFont, QFontMetrics

    shown = broken(text, QFontMetrics(QFont()), width)
    assert shown.replace("\n", "").replace(" ", "") == text.replace(" ", "")


class Knot(QObject):
    """Part of a cycle, as widgets with closures are."""

    def __init__(self, where):
        super().__init__()
        self.me = self
        weakref.finalize(self, lambda: where.append(threading.current_thread() is threading.main_thread()))


def test_cycles_are_collected_on_the_interface_thread_only(qtbot):
    parent, where = QObject(), []
    thresholds = gc.get_threshold()
    try:
        gc.set_threshold(50, 2, 2)
        Collector(parent)
        assert not gc.isenabled()
        Knot(where)
        worker = threading.Thread(target=lambda: [[] for _ in range(5_000)])
        worker.start()
        worker.join()
        assert where == []  # the worker's allocations collected nothing
        kept = [[] for _ in range(5_000)]
        qtbot.waitUntil(lambda: where == [True], timeout=10_000)
        assert kept
    finally:
        gc.set_threshold(*thresholds)
        gc.unfreeze()
        gc.enable()


def test_an_unforeseen_error_in_long_work_is_said_and_the_next_work_runs(qtbot, window, demo):
    window._directory_path = demo.directory
    window.stages.open("access")
    directory = window.directory
    directory.tasks.run("Trying …", lambda _store: 1 / 0, lambda _result: None)
    qtbot.waitUntil(lambda: not directory.tasks.work)
    assert "ZeroDivisionError" in window.message.text()
    got = []
    directory.tasks.run("Trying again …", lambda store: store.counts()["access"], got.append)
    qtbot.waitUntil(lambda: got == [13])
    assert directory.tasks.work == ""


def test_a_broken_local_coast_is_left_out_and_said(qtbot, window, demo):
    (demo.directory.parent / "coast.geojson").write_text("no coast", "utf-8")
    window._directory_path = demo.directory
    window.stages.open("access")
    qtbot.waitUntil(lambda: "not a readable coastline" in window.message.text())
    assert window.stages["access"].around.map.coast is not None


def test_every_window_that_is_built_collects_by_itself(empty_window):
    assert not gc.isenabled()
    assert empty_window.findChildren(Collector)
    source = Path(app.__file__).parent.parent
    builders = [path.name for path in source.rglob("*.py") if "MainWindow(bench" in path.read_text("utf-8")]
    assert builders == ["app.py"]


def test_of_choices_at_least_one_is_taken(qtbot):
    def untick():
        dialog = QApplication.activeModalWidget()
        (box,) = dialog.findChildren(QCheckBox)
        (go,) = (one for one in dialog.findChildren(QPushButton) if one.text() == "Take it")
        seen.append(go.isEnabled())
        box.click()
        seen.append(go.isEnabled())
        dialog.reject()

    seen = []
    QTimer.singleShot(0, untick)
    assert ask_choices(None, "Some", "Which?", ("routes",), ("routes",), "Take it") == ()
    assert seen == [True, False]
