"""The search for a place: ruler and best pairs over what is in use around, from the plan and the directory."""

from typing import NamedTuple

from umbra_awl.core.directory.nearest import NearestWanted, within
from umbra_awl.core.directory.store import Store
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.hotspot.place.after import NEAR_KM, around
from umbra_awl.core.hotspot.place.ruler import Ruler, RulerPlace, RulerQuestion, best_pairs, ruler
from umbra_awl.core.plan.model import AccessPoint, Plan
from umbra_awl.core.tables.errors import SourceError

STATE_WORDS = {
    "forbidden": "must not be used", "occupied": "occupied", "doubtful": "doubtful", "usable": "usable", "good": "good",
}  # fmt: skip
WORTH_A_MOVE = 10
"""So many points better, out of a hundred, is worth writing every radio again; less is not."""


class FoundPlaces(NamedTuple):
    """The ruler over a band, and the best places, best first."""

    ruler: Ruler
    best: list[RulerPlace]


def seek_places(
    plan: Plan, access: AccessPoint, asked: RulerQuestion, store: Store | None, place: Position | None
) -> FoundPlaces:
    """Work it out: takes some tenths of a second. A directory that cannot be read counts as empty."""
    listed: list[AccessPoint] = []
    if place is not None and store is not None:
        try:
            found = within(store, place, NEAR_KM, NearestWanted(bands=frozenset({asked.band.name})))
            listed = [near.entry.access for near in found]
        except SourceError:
            listed = []
    users = around(plan, access, listed, place)
    return FoundPlaces(ruler(asked, users), best_pairs(asked, users))


def pair_words(place: RulerPlace) -> str:
    """A place in MHz: one frequency, or where it sends and where it hears."""
    pair = f" / {format_mhz(place.tx_hz)}" if place.tx_hz != place.hz else ""
    return f"{format_mhz(place.hz)}{pair}"


def verdict(found: FoundPlaces, at: int, now_hz: int) -> str:
    """What is to be thought of the channel in hand, as a headline; `now_hz` is where the hotspot stands (0: nowhere yet)."""
    place, best = found.ruler.place(at), next(iter(found.best), None)
    stands = bool(now_hz) and found.ruler.at(now_hz) == at and found.ruler.asked.band.holds(now_hz)
    grade = f"{STATE_WORDS[place.state]}, {place.score} of 100"
    if place.state in {"occupied", "forbidden"}:
        stop = next((item for item in found.ruler.reasons(at) if item.stop), None)
        return f"{'It must move' if stands else 'Not here'}: {stop.words if stop is not None else grade}"
    if not stands:
        return f"This channel is {grade}"
    if best is None or best.score < place.score + WORTH_A_MOVE:
        return f"It stands well where it is: {grade}"
    return f"It may stay ({grade}); {pair_words(best)} would be better: {best.score}"
