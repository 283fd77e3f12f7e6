"""Closing the window: what is being saved is finished first, and a transfer is never cut without a word."""

from collections.abc import Callable

from PyQt6.QtCore import QObject, QTimer

from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.asking import ask

STOP = "Stop it and close"
LONGEST_MS = 15_000
_TRANSFER = (
    "{busy} Cut in the middle, the radio may hold neither memory whole; its backup brings it back. Close all the same?"
)


class Leaving(QObject):
    """Says whether the window may close now; where it may not, it is closed as soon as it may, within a bound."""

    def __init__(self, bench: Workbench, cancel: Callable[[], None], close: Callable[[], object]) -> None:
        """`cancel` stops a transfer, `close` asks the window to close again."""
        super().__init__()
        self._bench, self._cancel, self._close = bench, cancel, close
        self._waiting = self._forced = False
        self._bound = QTimer(self)
        self._bound.setSingleShot(True)
        self._bound.setInterval(LONGEST_MS)
        self._bound.timeout.connect(self._force)
        self._look = QTimer(self)
        self._look.setInterval(50)
        self._look.timeout.connect(self._go_on)

    def may_close(self) -> bool:
        """Whether nothing has to be waited for any more. Otherwise it is said what is waited for."""
        bench = self._bench
        if self._forced or not (bench.busy or bench.jobs.kept_waiting):
            self._look.stop()
            self._bound.stop()
            return True
        if bench.busy and not self._waiting and ask(None, "Close", _TRANSFER.format(busy=bench.busy), [STOP]) != STOP:
            return False
        if bench.busy:
            self._cancel()
        bench.say(
            "Stopping the transfer, then closing …" if bench.busy else "Finishing what is being saved, then closing …"
        )
        if not self._waiting:
            self._waiting = True
            self._bound.start()
            self._look.start()
        return False

    def _go_on(self) -> None:
        if not (self._bench.busy or self._bench.jobs.kept_waiting):
            self._close()

    def _force(self) -> None:
        """The bound is reached: close with what is done. What was not is still in the journal, or told at the next reading."""
        self._forced = True
        self._close()
