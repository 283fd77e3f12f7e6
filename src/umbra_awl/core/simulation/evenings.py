"""Many evenings: which calls to me I would miss and why, how long I wait until I get in, by group and hour.

Each evening has a seed of its own; the same seed gives the same evening. Shares are ratios over all evenings; what they may be
off is 1.96 standard errors of a ratio estimator over evenings (Cochran, Sampling Techniques, 1977, section 6.4).
"""

import math
from collections import Counter
from collections.abc import Callable, Generator
from typing import NamedTuple

from simpy.events import Timeout

from umbra_awl.core.estimate.survey import best_reach, hand_of
from umbra_awl.core.facts.earth import Position, distance_km
from umbra_awl.core.simulation.keyer import Keyer
from umbra_awl.core.simulation.others import here, start_traffic
from umbra_awl.core.simulation.parameters import hour_factors
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.receiver import was_heard
from umbra_awl.core.simulation.world import Setting, World

COMMANDS = frozenset({"echo", "disconnect", "info", "dial"})
"""Destinations that are no place to talk."""
SPREAD_DB = 8.0
"""Spread of places around the median reach, as the estimate has it."""
WHY_WORDS = {
    "not carried": "not carried there: nobody keyed up on it",
    "slot": "another call held the slot",
    "held": "the slot was held for another group",
    "mode": "the hotspot served another mode",
    "own": "the hotspot listened to an over of its own",
    "other slot": "it came on the other slot",
    "group list": "not in the receive group list",
    "scan elsewhere": "the scan stood on another channel",
    "found too late": "the scan came by too late",
    "decoder taken": "the one decoder had another call",
    "another call": "another call was on the channel",
    "sending": "I was transmitting",
    "elsewhere": "the knob was on another access point",
    "out of reach": "out of reach of the access point",
}


class Cancelled(Exception):
    """The evenings were stopped."""


class Wait(NamedTuple):
    """One wish to get in: group, hour, seconds until it went, whether somebody was in the way, and whether a deaf hotspot was."""

    group: str
    hour: int
    seconds: float
    blocked: bool
    deaf: bool
    gave_up: bool


class Tally(NamedTuple):
    """What one evening gave."""

    calls: int
    missed: Counter[str]
    waits: tuple[Wait, ...]
    events: int = 0


class Share(NamedTuple):
    """A share, how far off it may be (95 % of the time), and of how many."""

    value: float
    off: float
    number: int

    def words(self) -> str:
        """“22 % ± 2”; a dash where there was nothing to count."""
        return f"{100 * self.value:.0f} % ± {max(100 * self.off, 0.5):.0f}" if self.number else "–"


class EveningRow(NamedTuple):
    """Waiting for one group in one hour: half got in within so many seconds, nine in ten within so many."""

    group: str
    hour: int
    half_s: float
    most_s: float
    number: int


class Evenings(NamedTuple):
    """The figures of many evenings, and the world and seed they are of."""

    setting: Setting
    seed: int
    number: int
    missed: Share
    reasons: tuple[tuple[str, Share], ...]
    blocked: Share
    deaf: Share
    gave_up: Share
    half_s: float
    most_s: float
    rows: tuple[EveningRow, ...]
    round_s: float


class _Evening:
    """One evening while it runs."""

    def __init__(self, setting: Setting, routes: tuple[str, ...], seed: int) -> None:
        self.world = World(setting, seed)
        self.routes = routes
        self.calls = 0
        self.missed: Counter[str] = Counter()
        self.waits: list[Wait] = []
        self._keyer = Keyer(self.world)

    def run(self) -> Tally:
        world, figures = self.world, self.world.setting.figures
        start_traffic(world, hour_factors())
        world.env.process(self._calls_to_me())
        world.env.process(self._wishes())
        world.run(3600 * figures["evening_h"])
        return Tally(self.calls, self.missed, tuple(self.waits))

    def _calls_to_me(self) -> Generator[Timeout, None, None]:
        """Somebody calls me on one of the groups on which I could be called, when it is free."""
        world, figures = self.world, self.world.setting.figures
        chance = world.random("calls to me")
        groups = list(world.setting.patterns)
        while groups:
            yield Timeout(world.env, chance.expovariate(figures["calls_to_me_per_h"] / 3600))
            group = groups[chance.randrange(len(groups))]
            patience = figures["patience_s"]
            while world.speaker(group) is not None and patience > 0:
                yield Timeout(world.env, figures["react_s"])
                patience -= figures["react_s"]
            if world.speaker(group) is not None:
                continue
            talk = TalkGroupPost(world.number(), "a call to me", group, world.now, figures["call_s"])
            talk.to_me = True
            yield from self._call(talk)

    def _call(self, talk: TalkGroupPost) -> Generator[Timeout, None, None]:
        world = self.world
        service = talk.group.partition(" ")[2]
        if not service:
            world.begin(talk)
            yield Timeout(world.env, talk.seconds)
            world.end(talk)
        else:
            place = here(world, service, talk.group)
            post = world.posts.get(service)
            if post is None or post.refuses_up(place[1], world.now) is not None:
                return  # they could not get in themselves: nobody called me
            post.take(talk, place[1], up=True)
            world.on_air(talk, place)
            yield Timeout(world.env, talk.seconds)
            world.free(talk, place)
        self.calls += 1
        if not was_heard(talk):
            self.missed[talk.why if talk.heard_s == 0 else "found too late"] += 1

    def _wishes(self) -> Generator[Timeout, None, None]:
        """Now and then I want to get in on one of my routes, and wait until it is free."""
        world, figures = self.world, self.world.setting.figures
        chance = world.random("wishes")
        sends = [key for key in self.routes if self._talks(key) and self._keyer.verdict(key).broken is None]
        while sends:
            yield Timeout(world.env, chance.expovariate(figures["keys_per_h"] / 3600))
            yield from self._wish(sends[chance.randrange(len(sends))])

    def _talks(self, route: str) -> bool:
        """Whether a route is one to talk on, and no command or test."""
        return self._keyer.target(route).destination.kind not in COMMANDS

    def _wish(self, route: str) -> Generator[Timeout, None, None]:
        world, figures = self.world, self.world.setting.figures
        target = self._keyer.target(route)
        began, deaf, blocked = world.now, False, False
        hour = int(world.setting.hour + began / 3600) % 24
        while True:
            refusal = world.posts[target.place[0]].refuses_up(target.place[1], world.now)
            if refusal is None and world.speaker(target.group) is None:
                break
            deaf = deaf or (refusal is not None and refusal.cause == "deaf")
            blocked = True
            if world.now - began > figures["patience_s"]:
                self.waits.append(Wait(target.group, hour, world.now - began, True, deaf, True))
                return
            yield Timeout(world.env, figures["react_s"])
        self.waits.append(Wait(target.group, hour, world.now - began, blocked, deaf, gave_up=False))
        self._keyer.press(route)
        yield Timeout(world.env, figures["call_s"])
        self._keyer.release()


def in_reach(setting: Setting) -> dict[str, float]:
    """How likely each access point is in reach from where the station is; 1 for one's own and where nothing is known.

    The margin of the reach estimate over its spread among places, as a normal distribution.
    """
    plan = setting.index.plan
    place, found = plan.station, {}
    for key in setting.posts:
        access, _service = setting.index.services[key]
        if access.kind in {"hotspot", "simplex"}:
            continue
        if place.lat is None or place.lon is None or access.lat is None or access.lon is None:
            continue
        km = distance_km(Position(place.lat, place.lon), Position(access.lat, access.lon))
        estimate = best_reach(access, km, hand_of(plan))
        if estimate is not None:
            found[key] = 0.5 * (1 + math.erf(estimate.margin_db / SPREAD_DB / math.sqrt(2)))
    return found


def one_evening(setting: Setting, routes: tuple[str, ...], seed: int, reach: dict[str, float]) -> Tally:
    """One evening. Pure: the same setting and seed give the same."""
    evening = _Evening(setting, routes, seed)
    chance = evening.world.random("reach")
    evening.world.out_of_reach = frozenset(key for key, share in reach.items() if chance.random() > share)
    return evening.run()


def many_evenings(
    setting: Setting,
    routes: tuple[str, ...],
    count: int,
    seed: int = 1,
    progress: Callable[[int, int], bool] = lambda _done, _all: True,
) -> Evenings:
    """The figures of many evenings. `progress` is told how many are done, and says whether to go on. Raises Cancelled."""
    reach = in_reach(setting)
    tallies = []
    for at in range(count):
        if not progress(at, count):
            raise Cancelled
        tallies.append(one_evening(setting, routes, seed * 1_000_003 + at, reach))
    return sum_up(setting, seed, tallies)


def sum_up(setting: Setting, seed: int, tallies: list[Tally]) -> Evenings:
    """The figures of some evenings."""
    calls = [item.calls for item in tallies]
    missed = [sum(item.missed.values()) for item in tallies]
    waits = [wait for item in tallies for wait in item.waits]
    wishes = [len(item.waits) for item in tallies]
    causes = Counter[str]()
    for item in tallies:
        causes.update(item.missed)
    reasons = tuple((key, share([item.missed[key] for item in tallies], calls)) for key, _n in causes.most_common())
    seconds = sorted(wait.seconds for wait in waits)
    return Evenings(
        setting,
        seed,
        len(tallies),
        share(missed, calls),
        reasons,
        share([sum(wait.blocked for wait in item.waits) for item in tallies], wishes),
        share([sum(wait.deaf for wait in item.waits) for item in tallies], wishes),
        share([sum(wait.gave_up for wait in item.waits) for item in tallies], wishes),
        _at(seconds, 0.5),
        _at(seconds, 0.9),
        _rows(waits),
        World(setting).receiver.round_s,
    )


def _rows(waits: list[Wait]) -> tuple[EveningRow, ...]:
    found: dict[tuple[str, int], list[float]] = {}
    for wait in waits:
        found.setdefault((wait.group, wait.hour), []).append(wait.seconds)
    made = (EveningRow(*key, _at(sorted(all_), 0.5), _at(sorted(all_), 0.9), len(all_)) for key, all_ in found.items())
    return tuple(sorted(made, key=lambda row: (row.group, row.hour)))


def _at(ordered: list[float], part: float) -> float:
    """The value that a part of all stays within; 0 of nothing."""
    return ordered[min(int(part * len(ordered)), len(ordered) - 1)] if ordered else 0.0


def share(parts: list[int], wholes: list[int]) -> Share:
    """The ratio of two sums over evenings, with 1.96 of its standard errors."""
    count, whole = len(wholes), sum(wholes)
    if not whole:
        return Share(0.0, 0.0, 0)
    ratio = sum(parts) / whole
    if count < 2:
        return Share(ratio, 1.0, whole)
    spread = sum((part - ratio * all_) ** 2 for part, all_ in zip(parts, wholes, strict=True))
    mean = whole / count
    return Share(ratio, 1.96 * math.sqrt(spread / (count * (count - 1))) / mean, whole)
