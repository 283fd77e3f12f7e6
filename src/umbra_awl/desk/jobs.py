"""Work away from the interface thread: a request runs, its result or its failure is applied on it.

Four kinds: `latest` computes something, and of one name only the newest request counts; `read` does the same with what others
made, in a process that is stopped when it takes too long; `keep` writes something that must not be lost, one after another, and
is finished before the window closes; `start` runs something long in a thread of its own.
"""

import sys
import threading
import time
from collections.abc import Callable
from queue import SimpleQueue
from typing import Any, TypeVar

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from umbra_awl.core.keep.apart import apart
from umbra_awl.core.keep.notes import DiaryNotes

SOON_MS = 40
"""Long enough for what an edit changed on the screen to be painted first."""
SWITCH_S = 0.0005
"""How long the background may run before the window gets its turn. Painting goes in and out of Python dozens of times, and at
the usual 5 ms each time one hole in a big plan took a quarter of a second to show."""
CLOSE_S = 15.0
_log = DiaryNotes(__name__)
Failed = Callable[[Exception], None]
Result = TypeVar("Result")


class JobLane:
    """A thread that does one thing after another; it is started by the first."""

    def __init__(self, name: str) -> None:
        self.name = name
        self._queue: SimpleQueue[Callable[[], None] | None] = SimpleQueue()
        self._worker: threading.Thread | None = None

    def put(self, run: Callable[[], None]) -> None:
        """Have something done after what is waiting already."""
        self._queue.put(run)
        if self._worker is None:
            sys.setswitchinterval(SWITCH_S)
            self._worker = threading.Thread(target=self._work, name=f"results {self.name}", daemon=True)
            self._worker.start()

    def _work(self) -> None:
        while (run := self._queue.get()) is not None:
            run()

    def close(self, until: float) -> None:
        """End after what is waiting, or at a moment of the monotonic clock, whichever is first."""
        self._queue.put(None)
        if self._worker is not None:
            self._worker.join(max(0.0, until - time.monotonic()))


class Jobs(QObject):
    """Runs work in threads of its own. `synchronous` runs it at once, for tests."""

    settled = pyqtSignal()
    long_began = pyqtSignal()
    long_ended = pyqtSignal(float)
    _finished = pyqtSignal(object)

    def __init__(self, *, synchronous: bool = False) -> None:
        super().__init__()
        self._synchronous = synchronous
        self._latest: dict[str, int] = {}
        self._lanes = {name: JobLane(name) for name in ("plan", "pages", "saves", "log", "reads")}
        self._long: list[threading.Thread] = []
        self._finished.connect(lambda call: call())
        self._closed = False
        self.kept_waiting = 0

    def latest(
        self,
        name: str,
        work: Callable[[], Any],
        done: Callable[[Any], object],
        failed: Failed | None = None,
        *,
        lane: str = "pages",
    ) -> None:
        """Compute something; `done` gets the result on the interface thread unless a later request of that name came.

        `failed` gets what went wrong in the same way; without it the error reaches the window's last handler. What follows from
        the plan runs in the lane “plan”, so that a long page does not keep it waiting.
        """
        number = self._latest.get(name, 0) + 1
        self._latest[name] = number

        def wanted() -> bool:
            return self._latest.get(name) == number and not self._closed

        def run() -> None:
            if wanted():
                self._run(name, work, lambda result: done(result) if wanted() else None, _if(wanted, failed or _raise))

        self._do(lane, run)

    def read(
        self, name: str, work: Callable[..., Result], *given: Any, done: Callable[[Any], object], failed: Failed
    ) -> None:
        """Read what others made with a function of a module; of one name only the newest request counts.

        `failed` gets what the function raises, or ApartError. Tests that compute results at once read in this process.
        """
        if self._synchronous:
            self.latest(name, lambda: work(*given), done, failed, lane="reads")
        else:
            self.latest(name, lambda: apart(work, *given), done, failed, lane="reads")

    def forget(self, name: str) -> None:
        """Let go of whatever is under way of that name."""
        self._latest[name] = self._latest.get(name, 0) + 1

    def keep(self, name: str, work: Callable[[], Any], done: Callable[[Any], None], failed: Failed) -> None:
        """Write something that must not be lost: in the order asked for, and before the window closes."""
        self.kept_waiting += 1

        def over(call: Callable[[Any], None]) -> Callable[[Any], None]:
            def told(value: Any) -> None:
                self.kept_waiting -= 1
                call(value)
                if not self.kept_waiting:
                    self.settled.emit()

            return told

        self._do("saves", lambda: self._run(name, work, over(done), over(failed)))

    def _do(self, lane: str, run: Callable[[], None]) -> None:
        if self._synchronous:
            run()
        else:
            self._lanes[lane].put(run)

    def _run(self, name: str, work: Callable[[], Any], done: Callable[[Any], object], failed: Failed) -> None:
        """Do the work here, and have its result or its failure applied on the interface thread."""
        try:
            result = work()
        except Exception as error:  # noqa: BLE001  (whatever it is, the interface thread must hear of it)
            _log.warning("%s failed", name.partition(" ")[0], exc_info=True)
            problem = error
            self._deliver(lambda: failed(problem))
        else:
            self._deliver(lambda: done(result))

    def soon(self, call: Callable[[], None]) -> None:
        """Call something after what is due has been painted; at once in synchronous mode."""
        if self._synchronous:
            call()
        else:
            QTimer.singleShot(SOON_MS, call)

    def start(self, work: Callable[[], Any], done: Callable[[Any], None], failed: Failed) -> None:
        """Run something long once, in a thread of its own, even where tests compute results at once."""
        began = time.monotonic()

        def told(call: Callable[[Any], object]) -> Callable[[Any], None]:
            def over(value: Any) -> None:
                try:
                    call(value)
                finally:
                    self.long_ended.emit(time.monotonic() - began)

            return over

        self.long_began.emit()
        thread = threading.Thread(target=self._run, args=("transfer", work, told(done), told(failed)), daemon=True)
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

    @property
    def closed(self) -> bool:
        """Whether the window closes: whatever runs long by itself ends now."""
        return self._closed

    @property
    def busy(self) -> bool:
        """Whether something runs that closing has to wait for: a save, or something long."""
        return bool(self.kept_waiting) or any(thread.is_alive() for thread in self._long)

    def close(self) -> None:
        """Let no more results through; saves that wait are finished, what else runs is waited for, all within bounds."""
        self._closed = True
        until = time.monotonic() + CLOSE_S
        for lane in self._lanes.values():
            lane.close(until)
        for thread in self._long:
            thread.join(max(0.0, until - time.monotonic()))


def _if(wanted: Callable[[], bool], failed: Failed) -> Failed:
    return lambda error: failed(error) if wanted() else None


def _raise(error: Exception) -> None:
    raise error
