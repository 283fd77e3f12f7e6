"""The main window: places its parts and wires the command table; everything else is theirs.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

import sys
from functools import partial
from importlib import import_module
from pathlib import Path
from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QCloseEvent
from PyQt6.QtWidgets import QMainWindow, QStackedWidget, QWidget

from umbra_awl.core.agenda.next_steps import NextStep, Where, done_shares
from umbra_awl.core.findings.model import SEVERITY_ORDER, Target
from umbra_awl.desk.commands import CommandTable
from umbra_awl.desk.frame.agenda import Agenda
from umbra_awl.desk.frame.background import Background
from umbra_awl.desk.frame.beside import Beside
from umbra_awl.desk.frame.course import Course
from umbra_awl.desk.frame.desktop import Desktop
from umbra_awl.desk.frame.find.finder import Finder
from umbra_awl.desk.frame.find.offers import offers
from umbra_awl.desk.frame.foot import Foot
from umbra_awl.desk.frame.judged.findings import FindingsPanel
from umbra_awl.desk.frame.keyboard import tab_order
from umbra_awl.desk.frame.keyboard.keep_focus import KeepFocus
from umbra_awl.desk.frame.keyboard.typed import Typed
from umbra_awl.desk.frame.look_actions import LookActions
from umbra_awl.desk.frame.message import MessageBar
from umbra_awl.desk.frame.plans.demo_window import DemoWindow
from umbra_awl.desk.frame.plans.leaving import Leaving
from umbra_awl.desk.frame.plans.outside import OutsideBar
from umbra_awl.desk.frame.plans.plan_menu import PlanActions
from umbra_awl.desk.frame.reminders import Reminders
from umbra_awl.desk.frame.ribbon import Ribbon
from umbra_awl.desk.frame.services import Services
from umbra_awl.desk.frame.sheets.welcome import Doors, Welcome
from umbra_awl.desk.frame.topline import TopLine
from umbra_awl.desk.frame.window_commands import add_commands, bind_keys
from umbra_awl.desk.parts.cards.typing import commit_typing
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.selection import selection_of
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.stage import Stage, Surroundings
from umbra_awl.desk.stages import PAGE_OF, REACHING_OUT, STAGE_OF, STAGES, TITLES
from umbra_awl.desk.theme.icons import Icons
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench


class MainWindow(Services, QMainWindow):
    """The frame around the stages. Stages are made when they are first opened."""

    def __init__(self, bench: Workbench, theme: Theme, settings: Settings, directory: Path | None = None) -> None:
        """`directory` is the file of the directory's store; None keeps it where this user's data are."""
        super().__init__()
        self._directory_path = directory
        self.bench = bench
        self.theme = theme
        self.settings = settings
        self._opening = "", ""
        self._ending = False
        self.setWindowTitle("Umbra Awl")
        self.resize(1280, 800)
        self.setMinimumSize(960, 640)
        self.plans = PlanActions(bench, settings, self, self.hands_do)
        self.looks = LookActions(bench, theme, settings, self)
        self.leaving = Leaving(bench, self._cancel_transfer, self.close)
        self.typed = Typed(self, bench, self._lead_to)
        self.commands = CommandTable(bench, partial(commit_typing, self))
        self.stages: dict[str, Any] = {}  # a stage is a widget and does what `Stage` says; no type is both
        self.findings = FindingsPanel(bench, theme)
        self.agenda = Agenda(bench)
        self.reminders = Reminders(bench)
        add_commands(self)
        Desktop(self)
        self.background = Background(self)
        bind_keys(self.commands, self)
        self._place()
        bench.stage_wanted.connect(self.choose_stage)
        bench.target_wanted.connect(self._show_target)
        bench.where_wanted.connect(self.go)
        bench.ask_wanted.connect(self.ask)
        bench.selection_changed.connect(self._follow_trace)
        bench.plan_changed.connect(self._follow_trace)
        bench.said.connect(self.message.say)
        bench.plan_changed.connect(self.message.let_go)
        self.agenda.changed.connect(self._count)
        bench.document_changed.connect(self._document_changed)
        theme.changed.connect(self.update)
        self._document_changed()

    def _place(self) -> None:
        canvas = QWidget()
        canvas.setObjectName("canvas")
        outer = self._outer = column(canvas, 0)
        self.icons = Icons(self.theme)
        finder = Finder(partial(offers, self.bench, self.commands), self.settings, self.icons, canvas)
        self.top = TopLine(self.bench, self.theme, self.commands, finder, self.plans.menu, canvas)
        self.course = Course(self.theme, [(entry.key, entry.title) for entry in STAGES.values()])
        self.course.chosen.connect(self.choose_stage)
        self.outside = OutsideBar(self.bench)
        self.canvas = QStackedWidget()
        self.demo = DemoWindow(self.bench)
        plans = self.plans
        doors = Doors(plans.begin, self._begin_with_radio, plans.ask_open, plans.open, self.demo.start)
        self.welcome = Welcome(self.theme, self.settings, doors)
        self._nothing = QWidget()
        self.canvas.addWidget(self.welcome)
        self.canvas.addWidget(self._nothing)
        self.beside = Beside(self.canvas, self.findings, self.settings, self.theme)
        self.ribbon = Ribbon(self.bench, self.theme)
        self.ribbon.opened.connect(partial(self.commands.run, "trace"))
        self.foot = Foot(self.findings)
        self.foot.step_wanted.connect(self.go_on)
        self.foot.findings_wanted.connect(self.toggle_findings)
        self.findings.moved.connect(self.toggle_findings)
        for part in (self.top, self.course, self.outside):
            outer.addWidget(part)
        outer.addWidget(self.beside, 1)
        outer.addWidget(self.ribbon)
        outer.addWidget(self.foot)
        self.setCentralWidget(canvas)
        self.message = MessageBar(self.beside, self.bench.undo)
        KeepFocus(self, (self.beside, self.ribbon, self.foot), self._focus_page)

    def _focus_page(self) -> None:
        stage = self.stages.get(self.stage)
        (stage or self.welcome).take_focus()

    def add_bar(self, bar: QWidget) -> None:
        """Put a bar under the stages, above the canvas."""
        self._outer.insertWidget(self._outer.indexOf(self.outside), bar)

    def begin_finding(self) -> None:
        """Begin to type in the find-or-do box."""
        self.top.finder.begin()

    def opened(self, key: str) -> Stage | None:
        """A stage, opened; None while there is no plan."""
        self.open_stage(key)
        stage: Stage | None = self.stages.get(key)
        return stage

    def next_radio(self) -> None:
        """Choose the next radio."""
        keys = list(self.bench.index.radios)
        if keys:
            self.bench.choose_radio(keys[(keys.index(self.bench.radio_key) + 1) % len(keys)])

    def next_pane(self) -> None:
        """Give the keyboard to the next pane."""
        panes: list[QWidget] = [self.canvas, self.beside.side, self.findings, self.course]
        focused = self.focusWidget()
        at = next((place for place, pane in enumerate(panes) if focused is not None and pane.isAncestorOf(focused)), -1)
        any(self._enter(panes[(at + step) % len(panes)]) for step in range(1, len(panes) + 1))

    def _enter(self, pane: QWidget) -> bool:
        """Give the keyboard to a pane; False where nothing in it takes it."""
        stage = self.stages.get(self.stage)
        if pane is self.canvas and stage is not None:
            stage.take_focus()
            return True
        children = [pane, *pane.findChildren(QWidget)]
        first = next((child for child in children if child.isVisible() and _takes_keys(child)), None)
        if first is not None:
            first.setFocus(Qt.FocusReason.TabFocusReason)
        return first is not None

    @property
    def stage(self) -> str:
        """The key of the open stage; empty on the welcome page."""
        current = self.canvas.currentWidget()
        return next((key for key, stage in self.stages.items() if stage is current), "")

    def _cancel_transfer(self) -> None:
        self.runner.cancel()

    def open_stage(self, key: str, page: str = "", *, now: bool = True) -> None:
        """Open a stage at a page. Unless it must be there `now`, what it needs may be imported first."""
        if self.bench.document is None:
            self.bench.say("Open a plan first, or make a new one.")
            return
        if key in REACHING_OUT and not self.bench.reaches_out():
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
        if page:
            stage.show_page(page)
        self._arrange()
        stage.take_focus()

    def _add_stage(self, key: str) -> None:
        given = Surroundings(
            self.bench,
            self.theme,
            lambda: self.directory,
            lambda: self.runner,
            self.go_to_step,
            lambda: self.book,
            TITLES,
        )
        self.stages[key] = STAGES[key].make(given)
        self.canvas.addWidget(self.stages[key])
        self.beside.add(self.stages[key].side)
        self.stages[key].pages.shown.connect(lambda _page: self._arrange())
        if key == "station":
            self.stages[key].show_steps(self.agenda.steps)

    def _arrange(self) -> None:
        """Give each part its room by the page that is shown: what stands beside it, its findings, the trace."""
        stage = self.stages.get(self.stage)
        if stage is None:
            return
        entry, page = STAGES[self.stage], stage.pages.name
        self.beside.show_beside(stage.side if stage.pages.accompanied else None)
        kinds = entry.about(page)
        self.findings.concern(lambda item: item.target.kind in kinds if kinds else item.severity == "stop")
        self.foot.say_count()
        self._follow_trace()

    def _follow_trace(self) -> None:
        """The trace stands under pages on which a route is in hand, and only while one is."""
        stage = self.stages.get(self.stage)
        traced = stage is not None and stage.pages.name in STAGES[self.stage].traced
        self.ribbon.setVisible(traced and self.bench.route is not None)

    def _begin_with_radio(self) -> None:
        """A new plan, at the page where a radio is brought in."""
        if self.plans.begin():
            self.open_stage("transfer", "bring")

    def toggle_findings(self) -> None:
        """Fold the findings to their count, or open them."""
        self.beside.toggle_findings()

    def go(self, where: Where, target: Target | None = None) -> None:
        """Open a place of the window and put the cursor into its field."""
        self.open_stage(where.stage, where.page)
        if target is not None:
            self.bench.select(selection_of(self.bench.index, target))
        stage = self.stages.get(where.stage)
        if stage is not None and where.field:
            stage.reach(where.field)

    def go_on(self) -> None:
        """Do the next step: its field, its finding, or the list of all when everything is done."""
        step = self.foot.step
        if step is None:
            self.open_stage("station", "next")
        else:
            self.go_to_step(step)

    def go_to_step(self, step: NextStep) -> None:
        """Lead to where a step is done."""
        if step.radio:
            self.bench.choose_radio(step.radio)
        if step.finding is not None:
            self.bench.show_finding(step.finding)
        else:
            self.go(step.where)

    def choose_stage(self, key: str) -> None:
        """Open a stage without holding the window up for what it has to import."""
        self.open_stage(key, now=False)

    def _show_target(self, target: Target, field: str) -> None:
        """Open the page on which a thing is worked on, and the field that is meant."""
        self.go(Where(STAGE_OF[target.kind], PAGE_OF[target.kind], field), target)

    def _go_on(self, key: str, page: str) -> None:
        """What a stage needs is there; it opens unless another one was chosen meanwhile."""
        if self._opening == (key, page):
            self.open_stage(key, page)

    def warm(self) -> None:
        """Import what the other stages need, in the background, once the first window has been used for a while."""
        self.bench.jobs.latest("warm", _import_stages, lambda _none: None)

    def _document_changed(self) -> None:
        document = self.bench.document
        for part in (self.course, self.foot):
            part.setVisible(document is not None)
        self._follow_trace()
        if document is None:
            self.canvas.setCurrentWidget(self.welcome)
            self.beside.show_beside(None)
            return
        self.setWindowTitle(f"{document.path.name} – Umbra Awl")
        self.follow_news()
        if not self.stage:
            self._open_first("routes" if document.plan.access else "station")

    def _open_first(self, key: str) -> None:
        """The frame is painted first; what the first stage needs is not waited for."""
        self._opening = key, "" if key == "routes" else "next"
        self.course.set_current(key)
        self.canvas.setCurrentWidget(self._nothing)
        self.bench.jobs.soon(lambda: self._go_on(*self._opening))

    def _count(self) -> None:
        steps = self.agenda.steps
        self.foot.show_steps(steps)
        if "station" in self.stages:
            self.stages["station"].show_steps(steps)
        self.course.set_done(done_shares(steps))
        counts: dict[str, tuple[int, str]] = {}
        for finding in self.bench.results.findings:
            stage = STAGE_OF[finding.target.kind]
            count, gravest = counts.get(stage, (0, "note"))
            if SEVERITY_ORDER[finding.severity] < SEVERITY_ORDER.get(gravest, 3):  # type: ignore[call-overload]
                gravest = finding.severity
            counts[stage] = (count + 1, gravest)
        self.course.set_counts(counts)

    def save(self) -> None:
        """Save the plan, with what is being typed."""
        if self.plans.save():
            self.typed.take_to_save()

    def end(self) -> None:
        """Close because the system asks for it: what is typed is taken if it can be, and nobody is waited for."""
        self._ending = True
        self.close()

    def ask(self) -> None:
        """Show how the numbers of the page are worked out."""
        from umbra_awl.desk.asked import ASKED_ON, figures_on

        stage = self.stages.get(self.stage)
        side = self.beside.side if stage is not None and stage.pages.accompanied else None
        figures = figures_on((stage, side))
        if not figures:
            self.bench.say(f"No number is worked out on this page just now. {ASKED_ON}")
            return
        from umbra_awl.desk.frame.sheets.ask_sheet import AskSheet

        AskSheet(self.theme, self, figures).exec()

    def _lead_to(self, widget: QWidget) -> None:
        """Open the page on which a widget is."""
        for key, stage in self.stages.items():
            if page := stage.pages.page_with(widget):
                self.open_stage(key, page)

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Tab goes by reading order, findings after what they are about, the foot last."""
        return tab_order.go(
            self,
            (self.top, self.course, self.canvas, self.beside.side, self.findings, self.ribbon, self.foot),
            forward=forward,
        )

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if event is not None and not ((self.typed.may_close() or self._ending) and self.leaving.may_close()):
            event.ignore()
            return
        self.demo.let_go()
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
