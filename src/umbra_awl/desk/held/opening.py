"""Opening a plan file: a small one at once, a large one away from the interface thread."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from umbra_awl.core.keep.clock import Clock
from umbra_awl.core.plan.disk.store import Document
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.model import Plan
from umbra_awl.desk.jobs import Jobs

AT_ONCE_BYTES = 2_000_000
"""A file of this size takes about 50 ms to read; a larger one would hold the window."""


class Opening:
    """Opens the file asked for last, or makes a new one.

    `say` tells the operator, `take` gets the open document, `refuses` says why not now, `reaches_out` whether
    other plans may be opened from here at all.
    """

    def __init__(
        self,
        jobs: Jobs,
        clock: Clock,
        say: Callable[[str, str], None],
        take: Callable[[Document], None],
        refuses: Callable[[], bool],
        reaches_out: Callable[[], bool],
    ) -> None:
        self._jobs, self._clock = jobs, clock
        self._say, self._take, self._refuses = say, take, refuses
        self._reaches_out = reaches_out
        self._asked = 0

    def forget(self) -> None:
        """Another plan has come to be open: what is still on its way is let go of when it arrives."""
        self._asked += 1

    def open(self, path: Path) -> bool:
        """Open it; True when it is open, or on its way. A refusal is said."""
        now = self._clock.local()
        self.forget()
        if _size(path) <= AT_ONCE_BYTES:
            return self._open(lambda: Document.open(path, now))
        self._say(f"Opening “{path.name}” …", "say")
        arrived = partial(self._arrived, self._asked)
        # a name of its own for each: every document arrives, and is taken or closed
        self._jobs.latest(
            f"opening {self._asked}", lambda: Document.open(path, now), arrived, self._failed, lane="reads"
        )
        return True

    def create(self, path: Path, plan: Plan) -> bool:
        """Make a new plan file and open it; one that is there already is not replaced. True when done."""
        if self._refuses() or not self._reaches_out():
            return False
        return self._open(lambda: Document.create(path, plan, self._clock.local()))

    def _open(self, opened: Callable[[], Document]) -> bool:
        try:
            document = opened()
        except StoreError as error:
            self._failed(error)
            return False
        self._take(document)
        return True

    def _arrived(self, asked: int, document: Document) -> None:
        """Take what was read in the background, unless another was asked for or something began meanwhile that forbids it."""
        if asked != self._asked or self._refuses():
            document.close()
        else:
            self._take(document)

    def _failed(self, error: Exception) -> None:
        if not isinstance(error, StoreError):
            raise error
        self._say(str(error), "stop")


def _size(path: Path) -> int:
    try:
        return path.stat().st_size
    except OSError:
        return 0  # opening it says why not
