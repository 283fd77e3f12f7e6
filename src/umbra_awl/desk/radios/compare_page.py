"""Which radio, which hotspot: needs beside the picture, and each candidate explained."""

from collections.abc import Iterator
from functools import cached_property, partial
from typing import Any

from PyQt6.QtWidgets import QStackedWidget, QWidget

from umbra_awl.core.facts.bands import bands_for
from umbra_awl.core.facts.modes import EVERY_MODE, MODE_WORDS
from umbra_awl.core.fit.compare import Candidate, RadioNeeds, compare, platforms
from umbra_awl.core.fit.report import KINDS
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import RULE, Choice, Field
from umbra_awl.desk.parts.cards.late_choices import LateChoices
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import column, scrolled, scrolled_card, words
from umbra_awl.desk.parts.wrap import WrapList
from umbra_awl.desk.radios.candidate_sheet import CandidateSheet
from umbra_awl.desk.radios.compare_weights import CompareWeights
from umbra_awl.desk.radios.hotspots import HotspotTable
from umbra_awl.desk.theme.theme import Theme


class ComparePage(QWidget):
    """The canvas page; `side` holds the needs and the explanation."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self.weights = CompareWeights(self)
        self.bench, self._theme = bench, theme
        self.needs = RadioNeeds()
        self.with_plan = True
        self.left_out: frozenset[str] = frozenset()
        outer = column(self, 6)
        self.tabs = Tabs(("Radios", "Hotspots"), self.show_table)
        self._lead = words("", "second", wrap=True)
        self.tabs.line.addWidget(self._lead, 1)
        outer.addWidget(self.tabs)
        self._canvas = QStackedWidget()
        self.sheet = CandidateSheet(theme)
        self.sheet.chosen.connect(lambda _across, _down: self._explain())
        self.sheet.weighed.connect(self.weights.weigh)
        self._canvas.addWidget(self._radios_part())
        outer.addWidget(self._canvas, 1)
        self.side = QStackedWidget()
        self.side.addWidget(self._needs_side())
        self._weighed_now: dict[str, int] = {}
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
        outer.addWidget(scrolled(self.sheet), 4)
        self._why_title = words("", "title")
        outer.addWidget(self._why_title)
        self.why = WrapList()
        self.why.setAccessibleName("Why: each point of the chosen radio, and what it needs beside it")
        outer.addWidget(self.why, 2)
        return part

    def show_table(self, at: int) -> None:
        """Show the radios (0) or the hotspots (1)."""
        if at:
            self.hotspots.refresh()
        self._canvas.setCurrentIndex(at)
        self.side.setCurrentIndex(at)
        self.tabs.mark(at)
        lead = (
            "What each radio carries, shortens and loses of this plan.",
            "Boards, computers and images that work together.",
        )
        self._lead.setText(lead[at])

    def take_focus(self) -> None:
        """Give the keyboard to the picture."""
        (self.hotspots if self._canvas.currentIndex() else self.sheet).setFocus()

    def refresh(self) -> None:
        """Compare anew, in the background; the latest wins."""
        self.card.show_fields(list(self._fields()))
        index, needs, with_plan = self.bench.index, self.needs, self.with_plan and bool(self.bench.plan.routes)
        profiles = [item for key, item in self.bench.profiles.items() if key not in self.left_out]
        self.bench.jobs.latest(
            "compare-radios", lambda: compare(index, profiles, needs, with_plan=with_plan), self._take
        )

    def _take(self, candidates: list[Candidate]) -> None:
        self.sheet.show_candidates(candidates)
        if self.weights.weighed() != self._weighed_now:
            self._weighed_now = self.weights.weighed()
            self.card.show_fields(list(self._fields()))
        self._explain()

    def _explain(self) -> None:
        self.why.clear()
        if not self.sheet.candidates:
            self._why_title.setText("Choose at least one radio")
            return
        candidate = self.sheet.candidates[self.sheet.at[0]]
        self._why_title.setText(f"{candidate.profile.name}: why")
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

    def _fields(self) -> Iterator[Field]:
        needs, profiles = self.needs, self.bench.profiles
        shown = [item for key, item in profiles.items() if key not in self.left_out]
        yield Field("Radios", f"{len(shown)} of {len(profiles)}", choices=list(self._radio_choices()))
        yield Field(
            "This plan", "fitted to each" if self.with_plan else "left aside", choices=list(self._plan_choices())
        )
        yield RULE
        modes = ", ".join(MODE_WORDS[mode] for mode in needs.modes) or "any"
        yield Field("Modes", modes, choices=[self._toggle("modes", mode, MODE_WORDS[mode]) for mode in EVERY_MODE])
        bands = bands_for(self.bench.plan.station.region, self.bench.plan.station.bands)
        spans = {(band.low_hz / 1e6, band.high_hz / 1e6): band.name for band in bands}
        named = ", ".join(spans.get(span, f"{span[0]:g}–{span[1]:g}") for span in needs.bands_mhz) or "any"
        yield Field("Bands", named, choices=[self._toggle("bands_mhz", span, name) for span, name in spans.items()])
        for label, field in (("Position", "position"), ("Texts, pictures", "data"), ("By its keys", "keypad")):
            yield Field(label, "wanted" if getattr(needs, field) else "no matter", choices=self._wanted(field))
        there = platforms(profiles.values())
        app = [Choice("no matter", partial(self.set, platform=""), not needs.platform)]
        app += [Choice(f"on {name} phones", partial(self.set, platform=name), name == needs.platform) for name in there]
        yield Field("Phone app", f"on {needs.platform} phones" if needs.platform else "no matter", choices=app)
        yield self.weights.number("Channels", "channels", needs.channels)
        yield self.weights.number("People", "people", needs.people)
        yield self.weights.number("At most, price", "most", needs.most)
        if needs.most:
            yield Field(
                "Prices",
                f"{len(needs.price)} given",
                commit=self.weights.prices,
                text=self.weights.price_text(),
                tip="Name=price, separated by commas: Tarn 16=89, Moor 4K=199",
            )
        weighed = self.weights.weighed()
        if weighed:
            said = ", ".join(f"{name} {weight}×" for name, weight in weighed.items())
            tip = (
                "Each choice counts one step more: not, a little, usual, most. Or type 0 to 3 on a row of the picture."
            )
            yield Field("What counts", said, choices=LateChoices(self.weights.weight_choices), tip=tip)

    def _radio_choices(self) -> Iterator[Choice]:
        for key, profile in self.bench.profiles.items():
            there = key not in self.left_out
            yield Choice(profile.name, partial(self._leave, key), there)

    def _leave(self, key: str) -> None:
        self.left_out = self.left_out ^ {key}
        self.refresh()

    def _plan_choices(self) -> Iterator[Choice]:
        for value, text in ((True, "fitted to each"), (False, "left aside")):
            yield Choice(text, partial(self._use_plan, value), self.with_plan == value)

    def _use_plan(self, value: bool) -> None:
        self.with_plan = value
        self.refresh()

    def _toggle(self, field: str, value: Any, text: str) -> Choice:
        now = getattr(self.needs, field)
        kept = tuple(item for item in now if item != value) if value in now else (*now, value)
        return Choice(text, partial(self.set, **{field: kept}), value in now)

    def _wanted(self, field: str) -> list[Choice]:
        now = getattr(self.needs, field)
        return [
            Choice("wanted", partial(self.set, **{field: True}), now),
            Choice("no matter", partial(self.set, **{field: False}), not now),
        ]


def _of_plan(candidate: Candidate) -> Iterator[str]:
    """How many lines of each kind the plan's fit has on it."""
    if candidate.fit is None:
        return
    for kind in KINDS:
        found = candidate.fit.report.of_kind(kind)
        if found and kind != "other mode":
            more = f" and {len(found) - 2} more" if len(found) > 2 else ""
            yield f"{kind.capitalize()}: {', '.join(line.title for line in found[:2])}{more}."
