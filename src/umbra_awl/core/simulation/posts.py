"""An access point's service in time: its slots, one or two frequencies, hang time, time-out and its penalty.

A hotspot's services share one receiver and transmitter: it serves one mode at a time.
"""

import math
from typing import Literal, NamedTuple

from umbra_awl.core.facts.modes import Mode
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Service
from umbra_awl.core.trace.path import hotspot_of, listens, sends

Cause = Literal["deaf", "slot", "held", "mode", "penalty", "doubling", "own", "lost"]


class Refusal(NamedTuple):
    """Why an over does not get into an access point: the cause, and in words."""

    cause: Cause
    words: str


class PostFacts(NamedTuple):
    """What an access point's service is: `half` where it sends and listens on one frequency, times in seconds."""

    key: str
    access: str
    name: str
    mode: Mode
    kind: str
    half: bool
    slots: tuple[int, ...]
    hang_s: float
    mode_hang_s: float
    time_out_s: float
    penalty_s: float
    wake_s: float


def post_facts(index: PlanIndex, access: AccessPoint, service: Service, figures: dict[str, float]) -> PostFacts:
    """The facts of one service under the figures in force. A hotspot is as it is set, not as it should be."""
    hotspot = hotspot_of(index, access) if access.kind == "hotspot" else None
    half = listens(index, access, service)[0] == sends(index, access, service)[0]
    half = half or (hotspot is not None and not hotspot.duplex)
    slots = tuple(getattr(service.air, "slots", ())) if service.mode == "dmr" else ()
    hang = figures["hang_hotspot_s" if access.kind == "hotspot" else "hang_repeater_s"]
    return PostFacts(
        service.key,
        access.key,
        access.by_site,
        service.mode,
        access.kind,
        half and access.kind != "simplex",
        slots or (0,),
        hang if service.mode == "dmr" else 0.0,
        figures["mode_hang_s"],
        figures["time_out_s"] if access.kind in {"repeater", "hotspot"} else math.inf,
        figures["penalty_s"],
        figures["wake_s"] if access.kind in {"repeater", "hotspot"} else 0.0,
    )


class TalkGroupPost:
    """One over of somebody on a group; `seconds` is its length, infinite while nobody has let go."""

    __slots__ = ("call", "group", "heard_s", "mine", "number", "origin", "seconds", "starts", "to_me", "who", "why")

    def __init__(
        self, number: int, who: str, group: str, starts: float, seconds: float = math.inf, origin: str = "net"
    ) -> None:
        self.number, self.who, self.group, self.starts, self.seconds = number, who, group, starts, seconds
        self.origin = origin
        self.to_me = self.mine = False
        self.call = ""
        self.heard_s = 0.0
        self.why = ""


class _Slots(dict[int, "_Slot"]):
    """The slots by number; one that the access point does not use is there too, for whoever sends on it all the same."""

    def __missing__(self, slot: int) -> "_Slot":
        made = self[slot] = _Slot()
        return made


class HotspotPost:
    """What the services of one hotspot share."""

    __slots__ = ("mode", "until", "users")

    def __init__(self) -> None:
        self.mode, self.until, self.users = "", 0.0, 0


class _Slot:
    __slots__ = ("held_for", "held_until", "last_end", "shut_until", "talk", "up")

    def __init__(self) -> None:
        self.talk: TalkGroupPost | None = None
        self.up = False
        self.held_for, self.held_until, self.shut_until, self.last_end = "", 0.0, 0.0, -math.inf


class Post:
    """The state of one service. At most one over holds a slot; on one frequency, at most one holds the whole post."""

    def __init__(self, facts: PostFacts, board: HotspotPost) -> None:
        self.facts = facts
        self.board = board
        self._half, self._mode, self._hang_s = facts.half, facts.mode, facts.hang_s
        self.slots = _Slots({slot: _Slot() for slot in facts.slots})

    def talk_on(self, slot: int) -> TalkGroupPost | None:
        """The over on a slot."""
        return self.slots[slot].talk

    def going_out(self) -> bool:
        """Whether it sends just now on one frequency, and so hears nobody."""
        return self.facts.half and any(item.talk is not None and not item.up for item in self.slots.values())

    def busy(self, slot: int) -> bool:
        """Whether a radio that listens to this slot finds it taken."""
        return self.slots[slot].talk is not None

    def _on_half(self, place: "_Slot") -> TalkGroupPost | None:
        """The over that holds one frequency, on whichever slot it is."""
        if place.talk is not None:
            return place.talk
        return next((item.talk for item in self.slots.values() if item.talk is not None), None)

    def _other_mode(self, now: float) -> bool:
        board = self.board
        return board.mode not in {"", self.facts.mode} and (board.users > 0 or now < board.until)

    def refuses_down(self, talk: TalkGroupPost, slot: int, now: float) -> Refusal | None:
        """Why an over from the network is not sent out; None when it is."""
        place = self.slots[slot]
        if self.board.mode != self._mode and self._other_mode(now):
            return Refusal("mode", f"{self.facts.name} serves another mode just now")
        busy = self._on_half(place) if self._half else place.talk
        if busy is not None and self._half and busy.origin in {"you", "here"}:
            return Refusal("own", f"{self.facts.name} is listening to an over of its own")
        if busy is not None:
            return Refusal("slot", f"{_slot_words(slot)} carries another call")
        if now < place.held_until and place.held_for != talk.group:
            return Refusal("held", f"{_slot_words(slot)} is held for the call before")
        return None

    def refuses_up(self, slot: int, now: float) -> Refusal | None:
        """Why a key-up does not get in; None when it does.

        A key-up may take a slot over that is only held. A duplex hotspot has a receiver of its own: there the key-up of its owner
        takes the slot from what the network sends, which is how one leaves a busy group.
        """
        place = self.slots[slot]
        if now < place.shut_until:
            return Refusal("penalty", f"shut for {place.shut_until - now:.0f} s more after a time-out")
        if self.going_out():
            return Refusal("deaf", "deaf while it sends: it never hears you")
        if place.talk is not None and place.up:
            return Refusal("doubling", f"{place.talk.who} keyed first: both are spoilt or one is lost")
        if place.talk is not None and self.facts.kind != "hotspot":
            return Refusal("slot", f"{_slot_words(slot)} carries {place.talk.who}")
        if self._other_mode(now):
            return Refusal("mode", f"{self.facts.name} serves another mode just now")
        return None

    def take(self, talk: TalkGroupPost, slot: int, *, up: bool) -> None:
        """Let an over have a slot that is free."""
        place = self.slots[slot]
        assert place.talk is None  # noqa: S101  (one transmitter a slot, whatever happens around it)
        place.talk, place.up = talk, up
        self.board.mode = self._mode
        self.board.users += 1

    def give_back(self, talk: TalkGroupPost, slot: int, now: float, *, timed_out: bool = False) -> bool:
        """An over has ended; whether it held the slot."""
        place = self.slots[slot]
        if place.talk is not talk:
            return False
        place.talk, place.up, place.last_end = None, False, now
        place.held_for, place.held_until = talk.group, now + self._hang_s
        self.board.users -= 1
        self.board.until = now + self.facts.mode_hang_s
        if timed_out:
            self.shut(slot, now)
        return True

    def shut(self, slot: int, now: float) -> None:
        """Stay shut for the penalty of a time-out, counted from now."""
        self.slots[slot].shut_until = now + self.facts.penalty_s


def _slot_words(slot: int) -> str:
    return f"slot {slot}" if slot else "its one channel"
