"""A map of where I am as a picture to send: coast, access points of the plan, and of my own place what others may learn."""

import io
import math
from typing import TYPE_CHECKING

from umbra_awl.core.facts.coast import Coast
from umbra_awl.core.facts.earth import Position, distance_km
from umbra_awl.core.messages.errors import PictureError
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.sharing import private_position

if TYPE_CHECKING:
    from PIL.ImageDraw import ImageDraw

MAP_SIZE = (640, 480)
"""Width and height in points."""
_NEAR_KM, _LEAST_KM, _FEW = 60.0, 6.0, 4
"""Access points farther away are left out, the map reaches at least so far, and to so many of the nearest."""
_KM_A_DEGREE = 111.195
_SEA, _LAND, _LINE, _INK, _MARK = "#d5e2e8", "#f3f1ea", "#8b8878", "#1f1d2b", "#5b3fd0"


class _View:
    """A flat map around a place: kilometres to points, north up."""

    def __init__(self, middle: Position, far_km: float) -> None:
        self._middle, self._scale = middle, min(MAP_SIZE) / 2.2 / far_km
        self._narrow = math.cos(math.radians(middle.lat))

    def point(self, lat: float, lon: float) -> tuple[float, float]:
        east = ((lon - self._middle.lon + 180.0) % 360.0 - 180.0) * _KM_A_DEGREE * self._narrow
        north = (lat - self._middle.lat) * _KM_A_DEGREE
        return MAP_SIZE[0] / 2 + east * self._scale, MAP_SIZE[1] / 2 - north * self._scale

    def long(self, km: float) -> float:
        """A length in points."""
        return km * self._scale


def map_picture(plan: Plan, coast: Coast) -> bytes:
    """A PNG of `MAP_SIZE`, its middle the position that the plan lets others see. Raises PictureError where none is told."""
    from PIL import Image, ImageDraw

    station = plan.station
    if station.lat is None or station.lon is None:
        raise PictureError("The plan has no position of yours. Give it on the page Me, then send a map of it.")
    told = private_position(station.lat, station.lon, station.privacy)
    if told is None:
        raise PictureError(
            "Your position is not told to others, and a map would tell it. Allow it on the page Me first."
        )
    marks = _around(plan, told)
    far = max([_LEAST_KM, *(distance_km(told, at) * 1.2 for _name, at in marks[:_FEW])])
    view, image = _View(told, far), Image.new("RGB", MAP_SIZE, _SEA)
    draw = ImageDraw.Draw(image)
    _paint_coast(draw, coast, view, told, far)
    for name, at in marks:
        _paint_mark(draw, view.point(*at), name, _INK)
    _paint_mark(draw, view.point(*told), _own_name(plan), _MARK, left=True)
    _paint_scale(draw, view, far)
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


def _own_name(plan: Plan) -> str:
    call = next((who.call for who in plan.station.identities if who.call), "")
    near = "" if plan.station.privacy == "exact" else "near here"
    return " ".join(filter(None, (call, near))) or "here"


def _around(plan: Plan, here: Position) -> list[tuple[str, Position]]:
    """Places of access points near enough to be drawn, each once, the nearest first.

    One's own hotspots are where one is, and are left out.
    """
    found: dict[Position, str] = {}
    for access in plan.access:
        if access.kind != "hotspot" and access.lat is not None and access.lon is not None:
            found.setdefault(Position(access.lat, access.lon), access.by_call)
    near = [(name, at) for at, name in found.items() if distance_km(here, at) < _NEAR_KM]
    return sorted(near, key=lambda item: distance_km(here, item[1]))


def _paint_coast(draw: "ImageDraw", coast: Coast, view: _View, here: Position, far_km: float) -> None:
    """The rings that come near; land first, its line over it."""
    reach = 3.0 * far_km / _KM_A_DEGREE
    wide = reach / max(0.05, math.cos(math.radians(here.lat)))
    for low, high in zip(coast.starts[:-1], coast.starts[1:], strict=True):
        ring = coast.points[low:high]
        (west, south), (east, north) = ring.min(axis=0), ring.max(axis=0)
        if (
            west <= here.lon + wide
            and east >= here.lon - wide
            and south <= here.lat + reach
            and north >= here.lat - reach
        ):
            draw.polygon([view.point(float(lat), float(lon)) for lon, lat in ring], _LAND, _LINE)


def _paint_mark(draw: "ImageDraw", at: tuple[float, float], name: str, ink: str, *, left: bool = False) -> None:
    x, y = at
    draw.ellipse((x - 4, y - 4, x + 4, y + 4), ink)
    wide = draw.textlength(name, font_size=18)
    beside = x - 8 - wide if left or x + 10 + wide > MAP_SIZE[0] else x + 8
    draw.text((beside, y - 10), name, ink, font_size=18)


def _paint_scale(draw: "ImageDraw", view: _View, far_km: float) -> None:
    """A length of a round number, at the foot."""
    km = next((step for step in (50, 20, 10, 5, 2) if step <= far_km), 1)
    foot = MAP_SIZE[1] - 14
    draw.line((14, foot, 14 + view.long(km), foot), _INK, 3)
    draw.text((14, foot - 26), f"{km} km, north up", _INK, font_size=18)
