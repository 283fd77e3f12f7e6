"""The map's geometry without a window, and the map as a widget."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QWheelEvent

from umbra_awl.core.facts.coast import world_coast
from umbra_awl.core.facts.earth import Position, bearing_deg, distance_km
from umbra_awl.desk.access.chart.map import AccessMap
from umbra_awl.desk.access.chart.map_geometry import (
    FARTHEST_KM,
    MOST_PX_PER_KM,
    Box,
    LabelPlaces,
    View,
    project,
    ring_step,
    thin,
    unproject,
)
from umbra_awl.desk.access.chart.map_paint import MARK_PX
from umbra_awl.desk.access.chart.map_points import Points

LATS, LONS = st.floats(-85, 85), st.floats(-179, 179)
PLACES = st.builds(Position, LATS, LONS)
HOME = Position(46.47, -31.11)


@given(PLACES, PLACES)
def test_distance_and_bearing_are_true_from_the_centre(centre, other):
    ((x, y),) = project(centre, np.array([other.lat]), np.array([other.lon]))
    km = distance_km(centre, other)
    assert np.hypot(x, y) == pytest.approx(km, rel=1e-6, abs=1e-3)
    if 1 < km < FARTHEST_KM - 50:
        off = abs(np.degrees(np.arctan2(x, y)) % 360 - bearing_deg(centre, other))
        assert min(off, 360 - off) < 1e-3


@given(PLACES, st.floats(-9000, 9000), st.floats(-9000, 9000))
def test_the_plane_leads_back_to_the_earth(centre, x, y):
    place = unproject(centre, x, y)
    ((back_x, back_y),) = project(centre, np.array([place.lat]), np.array([place.lon]))
    assert (back_x, back_y) == pytest.approx((x, y), abs=0.01)


@given(st.floats(0.02, 50), st.floats(0.2, 5), st.floats(0, 800), st.floats(0, 400))
def test_zooming_keeps_the_place_under_the_pointer(scale, factor, px, py):
    view = View(3.0, -4.0, scale, 800, 400)
    zoomed = view.zoomed(factor, px, py)
    assert zoomed.to_km(px, py) == pytest.approx(view.to_km(px, py), rel=1e-6, abs=1e-6)
    assert zoomed.scale <= MOST_PX_PER_KM


def test_panning_moves_by_pixels_and_keeps_the_earth_in_the_window():
    view = View(0, 0, 2.0, 800, 400)
    assert view.panned(10, -20).to_km(410, 180) == pytest.approx(view.to_km(400, 200))
    assert np.hypot(*view.panned(10**9, 0)[:2]) == pytest.approx(FARTHEST_KM)


@given(st.floats(0.01, 400))
def test_rings_do_not_crowd(scale):
    step = ring_step(scale)
    assert 84 <= step * scale <= 84 * 2.51
    assert str(step)[0] in "1250"


@given(st.lists(st.tuples(st.floats(0, 300), st.floats(0, 300)), max_size=80))
def test_thinned_marks_never_touch_and_count_everything(points):
    px = np.array(points, dtype=np.float64).reshape(-1, 2)
    rank = np.arange(len(px))
    found = thin(px, rank, 20.0)
    assert int(found.counts.sum()) == len(px)
    kept = px[found.places]
    for at, one in enumerate(kept):
        for other in kept[at + 1 :]:
            assert np.hypot(*(one - other)) >= 20.0 - 1e-9
    if len(px):
        assert 0 in found.places  # the most important point always stays


@given(st.lists(st.tuples(st.floats(0, 300), st.floats(0, 200), st.floats(10, 80)), max_size=40))
def test_labels_never_overlap_nor_leave_the_window(items):
    places = LabelPlaces(300, 200)
    boxes = [box for x, y, width in items if (box := places.place(x, y, width, 14, 8)) is not None]
    for at, one in enumerate(boxes):
        assert one.left >= 0
        assert one.left + one.width <= 300
        assert not any(one.meets(other) for other in boxes[at + 1 :])


def test_a_blocked_place_stays_free():
    places = LabelPlaces(300, 200)
    places.block(Box(0, 0, 300, 95))
    box = places.place(100, 100, 60, 14, 8)
    assert box.top >= 95
    places.block(Box(0, 0, 300, 200))
    assert places.place(100, 100, 60, 14, 8) is None


# the widget


@pytest.fixture
def access_map(qtbot, empty_window):
    asked = []

    def labels(ids):
        asked.append(ids)
        return {number: (f"Q0A{number}", f"Site {number}") for number in ids}

    made = AccessMap(empty_window.theme, labels)
    made.asked = asked
    qtbot.addWidget(made)
    made.resize(700, 400)
    made.go_to(HOME)
    made.show()
    return made


def some_points(centre, places):
    lat, lon = np.array([place[0] for place in places], float), np.array([place[1] for place in places], float)
    count = len(places)
    return Points(
        np.arange(1, count + 1),
        project(centre, lat, lon),
        np.ones(count, np.int64),
        np.zeros(count, bool),
        np.zeros(count, bool),
        np.arange(count),
    )


def test_a_click_chooses_and_a_double_click_looks_around(qtbot, access_map):
    access_map.show_points(some_points(HOME, [(46.52, -31.05)]), ())
    access_map.fit(20)
    access_map.grab()
    ((x, y),) = access_map.view.to_px(access_map.points.km)
    with qtbot.waitSignal(access_map.chosen) as got:
        qtbot.mouseClick(access_map, Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y)))
    assert got.args == [1]
    with qtbot.waitSignal(access_map.place_asked) as got:
        qtbot.mouseDClick(access_map, Qt.MouseButton.LeftButton, pos=QPoint(350, 60))
    assert got.args[0].lat > HOME.lat
    assert abs(got.args[0].lon - HOME.lon) < 0.01


def test_crowded_points_become_one_mark_that_opens(qtbot, access_map):
    access_map.show_points(some_points(HOME, [(46.50, -31.05), (46.5001, -31.0501), (46.5002, -31.05)]), ())
    access_map.fit(20)
    access_map.grab()
    assert [count for *_rest, count in access_map.picture.shown] == [3]
    access_map.select(1)
    ((x, y),) = access_map.view.to_px(access_map.points.km[:1])
    scale = access_map.view.scale
    qtbot.mouseClick(access_map, Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y)))
    assert access_map.view.scale == pytest.approx(2 * scale)
    access_map.fit(0.5)
    access_map.view = access_map.view._replace(
        x=float(access_map.points.km[0, 0]), y=float(access_map.points.km[0, 1]), scale=400.0
    )
    access_map.grab()
    px = [access_map.view.to_px(np.array([[x, y]]))[0] for _number, x, y, _count in access_map.picture.shown]
    assert all(np.hypot(*(one - other)) >= MARK_PX * 0.94 for at, one in enumerate(px) for other in px[at + 1 :])


def test_keys_move_zoom_and_walk(qtbot, access_map):
    view = access_map.view
    qtbot.keyClick(access_map, Qt.Key.Key_Right)
    assert access_map.view.x > view.x
    qtbot.keyClick(access_map, Qt.Key.Key_Plus)
    assert access_map.view.scale > view.scale
    qtbot.keyClick(access_map, Qt.Key.Key_Minus)
    assert access_map.view.scale == pytest.approx(view.scale)
    for key, signal, args in ((Qt.Key.Key_N, access_map.stepped, [1]), (Qt.Key.Key_P, access_map.stepped, [-1])):
        with qtbot.waitSignal(signal) as got:
            qtbot.keyClick(access_map, key)
        assert got.args == args
    with qtbot.waitSignals([access_map.home_asked, access_map.activated]):
        qtbot.keyClick(access_map, Qt.Key.Key_Home)
        qtbot.keyClick(access_map, Qt.Key.Key_Return)


def test_dragging_pans_without_drawing_anew(qtbot, access_map):
    access_map.show_coast(world_coast())
    access_map.show_points(some_points(HOME, [(46.5, -31.0)]), ())
    access_map.grab()
    picture = access_map.picture.pixmap
    qtbot.mousePress(access_map, Qt.MouseButton.LeftButton, pos=QPoint(100, 100))
    qtbot.mouseMove(access_map, QPoint(160, 130))
    qtbot.mouseRelease(access_map, Qt.MouseButton.LeftButton, pos=QPoint(160, 130))
    access_map.pan(10, 10)
    access_map.grab()
    assert access_map.picture.pixmap is picture
    access_map.pan(900, 0)
    access_map.grab()
    assert access_map.picture.pixmap is not picture


def test_the_wheel_zooms_at_the_pointer(access_map):
    from PyQt6.QtCore import QPointF

    before = access_map.view.to_km(200, 100)
    event = QWheelEvent(
        QPointF(200, 100), QPointF(200, 100), QPoint(), QPoint(0, 120), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    access_map.wheelEvent(event)
    assert access_map.view.to_km(200, 100) == pytest.approx(before)


def test_labels_are_asked_for_a_few_only(access_map):
    chance = np.random.default_rng(1)
    places = np.column_stack((chance.uniform(40, 52, 20_000), chance.uniform(-40, -20, 20_000)))
    access_map.show_points(some_points(HOME, places), ())
    access_map.fit(600)
    access_map.grab()
    assert sum(map(len, access_map.asked)) <= 70
    assert sum(count for *_rest, count in access_map.picture.shown) > 5_000


@pytest.mark.parametrize("centre", [Position(0, 179.9), Position(89.9, 0), Position(-89.9, 0), Position(0, 0)])
@pytest.mark.parametrize("km", [20, 3_000, 20_000])
def test_it_can_be_drawn_anywhere_at_any_zoom(access_map, centre, km):
    access_map.show_coast(world_coast())
    access_map.go_to(centre)
    access_map.fit(km)
    assert not access_map.grab().isNull()


def test_a_lone_mark_has_its_label(access_map):
    """Marks keep their own place free, not the place of their label."""
    from umbra_awl.desk.access.chart.map_geometry import LabelPlaces as Places

    for x in np.arange(100, 104, 0.5):
        places = Places(300, 200)
        places.block_all(np.array([[x, 100.0]]), MARK_PX / 2 - 3)
        box = places.place(x, 100.0, 60, 14, MARK_PX / 2 + 2)
        assert box is not None
        assert box.left > x
