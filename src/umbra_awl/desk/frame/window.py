"""The main window: places its parts and wires the command table; everything else is theirs.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtGui import QCloseEvent
from PyQt6.QtWidgets import QMainWindow, QStackedWidget, QWidget

from umbra_awl.core.agenda.next_steps import done_shares
from umbra_awl.core.findings.model import SEVERITY_ORDER
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
from umbra_awl.desk.frame.keyboard.panes import Panes
from umbra_awl.desk.frame.keyboard.typed import Typed
from umbra_awl.desk.frame.look_actions import LookActions
from umbra_awl.desk.frame.message import MessageBar
from umbra_awl.desk.frame.open_stages import OpenStages, StageRoom
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
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.typing import commit_typing
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.stage import Surroundings
from umbra_awl.desk.stages import STAGE_OF, STAGES, TITLES
from umbra_awl.desk.theme.icons import Icons
from umbra_awl.desk.theme.theme import Theme


class MainWindow(Services, QMainWindow):
    """The frame around the stages. Stages are made when they are first opened."""

    def __init__(self, bench: Workbench, theme: Theme, settings: Settings, directory: Path | None = None) -> None:
        """`directory` is the file of the directory's store; None keeps it where this user's data are."""
        super().__init__()
        self.panes = Panes(self)
        self._directory_path = directory
        self.bench = bench
        self.theme = theme
        self.settings = settings
        self._ending = False
        self.setWindowTitle("Umbra Awl")
        self.resize(1280, 800)
        self.setMinimumSize(960, 640)
        self.plans = PlanActions(bench, settings, self, self.hands_do)
        self.looks = LookActions(bench, theme, settings, self)
        self.leaving = Leaving(bench, partial(_cancel_transfer, self), self.close)
        self.commands = CommandTable(bench, partial(commit_typing, self))
        self.findings = FindingsPanel(bench, theme)
        self.agenda = Agenda(bench)
        self.reminders = Reminders(bench)
        self._place()
        add_commands(self)
        Desktop(self)
        self.background = Background(self)
        bind_keys(self.commands, self)
        self.typed = Typed(self, bench, self.stages.lead_to)
        bench.stage_wanted.connect(self.stages.choose)
        bench.target_wanted.connect(self.stages.show_target)
        bench.where_wanted.connect(self.stages.go)
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
        self.outside = OutsideBar(self.bench)
        self.canvas = QStackedWidget()
        self.demo = DemoWindow(self.bench)
        plans = self.plans
        doors = Doors(plans.begin, self._begin_with_radio, plans.ask_open, plans.open, self.demo.start)
        self.welcome = Welcome(self.theme, self.settings, doors)
        self._nothing = QWidget()
        self.canvas.addWidget(self.welcome)
        self.canvas.addWidget(self._nothing)
        room = StageRoom(self.course, self.canvas, self._nothing)
        self.stages = OpenStages(self.bench, room, self._surroundings, self._stage_made, self._arrange)
        self.course.chosen.connect(self.stages.choose)
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
        self.message = MessageBar(self.beside, self.bench.steps.back)
        KeepFocus(self, (self.beside, self.ribbon, self.foot), self._focus_page)

    def _focus_page(self) -> None:
        stage = self.stages.stage
        (stage or self.welcome).take_focus()

    def add_bar(self, bar: QWidget) -> None:
        """Put a bar under the stages, above the canvas."""
        self._outer.insertWidget(self._outer.indexOf(self.outside), bar)

    def begin_finding(self) -> None:
        """Begin to type in the find-or-do box."""
        self.top.finder.begin()

    def next_radio(self) -> None:
        """Choose the next radio."""
        keys = list(self.bench.index.radios)
        if keys:
            self.bench.choose_radio(keys[(keys.index(self.bench.radio_key) + 1) % len(keys)])

    def _surroundings(self) -> Surroundings:
        return Surroundings(
            self.bench,
            self.theme,
            lambda: self.directory,
            lambda: self.runner,
            self.stages.go_to_step,
            lambda: self.book,
            TITLES,
        )

    def _stage_made(self, key: str, stage: Any) -> None:
        self.beside.add(stage.side)
        if key == "station":
            stage.show_steps(self.agenda.steps)

    def _arrange(self) -> None:
        """Give each part its room by the page that is shown: what stands beside it, its findings, the trace."""
        stage = self.stages.stage
        if stage is None:
            return
        entry, page = STAGES[self.stages.current], stage.pages.name
        self.beside.show_beside(stage.side if stage.pages.accompanied else None)
        kinds = entry.about(page)
        self.findings.concern(lambda item: item.target.kind in kinds if kinds else item.severity == "stop")
        self.foot.say_count()
        self._follow_trace()

    def _follow_trace(self) -> None:
        """The trace stands under pages on which a route is in hand, and only while one is."""
        stage = self.stages.stage
        traced = stage is not None and stage.pages.name in STAGES[self.stages.current].traced
        self.ribbon.setVisible(traced and self.bench.route is not None)

    def _begin_with_radio(self) -> None:
        """A new plan, at the page where a radio is brought in."""
        if self.plans.begin():
            self.stages.open("transfer", "bring")

    def toggle_findings(self) -> None:
        """Fold the findings to their count, or open them."""
        self.beside.toggle_findings()

    def go_on(self) -> None:
        """Do the next step: its field, its finding, or the list of all when everything is done."""
        step = self.foot.step
        if step is None:
            self.stages.open("station", "next")
        else:
            self.stages.go_to_step(step)

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
        if not self.stages.current:
            self.stages.open_first(*(("routes", "") if document.plan.access else ("station", "next")))

    def _count(self) -> None:
        steps = self.agenda.steps
        self.foot.show_steps(steps)
        if "station" in self.stages:
            self.stages["station"].show_steps(steps)
        self.course.set_done(done_shares(steps))
        counts: dict[str, tuple[int, str]] = {}
        for finding in self.bench.worked.results.findings:
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

        stage = self.stages.stage
        side = self.beside.side if stage is not None and stage.pages.accompanied else None
        figures = figures_on((stage, side))
        if not figures:
            self.bench.say(f"No number is worked out on this page just now. {ASKED_ON}")
            return
        from umbra_awl.desk.frame.sheets.ask_sheet import AskSheet

        AskSheet(self.theme, self, figures).exec()

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
            directory.tasks.stop()
        self.bench.close()
        if directory is not None:
            directory.close()
        super().closeEvent(event)


def _cancel_transfer(window: MainWindow) -> None:
    window.runner.cancel()
