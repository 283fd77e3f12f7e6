"""A write is cut, the window is closed: the next one knows, says so, and restores with one action."""

import pytest
from PyQt6.QtCore import Qt

from umbra_awl.core.plan.edit.edit_access import remove_access
from umbra_awl.core.plan.edit.edit_station import set_call
from umbra_awl.desk.app import build, set_demo_ports
from umbra_awl.desk.settings import Settings
from umbra_awl.standins.launch import RadioProcess

pytestmark = pytest.mark.journey


def wait_idle(qtbot, window):
    qtbot.waitUntil(lambda: not window.runner.running, timeout=20_000)


def open_anew(qtbot, qapp, demo):
    window = build(qapp, Settings(), synchronous=True)
    window.show()
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    qtbot.addWidget(window)
    window.plans.open(demo.plan)
    set_demo_ports(window, {key: str(port) for key, (_profile, _memory, port) in demo.radios.items()})
    window.stages.open("transfer")
    return window


@pytest.mark.parametrize(
    ("cut_at", "state"),
    [(4_950, "still holds the old memory"), (7_500, "neither the old nor the new"), (40_000, "holds the new memory")],
)
def test_after_a_cut_and_a_restart_the_state_is_known(qtbot, qapp, demo, cut_at, state):
    profile, memory, port = demo.radios["tarn"]
    before = memory.read_bytes()
    first = open_anew(qtbot, qapp, demo)
    first.findings.repair_first()
    first.bench.steps.back()
    code = next(item for item in first.bench.worked.results.findings if item.rule.name == "color-code-differs")
    first.bench.repairs.one(code)  # another change to carry
    with RadioProcess(profile, memory, port, speed=25):
        first.runner.read()
        wait_idle(qtbot, first)
    first.bench.do(set_call("wren", "Q4WRX"))
    first.bench.do(
        remove_access(first.bench.plan.access[0])
    )  # blocks in every table, so that the cut falls between some
    with RadioProcess(profile, memory, port, faults=[f"unplug@{cut_at}"], speed=25):
        first.runner.write()
        wait_idle(qtbot, first)
        assert first.runner.fault
    first.close()

    second = open_anew(qtbot, qapp, demo)
    stage = second.stages["transfer"].changes
    assert second.bench.document.recovered
    assert stage.main.text() == "Restore the backup"
    assert "A write was not proven" in stage._fault.text()
    with RadioProcess(profile, memory, port, speed=25):
        qtbot.mouseClick(stage.again, Qt.MouseButton.LeftButton)  # look first
        wait_idle(qtbot, second)
        assert state in stage._state.text()
        if "neither" in state:
            assert second.runner.ways.unfinished() is not None
        else:
            assert second.runner.ways.unfinished() is None
        stage.side._list.setCurrentRow(len(second.runner.shelf().backups()) - 1)
        second.runner.restoring.restore(second.runner.shelf().backups()[-1])
        wait_idle(qtbot, second)
        assert second.runner.success.startswith("Restored"), second.runner.fault
    assert memory.read_bytes() == before
    second.close()
