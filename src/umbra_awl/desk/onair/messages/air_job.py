"""The radio on the data port in the background: sending texts and pictures, hearing what comes in, one thing at a time.

A thread owns the port. What is wanted of it waits in a queue; what it hears is told on the interface thread. The port asks
guard and licence itself, each time before the radio is keyed: for what was asked for, and for what answers by itself.
"""

import threading
from collections.abc import Callable
from functools import partial
from pathlib import Path
from queue import Empty, SimpleQueue

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.messages.blocks import IncomingPicture, Outgoing
from umbra_awl.core.messages.errors import BrokenOffError, MayNotSendError, MessageError
from umbra_awl.core.messages.frames import AirFormError, AirKind, read_text
from umbra_awl.core.messages.history import utc_stamp
from umbra_awl.core.messages.sending import AirPort, Gate, KeyingPace
from umbra_awl.core.transfer.errors import TransferError
from umbra_awl.core.transfer.frames import Frame
from umbra_awl.core.transfer.serial_line import SerialLine
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.onair.messages.air_sending import BENCH_SPEED, AirSending, Progress
from umbra_awl.desk.onair.messages.talk_kept import TalkKept
from umbra_awl.standins.launch import AirProcess, StandInError

_BAUD = 9_600


class AirJob(QObject):
    """Speaks with the two simulated radios of the bench. `changed` tells of any change, `heard` of what came in."""

    changed = pyqtSignal()
    heard = pyqtSignal(object)

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self.out = AirSending(self)
        self.bench = bench
        self.on = self.starting = False
        self.sending = ""
        self.progress: Progress | None = None
        self.fault = ""
        self.outgoing: Outgoing | None = None
        self.call = ""
        self.ready, self.card, self.loss = True, True, 0.0
        self._process: AirProcess | None = None
        self.kept = TalkKept(self)
        self.wanted: SimpleQueue[Callable[[AirPort], None]] = SimpleQueue()
        self._closing = threading.Event()
        self.cut_off = threading.Event()
        self._may: Gate = _no_channel
        self._hushed = ""
        bench.document_changed.connect(self._another_plan)
        self.kept.read()

    def _another_plan(self) -> None:
        """What was switched on for one plan's folder does not go on in another's."""
        if self.kept.there.folder != self.kept.history.folder:
            self.stop()
        self.kept.read()

    # the bench

    def start(self) -> None:
        """Switch the two radios of the bench on."""
        if self.on or self.starting or self.bench.document is None:
            return
        self.starting, self.fault = True, ""
        self._closing.clear()
        radio = self.bench.radio
        identity = self.bench.index.owners.identity_of(radio) if radio is not None else None
        self.call = identity.call if identity is not None else ""
        self.changed.emit()
        self.kept.there = self.kept.history
        self.bench.jobs.start(
            partial(self._work, self.kept.there.folder),
            lambda _none: self._ended(""),
            lambda error: self._ended(_plainly(error)),
        )

    def stop(self) -> None:
        """Switch them off."""
        self.cut_off.set()
        self._closing.set()

    def _ended(self, fault: str) -> None:
        self.on = self.starting = False
        self.sending, self.fault = "", fault
        self.changed.emit()

    def _work(self, folder: Path) -> None:
        """The thread: from switching on to switching off. Raises StandInError, MessageError, OSError."""
        folder.mkdir(parents=True, exist_ok=True)
        port = folder / "bench.port"
        with AirProcess(port, folder / "far", speed=BENCH_SPEED) as process:
            self._process = process
            line = SerialLine(str(port), _BAUD)
            try:
                self._serve(AirPort(line, self.refusal, KeyingPace(20.0, 4.0 / BENCH_SPEED + 0.3), self._overheard))
            finally:
                self._process = None
                line.close()

    def _serve(self, port: AirPort) -> None:
        self.incoming = IncomingPicture(self.call, self._not_ready)
        self._answers: list[Frame] = []
        self._taken = 0
        self.tell(self._is_on)
        while not (self._closing.is_set() or self.bench.jobs.closed):
            try:
                self.wanted.get_nowait()(port)
            except Empty:
                port.listen(0.05)
            self._answer(port)

    def _answer(self, port: AirPort) -> None:
        """In the thread: answer what came in by itself, where that may be; else it is told once why the radio is silent."""
        if self.incoming.taken != self._taken:
            self._taken = self.incoming.taken
            port.progressed()
        answers, self._answers = self._answers, []
        try:
            port.send_turn(answers)
        except (MayNotSendError, BrokenOffError) as error:
            if self._hushed != str(error):
                self._hushed = str(error)
                self.tell(
                    partial(self.bench.say, f"Something was offered, and your radio stays silent. {error}", "stop")
                )
        else:
            self._hushed = "" if answers else self._hushed

    def refusal(self) -> str:
        """Why the radio may not be keyed just now, whatever for: the gate of the data port asks it each time."""
        return self._may()

    def use(self, may: Gate) -> None:
        """Take another channel: `may` says whether the radio may be keyed on it, from whatever thread it is asked."""
        self._may = may

    def _is_on(self) -> None:
        self.on, self.starting = True, False
        self.changed.emit()

    def tell(self, call: Callable[[], None]) -> None:
        self.bench.jobs.tell(call)

    def _not_ready(self) -> str:
        return "" if self.ready else "Receiving is off on this side. Ask by voice."

    def _overheard(self, frame: Frame) -> None:
        """In the thread: something came in that nobody waited for."""
        if frame.kind == AirKind.TEXT:
            try:
                text = read_text(frame.payload)
            except AirFormError:
                return
            keeps = partial(self.kept.there.keep_text, text, "theirs", utc_stamp(self.bench.clock.utc()), "arrived")
            self.tell(partial(self.kept.keep, keeps))
            return
        self._answers += self.incoming.hear(frame)
        for arrived in self.incoming.arrived:
            keeps = partial(self.kept.there.keep_picture, arrived, "theirs", utc_stamp(self.bench.clock.utc()))
            self.tell(partial(self.kept.keep, keeps))
        self.incoming.arrived.clear()

    # the far side's hands, and the weather

    def order(self, what: str, **more: object) -> None:
        """Have hands at the far side, or the weather of the bench, do something."""
        process = self._process
        if process is not None:
            try:
                process.send(do=what, **more)
            except StandInError as error:
                self.fault = str(error)
            self.changed.emit()

    def have_picture(self) -> None:
        """Have the other side send a picture."""
        folder = self.kept.history.folder

        def made() -> Path:
            from umbra_awl.demo.picture import sketch

            path = folder / "theirs.jpg"
            write_over(path, sketch())
            return path

        self.bench.jobs.latest(
            "their picture", made, lambda path: self.order("show", file=str(path), to=""), self.kept.not_kept
        )

    # sending


def _no_channel() -> str:
    return "Choose the channel that your radio is on first."


def _plainly(error: Exception) -> str:
    known = isinstance(error, StandInError | MessageError | TransferError | OSError)
    return str(error) if known else f"The bench stopped ({type(error).__name__}). Switch it on again."
