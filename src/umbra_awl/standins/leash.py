"""A stand-in on a leash ends with whoever started it: when its standard input ends, for whatever reason, so does it."""

import os
import signal
import sys
import threading


def end_with_input() -> None:
    """End this process, as a request to end does, once its standard input is at its end."""
    threading.Thread(target=_wait, name="leash", daemon=True).start()


def _wait() -> None:
    while sys.stdin.buffer.read(4096):
        pass
    os.kill(os.getpid(), signal.SIGTERM)
