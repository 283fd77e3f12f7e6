"""What speaks for and against each channel of a band: one term a question, each with its points and its words.

A term that stops a channel says “forbidden” or “occupied”; what is only doubtful costs points. Widths and distances are hertz.
Intermodulation: third-order products 2A − B and A + B − C of the strongest senders. Image: a receiver with a low intermediate
frequency (single-chip transceivers of small boards, near 100 kHz) also hears twice that frequency to the side.
"""

from collections.abc import Callable, Iterable
from itertools import pairwise
from typing import TYPE_CHECKING, Literal, NamedTuple

from umbra_awl.core.facts.bands import SATELLITE_SEGMENTS, Band
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.emissions import Emission
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.repeaters import CALLING
from umbra_awl.core.hotspot.place.occupied import Occupied
from umbra_awl.core.hotspot.place.uses import KIND_WORDS, uses_of
from umbra_awl.core.plan.model import Listened, Station, Use
from umbra_awl.core.plan.permit import band_permit

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

    Hz = npt.NDArray[np.int64]
    Points = npt.NDArray[np.int64]

Stop = Literal["forbidden", "occupied"]
GUARD_HZ = 2_500
"""Between two emissions: for what filters and oscillators leave over."""
ADJACENT_HZ = 12_500
QUIET_HZ = 100_000
REACH_DBM = -119.0
STRONG_DBM = -80.0
MOST_STRONG = 12
LOW_IF_HZ = 100_000
CALLING_HZ = 12_500
_FAR_HZ = 1 << 60
_ADJACENT, _STRONG_ADJACENT, _PRODUCT, _IMAGE, _OWN_HALF = 20, 40, 35, 20, 25
_USE_POINTS = {"weak": 70, "links": 25, "other": 30}
_NOT_GIVEN, _NEAR = 12, 10
_HEARD, _HEARD_MOST, _UNHEARD = 30, 60, 3
NIGHTS = 3
_OWN_HALF_HZ = 250_000


class Term(NamedTuple):
    """One question to all channels: the points it costs each, or that it stops it, and what it says of one (by place)."""

    name: str
    points: "Points"
    say: Callable[[int], str]
    stop: Stop | None = None


class Heard(NamedTuple):
    """How often something was heard on a channel, and on how many days it was quiet."""

    busy: int
    quiet: int
    words: tuple[str, ...]


def _stopping(name: str, hit: "npt.NDArray[np.bool_]", say: Callable[[int], str], stop: Stop) -> Term:
    return Term(name, hit.astype("int64") * 100, say, stop)


def licence_term(station: Station, sent: Emission, channels: "Hz") -> Term:
    """Inside band and licence with the whole of its width; asked of the same permit as every channel of a radio."""
    import numpy as np

    permits = [band_permit(station, sent.at(int(hz))) for hz in channels]
    hit = np.array([not item.allowed for item in permits], bool)

    def say(at: int) -> str:
        return permits[at].reason or f"{sent.at(int(channels[at])).span_words}, inside band and licence"

    return _stopping("in band and licence", hit, say, "forbidden")


def satellite_term(sent: Emission, channels: "Hz") -> Term:
    """Clear of the satellite segments."""
    import numpy as np

    half = sent.width_hz // 2
    hit = np.zeros(len(channels), bool)
    for item in SATELLITE_SEGMENTS:
        hit |= (channels - half < item.high_hz) & (channels + half > item.low_hz)

    def say(at: int) -> str:
        hz = int(channels[at])
        near = min(SATELLITE_SEGMENTS, key=lambda item: _outside(hz, item.low_hz, item.high_hz))
        away = _outside(hz, near.low_hz, near.high_hz)
        edges = f"{format_mhz(near.low_hz)} to {format_mhz(near.high_hz)}"
        return f"{_khz(away)} from {edges}" if not hit[at] else f"reaches into {edges}, kept for satellites"

    return _stopping("satellites", hit, say, "forbidden")


def calling_term(station: Station, sent: Emission, channels: "Hz") -> Term:
    """Off the calling frequencies, and off what a plan keeps for calling and beacons."""
    import numpy as np

    half = sent.width_hz // 2
    spots = [(item.hz - CALLING_HZ // 2, item.hz + CALLING_HZ // 2, item.words) for item in CALLING[station.region]]
    spots += [
        (item.low_hz, item.high_hz, item.words or KIND_WORDS[item.kind])
        for item in uses_of(station)
        if item.kind in {"calling", "beacons", "satellites"}
    ]
    hit = np.zeros(len(channels), bool)
    for low, high, _words in spots:
        hit |= (channels - half < high) & (channels + half > low)

    def say(at: int) -> str:
        hz = int(channels[at])
        low, high, words = min(spots, key=lambda item: _outside(hz, item[0], item[1]))
        return f"on {words}" if hit[at] else f"{words} {_khz(_outside(hz, low, high))} away"

    return _stopping("calling and beacons", hit, say, "forbidden")


def use_term(station: Station, channels: "Hz", band: Band) -> Term:
    """What the national plan gives the stretch to.

    Where it gives hotspots a place in the band, other places are not theirs, whichever half of a pair stands there.
    Of rows over one another the narrower one holds: who gives a stretch inside of another to something means just that.
    """
    import numpy as np

    uses = sorted(uses_of(station), key=lambda item: item.low_hz - item.high_hz)
    given = any(
        item.kind == "hotspots" and item.high_hz >= band.low_hz and item.low_hz <= band.high_hz for item in uses
    )
    points = np.full(len(channels), _NOT_GIVEN if given else 0, np.int64)
    for item in uses:
        inside = (channels >= item.low_hz) & (channels <= item.high_hz)
        points[inside] = 0 if item.kind == "hotspots" else _USE_POINTS.get(item.kind, _NOT_GIVEN)

    def say(at: int) -> str:
        held = _use_at(uses, int(channels[at]))
        if held is None:
            return "not among what the plan gives to hotspots" if given else "nothing is laid down for this stretch"
        return f"{held.words or KIND_WORDS[held.kind]} ({held.source or 'your own table'})"

    return Term("band plan", points, say)


def _use_at(uses: Iterable[Use], hz: int) -> Use | None:
    return next((item for item in reversed(tuple(uses)) if item.low_hz <= hz <= item.high_hz), None)


def in_reach(users: Occupied) -> Occupied:
    """Only those that reach the place."""
    return _only(users, users.level_dbm >= REACH_DBM)


def _only(users: Occupied, keep: "npt.NDArray[np.bool_]") -> Occupied:
    words = tuple(users.words[at] for at in keep.nonzero()[0])
    hz, half_hz, km, level, sends, own, _words = users
    return Occupied(hz[keep], half_hz[keep], km[keep], level[keep], sends[keep], own[keep], words)


def _spread(channels: "Hz", low: "Hz", high: "Hz") -> "Points":
    """How many of some spans (both ends inside) lie over each channel."""
    import numpy as np

    begins = np.searchsorted(channels, low, "left")
    ends = np.searchsorted(channels, high, "right")
    count = len(channels) + 1
    steps = np.bincount(begins, minlength=count) - np.bincount(ends, minlength=count)
    made: npt.NDArray[np.int64] = np.cumsum(steps)[:-1]
    return made


def nearest_of(hz: "Hz", channels: "Hz") -> "tuple[Hz, Hz]":
    """For each channel the place of the nearest of some sorted frequencies, and how far it is away in hertz."""
    import numpy as np

    if not len(hz):
        return np.zeros(len(channels), np.int64), np.full(len(channels), _FAR_HZ, np.int64)
    right = np.searchsorted(hz, channels).clip(0, len(hz) - 1)
    left = (right - 1).clip(0)
    nearer = np.abs(hz[left] - channels) <= np.abs(hz[right] - channels)
    at = np.where(nearer, left, right)
    return at, np.abs(hz[at] - channels)


def occupied_term(users: Occupied, sent: Emission, channels: "Hz") -> Term:
    """Not on anything in reach: its width, one's own, and a guard between."""
    room = users.half_hz + sent.width_hz // 2 + GUARD_HZ
    hit = _spread(channels, users.hz - room + 1, users.hz + room - 1) > 0
    at_of, away = nearest_of(users.hz, channels)

    def say(at: int) -> str:
        if not len(users.hz):
            return "nothing known in reach"
        who = int(at_of[at])
        return f"{users.words[who]} {_khz(int(away[at]))} away, {users.km[who]:.0f} km"

    return _stopping("nearest in use", hit, say, "occupied")


def beside_term(users: Occupied, sent: Emission, channels: "Hz") -> Term:
    """One channel further, and how much room there is at all."""
    import numpy as np

    room = users.half_hz + sent.width_hz // 2 + GUARD_HZ + ADJACENT_HZ
    strong = users.level_dbm >= STRONG_DBM
    near = _spread(channels, users.hz - room + 1, users.hz + room - 1) > 0
    near_strong = _spread(channels, (users.hz - room + 1)[strong], (users.hz + room - 1)[strong]) > 0
    _at, away = nearest_of(users.hz, channels)
    closeness = np.rint(_NEAR * np.clip(1 - away / QUIET_HZ, 0, 1)).astype(np.int64)
    points = closeness + np.where(near_strong, _STRONG_ADJACENT, np.where(near, _ADJACENT, 0))

    def say(at: int) -> str:
        if near_strong[at]:
            return "next to something strong"
        return "next to something weak" if near[at] else "free on both sides"

    return Term("to each side", points, say)


def products_of(hz: "Hz") -> "Hz":
    """The third-order products of some frequencies, sorted, without the frequencies themselves."""
    import numpy as np

    pair = 2 * hz[:, None] - hz[None, :]
    found = [pair[~np.eye(len(hz), dtype=bool)]]
    for at in range(len(hz)):
        others = np.delete(hz, at)
        sums = others[:, None] + others[None, :] - hz[at]
        found.append(sums[np.triu_indices(len(others), 1)])
    return np.setdiff1d(np.unique(np.concatenate(found)), hz) if len(hz) else hz


def strongest(users: Occupied) -> "Hz":
    """The frequencies of the strongest senders."""
    import numpy as np

    strong = users.sends & (users.level_dbm >= STRONG_DBM)
    order = np.argsort(-users.level_dbm[strong])[:MOST_STRONG]
    return np.unique(users.hz[strong][order])


def product_term(users: Occupied, sent: Emission, channels: "Hz") -> Term:
    """Off the third-order products of the strong neighbours."""
    strong = strongest(users)
    made = products_of(strong)
    _at, away = nearest_of(made, channels)
    hit = away < sent.width_hz
    pairs = len(strong) * (len(strong) - 1)

    def say(at: int) -> str:
        if hit[at]:
            return f"a product of strong neighbours falls {_khz(int(away[at]))} beside it"
        return f"none within {sent.width_hz / 1000:g} kHz ({pairs} pairs looked at)"

    return Term("products of strong neighbours", hit.astype("int64") * _PRODUCT, say)


def image_term(users: Occupied, sent: Emission, channels: "Hz") -> Term:
    """Off the image of a strong neighbour."""
    import numpy as np

    strong = strongest(users)
    images = np.unique(np.concatenate([strong - 2 * LOW_IF_HZ, strong + 2 * LOW_IF_HZ]))
    _at, away = nearest_of(images, channels)
    hit = away < sent.width_hz

    def say(at: int) -> str:
        return "a strong neighbour's image falls on it" if hit[at] else "no strong neighbour's image"

    return Term("image", hit.astype("int64") * _IMAGE, say)


def own_half_term(users: Occupied, channels: "Hz") -> Term:
    """Away from where one's own radios send to another hotspot, or another hotspot to them."""
    own = users.hz[users.own]
    at_of, away = nearest_of(own, channels)
    hit = away < _OWN_HALF_HZ
    words = tuple(word for word, is_own in zip(users.words, users.own, strict=True) if is_own)

    def say(at: int) -> str:
        if not len(own):
            return "no other hotspot of yours"
        near = f"{words[int(at_of[at])]} {_khz(int(away[at]))} away"
        return f"{near}: your own radios drown it" if hit[at] else near

    return Term("own hotspots", hit.astype("int64") * _OWN_HALF, say)


def heard_at(listened: Iterable[Listened], hz: int, raster_hz: int) -> Heard:
    """What was noted for one channel."""
    mine = [item for item in listened if abs(item.hz - hz) < raster_hz / 2]
    busy = tuple(item.heard for item in mine if item.heard)
    loud = {item.day[:10] for item in mine if item.heard}
    return Heard(len(busy), len({item.day[:10] for item in mine if not item.heard} - loud), busy)


def heard_term(listened: tuple[Listened, ...], raster_hz: int, channels: "Hz") -> Term:
    """What was heard there: each time costs, each quiet day short of three costs a little."""
    import numpy as np

    points = np.full(len(channels), NIGHTS * _UNHEARD, np.int64)
    held: dict[int, Heard] = {}
    for hz in {item.hz for item in listened}:
        at, away = nearest_of(channels, np.array([hz], np.int64))
        if away[0] < raster_hz / 2:
            noted = heard_at(listened, int(channels[at[0]]), raster_hz)
            held[int(at[0])] = noted
            quiet = _UNHEARD * max(0, NIGHTS - noted.quiet)
            points[at[0]] = min(noted.busy * _HEARD, _HEARD_MOST) + quiet

    def say(at: int) -> str:
        noted = held.get(at)
        if noted is None:
            return "not listened to yet"
        if noted.busy:
            return f"heard {counted(noted.busy, 'time')}: {'; '.join(noted.words)[:60]}"
        return f"nothing on {noted.quiet} of {NIGHTS} days"

    return Term("heard there", points, say)


def _outside(hz: int, low: int, high: int) -> int:
    return max(low - hz, hz - high, 0)


def _khz(hz: int) -> str:
    return f"{hz / 1e6:.1f} MHz" if hz >= 1_000_000 else f"{hz / 1000:g} kHz"


def runs_of(flags: "npt.NDArray[np.int64]") -> list[tuple[int, int]]:
    """Stretches of the same value in a row, as (first, one behind the last)."""
    import numpy as np

    edges = [0, *(np.flatnonzero(np.diff(flags)) + 1).tolist(), len(flags)]
    return [(one, other) for one, other in pairwise(edges) if other > one]
