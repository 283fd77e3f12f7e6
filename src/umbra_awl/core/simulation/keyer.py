"""One's own key-up in time. Whether it passes a hop is what the trace says of it; what time adds stands here.

The hops of a trace are met one after another: guard and radio when the key goes down, the access point when it has woken up,
gateway and network after the way there. An over that is let go before that never arrives.
"""

import math
from collections.abc import Callable

from umbra_awl.core.plan.radios import TIME_OUT_OFF
from umbra_awl.core.simulation.after import After, AfterTarget
from umbra_awl.core.simulation.ears import group_of, slot_on
from umbra_awl.core.simulation.keyed import Keyed
from umbra_awl.core.simulation.network import Place
from umbra_awl.core.simulation.over_way import OverWay
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.told import RADIO, YOU, Cut, SoundKind
from umbra_awl.core.simulation.world import World
from umbra_awl.core.trace.keyup import trace
from umbra_awl.core.trace.model import Hop, HopKind, Trace


class Keyer:
    """Sends what the operator keys, through the world. `screen` is told what the display shows."""

    def __init__(self, world: World, screen: Callable[[str, str], object] = lambda _top, _bottom: None) -> None:
        self.world, self._screen = world, screen
        self.way = OverWay(self)
        self.after = After(world, screen)
        self.now_keyed: Keyed | None = None
        self.done: list[Keyed] = []

    def verdict(self, route: str) -> Trace:
        """What the trace says of a key-up on a route's channel."""
        setting = self.world.setting
        if route not in setting.traces:
            setting.traces[route] = trace(setting.index, setting.fits, setting.radio, route)
        return setting.traces[route]

    def target(self, route: str) -> AfterTarget:
        """What a route's key-up goes through and to. Raises KeyError for a route that is not in the plan."""
        index = self.world.setting.index
        found = index.routes[route]
        destination = index.destinations[found.destination]
        place = (found.service, slot_on(index, found.service, found.slot))
        return AfterTarget(found, destination, place, group_of(destination, found.service))

    # pressing

    def press(self, route: str, admit: str = "always") -> Keyed:
        """The key goes down on a route's channel; `admit` is when the radio may key up."""
        world, said, target = self.world, self.verdict(route), self.target(route)
        talk = TalkGroupPost(world.number(), "you", target.group, world.now, origin="you")
        talk.mine = True
        keyed = Keyed(target, talk, said)
        hop = said.broken
        if hop is not None and hop.kind in {"you", "guard"}:
            self._refuse(keyed, hop.text, hop.detail, "error", hop.notice)
        elif admit != "always" and self._finds_taken(target.place):
            words = "the channel is in use: it waits for a gap"
            self._refuse(keyed, "denied", words, "denied", "Three short tones, and it does not send.")
        else:
            self._send(keyed)
        self.done.append(keyed)
        world.changed()
        return keyed

    def _finds_taken(self, place: Place) -> bool:
        """Whether the radio hears somebody on the slot that it wants."""
        post = self.world.posts.get(place[0])
        return post is not None and (post.busy(place[1]) or post.going_out())

    def _refuse(self, keyed: Keyed, reason: str, detail: str, sound: SoundKind, notice: str = "") -> None:
        """The radio does not send at all."""
        world = self.world
        keyed.stopped = Cut(keyed.talk.number, world.now, YOU, reason, detail, notice)
        keyed.released = True
        self.after.sound(sound, notice or detail)
        self._screen("DENIED" if sound == "denied" else "TX INHIBITED", reason)
        if world.book is not None:
            world.book.cuts.append(keyed.stopped)
            world.book.begin(YOU, world.now, reason, "lost", keyed.talk.number).end = world.now + 0.6

    def _send(self, keyed: Keyed) -> None:
        world = self.world
        self.now_keyed = keyed
        world.receiver.send(world.now)
        world.lanes.hush(sending=True)
        self.enter(keyed, YOU, "key")
        self.enter(keyed, RADIO, world.lanes.short(keyed.talk.group) or "sends")
        if self._time_out_s() < math.inf:
            world.later(self._time_out_s(), self._radio_times_out, keyed)
        stopped = self.stop_of(keyed, "radio")
        if stopped is not None:
            self.stop(keyed, stopped, RADIO)
            return
        world.later(self._wake_s(keyed), self.way.at_access, keyed)

    def _time_out_s(self) -> float:
        setting = self.world.setting
        own = setting.fits[setting.radio].memory.settings.time_out_s
        return math.inf if own == TIME_OUT_OFF else float(own or setting.figures["radio_time_out_s"])

    def _wake_s(self, keyed: Keyed) -> float:
        post = self.world.posts.get(keyed.target.place[0])
        return post.facts.wake_s if post is not None else 0.0

    # on the way

    def stop_of(self, keyed: Keyed, kind: HopKind) -> Hop | None:
        """The hop of a kind, where it is the one that stops the key-up."""
        broken = keyed.trace.broken
        return broken if broken is not None and broken.kind == kind else None

    # the end

    def release(self) -> None:
        """The key is let go."""
        keyed, world = self.now_keyed, self.world
        if keyed is None:
            return
        self.now_keyed = None
        keyed.released = True
        keyed.talk.seconds = world.now - keyed.talk.starts
        for lane, late in keyed.lanes:
            world.lanes.close(lane, keyed.talk, late)
        keyed.lanes.clear()
        self._let_go(keyed)
        if keyed.timed_out and keyed.target.place[0] in world.posts:
            world.posts[keyed.target.place[0]].shut(keyed.target.place[1], world.now)
        world.quiet(keyed.talk)
        world.receiver.sent(world.now)
        world.lanes.hush(sending=False)
        if keyed.stopped is not None:
            self.after.sound("quiet", keyed.stopped.notice or "Nothing comes back: no beep, no answer.")
        world.changed()

    def _let_go(self, keyed: Keyed, *, timed_out: bool = False) -> None:
        """The access point hears no more; commands are carried out now."""
        world, target = self.world, keyed.target
        post = world.posts.get(target.place[0])
        if post is not None and post.talk_on(target.place[1]) is keyed.talk:
            world.free(keyed.talk, target.place, timed_out=timed_out)
            if keyed.stopped is None and post.facts.kind in {"repeater", "hotspot"} and not timed_out:
                self.after.heard_at(target.place[0])
        if keyed.stopped is None and keyed.reached in {"network", "far"}:
            self.way.stay(target)
            self.after.do(target, keyed.talk.seconds - self._wake_s(keyed))

    def _radio_times_out(self, keyed: Keyed, _now: float) -> None:
        if self.now_keyed is keyed:
            keyed.timed_out = True
            self.cut(keyed, YOU, "the radio's time-out", "Let go between overs; a gap lets others in.")
            self.after.sound("error", "The time-out timer ends your over.")
            self.release()

    def access_times_out(self, keyed: Keyed, _now: float) -> None:
        """The access point has had enough of the over."""
        if self.now_keyed is keyed and keyed.stopped is None:
            keyed.timed_out = True
            penalty = self.world.setting.figures["penalty_s"]
            self.cut(
                keyed, RADIO, "time-out of the access point", f"It stays shut for {penalty:.0f} s after you let go."
            )
            self._let_go(keyed, timed_out=True)

    # what is told

    def enter(self, keyed: Keyed, lane: str, text: str, late_s: float = 0.0) -> None:
        """The over comes into a lane."""
        world, talk = self.world, keyed.talk
        near = lane in {YOU, RADIO} or lane.startswith("access")
        shift = 0.0 if near else world.now - talk.starts - self._wake_s(keyed) + late_s
        world.lanes.bar(lane, talk, text, -late_s)
        if keyed.released:
            world.lanes.close(lane, talk, talk.starts + talk.seconds + shift - world.now)
        else:
            keyed.lanes.append((lane, shift))

    def stop(self, keyed: Keyed, hop: Hop, lane: str) -> None:
        """The trace stops it here."""
        self.cut(keyed, lane, hop.text, hop.detail, hop.notice)

    def cut(self, keyed: Keyed, lane: str, reason: str, detail: str = "", notice: str = "") -> None:
        """The over goes no further, for a reason."""
        if keyed.stopped is not None:
            return
        keyed.stopped = Cut(keyed.talk.number, self.world.now, lane, reason, detail, notice)
        if self.world.book is not None:
            self.world.book.cuts.append(keyed.stopped)
