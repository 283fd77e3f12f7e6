"""A newcomer with the keyboard alone: from an empty plan to a radio that only listens, then one that may transmit."""

import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QApplication, QDialog

from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.image import decode
from umbra_awl.desk.held.selection import Selection
from umbra_awl.standins.launch import RadioProcess

pytestmark = pytest.mark.journey
CTRL = Qt.KeyboardModifier.ControlModifier
CTRL_SHIFT = CTRL | Qt.KeyboardModifier.ShiftModifier


def do(qtbot, window, words):
    """Find and do something by its words."""
    qtbot.keyClick(window, Qt.Key.Key_K, CTRL)
    qtbot.keyClicks(window.top.finder, words)
    qtbot.keyClick(window.top.finder, Qt.Key.Key_Return)


def fill_in(qtbot, window, key, texts):
    """Open a sheet by its shortcut, type into its fields with Tab between, and press Enter."""
    seen = []

    def type_all():
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, QDialog)
        seen.append(dialog.windowTitle())
        for text in texts:
            if text:
                qtbot.keyClicks(dialog.focusWidget(), text)
            qtbot.keyClick(dialog.focusWidget(), Qt.Key.Key_Tab)
        qtbot.keyClick(dialog, Qt.Key.Key_Return)
        if dialog.isVisible():
            seen.append(dialog.fault.text())
            dialog.reject()

    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    QTimer.singleShot(50, type_all)
    qtbot.keyClick(window, key, CTRL_SHIFT)
    return seen


def set_value(qtbot, card, label, text):
    card._values[label].setFocus()
    qtbot.keyClick(card._values[label], Qt.Key.Key_F2)
    card._editing.selectAll()
    qtbot.keyClicks(card._editing, text)
    qtbot.keyClick(card._editing, Qt.Key.Key_Return)


def test_from_nothing_to_a_radio_that_listens_and_then_talks(qtbot, empty_window, tmp_path):
    window = empty_window
    window.plans.new(tmp_path / "odile.awl.json")
    assert window.top._state.toolTip() == "Receive-only until the licence is granted"
    set_value(qtbot, window.stages["station"]._cards["owner"], "Call sign", "q9odl")
    assert window.top.call.text() == "Q9ODL"

    titles = fill_in(qtbot, window, Qt.Key.Key_A, ["Q0BLK", "Blackfell", "", "", "145.7125", "-0.6", "", "103.5"])
    assert titles == ["Add an access point"]
    titles = fill_in(qtbot, window, Qt.Key.Key_D, ["Local", "ll", "", ""])
    assert titles == ["Add a destination"]
    assert [item.kind for item in window.bench.plan.destinations] == ["local"]

    window.stages["routes"].take_focus()
    sheet = window.stages["routes"].sheet
    qtbot.keyClick(sheet, Qt.Key.Key_Down)
    qtbot.keyClick(sheet, Qt.Key.Key_Space)
    assert [route.key for route in window.bench.plan.routes] == ["blackfell-fm>local@0"]

    do(qtbot, window, "go to radios")
    window.stages["radios"].add(window.bench.profiles["tarn16"])
    assert window.stages["radios"].memory.knob.channel().receive_only

    memory, port = tmp_path / "new.radio", tmp_path / "new.port"
    with RadioProcess("tarn16", memory, port, speed=30):
        do(qtbot, window, "go to transfer")
        window.runner.set_port(str(port))
        stage = window.stages["transfer"].changes
        for words in ("Read the Tarn 16", "Begin it anew", "Write "):
            assert stage.main.text().startswith(words)
            qtbot.keyClick(stage.main, Qt.Key.Key_Space)
            qtbot.waitUntil(lambda: not window.runner.running, timeout=20_000)
        assert window.runner.stand == "proven", window.runner.fault
        assert [channel.receive_only for channel in held(memory).channels] == [True]

        do(qtbot, window, "go to station")
        window.stages["station"].licence.licence_card.focus_first()
        from umbra_awl.core.plan.edit.edit_station import set_granted, set_guard

        window.bench.do(set_granted(True))
        window.bench.do(set_guard(False))
        assert window.top._state.toolTip() == "May transmit: all amateur bands"
        do(qtbot, window, "go to transfer")
        assert [change.detail for change in stage.model.changes()] == ["receive-only yes → no"]
        qtbot.keyClick(stage.main, Qt.Key.Key_Space)
        qtbot.waitUntil(lambda: not window.runner.running, timeout=20_000)
    assert [channel.receive_only for channel in held(memory).channels] == [False]
    assert window.bench.worked.results.findings == ()


def held(memory) -> Memory:
    return decode(memory.read_bytes(), shipped_profiles()["tarn16"])


def test_a_sheet_that_refuses_stays_open_and_says_why(qtbot, window):
    seen = fill_in(qtbot, window, Qt.Key.Key_A, ["Q0BLK", "Blackfell", "", "", "14x.5", "", "", ""])
    assert seen[0] == "Add an access point"
    assert "is not a frequency" in seen[1]
    assert len(window.bench.plan.access) == 10


def test_tab_reaches_the_inspector_and_back(qtbot, window):
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    sheet = window.stages["routes"].sheet
    sheet.setFocus()
    qtbot.keyClick(sheet, Qt.Key.Key_Return)
    card = window.stages["routes"].inspector.card
    assert card._values["Receive"].hasFocus()
    qtbot.wait(10)
    qtbot.keyClick(window.focusWidget(), Qt.Key.Key_Tab)
    assert card._values["Transmit"].hasFocus()
    qtbot.keyClick(window, Qt.Key.Key_3, CTRL)
    assert sheet.hasFocus()
