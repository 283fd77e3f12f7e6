"""One long thing at a time in the background: the window is told when it begins, how it ended, and why it failed."""

from collections.abc import Callable
from functools import partial
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.transfer.errors import TransferError
from umbra_awl.desk.held.workbench import Workbench


class LongJob(QObject):
    """Base of what the pages beside the cable do: `running`, what `fault` there was, what came of it (`success`)."""

    changed = pyqtSignal()

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self.bench = bench
        self.running = False
        self.fault = self.success = ""

    def _run(self, busy: str, work: Callable[[], Any], done: Callable[[Any], None]) -> None:
        """Do something long; `busy` says why nothing else may be done to the plan's file meanwhile."""
        self.running, self.fault, self.success = True, "", ""
        self.bench.busy = busy
        self.changed.emit()
        self.bench.jobs.start(work, partial(self._end, done), self._fail)

    def _end(self, done: Callable[[Any], None], result: Any) -> None:
        self._over()
        done(result)
        self.changed.emit()

    def _fail(self, error: Exception) -> None:
        self._over()
        known = isinstance(error, TransferError | OSError)
        self.fault = str(error) if known else f"Something unforeseen happened: {error!r}. Nothing is lost."
        self._let_go()
        self.changed.emit()

    def _over(self) -> None:
        """It has come to its end, well or not."""
        self.running, self.bench.busy = False, ""

    def _let_go(self) -> None:
        """What was being worked on counts no more: it failed."""
