"""Starting the application: the window on a plan, or on a fresh copy of the demo.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

import os
import sys
from functools import partial
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from PyQt6.QtCore import QT_VERSION_STR, QMessageLogContext, QTimer, QtMsgType, qInstallMessageHandler
from PyQt6.QtWidgets import QApplication

from umbra_awl.core.keep.clock import Clock, clock_of
from umbra_awl.core.keep.notes import DiaryNotes
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.desk.columns_kept import ColumnMemory
from umbra_awl.desk.frame.open_stages import warm
from umbra_awl.desk.frame.window import MainWindow
from umbra_awl.desk.garbage import Collector
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.jobs import Jobs
from umbra_awl.desk.measures import chosen
from umbra_awl.desk.parts.cards.typing import commit_typing
from umbra_awl.desk.profiles import Profiles
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.keep.diary import Diary
    from umbra_awl.demo.fresh import DemoFiles
    from umbra_awl.standins.launch import CardRadioProcess

_log = DiaryNotes(__name__)
STYLE = ("-style", "fusion")  # as an argument: naming it later would cost the start a tenth
_PICTURE_AFTER_MS = 1500
_WARM_AFTER_MS = 1200


def build(
    app: QApplication,
    settings: Settings,
    *,
    synchronous: bool = False,
    directory: Path | None = None,
    jobs: Jobs | None = None,
    clock: Clock | None = None,
) -> MainWindow:
    """The window with everything it needs, in an application of this STYLE. `synchronous` and `jobs` are for tests.

    `directory` is the file of the directory's store, beside which own profiles and layouts lie; None takes this user's own.
    """
    kept = settings.kept
    theme = Theme(app, kept.theme, kept.scale, partial(chosen, kept.far, kept.clock, kept.mark))
    switch_on(kept.drivers)
    theme.columns = ColumnMemory(kept.columns, lambda known: settings.keep(columns=known))
    made = jobs or Jobs(synchronous=synchronous)
    bench = Workbench(
        made, Profiles(directory.parent if directory is not None else None), clock or clock_of(os.environ)
    )
    window = MainWindow(bench, theme, settings, directory)
    Collector(window)
    return window


def switch_on(drivers: tuple[str, ...]) -> None:
    """Have the operator's own drivers in force that were switched on; without any, nothing of them is even imported."""
    registry = sys.modules.get("umbra_awl.core.drivers.registry")
    if drivers or registry is not None:
        from umbra_awl.core.drivers.registry import DRIVERS

        DRIVERS.switch_on(frozenset(drivers))


def application() -> QApplication:
    """The application, made when there is none yet."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        app = QApplication([*sys.argv[:1], *STYLE])
    app.setApplicationName("umbra-awl")
    app.setApplicationDisplayName("Umbra Awl")
    app.setDesktopFileName("invalid.umbra_awl.UmbraAwl")
    return app


def survive(window: MainWindow) -> None:
    """Have an unforeseen error said in the window and printed, in place of ending the program: the journal has every edit."""

    def tell(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if isinstance(error, SourceError | StoreError):
            window.bench.say(str(error), "stop")  # said in its own words already, from wherever it came
            return
        _log.error("unforeseen", exc_info=(kind, error, trace))
        sys.__excepthook__(kind, error, trace)
        window.bench.say(
            f"Something unforeseen happened ({kind.__name__}). Your edits are kept in the journal. “Copy what happened” puts "
            "what is needed to mend it on the clipboard.",
            "stop",
        )

    sys.excepthook = tell


def keep_diary(window: MainWindow) -> None:
    """Write down what happens, in the state folder, with what the window toolkit warns of and what the operator is told."""
    from umbra_awl.core.keep.diary import begin

    diary = window.looks.diary = begin(None)
    QTimer.singleShot(_WARM_AFTER_MS, lambda: _write_diary(diary))
    app = QApplication.instance()
    if app is not None:
        app.aboutToQuit.connect(lambda: _write_diary(diary))  # a program that ends at once leaves its file too
    qInstallMessageHandler(_write_down)
    window.bench.said.connect(lambda text, kind: _log.info("said%s: %s", " (stop)" if kind == "stop" else "", text))
    _log.info("begun, Qt %s", QT_VERSION_STR)


def _write_diary(diary: "Diary") -> None:
    """Go on in a file, once the first window has been painted: what that takes is not waited for."""
    from platformdirs import user_state_path

    diary.write_into(user_state_path("umbra-awl"))


def _write_down(kind: QtMsgType, _where: QMessageLogContext, text: str | None) -> None:
    note = {QtMsgType.QtWarningMsg: _log.warning, QtMsgType.QtCriticalMsg: _log.error}.get(kind, _log.debug)
    note("%s", text or "")


def run_window(plan: Path | None) -> int:
    """Open the window, on a plan when one is given; the exit code."""
    app = application()
    window = build(app, Settings.standard())
    survive(window)
    keep_diary(window)
    window.show()
    QTimer.singleShot(_WARM_AFTER_MS, partial(warm, window.bench))
    if plan is not None:
        window.plans.open(plan)
    return _run(app, window)


def _run(app: QApplication, window: MainWindow) -> int:
    """Run until the window is closed, by hand or by a signal; the exit code."""
    from umbra_awl.desk.signals import Signals

    signals = Signals(window.end, app.quit)
    app.commitDataRequest.connect(lambda _manager: commit_typing(window))
    try:
        return app.exec()
    finally:
        signals.let_go()


def run_demo(folder: Path | None, picture: Path | None) -> int:
    """Open the window on a fresh demo with its simulated radios running; the exit code."""
    import tempfile

    from umbra_awl.demo.fresh import lay_out, start_card_radios, start_phone, start_radios
    from umbra_awl.demo.furnish import CLUB_PLAN, furnish
    from umbra_awl.demo.hotspots import start_hotspots
    from umbra_awl.standins.launch import RegistryProcess, StandInProcess

    place = folder or Path(tempfile.mkdtemp(prefix="umbra-awl-demo-"))
    clock = clock_of(os.environ)
    demo = lay_out(place, clock.today())
    furnish(demo, clock.today())
    app = application()
    window = build(app, Settings(), directory=demo.directory, clock=clock)
    survive(window)
    keep_diary(window)
    window.show()
    QTimer.singleShot(_WARM_AFTER_MS, partial(warm, window.bench))
    window.settings.add_recent(place / CLUB_PLAN)
    window.plans.open(demo.plan)
    running: list[StandInProcess] = []
    try:
        cabled = start_radios(demo)
        running += cabled
        window.runner.ways.cabled = dict(zip(demo.radios, cabled, strict=True))
        slotted = start_card_radios(demo)
        registry = RegistryProcess()
        phone = start_phone(demo)
        spots = start_hotspots(window.bench.plan, place)
        running += [*slotted.values(), registry, phone, *spots.values()]
        set_demo_cards(window, slotted)
        set_demo_phone(window, "fell", phone.address)
        set_demo_spots(window, {key: item.address for key, item in spots.items()})
        return _run_demo(app, window, demo, registry.address, picture)
    finally:
        for process in running:
            process.stop()


def _run_demo(app: QApplication, window: MainWindow, demo: "DemoFiles", address: str, picture: Path | None) -> int:
    """The window on the demo, once its stand-ins run."""
    window.settings.keep(service=address)
    set_demo_ports(window, {key: str(port) for key, (_profile, _memory, port) in demo.radios.items()})
    if picture is not None:
        QTimer.singleShot(_PICTURE_AFTER_MS, lambda: _take_picture(window, picture))
    return _run(app, window)


def set_demo_ports(window: MainWindow, ports: dict[str, str]) -> None:
    """Tell the window on which ports the demo's radios are."""
    path = window.bench.document.path if window.bench.document else Path()
    window.settings.keep(ports={f"{path}#{key}": port for key, port in ports.items()})
    window.runner.changed.emit()


def set_demo_cards(window: MainWindow, radios: "dict[str, CardRadioProcess]") -> None:
    """Tell the window where the cards of the demo's radios appear, and how those radios are pressed."""
    path = window.bench.document.path if window.bench.document else Path()
    window.settings.keep(cards={f"{path}#{key}": str(radio.reader) for key, radio in radios.items()})
    window.runner.ways.on_bench = dict(radios)
    window.runner.changed.emit()


def set_demo_phone(window: MainWindow, radio: str, address: str) -> None:
    """Tell the window where the phone beside a radio of the demo answers."""
    path = window.bench.document.path if window.bench.document else Path()
    window.settings.keep(phones={f"{path}#{radio}": address})


def set_demo_spots(window: MainWindow, addresses: dict[str, str]) -> None:
    """Tell the window where the demo's hotspots answer."""
    for key, address in addresses.items():
        window.runner.ways.set_spot(key, address)
    window.runner.changed.emit()


def _take_picture(window: MainWindow, picture: Path) -> None:
    window.grab().save(str(picture))
    window.close()
