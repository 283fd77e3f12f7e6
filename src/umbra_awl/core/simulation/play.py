"""A scene played: the same beginning, seed and inputs give the same events, so time can be stepped back.

What the operator does is a list of inputs with their moments. Going forward adds to it; going back plays it anew up to there.
"""

from datetime import UTC, datetime, timedelta
from typing import Literal, NamedTuple
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from umbra_awl.core.simulation.controls import Controls
from umbra_awl.core.simulation.keyer import Keyer
from umbra_awl.core.simulation.others import over, start_traffic
from umbra_awl.core.simulation.parameters import hour_factors
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.told import Book, access_lane
from umbra_awl.core.simulation.world import Setting, World

What = Literal["press", "release", "turn", "zone", "key", "number"]


class PlayInput(NamedTuple):
    """Something the operator does at a moment: seconds, what, and with what."""

    at: float
    what: What
    value: str = ""


class Scripted(NamedTuple):
    """An over of somebody else that a scene wants at a moment: seconds, who, on which group, how long."""

    at: float
    who: str
    group: str
    seconds: float


class Play:
    """A world with its operator. `advance` lets time run; whatever is done is done at the present moment."""

    def __init__(
        self,
        setting: Setting,
        seed: int = 1,
        inputs: tuple[PlayInput, ...] = (),
        script: tuple[Scripted, ...] = (),
        *,
        traffic: bool = True,
    ) -> None:
        self.setting, self.seed, self.script, self.traffic = setting, seed, script, traffic
        self.inputs = list(inputs)
        self._begin()

    def _begin(self) -> None:
        self.book = Book()
        self.world = World(self.setting, self.seed, self.book)
        self.keyer = Keyer(self.world, lambda top, bottom: self.book.show(self.now, top, bottom))
        self.controls = Controls(self.world, self.keyer)
        self._next = 0
        for item in self.script:
            self.world.later(item.at, self._someone, item)
        if self.traffic:
            start_traffic(self.world, hour_factors())
        self.controls.show()

    def _someone(self, item: Scripted, _now: float) -> None:
        talk = TalkGroupPost(self.world.number(), item.who, item.group, self.world.now, item.seconds)
        self.world.env.process(over(self.world, talk))

    @property
    def now(self) -> float:
        """Seconds since the beginning."""
        return self.world.now

    def advance(self, until: float) -> None:
        """Let time run up to a moment, doing on the way what is in the list."""
        while self._next < len(self.inputs) and self.inputs[self._next].at <= until:
            item = self.inputs[self._next]
            self._next += 1
            self.world.run(item.at)
            self.controls.do(item.what, item.value)
        self.world.run(until)

    def do(self, what: What, value: str = "") -> None:
        """Do something now."""
        del self.inputs[self._next :]
        self.inputs.append(PlayInput(self.now, what, value))
        self._next += 1
        self.controls.do(what, value)
        self.controls.show()

    def back_to(self, moment: float) -> None:
        """Go back: what was done after that moment is undone."""
        self.inputs = [item for item in self.inputs if item.at <= moment]
        self._begin()
        self.advance(max(moment, 0.0))


def clock_words(setting: Setting, seconds: float, zone: str) -> str:
    """The far end's time of day at a moment, “19:40”, and whether it is night there; empty where its zone is not known."""
    there = _zone(zone)
    if there is None:
        return ""
    here = _zone(_own_zone(setting)) or UTC
    day = setting.index.today
    begun = datetime(day.year, day.month, day.day, tzinfo=here) + timedelta(hours=setting.hour)
    moment = (begun + timedelta(seconds=seconds)).astimezone(there)
    part = next(words for until, words in _PARTS if moment.hour < until)
    return f"{moment:%H:%M} {part}"


_PARTS = ((5, "night"), (9, "early"), (12, "morning"), (18, "day"), (23, "evening"), (24, "night"))


def _zone(name: str) -> ZoneInfo | None:
    try:
        return ZoneInfo(name) if name else None
    except (ZoneInfoNotFoundError, ValueError, OSError):
        return None


def _own_zone(setting: Setting) -> str:
    """The operator's own time zone, as the plan knows it from a hotspot."""
    return next((item.time_zone for item in setting.index.plan.hotspots if item.time_zone), "")


class Lane(NamedTuple):
    """A lane of the picture: its key, title, second line, and the far end's time zone where it is known."""

    key: str
    title: str
    more: str = ""
    zone: str = ""


def lanes_of(setting: Setting, route: str) -> tuple[Lane, ...]:
    """The lanes of a route, top to bottom: you, the radio, access with its slots, gateway, network, far listeners."""
    index = setting.index
    access, service, destination = index.parts(index.routes[route])
    post = setting.posts[service.key]
    made = [Lane("you", "You"), Lane("radio", index.radios[setting.radio].name)]
    how = "one frequency" if post.half else ""
    for slot in post.slots if access.kind != "simplex" else ():
        word = f"slot {slot}" if slot else how or access.kind
        title = access.by_site if slot in {0, post.slots[0]} else ""
        made.append(Lane(access_lane(service.key, slot), title, f"{word}{', ' + how if slot and how else ''}"))
    network = index.network_of(service)
    if service.mode == "dstar" and access.kind != "simplex":
        made.append(Lane("gateway", "Gateway"))
    if network is not None:
        made.append(Lane("network", network.name))
    zones = {item.name: item.time_zone for item in index.plan.destinations}
    for lane in setting.far.get(destination.key, ()):
        name = lane.removeprefix("far ")
        made.append(Lane(lane, name, "", zones.get(name, "")))
    return tuple(made)
