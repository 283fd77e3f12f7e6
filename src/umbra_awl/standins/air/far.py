"""The radio at the other end: a phone with its picture page, a card, somebody who answers or does not."""

from pathlib import Path
from typing import Any

from umbra_awl.core.keep.clock import RUNNING, Clock
from umbra_awl.core.messages.blocks import Arrived, IncomingPicture, Outgoing, make_offer
from umbra_awl.core.messages.frames import AirFormError, AirKind, Text, read_text, text_payload
from umbra_awl.core.messages.history import utc_stamp
from umbra_awl.core.transfer.frames import Frame

CALL = "Q3AMB"


class Far:
    """The far side. `open_page`, `receive`, `card` are what it needs to take a picture; `answers`: its owner answers texts."""

    def __init__(self, folder: Path, call: str = CALL, *, answers: bool = True, clock: Clock = RUNNING) -> None:
        self._clock = clock
        self.call, self._folder = call, folder
        self.open_page = self.receive = self.card = True
        self.answers = answers
        self.incoming = IncomingPicture(call, self.not_ready)
        self.outgoing: Outgoing | None = None
        self.to_say: list[Frame] = []
        self.awaits = False
        self._told = 0

    def not_ready(self) -> str:
        """Why a picture cannot be taken."""
        if not self.open_page:
            return "The picture page is not open there. Ask by voice, wait, send again."
        if not self.receive:
            return "Receiving is off there. Ask by voice, wait, send again."
        return "" if self.card else "There is no memory card in that radio. It has to be put in first."

    def hear(self, frame: Frame) -> list[dict[str, Any]]:
        """Take a frame from the air; what its owner sees of it."""
        if frame.kind == AirKind.TEXT:
            return self._text(frame)
        if self.outgoing is not None and self.outgoing.hear(frame):
            self.awaits = False
            return []
        self.to_say += self.incoming.hear(frame)
        seen = [self._keep(item) for item in self.incoming.arrived]
        self.incoming.arrived.clear()
        return seen

    def _text(self, frame: Frame) -> list[dict[str, Any]]:
        try:
            text = read_text(frame.payload)
        except AirFormError:
            return []
        if text.to not in {"", self.call}:
            return []
        if self.answers:
            self.say(f"Copied: {text.text[:40]}", text.call)
        return [{"event": "text", "call": text.call, "text": text.text, "position": text.position}]

    def _keep(self, arrived: Arrived) -> dict[str, Any]:
        self._told += 1
        path = self._folder / f"far-{self._told}.jpg"
        path.write_bytes(arrived.data)
        return {"event": "picture", "call": arrived.offer.call, "file": str(path), "bytes": len(arrived.data)}

    def say(self, text: str, to: str = "") -> None:
        """Have its owner send a text."""
        self.to_say.append(Frame(AirKind.TEXT, 0, text_payload(Text(self.call, text, to))))

    def show(self, data: bytes, to: str = "") -> None:
        """Have its owner send a picture."""
        offer = make_offer(data, self.call, to, (320, 240), "even", utc_stamp(self._clock.utc()))
        self.outgoing = Outgoing(data, offer)

    def turn(self) -> list[Frame]:
        """What it sends while the other side is silent."""
        said, self.to_say = self.to_say, []
        if self.outgoing is not None and self.outgoing.under_way:
            said += self.outgoing.turn()
            self.awaits = True
        return said
