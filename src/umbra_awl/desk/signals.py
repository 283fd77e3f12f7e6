"""Ctrl C and a request to end close the window as its own button does: every edit is in the journal already."""

import contextlib
import signal
import socket
from collections.abc import Callable
from types import FrameType

from PyQt6.QtCore import QObject, QSocketNotifier
from PyQt6.sip import voidptr

_ENDING = (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)


class Signals(QObject):
    """Turns the system's signals into a call on the interface thread; the second one ends at once."""

    def __init__(self, close: Callable[[], object], quit_now: Callable[[], object]) -> None:
        super().__init__()
        self._close, self._quit = close, quit_now
        self._asked = False
        self._ours, self._theirs = socket.socketpair()
        self._ours.setblocking(False)
        self._theirs.setblocking(False)
        self._notifier = QSocketNotifier(voidptr(self._ours.fileno()), QSocketNotifier.Type.Read, self)
        self._notifier.activated.connect(self._called)
        signal.set_wakeup_fd(self._theirs.fileno(), warn_on_full_buffer=False)
        for one in _ENDING:
            signal.signal(one, _noted)

    def _called(self) -> None:
        with contextlib.suppress(BlockingIOError):
            self._ours.recv(64)
        if self._asked:
            self._quit()
            return
        self._asked = True
        self._close()

    def let_go(self) -> None:
        """Give the signals back."""
        signal.set_wakeup_fd(-1)
        for one in _ENDING:
            signal.signal(one, signal.SIG_DFL)
        self._notifier.setEnabled(False)
        self._ours.close()
        self._theirs.close()


def _noted(_number: int, _frame: FrameType | None) -> None:
    """The byte in the socket is what counts."""
