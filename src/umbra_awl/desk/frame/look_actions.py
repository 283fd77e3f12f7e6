"""How the window looks and what is taken from it: theme, text size, measures, the clipboard, the words used here.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Iterable
from typing import TYPE_CHECKING

from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.keep.diary import Diary
    from umbra_awl.core.logbook.model import Entry


class LookActions:
    """What can be done with the look of the window."""

    def __init__(self, bench: Workbench, theme: Theme, settings: Settings, window: QWidget) -> None:
        self._bench, self._theme, self._settings, self._window = bench, theme, settings, window
        self.diary: Diary | None = None

    def toggle_theme(self) -> None:
        """Change between light and dark, and remember it."""
        self._theme.toggle()
        self._settings.keep(theme=self._theme.choice)

    def rescale(self, steps: int) -> None:
        """Make the text larger or smaller, and remember it."""
        self._theme.rescale(steps)
        self._settings.keep(scale=self._theme.scale)

    def measure(self, field: str, options: Iterable[str]) -> None:
        """Tell distances, hours or numbers in the next of some ways, and remember it."""
        ways = list(options)
        now = getattr(self._theme.measures, field)
        wanted = ways[(ways.index(now) + 1) % len(ways)]
        self._theme.measure(**{field: wanted})
        self._settings.keep(**{field: wanted})

    def copy_diary(self) -> None:
        """Put what happened lately on the clipboard: no IDs, no positions, no secrets are in it."""
        if self.diary is None:
            self._bench.say("Nothing was written down in this session.")
        elif self._put(self.diary.text()):
            self._bench.say("What happened lately is on the clipboard, without IDs, positions or secrets.")

    def copy_shown(self) -> None:
        """Put what is selected, or the value that has the keyboard, on the clipboard."""
        from umbra_awl.desk.copying import copied_from

        text = copied_from(self._window.focusWidget())
        if not text or not self._put(text):
            self._bench.say("Nothing is selected here that could be copied.")
            return
        lines = text.count("\n") + 1
        self._bench.say("Copied." if lines == 1 else f"{counted(lines, 'line')} copied.")

    @staticmethod
    def _put(text: str) -> bool:
        clipboard = QGuiApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(text)
        return clipboard is not None

    def show_changed(self, entries: "tuple[Entry, ...]") -> None:
        """Show what was changed last of plan, radios and hotspots, and what failed by the log's entries."""
        from umbra_awl.desk.frame.sheets.changed_sheet import ChangedSheet

        ChangedSheet(self._window, self._bench, self._theme, entries).exec()

    def show_words(self) -> None:
        """Show what the words mean that are used here in a sense of their own."""
        from umbra_awl.desk.frame.sheets.glossary import Glossary

        Glossary(self._window).exec()
