"""What is done with a lesson: kept, tried on another memory, noted, corrected, forgotten; and which comes next."""

from typing import TYPE_CHECKING

from umbra_awl.core.lessons.letters import parse_letters
from umbra_awl.core.lessons.parts import FIELD_WORDS, LessonPart
from umbra_awl.core.lessons.teaching import (
    TaughtBy,
    foretold,
    forget,
    keep_lesson,
    left_out,
    next_lesson,
    note_tried,
    parts_of,
    state_of,
)
from umbra_awl.core.lessons.understood import SeenLine
from umbra_awl.desk.radios.own.menu_photo import MenuPhoto

if TYPE_CHECKING:
    from umbra_awl.desk.radios.own.lessons_panel import LessonsPanel


_ALL = "Every memory of your plan can be entered by what you showed. Its key sheet is at Transfer, Paper."


class LessonActs:
    """Does it for a panel."""

    def __init__(self, owner: "LessonsPanel") -> None:
        self._panel = owner

    def show_photo(self) -> None:
        """Lay the photograph of its menus beside, or choose one."""
        page = self._panel.page
        if page.draft is not None:
            MenuPhoto(page, page.bench, page.files.folder, page.draft.key, page.draft.name).show()

    def keep(self) -> None:
        part, item, made = self._panel.part, self._panel.item, self._panel.understood()
        if part is None or item is None or made is None or made.fault or not made.steps:
            return
        day = self._panel.page.bench.clock.today().isoformat()
        self._panel.lines.pop(part.key, None)
        taught = keep_lesson(self._panel.taught, part, item.channel.mode, made.steps, item.values, day)
        self._panel.page.set_taught(taught)
        self._panel.table.begin(part.fields)
        self._try_on_another(part, item)

    def _try_on_another(self, part: LessonPart, first: TaughtBy) -> None:
        assert self._panel.memory is not None
        assert self._panel.profile is not None
        told = (
            foretold(self._panel.taught, part, self._panel.memory, self._panel.profile, first) if part.fields else None
        )
        if told is None:
            self.go_to_next()
            return
        self._panel.trying, steps = told
        self._panel.table.foretell(steps)
        self._panel.found.setText("")
        self._panel.show_lesson()
        self._panel.same.setFocus()

    def came_true(self) -> None:
        part, trying = self._panel.part, self._panel.trying
        if part is not None and trying is not None:
            day = self._panel.page.bench.clock.today().isoformat()
            self._panel.page.set_taught(note_tried(self._panel.taught, part, trying.channel.mode, trying.values, day))
            self.go_to_next()

    def came_otherwise(self) -> None:
        """It is a lesson with that memory: what came out otherwise is corrected, and kept beside the first."""
        part, trying = self._panel.part, self._panel.trying
        if part is not None and trying is not None:
            lines = [SeenLine(keys, "" if shows == "–" else shows) for keys, shows, _said in self._panel.table.lines()]
            self._panel.lines[part.key] = lines
            self._panel.trying = self._panel.part = None
            self._panel.open(part, trying)
            self._panel.table.begin_typing()

    def go_to_next(self) -> None:
        """Go to what most memories wait for."""
        assert self._panel.memory is not None
        assert self._panel.profile is not None
        self._panel.trying = None
        begin = parts_of(self._panel.profile)[0]
        wanted = next_lesson(self._panel.memory, self._panel.profile)
        if not state_of(self._panel.taught, begin):
            self._panel.open(begin)
        elif wanted is not None:
            self._panel.open(wanted.part, wanted.item)
            waiting = f"{wanted.waiting} memor{'y waits' if wanted.waiting == 1 else 'ies wait'} for it."
            self._panel.found.setText(f"{wanted.why} {waiting}")
        else:
            self._panel.open(self._panel.part or begin)
            self._panel.found.setText(_ALL)
        self._panel.table.begin_typing()

    def leave_out(self) -> None:
        if self._panel.part is not None:
            day = self._panel.page.bench.clock.today().isoformat()
            field, value = self._panel.part.none
            self._panel.page.set_taught(left_out(self._panel.taught, self._panel.part, day))
            self._panel.page.bench.say(f"Where {FIELD_WORDS[field]} is {value}, nothing is pressed.")
            self.go_to_next()

    def forget(self) -> None:
        if self._panel.part is not None:
            self._panel.page.set_taught(forget(self._panel.taught, self._panel.part))
            self._panel.open(self._panel.part)

    def keep_letters(self) -> None:
        try:
            keys = parse_letters(self._panel.letters.text())
        except ValueError as error:
            self._panel.found.setText(str(error))
            return
        moved = self._panel.next_letter.text().strip()
        taught = self._panel.taught
        if (keys, moved) != (taught.letters, taught.next_letter):
            from msgspec.structs import replace

            self._panel.page.set_taught(replace(taught, letters=keys, next_letter=moved))
            self._panel.understand()
