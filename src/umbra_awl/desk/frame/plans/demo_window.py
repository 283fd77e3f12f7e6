"""The demo in a window of its own: another run of the program, so that nothing tried there touches this user's plans.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

import sys
from collections.abc import Callable
from typing import IO, TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer

from umbra_awl.desk.held.workbench import Workbench

if TYPE_CHECKING:
    from subprocess import Popen

LOOK_MS = 400
_COMING = (
    "The demo opens in a window of its own, with simulated radios. Nothing done there touches your plans or transmits."
)
_OPEN = "The demo is open already, in a window of its own."


def launch_demo(errors: IO[bytes]) -> "Popen[bytes]":
    """Start the program once more, on a fresh demo; what it complains of goes into `errors`. Raises OSError."""
    from subprocess import DEVNULL, Popen

    return Popen([sys.executable, "-m", "umbra_awl", "demo"], stdin=DEVNULL, stdout=DEVNULL, stderr=errors)


class DemoWindow(QObject):
    """Opens the demo, one at a time, and says when it could not be opened."""

    def __init__(self, bench: Workbench, launch: "Callable[[IO[bytes]], Popen[bytes]]" = launch_demo) -> None:
        super().__init__()
        self._bench, self._launch = bench, launch
        self._process: Popen[bytes] | None = None
        self._errors: IO[bytes] | None = None
        self._look = QTimer(self)
        self._look.setInterval(LOOK_MS)
        self._look.timeout.connect(self._has_ended)

    def start(self) -> None:
        """Open it."""
        from tempfile import TemporaryFile

        if self._process is not None and self._process.poll() is None:
            self._bench.say(_OPEN)
            return
        self.let_go()
        self._errors = TemporaryFile()  # noqa: SIM115  (it is open as long as the demo is)
        try:
            self._process = self._launch(self._errors)
        except OSError as error:
            self._bench.say(f"The demo could not be started: {error.strerror or error}.", "stop")
            return
        self._bench.say(_COMING)
        self._look.start()

    def _has_ended(self) -> None:
        """Once it has ended nothing is left to look at; where it ended with a fault, that is said."""
        code = self._process.poll() if self._process is not None else 0
        if code is None:
            return
        self._look.stop()
        if code and self._errors is not None:
            self._errors.seek(0)
            told = self._errors.read().decode(errors="replace").strip().splitlines()
            self._bench.say(f"The demo ended by itself: {told[-1] if told else f'code {code}'}.", "stop")
        self.let_go()

    def let_go(self) -> None:
        """Look after the demo no more; it goes on by itself."""
        self._look.stop()
        if self._errors is not None:
            self._errors.close()
            self._errors = None
