"""The ruler of a band: every channel of the raster with its score from 0 to 100 and its reasons, and the best places.

A score is what is left of 100 when every term has taken its points; a term that stops a channel leaves nothing. For a duplex
board a place is a pair, as good as the worse of its two.
"""

from typing import TYPE_CHECKING, Literal, NamedTuple

from umbra_awl.core.facts.bands import Band
from umbra_awl.core.facts.emissions import Emission
from umbra_awl.core.hotspot.place import terms as by
from umbra_awl.core.hotspot.place.occupied import Occupied
from umbra_awl.core.hotspot.place.terms import Term
from umbra_awl.core.plan.model import Listened, Station

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

State = Literal["forbidden", "occupied", "doubtful", "usable", "good"]
STATES: tuple[State, ...] = ("forbidden", "occupied", "doubtful", "usable", "good")
GOOD, USABLE = 80, 60
RASTER_HZ = 12_500
BEST = 10
APART_HZ = 100_000
"""Two offers closer together are one place."""
LEAST_SPACING_HZ, WIDE_SPACING_HZ = 1_000_000, 5_000_000
"""A duplex board hears itself when its two frequencies are closer: small boards have no filters between their halves."""
_CLOSE_POINTS = 8
SHIFTS_HZ = (-9_400_000, -7_600_000, -5_000_000, 5_000_000, 7_600_000, 9_400_000)
"""Spacings in common use on 70 cm (`facts/repeaters.py`), tried beside the hotspot's own."""


class RulerQuestion(NamedTuple):
    """What a place is sought for: a band, what is sent, the shift from where the hotspot sends to where it hears (0: simplex)."""

    station: Station
    band: Band
    sent: Emission
    shift_hz: int = 0
    raster_hz: int = RASTER_HZ
    listened: tuple[Listened, ...] = ()


class Reason(NamedTuple):
    """One term's answer on one channel."""

    name: str
    points: int
    words: str
    stop: bool


class RulerPlace(NamedTuple):
    """A channel, or a pair, with its score; `tx_hz` is what radios send on, and the hotspot hears."""

    hz: int
    tx_hz: int
    score: int
    state: State


class Ruler(NamedTuple):
    """All channels with scores and states (places in `STATES`); of a pair where there is a shift."""

    asked: RulerQuestion
    hz: "npt.NDArray[np.int64]"
    score: "npt.NDArray[np.int64]"
    state: "npt.NDArray[np.int64]"
    terms: tuple[Term, ...]
    users: Occupied
    other: "Ruler | None" = None

    def at(self, hz: int) -> int:
        """The place of the channel nearest to a frequency in hertz."""
        return int(abs(self.hz - hz).argmin())

    def place(self, at: int) -> RulerPlace:
        """The channel at a place."""
        hz = int(self.hz[at])
        return RulerPlace(hz, hz + self.asked.shift_hz, int(self.score[at]), STATES[int(self.state[at])])

    def reasons(self, at: int) -> list[Reason]:
        """What every term says of a channel; of a pair, first where it sends, then where it hears."""
        made = [Reason(term.name, int(term.points[at]), term.say(at), _stops(term, at)) for term in self.terms]
        if self.other is not None:
            made += [item._replace(name=f"{item.name}, hearing") for item in self.other.reasons(at)]
        return made

    def best(self, count: int = BEST) -> list[RulerPlace]:
        """The best places, best first, none beside another; only what is usable."""
        import numpy as np

        made: list[RulerPlace] = []
        for at in np.lexsort((self.hz, -self.score)):
            if len(made) == count or self.score[at] < USABLE:
                break
            place = self.place(int(at))
            if all(abs(place.hz - item.hz) >= APART_HZ for item in made):
                made.append(place)
        return made


def _stops(term: Term, at: int) -> bool:
    return term.stop is not None and bool(term.points[at])


def channels_of(band: Band, raster_hz: int) -> "npt.NDArray[np.int64]":
    """The channels of a raster in a band, in hertz."""
    import numpy as np

    first = -(-band.low_hz // raster_hz) * raster_hz
    return np.arange(first, band.high_hz + 1, raster_hz, dtype=np.int64)


def ruler(asked: RulerQuestion, users: Occupied) -> Ruler:
    """The ruler of a band."""
    hz = channels_of(asked.band, asked.raster_hz)
    one = _one_side(asked, hz, users)
    if not asked.shift_hz:
        return one
    return _paired(one, _one_side(asked, hz + asked.shift_hz, users))


def _one_side(asked: RulerQuestion, hz: "npt.NDArray[np.int64]", users: Occupied) -> Ruler:
    import numpy as np

    near = by.in_reach(users)
    terms = (
        by.licence_term(asked.station, asked.sent, hz),
        by.satellite_term(asked.sent, hz),
        by.calling_term(asked.station, asked.sent, hz),
        by.use_term(asked.station, hz, asked.band),
        by.occupied_term(near, asked.sent, hz),
        by.beside_term(near, asked.sent, hz),
        by.own_half_term(near, hz),
        by.product_term(near, asked.sent, hz),
        by.image_term(near, asked.sent, hz),
        by.heard_term(asked.listened, asked.raster_hz, hz),
    )
    taken = np.sum([term.points for term in terms], axis=0)
    score = (100 - taken).clip(0, 100)
    return Ruler(asked, hz, score, _states(terms, score), terms, near)


def _states(terms: tuple[Term, ...], score: "npt.NDArray[np.int64]") -> "npt.NDArray[np.int64]":
    import numpy as np

    state = np.select([score >= GOOD, score >= USABLE], [4, 3], 2)
    for stop, number in (("occupied", 1), ("forbidden", 0)):
        for term in terms:
            if term.stop == stop:
                state[term.points > 0] = number
    return state


def _paired(one: Ruler, other: Ruler) -> Ruler:
    """Each pair is as good as its worse half; a pair too close together is doubtful at best."""
    import numpy as np

    spacing = abs(one.asked.shift_hz)
    points = _CLOSE_POINTS if spacing < WIDE_SPACING_HZ else 0
    close = np.full(len(one.hz), points, np.int64)
    apart = f"{spacing / 1e6:g} MHz apart" + (": the board may hear itself" if points else "")
    term = Term("spacing of the pair", close, lambda _at: apart)
    score = (np.minimum(one.score, other.score) - close).clip(0)
    stops = np.minimum(one.state, other.state)
    state = np.where(stops > 1, np.select([score >= GOOD, score >= USABLE], [4, 3], 2), stops)
    if spacing < LEAST_SPACING_HZ:
        score = np.minimum(score, USABLE - 1)
        state = np.minimum(state, STATES.index("doubtful"))
    return one._replace(score=score, state=state, other=other, terms=(*one.terms, term))


def best_pairs(asked: RulerQuestion, users: Occupied, count: int = BEST) -> list[RulerPlace]:
    """The best places for a hotspot: channels for a simplex one; for a duplex one pairs of its own and other usual spacings."""
    if not asked.shift_hz:
        return ruler(asked, users).best(count)
    shifts = dict.fromkeys((asked.shift_hz, *SHIFTS_HZ))
    found = [place for shift in shifts for place in ruler(asked._replace(shift_hz=shift), users).best(count)]
    found.sort(key=lambda item: (-item.score, item.tx_hz - item.hz != asked.shift_hz, item.hz))
    made: list[RulerPlace] = []
    for place in found:
        if all(abs(place.hz - item.hz) >= APART_HZ for item in made) and len(made) < count:
            made.append(place)
    return made
