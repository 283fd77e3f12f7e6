"""A profile of one's own: made from a similar one, checked as it is typed, with what the plan would lose on it beside."""

from collections.abc import Callable, Iterator
from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from umbra_awl.core.fit.compare import tried
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.fit.report import KINDS
from umbra_awl.core.radio.draft import drafts_in
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.profile_check import ProfileFault, profile_faults
from umbra_awl.core.radio.profile_edit import from_nothing, from_similar, printed, set_value, values_of
from umbra_awl.core.radio.taken_over import PARTS, drop_part, missing_parts, offered_parts, take_part
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Choice, Field
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import PressButton, act, button, column, row, scrolled_card, words
from umbra_awl.desk.parts.wrap import WrapList
from umbra_awl.desk.radios.gauges import Gauges
from umbra_awl.desk.radios.profile_files import ProfileFiles
from umbra_awl.desk.radios.similar_list import SimilarList
from umbra_awl.desk.theme.theme import Theme

_TEACH = (
    "Describe a radio that is not here: begin with the one most like it, then change what its sheet says. Everything is checked "
    "as you type, and beside it you see what your plan would lose on it. Its memory then goes out by a file layout, a key sheet "
    "or a card."
)


_BESIDE = "Once a profile is begun, what your plan would lose on it stands here while you type."
_PARTS_AT = 2
"""Behind its name and its line stands what is not told yet."""


class ProfilePage(QWidget):
    """The canvas page; `side` shows the plan on the profile in the making."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
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
        self._card_room = scrolled_card(self.card)
        outer.addWidget(self._card_room, 1)
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
        else:
            self.card.focus_first()

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
        self._card_room.setVisible(draft is not None)
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
        self._keep.setEnabled(not faults and not self.kept)
        self._keep.setText("Kept" if self.kept else "Keep")
        self._fault.setText(faults[0].text if faults else "")
        self._fault.setVisible(bool(faults))
        similar = self.bench.profiles.get(draft.own_of)
        note = f"Made from the {similar.name}. " if similar else ""
        missing = missing_parts(draft)
        if missing:
            note += f"Not told yet: {', '.join(part.words.lower() for part in missing)}. Nothing is printed or sent for those. "
        note += "" if self.kept else "A draft: it is here again next time. Keep it to use it for a radio."
        self.card.show_fields(list(self._fields(draft, faults)), note=note.strip())
        if not faults:
            index = self.bench.index
            self.bench.jobs.latest("draft-fit", lambda: tried(index, draft), self._take)

    def _fields(self, draft: Profile, faults: list[ProfileFault]) -> Iterator[Field]:
        wrong = {fault.field for fault in faults}
        similar = self.bench.profiles.get(draft.own_of)
        for at, value in enumerate(values_of(draft)):
            if at == _PARTS_AT and similar is not None:
                yield from self._part_fields(draft, similar)
            tone = "stop" if any(name.startswith(value.field) for name in wrong) else ""
            shown = printed(draft, value)
            if value.options:
                choices = [
                    Choice(text, partial(self._choose, value.field, key), key in shown.split(", "))
                    for key, text in value.options.items()
                ]
                words_ = ", ".join(value.options.get(item, item) for item in shown.split(", ") if item) or "none"
                yield Field(value.label, words_, tone=tone, choices=choices, tip=value.tip)
            else:
                yield Field(value.label, shown or "–", True, tone, self._commit(value.field), text=shown, tip=value.tip)

    def _part_fields(self, draft: Profile, similar: Profile) -> Iterator[Field]:
        """What may be the same as on the similar radio, part by part."""
        missing, offered = missing_parts(draft), offered_parts(draft, similar)
        for part in PARTS:
            told = part not in missing
            if not told and part not in offered:
                continue
            same = part.field in draft.confirmed
            shown = f"the same as on the {similar.name}" if same else "described" if told else "not told"
            choices = [
                Choice("not told", partial(self._part, drop_part, part.field), not told),
                Choice(f"the same as on the {similar.name}", partial(self._part, take_part, part.field, similar), same),
            ]
            yield Field(part.words, shown, tone="" if told else "brass", choices=choices, tip=f"For {part.needed}")

    def _part(self, change: Callable[..., Profile], field: str, similar: Profile | None = None) -> None:
        if self.draft is not None:
            given = (self.draft, field) if similar is None else (self.draft, similar, field)
            self.draft, self.kept = change(*given), False
            self.files.note_draft()
            self.refresh()

    def _commit(self, field: str) -> Callable[[str], str]:
        def commit(text: str) -> str:
            return self._change(field, text)

        return commit

    def _choose(self, field: str, key: str) -> None:
        fault = self._change(field, key)
        if fault:
            self.bench.say(fault, "stop")

    def _change(self, field: str, text: str) -> str:
        """Set a value of the draft; the reason when it is none."""
        if self.draft is None:
            return ""
        try:
            self.draft = set_value(self.draft, field, text)
        except ValueError as error:
            return str(error)
        self.kept = False
        self.files.note_draft()
        self.refresh()
        return ""

    def _take(self, made: Fit) -> None:
        routes = len(self.bench.plan.routes)
        carried = len(made.memory.channels)
        self._summary.setText(f"It carries {carried} of {routes} routes.")
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
