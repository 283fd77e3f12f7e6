"""The main window: places its parts and wires the command table; everything else is theirs.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

import sys
from functools import cached_property, partial
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QCloseEvent, QGuiApplication, QResizeEvent
from PyQt6.QtWidgets import QMainWindow, QStackedWidget, QWidget

from umbra_awl.core.findings.model import SEVERITY_ORDER, TargetKind
from umbra_awl.core.keep.diary import Diary
from umbra_awl.desk.commands import CommandTable
from umbra_awl.desk.frame.course import Course
from umbra_awl.desk.frame.findings import FindingsPanel
from umbra_awl.desk.frame.leaving import Leaving
from umbra_awl.desk.frame.message import MessageBar
from umbra_awl.desk.frame.offers import offers
from umbra_awl.desk.frame.outside import OutsideBar
from umbra_awl.desk.frame.plan_menu import PlanActions
from umbra_awl.desk.frame.ribbon import Ribbon
from umbra_awl.desk.frame.topline import TopLine
from umbra_awl.desk.frame.welcome import Welcome
from umbra_awl.desk.frame.window_commands import add_commands, bind_keys
from umbra_awl.desk.parts.widgets import column, row
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.stage import Stage, Surroundings
from umbra_awl.desk.stages import PAGE_OF, STAGE_OF, STAGES
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

if TYPE_CHECKING:
    from umbra_awl.desk.directory import Directory
    from umbra_awl.desk.runner import Runner

SIDE_WIDTH = 356


class SideStack(QStackedWidget):
    """What stands beside the stage; shares its column with the findings and does not ask for more than its part."""

    def hasHeightForWidth(self) -> bool:
        return False

    def sizeHint(self) -> QSize:
        return QSize(SIDE_WIDTH, 60)

    def minimumSizeHint(self) -> QSize:
        return QSize(0, 60)


class MainWindow(QMainWindow):
    """The frame around the stages. Stages are made when they are first opened."""

    def __init__(self, bench: Workbench, theme: Theme, settings: Settings, directory: Path | None = None) -> None:
        """`directory` is the file of the directory's store; None keeps it where this user's data are."""
        super().__init__()
        self._directory_path = directory
        self.bench = bench
        self.theme = theme
        self.settings = settings
        self.diary: Diary | None = None
        self._opening = "", ""
        self.setWindowTitle("Umbra Awl")
        self.resize(1280, 800)
        self.setMinimumSize(960, 640)
        self.plans = PlanActions(bench, settings, self)
        self.leaving = Leaving(bench, self._cancel_transfer, self.close)
        self.commands = CommandTable(bench)
        self.stages: dict[str, Any] = {}  # a stage is a widget and does what `Stage` says; no type is both
        self.findings = FindingsPanel(bench)
        add_commands(self)
        bind_keys(self.commands, self)
        self._place()
        bench.stage_wanted.connect(self.choose_stage)
        bench.target_wanted.connect(self._show_kind)
        bench.said.connect(self.message.say)
        bench.plan_changed.connect(self.message.hide)
        bench.results_changed.connect(self._count)
        bench.document_changed.connect(self._document_changed)
        theme.changed.connect(self.update)
        self._document_changed()

    def _place(self) -> None:
        canvas = QWidget()
        canvas.setObjectName("canvas")
        outer = column(canvas, 0)
        self.top = TopLine(
            self.bench, self.theme, self.commands, lambda: offers(self.bench, self.commands), self.plans.menu, canvas
        )
        self.course = Course(self.theme, [(entry.key, entry.title) for entry in STAGES.values()])
        self.course.chosen.connect(self.choose_stage)
        self.message = MessageBar()
        self.outside = OutsideBar(self.bench)
        self.canvas = QStackedWidget()
        self.side = SideStack()
        self.ribbon = Ribbon(self.bench, self.theme)
        self.ribbon.opened.connect(partial(self.commands.run, "trace"))
        self.welcome = Welcome(self.plans, self.settings)
        self.canvas.addWidget(self.welcome)
        self._right = QWidget()
        self._right.setFixedWidth(self.theme.px(SIDE_WIDTH))
        right = column(self._right, 10)
        right.addWidget(self.side)
        right.addWidget(self.findings)
        self._shares = right
        middle = row(gap=14)
        middle.setContentsMargins(16, 8, 14, 8)
        middle.addWidget(self.canvas, 1)
        middle.addWidget(self._right)
        outer.addWidget(self.top)
        outer.addWidget(self.course)
        outer.addWidget(self.message)
        outer.addWidget(self.outside)
        outer.addLayout(middle, 1)
        outer.addWidget(self.ribbon)
        self.setCentralWidget(canvas)
        self.theme.changed.connect(self._fit_right)

    def _fit_right(self) -> None:
        """The side column grows with the text, but leaves the canvas the larger part."""
        self._right.setFixedWidth(min(self.theme.px(SIDE_WIDTH), int(0.42 * self.width())))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit_right()

    def begin_finding(self) -> None:
        """Begin to type in the find-or-do box."""
        self.top.finder.begin()

    def opened(self, key: str) -> Stage | None:
        """A stage, opened; None while there is no plan."""
        self.open_stage(key)
        stage: Stage | None = self.stages.get(key)
        return stage

    def toggle_theme(self) -> None:
        """Change between light and dark, and remember it."""
        self.theme.toggle()
        self.settings.keep(theme=self.theme.choice)

    def rescale(self, steps: int) -> None:
        """Make the text larger or smaller, and remember it."""
        self.theme.rescale(steps)
        self.settings.keep(scale=self.theme.scale)

    def next_radio(self) -> None:
        """Choose the next radio."""
        keys = list(self.bench.index.radios)
        if keys:
            self.bench.choose_radio(keys[(keys.index(self.bench.radio_key) + 1) % len(keys)])

    def next_pane(self) -> None:
        """Give the keyboard to the next pane."""
        panes = [self.canvas, self.side, self.findings, self.course]
        focused = self.focusWidget()
        at = next((place for place, pane in enumerate(panes) if focused is not None and pane.isAncestorOf(focused)), -1)
        pane = panes[(at + 1) % len(panes)]
        stage = self.stages.get(self.stage)
        if pane is self.canvas and stage is not None:
            stage.take_focus()
        elif pane is self.course:
            self.course.setFocus(Qt.FocusReason.TabFocusReason)
        else:
            children = [child for child in pane.findChildren(QWidget) if child.isVisible() and _takes_keys(child)]
            if children:
                children[0].setFocus(Qt.FocusReason.TabFocusReason)

    @property
    def stage(self) -> str:
        """The key of the open stage; empty on the welcome page."""
        current = self.canvas.currentWidget()
        return next((key for key, stage in self.stages.items() if stage is current), "")

    @cached_property
    def runner(self) -> "Runner":
        """What runs transfers; made when first needed."""
        from umbra_awl.desk.runner import Runner

        return Runner(self.bench, self.settings)

    @cached_property
    def directory(self) -> "Directory":
        """The directory; its store is opened when first asked for, since NumPy and all that come with it."""
        from umbra_awl.desk.directory import Directory

        path = self._directory_path
        if path is None:
            from platformdirs import user_data_path

            path = user_data_path("umbra-awl") / "directory.sqlite"
        return Directory(self.bench, path, self.settings)

    def _cancel_transfer(self) -> None:
        self.runner.cancel()

    def open_stage(self, key: str, page: str = "", *, now: bool = True) -> None:
        """Open a stage at a page. Unless it must be there `now`, what it needs may be imported first."""
        if self.bench.document is None:
            self.bench.say("Open a plan first, or make a new one.")
            return
        self._opening = key, page
        if not now and key not in self.stages and not _imported(key):
            self.course.set_current(key)
            self.bench.jobs.latest(
                "stage", lambda: import_module(STAGES[key].module), lambda _none: self._go_on(key, page)
            )
            return
        if key not in self.stages:
            self._add_stage(key)
            if not now:
                self.bench.jobs.soon(lambda: self._go_on(key, page))  # it is shown in a turn of its own
                return
        stage = self.stages[key]
        self.course.set_current(key)
        self.canvas.setCurrentWidget(stage)
        self.side.setCurrentWidget(stage.side)
        side_share, findings_share = STAGES[key].shares
        self._shares.setStretch(0, side_share)
        self._shares.setStretch(1, findings_share)
        if page:
            stage.show_page(page)
        stage.take_focus()

    def _add_stage(self, key: str) -> None:
        given = Surroundings(self.bench, self.theme, lambda: self.directory, lambda: self.runner)
        self.stages[key] = STAGES[key].make(given)
        self.canvas.addWidget(self.stages[key])
        self.side.addWidget(self.stages[key].side)

    def choose_stage(self, key: str) -> None:
        """Open a stage without holding the window up for what it has to import."""
        self.open_stage(key, now=False)

    def _show_kind(self, kind: TargetKind) -> None:
        """Open the page on which a kind of thing is worked on."""
        self.open_stage(STAGE_OF[kind], PAGE_OF[kind], now=False)

    def _go_on(self, key: str, page: str) -> None:
        """What a stage needs is there; it opens unless another one was chosen meanwhile."""
        if self._opening == (key, page):
            self.open_stage(key, page)

    def warm(self) -> None:
        """Import what the other stages need, in the background, once the first window has been used for a while."""
        self.bench.jobs.latest("warm", _import_stages, lambda _none: None)

    def copy_diary(self) -> None:
        """Put what happened lately on the clipboard: no IDs, no positions, no secrets are in it."""
        clipboard = QGuiApplication.clipboard()
        if self.diary is None or clipboard is None:
            self.bench.say("Nothing was written down in this session.")
            return
        clipboard.setText(self.diary.text())
        self.bench.say("What happened lately is on the clipboard, without IDs, positions or secrets.")

    def _document_changed(self) -> None:
        document = self.bench.document
        self._right.setVisible(document is not None)
        self.course.setVisible(document is not None)
        self.ribbon.setVisible(document is not None)
        if document is None:
            self.canvas.setCurrentWidget(self.welcome)
            return
        self.setWindowTitle(f"{document.path.name} – Umbra Awl")
        fresh = not document.plan.access
        if not self.stage:
            self.open_stage("station" if fresh else "routes")

    def _count(self) -> None:
        counts: dict[str, tuple[int, str]] = {}
        for finding in self.bench.results.findings:
            stage = STAGE_OF[finding.target.kind]
            count, gravest = counts.get(stage, (0, "note"))
            if SEVERITY_ORDER[finding.severity] < SEVERITY_ORDER.get(gravest, 3):  # type: ignore[call-overload]
                gravest = finding.severity
            counts[stage] = (count + 1, gravest)
        self.course.set_counts(counts)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is not None and not self.leaving.may_close():
            event.ignore()
            return
        self.hide()  # what still runs is waited for, and nobody should look at a window that does not answer
        directory = vars(self).get("directory")
        if directory is not None:
            directory.stop()
        self.bench.close()
        if directory is not None:
            directory.close()
        super().closeEvent(event)


def _imported(key: str) -> bool:
    """Whether a stage can be made without importing anything."""
    module = sys.modules.get(STAGES[key].module)
    return module is not None and not getattr(module.__spec__, "_initializing", False)


def _import_stages() -> None:
    for entry in STAGES.values():
        import_module(entry.module)
    for entry in STAGES.values():
        for name in entry.later:
            import_module(f"umbra_awl.{name}")


def _takes_keys(widget: QWidget) -> bool:
    return bool(widget.focusPolicy() & Qt.FocusPolicy.TabFocus) and widget.isEnabled()
