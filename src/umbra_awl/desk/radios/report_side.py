"""Beside the memory: the radio's card, what did not fit as planned, and what can be decided about each line of it."""

from collections.abc import Iterator
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QListWidgetItem, QWidget

from umbra_awl.core.fit.choices import decisions, leave_all, name_on_radio
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.fit.report import Line
from umbra_awl.core.modes.table import KINDS_OF
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, drop_item, set_fields
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.plan.parts import RADIOS
from umbra_awl.core.radio.profile import WAY_WORDS, Profile
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Act, Choice, Commit, Field
from umbra_awl.desk.parts.cards.late_choices import LateChoices
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.parts.wrap import WrapList
from umbra_awl.desk.theme.theme import Theme

MOST_LINES = 300
_TOUCH_ORDER = {"disconnect": 0, "echo": 1, "local": 2, "dial": 3}
_DROPPABLE = frozenset({"receive-only", "shortened", "told apart", "characters"})
_KIND_WORDS = {
    "left out": "Left out",
    "by choice": "Left out by choice",
    "receive-only": "Receive-only",
    "split": "Split",
    "cut": "Cut by choice",
    "told apart": "Told apart",
    "characters": "Characters the display lacks",
    "shortened": "Shortened",
    "made duplex": "Made duplex, offset 0",
    "set": "Set for the radio",
    "other mode": "Of another mode",
}

_REMOVED = "The radio itself keeps what it holds, and its backups stay."


class ReportSide(QWidget):
    """Follows the chosen radio."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        self._theme = theme
        self._chosen: Line | None = None
        self._lines: dict[int, Line] = {}
        outer = column(self, 6)
        head = row(gap=6)
        self._title = words("", "title")
        head.addWidget(self._title, 1)
        self._remove = button("Remove", self.remove, tip="Take this radio out of the plan")
        head.addWidget(self._remove)
        outer.addLayout(head)
        self.card = FieldList(84)
        outer.addWidget(self.card)
        outer.addWidget(words("How the plan fits", "title"))
        self.report = WrapList()
        self.report.setAccessibleName("What was left out, held back, split or shortened, and why")
        self.report.currentRowChanged.connect(self._choose)
        self.report.itemActivated.connect(self._open_line)
        self.report.itemClicked.connect(self._open_line)
        outer.addWidget(self.report, 1)
        self.decide = FieldList(84)
        outer.addWidget(self.decide)
        self._fresh = WhenChanged(
            self, lambda: (bench.worked.results, bench.radio, bench.plan.station, bench.profiles.own), self.refresh
        )
        for signal in (bench.results_changed, bench.radio_changed, bench.plan_changed, bench.profiles_changed):
            signal.connect(self._fresh.check)

    def refresh(self) -> None:
        """Show the chosen radio."""
        fit, radio = self._bench.fit, self._bench.radio
        profile = self._bench.profiles.get(radio.profile) if radio is not None else None
        if radio is None or profile is None or fit is None:
            self._show_nothing(radio, profile)
            return
        self._title.setText(radio.name)
        self._remove.show()
        self.card.show_fields(self._fields(radio, profile))
        self._fill_report(fit)

    def _show_nothing(self, radio: OwnedRadio | None, profile: Profile | None) -> None:
        self._title.setText("" if profile is not None else "No radio yet" if radio is None else radio.name)
        self._remove.setVisible(radio is not None)
        note = "Add a radio you own, and the plan is fitted to it: names cut to its display, inside its limits."
        if radio is not None and profile is None:
            note = f"There is no profile “{radio.profile}” here. Bring its file in at Own profile, or choose another."
        elif profile is not None:
            note = "Fitting …"
        self.card.show_fields((), note=note)
        self.report.clear()
        self._lines = {}
        self._show_decisions()

    def _fields(self, radio: OwnedRadio, profile: Profile) -> list[Field]:
        people = [
            Choice(
                item.call or item.name or item.key,
                partial(self._bench.do, self._for_whom(radio, item.key)),
                item.key == radio.identity,
            )
            for item in self._bench.plan.station.identities
        ]
        identity = self._bench.index.owners.identity_of(radio)
        length = f"{profile.display.length} characters{', capitals' if profile.display.upper else ''}"
        ways = " or ".join(WAY_WORDS[way] for way in profile.ways_in)
        return [
            Field("Name", radio.name, commit=self._rename(radio), text=radio.name),
            Field("For whom", identity.call if identity else "nobody", True, choices=people),
            Field("Profile", f"{profile.name}, {length}, by {ways}", tip=profile.summary),
            *self._one_touch(radio, profile),
        ]

    def _one_touch(self, radio: OwnedRadio, profile: Profile) -> list[Field]:
        """What the one-touch key calls: a disconnect, the echo test, whatever DMR destination."""
        if not profile.extras.one_touch:
            return []
        there = self._bench.index.destinations

        def choices() -> Iterator[Choice]:
            yield Choice("nothing", partial(self._bench.do, self._touch(radio, "", "nothing")), not radio.one_touch)
            suits = [item for item in there.values() if item.kind in KINDS_OF["dmr"] and self._is_dmr(item.network)]
            for item in sorted(suits, key=lambda one: _TOUCH_ORDER.get(one.kind, 9)):
                edit = self._touch(radio, item.key, item.name)
                yield Choice(item.name, partial(self._bench.do, edit), item.key == radio.one_touch)

        now = there.get(radio.one_touch)
        shown = now.name if now is not None else "nothing"
        return [
            Field(
                "Call key",
                shown,
                choices=LateChoices(choices),
                tip="A key that calls one contact, whatever the channel",
            )
        ]

    def _is_dmr(self, network: str) -> bool:
        found = self._bench.index.networks.get(network)
        return found is not None and found.mode == "dmr"

    @staticmethod
    def _touch(radio: OwnedRadio, key: str, name: str) -> Edit:
        return set_fields(RADIOS, radio.key, f"Call key of {radio.name}: {name}", one_touch=key)

    @staticmethod
    def _for_whom(radio: OwnedRadio, key: str) -> Edit:
        return set_fields(RADIOS, radio.key, f"Program {radio.name} for {key}", identity=key)

    def _rename(self, radio: OwnedRadio) -> Commit:
        def commit(text: str) -> str:
            if not text:
                return "A radio needs a name."
            self._bench.do(set_fields(RADIOS, radio.key, f"Call {radio.name} {text}", name=text))
            return ""

        return commit

    def _fill_report(self, fit: Fit) -> None:
        before = self._chosen
        self.report.clear()
        self._lines = {}
        for kind, found in fit.report.by_kind().items():
            self.report.addItem(self._head_item(f"{_KIND_WORDS[kind]}: {len(found)}"))
            for line in found[:MOST_LINES]:
                self._lines[self.report.count()] = line
                self.report.addItem(QListWidgetItem(f"{line.title} – {line.reason}"))
            if len(found) > MOST_LINES:
                self.report.addItem(f"… and {len(found) - MOST_LINES} more")
        if not self.report.count():
            self.report.addItem("Everything fits as planned.")
        self._choose_again(before)

    def _choose_again(self, before: Line | None) -> None:
        """Stay at the line that was chosen, if it is still there."""
        self._chosen = None
        at = next((place for place, line in self._lines.items() if before is not None and line.key == before.key), -1)
        if before is not None and before.key and at >= 0:
            self.report.setCurrentRow(at)
        self._show_decisions()

    def _head_item(self, text: str) -> QListWidgetItem:
        item = QListWidgetItem(text)
        item.setFont(self._theme.font(13, weight=600))
        item.setFlags(Qt.ItemFlag.ItemIsEnabled)
        return item

    def _choose(self, at: int) -> None:
        self._chosen = self._lines.get(at)
        self._show_decisions()

    def _show_decisions(self) -> None:
        """What can be decided about the chosen line."""
        line, radio = self._chosen, self._bench.radio
        self.decide.setVisible(line is not None)
        if line is None or radio is None:
            return
        acts = [
            Act(item.label, partial(self._bench.do, item.edit)) for item in decisions(self._bench.index, radio, line)
        ]
        alike = [item for item in self._lines.values() if item.kind == line.kind]
        if acts and len(alike) > 1 and line.kind in _DROPPABLE:
            every = leave_all(radio, alike)
            acts.append(Act(every.label, partial(self._bench.do, every.edit)))
        naming = line.key in self._bench.index.routes and line.kind in {
            "shortened",
            "told apart",
            "characters",
            "receive-only",
        }
        fields = [self._name_field(radio, line)] if naming else []
        self.decide.show_fields(fields, acts, note="" if acts or fields else "There is nothing to decide here.")

    def _name_field(self, radio: OwnedRadio, line: Line) -> Field:
        own = next((item.name for item in radio.names if item.route == line.key), "")

        def commit(text: str) -> str:
            profile = self._bench.profiles.get(radio.profile)
            if profile is None:
                return "The radio has no profile."
            try:
                edit = name_on_radio(radio, line.key, text, profile.display.rules)
            except EditRefused as error:
                return str(error)
            self._bench.do(edit)
            return ""

        tip = "A name for this route on this radio only; empty takes the usual one again"
        return Field("Name here", own or line.title, True, commit=commit, text=own or line.title, tip=tip)

    def _open_line(self, item: QListWidgetItem) -> None:
        line = self._lines.get(self.report.row(item))
        route = self._bench.index.routes.get(line.key) if line is not None else None
        if route is not None:
            self._bench.select(Selection(route.service, route.destination, route.slot))

    def remove(self) -> None:
        """Take the chosen radio out of the plan."""
        radio = self._bench.radio
        if radio is not None:
            self._bench.do_told(drop_item(RADIOS, radio.key, f"Remove the radio {radio.name}"), _REMOVED)
