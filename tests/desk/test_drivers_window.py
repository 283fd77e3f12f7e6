"""A driver of one's own in the window: off until it is switched on, then its radio is read, written and proven as any other."""

import shutil
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import ClassVar

import pytest
from PyQt6.QtWidgets import QLabel

from tests.driver_installed import EXAMPLE, lay_down
from umbra_awl.core.drivers.registry import DRIVERS
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.edit.edits import add_item
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.plan.parts import RADIOS
from umbra_awl.desk.frame.desktop import Desktop
from umbra_awl.desk.frame.sheets.settings_sheet import SettingsSheet


@pytest.fixture
def with_fen(window):
    """The window with a profile that a driver serves, and a radio of it; the driver is not there yet."""
    folder = window.bench.profiles.folder / "profiles"
    folder.mkdir(parents=True, exist_ok=True)
    shutil.copy(EXAMPLE / "fen_driver" / "fen.toml", folder / "fen20.toml")
    window.bench.reload_profiles()
    window.bench.do(add_item(RADIOS, OwnedRadio("fen", "Fen 20", "fen20"), "Add the Fen"))
    window.bench.choose_radio("fen")
    window.stages.open("transfer", "cable")
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
        assert len(window.settings.kept.drivers) == 4
        read(window, qtbot, device.port)
        assert runner.fault == ""
        assert [item.name for item in runner.held.memory.channels] == ["CALLING", "CALLING UP"]
        before = bytes(device.image)
        runner.write()
        qtbot.waitUntil(lambda: not runner.running, timeout=10_000)
        assert runner.fault == ""
        assert bytes(device.image) != before
        assert bytes(device.image[:32]) == before[:32]


@pytest.fixture
def fen_on(tmp_path, monkeypatch):
    lay_down(tmp_path, monkeypatch)
    DRIVERS.switch_on(frozenset(item.key for item in DRIVERS.installed()))
    yield
    DRIVERS.switch_on(frozenset())


def test_a_list_in_a_form_of_its_own_is_dropped_and_judged_like_any_other(demo_window, fen_on, tmp_path):
    from fen_driver.lists import FenLists

    path = tmp_path / "club.fenlist"
    path.write_bytes(FenLists().example())
    demo_window.findChild(Desktop).take_files([path])
    mapping = demo_window.stages["access"].imports.mapping
    assert mapping.table.headers == ["Call", "Site", "Output MHz", "Input MHz", "Color code"]
    assert mapping.grid.item(2, 0).text() == "Q0MRK"


class Fen(BaseHTTPRequestHandler):
    """The page of a Fen Spot."""

    answers: ClassVar[dict[str, bytes]] = {}

    def _answer(self, data):
        self.send_response(200)
        self.send_header("Content-Length", str(len(data)))
        self.end_headers()
        self.wfile.write(data)

    def do_GET(self):
        self._answer(self.answers.get(self.path, b"<html>Fen Spot</html>"))

    def do_PUT(self):
        self.answers[self.path] = self.rfile.read(int(self.headers["Content-Length"]))
        self._answer(b"")

    def log_message(self, *_told):
        """Nothing is printed."""


@pytest.fixture
def page():
    from fen_driver.spot import FenSpot

    example = FenSpot().example()
    Fen.answers = {path: example[what] for what, path in FenSpot.paths.items()}
    server = ThreadingHTTPServer(("127.0.0.1", 0), Fen)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield f"127.0.0.1:{server.server_port}"
    server.shutdown()
    server.server_close()


def test_a_hotspot_in_words_of_its_own_is_asked_compared_and_set(demo_window, fen_on, page, qtbot):
    demo_window.stages.open("hotspots", "match")
    spot = demo_window.stages["hotspots"].spot
    spot.choose("home")
    spot.set_address(page)
    spot.ask()
    qtbot.waitUntil(lambda: not spot.running, timeout=10_000)
    assert (spot.fault, spot.status.name, spot.held["color_code"]) == ("", "fen-spot", "1")
    rows = {row.field.key: row for row in spot.rows()}
    assert (rows["call"].to_hotspot, rows["tx_hz"].to_hotspot) == ("joined", "joined")
    spot.orders.apply()
    qtbot.waitUntil(lambda: not spot.running, timeout=10_000)
    assert spot.fault == ""
    hotspot = spot.hotspot
    assert f"sends: {hotspot.transmit_hz / 1_000:.1f}".encode() in Fen.answers["/setup"]
    assert b"lamp: blue" in Fen.answers["/setup"]
    spot.orders.link("VLR001 A")
    qtbot.waitUntil(lambda: not spot.running, timeout=10_000)
    assert "on its own page" in spot.fault
