"""Starting stand-ins as processes of their own and waiting until they are ready. They end with whoever started them."""

import json
import subprocess
import sys
import threading
from collections.abc import Sequence
from pathlib import Path
from queue import SimpleQueue
from types import TracebackType
from typing import IO, Any, Self


class StandInError(RuntimeError):
    """A stand-in that did not start; the message says what it printed."""


class StandInProcess:
    """A stand-in running as a process; it prints a JSON line for each event, “ready” first."""

    def __init__(self, what: str, arguments: Sequence[str], *, told: bool = False) -> None:
        """Start it and wait until it is ready; one that is `told` what to do reads its input itself. Raises StandInError."""
        command = [sys.executable, "-m", "umbra_awl", "standin", *(() if told else ("--leash",)), *arguments]
        self._what = what
        self._process = subprocess.Popen(
            command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
        )
        assert self._process.stdout is not None  # noqa: S101  (a pipe was asked for)
        self._output: IO[str] = self._process.stdout
        self._first = self._output.readline()
        if '"ready"' not in self._first:
            rest = self._first + self._output.read()
            self._let_go_of_input()
            self._process.wait(10)
            self._output.close()
            raise StandInError(f"The simulated {what} did not start: {rest.strip()}")
        self._events: SimpleQueue[str] = SimpleQueue()
        self._reader = threading.Thread(target=self._drain, daemon=True)  # a full pipe would stop it
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
        raise StandInError(f"The simulated {self._what} ended before “{event}”.")

    def send(self, **told: object) -> None:
        """Send it a line. Raises StandInError when it has ended."""
        if self._process.stdin is None:
            raise StandInError(f"The simulated {self._what} takes no orders.")
        try:
            self._process.stdin.write(json.dumps(told) + "\n")
            self._process.stdin.flush()
        except (OSError, ValueError):
            raise StandInError(f"The simulated {self._what} has ended.") from None

    def tell(self, **told: object) -> dict[str, Any]:
        """Tell it to do something, and wait for the line that it answers with. Raises StandInError when it has ended."""
        self.send(**told)
        if not (line := self._events.get(timeout=30)):
            raise StandInError(f"The simulated {self._what} has ended.")
        answer: dict[str, Any] = json.loads(line)
        return answer

    def _let_go_of_input(self) -> None:
        if self._process.stdin is not None:
            self._process.stdin.close()

    def stop(self) -> None:
        """End it."""
        self._process.terminate()
        self._let_go_of_input()
        self._process.wait(10)
        self._reader.join(10)
        self._output.close()

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.stop()


class RadioProcess(StandInProcess):
    """A simulated radio."""

    def __init__(
        self, profile: str, memory: Path, port: Path, *, faults: Sequence[str] = (), speed: float = 1.0
    ) -> None:
        """Start it and wait until its port is there. Raises StandInError."""
        self.port = port
        self.memory = memory
        arguments = ["radio", "--profile", profile, "--memory", str(memory), "--port", str(port), "--speed", str(speed)]
        super().__init__("radio", [*arguments, *(word for fault in faults for word in ("--fault", fault))])

    def switch(self, *, on: bool, keys: bool = False) -> str:
        """Switch it off or on, with two keys held or not; what its display shows then. Raises StandInError."""
        self.send(do="switch", on=on, keys=keys)
        return self.wait_for("hands")["text"]


class CardRadioProcess(StandInProcess):
    """A simulated radio with a card slot; `reader` is where its card appears when it is pushed out into the computer."""

    def __init__(self, profile: str, memory: Path, place: Path, *, unit: str = "1", pull_at: int = 0) -> None:
        """Start it and wait until it shows something. Raises StandInError."""
        self.memory, self.place = memory, place
        self.reader = place / "computer" / "CARD"
        arguments = ["card-radio", "--profile", profile, "--memory", str(memory), "--place", str(place), "--unit", unit]
        super().__init__("radio", [*arguments, "--pull-at", str(pull_at)], told=True)
        self.state: dict[str, Any] = json.loads(self._first)

    def do(self, what: str, **more: object) -> dict[str, Any]:
        """Do one thing with it; what it shows then. Raises StandInError."""
        self.state = self.tell(do=what, **more)
        return self.state


class RegistryProcess(StandInProcess):
    """A simulated directory and registry service on loopback; `address` is where it answers."""

    def __init__(self, *, access: int = 60_000, people: int = 250_000, faults: Sequence[str] = ()) -> None:
        """Start it and wait until it listens. Raises StandInError."""
        arguments = ["registry", "--access", str(access), "--people", str(people)]
        super().__init__("registry", [*arguments, *(word for fault in faults for word in ("--fault", fault))])
        self.address: str = json.loads(self._first)["address"]


class PhoneProcess(StandInProcess):
    """A simulated phone with a radio's app on loopback; `address` is where it answers."""

    def __init__(self, profile: str, path: Path, *, platform: str = "Alder", sleep_after: int = 0) -> None:
        """Start it and wait until it listens. Raises StandInError."""
        arguments = ["phone", "--profile", profile, "--list", str(path), "--platform", platform]
        super().__init__("phone", [*arguments, "--sleep-after", str(sleep_after)])
        self.address: str = json.loads(self._first)["address"]


class HotspotProcess(StandInProcess):
    """A simulated hotspot on loopback; `address` is where its page answers."""

    def __init__(
        self,
        settings: Path | None = None,
        *,
        board: str = "simplex-70",
        error_hz: float = 0.0,
        wifi: str = "Harrowquay-7",
        pace: float = 1.0,
        seed: int = 1,
        faults: Sequence[str] = (),
    ) -> None:
        """Start it and wait until it listens. Raises StandInError."""
        arguments = ["hotspot", "--board", board, "--error-hz", str(error_hz), "--wifi", wifi, "--pace", str(pace)]
        arguments += ["--seed", str(seed), *(("--settings", str(settings)) if settings is not None else ())]
        super().__init__("hotspot", [*arguments, *(word for fault in faults for word in ("--fault", fault))])
        self.address: str = json.loads(self._first)["address"]


class WifiProcess(StandInProcess):
    """A simulated home, phone and hotspot with their Wi-Fi."""

    def __init__(self) -> None:
        """Start it and wait until it is ready. Raises StandInError."""
        super().__init__("Wi-Fi", ["wifi"], told=True)


class BondProcess(StandInProcess):
    """A simulated radio and phone that pair."""

    def __init__(self, starts: str, pin: str, settings: Sequence[str]) -> None:
        """Start it and wait until it is ready. Raises StandInError."""
        arguments = [
            "bond",
            "--starts",
            starts,
            "--pin",
            pin,
            *(word for key in settings for word in ("--setting", key)),
        ]
        super().__init__("pairing", arguments, told=True)


class AirProcess(StandInProcess):
    """Two simulated radios with the air between; `port` is the data port of the one on this computer."""

    def __init__(
        self,
        port: Path,
        folder: Path,
        *,
        rate_bps: int = 3480,
        loss: float = 0.0,
        speed: float = 1.0,
        watchdog_s: float = 2.0,
        answers: bool = True,
    ) -> None:
        """Start it and wait until its port is there. Raises StandInError."""
        self.port, self.folder, self.speed = port, folder, speed
        arguments = ["air", "--port", str(port), "--folder", str(folder), "--rate", str(rate_bps), "--loss", str(loss)]
        arguments += ["--speed", str(speed), "--watchdog", str(watchdog_s)]
        super().__init__("air", [*arguments, *(() if answers else ("--silent",))])
        self.call: str = json.loads(self._first)["call"]

    def order(self, do: str, **more: object) -> None:
        """Have hands at the far side, or the weather, do something. Raises StandInError."""
        self.send(do=do, **more)
        self.wait_for("hands")
