"""A driver of one's own in the window: off until it is switched on, then its radio is read, written and proven as any other."""

import shutil

import pytest
from PyQt6.QtWidgets import QLabel

from tests.driver_installed import EXAMPLE, lay_down
from umbra_awl.core.drivers.registry import DRIVERS
from umbra_awl.core.plan.edits import add_item
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.plan.parts import RADIOS
from umbra_awl.core.plan.store import read_plan
from umbra_awl.desk.frame.settings_sheet import SettingsSheet


@pytest.fixture
def with_fen(window):
    """The window with a profile that a driver serves, and a radio of it; the driver is not there yet."""
    folder = window.bench.profiles.folder / "profiles"
    folder.mkdir(parents=True, exist_ok=True)
    shutil.copy(EXAMPLE / "fen_driver" / "fen.toml", folder / "fen20.toml")
    window.bench.reload_profiles()
    window.bench.do(add_item(RADIOS, OwnedRadio("fen", "Fen 20", "fen20"), "Add the Fen"))
    window.bench.choose_radio("fen")
    window.open_stage("transfer", "cable")
    yield window
    DRIVERS.switch_on(frozenset())


def read(window, qtbot, port):
    window.runner.set_port(port)
    window.runner.read()
    qtbot.waitUntil(lambda: not window.runner.running, timeout=10_000)


def test_without_its_driver_the_radio_says_what_is_missing_and_the_plan_loses_nothing(with_fen, qtbot):
    read(with_fen, qtbot, "127.0.0.1:1")
    assert "driver “fen”, which is not installed here" in with_fen.runner.fault
    with_fen.plans.save()
    assert read_plan(with_fen.bench.document.real).radios[-1].profile == "fen20"


def test_switched_on_in_the_settings_it_reads_writes_and_proves(with_fen, qtbot, tmp_path, monkeypatch):
    window, runner = with_fen, with_fen.runner
    lay_down(tmp_path, monkeypatch)
    sheet = SettingsSheet(window, window.bench, window.theme, window.settings)
    assert any("Driver fen" in item.text() for item in sheet.findChildren(QLabel))
    from fen_driver.line import simulated

    with simulated() as device:
        read(window, qtbot, device.port)
        assert "not switched on" in runner.fault
        for driver in DRIVERS.installed():
            sheet._switch(driver, on=True)
        assert len(window.settings.kept.drivers) == 2
        read(window, qtbot, device.port)
        assert runner.fault == ""
        assert [item.name for item in runner.held.memory.channels] == ["CALLING", "CALLING UP"]
        before = bytes(device.image)
        runner.write()
        qtbot.waitUntil(lambda: not runner.running, timeout=10_000)
        assert runner.fault == ""
        assert bytes(device.image) != before
        assert bytes(device.image[:32]) == before[:32]
