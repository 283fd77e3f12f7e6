"""Long work while somebody looks elsewhere: the title says that it runs and that it has ended, the desktop is told once.

The desktop's notices are those of the freedesktop.org Desktop Notifications Specification; where there is none, nothing is said.
"""

from collections.abc import Callable
from typing import TYPE_CHECKING, cast

from PyQt6.QtCore import QEvent, QMetaType, QObject
from PyQt6.QtWidgets import QApplication

if TYPE_CHECKING:
    from umbra_awl.desk.frame.window import MainWindow

LONG_S = 5.0
_STAYS_MS = 10_000
RUNS, ENDED = "Working … ", "Done: "


def tell_desktop(head: str, text: str) -> bool:
    """Show a notice of the desktop; False where there is no desktop that shows any."""
    from PyQt6.QtDBus import QDBusArgument, QDBusConnection, QDBusMessage

    bus = QDBusConnection.sessionBus()
    if not bus.isConnected():
        return False
    replaces, actions = QDBusArgument(), QDBusArgument()
    replaces.add(0, cast("int", QMetaType.Type.UInt.value))
    actions.add([], cast("int", QMetaType.Type.QStringList.value))
    name = "org.freedesktop.Notifications"
    call = QDBusMessage.createMethodCall(name, "/org/freedesktop/Notifications", name, "Notify")
    call.setArguments(["Umbra Awl", replaces, "umbra-awl", head, text, actions, {}, _STAYS_MS])
    return bus.send(call)


class Background(QObject):
    """Follows a window's long work. `tell` shows a notice."""

    def __init__(self, window: "MainWindow", tell: Callable[[str, str], object] = tell_desktop) -> None:
        super().__init__(window)
        self._window, self.tell = window, tell
        self._last = ""
        window.bench.said.connect(self._heard)
        window.bench.jobs.long_began.connect(lambda: self._head(RUNS))
        window.bench.jobs.long_ended.connect(self._ended)
        window.installEventFilter(self)

    def _heard(self, text: str, _kind: str) -> None:
        self._last = text

    def _head(self, head: str) -> None:
        """Put a word in front of the title, in place of the one that may be there."""
        plain = self._window.windowTitle().removeprefix(RUNS).removeprefix(ENDED)
        self._window.setWindowTitle(f"{head}{plain}")

    def _ended(self, seconds: float) -> None:
        """Long work has ended: said where nobody looks at the window."""
        elsewhere = not self._window.isActiveWindow() and seconds >= LONG_S
        self._head(ENDED if elsewhere else "")
        if elsewhere:
            QApplication.alert(self._window)
            self.tell("Umbra Awl has done", self._last or "What was under way has ended.")

    def eventFilter(self, _thing: QObject | None, event: QEvent | None) -> bool:
        """Whoever comes back has seen it."""
        if (
            event is not None
            and event.type() == QEvent.Type.WindowActivate
            and self._window.windowTitle().startswith(ENDED)
        ):
            self._head("")
        return False
