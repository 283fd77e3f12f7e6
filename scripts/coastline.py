"""Make core/facts/data/coast.bin from a TopoJSON land outline: `python scripts/coastline.py land-50m.json`.

The outline is Natural Earth's (public domain), as carried by the npm package world-atlas. Points are simplified and kept as
hundredths of a degree; see `core/facts/coast.py` for the form.
"""

import json
import struct
import sys
from pathlib import Path

OUT = Path(__file__).parent.parent / "src" / "umbra_awl" / "core" / "facts" / "data" / "coast.bin"
TOLERANCE_DEG = 0.02
SMALLEST_DEG = 0.06


def main() -> None:
    """Read, simplify, write."""
    topology = json.loads(Path(sys.argv[1]).read_text("utf-8"))
    arcs = [_decoded(topology["transform"], arc) for arc in topology["arcs"]]
    rings = []
    for geometry in topology["objects"]["land"]["geometries"]:
        polygons = geometry["arcs"] if geometry["type"] == "MultiPolygon" else [geometry["arcs"]]
        rings += [_joined(arcs, ring) for polygon in polygons for ring in polygon]
    kept = [_simplified(ring) for ring in rings if _extent(ring) > SMALLEST_DEG]
    points = [(round(lon * 100), round(lat * 100)) for ring in kept for lon, lat in ring]
    data = b"COAST1" + struct.pack("<I", len(kept)) + struct.pack(f"<{len(kept)}I", *map(len, kept))
    data += b"".join(struct.pack("<hh", *point) for point in points)
    OUT.write_bytes(data)
    print(f"{len(kept)} rings, {len(points)} points, {len(data)} bytes")


def _decoded(transform, arc):
    x = y = 0
    found = []
    for dx, dy in arc:
        x, y = x + dx, y + dy
        found.append(
            (
                x * transform["scale"][0] + transform["translate"][0],
                y * transform["scale"][1] + transform["translate"][1],
            )
        )
    return found


def _joined(arcs, ring):
    found = []
    for number in ring:
        arc = arcs[number] if number >= 0 else arcs[~number][::-1]
        found += arc if not found else arc[1:]
    return found


def _extent(ring):
    xs, ys = zip(*ring, strict=True)
    return max(max(xs) - min(xs), max(ys) - min(ys))


def _simplified(ring):
    """Douglas-Peucker without recursion."""
    keep = {0, len(ring) - 1}
    spans = [(0, len(ring) - 1)]
    while spans:
        low, high = spans.pop()
        far, distance = 0, 0.0
        for at in range(low + 1, high):
            off = _off_line(ring[at], ring[low], ring[high])
            if off > distance:
                far, distance = at, off
        if distance > TOLERANCE_DEG:
            keep.add(far)
            spans += [(low, far), (far, high)]
    return [ring[at] for at in sorted(keep)]


def _off_line(point, start, end):
    dx, dy = end[0] - start[0], end[1] - start[1]
    length = dx * dx + dy * dy
    share = 0.0 if not length else ((point[0] - start[0]) * dx + (point[1] - start[1]) * dy) / length
    share = min(max(share, 0.0), 1.0)
    return ((point[0] - start[0] - share * dx) ** 2 + (point[1] - start[1] - share * dy) ** 2) ** 0.5


if __name__ == "__main__":
    main()
