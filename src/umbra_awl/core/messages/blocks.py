"""A picture's way block by block: what the sender says next and what the receiver answers, without any line or clock.

The sender offers; the receiver says which blocks it has (none, or those that came before a break); the sender sends what is
missing and asks; so until all is there and its checksum holds. A picture is handed on whole or not at all.
"""

from collections.abc import Callable
from hashlib import sha256
from typing import Literal, NamedTuple

from umbra_awl.core.messages.frames import (
    ID_BYTES,
    AirFormError,
    AirKind,
    PictureOffer,
    block_payload,
    have_payload,
    offer_payload,
    read_block,
    read_have,
    read_offer,
)
from umbra_awl.core.transfer.frames import Frame

State = Literal["offering", "sending", "ending", "done", "refused", "broken"]
BLOCK_BYTES = 200
BURST = 16
MOST_SILENT = 6
MOST_REPEATS = 6
"""A picture's blocks are sent so many times over at the most; a side that needs more is not hearing."""
MOST_GIVEN_UP = 12
"""So many pictures in a row may be begun and not finished, or come whole and wrong; then no offer is answered until receiving is
switched on anew."""
MOST_PARTS = 8
"""A receiver keeps so many unfinished pictures; the oldest goes."""


def make_offer(data: bytes, call: str, to: str, size: tuple[int, int], quality: str, sent: str = "") -> PictureOffer:
    """The offer of a picture's bytes."""
    blocks = -(-len(data) // BLOCK_BYTES)
    return PictureOffer(call, to, *size, quality, len(data), blocks, BLOCK_BYTES, sha256(data).hexdigest(), sent)


class Outgoing:
    """The sender's side. `turn` gives the frames of one time on the air; then an answer is heard, or nothing."""

    def __init__(self, data: bytes, offer: PictureOffer, burst: int = BURST) -> None:
        self.offer, self._data, self._burst = offer, data, burst
        self.state: State = "offering"
        self.reason = ""
        self.have: set[int] = set()
        self.blocks_sent = 0
        self.turns = 0
        self._silent = 0

    @property
    def under_way(self) -> bool:
        """Whether there is more to say."""
        return self.state in {"offering", "sending", "ending"}

    @property
    def repeats(self) -> int:
        """Blocks that were sent more than once."""
        return max(0, self.blocks_sent - self.offer.blocks)

    def turn(self) -> list[Frame]:
        """What goes out the next time the transmitter is keyed; nothing where all is said."""
        self.turns += 1
        if self.state == "offering":
            return [self._frame(AirKind.OFFER, offer_payload(self.offer))]
        if self.state == "sending":
            if self._silent:
                return [
                    self._frame(AirKind.POLL, self.offer.key)
                ]  # what was sent may be there: ask before sending it again
            missing = [number for number in range(self.offer.blocks) if number not in self.have][: self._burst]
            if self.blocks_sent + len(missing) > MOST_REPEATS * self.offer.blocks + self._burst:
                self.state = "broken"
                self.reason = (
                    f"The far side asks for the same blocks again and again: {self.blocks_sent} sent of {self.offer.blocks}. "
                    "Nothing more goes out; ask by voice whether it hears you."
                )
                return []
            self.blocks_sent += len(missing)
            return [*map(self._block, missing), self._frame(AirKind.POLL, self.offer.key)]
        return [self._frame(AirKind.END, self.offer.key)] if self.state == "ending" else []

    def _frame(self, kind: AirKind, payload: bytes) -> Frame:
        return Frame(kind, self.turns & 0xFF, payload)

    def _block(self, number: int) -> Frame:
        size = self.offer.block
        data = self._data[number * size : (number + 1) * size]
        return self._frame(AirKind.BLOCK, block_payload(self.offer.key, number, data))

    def hear(self, frame: Frame) -> bool:
        """Take an answer; whether it was one to this picture. A garbled one counts as none."""
        try:
            return self._heard(frame)
        except AirFormError:
            return False

    def _heard(self, frame: Frame) -> bool:
        if frame.kind == AirKind.REFUSED and frame.payload[:ID_BYTES] == self.offer.key:
            self.state = "refused"
            self.reason = frame.payload[ID_BYTES:].decode("utf-8", "replace")
            return True
        if frame.kind == AirKind.DONE and frame.payload[:ID_BYTES] == self.offer.key:
            self.have = set(range(self.offer.blocks))
            self.state = "done"
            return True
        if frame.kind in {AirKind.READY, AirKind.HAVE} and self.under_way:
            key, held = read_have(frame.payload)
            if key != self.offer.key:
                return False
            self._silent = 0
            self.have = {number for number in held if number < self.offer.blocks}
            self.state = "ending" if len(self.have) == self.offer.blocks else "sending"
            return True
        return False

    def silence(self) -> None:
        """Nothing came back in time: say it again, or after a few times take it as broken off."""
        self._silent += 1
        if self._silent >= MOST_SILENT:
            self.state = "broken"
            self.reason = (
                "Nobody answers any more. What has arrived is kept there: send it again, and it goes on from here."
            )

    def again(self) -> None:
        """Go on after a break."""
        if self.state in {"broken", "refused"}:
            self.state, self._silent, self.reason, self.blocks_sent = "offering", 0, "", 0


class Arrived(NamedTuple):
    """A picture that came whole."""

    offer: PictureOffer
    data: bytes


class BlockPart:
    """A picture that has not come whole yet."""

    def __init__(self, offer: PictureOffer) -> None:
        self.offer = offer
        self.blocks: dict[int, bytes] = {}

    def take(self, number: int, data: bytes) -> bool:
        """Keep a block; one that cannot be of this picture is left. Whether it is a new one."""
        offer = self.offer
        last = number == offer.blocks - 1
        wanted = offer.length - number * offer.block if last else offer.block
        if not 0 <= number < offer.blocks or len(data) != wanted:
            return False
        new = number not in self.blocks
        self.blocks[number] = data
        return new

    def whole(self) -> bytes | None:
        """All of it where it is all there and its checksum holds; else the blocks are thrown away, if all were there."""
        if len(self.blocks) < self.offer.blocks:
            return None
        data = b"".join(self.blocks[number] for number in range(self.offer.blocks))
        if sha256(data).hexdigest() == self.offer.sha256:
            return data
        self.blocks.clear()
        return None


class IncomingPicture:
    """The receiver's side. `not_ready` says why a picture cannot be taken just now; empty when it can."""

    def __init__(self, call: str, not_ready: Callable[[], str]) -> None:
        self._call, self._not_ready = call, not_ready
        self.parts: dict[bytes, BlockPart] = {}
        self.arrived: list[Arrived] = []
        self.taken = 0
        """New blocks that came, over all pictures: progress."""
        self._given_up = 0
        self._done: dict[bytes, str] = {}

    def anew(self) -> None:
        """Receiving was switched on by hand: offers are answered again."""
        self._given_up = 0

    def hear(self, frame: Frame) -> list[Frame]:
        """Take a frame from the air; what is answered. Garbled ones and those of others are passed over."""
        try:
            return self._answers(frame)
        except AirFormError:
            return []

    def _answers(self, frame: Frame) -> list[Frame]:
        if frame.kind == AirKind.OFFER:
            return self._offered(frame)
        if frame.kind == AirKind.BLOCK:
            key, number, data = read_block(frame.payload)
            if key in self.parts:
                self.taken += self.parts[key].take(number, data)
            return []
        key = frame.payload[:ID_BYTES]
        if key in self._done and frame.kind in {AirKind.POLL, AirKind.END}:
            return [Frame(AirKind.DONE, frame.sequence, key)]
        part = self.parts.get(key)
        if part is None:
            return []
        if frame.kind == AirKind.END:
            return self._ended(frame, part)
        return [self._have(AirKind.HAVE, frame, part)] if frame.kind == AirKind.POLL else []

    def _offered(self, frame: Frame) -> list[Frame]:
        offer = read_offer(frame.payload)
        if offer.to not in {"", self._call}:
            return []
        if reason := self._not_ready():
            return [Frame(AirKind.REFUSED, frame.sequence, offer.key + reason.encode())]
        if self._done.get(offer.key) == offer.sha256:
            return [Frame(AirKind.DONE, frame.sequence, offer.key)]  # it is here already; only the answer was lost
        part = self.parts.get(offer.key)
        if part is None or part.offer != offer:
            if self._given_up >= MOST_GIVEN_UP:
                return []
            self._given_up += 1
            part = self.parts[offer.key] = BlockPart(offer)
            self._done.pop(offer.key, None)
        while len(self.parts) > MOST_PARTS:
            del self.parts[next(iter(self.parts))]
        return [self._have(AirKind.READY, frame, part)]

    @staticmethod
    def _have(kind: AirKind, frame: Frame, part: BlockPart) -> Frame:
        return Frame(kind, frame.sequence, have_payload(part.offer.key, set(part.blocks), part.offer.blocks))

    def _ended(self, frame: Frame, part: BlockPart) -> list[Frame]:
        full, data = len(part.blocks) == part.offer.blocks, part.whole()
        if data is None:
            self._given_up += (
                full  # all of it was there and it was another picture: asking anew must not go on for ever
            )
            if self._given_up >= MOST_GIVEN_UP:
                del self.parts[part.offer.key]
                return []
            return [self._have(AirKind.HAVE, frame, part)]
        self.arrived.append(Arrived(part.offer, data))
        self._done[part.offer.key] = part.offer.sha256
        self._given_up = 0
        del self.parts[part.offer.key]
        return [Frame(AirKind.DONE, frame.sequence, part.offer.key)]
