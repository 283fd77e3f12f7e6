"""The day of a mixed-mode operator in a real window, by keyboard: from the six faults to a plan where every key-up arrives."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from umbra_awl.desk.held.selection import Selection

pytestmark = pytest.mark.journey
CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


def test_every_fault_is_walked_to_and_repaired_by_keys(qtbot, window):
    for left in range(6, 0, -1):
        assert len(window.bench.worked.results.findings) == left
        qtbot.keyClick(window, Qt.Key.Key_F8)
        qtbot.keyClick(window, Qt.Key.Key_R, CTRL)
    assert window.bench.worked.results.findings == ()
    for route in window.bench.plan.routes:
        window.bench.select(Selection(route.service, route.destination, route.slot))
        broken = window.bench.trace().broken
        assert broken is None or broken.text == "receive-only channel"
    for _step in range(6):
        qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)
    assert len(window.bench.worked.results.findings) == 6


def test_a_reflector_is_punched_traced_and_renamed_by_keys(qtbot, window):
    window.stages.open("routes")
    stage = window.stages["routes"]
    window.bench.choose_radio("fell")
    window.bench.select(Selection("signal-c", "vlr001-c", 1))
    qtbot.keyClick(stage.sheet, Qt.Key.Key_Down)
    qtbot.keyClick(stage.sheet, Qt.Key.Key_Space)
    assert window.bench.route.key == "signal-c>vlr001-e@1"
    assert window.bench.trace().reaches
    qtbot.keyClick(window, Qt.Key.Key_T, CTRL)
    assert [row[0] for row in stage.traces.path.rows()] == ["pass"] * 7
    assert window.focusWidget() is not None
    qtbot.keyClick(window, Qt.Key.Key_U, CTRL | SHIFT)
    stage.take_focus()
    qtbot.keyClick(stage.sheet, Qt.Key.Key_2)
    assert window.bench.selection.slot == 2
    qtbot.keyClick(stage.sheet, Qt.Key.Key_Return)
    QTest.qWait(10)
    stage.inspector.card.edit("Name")
    typing = stage.inspector.card._editing
    qtbot.keyClicks(typing, "Sig C east")
    qtbot.keyClick(typing, Qt.Key.Key_Return)
    assert window.bench.worked.results.fits["fell"].names["signal-c>vlr001-e@2"].name == "Sig C east"


def test_the_find_or_do_box_leads_to_the_new_pages(qtbot, window):
    for typed, page in (("names every", "names"), ("trace full", "trace"), ("punch sheet", "sheet")):
        qtbot.keyClick(window, Qt.Key.Key_K, CTRL)
        qtbot.keyClicks(window.top.finder, typed)
        qtbot.keyClick(window.top.finder, Qt.Key.Key_Return)
        assert window.stages["routes"].pages.name == page
