"""How long the window's event loop is ever held up, with real threads: demo, big plan, and one of 10,000 routes of all modes."""

import os
import tempfile
import time
from pathlib import Path

from bench.days import TODAY
from bench.plans import big_plan, heavy_plan
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.demo.fresh import lay_out, start_radios

LIMIT_MS = 50


class Watch:
    """Counts the milliseconds between the turns of the event loop."""

    def __init__(self):
        from PyQt6.QtCore import QElapsedTimer, QTimer

        self._gaps, self._clock, self._timer = [], QElapsedTimer(), QTimer()
        self._clock.start()
        self._timer.timeout.connect(lambda: self._gaps.append(self._clock.restart()))
        self._timer.start(2)

    def begin(self):
        self._gaps.clear()
        self._clock.restart()

    def tell(self, what):
        gaps = sorted(self._gaps)
        over = sum(gap > LIMIT_MS for gap in gaps)
        print(f"{what:<40} usual {gaps[len(gaps) // 2]:>4} ms   worst {gaps[-1]:>4} ms   over {LIMIT_MS} ms: {over}")
        self.begin()


def run() -> None:
    """Repair, punch, read, write on the demo; open and punch on 4,000 routes and 16,000 contacts."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from PyQt6.QtTest import QTest

    from umbra_awl.desk.app import application, build, set_demo_ports
    from umbra_awl.desk.garbage import Collector
    from umbra_awl.desk.settings import Settings

    app = application()
    with tempfile.TemporaryDirectory() as name:
        window = build(app, Settings(), directory=Path(name) / "directory" / "directory.sqlite")
        Collector(window)
        window.show()
        demo = lay_out(Path(name) / "demo", TODAY)
        big = Path(name) / "big.awl.json"
        big.write_bytes(plan_bytes(big_plan()))
        radios = start_radios(demo, speed=8)
        window.plans.open(demo.plan)
        set_demo_ports(window, {key: str(port) for key, (_profile, _memory, port) in demo.radios.items()})
        QTest.qWait(500)
        _demo(window, Watch())
        _directory(window, Watch(), Path(name))
        watch = Watch()
        window.plans.open(big)
        QTest.qWait(3000)
        watch.tell("open the big plan")
        _punches(window, watch, "s3", "g7", "five edits of the big plan")
        _pages(window, watch)
        heavy = Path(name) / "heavy.awl.json"
        heavy.write_bytes(plan_bytes(heavy_plan()))
        _heavy(window, Watch(), heavy)
        window.close()
        for radio in radios:
            radio.stop()


def _demo(window, watch):
    from PyQt6.QtTest import QTest

    watch.begin()
    window.findings.repair_first()
    QTest.qWait(400)
    watch.tell("repair")
    _punches(window, watch, "blackfell-dmr", "northern-reach", "five edits of the demo")
    window.stages.open("transfer")
    QTest.qWait(300)
    for what, begin in (("read a radio", window.runner.read), ("write and prove it", window.runner.write)):
        watch.begin()
        begin()
        while window.runner.running:
            QTest.qWait(20)
        QTest.qWait(300)
        watch.tell(what)


def _directory(window, watch, folder):
    """Look around, import 60,000 access points and 250,000 people, look around again."""
    from PyQt6.QtTest import QTest

    from umbra_awl.desk.frame.open_stages import warm
    from umbra_awl.standins.registry.world import ACCESS_HEADERS, PEOPLE_HEADERS, access_rows, as_csv, people_rows

    (folder / "access.csv").write_bytes(as_csv(ACCESS_HEADERS, access_rows(60_000)))
    (folder / "people.csv").write_bytes(as_csv(PEOPLE_HEADERS, people_rows(250_000)))
    warm(window.bench)
    QTest.qWait(2500)
    watch.begin()
    window.stages.open("access")
    stage = window.stages["access"]
    QTest.qWait(1500)
    watch.tell("open Access")
    stage.show_page("imports")
    QTest.qWait(300)
    for what, name in (("read 60,000 access points", "access.csv"), ("import 250,000 people", "people.csv")):
        stage.imports.open(folder / name)
        QTest.qWait(300)
        watch.begin()
        stage.imports.mapping.go()
        while stage.directory.tasks.work:
            QTest.qWait(20)
        watch.tell(what)
        if name == "access.csv":
            stage.imports.review.take()
            while stage.directory.tasks.work:
                QTest.qWait(20)
            QTest.qWait(1500)
            watch.tell("take them in, look around")
    stage.show_page("around")
    QTest.qWait(800)
    watch.begin()
    for place in ("48, 9", "-33, 151", "40, -100"):
        stage.place.setText(place)
        stage._go()
        QTest.qWait(1500)
    watch.tell("look around three places of 60,000")


def _pages(window, watch):
    """Open every page of Radios and Transfer on the big plan, and edit with the last one open."""
    from PyQt6.QtTest import QTest

    from umbra_awl.desk.stages import STAGES

    for key in ("radios", "transfer"):
        for name in STAGES[key].pages:
            window.stages.open(key)
            QTest.qWait(400)
            watch.begin()
            window.stages[key].show_page(name)
            QTest.qWait(2500)
            watch.tell(f"open {key}: {name}")


def _heavy(window, watch, path):
    """Ten thousand routes and a radio of every kind: each stage opened, one route after the other taken away."""
    from PyQt6.QtTest import QTest

    from umbra_awl.core.routes import punch

    watch.begin()
    window.plans.open(path)
    QTest.qWait(8000)
    watch.tell("open 10,000 routes, seven radios")
    for stage in ("station", "access", "routes", "radios", "transfer"):
        watch.begin()
        window.stages.choose(stage)
        QTest.qWait(2000)
        watch.tell(f"10,000 routes: open {stage}")
    window.stages.open("routes")
    QTest.qWait(500)
    settled = []
    window.bench.results_changed.connect(
        lambda: settled.append((time.perf_counter(), len(window.bench.worked.results.waiting)))
    )
    for at in (50, 5000, 9000):
        route = window.bench.plan.routes[at]
        settled.clear()
        watch.begin()
        start = time.perf_counter()
        window.bench.do(punch.toggle(window.bench.index, route.service, route.destination, route.slot))
        QTest.qWait(3500)
        watch.tell("10,000 routes: one taken away")
        for seconds, waiting in settled[:1] + settled[-1:]:
            print(f"    results after {seconds - start:.2f} s, {waiting} radios still to come")


def _punches(window, watch, service, destination, what):
    from PyQt6.QtCore import Qt
    from PyQt6.QtTest import QTest

    from umbra_awl.desk.held.workbench import Selection

    window.stages.open("routes")
    window.bench.select(Selection(service, destination, 1))
    QTest.qWait(300)
    watch.begin()
    for _time in range(5):
        QTest.keyClick(window.stages["routes"].sheet, Qt.Key.Key_Down)
        QTest.keyClick(window.stages["routes"].sheet, Qt.Key.Key_Space)
        QTest.qWait(700)
    watch.tell(what)
