"""Hostile files by every way into the window: it goes on answering, each file ends in an answer, and the plan stays as it was."""

import io
import threading
import time
import zipfile
import zlib
from pathlib import Path

import pytest
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication

from tests.core.keep.test_zips import folders
from tests.desk_fixtures import let_go, open_demo
from umbra_awl.desk.app import build
from umbra_awl.desk.settings import Settings

CHANGES = ("calendar", "own log")
"""Ways by which a whole file is taken into the plan as one step."""
HELD_S = 1.0
"""So long the interface thread may be held at once."""
ENDS_S = 40.0
HOSTILE = {
    "noise": bytes(range(256)) * 400,
    "blanks": b"key = " + b" " * 240_000 + b"x\n",
    "brackets": b"[" * 100_000,
    "dotted": b"a" + b".a" * 60_000 + b" = 1\n",
    "digits": b'{"a": ' + b"9" * 200_000 + b"}",
    "one line": b"a,b;c\t" * 40_000,
    "records": b"<eoh>" + b"<call:5>Q7QBY<qso_date:8>20260101<time_on:4>1200<eor>" * 4_000,
    "events": b"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n"
    + b"BEGIN:VEVENT\r\nUID:a\r\nSUMMARY:Net\r\nDTSTART:20260101T200000\r\nRRULE:FREQ=WEEKLY\r\nEND:VEVENT\r\n" * 2_000
    + b"END:VCALENDAR\r\n",
    "quotes": b'"' + b'a"b,' * 60_000,
    "folders": folders(250_000),
    "track": b"<gpx><trk>" + b"<trkseg>" * 40_000,
    "bomb": zlib.compress(b"\0" * 30_000_000),
    "empty": b"",
}  # fmt: skip


def packed(inner):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        made.writestr("xl/workbook.xml", inner)
    return out.getvalue()


HOSTILE["sheet"] = packed(b"<a>" * 200_000)


def ways(window):
    """Every way by which a file comes into the window, with the ending that it asks for."""
    stages = window.stages
    pages = (
        "access imports, radios own, radios people, transfer files, transfer bring, hotspots match, hotspots find, "
        "onair messages, log entries, log nets"
    )
    for page in pages.split(", "):
        window.stages.open(*page.split())
    return {
        "list": (stages["access"].imports.open, ".csv"),
        "spreadsheet": (stages["access"].imports.open, ".xlsx"),
        "track": (stages["access"].acts.play, ".gpx"),
        "profile": (stages["radios"].profile.files.bring_in, ".toml"),
        "own log": (stages["radios"].people.side.read_log, ".adi"),
        "columns": (stages["transfer"].files.bring_in, ".toml"),
        "samples": (lambda path: stages["transfer"].files.making.make_from([path]), ".csv"),
        "memory": (stages["transfer"].bring.sources.take_memory, ".json"),
        "files": (lambda path: stages["transfer"].bring.sources.take_files([path]), ".csv"),
        "settings": (stages["hotspots"].match.file.open_file, ".ini"),
        "hotspot's log": (stages["hotspots"].seek.sources.open_log, ".log"),
        "picture": (stages["onair"].open_picture, ".jpg"),
        "log": (stages["log"].entries.files.bring_in, ".adi"),
        "table of a log": (stages["log"].entries.files.bring_in, ".csv"),
        "calendar": (stages["log"].nets.files.bring_in, ".ics"),
        "plan": (window.hands.merge, ".json"),
        "pack": (window.hands.look_into, ".zip"),
    }


class Watch:
    """Notes how long the interface thread is held at once."""

    def __init__(self):
        self.longest, self._last = 0.0, time.monotonic()
        self._timer = QTimer()
        self._timer.setInterval(5)
        self._timer.timeout.connect(self._beat)

    def __enter__(self):
        self._last, self.longest = time.monotonic(), 0.0
        self._timer.start()
        return self

    def __exit__(self, *_error):
        self._beat()
        self._timer.stop()

    def _beat(self):
        now = time.monotonic()
        self.longest, self._last = max(self.longest, now - self._last), now


@pytest.fixture
def real_window(qtbot, qapp, demo):
    """A window as the operator has it: nothing is computed at once."""
    made = build(qapp, Settings(), directory=demo.directory)
    made.resize(1280, 800)
    made.show()
    open_demo(made, demo)
    yield made
    made.runner.cancel()
    let_go(made)


def quiet(jobs):
    """Whether all that was asked of the lanes is done."""
    done = [threading.Event() for _lane in ("pages", "reads")]
    for lane, event in zip(("pages", "reads"), done, strict=True):
        jobs._lanes[lane].put(event.set)
    return done


def settle(window, seconds):
    events, until = quiet(window.bench.jobs), time.monotonic() + seconds
    while time.monotonic() < until and not all(event.is_set() for event in events):
        QApplication.processEvents()
        time.sleep(0.002)
    for _again in range(5):
        QApplication.processEvents()
    return all(event.is_set() for event in events)


def attack(window, folder, kinds):
    """Put files through every way; what was wrong, in words."""
    wrong = []
    known = ways(window)
    settle(window, 30)
    plan = window.bench.plan
    for way, (take, ending) in known.items():
        for kind in kinds:
            path = Path(folder) / f"{kind}{ending}"
            path.write_bytes(HOSTILE[kind])
            with Watch() as watch:
                take(path)
                ended = settle(window, ENDS_S)
            if not ended:
                wrong.append(f"{way}, {kind}: no answer within {ENDS_S:.0f} s")
            if watch.longest > HELD_S:
                wrong.append(f"{way}, {kind}: the window was held for {watch.longest:.1f} s")
            if window.bench.plan is not plan:
                if way not in CHANGES:
                    wrong.append(f"{way}, {kind}: the plan was changed")
                window.bench.steps.back()
                plan = window.bench.plan
            for other in QApplication.topLevelWidgets():
                if other is not window and other.isVisible():
                    other.close()
    return wrong


def test_a_spoilt_file_by_every_way_holds_nothing_up(real_window, tmp_path):
    assert attack(real_window, tmp_path, ["digits"]) == []


@pytest.mark.night
@pytest.mark.timeout(3_000)
def test_every_hostile_file_by_every_way_holds_nothing_up(real_window, tmp_path):
    assert attack(real_window, tmp_path, list(HOSTILE)) == []
