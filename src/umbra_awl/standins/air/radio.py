"""The radio on the data port: it keys when told, lets go by itself when nobody speaks to it, and loses what the air loses."""

import random
import time
from collections.abc import Callable, Iterator
from typing import Any

from umbra_awl.core.messages.frames import OVER_THE_AIR, AirKind
from umbra_awl.core.transfer.frames import Frame, encode
from umbra_awl.standins.air.far import Far

ANSWER_S = 3.0
_WITH_VOICE_BPS = 950


class AirRadio:
    """Both radios and what lies between. Times in seconds; `speed` makes the air faster than it is.

    `rate_bps` is the useful rate without speech, `slow_bps` with it; `loss` the share of frames that are lost, each way.
    """

    def __init__(
        self, far: Far, rate_bps: int, *, slow_bps: int = 950, speed: float = 1.0, watchdog_s: float = 2.0
    ) -> None:
        self.far = far
        self._rates, self._speed, self._watchdog_s = (rate_bps, slow_bps), speed, watchdog_s
        self.loss = 0.0
        self.away = self.voice = False
        self.inhibited = ""
        self.break_at = 0
        self.keyed = False
        self.keyed_s = 0.0
        self._since = self._heard = time.monotonic()
        self._silent_since = time.monotonic()
        self._chance = random.Random(1)  # noqa: S311  (a simulated air)
        self._blocks = 0

    def seconds(self, frame: Frame) -> float:
        """How long a frame is on the air."""
        return len(encode(frame)) * 8 / self._rates[self.voice] / self._speed

    def answer(self, frame: Frame, tell: Callable[[dict[str, Any]], None]) -> Iterator[Frame]:
        """Do what a frame from the computer asks; what the radio answers, after the time it takes."""
        self._heard = time.monotonic()
        if frame.kind == AirKind.KEY:
            if not self.inhibited:
                self._key(tell)
            yield Frame(AirKind.KEYED, frame.sequence, self.inhibited.encode())
        elif frame.kind == AirKind.UNKEY:
            self._unkey(tell, "computer")
        elif frame.kind in OVER_THE_AIR and self.keyed:
            time.sleep(self.seconds(frame))
            self._heard = time.monotonic()
            yield Frame(AirKind.SENT, frame.sequence)
            self._pass_on(frame, tell)

    def _pass_on(self, frame: Frame, tell: Callable[[dict[str, Any]], None]) -> None:
        if frame.kind == AirKind.BLOCK:
            self._blocks += 1
            if self._blocks == self.break_at:
                self.away = True
                tell({"event": "away", "on": True})
        if not self.away and self._chance.random() >= self.loss:
            for seen in self.far.hear(frame):
                tell(seen)

    def _key(self, tell: Callable[[dict[str, Any]], None]) -> None:
        if not self.keyed:
            self.keyed, self._since = True, time.monotonic()
            tell({"event": "keyed", "on": True, "by": "computer"})

    def _unkey(self, tell: Callable[[dict[str, Any]], None], who: str) -> None:
        if self.keyed:
            self.keyed = False
            self.keyed_s += time.monotonic() - self._since
            self._silent_since = time.monotonic()
            tell({"event": "keyed", "on": False, "by": who})

    def watch(self, tell: Callable[[dict[str, Any]], None]) -> None:
        """Let go of the key when the computer has been silent for too long."""
        if self.keyed and time.monotonic() - self._heard > self._watchdog_s:
            self._unkey(tell, "watchdog")

    def far_speaks(self) -> Iterator[Frame]:
        """What comes in from the far side while this one is silent."""
        if self.keyed or time.monotonic() - self._silent_since < 0.1 / self._speed:
            return
        out = self.far.outgoing
        if out is not None and out.under_way and not self.far.to_say:
            if self.far.awaits and time.monotonic() - self._silent_since < ANSWER_S / self._speed:
                return
            if self.far.awaits:
                out.silence()
        for frame in self.far.turn():
            time.sleep(self.seconds(frame))
            if not self.away and self._chance.random() >= self.loss:
                yield frame
        self._silent_since = time.monotonic()

    def order(self, told: dict[str, Any]) -> None:
        """Do what hands at the far side, or the weather, are told to do."""
        what, on = told.get("do"), bool(told.get("on", True))
        if what in {"open_page", "receive", "card", "answers"}:
            setattr(self.far, str(what), on)
        elif what in {"away", "voice"}:
            setattr(self, str(what), on)
        elif what == "loss":
            self.loss = min(max(float(told.get("share", 0.0)), 0.0), 0.95)
        elif what == "break_at":
            self.break_at = self._blocks + int(told.get("blocks", 0))
        elif what == "rate" and int(told.get("bps", 0)) > 0:
            self._rates = (int(told["bps"]), min(int(told["bps"]), _WITH_VOICE_BPS))
        elif what == "inhibit":
            self.inhibited = str(told.get("why", ""))
        elif what == "say":
            self.far.say(str(told.get("text", "")), str(told.get("to", "")))
