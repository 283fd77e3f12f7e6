"""Who has which way of being said: given one after another, each apart from the others, exchanged where that is cheaper."""

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from umbra_awl.core.routes.apart import Spoken
from umbra_awl.core.routes.ways import RouteWay

NO_WAY = 60.0
"""What it costs to have no way that fits."""


class Code(NamedTuple):
    """What a site or a destination is called, and whether its best way was another's."""

    said: str
    apart: bool
    cost: float


class AssignedSide:
    """The sites, or the destinations, of a display: who has which way, and whose text is taken."""

    def __init__(self, ways: Mapping[str, tuple[RouteWay, ...]], given: Mapping[str, str]) -> None:
        self._ways = ways
        self._has: dict[str, tuple[RouteWay, bool]] = {}
        self._limits: dict[str, int] = {}
        self._least: dict[str, list[float]] = {}
        self._spoken = Spoken()
        self._fixed = {key: said for key, said in given.items() if key in ways}
        for key, said in self._fixed.items():
            way = next((item for item in ways[key] if item.text == said), RouteWay(said, 0.0, False))
            self._take(key, way, apart=False)

    def said(self, key: str) -> str:
        """What somebody is called now."""
        return self._has[key][0].text

    def price(self, key: str) -> float:
        """What its way costs."""
        return self._has[key][0].cost

    def codes(self) -> dict[str, Code]:
        """All codes."""
        return {key: Code(way.text, apart, way.cost) for key, (way, apart) in self._has.items()}

    def cost(self, weights: Mapping[str, int]) -> float:
        """What all cost, each as often as it is shown."""
        return sum(self._has[key][0].cost * weight for key, weight in weights.items())

    def choose(self, limits: dict[str, int], weights: Mapping[str, int]) -> float:
        """Give each a way within its limit, those with the least choice first; what it costs."""
        self._limits.update(limits)
        keys = [key for key in limits if key not in self._fixed]
        fitting = {key: [way for way in self._ways[key] if len(way.text) <= limits[key]] for key in keys}
        for key in sorted(keys, key=lambda item: -_regret(fitting[item], weights[item])):
            self._give(key, fitting[key], fitting, weights)
        return sum(weights[key] * self._has[key][0].cost for key in limits)

    def drop(self, keys: Iterable[str]) -> None:
        """Take the ways of some back, but for those given before."""
        for key in keys:
            if key not in self._fixed:
                self._release(key)

    def better(self, key: str, room: int) -> None:
        """Take the best way that fits so many characters and meets nobody."""
        if key in self._fixed:
            return
        now, _apart = self._has[key]
        for way in self._ways[key]:
            if way.cost >= now.cost:
                return
            if len(way.text) <= room and self._spoken.free(key, way):
                self._release(key)
                self._take(
                    key,
                    way,
                    apart=any(len(item.text) <= room for item in self._ways[key][: self._ways[key].index(way)]),
                )
                return

    def shorter(self, key: str) -> list[RouteWay]:
        """Its way, and the cheapest free one of each shorter length."""
        now, _apart = self._has[key]
        best = {len(now.text): now}
        for way in self._ways[key] if key not in self._fixed else ():
            if len(way.text) < len(now.text) and len(way.text) not in best and self._spoken.free(key, way):
                best[len(way.text)] = way
        return list(best.values())

    def least(self, key: str, room: int) -> float:
        """What its cheapest way within so many characters costs."""
        costs = self._least.get(key)
        if costs is None:
            longest = max((len(way.text) for way in self._ways[key]), default=0)
            costs = [
                next((way.cost for way in self._ways[key] if len(way.text) <= most), NO_WAY)
                for most in range(longest + 1)
            ]
            self._least[key] = costs
        return costs[min(room, len(costs) - 1)] if room >= 0 else NO_WAY

    def change(self, key: str, way: RouteWay) -> None:
        """Take another way."""
        if way is not self._has[key][0]:
            self._release(key)
            self._take(key, way, apart=False)

    def _give(
        self, key: str, fitting: list[RouteWay], all_fitting: Mapping[str, list[RouteWay]], weights: Mapping[str, int]
    ) -> None:
        """The best free way, or the best one whose holder can move at less than that costs."""
        free = next((way for way in fitting if self._spoken.free(key, way)), None)
        if fitting and free is not fitting[0]:
            moved = self._move_for(key, fitting[0], free, all_fitting, weights)
            if moved:
                self._take(key, fitting[0], apart=False)
                return
        self._take(key, free or self._numbered(key), apart=free is None or free is not fitting[0])

    def _move_for(
        self,
        key: str,
        wanted: RouteWay,
        free: RouteWay | None,
        fitting: Mapping[str, list[RouteWay]],
        weights: Mapping[str, int],
    ) -> bool:
        """Make the one holder of a text take another way where that is cheaper than letting it be; whether it moved."""
        holders = self._spoken.met(key, wanted)
        holder = str(next(iter(holders))) if len(holders) == 1 else ""
        if holder not in fitting:
            return False
        now, apart = self._has[holder]
        self._release(holder)
        self._take(key, wanted, apart=False)
        other = next((way for way in fitting[holder] if self._spoken.free(holder, way)), None)
        self._release(key)
        mine = weights[key] * ((free.cost if free else NO_WAY) - wanted.cost)
        if other is not None and weights[holder] * (other.cost - now.cost) < mine:
            self._take(holder, other, apart=True)
            return True
        self._take(holder, now, apart=apart)
        return False

    def _numbered(self, key: str) -> RouteWay:
        """A text of letters and a number, where no way of saying it is left; as it comes where not even that is."""
        most = max(1, self._limits[key])
        letters = next((way.text for way in self._ways[key]), "")
        for number in range(2, 10 ** min(most, 2)):
            way = RouteWay(f"{letters[: most - len(str(number))].strip()}{number}", NO_WAY, False)
            if len(way.text) <= most and self._spoken.free(key, way):
                return way
        return RouteWay(letters[:most].strip(), NO_WAY, False)

    def _take(self, key: str, way: RouteWay, *, apart: bool) -> None:
        self._has[key] = (way, apart)
        self._spoken.take(key, way)

    def _release(self, key: str) -> None:
        if key in self._has:
            self._spoken.give_back(key, self._has.pop(key)[0])


def _regret(fitting: list[RouteWay], weight: int) -> float:
    """How much it would cost not to get the best way."""
    if not fitting:
        return NO_WAY * weight
    return weight * ((fitting[1].cost if len(fitting) > 1 else NO_WAY) - fitting[0].cost)
