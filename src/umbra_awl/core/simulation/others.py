"""Other people: conversations on groups, over after over, for as long as the world lasts."""

import math
from collections.abc import Generator

from simpy.events import Timeout

from umbra_awl.core.simulation.network import Place
from umbra_awl.core.simulation.parameters import Pattern
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.told import access_lane
from umbra_awl.core.simulation.world import World

_SPREAD = 0.5
"""Of the logarithm of an over's length."""


def conversations(
    world: World, group: str, pattern: Pattern, factors: tuple[float, ...]
) -> Generator[Timeout, None, None]:
    """Others on a group, for ever: a pause, then overs with gaps between, each by another of a few."""
    env, chance, figures = world.env, world.random(f"traffic {group}"), world.setting.figures
    if pattern.conversations_per_h <= 0:
        return
    rate = pattern.conversations_per_h / 3600
    idle = max(1 / rate - pattern.overs * (pattern.over_s + pattern.gap_s), 3 * pattern.gap_s)
    left = chance.randrange(1, int(pattern.overs) + 1) if chance.random() < pattern.busy else 0
    middle = math.log(pattern.over_s) - _SPREAD**2 / 2
    at_edge, unseen = " " not in group, world.book is None
    react_s, doubling, callers = figures["react_s"], figures["doubling_share"], world.setting.callers
    while True:
        if not left:
            factor = factors[int(world.setting.hour + env.now / 3600) % 24]
            yield Timeout(env, chance.expovariate(max(factor, 0.01) / idle))
            left = max(1, round(chance.gauss(pattern.overs, pattern.overs / 3)))
        pair = chance.sample(callers, min(len(callers), 3))
        while left:
            while world.speaker(group) is not None:
                yield Timeout(env, react_s)
            seconds = math.exp(chance.gauss(middle, _SPREAD))
            talk = TalkGroupPost(world.number(), pair[left % len(pair)], group, env.now, seconds)
            if chance.random() < doubling:
                world.lanes.doubled(talk)
            if at_edge and unseen and not world.carried.places(group, env.now):
                world.talking[group] = talk  # nobody here can hear it; that the group is in use is all there is to know
                left -= 1
                yield Timeout(env, seconds + pattern.gap_s)
                continue
            if at_edge:
                world.begin(talk)
                yield Timeout(env, seconds)
                world.end(talk)
            else:
                yield from _nearby(world, talk)
            left -= 1
            yield Timeout(env, pattern.gap_s * (0.6 + 0.8 * chance.random()))


def over(world: World, talk: TalkGroupPost) -> Generator[Timeout, None, None]:
    """One over: at a network's edge, or on the one access point that a local group is."""
    if " " not in talk.group:
        world.begin(talk)
        yield Timeout(world.env, talk.seconds)
        world.end(talk)
    else:
        yield from _nearby(world, talk)


def _nearby(world: World, talk: TalkGroupPost) -> Generator[Timeout, None, None]:
    """An over of somebody who keys the same access point; where it is taken, nobody hears it."""
    service = talk.group.partition(" ")[2]
    place, post = here(world, service, talk.group), world.posts.get(service)
    if post is None or post.refuses_up(place[1], world.now) is not None:
        yield Timeout(world.env, talk.seconds)
        return
    talk.origin = "here"
    post.take(talk, place[1], up=True)
    world.lanes.bar(access_lane(*place), talk, f"{talk.who} nearby")
    world.on_air(talk, place)
    yield Timeout(world.env, talk.seconds)
    world.free(talk, place)
    world.end(talk)


def here(world: World, service: str, group: str) -> Place:
    """Where a local group is heard: the slot of a channel of it, else the first."""
    for ear in world.setting.ears:
        if ear.service == service and ear.group == group:
            return (service, ear.slot)
    post = world.posts.get(service)
    return (service, next(iter(post.slots)) if post is not None else 0)


def start_traffic(world: World, factors: tuple[float, ...]) -> None:
    """Let everybody else begin."""
    for group, pattern in world.setting.patterns.items():
        world.env.process(conversations(world, group, pattern, factors))
