"""Runs transfers in the background and remembers how far the chosen radio has come: read, compared, written, proven.

What may be written is a comparison of the very plan, profile and reading that are in force now; with any of them it goes.
"""

import threading
import time
from collections.abc import Callable
from functools import partial
from typing import Literal

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.carry import STATE_WORDS, Follow, HeldMemory, Phase, WrittenMemory
from umbra_awl.core.transfer.errors import OlderError, StaleError, TransferError
from umbra_awl.core.transfer.interlock import must_not_send, refusal
from umbra_awl.core.transfer.protocols import codec_of
from umbra_awl.core.transfer.sense import senseless
from umbra_awl.core.transfer.shelf import Backup, Shelf
from umbra_awl.core.transfer.way import Way
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.kept_names import keep_names
from umbra_awl.desk.runs.comparing import Comparing
from umbra_awl.desk.runs.restoring import SENT, Restoring
from umbra_awl.desk.runs.ways import Ways
from umbra_awl.desk.settings import Settings

CARD_WORDS = {
    "known": "Read whole; a backup is kept.",
    "old": "The radio has not taken what was sent: it still holds the old memory.",
    "new": "Proven: what the radio wrote out is what was sent, byte for byte.",
    "neither": "The radio holds neither the old memory nor what was sent: only a part was read in, or it was changed since.",
}
_OTHER = "This is another radio than the one read here last; what it held has a backup of its own."
_TELL_EVERY_S = 0.08
Stand = Literal["start", "read", "compared", "proven"]


class Runner(QObject):
    """One transfer at a time."""

    changed = pyqtSignal()
    progressed = pyqtSignal()
    proven_changed = pyqtSignal()

    def __init__(self, bench: Workbench, settings: Settings) -> None:
        super().__init__()
        self.restoring = Restoring(self)
        self.difference = Comparing(self)
        self.bench = bench
        self.settings = settings
        self.ways = Ways(bench, settings)
        self.way_now: Way | None = None
        self._cancel = threading.Event()
        self.phase: Phase | None = None
        self.done_bytes = 0
        self.all_bytes = 0
        self.fault = ""
        self.success = ""
        self.held: HeldMemory | None = None
        self.other: Backup | None = None
        self.older = False
        self.proven = False
        self.senseless = ""
        self._told = 0.0
        for signal in (bench.radio_changed, bench.document_changed, bench.profiles_changed):
            signal.connect(self.forget)
        bench.plan_changed.connect(self.changed)
        bench.results_changed.connect(self.difference.compare)

    def forget(self) -> None:
        """Begin anew, for another radio or plan."""
        if self.phase is not None:
            return
        self.let_go()
        self.fault = self.success = ""
        self.changed.emit()

    def let_go(self) -> None:
        self.held = self.other = self.difference.newest = None
        self.senseless = ""
        self.proven = self.older = False

    @property
    def by_card(self) -> bool:
        """Whether the chosen radio goes in and out by memory card."""
        return self.profile is not None and self.profile.by_card

    @property
    def running(self) -> bool:
        """Whether a transfer is under way."""
        return self.phase is not None

    @property
    def stand(self) -> Stand:
        """How far the chosen radio has come."""
        if self.held is None or self.difference.compared is None:
            return "start" if self.held is None else "read"
        return "proven" if self.proven else "compared"

    @property
    def profile(self) -> Profile | None:
        """The chosen radio's profile."""
        return self.ways.profile

    @property
    def port(self) -> str:
        """The port of the chosen radio."""
        return self.ways.port

    def set_port(self, port: str) -> None:
        """Remember the port of the chosen radio."""
        self.ways.set_port(port)
        self.changed.emit()

    def shelf(self) -> Shelf | None:
        """The backups of the chosen radio, beside the plan."""
        return self.ways.shelf_of(self.bench.radio_key)

    def read(self, *, older_ok: bool = False) -> None:
        """Read the chosen radio and keep a backup; `older_ok` takes what is older than what was read last."""
        self.let_go()
        self.way_now = self.ways.way(older_ok=older_ok)
        self.run("read", lambda way, follow: way.read(self.bench.clock.local(), follow), self._take_held)

    def _take_held(self, held: HeldMemory) -> None:
        self.held = held
        self.senseless = senseless(held.memory) if held.state == "known" else ""
        told = (CARD_WORDS if self.by_card else STATE_WORDS)[held.state]
        self.success = f"{told} {_OTHER}" if held.before else told
        self.proven = held.state == "new" and self.by_card
        self.difference.compare()

    def write(self) -> None:
        """Write the compared memory, read it back and compare. Only what belongs to the present plan is written."""
        held, compared, radio, index = self.held, self.difference.compared, self.bench.radio, self.bench.index
        profile = self.profile
        if held is None or compared is None or radio is None or profile is None:
            self.bench.say(
                "Nothing was written: the plan is just being compared with the radio. Try again in a moment.", "stop"
            )
            return

        def work(way: Way, follow: Follow) -> tuple[WrittenMemory, Memory]:
            found = must_not_send(index, radio, profile, compared.memory)
            if found:
                raise StaleError(refusal(found))
            written = way.write(held, compared, follow)
            return written, codec_of(profile).decode(written.image)

        self.run("write", work, self._take_written)

    def _take_written(self, result: tuple[WrittenMemory, Memory]) -> None:
        written, memory = result
        if not written.proven:
            self.success = SENT.format(written.name, written.sent)
            keep_names(self.bench, self.bench.radio_key)
            return
        if self.held is not None:
            self.held = self.held._replace(image=written.image, memory=memory, state="known", before="")
        self.proven = True
        self.success = f"Proven: {written.sent:,} bytes written, everything read back and found equal."
        keep_names(self.bench, self.bench.radio_key)
        self.difference.compare()

    def cancel(self) -> None:
        """Stop the transfer at the next block."""
        self._cancel.set()

    def run(
        self,
        phase: Phase,
        work: Callable[[Way, Follow], object],
        done: Callable[..., None],
    ) -> None:
        way, radio = self.way_now or self.ways.way(), self.bench.radio
        self.way_now = None
        if self.running or way is None or radio is None or not self.bench.reaches_out():
            return
        if why_not := way.why_not():
            self.fault = why_not
            self.changed.emit()
            return
        self._cancel.clear()
        self.bench.busy = f"A transfer with the {radio.name} is under way. Stop it first, or wait until it is proven."
        self.phase, self.done_bytes, self.all_bytes, self.fault, self.success = phase, 0, 0, "", ""
        self.other = None
        self.changed.emit()
        follow = Follow(self._tell, self._cancel.is_set)
        key = radio.key
        self.bench.jobs.start(lambda: work(way, follow), lambda result: self._end(key, result, done), self.fail)

    def _tell(self, phase: Phase, done: int, total: int) -> None:
        """Called by the transfer's thread for each block; passed on a few times a second."""
        now = time.monotonic()
        if done == total or now - self._told > _TELL_EVERY_S:
            self._told = now
            self.bench.jobs.tell(partial(self._progress, phase, done, total))

    def _progress(self, phase: Phase, done: int, total: int) -> None:
        if self.running:
            self.phase, self.done_bytes, self.all_bytes = phase, done, total
            self.progressed.emit()

    def _end(self, key: str, result: object, done: Callable[..., None]) -> None:
        self.phase, self.bench.busy = None, ""
        if self.bench.radio_key == key:
            done(result)
        else:
            self.forget()  # the radio was taken out of the plan meanwhile; what was written is proven all the same
        self.changed.emit()

    def fail(self, error: Exception) -> None:
        self.phase, self.bench.busy = None, ""
        self.fault = (
            str(error)
            if isinstance(error, TransferError)
            else f"Something unforeseen happened: {error!r}. Nothing is lost."
        )
        other = self.other
        self.let_go()
        self.other, self.older = other, isinstance(error, OlderError)
        self.changed.emit()
