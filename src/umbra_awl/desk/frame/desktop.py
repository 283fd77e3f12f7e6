"""What a desktop program has besides its pages: the full menu, help, files dropped on it, a menu under the pointer, its size."""

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, QObject, QPoint
from PyQt6.QtGui import QContextMenuEvent, QDropEvent
from PyQt6.QtWidgets import QApplication, QLineEdit, QPlainTextEdit, QWidget

from umbra_awl.desk.stages import TITLES

if TYPE_CHECKING:
    from umbra_awl.desk.frame.window import MainWindow

_SEARCHES = ("filter", "search", "find", "look for")
_LEAST_WIDE, _LEAST_HIGH = 960, 640


class Desktop(QObject):
    """Serves one window. What it shows is imported when it is first shown."""

    def __init__(self, window: "MainWindow") -> None:
        super().__init__(window)
        self._window = window
        window.setAcceptDrops(True)
        window.installEventFilter(self)
        wide, high = window.settings.kept.size
        if wide >= _LEAST_WIDE and high >= _LEAST_HIGH:
            window.resize(wide, high)
        add = window.commands.add
        add("menu", "Menu of everything", self.open_menu, "F10", menu="Help")
        add("help", "Help for this page", self.show_help, "F1", menu="Help")
        add("page-search", "Search on this page", self.search_page, "Ctrl+F", menu="Edit")
        add("window-settings", "Settings", self.show_settings, "Ctrl+,", menu="View")
        add("full-screen", "Full screen, or back", self.toggle_full, "F11", menu="View")
        add("close", "Close the window", window.close, "Ctrl+W", menu="Plan")
        add("quit", "Quit", window.close, "Ctrl+Q", menu="Plan")

    def open_menu(self) -> None:
        """Open the menu of every command."""
        from umbra_awl.desk.frame.full_menu import full_menu

        window = self._window
        at = window.top.mapToGlobal(window.top.rect().bottomLeft())
        full_menu(window, window.bench, window.commands, window.icons).popup(at)

    def show_help(self) -> None:
        """Show the help of the page that is open."""
        from umbra_awl.desk.frame.sheets.help_sheet import HelpSheet

        window = self._window
        stage = window.stages.current
        page = window.stages[stage].pages.name if stage else ""
        HelpSheet(window, window.commands, stage, TITLES.get(stage, ""), page).exec()

    def show_settings(self) -> None:
        """Show the settings of the window."""
        from umbra_awl.desk.frame.sheets.settings_sheet import SettingsSheet

        window = self._window
        SettingsSheet(window, window.bench, window.theme, window.settings).exec()

    def search_page(self) -> None:
        """Give the keyboard to the search of this page; where it has none, to the one for everything."""
        canvas = self._window.canvas.currentWidget()
        fields = canvas.findChildren(QLineEdit) if canvas is not None else []
        named = ((item, f"{item.accessibleName()} {item.placeholderText()}".casefold()) for item in fields)
        found = next(
            (item for item, text in named if item.isVisible() and any(word in text for word in _SEARCHES)), None
        )
        if found is None:
            self._window.begin_finding()
        else:
            found.setFocus()
            found.selectAll()

    def toggle_full(self) -> None:
        """Take the whole screen, or give it back."""
        (self._window.showNormal if self._window.isFullScreen() else self._window.showFullScreen)()

    def eventFilter(self, _thing: QObject | None, event: QEvent | None) -> bool:
        """Files that are dropped, a menu where none of its own is, and the size to come back to."""
        if event is None:
            return False
        if event.type() in {QEvent.Type.DragEnter, QEvent.Type.Drop} and isinstance(event, QDropEvent):
            return self._dropped(event)
        if event.type() == QEvent.Type.ContextMenu and isinstance(event, QContextMenuEvent):
            by_keys = event.reason() == QContextMenuEvent.Reason.Keyboard
            return self._menu_at(event.globalPos(), QApplication.focusWidget() if by_keys else None)
        if event.type() == QEvent.Type.Close and not self._window.isFullScreen():
            self._window.settings.keep(size=(self._window.width(), self._window.height()))
        return False

    def _menu_at(self, at: QPoint, held: QWidget | None) -> bool:
        """The acts of the thing under the pointer or the keyboard, and of this page; a text field has the toolkit's own menu."""
        window, thing = self._window, held or QApplication.widgetAt(at)
        if not window.stages.current or isinstance(thing, QLineEdit | QPlainTextEdit):
            return False
        from umbra_awl.desk.frame.full_menu import page_menu
        from umbra_awl.desk.parts.pointed import acts_of

        acts = acts_of(thing, at)
        page_menu(window, window.bench, window.commands, TITLES[window.stages.current], acts).popup(at)
        return True

    def _dropped(self, event: QDropEvent) -> bool:
        """Take files of this machine."""
        data = event.mimeData()
        paths = [Path(url.toLocalFile()) for url in (data.urls() if data is not None else []) if url.isLocalFile()]
        if not paths:
            return False
        event.acceptProposedAction()
        if event.type() == QEvent.Type.Drop:
            self.take_files(paths)
        return True

    def take_files(self, paths: list[Path]) -> None:
        """Bring files to where they belong."""
        from umbra_awl.desk.frame.plans.dropping import drop

        window = self._window
        for path in paths:
            drop(window, path, window.plans.open, window.hands.look_into)
