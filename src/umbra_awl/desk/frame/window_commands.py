"""The window's own commands, and those of every stage in the table."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, Protocol

from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QWidget

from umbra_awl.desk.commands import CommandTable
from umbra_awl.desk.frame.judged.findings import FindingsPanel
from umbra_awl.desk.frame.keyboard.panes import Panes
from umbra_awl.desk.frame.look_actions import LookActions
from umbra_awl.desk.frame.open_stages import OpenStages
from umbra_awl.desk.frame.plans.plan_menu import PlanActions
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.measures import CLOCK_WORDS, FAR_WORDS, MARK_WORDS
from umbra_awl.desk.stage import StageCommand, with_plan, with_radio
from umbra_awl.desk.stages import STAGES

if TYPE_CHECKING:
    from umbra_awl.desk.book.log_book import LogBook


class CommandedWindow(Protocol):
    """What the commands ask of the window."""

    bench: Workbench
    commands: CommandTable
    plans: PlanActions
    looks: LookActions
    findings: FindingsPanel
    stages: OpenStages
    panes: Panes

    @property
    def book(self) -> "LogBook": ...
    def begin_finding(self) -> None: ...
    def save(self) -> None: ...
    def next_radio(self) -> None: ...
    def toggle_findings(self) -> None: ...
    def go_on(self) -> None: ...
    def ask(self) -> None: ...
    def hands_do(self, name: str) -> Callable[[], object]: ...


_OF_RADIOS = frozenset({"radios", "transfer"})


def add_commands(frame: CommandedWindow) -> None:
    """Fill the command table."""
    _of_plans(frame)
    _of_the_view(frame)
    for key, entry in STAGES.items():
        for command in entry.commands:
            frame.commands.add(
                command.name,
                command.words,
                _in_stage(frame, key, command),
                command.keys,
                hint=command.hint,
                when=command.when,
                menu=f"{'Radio' if key in _OF_RADIOS else 'Go'}/{entry.title}",
            )


def bind_keys(commands: CommandTable, window: QWidget) -> None:
    """Make the keys of every command work in a window; one that cannot be done says why."""
    for command in commands:
        if command.keys:
            QShortcut(QKeySequence(command.keys), window, partial(commands.run, command.name))


def _in_stage(frame: CommandedWindow, key: str, command: StageCommand) -> Callable[[], object]:
    def does() -> object:
        stage = frame.stages.opened(key)
        return command.does(stage) if stage is not None else None

    return does


def _of_plans(frame: CommandedWindow) -> None:
    add, bench, plans = frame.commands.add, frame.bench, frame.plans
    add("find", "Find or do anything", frame.begin_finding, "Ctrl+K", menu="Edit")
    add("open", "Open a plan", plans.ask_open, "Ctrl+O", menu="Plan")
    add("new", "New plan", plans.begin, "Ctrl+N", menu="Plan")
    add("new-file", "New plan in a file of my choice", plans.ask_new, menu="Plan")
    add("save", "Save the plan", frame.save, "Ctrl+S", when=with_plan, menu="Plan")
    add("copy", "Save a copy", plans.ask_copy, "Ctrl+Shift+S", when=with_plan, menu="Plan")
    add("share", "Save a copy to share, IDs left out", plans.ask_share, when=with_plan, menu="Plan")
    with_ids = partial(plans.ask_share, with_ids=True)
    add("share-ids", "Save a copy to share, with the IDs in it", with_ids, when=with_plan, menu="Plan")
    add("name", "Name the plan", plans.ask_name, when=with_plan, menu="Plan")
    add(
        "diary",
        "Copy what happened",
        frame.looks.copy_diary,
        hint="For a report: no IDs, positions or secrets",
        menu="Help",
    )
    hands = frame.hands_do
    add("merge", "Merge another plan, thing by thing", hands("ask_merge"), when=with_plan, menu="Plan")
    add("follow", "Follow a club's plan", hands("ask_follow"), when=with_plan, menu="Plan")
    add("news", "News of the club's plan", hands("show_news"), when=with_plan, menu="Plan")
    add("leave-club", "Follow the club's plan no more", hands("leave"), when=with_plan, menu="Plan")
    add("pack", "Make a club pack of what is here", hands("ask_make"), when=with_plan, menu="Plan")
    add("open-pack", "Look into a club pack", hands("ask_open"), menu="Plan")
    add("undo", "Undo", bench.steps.back, "Ctrl+Z", when=with_plan, menu="Edit")
    add("redo", "Redo", bench.steps.again, "Ctrl+Shift+Z", when=with_plan, menu="Edit")


def _with_repair(bench: Workbench) -> str:
    found = bench.worked.results.findings
    return with_plan(bench) or ("" if any(item.repair for item in found) else "No finding here has a repair.")


def _of_the_view(frame: CommandedWindow) -> None:
    add = frame.commands.add
    add("theme", "Change between light and dark", frame.looks.toggle_theme, "Ctrl+L", menu="View")
    add("copy-shown", "Copy what is selected", frame.looks.copy_shown, "Ctrl+C", menu="Edit")
    add("words", "Words used here", frame.looks.show_words, menu="Help")
    add(
        "changed",
        "What was changed last?",
        lambda: frame.looks.show_changed(frame.book.entries),
        menu="Help",
        when=with_plan,
    )
    add("larger", "Larger text", partial(frame.looks.rescale, 1), "Ctrl++", menu="View")
    add("smaller", "Smaller text", partial(frame.looks.rescale, -1), "Ctrl+-", menu="View")
    for field, words, ways in (
        ("far", "Distances in kilometres or miles", FAR_WORDS),
        ("clock", "A clock of 24 or 12 hours", CLOCK_WORDS),
        ("mark", "A decimal point or comma", MARK_WORDS),
    ):
        add(f"measure-{field}", words, partial(frame.looks.measure, field, ways), menu="View")
    for number, entry in enumerate(STAGES.values(), 1):
        does = partial(frame.stages.choose, entry.key)
        add(f"stage-{entry.key}", f"Go to {entry.title}", does, f"Ctrl+{number}", when=with_plan, menu="Go")
    add("ask", "Ask a number: how it is worked out", frame.ask, "F4", when=with_plan, menu="Help")
    add("next-finding", "Show the next finding", frame.findings.next, "F8", when=with_plan, menu="Edit")
    add(
        "repair", "Repair the first finding here", frame.findings.repair_first, "Ctrl+R", when=_with_repair, menu="Edit"
    )
    add("fold", "Fold or open the findings", frame.toggle_findings, "F9", when=with_plan, menu="View")
    add("next", "Do the next step", frame.go_on, "Ctrl+Return", when=with_plan, menu="Go")
    add("pane", "Go to the next pane", frame.panes.next_pane, "F6", menu="Go")
    add("next-radio", "Next radio", frame.next_radio, "Ctrl+Tab", when=with_radio, menu="Radio")
