"""Which radio, which hotspot: needs beside the picture, and each candidate explained."""

from collections.abc import Callable, Iterator
from functools import cached_property
from typing import TYPE_CHECKING, Any

from PyQt6.QtWidgets import QStackedWidget, QWidget

from umbra_awl.core.fit.compare import Candidate, compare
from umbra_awl.core.fit.needs import RadioNeeds
from umbra_awl.core.fit.report import KINDS
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import column, scrolled, scrolled_card, words
from umbra_awl.desk.parts.wrap import WrapList
from umbra_awl.desk.radios.candidate_sheet import CandidateSheet
from umbra_awl.desk.radios.compare_weights import CompareWeights
from umbra_awl.desk.radios.hotspots import HotspotTable
from umbra_awl.desk.radios.modes_part import ModesPart
from umbra_awl.desk.radios.needs_fields import NeedsFields
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.desk.known.directory import Directory

_LEAST_WHY, _WHOLE_FIRST = 128, 1_000
"""What is left to the reasons at the least, in pixels; the picture's stretch: it is shown whole before the reasons get more."""


class ComparePage(QWidget):
    """The canvas page; `side` holds the needs and the explanation."""

    def __init__(self, bench: Workbench, theme: Theme, directory: "Callable[[], Directory]") -> None:
        super().__init__()
        self.weights, self.asked = CompareWeights(self), NeedsFields(self)
        self.bench, self._theme, self._directory = bench, theme, directory
        self.needs = RadioNeeds()
        self.with_plan = True
        self.left_out: frozenset[str] = frozenset()
        outer = column(self, 6)
        self.tabs = Tabs(("Radios", "Hotspots", "Why this mode?"), self.show_table)
        self._lead = words("", "second", wrap=True)
        self.tabs.line.addWidget(self._lead, 1)
        outer.addWidget(self.tabs)
        self._canvas = QStackedWidget()
        self.sheet = CandidateSheet(theme)
        self.sheet.chosen.connect(lambda _across, _down: self._explain())
        self.sheet.weighed.connect(self.weights.weigh)
        self._first = self._radios_part()
        for signal in (theme.changed, self.sheet.resized):
            signal.connect(self._fit_picture)
        self._canvas.addWidget(self._first)
        outer.addWidget(self._canvas, 1)
        self.side = QStackedWidget()
        self._first_side = self._needs_side()
        self.side.addWidget(self._first_side)
        self._weighed_now: dict[str, int] = {}
        self._shown: HotspotTable | ModesPart | None = None
        self.show_table(0)
        self._fresh = WhenChanged(self, lambda: (bench.plan, bench.profiles.own), self.refresh)
        for signal in (bench.plan_changed, bench.profiles_changed):
            signal.connect(self._fresh.check)

    @cached_property
    def hotspots(self) -> HotspotTable:
        """The hotspots, made when first shown."""
        made = HotspotTable(self._theme)
        self._canvas.addWidget(made)
        self.side.addWidget(made.side)
        return made

    @cached_property
    def modes(self) -> ModesPart:
        """The modes side by side, made when first shown."""
        made = ModesPart(self, self._theme, self._directory)
        self._canvas.addWidget(made)
        self.side.addWidget(made.side)
        return made

    def _needs_side(self) -> QWidget:
        side = QWidget()
        outer = column(side, 6)
        outer.addWidget(words("What it should do", "title"))
        self.card = FieldList(104)
        outer.addWidget(scrolled_card(self.card), 1)
        return side

    def _radios_part(self) -> QWidget:
        """The picture, and why the chosen radio stands as it does."""
        part = QWidget()
        outer = column(part, 6)
        self._area = scrolled(self.sheet)
        outer.addWidget(self._area, _WHOLE_FIRST)
        self._why_title = words("", "title")
        outer.addWidget(self._why_title)
        self.why = WrapList()
        self.why.setAccessibleName("Why: each point of the chosen radio, and what it needs beside it")
        self.why.setMinimumHeight(_LEAST_WHY)
        outer.addWidget(self.why, 1)
        return part

    def show_table(self, at: int) -> None:
        """Show the radios (0) or the hotspots (1)."""
        self._shown = (self.hotspots if at == 1 else self.modes) if at else None
        if self._shown is not None:
            self._shown.refresh()
        self._canvas.setCurrentWidget(self._shown or self._first)
        self.side.setCurrentWidget(self._shown.side if self._shown is not None else self._first_side)
        self.tabs.mark(at)
        lead = (
            "What each radio carries, shortens and loses of this plan.",
            "Boards, computers and images that work together.",
            "What each mode is, and what it is on your plan and around you.",
        )
        self._lead.setText(lead[at])

    def take_focus(self) -> None:
        """Give the keyboard to the picture."""
        (self._shown or self.sheet).setFocus()

    def refresh(self) -> None:
        """Compare anew, in the background; the latest wins."""
        self.card.show_fields(list(self.asked.fields()))
        if isinstance(self._shown, ModesPart):
            self._shown.refresh()
        index, needs, with_plan = self.bench.index, self.needs, self.with_plan and bool(self.bench.plan.routes)
        profiles = [item for key, item in self.bench.profiles.items() if key not in self.left_out]
        self.bench.jobs.latest(
            "compare-radios", lambda: compare(index, profiles, needs, with_plan=with_plan), self._take
        )

    def _take(self, candidates: list[Candidate]) -> None:
        self.sheet.show_candidates(candidates)
        self._fit_picture()
        if self.weights.weighed() != self._weighed_now:
            self._weighed_now = self.weights.weighed()
            self.card.show_fields(list(self.asked.fields()))
        self._explain()

    def _fit_picture(self) -> None:
        """As high as its rows, at the text's size as well; what is left goes to the reasons."""
        self._area.setMaximumHeight(self.sheet.sizeHint().height())

    def _explain(self) -> None:
        self.why.clear()
        if not self.sheet.candidates:
            self._why_title.setText("Choose at least one radio")
            return
        candidate = self.sheet.candidates[self.sheet.at[0]]
        shut = " and ".join(item.name for item in candidate.out)
        self._why_title.setText(f"{candidate.profile.name}: {f'left out, it must have {shut}' if shut else 'why'}")
        if not candidate.points:
            self.why.addItem("Nothing is asked for yet. Choose what it should do above.")
        for point in candidate.points:
            self.why.addItem(f"{point.name[0].upper()}{point.name[1:]}: {point.why}")
        for text in _of_plan(candidate):
            self.why.addItem(text)
        self.why.addItem(f"Beside it: {', '.join(candidate.beside)}.")
        self.why.setCurrentRow(self.sheet.at[1])

    def set(self, **fields: Any) -> None:
        self.needs = self.needs._replace(**fields)
        self.refresh()

    def leave(self, key: str) -> None:
        """Leave a radio out of the comparison, or take it in again."""
        self.left_out = self.left_out ^ {key}
        self.refresh()

    def use_plan(self, value: bool) -> None:
        """Fit the plan to each, or leave it aside."""
        self.with_plan = value
        self.refresh()


def _of_plan(candidate: Candidate) -> Iterator[str]:
    """How many lines of each kind the plan's fit has on it."""
    if candidate.fit is None:
        return
    for kind in KINDS:
        found = candidate.fit.report.of_kind(kind)
        if found and kind != "other mode":
            more = f" and {len(found) - 2} more" if len(found) > 2 else ""
            yield f"{kind.capitalize()}: {', '.join(line.title for line in found[:2])}{more}."
