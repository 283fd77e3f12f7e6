"""What the network does once a key-up is over: echo, links, disconnects; and what is heard on the way."""

import math
from collections.abc import Callable, Mapping
from types import MappingProxyType
from typing import NamedTuple

from umbra_awl.core.plan.model import Destination, Route
from umbra_awl.core.plan.places import LINKS
from umbra_awl.core.simulation.network import Place
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.told import NETWORK, RADIO, Sound, SoundKind, access_lane
from umbra_awl.core.simulation.world import World


class AfterTarget(NamedTuple):
    """What a key-up goes through and to."""

    route: Route
    destination: Destination
    place: Place
    group: str


class After:
    """Carries out what a call asked for, after simulated time. `screen` is told what the display shows."""

    def __init__(self, world: World, screen: Callable[[str, str], object]) -> None:
        self._world, self._screen = world, screen
        self._identified: dict[str, float] = {}
        self._acts: Mapping[str, Callable[[AfterTarget, float], None]] = MappingProxyType(
            {
                "echo": self._echo,
                "disconnect": self._disconnect,
                "reflector": self._link,
                "direct": self._link,
                "dial": self._dial,
                "info": self._info,
            }
        )

    def heard_at(self, service: str) -> None:
        """An access point has heard an over to its end: it beeps, and identifies in Morse where that is due."""
        self.sound_later(0.3, "beep", "A short beep: the access point heard you.")
        world = self._world
        post = world.posts[service]
        due = self._identified.get(service, -math.inf) + world.setting.figures["morse_every_s"]
        if post.facts.kind == "repeater" and world.now >= due:
            self._identified[service] = world.now
            call = world.setting.index.services[service][0].by_call
            self.sound_later(1.2, "morse", f"Morse: {call}. You hear it, so it is in reach.")

    def do(self, target: AfterTarget, seconds: float) -> None:
        """Do what a call of so many seconds asked for; nothing where it asked for nothing but to be heard."""
        act = self._acts.get(target.destination.kind)
        if act is not None:
            act(target, seconds)

    def _echo(self, target: AfterTarget, seconds: float) -> None:
        """It plays back what was recorded, as long as it was."""
        self._world.later(self._world.setting.figures["echo_wait_s"], self._play_back, (target, max(seconds, 0.2)))

    def _play_back(self, what: tuple[AfterTarget, float], now: float) -> None:
        target, length = what
        world = self._world
        talk = TalkGroupPost(world.number(), "echo", target.group, now, length, "echo")
        post = world.posts[target.place[0]]
        refusal = post.refuses_down(talk, target.place[1], now)
        if refusal is not None:
            world.lanes.note(NETWORK, f"The echo finds no way back: {refusal.words}")
            return
        post.take(talk, target.place[1], up=False)
        world.lanes.bar(access_lane(*target.place), talk, "echo")
        world.lanes.bar(RADIO, talk, "your own voice")
        self.sound("echo", "Your own voice comes back.")
        self._screen("ECHO", world.lanes.short(target.group))
        world.later(length, self._end_of_echo, (talk, target.place))

    def _end_of_echo(self, what: tuple[TalkGroupPost, Place], _now: float) -> None:
        talk, place = what
        self._world.lanes.close(RADIO, talk)
        self._world.free(talk, place)

    def _disconnect(self, target: AfterTarget, _seconds: float) -> None:
        world, place = self._world, target.place
        gone = [world.lanes.name(group) for group in world.carried.drop(place)]
        link = world.carried.unlink(place[0])
        gone += [world.lanes.name(link)] if link else []
        world.lanes.note(NETWORK, f"drops {', '.join(gone)}" if gone else "nothing was joined or linked")
        self.sound_later(world.setting.figures["link_s"], "voice", "A voice: nothing is linked.")

    def _link(self, target: AfterTarget, _seconds: float) -> None:
        if target.route.slot == LINKS:
            self._world.later(self._world.setting.figures["link_s"], self._linked_now, target)

    def _dial(self, target: AfterTarget, _seconds: float) -> None:
        if target.destination.number is not None:
            self._world.later(self._world.setting.figures["link_s"], self._linked_now, target)

    def _linked_now(self, target: AfterTarget, _now: float) -> None:
        world = self._world
        world.carried.link(*target.place, target.group)
        world.lanes.note(NETWORK, f"{world.lanes.name(target.group)} is linked")
        self.sound("voice", "A voice confirms the link. Change to the talk memory.")

    def _info(self, _target: AfterTarget, _seconds: float) -> None:
        self.sound_later(self._world.setting.figures["link_s"], "voice", "A voice tells what is linked.")

    def sound(self, kind: SoundKind, words: str) -> None:
        """Something is heard."""
        if self._world.book is not None and words:
            self._world.book.sounds.append(Sound(self._world.now, kind, words))

    def sound_later(self, seconds: float, kind: SoundKind, words: str) -> None:
        """Something is heard after a while."""
        self._world.later(seconds, lambda _none, _now: self.sound(kind, words), None)
