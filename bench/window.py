"""Benchmarks of the window: the first paint, the punch sheet."""

import os
import subprocess
import sys
from pathlib import Path

from bench.days import TODAY
from bench.measure import Result, against, repeated
from bench.plans import big_plan
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.demo.fresh import demo_plan

_BARE = """
import sys
from PyQt6.QtWidgets import QApplication, QMainWindow
class W(QMainWindow):
    def paintEvent(self, event):
        super().paintEvent(event)
        import os
        os._exit(0)
app = QApplication([])
w = W(); w.resize(1280, 800); w.show(); app.exec()
"""
_OURS = """
import sys
from pathlib import Path
from umbra_awl.desk.app import application, build
from umbra_awl.desk.settings import Settings
app = application()
w = build(app, Settings())
def painted(event, usual=w.course.paintEvent):
    usual(event)
    import os
    heavy = [name for name in ("numpy", "scipy", "pyqtgraph", "pydantic", "serial", "simpy", "PIL", "spellchecker") if name in sys.modules]
    if heavy: print("loaded at the first paint:", heavy, flush=True)
    os._exit(0)
w.course.paintEvent = painted
w.show()
w.plans.open(Path(sys.argv[1]))
app.exec()
"""


def run(folder: Path) -> list[Result]:
    """All of them."""
    return [*_start(folder), *_sheet(folder)]


def _start(folder):
    path = folder / "start.awl.json"
    path.write_bytes(plan_bytes(demo_plan(TODAY)))
    env = {key: value for key, value in os.environ.items() if key != "PYTHONDONTWRITEBYTECODE"} | {
        "QT_QPA_PLATFORM": "offscreen"
    }

    def ours():
        subprocess.run([sys.executable, "-c", _OURS, str(path)], check=True, env=env)

    def bare():
        subprocess.run([sys.executable, "-c", _BARE], check=True, env=env)

    return [against("first painted window on the demo plan", ours, "a bare main window", bare, 3.0, rounds=9)]


def _sheet(folder):
    from PyQt6.QtCore import QRect
    from PyQt6.QtGui import QColor, QPainter, QPixmap

    from umbra_awl.desk.app import application, build
    from umbra_awl.desk.held.workbench import Selection
    from umbra_awl.desk.settings import Settings

    app = application()
    path = folder / "sheet.awl.json"
    path.write_bytes(plan_bytes(big_plan(4000, 0, 200, 400)))
    window = build(app, Settings(), synchronous=True)
    window.resize(1280, 800)
    window.show()
    window.plans.open(path)
    window.stages.open("routes")
    app.processEvents()
    sheet = window.stages["routes"].sheet
    window.bench.select(Selection("s20", "g40", 1))
    app.processEvents()
    viewport = sheet.viewport()
    canvas = QPixmap(viewport.size())
    marks = sheet.flags.marks()

    def fill():
        painter = QPainter(canvas)
        painter.fillRect(canvas.rect(), QColor("#FFFDF8"))
        painter.end()

    def cells():
        painter = QPainter(canvas)
        sizes = sheet.sheet.sizes
        sheet._painter.paint(
            painter, sheet.sheet, sheet.view(), marks, canvas.rect().adjusted(sizes.left, sizes.head, 0, 0)
        )
        painter.end()

    def whole():
        painter = QPainter(canvas)
        sheet._painter.paint(painter, sheet.sheet, sheet.view(), marks, canvas.rect())
        painter.end()

    def hole():
        painter = QPainter(canvas)
        painter.setClipRect(QRect(300, 300, 80, 26))
        sheet._painter.paint(painter, sheet.sheet, sheet.view(), marks, QRect(300, 300, 80, 26))
        painter.end()

    state = {"at": 0}
    bar = sheet.verticalScrollBar()

    def scroll():
        state["at"] = (state["at"] + 26) % 4000
        bar.setValue(state["at"])
        app.processEvents()

    fills = repeated(fill, 10)
    results = [
        against("punch sheet 200 × 400: cells", repeated(cells, 10), "filling the same widget", fills, 40),
        against("punch sheet 200 × 400: with all text", repeated(whole, 10), "filling the same widget", fills, 150),
        against(
            "punch sheet: scroll by one row and repaint", repeated(scroll, 10), "filling the same widget", fills, 25
        ),
        against("punch sheet: repaint one hole", repeated(hole, 10), "filling the same widget", fills, 1),
    ]
    window.close()
    return results
