"""Positions on the earth: Maidenhead locators, notations of latitude and longitude, great circles.

Sources: IARU Region 1 VHF Managers Handbook (locator: fields of 20° × 10°, squares of 2° × 1°, subsquares of 5′ × 2.5′, then
tenths of those); great circles on a sphere of the mean radius 6,371.0088 km (IUGG), which is within 0.6 % of the ellipsoid.
The figure shown for one pair comes from `geodesic`, on the WGS 84 ellipsoid.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import math
import re
from typing import NamedTuple

EARTH_KM = 6_371.0088
_LOCATOR = re.compile(r"[A-R]{2}([0-9]{2}([A-X]{2}([0-9]{2})?)?)?")


_FIRSTS = (ord("A"), ord("0"), ord("a"), ord("0"))


class PositionError(ValueError):
    """A text that is no position; the message says why and what would be."""


class Position(NamedTuple):
    """Degrees: latitude north positive −90…90, longitude east positive −180…180."""

    lat: float
    lon: float


def locator_of(lat: float, lon: float, pairs: int = 3) -> str:
    """The Maidenhead locator of a position in degrees, of 1 to 4 pairs: (46.47, −31.11) → “HN46kl”."""
    # Counted in the smallest squares, 0.5′ by 0.25′; what lies on an edge to a millimetre belongs to the square it begins.
    east = int(round((lon + 180) % 360 * 120, 6)) % (360 * 120)
    north = min(max(int(round((lat + 90) * 240, 6)), 0), 180 * 240 - 1)
    digits = [(east // 2_400, north // 2_400), (east // 240 % 10, north // 240 % 10)]
    digits += [(east // 10 % 24, north // 10 % 24), (east % 10, north % 10)]
    text = "".join(
        f"{chr(first + one)}{chr(first + other)}" for first, (one, other) in zip(_FIRSTS, digits, strict=True)
    )
    return text[: 2 * pairs]


def is_locator(text: str) -> bool:
    """Whether a text is a locator, of whatever length."""
    return bool(_LOCATOR.fullmatch(text.strip().upper()))


def parse_locator(text: str) -> Position:
    """The middle of a locator's square, in degrees. Raises PositionError."""
    plain = text.strip().upper()
    if not _LOCATOR.fullmatch(plain):
        raise PositionError(f"“{text.strip()}” is not a locator. A locator reads like HN46 or HN46kl.")
    lon, lat = -180.0, -90.0
    lon_step, lat_step = 20.0, 10.0
    for at in range(0, len(plain), 2):
        first = 48 if plain[at].isdigit() else 65
        lon += (ord(plain[at]) - first) * lon_step
        lat += (ord(plain[at + 1]) - first) * lat_step
        width, height = lon_step, lat_step
        divisor = 24 if at == 2 else 10
        lon_step, lat_step = lon_step / divisor, lat_step / divisor
    return Position(round(lat + height / 2, 7), round(lon + width / 2, 7))


_PLAIN = re.compile(r"-?[0-9]{1,3}\.[0-9]+")
"""Degrees as most lists have them; read at once."""
_NUMBER = r"(\d+(?:[.,]\d+)?)"
_ANGLE = re.compile(
    rf"\s*([NSEWO]?)\s*([+\-−]?)\s*{_NUMBER}\s*(?:[°ºd:]|\s)?\s*(?:{_NUMBER}\s*(?:['′’m:]|\s)?\s*(?:{_NUMBER}\s*(?:[\"″”s]|'')?\s*)?)?([NSEWO]?)\s*",
    re.IGNORECASE,
)


def parse_angle(text: str, axis: str) -> float:
    """Degrees of one coordinate in the usual notations; `axis` is “lat” or “lon”. O is read as west only in “lon”.

    Reads “46.52”, “-31,05”, “46° 31.2′ N”, “31 3 0 W”, “N46:31:12”. Raises PositionError.
    """
    name, limit = ("latitude", 90) if axis == "lat" else ("longitude", 180)
    if _PLAIN.fullmatch(text) and abs(value := float(text)) <= limit:
        return value
    shape = _ANGLE.fullmatch(text)
    if shape is None:
        raise PositionError(f"“{text.strip()[:40]}” is not a {name}. Type degrees, for example 46.52 or 46° 31.2′ N.")
    before, sign, whole, minutes, seconds, after = shape.groups()
    letter = (before or after).upper()
    if (before and after) or (letter and letter not in ("NS" if axis == "lat" else "EWO")):
        raise PositionError(f"“{text.strip()[:40]}” is not a {name}: its letter {letter} is of the other axis.")
    parts = [float((part or "0").replace(",", ".")) for part in (whole, minutes, seconds)]
    if parts[1] >= 60 or parts[2] >= 60:
        raise PositionError(f"“{text.strip()[:40]}” has 60 or more minutes or seconds.")
    degrees = parts[0] + parts[1] / 60 + parts[2] / 3600
    if degrees > limit:
        raise PositionError(f"“{text.strip()[:40]}” is beyond {limit}°, so it is not a {name}.")
    return -degrees if (sign in {"-", "−"} and sign) != (letter in {"S", "W", "O"} and bool(letter)) else degrees


def parse_position(text: str) -> Position:
    """A position typed as a locator, or as latitude and longitude in the usual notations. Raises PositionError."""
    plain = text.strip()
    if not plain:
        raise PositionError("No position is given. Type a locator such as HN46kl, or 46.47, -31.11.")
    if _LOCATOR.fullmatch(plain.upper()):
        return parse_locator(plain)
    for one, other in _halves(plain):
        try:
            if re.search(r"[EW]", one, re.IGNORECASE) and not re.search(r"[EW]", other, re.IGNORECASE):
                one, other = other, one  # noqa: PLW2901  (longitude was typed first)
            return Position(parse_angle(one, "lat"), parse_angle(other, "lon"))
        except PositionError:
            continue
    raise PositionError(f"“{plain[:60]}” is not a position. Type a locator such as HN46kl, or 46.47, -31.11.")


def _halves(text: str) -> list[tuple[str, str]]:
    """The ways to cut a text into two coordinates, the likeliest first."""
    found: list[tuple[str, str]] = []
    for pattern in (
        r"\s*[;/|]\s*",
        r",\s+",
        r"(?<=[NSEWnsew])\s*,?\s*(?=[\d+\-−])",
        r"\s+(?=[NSEWnsew]\s*\d)",
        r"\s*,\s*",
    ):
        parts = re.split(pattern, text)
        if len(parts) == 2:
            found.append((parts[0], parts[1]))
    words = text.split()
    if len(words) >= 2 and len(words) % 2 == 0:
        half = len(words) // 2
        found.append((" ".join(words[:half]), " ".join(words[half:])))
    return found


def format_position(lat: float, lon: float) -> str:
    """Degrees with four decimals and their letters: “46.4700° N, 31.1100° W”."""
    return f"{abs(lat):.4f}° {'N' if lat >= 0 else 'S'}, {abs(lon):.4f}° {'E' if lon >= 0 else 'W'}"


def distance_km(one: Position, other: Position) -> float:
    """Kilometres along the great circle (haversine, on the sphere)."""
    lat1, lat2 = math.radians(one.lat), math.radians(other.lat)
    half_lat, half_lon = (lat2 - lat1) / 2, math.radians(other.lon - one.lon) / 2
    share = math.sin(half_lat) ** 2 + math.cos(lat1) * math.cos(lat2) * math.sin(half_lon) ** 2
    return 2 * EARTH_KM * math.asin(min(1.0, math.sqrt(share)))


def bearing_deg(one: Position, other: Position) -> float:
    """The great circle's first bearing in degrees, 0 north, 90 east."""
    lat1, lat2 = math.radians(one.lat), math.radians(other.lat)
    lon = math.radians(other.lon - one.lon)
    y = math.sin(lon) * math.cos(lat2)
    x = math.cos(lat1) * math.sin(lat2) - math.sin(lat1) * math.cos(lat2) * math.cos(lon)
    return math.degrees(math.atan2(y, x)) % 360


def destination(start: Position, bearing: float, km: float) -> Position:
    """Where one arrives after so many kilometres on a first bearing in degrees."""
    lat1, angle, turn = math.radians(start.lat), km / EARTH_KM, math.radians(bearing)
    lat2 = math.asin(math.sin(lat1) * math.cos(angle) + math.cos(lat1) * math.sin(angle) * math.cos(turn))
    lon = math.atan2(
        math.sin(turn) * math.sin(angle) * math.cos(lat1), math.cos(angle) - math.sin(lat1) * math.sin(lat2)
    )
    return Position(math.degrees(lat2), (start.lon + math.degrees(lon) + 540) % 360 - 180)


def geodesic(one: Position, other: Position) -> tuple[float, float]:
    """Kilometres and first bearing in degrees on the WGS 84 ellipsoid, for a figure that is shown."""
    from geographiclib.geodesic import Geodesic

    line = Geodesic.WGS84.Inverse(one.lat, one.lon, other.lat, other.lon)
    return line["s12"] / 1000, line["azi1"] % 360


HERE_KM = 0.05
"""Nearer than this there is no direction to speak of."""


def direction_words(km: float, bearing: float) -> str:
    """A direction such as “NE 41°”; “here” where there is none."""
    return "here" if km < HERE_KM else f"{compass_point(bearing)} {round(bearing) % 360}°"


_POINTS = ("N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW")


def compass_point(bearing: float) -> str:
    """The nearest of the sixteen points of the compass."""
    return _POINTS[round(bearing / 22.5) % 16]
