"""The computer's side of the programming line: requests with sequence numbers, several under way, repeated when lost."""

import time
from collections import deque
from collections.abc import Sequence
from typing import NamedTuple, Protocol

from umbra_awl.core.transfer.errors import (
    CancelledError,
    LoadingError,
    RadioBatteryError,
    RadioError,
    RadioFullError,
    SilentError,
    WriteLockedError,
)
from umbra_awl.core.transfer.frames import (
    Decoder,
    Frame,
    FrameKind,
    LinkRefusal,
    block_payload,
    encode,
    read_payload,
    unpack_block,
    unpack_identity,
)
from umbra_awl.core.transfer.protocols import Block, RadioIdentity, Watch

WINDOW = 4
MOST_TRIES = 6
QUIET_SECONDS = 1.2


class Transport(Protocol):
    """A line that carries bytes both ways."""

    def write(self, data: bytes) -> None:
        """Send bytes. Raises UnpluggedError."""

    def read(self, timeout_s: float) -> bytes:
        """The bytes that have arrived, waiting up to a timeout in seconds; empty when none. Raises UnpluggedError."""

    def close(self) -> None:
        """Let go of the line."""


class Request(NamedTuple):
    """A frame to be answered: type and payload."""

    kind: FrameKind
    payload: bytes = b""


class _Sent:
    __slots__ = ("place", "request", "sequence", "tries")

    def __init__(self, place: int, request: Request, sequence: int) -> None:
        self.place = place
        self.request = request
        self.sequence = sequence
        self.tries = 1


class Link:
    """Speaks the framed protocol over a transport. One thread at a time."""

    def __init__(self, transport: Transport, *, quiet_s: float = QUIET_SECONDS) -> None:
        self._transport = transport
        self._decoder = Decoder()
        self._sequence = 0
        self._quiet_s = quiet_s
        self.repeats = 0

    def identify(self) -> RadioIdentity:
        """Ask the radio who it is. Raises TransferError."""
        payload = self.exchange([Request(FrameKind.IDENTIFY)])[0]
        try:
            return unpack_identity(payload)
        except ValueError:
            raise RadioError("The radio's identification is garbled. Check the cable, then try again.") from None

    def exchange(self, requests: Sequence[Request], watch: Watch = Watch()) -> list[bytes]:  # noqa: B008  (a frozen value)
        """Send requests, up to four under way at a time, and gather the payloads of their answers in order.

        Raises CancelledError between answers, SilentError when a request stays unanswered after six tries, and what the
        radio's refusal means.
        """
        answers: list[bytes] = [b""] * len(requests)
        waiting = deque(enumerate(requests))
        under_way: deque[_Sent] = deque()
        heard = time.monotonic()
        done = 0
        while waiting or under_way:
            if watch.cancelled():
                raise CancelledError("The transfer was stopped.")
            while waiting and len(under_way) < WINDOW:
                under_way.append(self._send(*waiting.popleft()))
            for frame in self._decoder.feed(self._transport.read(0.05)):
                sent = self._settle(frame, under_way)
                if sent is not None:
                    heard = time.monotonic()  # only an answer counts: a port that never stops talking is silence too
                    answers[sent.place] = frame.payload
                    done += 1
                    watch.progress(done, len(requests))
            if time.monotonic() - heard > self._quiet_s:
                heard = time.monotonic()
                self._repeat(list(under_way))
        return answers

    def read_blocks(self, places: Sequence[tuple[int, int]], watch: Watch = Watch()) -> list[bytes]:  # noqa: B008
        """What the radio holds at places (address, number of bytes). Raises TransferError."""
        requests = [Request(FrameKind.READ, read_payload(at, length)) for at, length in places]
        found: list[bytes] = []
        for request, answer in zip(requests, self.exchange(requests, watch), strict=True):
            at, data = unpack_block(answer) if len(answer) >= 4 else (0, b"")
            if request.payload != read_payload(at, len(data)):
                raise RadioError(
                    "The radio sent another block than was asked for. Switch it off and on, then try again."
                )
            found.append(data)
        return found

    def begin(self) -> None:
        """Tell the radio that writing begins. Raises TransferError."""
        self.exchange([Request(FrameKind.BEGIN)])

    def write_blocks(self, blocks: Sequence[Block], watch: Watch = Watch()) -> None:  # noqa: B008
        """Write blocks, several under way at a time. Raises TransferError."""
        self.exchange([Request(FrameKind.WRITE, block_payload(*block)) for block in blocks], watch)

    def end(self) -> None:
        """Tell the radio that all was written and read back. Raises TransferError."""
        self.exchange([Request(FrameKind.END)])

    def _send(self, place: int, request: Request) -> _Sent:
        self._sequence = (self._sequence + 1) & 0xFF
        sent = _Sent(place, request, self._sequence)
        self._transport.write(encode(Frame(request.kind, sent.sequence, request.payload)))
        return sent

    def _settle(self, frame: Frame, under_way: deque[_Sent]) -> _Sent | None:
        """The request that a frame answers. Earlier ones still open were lost (a radio answers in order): repeat them."""
        sent = next((item for item in under_way if item.sequence == frame.sequence), None)
        if sent is None:
            return None
        if frame.kind == FrameKind.REFUSED:
            raise refusal(frame.payload)
        if frame.kind != sent.request.kind | 0x80:
            return None
        lost = [item for item in under_way if item.place < sent.place and item.tries == sent.tries]
        under_way.remove(sent)
        if lost:
            self._repeat(lost)
        return sent

    def _repeat(self, lost: list[_Sent]) -> None:
        for sent in lost:
            if sent.tries >= MOST_TRIES:
                raise SilentError(
                    "The radio does not answer. Is it switched on, in programming state, and is this the right port and cable?"
                )
            sent.tries += 1
            self.repeats += 1
            self._transport.write(encode(Frame(sent.request.kind, sent.sequence, sent.request.payload)))


def refusal(payload: bytes) -> RadioError:
    """What a REFUSED payload means."""
    code = payload[0] if payload else 0
    text = payload[1:].decode("utf-8", "replace")
    if code == LinkRefusal.WRITE_LOCKED:
        return WriteLockedError("The radio is locked against writing. Unlock it in its menu, then write again.")
    if code == LinkRefusal.FULL:
        return RadioFullError(
            "The radio says its memory is full and took no more. Restore the backup, then free some room."
        )
    if code == LinkRefusal.LOADING:
        return LoadingError(
            "The radio is in loading state: its firmware is not whole. Load it at Transfer, Ports; the steps are the same."
        )
    if code == LinkRefusal.BATTERY:
        return RadioBatteryError(
            "The radio's battery is low. Charge it, or put it on its charger, before its firmware is loaded."
        )
    return RadioError(f"The radio refused{f': {text}' if text else ''}. Switch it off and on, then try again.")
