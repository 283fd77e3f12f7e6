"""The simulated world: access points, what is carried where, one radio, and everybody else. Time is SimPy's and no other.

An over of somebody else begins at the edge of the network; its bars further out are drawn as much earlier as the way takes.
"""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from random import Random
from typing import Any

from simpy import Environment
from simpy.events import Timeout

from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.simulation.drawn import DrawnLanes
from umbra_awl.core.simulation.ears import Listening
from umbra_awl.core.simulation.network import Carried, Place
from umbra_awl.core.simulation.parameters import Pattern
from umbra_awl.core.simulation.posts import HotspotPost, Post, PostFacts, Refusal, TalkGroupPost
from umbra_awl.core.simulation.receiver import Receiver, Stance
from umbra_awl.core.simulation.told import NETWORK, RADIO, Book, Cut, access_lane
from umbra_awl.core.trace.model import Trace


@dataclass(frozen=True)
class Setting:
    """What of a plan the world is made of; nothing of it changes while time runs.

    `carried` are groups with the place where they go out and how: “always”, “link” or “joined”. `patterns` say how much others
    talk on a group, `far` on which lanes they are, `callers` what they are called; `profile` is the radio's. `traces` are those
    asked for so far.
    """

    index: PlanIndex
    fits: Mapping[str, Fit]
    radio: str
    figures: dict[str, float]
    posts: Mapping[str, PostFacts]
    ears: tuple[Listening, ...]
    stance: Stance
    carried: tuple[tuple[str, Place, str], ...] = ()
    patterns: Mapping[str, Pattern] = field(default_factory=dict)
    far: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    callers: tuple[str, ...] = ("somebody",)
    hour: float = 19.0
    profile: Profile | None = None
    traces: dict[str, Trace] = field(default_factory=dict)


class SimulatedClock(Environment):
    """SimPy's clock, which can be led to a moment without the rounding of a time span added to a time."""

    def lead_to(self, moment: float) -> None:
        """Do everything up to and with a moment; the clock stands on it then, to the last bit."""
        queue, step = self._queue, self.step
        while queue and queue[0][0] <= moment:
            step()
        self._now = max(moment, self._now)


class World:
    """Everything that acts. `book` remembers what happens, where somebody wants to see it."""

    def __init__(self, setting: Setting, seed: int = 1, book: Book | None = None) -> None:
        self.setting, self.seed, self.book = setting, seed, book
        self.env = SimulatedClock()
        boards: dict[str, HotspotPost] = {}
        self.posts = {
            key: Post(facts, boards.setdefault(facts.access if facts.kind == "hotspot" else key, HotspotPost()))
            for key, facts in setting.posts.items()
        }
        self.carried = Carried()
        self.receiver = Receiver(setting.ears, setting.stance, setting.figures, self.later)
        self.lanes = DrawnLanes(self)
        self.receiver.on_change = self.lanes.radio_changed
        self.talking: dict[str, TalkGroupPost] = {}
        self.out_of_reach: frozenset[str] = frozenset()
        self.changed: Callable[[], object] = lambda: None
        self._count = 0
        self._out: dict[TalkGroupPost, list[Place]] = {}
        for group, place, how in setting.carried:
            self._carry(group, place, how)

    def _carry(self, group: str, place: Place, how: str) -> None:
        if how == "always":
            self.carried.always(group, place)
        elif how == "link":
            self.carried.link(*place, group)
        else:
            self.join(group, place)

    @property
    def now(self) -> float:
        """Seconds since the beginning."""
        return float(self.env.now)

    def random(self, name: str) -> Random:
        """A source of chance of its own for each name, so that one thing changed does not change all others."""
        return Random(f"{self.seed} {name}")  # noqa: S311  (a simulation, nothing secret)

    def later(self, seconds: float, call: Callable[..., object], what: Any) -> None:
        """Have `call(what, now)` called after some seconds."""

        def happen(_event: Any) -> None:
            call(what, self.env.now)

        Timeout(self.env, max(seconds, 0.0)).callbacks.append(happen)

    def number(self) -> int:
        """A number for a new over."""
        self._count += 1
        return self._count

    def run(self, until: float) -> None:
        """Let time run."""
        self.env.lead_to(until)

    # what is carried

    def quiet_s(self, place: Place) -> float:
        """After how many seconds a group joined on demand leaves a place again."""
        index = self.setting.index
        network = index.network_of(index.services[place[0]][1])
        return 60.0 * network.quiet_minutes if network is not None and network.quiet_minutes else math.inf

    def join(self, group: str, place: Place) -> bool:
        """Carry a group on demand until its quiet time is over; whether it is new there."""
        quiet = self.quiet_s(place)
        fresh = self.carried.join(group, place, self.now + quiet)
        if quiet < math.inf and self.book is not None:
            self.later(quiet, self._expire, (group, place))
        return fresh

    def _expire(self, what: tuple[str, Place], now: float) -> None:
        group, place = what
        if self.carried.expire(group, place, now):
            self.lanes.note(access_lane(*place), f"{self.lanes.name(group)} leaves after its quiet time")

    # overs of others

    def begin(self, talk: TalkGroupPost) -> None:
        """Somebody on a group begins, as the edge of the network has it; it goes out wherever the group is carried."""
        self.talking[talk.group] = talk
        if self.book is not None:
            self.lanes.draw_far(talk)
        out = [place for place in self.carried.places(talk.group, self.env.now) if self.send_out(talk, place)]
        if out:
            self._out[talk] = out
        elif talk.to_me and not talk.why:
            talk.why = "not carried"

    def end(self, talk: TalkGroupPost) -> None:
        """They have let go."""
        self.quiet(talk)
        for place in self._out.pop(talk, ()):
            self.free(talk, place)
        if self.book is not None:
            self.lanes.close_all(talk)

    def speaker(self, group: str) -> TalkGroupPost | None:
        """Who has the group on the network just now."""
        talk = self.talking.get(group)
        return talk if talk is not None and talk.starts + talk.seconds > self.env.now else None

    def quiet(self, talk: TalkGroupPost) -> None:
        """The network hears no more of an over: its group is free again."""
        if self.talking.get(talk.group) is talk:
            del self.talking[talk.group]

    def send_out(self, talk: TalkGroupPost, place: Place) -> bool:
        """Send an over out at a place, if it is free there."""
        post = self.posts.get(place[0])
        if post is None:
            return False
        refusal = post.refuses_down(talk, place[1], self.env.now)
        if refusal is not None:
            self._refused(talk, refusal)
            return False
        post.take(talk, place[1], up=False)
        if self.book is not None:
            self.lanes.bar(access_lane(*place), talk, f"{talk.who} {self.lanes.short(talk.group)}".strip())
        self.on_air(talk, place)
        return True

    def on_air(self, talk: TalkGroupPost, place: Place) -> None:
        """A call leaves an access point: the radio may hear it, where it is in reach."""
        if place[0] in self.out_of_reach:
            talk.why = "out of reach"
            return
        call = (*place, talk.group)
        self.receiver.begins(talk, call, self.env.now)
        if self.book is not None:
            self.lanes.draw_unheard(talk, call)
            self.changed()

    def free(self, talk: TalkGroupPost, place: Place, *, timed_out: bool = False) -> None:
        """An over at a place is over."""
        if self.posts[place[0]].give_back(talk, place[1], self.env.now, timed_out=timed_out):
            self.receiver.ends(talk, self.env.now)
            if self.book is not None:
                self.lanes.close(access_lane(*place), talk)
                if not talk.mine:
                    self.lanes.close(RADIO, talk)
                self.changed()

    def _refused(self, talk: TalkGroupPost, refusal: Refusal) -> None:
        talk.why = refusal.cause
        if self.book is not None:
            self.book.cuts.append(Cut(talk.number, self.now, NETWORK, refusal.words))

    # what is drawn
