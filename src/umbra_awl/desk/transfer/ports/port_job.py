"""Looking at the ports, knocking, loading firmware: in the background, one at a time."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QTimer

from umbra_awl.core.keep.limits import read_within
from umbra_awl.core.transfer.carry import Follow, Phase
from umbra_awl.core.transfer.errors import FirmwareError
from umbra_awl.core.transfer.firmware.form import MOST_BYTES, parse
from umbra_awl.core.transfer.firmware.load import load
from umbra_awl.core.transfer.link import Link
from umbra_awl.core.transfer.people.mark import PeopleMark, keep_people_mark
from umbra_awl.core.transfer.ports.checks import PortSights, Trouble, first_trouble, seen_of
from umbra_awl.core.transfer.ports.described import Described, Port
from umbra_awl.core.transfer.ports.gather import describe
from umbra_awl.core.transfer.ports.knock import Answer, knock
from umbra_awl.core.transfer.serial_line import SerialLine
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.transfer.long_job import LongJob

LOOK_MS = 400
LOOKS, SOON = 75, 8
"""How often it is looked: half a minute; how long a driver may take to make a port: three seconds."""
_BUSY = "The port is in use. Wait for it."
_BENCH = "/dev/pts/"


class PortJob(LongJob):
    """The doctor of the chosen radio's port; `describer` says how this computer is described."""

    def __init__(self, bench: Workbench, runner: Runner, describer: Callable[[], Described] = describe) -> None:
        super().__init__(bench)
        self._runner, self.describer = runner, describer
        self.seen: PortSights | None = None
        self.trouble: Trouble | None = None
        self.waiting = 0
        self.share = 0.0
        self._before = Described()
        self._timer = QTimer(self)
        self._timer.setInterval(LOOK_MS)
        self._timer.timeout.connect(self._look_for_new)
        bench.radio_changed.connect(self.forget)

    def forget(self) -> None:
        """Begin anew, for another radio."""
        if not self.running:
            self._timer.stop()
            self.seen = self.trouble = None
            self.waiting, self.fault, self.success = 0, "", ""
            self.changed.emit()

    def wait_for_cable(self) -> None:
        """Watch the ports for half a minute, for the one that comes."""
        self.seen = self.trouble = None
        self.fault = self.success = ""
        self.waiting = LOOKS
        self.changed.emit()
        self.bench.jobs.latest("ports", self.describer, self._begin_watching)

    def _begin_watching(self, before: Described) -> None:
        self._before = before
        self._timer.start()

    def _look_for_new(self) -> None:
        """See, in the background, whether something came."""
        if self._runner.profile is not None:
            self.bench.jobs.latest("ports", self.describer, self._see)

    def _see(self, now: Described) -> None:
        """Something came, or the time is over: say what that means."""
        profile = self._runner.profile
        if profile is None or not self.waiting:
            return
        self.waiting -= 1
        seen = seen_of(self._before, now, profile)
        portless = seen.usb is not None and self.waiting < LOOKS - SOON
        if seen.port is not None or portless or not self.waiting:
            self._timer.stop()
            self.waiting = 0
            if seen.port is not None:
                self._runner.set_port(seen.port.device)
            self._take(seen)

    def stop(self) -> None:
        """Watch no more."""
        self._timer.stop()
        self.waiting = 0
        self.changed.emit()

    def _take(self, seen: PortSights) -> None:
        self.seen, self.trouble = seen, first_trouble(seen)
        self.changed.emit()
        if self.trouble is None and seen.answer is None and seen.port is not None:
            self.knock()

    def knock(self) -> None:
        """Look at the chosen port, and ask who is there."""
        profile, port = self._runner.profile, self._runner.port
        if self.running or profile is None or not port:
            return
        before = Described()
        baud = profile.line.baud or 115_200

        def work() -> tuple[Described, Answer]:
            return self.describer(), knock(lambda: SerialLine(port, baud), profile)

        def done(result: tuple[Described, Answer]) -> None:
            now, answer = result
            self.seen = seen_of(before, _with_port(now, port), profile, port, answer)
            self.trouble = first_trouble(self.seen)

        self.share = 0.0
        self._run(_BUSY, work, done)

    @property
    def on_bench(self) -> bool:
        """Whether the chosen port is a simulated radio's: firmware is loaded into nothing else."""
        port = self._runner.port
        return bool(port) and str(Path(port).resolve()).startswith(_BENCH)

    def load(self, path: Path) -> None:
        """Load a firmware file into the simulated radio."""
        radio = self.bench.radio
        hardware = radio.hardware if radio is not None else ""
        profile, shelf, port = self._runner.profile, self._runner.shelf(), self._runner.port
        if self.running or profile is None or shelf is None:
            return
        if not self.on_bench:
            self._fail(
                FirmwareError(
                    "Firmware goes into the simulated radio only. Load a real radio with its maker's own tool."
                )
            )
            return

        def work() -> tuple[int, str]:
            file, _variant = parse(read_within(path, MOST_BYTES + 1), profile)
            line = SerialLine(port, profile.line.baud)
            try:
                sent = load(Link(line), profile, shelf, file, Follow(self._tell), hardware)
            finally:
                line.close()
            keep_people_mark(shelf, PeopleMark())  # memory and people may be gone with the old firmware
            shelf.remember_held("")
            again = profile.loading is not None and profile.loading.second and not file.header.second
            return sent, profile.loading.second if again and profile.loading is not None else ""

        def done(loaded: tuple[int, str]) -> None:
            sent, second = loaded
            then = (
                f"Now its second file, {second}, in loading state too."
                if second
                else "Switch it off and on, look through its menus, then write memory and people."
            )
            self.success = f"Loaded: {sent:,} bytes. {then}"

        self.share = 0.0
        self._run(_BUSY, work, done)

    def _tell(self, _phase: Phase, sent: int, total: int) -> None:
        self.bench.jobs.tell(partial(self._progress, sent / max(total, 1)))

    def _progress(self, share: float) -> None:
        self.share = share
        self.changed.emit()


def _with_port(now: Described, device: str) -> Described:
    """The computer with the chosen port in it, which may be a simulated one that the system does not list."""
    if any(item.device == device for item in now.ports) or not Path(device).exists():
        return now
    return replace(now, ports=(*now.ports, Port(device, driver="pseudo-terminal")))
