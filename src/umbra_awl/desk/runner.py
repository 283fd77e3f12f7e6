"""Runs transfers in the background and remembers how far the chosen radio has come: read, compared, written, proven.

What may be written is a comparison of the very plan, profile and reading that are in force now; with any of them it goes.
"""

import threading
import time
from collections.abc import Callable
from functools import partial
from typing import Literal, NamedTuple

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.carry import STATE_WORDS, Compared, Follow, HeldMemory, Phase, WrittenMemory, compare
from umbra_awl.core.transfer.errors import OlderError, OtherUnitError, StaleError, TransferError
from umbra_awl.core.transfer.interlock import must_not_send, refusal
from umbra_awl.core.transfer.protocols import codec_of
from umbra_awl.core.transfer.sense import emptied, senseless
from umbra_awl.core.transfer.shelf import Backup, Shelf, Unfinished, print_of
from umbra_awl.core.transfer.way import Way
from umbra_awl.desk.parts.cards.kept_names import keep_names
from umbra_awl.desk.reckoning import Basis
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.ways import Ways
from umbra_awl.desk.workbench import Workbench

CARD_WORDS = {
    "known": "Read whole; a backup is kept.",
    "old": "The radio has not taken what was sent: it still holds the old memory.",
    "new": "Proven: what the radio wrote out is what was sent, byte for byte.",
    "neither": "The radio holds neither the old memory nor what was sent: only a part was read in, or it was changed since.",
}
_SENT = "Sent: “{}” lies on the card, {:,} bytes, read back from there and found equal. The radio has yet to take it."
_OTHER = "This is another radio than the one read here last; what it held has a backup of its own."
_TELL_EVERY_S = 0.08
Stand = Literal["start", "read", "compared", "proven"]


class Comparison(NamedTuple):
    """A comparison with what it is of: the plan and profiles, the radio, the reading."""

    basis: Basis | None
    radio: str
    held: HeldMemory
    compared: Compared


class Runner(QObject):
    """One transfer at a time."""

    changed = pyqtSignal()
    progressed = pyqtSignal()
    proven_changed = pyqtSignal()

    def __init__(self, bench: Workbench, settings: Settings) -> None:
        super().__init__()
        self._bench = bench
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
        self._comparison: Comparison | None = None
        self.proven = False
        self.senseless = ""
        self._told = 0.0
        for signal in (bench.radio_changed, bench.document_changed, bench.profiles_changed):
            signal.connect(self.forget)
        bench.plan_changed.connect(self.changed)
        bench.results_changed.connect(self._compare)

    def forget(self) -> None:
        """Begin anew, for another radio or plan."""
        if self.phase is not None:
            return
        self._let_go()
        self.fault = self.success = ""
        self.changed.emit()

    def _let_go(self) -> None:
        self.held = self.other = self._comparison = None
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
    def compared(self) -> Compared | None:
        """The comparison, as long as plan, profiles, radio and reading are those it was made of."""
        made = self._comparison
        if made is None or made.held is not self.held or made.radio != self._bench.radio_key:
            return None
        return made.compared if self._bench.worked.holds(made.basis) else None

    @property
    def comparing(self) -> bool:
        """Whether a radio was read and its comparison with the present plan is still being worked out."""
        return (
            self.held is not None
            and not self.senseless
            and self.compared is None
            and not self._bench.worked.failed(self._bench.radio_key)
        )

    @property
    def stand(self) -> Stand:
        """How far the chosen radio has come."""
        if self.held is None or self.compared is None:
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
        return self.ways.shelf_of(self._bench.radio_key)

    def unfinished(self) -> Unfinished | None:
        """A write to the chosen radio that was not proven."""
        shelf = self.shelf()
        return shelf.unfinished() if shelf is not None else None

    def read(self, *, older_ok: bool = False) -> None:
        """Read the chosen radio and keep a backup; `older_ok` takes what is older than what was read last."""
        self._let_go()
        self.way_now = self.ways.way(older_ok=older_ok)
        self._run("read", lambda way, follow: way.read(self._bench.clock.local(), follow), self._take_held)

    def _take_held(self, held: HeldMemory) -> None:
        self.held = held
        self.senseless = senseless(held.memory) if held.state == "known" else ""
        told = (CARD_WORDS if self.by_card else STATE_WORDS)[held.state]
        self.success = f"{told} {_OTHER}" if held.before else told
        self.proven = held.state == "new" and self.by_card
        self._compare()

    def _compare(self) -> None:
        """Compare what was read with the plan's newest fit, off the interface thread."""
        held, profile, fit = self.held, self.profile, self._bench.fit
        if self.running or held is None:
            return
        if self.senseless:
            self.changed.emit()
            return
        if profile is None or fit is None:
            self.changed.emit()
            return
        memory, basis, radio = fit.memory, self._bench.worked.basis, self._bench.radio_key
        self._bench.jobs.latest(
            "compare",
            lambda: Comparison(basis, radio, held, compare(held, memory, profile)),
            self._take_comparison,
            self._fail,
            lane="plan",
        )

    def _note_held(self, made: Comparison) -> None:
        """Keep beside the backups whether the radio holds the plan's memory."""
        shelf = self.ways.shelf_of(made.radio)
        if shelf is None:
            return
        try:
            shelf.remember_held("" if made.compared.sheet.changes else print_of(made.compared.memory))
        except TransferError as error:
            self._bench.say(str(error), "stop")

    def _take_comparison(self, made: Comparison) -> None:
        self._comparison = made
        if self._bench.worked.holds(made.basis):
            self._note_held(made)
            self.proven_changed.emit()
        if self.proven and made.compared.sheet.changes:
            self.proven = False
        self.changed.emit()

    def begin_anew(self) -> None:
        """Take a memory that makes no sense for an empty one; what it held is kept among the backups."""
        if self.held is not None and self.senseless:
            self.senseless = ""
            self.held = self.held._replace(memory=emptied(self.held.memory))
            self.success = "It is begun anew; what it held before is kept among the backups."
            self._compare()

    def write(self) -> None:
        """Write the compared memory, read it back and compare. Only what belongs to the present plan is written."""
        held, compared, radio, index = self.held, self.compared, self._bench.radio, self._bench.index
        profile = self.profile
        if held is None or compared is None or radio is None or profile is None:
            self._bench.say(
                "Nothing was written: the plan is just being compared with the radio. Try again in a moment.", "stop"
            )
            return

        def work(way: Way, follow: Follow) -> tuple[WrittenMemory, Memory]:
            found = must_not_send(index, radio, profile, compared.memory)
            if found:
                raise StaleError(refusal(found))
            written = way.write(held, compared, follow)
            return written, codec_of(profile).decode(written.image)

        self._run("write", work, self._take_written)

    def _take_written(self, result: tuple[WrittenMemory, Memory]) -> None:
        written, memory = result
        if not written.proven:
            self.success = _SENT.format(written.name, written.sent)
            keep_names(self._bench, self._bench.radio_key)
            return
        if self.held is not None:
            self.held = self.held._replace(image=written.image, memory=memory, state="known", before="")
        self.proven = True
        self.success = f"Proven: {written.sent:,} bytes written, everything read back and found equal."
        keep_names(self._bench, self._bench.radio_key)
        self._compare()

    def restore(self, backup: Backup, *, other_unit: bool = False) -> None:
        """Bring a backup back into the radio; what it holds now is kept first."""
        self._let_go()

        def work(way: Way, follow: Follow) -> WrittenMemory:
            try:
                return way.restore(backup, self._bench.clock.local(), follow, other_unit=other_unit)
            except OtherUnitError as error:
                self._bench.jobs.tell(partial(self._offer_other, backup, str(error)))
                raise

        self._run("read", work, partial(self._take_restored, backup))

    def _offer_other(self, backup: Backup, fault: str) -> None:
        """A backup of another radio: restoring it all the same is a decision of the operator's."""
        self.other = backup
        self.fault = fault

    def _take_restored(self, backup: Backup, written: WrittenMemory) -> None:
        self.success = f"Restored: the radio holds the memory of {backup.when} again, read back and found equal."
        if not written.proven:
            self.success = _SENT.format(written.name, written.sent)
        self.changed.emit()

    def cancel(self) -> None:
        """Stop the transfer at the next block."""
        self._cancel.set()

    def _run(
        self,
        phase: Phase,
        work: Callable[[Way, Follow], object],
        done: Callable[..., None],
    ) -> None:
        way, radio = self.way_now or self.ways.way(), self._bench.radio
        self.way_now = None
        if self.running or way is None or radio is None or not self._bench.reaches_out():
            return
        if why_not := way.why_not():
            self.fault = why_not
            self.changed.emit()
            return
        self._cancel.clear()
        self._bench.busy = f"A transfer with the {radio.name} is under way. Stop it first, or wait until it is proven."
        self.phase, self.done_bytes, self.all_bytes, self.fault, self.success = phase, 0, 0, "", ""
        self.other = None
        self.changed.emit()
        follow = Follow(self._tell, self._cancel.is_set)
        key = radio.key
        self._bench.jobs.start(lambda: work(way, follow), lambda result: self._end(key, result, done), self._fail)

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
        other = self.other
        self._let_go()
        self.other, self.older = other, isinstance(error, OlderError)
        self.changed.emit()
