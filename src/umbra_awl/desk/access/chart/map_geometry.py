"""The map's geometry without widgets: azimuthal-equidistant projection, the view, thinning of points, places for labels.

Source of the projection: J. P. Snyder, Map Projections: A Working Manual (USGS 1395, 1987), azimuthal equidistant on a sphere.
Plane coordinates are kilometres from the centre, x east and y north; the view turns them into pixels, y down.
"""

from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from umbra_awl.core.facts.earth import EARTH_KM, Position

Floats = NDArray[np.float64]
FARTHEST_KM = float(np.pi * EARTH_KM)
LEAST_PX_PER_KM = 0.008
MOST_PX_PER_KM = 400.0
_RASTER = 4
_NOBODY = np.iinfo(np.int64).max


def project(centre: Position, lat: Floats, lon: Floats) -> Floats:
    """(n, 2) kilometres of n positions in degrees around a centre; the antipode, which lies in every direction, to the north."""
    lat0, lat1 = np.radians(centre.lat), np.radians(lat)
    turn = np.radians(lon - centre.lon)
    half = np.sin((lat1 - lat0) / 2) ** 2 + np.cos(lat0) * np.cos(lat1) * np.sin(turn / 2) ** 2
    angle = 2 * np.arcsin(np.sqrt(np.clip(half, 0, 1)))
    east = np.cos(lat1) * np.sin(turn)
    north = np.cos(lat0) * np.sin(lat1) - np.sin(lat0) * np.cos(lat1) * np.cos(turn)
    length = np.hypot(east, north)
    known = length > 1e-12
    scale = EARTH_KM * angle / np.where(known, length, 1.0)
    return np.column_stack((scale * np.where(known, east, 0.0), scale * np.where(known, north, 1.0)))


def unproject(centre: Position, x: float, y: float) -> Position:
    """The position of a point of the plane in kilometres."""
    rho = float(np.hypot(x, y))
    if rho < 1e-9:
        return centre
    angle, lat0 = min(rho / EARTH_KM, np.pi), np.radians(centre.lat)
    lat = np.arcsin(np.clip(np.cos(angle) * np.sin(lat0) + y * np.sin(angle) * np.cos(lat0) / rho, -1, 1))
    lon = np.arctan2(x * np.sin(angle), rho * np.cos(lat0) * np.cos(angle) - y * np.sin(lat0) * np.sin(angle))
    return Position(float(np.degrees(lat)), float((centre.lon + np.degrees(lon) + 540) % 360 - 180))


class View(NamedTuple):
    """What of the plane is seen: the kilometres at the middle of the widget, pixels a kilometre, the size in pixels."""

    x: float
    y: float
    scale: float
    width: int
    height: int

    def to_px(self, points: Floats) -> Floats:
        """Kilometres as pixels."""
        return np.column_stack(
            (
                (points[:, 0] - self.x) * self.scale + self.width / 2,
                (self.y - points[:, 1]) * self.scale + self.height / 2,
            )
        )

    def to_km(self, px: float, py: float) -> tuple[float, float]:
        """A pixel as kilometres."""
        return (px - self.width / 2) / self.scale + self.x, self.y - (py - self.height / 2) / self.scale

    def panned(self, dx_px: float, dy_px: float) -> "View":
        """The view after the drawing was pushed by so many pixels; the earth does not leave the window."""
        x, y = self.x - dx_px / self.scale, self.y + dy_px / self.scale
        far = float(np.hypot(x, y))
        share = min(1.0, FARTHEST_KM / far) if far else 1.0
        return self._replace(x=x * share, y=y * share)

    def zoomed(self, factor: float, px: float, py: float) -> "View":
        """The view with another scale, the place under a pixel staying there."""
        scale = min(max(self.scale * factor, LEAST_PX_PER_KM), MOST_PX_PER_KM)
        x, y = self.to_km(px, py)
        return self._replace(scale=scale, x=x - (px - self.width / 2) / scale, y=y + (py - self.height / 2) / scale)

    def grown(self, margin_px: int) -> "View":
        """The same with a margin on every side, for an over-size picture."""
        return self._replace(width=self.width + 2 * margin_px, height=self.height + 2 * margin_px)

    @property
    def reach_km(self) -> float:
        """From the middle to a corner."""
        return float(np.hypot(self.width, self.height)) / 2 / self.scale


def ring_step(scale: float, least_px: float = 84.0) -> float:
    """The kilometres between two rings: 1, 2 or 5 times a power of ten, so that they do not crowd."""
    least = least_px / scale
    power = 10.0 ** np.floor(np.log10(least))
    return float(next(power * part for part in (1, 2, 5, 10) if power * part >= least))


class Thinned(NamedTuple):
    """Points that stand for all: their places in the input, and how many each stands for."""

    places: NDArray[np.int64]
    counts: NDArray[np.int64]


def thin(px: Floats, rank: NDArray[np.int64], apart: float) -> Thinned:
    """Points (n, 2 pixels) so far apart that marks do not touch; of two that would, the lower rank stays and counts both."""
    if not len(px):
        return Thinned(np.zeros(0, np.int64), np.zeros(0, np.int64))
    cells = np.floor(px / apart).astype(np.int64)
    cells -= cells.min(axis=0)
    width = int(cells[:, 0].max()) + 1
    flat = cells[:, 1] * width + cells[:, 0]
    order = np.argsort(flat * (int(rank.max()) + 1) + rank)
    first = np.ones(len(order), bool)
    first[1:] = flat[order[1:]] != flat[order[:-1]]
    heads = order[first]
    sizes = np.diff(np.append(np.flatnonzero(first), len(order)))
    shape = (int(cells[:, 1].max()) + 1, width)
    return _apart(px, heads, sizes, (rank, cells, shape), apart)


_AROUND = tuple((dy, dx) for dy in (-1, 0, 1) for dx in (-1, 0, 1) if dy or dx)


def _apart(
    px: Floats,
    heads: NDArray[np.int64],
    sizes: NDArray[np.int64],
    laid: tuple[NDArray[np.int64], NDArray[np.int64], tuple[int, int]],
    apart: float,
) -> Thinned:
    """Among one point a cell, those not too near one of lower rank that stays; a near one is counted there.

    The cells are a grid, so all are looked at together: round by round, whoever is the lowest among its undecided near
    neighbours stays, and whoever is near one that stays goes.
    """
    rank, cells, shape = laid
    where = (cells[heads, 1] + 1, cells[heads, 0] + 1)
    padded = (shape[0] + 2, shape[1] + 2)
    order = np.full(padded, _NOBODY, np.int64)
    order[where] = rank[heads]
    place = np.full((2, *padded), np.inf)
    place[:, where[0], where[1]] = px[heads].T
    open_, stays = order < _NOBODY, np.zeros(padded, bool)
    host = np.arange(order.size).reshape(padded)
    near = [_near(place, step, apart) for step in _AROUND]
    lower = [close & (_side(order, step) < _inner(order)) for step, close in zip(_AROUND, near, strict=True)]
    inside, kept_inside, hosts = _inner(open_), _inner(stays), _inner(host)
    while inside.any():
        lowest = inside.copy()
        for step, below in zip(_AROUND, lower, strict=True):
            lowest &= ~(below & _side(open_, step))
        kept_inside |= lowest
        inside &= ~lowest
        for step, close in zip(_AROUND, near, strict=True):
            goes = inside & close & _side(stays, step)
            np.copyto(hosts, _side(host, step), where=goes)
            inside &= ~goes
    counts = np.zeros(order.size, np.int64)
    np.add.at(counts, host[where], sizes)
    kept = np.flatnonzero(stays[where])
    kept = kept[np.argsort(rank[heads[kept]], kind="stable")]
    return Thinned(heads[kept], counts.reshape(padded)[where][kept])


def _inner(grid: NDArray[Any]) -> NDArray[Any]:
    """The grid without its empty frame."""
    return grid[..., 1:-1, 1:-1]


def _side(grid: NDArray[Any], step: tuple[int, int]) -> NDArray[Any]:
    """For each cell of the inner grid its neighbour; a view, nothing is copied."""
    lines, columns = grid.shape[-2:]
    return grid[..., 1 + step[0] : lines - 1 + step[0], 1 + step[1] : columns - 1 + step[1]]


def _near(place: Floats, step: tuple[int, int], apart: float) -> NDArray[np.bool_]:
    """Whether the neighbour's point is nearer than `apart`."""
    with np.errstate(invalid="ignore"):
        off = _inner(place) - _side(place, step)
        close: NDArray[np.bool_] = off[0] * off[0] + off[1] * off[1] < apart * apart
    return close


class Box(NamedTuple):
    """A rectangle in pixels."""

    left: float
    top: float
    width: float
    height: float

    def meets(self, other: "Box") -> bool:
        """Whether two rectangles share a point."""
        return (
            self.left < other.left + other.width
            and other.left < self.left + self.width
            and self.top < other.top + other.height
            and other.top < self.top + self.height
        )


class LabelPlaces:
    """Finds for each label a place beside its mark where it meets neither marks nor other labels.

    What is taken is kept on a raster of four pixels, rounded outwards.
    """

    def __init__(self, width: int, height: int) -> None:
        self._size = (width, height)
        self._taken = np.zeros((height // _RASTER + 2, width // _RASTER + 2), bool)

    def _part(self, box: Box) -> NDArray[np.bool_]:
        """The raster under a rectangle, as far as it lies in the window."""
        left, top = max(int(box.left) // _RASTER, 0), max(int(box.top) // _RASTER, 0)
        right, bottom = int(box.left + box.width) // _RASTER + 1, int(box.top + box.height) // _RASTER + 1
        return self._taken[top : max(bottom, 0), left : max(right, 0)]

    def block(self, box: Box) -> None:
        """Keep a place free."""
        self._part(box)[:] = True

    def block_all(self, middles: Floats, half: float) -> None:
        """Keep squares of twice `half` around middles (n, 2 pixels) free."""
        low, high = (np.floor((middles + off) / _RASTER).astype(np.int64) for off in (-half, half))
        steps = range(int(2 * half) // _RASTER + 2)
        lines, columns = self._taken.shape
        for i in steps:
            for j in steps:
                column, line = low[:, 0] + i, low[:, 1] + j
                inside = (column >= 0) & (line >= 0) & (column < columns) & (line < lines)
                inside &= (column <= high[:, 0]) & (line <= high[:, 1])
                self._taken[line[inside], column[inside]] = True

    def _free(self, box: Box) -> bool:
        if box.left < 0 or box.top < 0 or box.left + box.width > self._size[0] or box.top + box.height > self._size[1]:
            return False
        return not self._part(box).any()

    def place(self, x: float, y: float, width: float, height: float, gap: float) -> Box | None:
        """The first free place: right, left, above, below, and the corners; None when there is none."""
        for left, top in (
            (x + gap, y - height / 2),
            (x - gap - width, y - height / 2),
            (x - width / 2, y - gap - height),
            (x - width / 2, y + gap),
            (x + gap * 0.7, y - gap * 0.7 - height),
            (x + gap * 0.7, y + gap * 0.7),
        ):
            box = Box(left, top, width, height)
            if self._free(box):
                self.block(box)
                return box
        return None
