"""Starting stand-ins as processes of their own and waiting until they are ready."""

import json
import subprocess
import sys
import threading
from collections.abc import Sequence
from pathlib import Path
from queue import SimpleQueue
from types import TracebackType
from typing import IO, Self


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
        self._output: IO[str] = self._process.stdout
        first = self._output.readline()
        if '"ready"' not in first:
            rest = first + self._output.read()
            self._process.wait(10)
            self._output.close()
            raise StandInError(f"The simulated radio did not start: {rest.strip()}")
        self._events: SimpleQueue[str] = SimpleQueue()
        self._reader = threading.Thread(target=self._drain, daemon=True)  # a full pipe would stop the radio
        self._reader.start()

    def _drain(self) -> None:
        for line in self._output:
            self._events.put(line)
        self._events.put("")

    def wait_for(self, event: str, timeout_s: float = 30) -> dict[str, str]:
        """Read its events until one of this kind. Raises StandInError when it ends before."""
        while line := self._events.get(timeout=timeout_s):
            found: dict[str, str] = json.loads(line)
            if found["event"] == event:
                return found
        raise StandInError(f"The simulated radio ended before “{event}”.")

    def stop(self) -> None:
        """End it."""
        self._process.terminate()
        self._process.wait(10)
        self._reader.join(10)
        self._output.close()

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.stop()
