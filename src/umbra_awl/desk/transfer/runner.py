"""Runs transfers in the background and remembers how far the chosen radio has come: read, compared, written, proven."""

import threading
import time
from collections.abc import Callable
from datetime import datetime
from functools import partial
from typing import Literal

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.fit.profile import Profile
from umbra_awl.core.plan.store import SUFFIX
from umbra_awl.core.transfer.carry import Compared, Held, Phase, Steps, compare, read_radio, restore_radio, write_radio
from umbra_awl.core.transfer.errors import TransferError
from umbra_awl.core.transfer.link import Link
from umbra_awl.core.transfer.shelf import Backup, Shelf, Unfinished
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.workbench import Workbench

STATE_WORDS = {
    "known": "Read whole; a backup is on the shelf.",
    "old": "A write broke off before; the radio still holds the old memory.",
    "new": "A write broke off before its proof; the radio holds the new memory, whole.",
    "neither": "A write broke off: the radio holds neither the old nor the new memory whole. Restore the backup, or write again.",
}
_TELL_EVERY_S = 0.08
Stand = Literal["start", "read", "compared", "proven"]


class Runner(QObject):
    """One transfer at a time."""

    changed = pyqtSignal()
    progressed = pyqtSignal()

    def __init__(self, bench: Workbench, settings: Settings) -> None:
        super().__init__()
        self._bench = bench
        self._settings = settings
        self._cancel = threading.Event()
        self.phase: Phase | None = None
        self.done_bytes = 0
        self.all_bytes = 0
        self.fault = ""
        self.success = ""
        self.held: Held | None = None
        self.compared: Compared | None = None
        self.proven = False
        self._told = 0.0
        bench.radio_changed.connect(self.forget)
        bench.document_changed.connect(self.forget)
        bench.results_changed.connect(self._compare)

    def forget(self) -> None:
        """Begin anew, for another radio or plan."""
        if self.phase is not None:
            return
        self.held = self.compared = None
        self.proven = False
        self.fault = self.success = ""
        self.changed.emit()

    @property
    def running(self) -> bool:
        """Whether a transfer is under way."""
        return self.phase is not None

    @property
    def stand(self) -> Stand:
        """How far the chosen radio has come."""
        if self.proven:
            return "proven"
        return "compared" if self.compared is not None else "read" if self.held is not None else "start"

    @property
    def profile(self) -> Profile | None:
        """The chosen radio's profile."""
        radio = self._bench.radio
        return self._bench.profiles.get(radio.profile) if radio is not None else None

    @property
    def port(self) -> str:
        """The port of the chosen radio."""
        return self._settings.kept.ports.get(self._port_key, "")

    @property
    def _port_key(self) -> str:
        document = self._bench.document
        return f"{document.path if document else ''}#{self._bench.radio_key}"

    def set_port(self, port: str) -> None:
        """Remember the port of the chosen radio."""
        self._settings.keep(ports={**self._settings.kept.ports, self._port_key: port})
        self.changed.emit()

    def shelf(self) -> Shelf | None:
        """The backups of the chosen radio, beside the plan."""
        document, radio = self._bench.document, self._bench.radio
        if document is None or radio is None:
            return None
        return Shelf(document.path.with_name(document.path.name.removesuffix(SUFFIX) + ".backups") / radio.key)

    def unfinished(self) -> Unfinished | None:
        """A write to the chosen radio that was not proven."""
        shelf = self.shelf()
        return shelf.unfinished() if shelf is not None else None

    def read(self) -> None:
        """Read the chosen radio and keep a backup."""
        if self.profile is not None and not self.profile.by_cable:
            self._bench.say(
                f"{self.profile.name} has no programming cable; its memory goes in by {self.profile.ways_in[0]}.",
                "stop",
            )
            return
        self.proven = False
        self._run(
            "read",
            lambda link, profile, shelf, steps: read_radio(link, profile, shelf, datetime.now(), steps),
            self._take_held,
        )

    def _take_held(self, held: Held) -> None:
        self.held = held
        self.success = STATE_WORDS[held.state]
        self._compare()

    def _compare(self) -> None:
        """Compare what was read with the plan's newest fit, off the interface thread."""
        held, profile, fit = self.held, self.profile, self._bench.fit
        if self.running or held is None or profile is None or fit is None:
            return
        memory = fit.memory
        self._bench.jobs.latest("compare", lambda: compare(held, memory, profile), self._take_compared)

    def _take_compared(self, compared: Compared) -> None:
        self.compared = compared
        if self.proven and compared.sheet.changes:
            self.proven = False
        self.changed.emit()

    def write(self) -> None:
        """Write the compared memory, read it back and compare."""
        held, compared = self.held, self.compared
        if held is None or compared is None:
            return

        def work(link: Link, profile: Profile, shelf: Shelf, steps: Steps) -> int:
            return write_radio(link, profile, shelf, held, compared.target, steps)

        self._run("write", work, lambda count: self._take_written(count, compared.target))

    def _take_written(self, count: int, target: bytes) -> None:
        from umbra_awl.core.transfer.image import decode

        profile = self.profile
        if self.held is not None and profile is not None:
            self.held = self.held._replace(image=target, memory=decode(target, profile), state="known")
        self.proven = True
        self.success = f"Proven: {count:,} bytes written, everything read back and found equal."
        self._compare()

    def restore(self, backup: Backup) -> None:
        """Bring a backup back into the radio."""
        self.held = self.compared = None
        self.proven = False

        def work(link: Link, profile: Profile, shelf: Shelf, steps: Steps) -> int:
            return restore_radio(link, profile, shelf, backup, steps)

        self._run("read", work, lambda _count: self._take_restored(backup))

    def _take_restored(self, backup: Backup) -> None:
        self.success = f"Restored: the radio holds the memory of {backup.when} again, read back and found equal."
        self.changed.emit()

    def cancel(self) -> None:
        """Stop the transfer at the next block."""
        self._cancel.set()

    def _run(
        self, phase: Phase, work: Callable[[Link, Profile, Shelf, Steps], object], done: Callable[..., None]
    ) -> None:
        profile, shelf, radio = self.profile, self.shelf(), self._bench.radio
        if self.running or profile is None or shelf is None or radio is None:
            return
        if not self.port:
            self.fault = "No port is chosen. Connect the cable and choose the port it appears on."
            self.changed.emit()
            return
        self._cancel.clear()
        self._bench.busy = f"A transfer with the {radio.name} is under way. Stop it first, or wait until it is proven."
        self.phase, self.done_bytes, self.all_bytes, self.fault, self.success = phase, 0, 0, "", ""
        self.changed.emit()
        steps = Steps(self._tell, self._cancel.is_set)
        port = self.port
        key = radio.key
        self._bench.jobs.start(
            lambda: _carry(port, profile, shelf, work, steps), lambda result: self._end(key, result, done), self._fail
        )

    def _tell(self, phase: Phase, done: int, total: int) -> None:
        """Called by the transfer's thread for each block; passed on a few times a second."""
        now = time.monotonic()
        if done == total or now - self._told > _TELL_EVERY_S:
            self._told = now
            self._bench.jobs.tell(partial(self._progress, phase, done, total))

    def _progress(self, phase: Phase, done: int, total: int) -> None:
        if self.running:
            self.phase, self.done_bytes, self.all_bytes = phase, done, total
            self.progressed.emit()

    def _end(self, key: str, result: object, done: Callable[..., None]) -> None:
        self.phase, self._bench.busy = None, ""
        if self._bench.radio_key == key:
            done(result)
        else:
            self.forget()  # the radio was taken out of the plan meanwhile; what was written is proven all the same
        self.changed.emit()

    def _fail(self, error: Exception) -> None:
        self.phase, self._bench.busy = None, ""
        self.fault = (
            str(error)
            if isinstance(error, TransferError)
            else f"Something unforeseen happened: {error!r}. Nothing is lost."
        )
        self.held = self.compared = None
        self.changed.emit()


def _carry(
    port: str, profile: Profile, shelf: Shelf, work: Callable[[Link, Profile, Shelf, Steps], object], steps: Steps
) -> object:
    from umbra_awl.core.transfer.serial_line import SerialLine

    line = SerialLine(port, profile.line.baud)
    try:
        return work(Link(line), profile, shelf, steps)
    finally:
        line.close()
