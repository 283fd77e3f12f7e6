"""Sending over a radio's data port: keyed for one turn at a time, each frame handed over only when the one before is out.

So that a crash leaves next to nothing in the line: the radio's own watchdog lets go of the key when no frame comes any more.
"""

import time
from collections.abc import Callable
from typing import NamedTuple

from umbra_awl.core.messages.blocks import Outgoing
from umbra_awl.core.messages.errors import AirError, BrokenOffError, MayNotSendError, MessageError, NotTakenError
from umbra_awl.core.messages.frames import AirKind, Text, text_payload
from umbra_awl.core.transfer.errors import CancelledError, TransferError
from umbra_awl.core.transfer.frames import Decoder, Frame, encode
from umbra_awl.core.transfer.link import Transport

_POLL_S = 0.05
MOST_IDLE_TURNS = 24
"""So many times the radio is keyed without anything new arriving, on either side; then the exchange is over."""
Gate = Callable[[], str]
"""Why nothing may go out just now, by guard, licence and channel; empty when it may. Asked each time before a key-up."""


class KeyingPace(NamedTuple):
    """How long is waited, in seconds: for the radio to take a frame, and for the far side to answer."""

    radio_s: float = 10.0
    answer_s: float = 4.0


class Watched(NamedTuple):
    """How a caller follows and stops it: told how many blocks are there, of how many, and how many were sent; asked to stop."""

    progress: Callable[[int, int, int], None] = lambda _have, _all, _sent: None
    cancelled: Callable[[], bool] = lambda: False


class AirPort:
    """A radio's data port, and the one gate to it: nothing keys the radio but `send_turn`, which asks `gate` each time.

    `overheard` gets every frame from the far side that nobody waited for. One thread at a time.
    """

    def __init__(
        self,
        transport: Transport,
        gate: Gate,
        pace: KeyingPace = KeyingPace(),  # noqa: B008  (a frozen value)
        overheard: Callable[[Frame], object] = lambda _frame: None,
    ) -> None:
        self._transport, self._pace, self._overheard = transport, pace, overheard
        self._decoder = Decoder()
        self._waiting: list[Frame] = []
        self._gate, self._idle = gate, 0

    def progressed(self) -> None:
        """Something new has arrived, or the operator begins something: the budget of idle turns is whole again."""
        self._idle = 0

    def _frames(self, timeout_s: float) -> list[Frame]:
        try:
            return self._decoder.feed(self._transport.read(timeout_s))
        except TransferError as error:
            raise AirError(str(error)) from error

    def _put(self, frame: Frame) -> None:
        try:
            self._transport.write(encode(frame))
        except TransferError as error:
            raise AirError(str(error)) from error

    def listen(self, timeout_s: float = _POLL_S) -> None:
        """Hand on whatever has come in."""
        for frame in (*self._waiting, *self._frames(timeout_s)):
            self._overheard(frame)
        self._waiting.clear()

    def _wait_radio(self, kind: AirKind) -> Frame:
        """Wait until the radio itself answers. Raises AirError."""
        until = time.monotonic() + self._pace.radio_s
        while time.monotonic() < until:
            frames = self._frames(_POLL_S)
            found = next((at for at, frame in enumerate(frames) if frame.kind == kind), None)
            if found is not None:
                self._waiting += [*frames[:found], *frames[found + 1 :]]
                return frames[found]
            self._waiting += frames
        raise AirError("The radio does not answer on its data port. Is it on, and is the cable in?")

    def send_turn(self, frames: list[Frame]) -> None:
        """Key, send frames one after another, and let go of the key; for no frames nothing is done.

        Raises MayNotSendError where the gate is shut, BrokenOffError where nothing has come of many turns, AirError where the
        radio does not key.
        """
        if not frames:
            return
        if reason := self._gate():
            raise MayNotSendError(reason)
        if self._idle >= MOST_IDLE_TURNS:
            raise BrokenOffError(
                f"Keyed {self._idle} times and nothing new has arrived. The radio stays silent; ask by voice what is wrong there."
            )
        self._idle += 1
        self._put(Frame(AirKind.KEY, 0))
        answer = self._wait_radio(AirKind.KEYED)
        if answer.payload:
            raise AirError(f"The radio does not key: {answer.payload.decode('utf-8', 'replace')}")
        try:
            for frame in frames:
                self._put(frame)
                self._wait_radio(AirKind.SENT)
        finally:
            self._put(Frame(AirKind.UNKEY, 0))

    def answer(self, outgoing: Outgoing, cancelled: Callable[[], bool]) -> None:
        """Wait for the far side's answer to a picture, or for silence."""
        until = time.monotonic() + self._pace.answer_s
        while time.monotonic() < until and not cancelled():
            frames, self._waiting = [*self._waiting, *self._frames(_POLL_S)], []
            for at, frame in enumerate(frames):
                if outgoing.hear(frame):
                    self._waiting += frames[at + 1 :]
                    return
                self._overheard(frame)
        outgoing.silence()


def send_text(port: AirPort, text: Text) -> None:
    """Send a text. It is not confirmed: only an answer proves it. Raises AirError."""
    port.progressed()
    port.send_turn([Frame(AirKind.TEXT, 1, text_payload(text))])


def send_picture(port: AirPort, outgoing: Outgoing, watched: Watched = Watched()) -> None:  # noqa: B008  (a frozen value)
    """Send a picture until it is there whole. Raises CancelledError between turns, BrokenOffError, NotTakenError, AirError."""
    port.progressed()
    most = -1
    while outgoing.under_way:
        if len(outgoing.have) > most:
            most = len(outgoing.have)
            port.progressed()
        if watched.cancelled():
            raise CancelledError(
                "The picture was stopped. What has arrived is kept there; sending it again goes on from here."
            )
        port.send_turn(outgoing.turn())
        port.answer(outgoing, watched.cancelled)
        watched.progress(len(outgoing.have), outgoing.offer.blocks, outgoing.blocks_sent)
    if outgoing.state != "done":
        raise _ended(outgoing)


def _ended(outgoing: Outgoing) -> MessageError:
    if outgoing.state == "refused":
        return NotTakenError(f"The far side does not take it: {outgoing.reason}")
    return BrokenOffError(outgoing.reason)
