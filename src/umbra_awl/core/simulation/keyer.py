"""One's own key-up in time. Whether it passes a hop is what the trace says of it; what time adds stands here.

The hops of a trace are met one after another: guard and radio when the key goes down, the access point when it has woken up,
gateway and network after the way there. An over that is let go before that never arrives.
"""

import math
from collections.abc import Callable

from umbra_awl.core.plan.places import LINKS, is_pair
from umbra_awl.core.simulation.after import After, AfterTarget
from umbra_awl.core.simulation.ears import group_of, slot_on
from umbra_awl.core.simulation.network import Place
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.told import GATEWAY, NETWORK, RADIO, YOU, Cut, SoundKind, access_lane
from umbra_awl.core.simulation.world import World
from umbra_awl.core.trace.keyup import trace
from umbra_awl.core.trace.model import Hop, HopKind, Trace


class Keyed:
    """A key-up while it lasts: how far it has come, and who has heard it."""

    def __init__(self, target: AfterTarget, talk: TalkGroupPost, said: Trace) -> None:
        self.target, self.talk, self.trace = target, talk, said
        self.stopped: Cut | None = None
        self.reached: HopKind = "radio"
        self.released = False
        self.timed_out = False
        self.heard_by: list[str] = []
        self.lanes: list[tuple[str, float]] = []


class Keyer:
    """Sends what the operator keys, through the world. `screen` is told what the display shows."""

    def __init__(self, world: World, screen: Callable[[str, str], object] = lambda _top, _bottom: None) -> None:
        self._world, self._screen = world, screen
        self._after = After(world, screen)
        self.now_keyed: Keyed | None = None
        self.done: list[Keyed] = []

    def verdict(self, route: str) -> Trace:
        """What the trace says of a key-up on a route's channel."""
        setting = self._world.setting
        if route not in setting.traces:
            setting.traces[route] = trace(setting.index, setting.fits, setting.radio, route)
        return setting.traces[route]

    def target(self, route: str) -> AfterTarget:
        """What a route's key-up goes through and to. Raises KeyError for a route that is not in the plan."""
        index = self._world.setting.index
        found = index.routes[route]
        destination = index.destinations[found.destination]
        place = (found.service, slot_on(index, found.service, found.slot))
        return AfterTarget(found, destination, place, group_of(destination, found.service))

    # pressing

    def press(self, route: str, admit: str = "always") -> Keyed:
        """The key goes down on a route's channel; `admit` is when the radio may key up."""
        world, said, target = self._world, self.verdict(route), self.target(route)
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
        post = self._world.posts.get(place[0])
        return post is not None and (post.busy(place[1]) or post.going_out())

    def _refuse(self, keyed: Keyed, reason: str, detail: str, sound: SoundKind, notice: str = "") -> None:
        """The radio does not send at all."""
        world = self._world
        keyed.stopped = Cut(keyed.talk.number, world.now, YOU, reason, detail, notice)
        keyed.released = True
        self._after.sound(sound, notice or detail)
        self._screen("DENIED" if sound == "denied" else "TX INHIBITED", reason)
        if world.book is not None:
            world.book.cuts.append(keyed.stopped)
            world.book.begin(YOU, world.now, reason, "lost", keyed.talk.number).end = world.now + 0.6

    def _send(self, keyed: Keyed) -> None:
        world = self._world
        self.now_keyed = keyed
        world.receiver.send(world.now)
        world.lanes.hush(sending=True)
        self._enter(keyed, YOU, "key")
        self._enter(keyed, RADIO, world.lanes.short(keyed.talk.group) or "sends")
        world.later(self._time_out_s(), self._radio_times_out, keyed)
        stopped = self._stop_of(keyed, "radio")
        if stopped is not None:
            self._stop(keyed, stopped, RADIO)
            return
        world.later(self._wake_s(keyed), self._at_access, keyed)

    def _time_out_s(self) -> float:
        setting = self._world.setting
        own = setting.fits[setting.radio].memory.settings.time_out_s
        return float(own or setting.figures["radio_time_out_s"])

    def _wake_s(self, keyed: Keyed) -> float:
        post = self._world.posts.get(keyed.target.place[0])
        return post.facts.wake_s if post is not None else 0.0

    # on the way

    def _stop_of(self, keyed: Keyed, kind: HopKind) -> Hop | None:
        """The hop of a kind, where it is the one that stops the key-up."""
        broken = keyed.trace.broken
        return broken if broken is not None and broken.kind == kind else None

    def _at_access(self, keyed: Keyed, now: float) -> None:
        world, place = self._world, keyed.target.place
        if keyed.released:
            self._cut(keyed, RADIO, "too short: the path was not open yet", "Key, wait a second, then speak.")
            return
        stopped = self._stop_of(keyed, "access")
        if stopped is not None:
            self._stop(keyed, stopped, RADIO)
            return
        post = world.posts.get(place[0])
        if post is None:
            self._cut(keyed, RADIO, "this access point is not part of what is played")
            return
        refusal = post.refuses_up(place[1], now)
        if refusal is not None:
            keyed.talk.why = refusal.cause
            self._cut(keyed, RADIO, refusal.words, _ADVICE.get(refusal.cause, ""))
            return
        other = post.talk_on(place[1])
        if other is not None:
            world.lanes.note(access_lane(*place), f"{other.who} is pushed aside: it has a receiver of its own")
            world.free(other, place)
        post.take(keyed.talk, place[1], up=True)
        keyed.reached = "access"
        if post.facts.kind != "simplex":
            self._enter(keyed, access_lane(*place), "hears you")
        world.later(post.facts.time_out_s, self._access_times_out, keyed)
        self._hear_here(keyed)
        self._go_on(keyed)

    def _go_on(self, keyed: Keyed) -> None:
        """From the access point to gateway and network, as far as the trace says."""
        kinds = {hop.kind for hop in keyed.trace.hops}
        latency = self._world.setting.figures["latency_s"]
        if "gateway" in kinds:
            self._world.later(latency / 4, self._at_gateway, keyed)
        elif "network" in kinds:
            self._world.later(latency, self._at_network, keyed)
        else:
            self._hear_all(keyed)

    def _at_gateway(self, keyed: Keyed, _now: float) -> None:
        if self._met_stop(keyed, "gateway"):
            return
        self._enter(keyed, GATEWAY, "passes it on")
        keyed.reached = "gateway"
        self._world.later(self._world.setting.figures["latency_s"] * 3 / 4, self._at_network, keyed)

    def _at_network(self, keyed: Keyed, now: float) -> None:
        if self._met_stop(keyed, "network"):
            return
        world = self._world
        if world.random(f"loss {keyed.talk.number} {now}").random() < world.setting.figures["loss_share"]:
            keyed.talk.why = "lost"
            self._cut(keyed, GATEWAY, "lost on the way through the network")
            return
        other = world.speaker(keyed.target.group)
        if other is not None:
            self._join(keyed.target)
            self._cut(keyed, access_lane(*keyed.target.place), f"{other.who} speaks: one at a time", _ADVICE["slot"])
            return
        keyed.reached = "network"
        self._enter(keyed, NETWORK, world.lanes.short(keyed.talk.group) or world.lanes.name(keyed.talk.group))
        self._do_at_network(keyed)

    def _met_stop(self, keyed: Keyed, kind: HopKind) -> bool:
        """Whether the trace stops here, or the operator had let go and the end has passed already."""
        stopped = self._stop_of(keyed, kind)
        if stopped is not None:
            self._stop(keyed, stopped, access_lane(*keyed.target.place))
            self._command_left_on(stopped)
        return stopped is not None or keyed.stopped is not None

    def _command_left_on(self, stopped: Hop) -> None:
        """A link command where CQCQCQ should be links again, each time."""
        if "command-left-on" in stopped.mends:
            self._world.lanes.note(NETWORK, stopped.text)
            self._after.sound_later(
                self._world.setting.figures["link_s"], "voice", "A voice confirms the link once more."
            )

    def _do_at_network(self, keyed: Keyed) -> None:
        """What the network does with the call while it lasts; what comes after it is done when the key is let go."""
        world, target = self._world, keyed.target
        self._join(target)
        linked = world.carried.linked.get(target.place[0], "")
        if target.destination.kind == "local" and linked:
            world.lanes.note(NETWORK, f"goes on to {world.lanes.name(linked)}, which is linked")
        if target.destination.kind == "room" and world.carried.linked.get(target.place[0]) != target.group:
            world.carried.link(*target.place, target.group)
            world.lanes.note(NETWORK, f"{world.lanes.name(target.group)} is connected now")
        if not keyed.released:
            world.talking[target.group] = keyed.talk
        self._hear_far(keyed)

    def _join(self, target: AfterTarget) -> None:
        """A talk group that is not carried there yet joins by the key-up, and stays as long as it is used."""
        world = self._world
        if target.destination.kind != "group" or self._mode(target) != "dmr":
            return
        if world.join(target.group, target.place):
            minutes = world.quiet_s(target.place) / 60
            words = f"joins {world.lanes.name(target.group)}"
            world.lanes.note(NETWORK, words + (f" for {minutes:.0f} min" if minutes < math.inf else ""))

    def _stay(self, target: AfterTarget) -> None:
        """What one has joined leaves by its quiet time from the end of one's over, however long that was."""
        if target.destination.kind == "group" and self._mode(target) == "dmr":
            self._world.join(target.group, target.place)

    def _mode(self, target: AfterTarget) -> str:
        return self._world.setting.index.services[target.route.service][1].mode

    @staticmethod
    def _hear_all(keyed: Keyed) -> None:
        """Everybody whom the trace has hearing hears it."""
        if keyed.trace.broken is None:
            known = keyed.heard_by
            known += [item.who for item in keyed.trace.listeners if item.hears and item.who not in known]

    def _hear_here(self, keyed: Keyed) -> None:
        """Whoever listens to the access point itself hears it, where the trace ends well."""
        if keyed.trace.broken is None:
            where = self._world.posts[keyed.target.place[0]].facts.name
            here = [item.who for item in keyed.trace.listeners if item.hears and item.who.startswith(where)]
            keyed.heard_by += here

    def _hear_far(self, keyed: Keyed) -> None:
        """Everybody the trace knows of hears it after the way there, unless their slot carries another call."""
        world, target = self._world, keyed.target
        service = world.setting.index.services[target.route.service][1]
        pair = is_pair(service, target.destination)
        if pair and target.route.slot != LINKS and world.carried.linked.get(service.key) != target.group:
            linked = world.carried.linked.get(service.key, "")
            words = f"{world.lanes.name(linked)} is linked, and hears you" if linked else "nothing is linked"
            world.lanes.note(NETWORK, words + ("" if linked else ": heard on this module only"))
        else:
            self._hear_all(keyed)
            lanes = () if pair and target.route.slot == LINKS else world.setting.far.get(target.group, ())
            for lane in lanes[:_MOST_FAR]:
                self._enter(keyed, lane, "hears you", world.setting.figures["latency_s"])
        keyed.reached = "far"

    # the end

    def release(self) -> None:
        """The key is let go."""
        keyed, world = self.now_keyed, self._world
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
            self._after.sound("quiet", keyed.stopped.notice or "Nothing comes back: no beep, no answer.")
        world.changed()

    def _let_go(self, keyed: Keyed, *, timed_out: bool = False) -> None:
        """The access point hears no more; commands are carried out now."""
        world, target = self._world, keyed.target
        post = world.posts.get(target.place[0])
        if post is not None and post.talk_on(target.place[1]) is keyed.talk:
            world.free(keyed.talk, target.place, timed_out=timed_out)
            if keyed.stopped is None and post.facts.kind in {"repeater", "hotspot"} and not timed_out:
                self._after.heard_at(target.place[0])
        if keyed.stopped is None and keyed.reached in {"network", "far"}:
            self._stay(target)
            self._after.do(target, keyed.talk.seconds - self._wake_s(keyed))

    def _radio_times_out(self, keyed: Keyed, _now: float) -> None:
        if self.now_keyed is keyed:
            keyed.timed_out = True
            self._cut(keyed, YOU, "the radio's time-out", "Let go between overs; a gap lets others in.")
            self._after.sound("error", "The time-out timer ends your over.")
            self.release()

    def _access_times_out(self, keyed: Keyed, _now: float) -> None:
        if self.now_keyed is keyed and keyed.stopped is None:
            keyed.timed_out = True
            penalty = self._world.setting.figures["penalty_s"]
            self._cut(
                keyed, RADIO, "time-out of the access point", f"It stays shut for {penalty:.0f} s after you let go."
            )
            self._let_go(keyed, timed_out=True)

    # what is told

    def _enter(self, keyed: Keyed, lane: str, text: str, late_s: float = 0.0) -> None:
        """The over comes into a lane."""
        world, talk = self._world, keyed.talk
        near = lane in {YOU, RADIO} or lane.startswith("access")
        shift = 0.0 if near else world.now - talk.starts - self._wake_s(keyed) + late_s
        world.lanes.bar(lane, talk, text, -late_s)
        if keyed.released:
            world.lanes.close(lane, talk, talk.starts + talk.seconds + shift - world.now)
        else:
            keyed.lanes.append((lane, shift))

    def _stop(self, keyed: Keyed, hop: Hop, lane: str) -> None:
        """The trace stops it here."""
        self._cut(keyed, lane, hop.text, hop.detail, hop.notice)

    def _cut(self, keyed: Keyed, lane: str, reason: str, detail: str = "", notice: str = "") -> None:
        if keyed.stopped is not None:
            return
        keyed.stopped = Cut(keyed.talk.number, self._world.now, lane, reason, detail, notice)
        if self._world.book is not None:
            self._world.book.cuts.append(keyed.stopped)


_MOST_FAR = 3
_ADVICE = {
    "deaf": "Wait for the gap: after an over it listens for about two seconds. A duplex board has a receiver of its own.",
    "slot": "Listen first; wait until the slot is free.",
    "doubling": "Listen first; leave a gap before you key.",
    "penalty": "Let go, and wait until it opens again.",
    "mode": "Wait until the other mode has been quiet for a while.",
}
