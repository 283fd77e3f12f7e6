"""A stand-in on a leash ends with whoever started it: when its standard input ends, for whatever reason, so does it."""

import os
import signal
import sys
import threading
from collections.abc import Iterator
from queue import SimpleQueue

_heard: SimpleQueue[str] = SimpleQueue()


def end_with_input() -> None:
    """End this process, as a request to end does, once its standard input is at its end; lines that come are kept until asked."""
    threading.Thread(target=_wait, name="leash", daemon=True).start()


def heard() -> Iterator[str]:
    """The lines that have come over the leash since it was asked last."""
    while not _heard.empty():
        yield _heard.get()


def _wait() -> None:
    for line in sys.stdin:
        _heard.put(line)
    os.kill(os.getpid(), signal.SIGTERM)
