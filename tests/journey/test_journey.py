"""The whole way in a real window: from the first finding to a proven write, and back."""

import pytest
from PyQt6.QtCore import Qt

from umbra_awl.core.plan.edit.edits import drop_item
from umbra_awl.core.plan.parts import RADIOS
from umbra_awl.desk.app import survive
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.transfer.cable import shelf_panel
from umbra_awl.standins.launch import RadioProcess

pytestmark = pytest.mark.journey
SPEED = 25


def press(qtbot, widget, key, modifiers=Qt.KeyboardModifier.NoModifier):
    qtbot.keyClick(widget, key, modifiers)


def card_of(window, rule):
    return next(card for card in window.findings.cards() if card.finding.rule.name == rule)


def wait_idle(qtbot, window):
    qtbot.waitUntil(lambda: not window.runner.running, timeout=20_000)


def repair_and_punch(qtbot, window):
    """Repair the wrong sign from its finding, punch a crossing with the keyboard."""
    card = card_of(window, "out-of-band")
    assert "446.3875 MHz is outside the amateur bands" in card.finding.text
    qtbot.mouseClick(card.repair, Qt.MouseButton.LeftButton)
    assert "out-of-band" not in [item.rule.name for item in window.bench.worked.results.findings]

    sheet = window.stages["routes"].sheet
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))
    press(qtbot, sheet, Qt.Key.Key_Up)
    assert window.bench.selection[:2] == ("cairnlow-dmr", "great-velmar")
    press(qtbot, sheet, Qt.Key.Key_Space)
    assert window.bench.route.key == "cairnlow-dmr>great-velmar@1"


def test_from_the_first_finding_to_a_proven_write_and_back(qtbot, window, demo):
    first = window.bench.plan
    repair_and_punch(qtbot, window)

    named = window.bench.worked.results.fits["tarn"].names["cairnlow-dmr>great-velmar@1"]
    assert len(named.name) == 10
    shown = [label.text() for label in window.stages["routes"].inspector.findChildren(type(window.top._saved))]
    assert named.name in shown

    window.stages.open("radios")
    assert window.stages["radios"].memory.knob.channel().name == named.name
    window.stages.open("transfer")
    stage = window.stages["transfer"].changes
    profile, memory, port = demo.radios["tarn"]
    with RadioProcess(profile, memory, port, speed=SPEED):
        press(qtbot, stage.main, Qt.Key.Key_Space)
        wait_idle(qtbot, window)
        assert window.runner.fault == ""
        channels = [change for change in stage.model.changes() if change.table == "channel"]
        assert [(change.kind, change.name) for change in channels] == [("added", named.name)]
        assert stage.main.text() == "Write 2 changes"

        before = memory.read_bytes()
        press(qtbot, stage.main, Qt.Key.Key_Space)
        wait_idle(qtbot, window)
        assert window.runner.stand == "proven", window.runner.fault
        assert memory.read_bytes() == window.runner.held.image != before

        press(qtbot, stage.main, Qt.Key.Key_Space)
        wait_idle(qtbot, window)
        assert stage.model.changes() == []

    trace = window.bench.trace()
    assert trace.reaches
    assert {item.who for item in trace.listeners if item.hears} >= {"Cairnlow", "Blackfell"}
    assert [hop.state for hop in window.ribbon.hops()] == ["pass"] * 6

    press(qtbot, window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    press(qtbot, window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.bench.plan == first


def test_with_the_cable_cut_half_way_nothing_is_lost(qtbot, window, demo):
    repair_and_punch(qtbot, window)
    window.stages.open("transfer")
    stage = window.stages["transfer"].changes
    profile, memory, port = demo.radios["tarn"]
    before = memory.read_bytes()
    with RadioProcess(profile, memory, port, speed=SPEED):
        window.runner.read()
        wait_idle(qtbot, window)
        backups = window.runner.shelf().backups()
        assert len(backups) == 1
    with RadioProcess(profile, memory, port, faults=["unplug@3500"], speed=SPEED) as radio:
        window.runner.write()
        wait_idle(qtbot, window)
        assert "unplugged, or switched off" in stage._fault.text()
        assert "may hold neither its old memory nor the new one whole" in stage._fault.text()
        assert backups[0].when in stage._fault.text()
        assert window.bench.plan.routes[-1].key == "cairnlow-dmr>great-velmar@1"
        assert window.runner.shelf().backups() == backups
        assert stage.main.text() == "Restore the backup"

        radio.wait_for("unplugged")
        radio.wait_for("ready")
        press(qtbot, stage.main, Qt.Key.Key_Space)  # the one action
        wait_idle(qtbot, window)
        assert window.runner.success.startswith("Restored")
        assert memory.read_bytes() == before
        assert window.runner.ways.unfinished() is None


def test_an_older_backup_from_the_shelf(qtbot, window, demo, monkeypatch):
    profile, memory, port = demo.radios["tarn"]
    before = memory.read_bytes()
    window.stages.open("transfer")
    stage = window.stages["transfer"].changes
    monkeypatch.setattr(shelf_panel, "ask", lambda *_words: shelf_panel.RESTORE)
    with RadioProcess(profile, memory, port, speed=SPEED):
        window.runner.read()
        wait_idle(qtbot, window)
        window.runner.write()
        wait_idle(qtbot, window)
        assert memory.read_bytes() != before
        stage.side.restore()
        wait_idle(qtbot, window)
    assert memory.read_bytes() == before


@pytest.mark.parametrize(
    ("faults", "words"),
    [
        (["wrong-model"], "The radio on this port says it is"),
        (["off"], "does not answer"),
        (["locked"], "locked against writing"),
    ],
)
def test_what_a_radio_refuses_is_said_and_changes_nothing(qtbot, window, demo, faults, words):
    profile, memory, port = demo.radios["tarn"]
    before = memory.read_bytes()
    window.stages.open("transfer")
    stage = window.stages["transfer"].changes
    with RadioProcess(profile, memory, port, faults=faults, speed=SPEED):
        window.runner.read()
        wait_idle(qtbot, window)
        if window.runner.held is not None:
            window.runner.write()
            wait_idle(qtbot, window)
        assert words in stage._fault.text()
    assert memory.read_bytes() == before


def test_stopping_a_read(qtbot, window, demo):
    profile, memory, port = demo.radios["tarn"]
    window.stages.open("transfer")
    stage = window.stages["transfer"].changes
    with RadioProcess(profile, memory, port, speed=1):
        window.runner.read()
        qtbot.waitUntil(lambda: window.runner.done_bytes > 0, timeout=5000)
        assert stage.cancel.isVisible()
        qtbot.mouseClick(stage.cancel, Qt.MouseButton.LeftButton)
        wait_idle(qtbot, window)
    assert "stopped" in stage._fault.text()
    assert window.runner.ways.unfinished() is None


def test_a_port_that_is_not_there(qtbot, window):
    window.stages.open("transfer")
    window.runner.read()
    wait_idle(qtbot, window)
    assert "does not open" in window.stages["transfer"].changes._fault.text()


def test_the_window_goes_on_working_while_a_radio_is_read(qtbot, window, demo):
    """Edits are done and shown in the middle of a read; `python -m bench gaps` measures the hold-ups."""
    profile, memory, port = demo.radios["tarn"]
    window.stages.open("transfer")
    with RadioProcess(profile, memory, port, speed=1):
        window.runner.read()
        qtbot.waitUntil(lambda: 0 < window.runner.done_bytes < window.runner.all_bytes, timeout=10_000)
        window.findings.repair_first()
        assert "out-of-band" not in [item.rule.name for item in window.bench.worked.results.findings]
        window.stages.open("radios")
        assert window.stages["radios"].grab().width() > 0
        assert window.runner.running
        wait_idle(qtbot, window)
    assert window.runner.stand == "compared"
    assert [change for change in window.runner.difference.compared.sheet.changes if change.table == "channel"] == []


def test_while_a_transfer_runs_radio_and_plan_stay(qtbot, window, demo, tmp_path):
    profile, memory, port = demo.radios["tarn"]
    window.stages.open("transfer")
    with RadioProcess(profile, memory, port, speed=4):
        window.runner.read()
        window.bench.choose_radio("moor")
        assert window.bench.radio_key == "tarn"
        assert "A transfer with the Tarn 16 is under way" in window.message.text()
        window.plans.new(tmp_path / "other.awl.json")
        assert window.bench.document.path == demo.plan
        window.bench.do(drop_item(RADIOS, "tarn", "Remove the radio"))
        wait_idle(qtbot, window)
    assert window.runner.held is None
    assert window.bench.radio_key == "moor"
    assert window.bench.busy == ""
    window.bench.steps.back()
    window.bench.choose_radio("tarn")
    assert len(window.runner.shelf().backups()) == 1


def test_an_unforeseen_error_is_said_and_the_window_lives(qtbot, window, monkeypatch, capsys):
    import sys

    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    survive(window)
    sys.excepthook(RuntimeError, RuntimeError("odd"), None)
    assert "Something unforeseen happened (RuntimeError)" in window.message.text()
    assert "odd" in capsys.readouterr().err
