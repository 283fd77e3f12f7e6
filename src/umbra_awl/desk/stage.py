"""What a stage is: what the table of stages says of it, what its widget can do, and what it is given."""

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any, NamedTuple, Protocol

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.agenda.next_steps import NextStep
from umbra_awl.core.findings.model import TargetKind
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.pages import Pages
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.desk.book.log_book import LogBook
    from umbra_awl.desk.known.directory import Directory
    from umbra_awl.desk.runs.runner import Runner


class Surroundings(NamedTuple):
    """What a stage is made with.

    The directory, what runs transfers and the log are made when they are first asked for; `go` leads to where a step is done,
    `titles` are the names of all stages.
    """

    bench: Workbench
    theme: Theme
    directory: "Callable[[], Directory]"
    runner: "Callable[[], Runner]"
    go: Callable[[NextStep], object]
    book: "Callable[[], LogBook]"
    titles: Mapping[str, str]


class Stage(Protocol):
    """The canvas of a stage: a widget with pages, and what stands beside the page that is shown."""

    pages: Pages
    side: QWidget

    def show_page(self, name: str) -> None:
        """Show one of its pages. Raises KeyError for a name that is none."""

    def take_focus(self) -> None:
        """Give the keyboard to what is shown."""

    def reach(self, field: str) -> bool:
        """Put the cursor into a field of the page that is shown, or do what stands for one; False where there is none."""


Condition = Callable[[Workbench], str]
"""Why something cannot be done now, in a sentence with what to do; empty when it can."""


def always(_bench: Workbench) -> str:
    """Can be done at any time."""
    return ""


def with_plan(bench: Workbench) -> str:
    """Needs an open plan."""
    return "" if bench.document is not None else "Open a plan first, or make a new one."


def with_radio(bench: Workbench) -> str:
    """Needs a radio in the plan."""
    return with_plan(bench) or ("" if bench.plan.radios else "The plan has no radio yet. Add one at Radios.")


class StageCommand(NamedTuple):
    """A command of a stage, which is opened before it is done. `when` says whether it can be done now."""

    name: str
    words: str
    does: Callable[[Any], object]  # the stage's own class, which only its own package knows
    keys: str = ""
    hint: str = ""
    when: Condition = with_plan


class StageEntry(NamedTuple):
    """A row of the table of stages.

    `pages` are the names of its pages; `targets` what of a plan is worked on there, with the page; `concerns` what else a page
    is about, so that findings on it stand there too (a page without either is about all of its stage); `traced` are the pages
    on which a route is in hand, whose key-up is followed under them; `later` are modules of its package, and of the core, to be
    imported before they are asked for; `parts` what stands on a page under a name of its own, with the page's.
    """

    key: str
    title: str
    make: Callable[[Surroundings], Any]
    pages: tuple[str, ...]
    commands: tuple[StageCommand, ...] = ()
    targets: Mapping[TargetKind, str] = {}
    concerns: Mapping[str, frozenset[TargetKind]] = {}
    traced: frozenset[str] = frozenset()
    later: tuple[str, ...] = ()
    parts: Mapping[str, str] = {}

    def page_of(self, name: str) -> str:
        """The page of that name, or the one that has the part."""
        return self.parts.get(name, name)

    def about(self, page: str) -> frozenset[TargetKind]:
        """The kinds of things that a page is about; none where the stage has none at all."""
        own = frozenset(kind for kind, at in self.targets.items() if self.page_of(at) == page)
        return own | self.concerns.get(page, frozenset()) or frozenset(self.targets)

    @property
    def module(self) -> str:
        """Where its widget is."""
        return f"umbra_awl.desk.{self.key}.stage"


def showing(page: str) -> Callable[[Stage], object]:
    """What shows a page of a stage."""
    return lambda stage: stage.show_page(page)
