"""Coastlines as rings of points, and whether a position lies on land or near it.

World: Natural Earth's land outline 1:50m (public domain), simplified to 0.02° (`scripts/coastline.py`). Form of `coast.bin`:
“COAST1”, u32 count, u32 points of each ring, then i16 longitude and latitude in hundredths of a degree, little-endian.
The demo's invented islands come as GeoJSON with the demo.
"""

import json
from functools import cache
from pathlib import Path
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

WORLD = Path(__file__).parent / "data" / "coast.bin"
_MAGIC = b"COAST1"
_KM_PER_DEG = 111.195


class Coast(NamedTuple):
    """Closed rings: `points` is (n, 2) degrees as longitude, latitude; ring k is points[starts[k]:starts[k + 1]]."""

    points: NDArray[np.float64]
    starts: NDArray[np.int64]

    def joined(self, other: "Coast") -> "Coast":
        """Both coastlines as one."""
        shifted = other.starts[1:] + len(self.points)
        return Coast(np.vstack((self.points, other.points)), np.concatenate((self.starts, shifted)))


@cache
def world_coast() -> Coast:
    """The world's coastline."""
    data = WORLD.read_bytes()
    count = int(np.frombuffer(data, "<u4", 1, len(_MAGIC))[0])
    sizes = np.frombuffer(data, "<u4", count, len(_MAGIC) + 4).astype(np.int64)
    raw = np.frombuffer(data, "<i2", -1, len(_MAGIC) + 4 + 4 * count)
    return Coast(raw.reshape(-1, 2) / 100.0, np.concatenate(([0], np.cumsum(sizes))))


def coast_of_geojson(text: str) -> Coast:
    """The outlines of a GeoJSON feature collection of polygons, for invented or local coasts. Raises ValueError."""
    rings: list[list[list[float]]] = []
    for feature in json.loads(text)["features"]:
        geometry = feature["geometry"]
        polygons = geometry["coordinates"] if geometry["type"] == "MultiPolygon" else [geometry["coordinates"]]
        rings += [ring for polygon in polygons for ring in polygon]
    sizes = np.array([len(ring) for ring in rings], dtype=np.int64)
    points = np.array([point[:2] for ring in rings for point in ring], dtype=np.float64)
    return Coast(points.reshape(-1, 2), np.concatenate(([0], np.cumsum(sizes))))


class Land:
    """Answers whether positions are on land; rings are boxed once so that one question looks at few of them."""

    def __init__(self, coast: Coast) -> None:
        self._rings = [
            coast.points[low:high]
            for low, high in zip(coast.starts[:-1], coast.starts[1:], strict=True)
            if high - low > 3
        ]
        boxes = [(*ring.min(axis=0), *ring.max(axis=0)) for ring in self._rings]
        self._boxes = np.array(boxes).reshape(-1, 4)

    def holds(self, lat: float, lon: float) -> bool:
        """Whether a position in degrees is on land (even-odd rule over all rings)."""
        inside = False
        for ring in self._near(lat, lon, 0.0):
            inside ^= _odd(ring, lat, lon)
        return inside

    def km_to_coast(self, lat: float, lon: float, within_km: float) -> float:
        """Kilometres to the nearest outline when that is within a distance, else infinity."""
        best = np.inf
        narrow = max(0.05, float(np.cos(np.radians(lat))))
        for ring in self._near(lat, lon, within_km / _KM_PER_DEG / narrow):
            scaled = (ring - (lon, lat)) * (_KM_PER_DEG * narrow, _KM_PER_DEG)
            best = min(best, _to_segments(scaled))
        return float(best) if best <= within_km else float("inf")

    def _near(self, lat: float, lon: float, margin: float) -> list[NDArray[np.float64]]:
        boxes = self._boxes
        hit = (boxes[:, 0] <= lon + margin) & (boxes[:, 2] >= lon - margin)
        hit &= (boxes[:, 1] <= lat + margin) & (boxes[:, 3] >= lat - margin)
        return [self._rings[at] for at in np.flatnonzero(hit)]


def _odd(ring: NDArray[np.float64], lat: float, lon: float) -> bool:
    x, y = ring[:, 0], ring[:, 1]
    x2, y2 = np.roll(x, -1), np.roll(y, -1)
    crosses = (y > lat) != (y2 > lat)
    where = x[crosses] + (lat - y[crosses]) / (y2[crosses] - y[crosses]) * (x2[crosses] - x[crosses])
    return bool(np.count_nonzero(where > lon) % 2)


def _to_segments(points: NDArray[np.float64]) -> float:
    """The distance from the origin to a closed line through points."""
    start, step = points, np.roll(points, -1, axis=0) - points
    length = np.maximum((step**2).sum(axis=1), 1e-12)
    share = np.clip(-(start * step).sum(axis=1) / length, 0, 1)
    return float(np.sqrt(((start + step * share[:, None]) ** 2).sum(axis=1)).min())
