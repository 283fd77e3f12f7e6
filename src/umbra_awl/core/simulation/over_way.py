"""The way of an over: access point, gateway, network, and who hears it there."""

import math
from typing import TYPE_CHECKING

from umbra_awl.core.plan.places import LINKS, is_pair
from umbra_awl.core.simulation.after import AfterTarget
from umbra_awl.core.simulation.keyed import Keyed
from umbra_awl.core.simulation.told import GATEWAY, NETWORK, RADIO, access_lane
from umbra_awl.core.trace.model import Hop, HopKind

if TYPE_CHECKING:
    from umbra_awl.core.simulation.keyer import Keyer


_MOST_FAR = 3


_ADVICE = {
    "deaf": "Wait for the gap: after an over it listens for about two seconds. A duplex board has a receiver of its own.",
    "slot": "Listen first; wait until the slot is free.",
    "doubling": "Listen first; leave a gap before you key.",
    "penalty": "Let go, and wait until it opens again.",
    "mode": "Wait until the other mode has been quiet for a while.",
}


class OverWay:
    """Follows an over hop by hop as the trace says, each after the time that it takes."""

    def __init__(self, owner: "Keyer") -> None:
        self._keyer = owner

    def at_access(self, keyed: Keyed, now: float) -> None:
        """The over arrives at the access point."""
        world, place = self._keyer.world, keyed.target.place
        if keyed.released:
            self._keyer.cut(keyed, RADIO, "too short: the path was not open yet", "Key, wait a second, then speak.")
            return
        stopped = self._keyer.stop_of(keyed, "access")
        if stopped is not None:
            self._keyer.stop(keyed, stopped, RADIO)
            return
        post = world.posts.get(place[0])
        if post is None:
            self._keyer.cut(keyed, RADIO, "this access point is not part of what is played")
            return
        refusal = post.refuses_up(place[1], now)
        if refusal is not None:
            keyed.talk.why = refusal.cause
            self._keyer.cut(keyed, RADIO, refusal.words, _ADVICE.get(refusal.cause, ""))
            return
        other = post.talk_on(place[1])
        if other is not None:
            world.lanes.note(access_lane(*place), f"{other.who} is pushed aside: it has a receiver of its own")
            world.free(other, place)
        post.take(keyed.talk, place[1], up=True)
        keyed.reached = "access"
        if post.facts.kind != "simplex":
            self._keyer.enter(keyed, access_lane(*place), "hears you")
        world.later(post.facts.time_out_s, self._keyer.access_times_out, keyed)
        self._hear_here(keyed)
        self._go_on(keyed)

    def _go_on(self, keyed: Keyed) -> None:
        """From the access point to gateway and network, as far as the trace says."""
        kinds = {hop.kind for hop in keyed.trace.hops}
        latency = self._keyer.world.setting.figures["latency_s"]
        if "gateway" in kinds:
            self._keyer.world.later(latency / 4, self._at_gateway, keyed)
        elif "network" in kinds:
            self._keyer.world.later(latency, self._at_network, keyed)
        else:
            self._hear_all(keyed)

    def _at_gateway(self, keyed: Keyed, _now: float) -> None:
        if self._met_stop(keyed, "gateway"):
            return
        self._keyer.enter(keyed, GATEWAY, "passes it on")
        keyed.reached = "gateway"
        self._keyer.world.later(self._keyer.world.setting.figures["latency_s"] * 3 / 4, self._at_network, keyed)

    def _at_network(self, keyed: Keyed, now: float) -> None:
        if self._met_stop(keyed, "network"):
            return
        world = self._keyer.world
        if world.random(f"loss {keyed.talk.number} {now}").random() < world.setting.figures["loss_share"]:
            keyed.talk.why = "lost"
            self._keyer.cut(keyed, GATEWAY, "lost on the way through the network")
            return
        other = world.speaker(keyed.target.group)
        if other is not None:
            self._join(keyed.target)
            self._keyer.cut(
                keyed, access_lane(*keyed.target.place), f"{other.who} speaks: one at a time", _ADVICE["slot"]
            )
            return
        keyed.reached = "network"
        self._keyer.enter(keyed, NETWORK, world.lanes.short(keyed.talk.group) or world.lanes.name(keyed.talk.group))
        self._do_at_network(keyed)

    def _met_stop(self, keyed: Keyed, kind: HopKind) -> bool:
        """Whether the trace stops here, or the operator had let go and the end has passed already."""
        stopped = self._keyer.stop_of(keyed, kind)
        if stopped is not None:
            self._keyer.stop(keyed, stopped, access_lane(*keyed.target.place))
            self._command_left_on(stopped)
        return stopped is not None or keyed.stopped is not None

    def _command_left_on(self, stopped: Hop) -> None:
        """A link command where CQCQCQ should be links again, each time."""
        if "command-left-on" in stopped.mends:
            self._keyer.world.lanes.note(NETWORK, stopped.text)
            self._keyer.after.sound_later(
                self._keyer.world.setting.figures["link_s"], "voice", "A voice confirms the link once more."
            )

    def _do_at_network(self, keyed: Keyed) -> None:
        """What the network does with the call while it lasts; what comes after it is done when the key is let go."""
        world, target = self._keyer.world, keyed.target
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
        world = self._keyer.world
        if target.destination.kind != "group" or self._mode(target) != "dmr":
            return
        if world.join(target.group, target.place):
            minutes = world.quiet_s(target.place) / 60
            words = f"joins {world.lanes.name(target.group)}"
            world.lanes.note(NETWORK, words + (f" for {minutes:.0f} min" if minutes < math.inf else ""))

    def stay(self, target: AfterTarget) -> None:
        """What one has joined leaves by its quiet time from the end of one's over, however long that was."""
        if target.destination.kind == "group" and self._mode(target) == "dmr":
            self._keyer.world.join(target.group, target.place)

    def _mode(self, target: AfterTarget) -> str:
        return self._keyer.world.setting.index.services[target.route.service][1].mode

    @staticmethod
    def _hear_all(keyed: Keyed) -> None:
        """Everybody whom the trace has hearing hears it."""
        if keyed.trace.broken is None:
            known = keyed.heard_by
            known += [item.who for item in keyed.trace.listeners if item.hears and item.who not in known]

    def _hear_here(self, keyed: Keyed) -> None:
        """Whoever listens to the access point itself hears it, where the trace ends well."""
        if keyed.trace.broken is None:
            where = self._keyer.world.posts[keyed.target.place[0]].facts.name
            here = [item.who for item in keyed.trace.listeners if item.hears and item.who.startswith(where)]
            keyed.heard_by += here

    def _hear_far(self, keyed: Keyed) -> None:
        """Everybody the trace knows of hears it after the way there, unless their slot carries another call."""
        world, target = self._keyer.world, keyed.target
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
                self._keyer.enter(keyed, lane, "hears you", world.setting.figures["latency_s"])
        keyed.reached = "far"
