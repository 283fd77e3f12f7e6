"""A radio that listens in time: on one channel, on two with one decoder, or scanning a list; what it takes and what it misses."""

from collections.abc import Callable
from typing import Any, Literal, NamedTuple

from umbra_awl.core.simulation.ears import Heard, Listening
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.unheard import Unheard

StanceKind = Literal["channel", "watch", "scan"]
Later = Callable[..., Any]
ENOUGH_S = 2.0
ENOUGH_SHARE = 0.4


class Stance(NamedTuple):
    """How a radio listens: the places of its channels, the priority channel's (-1: none), how long a scan stays after a call."""

    kind: StanceKind
    channels: tuple[int, ...]
    priority: int = -1
    hang_s: float = 3.0


class Receiver:
    """Decodes one call at a time. `later(seconds, call, …)` has something called after simulated seconds."""

    def __init__(self, ears: tuple[Listening, ...], stance: Stance, figures: dict[str, float], later: Later) -> None:
        self.unheard = Unheard(self)
        self.ears, self._figures, self._later = ears, figures, later
        self.air: dict[TalkGroupPost, Heard] = {}
        self.talk: TalkGroupPost | None = None
        self.heard: Heard | None = None
        self.last: tuple[Heard, float] | None = None
        self.on_change: Callable[[TalkGroupPost, bool], object] = lambda _talk, _begins: None
        self._since = 0.0
        self._epoch = 0
        self.sending = False
        self.open_all = False
        self.stand(stance, 0.0)

    def stand(self, stance: Stance, now: float) -> None:
        """Listen otherwise from now on."""
        self._leave(now)
        self.stance = stance
        self.locked = stance.channels[0] if stance.kind != "scan" and stance.channels else -1
        self._dwells = [self._dwell(at) for at in stance.channels]
        self._first: dict[Heard, int] = {}
        for at in reversed(stance.channels):
            self._first.update(dict.fromkeys(self.ears[at].opens, at))
        self._round = sum(self._dwells)
        self._scan_from = now
        self._epoch += 1
        self._look(now)

    @property
    def round_s(self) -> float:
        """Seconds of one round of the scan with nobody on the air; 0 where it does not scan."""
        return self._round if self.stance.kind == "scan" else 0.0

    def _dwell(self, at: int) -> float:
        return self._figures["scan_fm_s" if self.ears[at].channel.mode == "fm" else "scan_digital_s"]

    def _opened(self, call: Heard) -> int:
        """The channel it listens to that a call opens; -1 for none. A locked scan has one channel, a radio that sends none."""
        if self.sending:
            return -1
        if self.stance.kind == "scan":
            at = self.locked
            return at if at >= 0 and self.opens(at, call) else -1
        found = self._first.get(call, -1)
        if found < 0 and self.open_all:
            return next((at for at in self.stance.channels if self.opens(at, call)), -1)
        return found

    def opens(self, at: int, call: Heard) -> bool:
        """Whether a call opens it."""
        ear = self.ears[at]
        return call in ear.opens or (self.open_all and call[:2] == (ear.service, ear.slot))

    def begins(self, talk: TalkGroupPost, call: Heard, now: float) -> None:
        """A call has come on the air."""
        self.air[talk] = call
        if self.talk is None and self._opened(call) >= 0:
            self._take(talk, call, now)
        elif self.stance.kind == "scan" and not self.sending and (call in self._first or self.open_all):
            self._seek(talk, call, now)
        if talk.to_me and self.talk is not talk:
            talk.why = self.unheard.why_not(call)

    def ends(self, talk: TalkGroupPost, now: float) -> None:
        """A call is over."""
        self.air.pop(talk, None)
        if self.talk is talk:
            self._leave(now)
            self._after(now)

    def send(self, now: float) -> None:
        """The radio begins to transmit: it hears nothing."""
        self._leave(now)
        self.sending = True
        self._epoch += 1

    def sent(self, now: float) -> None:
        """It has let go of the key."""
        self.sending = False
        self._scan_from = now
        self._epoch += 1
        self._look(now)

    def _take(self, talk: TalkGroupPost, call: Heard, now: float) -> None:
        self.talk, self.heard, self._since = talk, call, now
        self._epoch += 1
        self.on_change(talk, True)
        if self.stance.kind == "scan":
            self._look_for_priority(now)

    def _leave(self, now: float) -> None:
        if self.talk is None:
            return
        talk, call = self.talk, self.heard
        talk.heard_s += now - self._since
        self.talk = self.heard = None
        if call is not None:
            self.last = (call, now)
        self.on_change(talk, False)

    def _after(self, now: float) -> None:
        """What it does when the call it had is over: hear what else is there, or stay a while, then go on."""
        self._look(now)
        if self.stance.kind == "scan" and self.talk is None:
            self._later(self.stance.hang_s, self._resume, self._epoch)

    def _look(self, now: float) -> None:
        """Take up what is on the air already: late entry."""
        if self.talk is not None or self.sending:
            return
        for talk, call in tuple(self.air.items()):
            if self._opened(call) >= 0:
                self._take(talk, call, now)
                return
        if self.stance.kind == "scan" and self.locked < 0:
            for talk, call in tuple(self.air.items()):
                self._seek(talk, call, now)

    def _resume(self, epoch: int, now: float) -> None:
        if epoch == self._epoch and self.talk is None:
            self._scan_from = now
            self.locked = -1
            self._epoch += 1
            self._look(now)

    def _seek(self, talk: TalkGroupPost, call: Heard, now: float) -> None:
        """A scan comes by the channel of a call after part of a round, unless it stops elsewhere before."""
        if self.locked >= 0:
            self._seek_priority(talk, call, now)
            return
        offset = 0.0
        for at, dwell in zip(self.stance.channels, self._dwells, strict=True):
            if self.opens(at, call):
                wait = (offset - (now - self._scan_from)) % self._round
                self._later(wait + dwell, self._hit, (talk, at, self._epoch))
                return
            offset += dwell

    def _hit(self, found: tuple[TalkGroupPost, int, int], now: float) -> None:
        talk, at, epoch = found
        if epoch == self._epoch and self.talk is None and talk in self.air:
            self.locked = at
            self._take(talk, self.air[talk], now)

    def _look_for_priority(self, now: float) -> None:
        for talk, call in tuple(self.air.items()):
            if talk is not self.talk:
                self._seek_priority(talk, call, now)

    def _seek_priority(self, talk: TalkGroupPost, call: Heard, now: float) -> None:
        """A scan that stays on a channel looks at its priority channel now and then."""
        at, every = self.stance.priority, self._figures["priority_s"]
        if at >= 0 and at != self.locked and self.opens(at, call):
            wait = every - (now - self._since) % every
            self._later(wait, self._hit_priority, (talk, at))

    def _hit_priority(self, found: tuple[TalkGroupPost, int], now: float) -> None:
        talk, at = found
        if self.sending or talk not in self.air or self.locked == at or self.stance.priority != at:
            return
        self._leave(now)
        self.locked = at
        self._take(talk, self.air[talk], now)


def was_heard(talk: TalkGroupPost) -> bool:
    """Whether enough of a call was heard to notice it."""
    return talk.heard_s >= min(ENOUGH_S, ENOUGH_SHARE * talk.seconds)
