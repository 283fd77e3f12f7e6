"""Take the pictures of docs/screenshots from the demo: one of each main view, one dark."""

import tempfile
from pathlib import Path

from PyQt6.QtTest import QTest

from umbra_awl.core.fit.compare import Needs
from umbra_awl.demo.fresh import lay_out
from umbra_awl.demo.furnish import furnish
from umbra_awl.desk.app import application, build, set_demo_ports
from umbra_awl.desk.frame.window import MainWindow
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.workbench import Selection
from umbra_awl.standins.launch import RadioProcess

OUT = Path(__file__).parent.parent / "docs" / "screenshots"


def take(window: MainWindow, name: str) -> None:
    """Save a picture of the window."""
    QTest.qWait(150)
    window.grab().save(str(OUT / f"{name}.png"))


def _access(window: MainWindow, folder: Path) -> None:
    """The map with a verdict, the columns of a file, what a newer file would do."""
    window.open_stage("access")
    stage = window.stages["access"]
    QTest.qWait(200)
    stage.list.choose(next(spot.key for spot in window.directory.survey.spots if spot.access.call == "Q0STB"))
    take(window, "access")
    stage.show_page("imports")
    stage.imports.open(folder / "messy-directory.csv")
    take(window, "import")
    stage.imports.open(folder / "velmar-directory-newer.csv")
    stage.imports.mapping.go()
    while window.directory.work:
        QTest.qWait(50)
    take(window, "merge")
    stage.imports.setCurrentIndex(0)
    stage.show_page("around")


def _routes(window: MainWindow) -> None:
    """D-STAR on the sheet, the trace in full, names, zones."""
    stage = window.stages["routes"]
    window.bench.choose_radio("fell")
    window.bench.select(Selection("signal-b", "vlr001-c", 2))
    stage.sheet.show_mode("dstar")
    take(window, "routes-dstar")
    stage.show_page("trace")
    take(window, "trace")
    window.bench.choose_radio("tarn")
    stage.show_page("names")
    take(window, "names")
    stage.show_page("sheet")
    stage.sheet.show_mode("")
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    stage.show_page("zones")
    take(window, "zones")
    stage.show_page("sheet")
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))


def _radios(window: MainWindow) -> None:
    """A radio of each mode, and which radio carries the plan."""
    window.open_stage("radios")
    stage = window.stages["radios"]
    for name, radio, at in (
        ("radios", "tarn", ("cairnlow-dmr", "nessa-torrick", 1)),
        ("radios-dstar", "fell", ("signal-b", "vlr001-c", 2)),
        ("radios-fusion", "crag", ("torrick-fusion", "velmar-commons", 0)),
    ):
        window.bench.choose_radio(radio)
        window.bench.select(Selection(*at))
        take(window, name)
    window.bench.choose_radio("tarn")
    stage.show_page("which")
    stage.compare.needs = Needs(position=True, people=100_000, platform="Alder", data=True)
    stage.compare.refresh()
    take(window, "which-radio")
    stage.show_page("memory")


def _papers(window: MainWindow) -> None:
    """Key sheet, field card, a layout in the making."""
    window.open_stage("transfer")
    stage = window.stages["transfer"]
    stage.show_page("keys")
    take(window, "key-sheet")
    stage.show_page("card")
    take(window, "field-card")
    stage.show_page("cable")


def main() -> None:
    """Walk through the views."""
    OUT.mkdir(parents=True, exist_ok=True)
    app = application()
    demo = lay_out(Path(tempfile.mkdtemp()))
    furnish(demo)
    window = build(app, Settings(), synchronous=True, directory=demo.directory)
    window.theme.choose("light")
    window.resize(1280, 800)
    window.show()
    take(window, "welcome")
    window.plans.open(demo.plan)
    set_demo_ports(window, {key: str(port) for key, (_profile, _memory, port) in demo.radios.items()})
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))
    take(window, "routes")
    window.theme.choose("dark")
    take(window, "routes-dark")
    window.theme.choose("light")
    _routes(window)
    window.open_stage("station", "next")
    take(window, "next")
    window.open_stage("station", "when")
    take(window, "station")
    _access(window, demo.plan.parent)
    _radios(window)
    _papers(window)
    profile, memory, port = demo.radios["tarn"]
    with RadioProcess(profile, memory, port, speed=20):
        window.runner.read()
        QTest.qWait(1500)
    take(window, "transfer")
    window.close()


main()
