"""Keys learnt by doing: one part of a memory at a time is pressed on the radio and told here, tried on another, used for all."""

from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QWidget

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.lessons.letters import letters_of, letters_text
from umbra_awl.core.lessons.parts import FIELD_WORDS, LessonPart
from umbra_awl.core.lessons.replay import fields_set
from umbra_awl.core.lessons.teaching import (
    TaughtBy,
    day_of,
    examples,
    forget,
    parts_of,
    state_of,
)
from umbra_awl.core.lessons.understood import SeenLine, UnderstoodLesson, understand
from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.taught import TaughtKeys
from umbra_awl.desk.parts.widgets import button, card, column, row, words
from umbra_awl.desk.radios.own.lesson_acts import LessonActs
from umbra_awl.desk.radios.own.lesson_table import LessonTable
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.desk.radios.profile_page import ProfilePage

_HOW = (
    "Press it once on your radio and write a line for each press: “MENU 3 5”, “▼ until −”, “0 7 6 0 0”, “hold STO 2s”, "
    "“if REPLACE?: YES”. Enter goes on."
)
_STATES = {"tried": "tried", "taught": "taught once", "": "not known"}
_NEVER_KEYED = "The key that sends is never pressed for this."


class LessonsPanel(QWidget):
    """Parts at the left, the lesson at the right."""

    def __init__(self, page: "ProfilePage", theme: Theme) -> None:
        super().__init__()
        self.acts = LessonActs(self)
        self.page, self._theme = page, theme
        self.memory: Memory | None = None
        self.profile: Profile | None = None
        self.part: LessonPart | None = None
        self.item: TaughtBy | None = None
        self.trying: TaughtBy | None = None
        self.lines: dict[str, list[SeenLine]] = {}
        outer = row(self, gap=10)
        self.list = QListWidget()
        self.list.setAccessibleName("Parts of a memory, and how far each is known")
        self.list.setMaximumWidth(theme.px(230))
        self.list.currentRowChanged.connect(self._choose)
        left = column(gap=4)
        left.addWidget(self.list, 1)
        left.addWidget(button("Its menus, photographed", self.acts.show_photo, "plain", "In a window that lies beside"))
        outer.addLayout(left, 2)
        outer.addWidget(self._lesson(theme), 5)

    def _lesson(self, theme: Theme) -> QWidget:
        frame = card()
        inner = column(frame, 6, 10)
        self.title = words("", "title", wrap=True)
        inner.addWidget(self.title)
        self.task = words("", wrap=True)
        inner.addWidget(self.task)
        self._letters_part = QWidget()
        line = row(self._letters_part, gap=6)
        self.letters, self.next_letter = QLineEdit(), QLineEdit()
        self.letters.setPlaceholderText("Keys that hold letters: 2 ABC2, 3 DEF3; empty where there are none")
        self.letters.setAccessibleName("What each letter key types, press by press")
        self.next_letter.setPlaceholderText("ends a letter")
        self.next_letter.setAccessibleName("The key that ends a letter; empty where one waits")
        self.next_letter.setMaximumWidth(theme.px(110))
        for field in (self.letters, self.next_letter):
            field.editingFinished.connect(self.acts.keep_letters)
        line.addWidget(self.letters, 1)
        line.addWidget(self.next_letter)
        inner.addWidget(self._letters_part)
        self.table = LessonTable(theme)
        self.table.typed.connect(self.understand)
        inner.addWidget(self.table, 1)
        self.found = words("", wrap=True)
        inner.addWidget(self.found)
        acts = row(gap=6)
        self.keep = button("Keep the lesson", self.acts.keep, "main")
        self.same = button("It showed this", self.acts.came_true, "main")
        self.other = button("It showed something else", self.acts.came_otherwise)
        self.none = button("Nothing is pressed then", self.acts.leave_out)
        self.drop = button("Forget this part", self.acts.forget)
        for made in (self.keep, self.same, self.other, self.none, self.drop):
            acts.addWidget(made)
        acts.addStretch(1)
        inner.addLayout(acts)
        return frame

    @property
    def taught(self) -> TaughtKeys:
        taught = self.profile.taught if self.profile is not None else None
        return taught if taught is not None else TaughtKeys()

    def show_draft(self, profile: Profile | None, memory: Memory | None) -> None:
        """Show how far the keys of a profile in the making are known; the line that is being typed stays."""
        another = self.profile is None or profile is None or profile.key != self.profile.key
        self.profile, self.memory = profile, memory
        if another:
            self.lines.clear()
            self.part = None
        self._fill_parts()
        if self.part is None and profile is not None and memory is not None:
            self.acts.go_to_next()

    def wait(self, why: str) -> None:
        """Nothing can be taught yet, for a reason."""
        self.memory = self.part = None
        self.list.clear()
        self.title.setText("First say what it is")
        self.task.setText(
            f"{why} Once its limits, bands and name length are known, you teach with memories of your plan."
        )
        self.found.setText("")
        for made in (self._letters_part, self.table, self.keep, self.same, self.other, self.none, self.drop):
            made.hide()

    def _fill_parts(self) -> None:
        parts = parts_of(self.profile) if self.profile is not None else ()
        self.list.blockSignals(True)
        while self.list.count() > len(parts):
            self.list.takeItem(self.list.count() - 1)
        for at, part in enumerate(parts):
            item = self.list.item(at)
            if item is None:
                item = QListWidgetItem()
                self.list.addItem(item)
            item.setData(Qt.ItemDataRole.UserRole, part)
            state, day = state_of(self.taught, part), day_of(self.taught, part)
            item.setText(f"{part.title}\n{_STATES[state]} {day}".rstrip())
            item.setForeground(self._theme.color({"tried": "ok", "taught": "ink"}.get(state, "ink2")))
        self.list.blockSignals(False)

    def _choose(self, at: int) -> None:
        item = self.list.item(at)
        if item is not None:
            self.open(item.data(Qt.ItemDataRole.UserRole))

    def open(self, part: LessonPart, item: TaughtBy | None = None) -> None:
        """Teach a part, with a memory that tells most of it, or with the one given."""
        self._keep_lines()
        memory, profile = self.memory, self.profile
        if memory is None or profile is None:
            return
        self.part, self.trying = part, None
        offered = examples(part, memory, profile)
        self.item = item or (offered[0] if offered else None)
        at = next(at for at, one in enumerate(parts_of(profile)) if one == part)
        if self.list.currentRow() != at:
            self.list.blockSignals(True)
            self.list.setCurrentRow(at)
            self.list.blockSignals(False)
        self.table.show()
        self.table.begin(part.fields, self.lines.get(part.key, ()))
        self.show_lesson()

    def _keep_lines(self) -> None:
        if self.part is not None and self.trying is None:
            self.lines[self.part.key] = self.table.lines()

    def show_lesson(self) -> None:
        part = self.part
        if part is None:
            return
        self.title.setText(f"{part.title}: {'does it come out?' if self.trying else 'press it once, say what you see'}")
        self.task.setText(self._task(part))
        self._letters_part.setVisible("name" in part.fields and self.trying is None)
        self.letters.setText(letters_text(self.taught.letters))
        self.next_letter.setText(self.taught.next_letter)
        for made, shown in (
            (self.keep, self.trying is None),
            (self.same, self.trying is not None),
            (self.other, self.trying is not None),
            (self.none, self.trying is None and bool(part.none[0])),
            (self.drop, bool(state_of(self.taught, part))),
        ):
            made.setVisible(shown)
        self.understand()

    def _task(self, part: LessonPart) -> str:
        item = self.trying or self.item
        if part.key == "begin":
            return f"From whatever it shows, until a memory can be entered: no menu open, one receiver, free tuning. {_HOW}"
        if item is None:
            return "No memory of your plan has this. It is taught when one does."
        said = ", ".join(
            f"{FIELD_WORDS[field]} {item.values.text(field)}" for field in part.fields if _told(item, field)
        )
        name = f"Memory {item.channel.number}, {item.channel.name or format_mhz(item.channel.rx_hz)}"
        if self.trying is not None:
            return f"{name}: {said}. Press these keys. Does the display show this, line by line?"
        return f"{name}: {said}. {_HOW} {_NEVER_KEYED}"

    def understand(self) -> None:
        """Say what the typed lines are."""
        if self.trying is not None or self.part is None:
            return
        made = self.understood()
        self.keep.setEnabled(bool(made is not None and made.steps and not made.fault))
        if made is None:
            return
        self.table.show_understood(made.lines)
        unset = ", ".join(FIELD_WORDS[field] for field in made.unset)
        left = (
            f"Nothing here sets {unset} yet. Write a value that is chosen as “key until what is shown”."
            if unset
            else ""
        )
        self.found.setText(made.fault or (left if made.steps else ""))

    def understood(self) -> UnderstoodLesson | None:
        part, item, profile = self.part, self.item, self.profile
        if part is None or profile is None or item is None:
            return None
        others = forget(self.taught, part)
        elsewhere = fields_set(others, item.channel.mode)
        return understand(self.table.lines(), item.values, part, letters_of(self.taught), elsewhere)

    def take_focus(self) -> None:
        """Give the keyboard to the line that is typed next; where nothing can be taught yet, to where it is said what it is."""
        if self.part is None:
            self.page.ways["what"].setFocus()
        else:
            self.table.begin_typing()


def _told(item: TaughtBy, field: str) -> bool:
    """What is said of a memory to be entered: each thing once."""
    double = {"tone_kind", "tone_tx", "code_tx", "mode_width", "mode_slot"}
    return bool(item.values.text(field)) and field not in double
