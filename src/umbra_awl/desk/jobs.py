"""Work away from the interface thread: a request runs, its result or error is applied on it. Latest wins, by name."""

import sys
import threading
from collections.abc import Callable
from queue import SimpleQueue
from typing import Any

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

SOON_MS = 40
"""Long enough for what an edit changed on the screen to be painted first."""
SWITCH_S = 0.0005
"""How long the background may run before the window gets its turn. Painting goes in and out of Python dozens of times, and at
the usual 5 ms each time one hole in a big plan took a quarter of a second to show."""


class Jobs(QObject):
    """Runs work in threads of its own. `synchronous` runs it at once, for tests."""

    _finished = pyqtSignal(object)

    def __init__(self, *, synchronous: bool = False) -> None:
        super().__init__()
        self._synchronous = synchronous
        self._latest: dict[str, int] = {}
        self._queue: SimpleQueue[Callable[[], None] | None] = SimpleQueue()
        self._worker: threading.Thread | None = None
        self._long: list[threading.Thread] = []
        self._finished.connect(lambda call: call())
        self._closed = False

    def latest(self, name: str, work: Callable[[], Any], done: Callable[[Any], None]) -> None:
        """Compute something; `done` gets the result on the interface thread unless a later request of that name came."""
        number = self._latest.get(name, 0) + 1
        self._latest[name] = number

        def wanted() -> bool:
            return self._latest.get(name) == number and not self._closed

        def run() -> None:
            if wanted():
                result = work()
                self._deliver(lambda: done(result) if wanted() else None)

        if self._synchronous:
            run()
        else:
            self._queue.put(run)
            if self._worker is None:
                sys.setswitchinterval(SWITCH_S)
                self._worker = threading.Thread(target=self._work, name="results", daemon=True)
                self._worker.start()

    def _work(self) -> None:
        while (run := self._queue.get()) is not None:
            self._safely(run, lambda error: self._deliver(lambda: _raise(error)))

    def soon(self, call: Callable[[], None]) -> None:
        """Call something after what is due has been painted; at once in synchronous mode."""
        if self._synchronous:
            call()
        else:
            QTimer.singleShot(SOON_MS, call)

    def start(self, work: Callable[[], Any], done: Callable[[Any], None], failed: Callable[[Exception], None]) -> None:
        """Run something long once, in a thread of its own, even where tests compute results at once."""

        def run() -> None:
            result = work()
            self._deliver(lambda: done(result))

        thread = threading.Thread(
            target=self._safely, args=(run, lambda error: self._deliver(lambda: failed(error))), daemon=True
        )
        self._long = [item for item in self._long if item.is_alive()] + [thread]
        thread.start()

    def tell(self, call: Callable[[], None]) -> None:
        """Have something called on the interface thread, from any thread."""
        self._deliver(call)

    def _deliver(self, call: Callable[[], Any]) -> None:
        if self._synchronous and threading.current_thread() is threading.main_thread():
            call()
        elif not self._closed:
            self._finished.emit(call)

    @staticmethod
    def _safely(run: Callable[[], None], failed: Callable[[Exception], None]) -> None:
        try:
            run()
        except Exception as error:  # noqa: BLE001  (whatever it is, the interface thread must hear of it)
            failed(error)

    def close(self) -> None:
        """Let no more results through and wait for what runs."""
        self._closed = True
        self._queue.put(None)
        for thread in (*self._long, *([self._worker] if self._worker else [])):
            thread.join(15)


def _raise(error: Exception) -> None:
    raise error
