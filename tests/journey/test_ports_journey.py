"""Firmware and ports in the real window: the way looked at, loaded by the steps, interrupted, brought back by the same steps."""

import pytest

from umbra_awl.core.transfer.firmware.form import FirmwareFile, FirmwareHeader, pack
from umbra_awl.core.transfer.ports.described import Described, Port, Usb
from umbra_awl.standins.launch import RadioProcess

pytestmark = pytest.mark.journey
BODY = bytes(range(256)) * 400


@pytest.fixture
def page(window):
    window.bench.choose_radio("moor")
    window.stages.open("transfer", "ports")
    return window.stages["transfer"].ports


@pytest.fixture
def firmware(tmp_path):
    path = tmp_path / "moor.awf"
    path.write_bytes(pack(FirmwareFile(FirmwareHeader("moor4k", "plain", "2.00"), BODY)))
    return path


def settle(qtbot, job):
    qtbot.waitUntil(lambda: not job.running, timeout=20_000)


def test_the_steps_of_loading_interrupted_and_brought_back(window, page, demo, qtbot, firmware):
    profile, memory, port = demo.radios["moor"]
    job = page.job
    with RadioProcess(profile, memory, port, speed=50, faults=["unplug@870000"]) as radio:
        window.runner.ways.cabled = {"moor": radio}
        job.load(firmware)
        settle(qtbot, job)
        assert "no backup" in job.fault
        window.runner.read()
        qtbot.waitUntil(lambda: not window.runner.running, timeout=30_000)
        job.load(firmware)
        settle(qtbot, job)
        assert "Switch it off, hold Heel and the talk key" in job.fault
        page._switch(on=False, keys=False)
        page._switch(on=True, keys=True)
        job.knock()
        settle(qtbot, job)
        assert job.trouble.name == "loading state"
        job.load(firmware)
        settle(qtbot, job)
        if not job.fault:  # the cable was pulled later than the load took
            pytest.fail("the load was not interrupted")
        qtbot.wait(2_000)
        page._switch(on=True, keys=False)
        job.load(firmware)
        settle(qtbot, job)
        assert job.success.startswith("Loaded"), job.fault
        page._switch(on=True, keys=False)
        job.knock()
        settle(qtbot, job)
        assert job.trouble is None
        assert job.seen.answer.identity.firmware == "2.00"
        assert job.seen.answer.variant == "Plain"


def test_plug_it_in_now_finds_the_port_that_came_or_says_what_is_wrong(window, page, qtbot):
    chip, port = (
        Usb("1-2", "1a86", "7523", "USB Serial", "ch341"),
        Port("/dev/ttyUSB9", "1-2", "ch341", "dialout", False),
    )
    moments = [Described(user="wren"), Described((chip,), (port,), "wren", ("wren",))]
    page.job.describer = lambda: moments[0] if len(moments) == 1 else moments.pop(0)
    page.go()
    assert "Plug the cable in now" in page._told.text()
    qtbot.waitUntil(lambda: not page.job.waiting, timeout=5_000)
    assert page.line.text() == "sudo usermod -aG dialout wren"
    page.copy_line()
    assert page.picture._done == 3
    page.job.describer = Described
    page.go()
    page.job.waiting = 1
    qtbot.waitUntil(lambda: not page.job.waiting, timeout=5_000)
    assert page.job.trouble.name == "cable without data lines"
