"""A profile of one's own: made from a similar one, checked as it is typed, with what the plan would lose on it beside."""

from functools import partial

from msgspec.structs import replace
from PyQt6.QtWidgets import QMenu, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.wording import within
from umbra_awl.core.fit.compare import tried
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.fit.report import KINDS
from umbra_awl.core.lessons.teaching import entered_by_keys
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.draft import drafts_in
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.profile_check import profile_faults
from umbra_awl.core.radio.profile_edit import from_nothing, from_similar
from umbra_awl.core.radio.taken_over import drop_part, missing_parts
from umbra_awl.core.radio.taught import TaughtKeys
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import PressButton, act, button, column, row, scrolled_card, words
from umbra_awl.desk.parts.wrap import WrapList
from umbra_awl.desk.radios.gauges import Gauges
from umbra_awl.desk.radios.own.lessons_panel import LessonsPanel
from umbra_awl.desk.radios.own.trials_panel import TrialsPanel
from umbra_awl.desk.radios.profile_files import ProfileFiles
from umbra_awl.desk.radios.profile_values import ProfileValues
from umbra_awl.desk.radios.similar_list import SimilarList
from umbra_awl.desk.theme.theme import Theme

_TEACH = (
    "Describe a radio that is not here: begin with the one most like it, then change what its sheet says. Everything is checked "
    "as you type, and beside it you see what your plan would lose on it. Its memory then goes out by a file layout, a key sheet "
    "or a card."
)


_BESIDE = "Once a profile is begun, what your plan would lose on it stands here while you type."
_VIEWS = {"what": "What it is", "keys": "Its keys, by doing", "trying": "Its limits, by trying"}


class ProfilePage(QWidget):
    """The canvas page; `side` shows the plan on the profile in the making."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self.values = ProfileValues(self)
        self.bench = bench
        self.files = ProfileFiles(self)
        self.draft: Profile | None = None
        self.kept = True
        outer = column(self, 6)
        line = row(gap=6)
        self._begin = PressButton("Begin from …")
        self._menu = QMenu(self._begin)
        self._menu.aboutToShow.connect(self._fill_menu)
        self._begin.setMenu(self._menu)
        line.addWidget(self._begin)
        self._own = PressButton("My profiles")
        self._own_menu = QMenu(self._own)
        self._own_menu.aboutToShow.connect(self._fill_own)
        self._own.setMenu(self._own_menu)
        line.addWidget(self._own)
        line.addStretch(1)
        self._keep = button("Keep", self.files.keep, "main")
        line.addWidget(self._keep)
        outer.addLayout(line)
        self._lead = words(_TEACH, "second", wrap=True)
        outer.addWidget(self._lead)
        self._fault = words("", "stop", wrap=True)
        outer.addWidget(self._fault)
        self.similar = SimilarList(bench, theme)
        self.similar.taken.connect(self._begin_like)
        outer.addWidget(self.similar, 1)
        self.card = FieldList(128)
        self._views = row(gap=2)
        self.ways = {key: button(word, partial(self.show_view, key), "segment") for key, word in _VIEWS.items()}
        for word in self.ways.values():
            self._views.addWidget(word)
        self._views.addStretch(1)
        outer.addLayout(self._views)
        self._card_room = scrolled_card(self.card)
        self.lessons, self.trials = LessonsPanel(self, theme), TrialsPanel(self)
        self.view = "what"
        for part in (self._card_room, self.lessons, self.trials):
            outer.addWidget(part, 1)
        self.side = self._side(theme)
        self._fresh = WhenChanged(self, lambda: (bench.plan, bench.profiles.own), self.refresh)
        for signal in (bench.plan_changed, bench.profiles_changed):
            signal.connect(self._fresh.check)
        self._go_on_with_draft()

    def _go_on_with_draft(self) -> None:
        """Show the draft that was changed last and not kept yet."""
        for draft in drafts_in(self.files.folder)[:1]:
            self.take_draft(draft)

    def take_draft(self, draft: Profile) -> None:
        """Go on with a draft."""
        self.draft, self.kept = draft, False
        self.refresh()

    def show_view(self, key: str) -> None:
        """Show “what” it is, its “keys” by doing, or its limits by “trying”."""
        self.view = key
        self.refresh()
        self.take_focus()

    def set_draft(self, draft: Profile) -> None:
        """Take a change of the profile in the making, and keep it beside the kept ones."""
        self.draft, self.kept = draft, False
        self.files.note_draft()
        self.refresh()

    def set_taught(self, taught: TaughtKeys) -> None:
        """Take what was learnt of its keys; what was said to be another radio's gives way to what was seen."""
        draft = self.draft
        if draft is None:
            return
        draft = drop_part(draft, "keypad") if draft.keypad is not None else draft
        draft = replace(draft, taught=taught)
        if draft.by_keys and "keypad" not in draft.ways_in:
            draft = replace(draft, ways_in=(*draft.ways_in, "keypad"))
        self.set_draft(draft)
        self.lessons.show_draft(draft, self.lessons.memory)

    def drop_draft(self, key: str) -> None:
        """Throw a draft away; a kept profile of that key stays as it is."""
        self.files.let_draft_go(key)
        if self.draft is not None and self.draft.key == key:
            self.draft = None
        self.refresh()

    def _side(self, theme: Theme) -> QWidget:
        side = QWidget()
        outer = column(side, 6)
        outer.addWidget(words("Your plan on it", "title"))
        self._summary = words("", wrap=True)
        outer.addWidget(self._summary)
        self.gauges = Gauges(theme, across=2)
        outer.addWidget(self.gauges)
        self.lost = WrapList()
        self.lost.setAccessibleName("What the plan would lose on this profile")
        outer.addWidget(self.lost, 1)
        self._room = QWidget()
        outer.addWidget(self._room, 1)
        return side

    def take_focus(self) -> None:
        """Give the keyboard to the first value, or to where one begins."""
        if self.draft is None:
            self.similar.table.setFocus()
        elif self.view == "what":
            self.card.focus_first()
        else:
            (self.lessons if self.view == "keys" else self.trials).take_focus()

    def _fill_menu(self) -> None:
        self._menu.clear()
        for profile in self.bench.profiles.values():
            act(self._menu, f"{profile.name}: {profile.summary}", partial(self.begin, profile))

    def _fill_own(self) -> None:
        self._own_menu.clear()
        own = [self.bench.profiles[key] for key in sorted(self.bench.profiles.own)]
        for profile in own:
            act(self._own_menu, f"Change {profile.name}", partial(self._edit, profile))
        for profile in own:
            act(self._own_menu, f"Throw {profile.name} away", partial(self.files.throw_away, profile))
        for draft in drafts_in(self.files.folder):
            act(self._own_menu, f"Go on with the draft {draft.name}", partial(self.take_draft, draft))
            act(self._own_menu, f"Throw the draft {draft.name} away", partial(self.drop_draft, draft.key))
        if not own:
            act(self._own_menu, "There is none yet: make one from a similar radio", self._begin.showMenu)
        self._own_menu.addSeparator()
        act(self._own_menu, "Bring a profile's file in …", self.files.ask_import)
        if self.draft is not None:
            act(self._own_menu, f"Save {self.draft.name} as a file …", self.files.ask_export)

    def _begin_like(self, similar: Profile | None) -> None:
        if similar is None:
            self._take_begun(from_nothing(self.bench.profiles))
        else:
            self.begin(similar)

    def begin(self, similar: Profile) -> None:
        """Begin a profile of one's own from a similar one."""
        self._take_begun(from_similar(similar, self.bench.profiles))

    def _take_begun(self, draft: Profile) -> None:
        self.draft, self.kept = draft, False
        self.files.note_draft()
        self.refresh()
        self.card.focus_first()

    def _edit(self, profile: Profile) -> None:
        self.draft, self.kept = profile, True
        self.refresh()

    def refresh(self) -> None:
        """Show the profile in the making, and fit the plan to it in the background."""
        draft = self.draft
        self._lead.setVisible(draft is None)
        self._keep.setVisible(draft is not None)
        chosen_of(self.ways, self.view)
        for word in self.ways.values():
            word.setVisible(draft is not None)
        for key, part in (("what", self._card_room), ("keys", self.lessons), ("trying", self.trials)):
            part.setVisible(draft is not None and self.view == key)
        self.trials.show_draft(draft)
        self.gauges.setVisible(draft is not None)
        self.lost.setVisible(draft is not None)
        self._room.setVisible(draft is None)
        self.similar.setVisible(draft is None)
        self._fault.hide()
        if draft is None:
            self._summary.setText(_BESIDE)
            self.similar.refresh()
            return
        faults = profile_faults(draft)
        if faults:
            self.lessons.wait(faults[0].text)
        self._keep.setEnabled(not faults and not self.kept)
        self._keep.setText("Kept" if self.kept else "Keep")
        self._fault.setText(faults[0].text if faults else "")
        self._fault.setVisible(bool(faults))
        similar = self.bench.profiles.get(draft.own_of)
        note = f"Made from the {similar.name}. " if similar else ""
        missing = missing_parts(draft)
        if missing:
            note += f"Not told yet: {', '.join(within(part.words) for part in missing)}. Nothing is printed or sent for those. "
        note += "" if self.kept else "A draft: it is here again next time. Keep it to use it for a radio."
        self.card.show_fields(list(self.values.fields(draft, faults)), note=note.strip())
        if not faults:
            index = self.bench.index
            self.bench.jobs.latest("draft-fit", lambda: _tried(index, draft), self._take)

    def _take(self, tried_: tuple[Fit, int]) -> None:
        made, by_keys = tried_
        self.lessons.show_draft(self.draft, made.memory)
        routes = len(self.bench.plan.routes)
        carried = len(made.memory.channels)
        learnt = self.draft is not None and self.draft.taught is not None
        keys = (
            f" {by_keys} of {counted(carried, 'memory')} can be entered by its keys as you showed them."
            if learnt
            else ""
        )
        self._summary.setText(f"It carries {carried} of {counted(routes, 'route')}.{keys}")
        self.gauges.show_gauges(made.report.gauges)
        self.lost.clear()
        for kind in KINDS:
            found = made.report.of_kind(kind)
            if found:
                self.lost.addItem(f"{kind.capitalize()}: {len(found)}")
            for line in found[:40]:
                self.lost.addItem(f"   {line.title} – {line.reason}")
        if not self.lost.count():
            self.lost.addItem("Everything fits as planned.")


def _tried(index: PlanIndex, draft: Profile) -> tuple[Fit, int]:
    """The plan on a profile in the making, and how many memories its keys are known for."""
    made = tried(index, draft)
    return made, entered_by_keys(made.memory, draft) if draft.taught is not None else 0
