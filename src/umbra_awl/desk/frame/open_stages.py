"""The stages of one window: made when they are first opened, shown one at a time, and led to by places, things and steps."""

import sys
from collections.abc import Callable, ItemsView
from importlib import import_module
from typing import Any, NamedTuple

from PyQt6.QtWidgets import QStackedWidget, QWidget

from umbra_awl.core.agenda.next_steps import NextStep, Where
from umbra_awl.core.findings.model import Target
from umbra_awl.desk.frame.course import Course
from umbra_awl.desk.held.selection import selection_of
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.stage import Stage, Surroundings
from umbra_awl.desk.stages import PAGE_OF, REACHING_OUT, STAGE_OF, STAGES


class StageRoom(NamedTuple):
    """Where stages are shown: the row of their names, their canvas with what stands there while none is ready."""

    course: Course
    canvas: QStackedWidget
    nothing: QWidget


class OpenStages:
    """Opens stages. `made` is told of each new one, `shown` when another one, or another page, is shown."""

    def __init__(
        self,
        bench: Workbench,
        room: StageRoom,
        given: Callable[[], Surroundings],
        made: Callable[[str, Any], None],
        shown: Callable[[], None],
    ) -> None:
        self._bench, self._room = bench, room
        self._given, self._made, self._shown = given, made, shown
        self._stages: dict[str, Any] = {}  # a stage is a widget and does what `Stage` says; no type is both
        self.wanted = "", ""
        """Stage and page that were asked for last; what arrives later for another one is let go."""

    def __getitem__(self, key: str) -> Any:
        return self._stages[key]

    def __contains__(self, key: str) -> bool:
        return key in self._stages

    def get(self, key: str) -> Any:
        """A stage; None where it was not opened yet."""
        return self._stages.get(key)

    def items(self) -> ItemsView[str, Any]:
        """Those that were made so far, with their keys."""
        return self._stages.items()

    @property
    def current(self) -> str:
        """The key of the open stage; empty on the welcome page."""
        shown = self._room.canvas.currentWidget()
        return next((key for key, stage in self._stages.items() if stage is shown), "")

    @property
    def stage(self) -> Any:
        """The open stage; None on the welcome page."""
        return self._stages.get(self.current)

    def opened(self, key: str) -> Stage | None:
        """A stage, opened; None while there is no plan."""
        self.open(key)
        stage: Stage | None = self._stages.get(key)
        return stage

    def open(self, key: str, page: str = "", *, now: bool = True) -> None:
        """Open a stage at a page. Unless it must be there `now`, what it needs may be imported first."""
        if self._bench.document is None:
            self._bench.say("Open a plan first, or make a new one.")
            return
        if key in REACHING_OUT and not self._bench.reaches_out():
            return
        self.wanted = key, page
        if not now and key not in self and not _imported(key):
            self._room.course.set_current(key)
            self._bench.jobs.latest(
                "stage", lambda: import_module(STAGES[key].module), lambda _none: self._arrived(key, page)
            )
            return
        if key not in self:
            self._make(key)
            if not now:
                self._bench.jobs.soon(lambda: self._arrived(key, page))  # it is shown in a turn of its own
                return
        self._show(key, page)

    def _show(self, key: str, page: str) -> None:
        stage = self._stages[key]
        self._room.course.set_current(key)
        self._room.canvas.setCurrentWidget(stage)
        if page:
            stage.show_page(page)
        self._shown()
        stage.take_focus()

    def _make(self, key: str) -> None:
        stage = self._stages[key] = STAGES[key].make(self._given())
        self._room.canvas.addWidget(stage)
        stage.pages.shown.connect(lambda _page: self._shown())
        self._made(key, stage)

    def choose(self, key: str) -> None:
        """Open a stage without holding the window up for what it has to import."""
        self.open(key, now=False)

    def open_first(self, key: str, page: str) -> None:
        """The frame is painted first; what the first stage needs is not waited for."""
        self.wanted = key, page
        self._room.course.set_current(key)
        self._room.canvas.setCurrentWidget(self._room.nothing)
        self._bench.jobs.soon(lambda: self._arrived(*self.wanted))

    def _arrived(self, key: str, page: str) -> None:
        """What a stage needs is there; it opens unless another one was chosen meanwhile."""
        if self.wanted == (key, page):
            self.open(key, page)

    def go(self, where: Where, target: Target | None = None) -> None:
        """Open a place of the window and put the cursor into its field."""
        self.open(where.stage, where.page)
        if target is not None:
            self._bench.select(selection_of(self._bench.index, target))
        if where.stage in self and where.field:
            self._stages[where.stage].reach(where.field)

    def go_to_step(self, step: NextStep) -> None:
        """Lead to where a step is done."""
        if step.radio:
            self._bench.choose_radio(step.radio)
        if step.finding is not None:
            self._bench.show_finding(step.finding)
        else:
            self.go(step.where)

    def show_target(self, target: Target, field: str) -> None:
        """Open the page on which a thing is worked on, and the field that is meant."""
        self.go(Where(STAGE_OF[target.kind], PAGE_OF[target.kind], field), target)

    def lead_to(self, widget: QWidget) -> None:
        """Open the page on which a widget is."""
        for key, stage in self.items():
            if page := stage.pages.page_with(widget):
                self.open(key, page)


def warm(bench: Workbench) -> None:
    """Import what all stages need, in the background, once the first window has been used for a while."""
    bench.jobs.latest("warm", _import_stages, lambda _none: None)


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
