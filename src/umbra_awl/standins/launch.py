"""Starting stand-ins as processes of their own and waiting until they are ready."""

import json
import subprocess
import sys
from collections.abc import Sequence
from pathlib import Path
from types import TracebackType
from typing import Self


class StandInError(RuntimeError):
    """A stand-in that did not start; the message says what it printed."""


class RadioProcess:
    """A simulated radio running as a process."""

    def __init__(
        self, profile: str, memory: Path, port: Path, *, faults: Sequence[str] = (), speed: float = 1.0
    ) -> None:
        """Start it and wait until its port is there. Raises StandInError."""
        self.port = port
        self.memory = memory
        command = [sys.executable, "-m", "umbra_awl", "standin", "radio", "--profile", profile]
        command += ["--memory", str(memory), "--port", str(port), "--speed", str(speed)]
        for fault in faults:
            command += ["--fault", fault]
        self._process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
        assert self._process.stdout is not None  # noqa: S101  (a pipe was asked for)
        first = self._process.stdout.readline()
        if '"ready"' not in first:
            rest = first + self._process.stdout.read()
            self.stop()
            raise StandInError(f"The simulated radio did not start: {rest.strip()}")

    def wait_for(self, event: str) -> dict[str, str]:
        """Read its events until one of this kind. Raises StandInError when it ends before."""
        assert self._process.stdout is not None  # noqa: S101
        for line in self._process.stdout:
            found: dict[str, str] = json.loads(line)
            if found["event"] == event:
                return found
        raise StandInError(f"The simulated radio ended before “{event}”.")

    def stop(self) -> None:
        """End it."""
        self._process.terminate()
        self._process.wait(10)
        if self._process.stdout is not None:
            self._process.stdout.close()

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.stop()
