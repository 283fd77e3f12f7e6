"""Take the pictures of docs/screenshots from the demo: one of each main view, one dark."""

import tempfile
from datetime import UTC, datetime, time, timedelta
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtTest import QTest

from umbra_awl.core.drills.fault import Maker
from umbra_awl.core.fit.needs import MUST, RadioNeeds
from umbra_awl.core.keep.clock import Clock
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.image import merge
from umbra_awl.demo.fresh import DemoFiles, lay_out, start_card_radios
from umbra_awl.demo.furnish import furnish
from umbra_awl.demo.hotspots import start_hotspots
from umbra_awl.demo.told_of import TOLD_OF
from umbra_awl.desk.app import application, build, set_demo_cards, set_demo_ports, set_demo_spots
from umbra_awl.desk.frame.window import MainWindow
from umbra_awl.desk.held.workbench import Selection
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.jobs import Jobs
from umbra_awl.desk.log.drills_page import DrillsPage
from umbra_awl.desk.settings import Settings
from umbra_awl.standins.launch import RadioProcess
from umbra_awl.standins.radio.device import factory_image

CLOCK = Clock(datetime.combine(TOLD_OF, time(15, 30), UTC))
"""Pictures are taken at one moment, so that only what has changed in a view changes its picture."""
OUT = Path(__file__).parent.parent / "docs" / "screenshots"


def take(window: MainWindow, name: str) -> None:
    """Save a picture of the window."""
    QTest.qWait(150)
    window.message.close_all()  # what was done to come here is not what is shown
    window.grab().save(str(OUT / f"{name}.png"))


def _access(window: MainWindow) -> None:
    """The map with a verdict."""
    window.stages.open("access")
    stage = window.stages["access"]
    QTest.qWait(200)
    stage.list.choose(next(spot.key for spot in window.directory.survey.spots if spot.access.call == "Q0STB"))
    take(window, "access")
    _directory(window)


LIST = """Call;Site;MHz;Shift;Mode;Opens with;Lat;Lon;Confirmed
Q0BLK;Blackfell;438,6125;-7,6;DMR;CC6;46,52;-31,02;2026-11-01
Q0NES;Cairnlow;438,7875;+7,6;DMR;CC2;46,61;-30,75;2026-05-20
Q0TSD;Torside;438,8250;-7,6;DMR;CC4;46,44;-31,20;2026-10-01
Q0LGT;Lowgate South;438,9750;-7,6;FM;82,5;46,49;-31,10;2026-10-01
Q0QUA;Quayside;439,0500;-7,6;FM;94,8;46,47;-31,12;2026-10-01
Q0OLX;Old Quay;145,6500;-0,6;FM;88,5;46,46;-31,15;2019-10-01
Q0MRK;Market Hill;438,5000;+7,6;DMR;CC3;46,48;-31,08;2026-10-01
Q0SIG;Signal Down;438,4500;-7,6;D-STAR;B;46,53;-31,18;2026-10-01
Q0FAR;Ostrand;439,1000;-7,6;DMR;CC1;48,10;-29,90;2026-11-01
Q0BAD;Nowhere;high;;FM;;;;
"""


def _directory(window: MainWindow) -> None:
    """A club's list, line by line before it is taken."""
    path = Path(tempfile.mkdtemp()) / "club-list.csv"
    path.write_text(LIST, "utf-8")
    imports = window.stages["access"].imports
    window.stages.open("access", "imports")
    imports.open(path)
    while imports.mapping.table is None:
        QTest.qWait(50)
    imports.mapping.go()
    while window.directory.tasks.work or imports.review.incoming is None:
        QTest.qWait(50)
    review = imports.review
    at = next(at for at, line in enumerate(review.lines.items) if line.change.label.startswith("Q0MRK"))
    review.lines_view.setCurrentIndex(review.lines.index(at, 1))
    take(window, "directory")
    window.stages.open("access", "around")


def _routes(window: MainWindow) -> None:
    """The trace in full of a route of D-STAR."""
    stage = window.stages["routes"]
    window.bench.choose_radio("fell")
    window.bench.select(Selection("signal-b", "vlr001-c", 2))
    stage.sheet.show_mode("dstar")
    stage.show_page("trace")
    take(window, "trace")
    window.bench.choose_radio("tarn")
    stage.show_page("sheet")
    stage.sheet.show_mode("")
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    stage.show_page("sheet")
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))


def _radios(window: MainWindow) -> None:
    """A radio of each mode, and which radio carries the plan."""
    window.stages.open("radios")
    stage = window.stages["radios"]
    window.bench.choose_radio("tarn")
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))
    take(window, "radios")
    stage.show_page("which")
    stage.compare.needs = RadioNeeds(
        position=True, data=True, sturdy=True, aerial="N socket", like_friends=True, weight={"position": MUST}
    )
    stage.compare.refresh()
    take(window, "which-radio")
    stage.show_page("memory")


def _papers(window: MainWindow) -> None:
    """Key sheet, field card, a layout in the making."""
    window.stages.open("transfer")
    stage = window.stages["transfer"]
    stage.show_page("keys")
    take(window, "key-sheet")
    stage.show_page("cable")


def _card(window: MainWindow, demo: DemoFiles) -> None:
    """The card of a D-STAR radio, read and compared."""
    radios = start_card_radios(demo)
    set_demo_cards(window, radios)
    window.bench.choose_radio("fell")
    stage = window.stages["transfer"]
    stage.show_page("slot")
    for what in ("write out", "power", "push out"):
        radios["fell"].do(what)
    stage.slot.look()
    stage.slot.go()
    while window.runner.running:
        QTest.qWait(50)
    stage.slot.look()
    take(window, "memory-card")
    for radio in radios.values():
        radio.stop()
    window.bench.choose_radio("tarn")


def _hotspots(window: MainWindow, folder: Path) -> None:
    """The ruler, what must match, a calibration to its end."""
    spots = start_hotspots(window.bench.plan, folder, 200.0)
    set_demo_spots(window, {key: item.address for key, item in spots.items()})
    window.stages.open("hotspots", "place")
    stage = window.stages["hotspots"]
    stage.spot.choose("travel")
    QTest.qWait(900)
    stage.place.best.choose(1)
    take(window, "hotspots")
    stage.place.taking.take_it()
    stage.show_page("match")
    stage.spot.ask()
    _until_idle(stage.spot)
    take(window, "must-match")
    stage.spot.orders.apply()
    _until_idle(stage.spot)
    QTest.qWait(600)
    stage.show_page("calibrate")
    QTest.qWait(400)
    while stage.curve.advice is None or stage.curve.advice.offset_hz is not None:
        if stage.curve.advice is not None:
            stage.curve.key_up()
            _until_idle(stage.spot)
        QTest.qWait(250)
    take(window, "calibration")
    for process in spots.values():
        process.stop()


def _until_idle(spot: Spot) -> None:
    QTest.qWait(50)
    while spot.running:
        QTest.qWait(50)


def _on_air(window: MainWindow) -> None:
    """A busy moment on the lanes, an evening in figures, texts between two radios."""
    window.stages.open("onair", "lanes")
    stage = window.stages["onair"]
    stage.lanes.list.setCurrentRow(1)
    while stage.lanes.stand.now < 66:
        stage.lanes.stand.time.forward()
    take(window, "onair")
    window.bench.choose_radio("tarn")
    stage.show_page("evening")
    page = stage.evening
    names = [page.what.itemText(at) for at in range(page.what.count())]
    page.what.setCurrentIndex(next(at for at, name in enumerate(names) if "TRAV" in name))
    for does in (page.play, page.look_for_help):
        does()
        while page.running:
            QTest.qWait(50)
    window.theme.choose("dark")
    take(window, "evening-dark")
    window.theme.choose("light")
    _messages(window)


def _log(window: MainWindow) -> None:
    """Proofs of every grade, one old, one doubtful."""
    window.stages.open("log", "proof")
    stage = window.stages["log"]
    now = window.bench.clock.utc()
    grades = (
        ("blackfell-dmr>isles-wide@2", "answered", 3), ("blackfell-dmr>echo@2", "echo", 200),
        ("home-dmr>isles-wide@1", "own-key", 1),
        ("home-dmr>worldwide@2", "heard-it", 2), ("signal-b>local@0", "heard-by", 9), ("travel-dmr>echo@2", "failed", 1),
        ("blackfell-fm>local@0", "answered", 400), ("torrick-fusion>local@0", "echo", 20), ("home-dmr>echo@2", "echo", 4),
    )  # fmt: skip
    made = []
    for at, (route, grade, days) in enumerate(grades):
        utc = (now - timedelta(days=days)).strftime("%Y-%m-%dT%H:%M:%SZ")
        made.append(replace(stage.book.new_entry(route, grade=grade), key=f"k{at}", utc=utc))
    made[7] = replace(made[7], stood={"DG-ID": "22"})
    stage.book.add(made, "Log nine overs")
    window.bench.select(Selection("torrick-fusion", "local", 0))
    window.message.hide()
    take(window, "proof-map")
    stage.show_page("nets")
    take(window, "nets")
    _drill(window, stage.drills)


def _drill(window: MainWindow, page: DrillsPage) -> None:
    """The practice window on a copy of the plan with two slips in it."""
    bench = window.bench
    case = Maker(bench.plan, bench.profiles.snapshot(), bench.index.today).case(
        5, 2, ["copied-color-code", "tone-on-receive"]
    )
    page.fault.jobs = lambda: Jobs(synchronous=True)
    page.fault.open_case(case)
    practice = page.fault.window_
    practice.resize(1280, 800)
    QTest.qWait(600)
    practice.stages.open("routes", "sheet")
    take(practice, "drill")
    practice.close()


def _messages(window: MainWindow) -> None:
    stage = window.stages["onair"]
    window.bench.choose_radio("fell")
    stage.show_page("messages")
    page = stage.messages
    stage.air.start()
    while not stage.air.on:
        QTest.qWait(50)
    for text in ("Where are you now?", "On my way to Stenby, signal is weak", "Is the ferry still running tonight?"):
        page.texts.text.setText(text)
        page.texts.send()
        page.texts.send()
        before = len(stage.air.kept.said)
        while len(stage.air.kept.said) < before + 2 or stage.air.sending:
            QTest.qWait(50)
    page.pictures.sources.open_map()
    while page.pictures.hand.seen is None:
        QTest.qWait(50)
    take(window, "messages")
    stage.air.stop()
    while stage.air.on:
        QTest.qWait(50)


def _club_radio(folder: Path, at: int) -> Path:
    """A single radio of the club's: empty, but for the third, which was somebody's and holds a channel of their own."""
    profile, path = shipped_profiles()["tarn16"], folder / f"club{at}.radio"
    own = Channel(1, "BOAT DECK", "fm", 145_450_000, 145_450_000)
    held = Memory("tarn16", call="Q2ANS", channels=(own,)) if at == 2 else Memory("tarn16")
    path.write_bytes(merge(factory_image(profile, f"club {at}"), held, profile))
    return path


def main() -> None:
    """Walk through the views."""
    OUT.mkdir(parents=True, exist_ok=True)
    app = application()
    demo = lay_out(Path(tempfile.mkdtemp()), CLOCK.today())
    furnish(demo, CLOCK.today())
    window = build(app, Settings(), synchronous=True, directory=demo.directory, clock=CLOCK)
    window.theme.choose("light")
    window.resize(1280, 800)
    window.show()
    window.plans.open(demo.plan)
    set_demo_ports(window, {key: str(port) for key, (_profile, _memory, port) in demo.radios.items()})
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))
    take(window, "routes")
    _routes(window)
    window.stages.open("station", "when")
    take(window, "station")
    _access(window)
    _radios(window)
    _papers(window)
    profile, memory, port = demo.radios["tarn"]
    with RadioProcess(profile, memory, port, speed=20):
        window.runner.read()
        QTest.qWait(1500)
    take(window, "transfer")
    _card(window, demo)
    _hotspots(window, demo.plan.parent)
    _on_air(window)
    _log(window)
    window.close()


if __name__ == "__main__":
    main()
