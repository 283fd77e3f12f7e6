"""Locators, notations and great circles against figures from public formulas."""

import math
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.facts.coast import Land, coast_of_geojson, world_coast
from umbra_awl.core.facts.earth import (
    Position,
    PositionError,
    bearing_deg,
    compass_point,
    destination,
    direction_words,
    distance_km,
    format_position,
    geodesic,
    locator_of,
    parse_angle,
    parse_locator,
    parse_position,
)

LATS = st.floats(-89.9, 89.9)
LONS = st.floats(-179.9, 179.9)
PLACES = st.builds(Position, LATS, LONS)

# field, square and subsquare worked out by hand from the definition: 20° × 10°, 2° × 1°, 5′ × 2.5′
LOCATORS = [
    (0.0, 0.0, "JJ00aa"),
    (46.47, -31.11, "HN46kl"),
    (46.5, -31.0, "HN46mm"),
    (-90.0, -180.0, "AA00aa"),
    (89.999, 179.999, "RR99xx"),
    (51.5, -0.125, "IO91wm"),
    (-33.86, 151.21, "QF56od"),
    (41.714775, -72.727260, "FN31pr"),
]


@pytest.mark.parametrize(("lat", "lon", "text"), LOCATORS)
def test_locators_of_positions(lat, lon, text):
    assert locator_of(lat, lon) == text


@pytest.mark.parametrize(
    ("text", "lat", "lon"),
    [
        ("JJ00", 0.5, 1.0),
        ("HN46", 46.5, -31.0),
        ("JJ", 5.0, 10.0),
        ("jj00aa", 1.25 / 60, 2.5 / 60),
        ("JJ00aa00", 0.125 / 60, 0.25 / 60),
    ],
)
def test_the_middle_of_a_locators_square(text, lat, lon):
    assert parse_locator(text) == pytest.approx((lat, lon), abs=1e-6)


@given(PLACES, st.integers(2, 4))
def test_a_position_lies_in_the_square_of_its_locator(place, pairs):
    text = locator_of(*place, pairs)
    assert locator_of(*parse_locator(text), pairs) == text
    width = {2: 1.0, 3: 2.5 / 60, 4: 0.25 / 60}[pairs]
    assert abs(parse_locator(text).lat - place.lat) <= width / 2 + 1e-6


@pytest.mark.parametrize("text", ["", "H", "HN4", "ZZ00", "HN46zz", "HN46kl6", "46"])
def test_what_is_no_locator(text):
    with pytest.raises(PositionError, match="is not a locator"):
        parse_locator(text)


@pytest.mark.parametrize(
    "text",
    [
        "46.52, -31.05",
        "46,52 -31,05",
        "46,52;-31,05",
        "46.52 N 31.05 W",
        "N46.52 W31.05",
        "31.05W 46.52N",
        "46° 31.2′ N, 31° 3′ W",
        "46°31'12\"N 31°3'0\"W",
        "46 31 12 N 31 3 0 W",
        "N46:31:12 W31:03:00",
        "46.52/-31.05",
        "46.52,-31.05",
        "46.52 N, 31.05 O".replace("O", "W"),
    ],
)
def test_positions_in_the_usual_notations(text):
    assert parse_position(text) == pytest.approx((46.52, -31.05), abs=1e-9)


@pytest.mark.parametrize("text", ["", "nowhere", "95.0, 10.0", "46.5", "46.5 N 31.0 N", "46 61 N 31 0 W", "1, 2, 3"])
def test_what_is_no_position_is_said(text):
    with pytest.raises(PositionError, match=r"(not a position|No position)"):
        parse_position(text)


def test_single_coordinates():
    assert parse_angle("31 3 0 W", "lon") == pytest.approx(-31.05)
    assert parse_angle("-31,05", "lon") == pytest.approx(-31.05)
    assert parse_angle("12.5 O", "lon") == pytest.approx(-12.5)
    with pytest.raises(PositionError, match="of the other axis"):
        parse_angle("46 N", "lon")
    with pytest.raises(PositionError, match="beyond 90"):
        parse_angle("91", "lat")


@given(PLACES)
def test_a_printed_position_reads_back(place):
    assert parse_position(format_position(*place)) == pytest.approx(place, abs=6e-5)


def test_great_circles_against_known_figures():
    pole, equator = Position(90, 0), Position(0, 0)
    quarter = math.pi / 2 * 6371.0088
    assert distance_km(pole, equator) == pytest.approx(quarter)
    assert distance_km(equator, Position(0, 180)) == pytest.approx(2 * quarter)
    assert distance_km(Position(0, 179.5), Position(0, -179.5)) == pytest.approx(111.195, abs=0.01)
    assert bearing_deg(equator, Position(0, 1)) == pytest.approx(90)
    assert bearing_deg(equator, Position(-1, 0)) == pytest.approx(180)
    assert bearing_deg(Position(0, 179.5), Position(0, -179.5)) == pytest.approx(90)
    # one degree along the meridian at 45° on WGS 84 is 111.13 km
    assert geodesic(Position(44.5, 7), Position(45.5, 7))[0] == pytest.approx(111.13, abs=0.01)


@given(PLACES, PLACES)
def test_sphere_and_ellipsoid_agree_within_a_hundredth(one, other):
    on_sphere, (on_ellipsoid, _bearing) = distance_km(one, other), geodesic(one, other)
    assert on_sphere == pytest.approx(on_ellipsoid, rel=0.01, abs=0.2)


@given(st.builds(Position, st.floats(-80, 80), LONS), st.floats(0, 359.9), st.floats(0.1, 8000))
def test_going_somewhere_and_looking_back(start, bearing, km):
    there = destination(start, bearing, km)
    assert distance_km(start, there) == pytest.approx(km, rel=1e-6)
    off = abs(bearing_deg(start, there) - bearing)
    assert min(off, 360 - off) < 1e-3


@pytest.mark.parametrize(("bearing", "point"), [(0, "N"), (11, "N"), (12, "NNE"), (45, "NE"), (225, "SW"), (359, "N")])
def test_points_of_the_compass(bearing, point):
    assert compass_point(bearing) == point


@pytest.fixture(scope="module")
def land():
    return Land(world_coast())


@pytest.mark.parametrize(
    ("lat", "lon", "dry"),
    [
        (48.8, 2.3, True),
        (-25.0, 135.0, True),
        (40.0, -100.0, True),
        (46.5, -31.0, False),
        (0.0, -140.0, False),
        (-60, 90, False),
    ],
)
def test_land_and_sea(land, lat, lon, dry):
    assert land.holds(lat, lon) is dry


def test_distance_to_the_coast_is_looked_for_only_nearby(land):
    assert land.km_to_coast(46.5, -31.0, 100) == math.inf
    assert land.km_to_coast(43.6, 7.2, 100) < 20


def test_a_local_coast_joins_the_worlds():
    square = '{"features": [{"geometry": {"type": "Polygon", "coordinates": [[[-31,46],[-30,46],[-30,47],[-31,47],[-31,46]]]}}]}'
    both = Land(world_coast().joined(coast_of_geojson(square)))
    assert both.holds(46.5, -30.5)
    assert both.km_to_coast(46.5, -29.9, 20) == pytest.approx(7.65, abs=0.1)
    assert both.holds(48.8, 2.3)
    with pytest.raises(ValueError, match=r".*"):
        coast_of_geojson("no json")


@given(st.integers(0, 43_199), st.integers(0, 43_199))
def test_a_corner_of_an_eight_character_square_lies_in_that_square(east, north):
    """The corner as an exact fraction of a degree, and the square's letters worked out from whole numbers."""
    lon, lat = float(Fraction(east, 120) - 180), float(Fraction(north, 240) - 90)
    letters = [divmod(east, 2_400), divmod(north, 2_400)]
    expected = "".join(chr(65 + whole) for whole, _rest in letters)
    expected += "".join(str(rest // 240) for _whole, rest in letters)
    expected += "".join(chr(97 + rest // 10 % 24) for _whole, rest in letters)
    expected += "".join(str(rest % 10) for _whole, rest in letters)
    assert locator_of(lat, lon, 4) == expected
    middle = parse_locator(expected)
    assert middle.lat == pytest.approx(lat + 1 / 480, abs=1e-6)
    assert middle.lon == pytest.approx(lon + 1 / 240, abs=1e-6)


def test_at_one_and_the_same_place_there_is_no_direction():
    assert direction_words(0.0, 180.0) == "here"
    assert direction_words(12.0, 359.7) == "N 0°"
    assert direction_words(12.0, 41.2) == "NE 41°"
