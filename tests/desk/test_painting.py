"""What is painted is where it should be: looked at pixel by pixel, in both themes."""

import pytest
from PyQt6.QtCore import QPoint, QRect
from PyQt6.QtGui import QColor, QImage, QPainter

from umbra_awl.core.fit.report import Gauge
from umbra_awl.core.transfer.image import owned_spans
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.radios.gauges import Gauges
from umbra_awl.desk.sheet.grid import Shown, grid_of
from umbra_awl.desk.sheet.heads import SheetMarks, SheetScroll
from umbra_awl.desk.sheet.layout import SheetLayout
from umbra_awl.desk.sheet.paint import SheetPainter, hole_centre
from umbra_awl.desk.station.ruler import marks_of
from umbra_awl.desk.transfer.cable.strip import CELLS, cell_kinds


@pytest.fixture(params=["light", "dark"])
def theme(request, window):
    window.theme.choose(request.param)
    yield window.theme
    window.theme.choose("light")


def near(one, other, most=24):
    return all(abs(a - b) <= most for a, b in zip(one.getRgb(), QColor(other).getRgb(), strict=True))


def painted(theme, layout, marks, view=None, dirty=None):
    view = view or SheetScroll(0, 0, 1000, 700)
    image = QImage(view.width, view.height, QImage.Format.Format_RGB32)
    image.fill(QColor("#FF00FF"))
    painter = QPainter(image)
    SheetPainter(theme).paint(painter, layout, view, marks, dirty or image.rect())
    painter.end()
    return image


def no_marks(**fields):
    return SheetMarks({}, {}, None, frozenset(), frozenset(), False)._replace(**fields)


def at(layout, key, slot):
    service, destination = key
    cell = layout.cell_of(service, destination)
    centre = hole_centre(layout, cell.row, cell.column, slot)
    return QPoint(layout.sizes.left + round(centre.x()), layout.sizes.head + round(centre.y()))


def test_holes_and_shade_are_where_the_plan_says(theme, window):
    layout = SheetLayout(window.bench.index)
    image = painted(theme, layout, no_marks())
    assert near(image.pixelColor(at(layout, ("blackfell-dmr", "isles-wide"), 2)), theme.tokens.hole)
    assert near(image.pixelColor(at(layout, ("blackfell-dmr", "isles-wide"), 1)), theme.tokens.sheet)
    assert near(image.pixelColor(at(layout, ("blackfell-fm", "local"), 0)), theme.tokens.hole)
    assert near(image.pixelColor(at(layout, ("blackfell-fm", "worldwide"), 0)), theme.tokens.shade)
    dmr = SheetLayout(window.bench.index, grid_of(window.bench.index, Shown(mode="fusion")))
    image = painted(theme, dmr, no_marks())
    assert near(image.pixelColor(at(dmr, ("home-fusion", "leave-room"), 1)), theme.tokens.shade)
    assert near(image.pixelColor(at(dmr, ("torrick-fusion", "local"), 1)), theme.tokens.sheet)


def test_a_ring_stands_round_a_finding(theme, window):
    layout = SheetLayout(window.bench.index)
    key = "cairnlow-dmr>exercise@2"
    spots = [at(layout, ("cairnlow-dmr", "exercise"), 2) + QPoint(x, 0) for x in range(7, 12)]
    without, ringed = painted(theme, layout, no_marks()), painted(theme, layout, no_marks(rings={key: "stop"}))
    assert not any(near(without.pixelColor(spot), theme.tokens.stop, 60) for spot in spots)
    assert any(near(ringed.pixelColor(spot), theme.tokens.stop, 60) for spot in spots)


def test_a_part_painted_alone_is_the_same_as_in_the_whole(theme, window):
    layout = SheetLayout(window.bench.index)
    whole = painted(theme, layout, no_marks())
    part = QRect(300, 200, 240, 120)
    alone = painted(theme, layout, no_marks(), dirty=part)
    assert alone.copy(part) == whole.copy(part)
    assert near(alone.pixelColor(10, 650), "#FF00FF", 0)


def test_scrolled_rows_move_up_and_the_heads_stay(theme, window):
    layout = SheetLayout(window.bench.index)
    rest = painted(theme, layout, no_marks(), SheetScroll(0, 200, 1000, 700))
    moved = painted(theme, layout, no_marks(), SheetScroll(0, 226, 1000, 700))
    head = QRect(layout.sizes.left, 0, 600, layout.sizes.head)
    assert moved.copy(head) == rest.copy(head)
    body = QRect(layout.sizes.left, layout.sizes.head + 60, 600, 300)
    assert moved.copy(body.translated(0, -26)) == rest.copy(body)


def test_scrolling_the_widget_shows_what_painting_anew_shows(qtbot, theme, window):
    window.resize(900, 640)
    sheet = window.stages["routes"].sheet
    window.bench.select(Selection())
    bar = sheet.verticalScrollBar()
    bar.setValue(0)
    sheet.viewport().repaint()
    for value in (26, 130, 104, 400, 11):
        bar.setValue(value)
        qtbot.wait(1)
    by_moving = sheet.viewport().grab().toImage()
    sheet.viewport().update()
    qtbot.wait(1)
    assert sheet.viewport().grab().toImage() == by_moving


def test_the_ruler_marks_what_is_not_allowed(index):
    wrong = [mark for mark in marks_of(index) if not mark.allowed]
    assert [(mark.label, mark.hz) for mark in wrong] == [("Q0NES", 446_387_500)]


@pytest.mark.parametrize("key", ["tarn16", "moor4k"])
def test_the_strip_shows_ours_and_what_would_change(profiles, key):
    profile = profiles[key]
    kinds = cell_kinds(profile)
    assert len(kinds) == CELLS
    assert set(kinds) == {"own", "ours"}
    before = bytes(profile.image.size)
    start, _end = owned_spans(profile)[1]
    after = bytearray(before)
    after[start] = 1
    assert cell_kinds(profile, before, bytes(after)).count("change") == 1
    assert "proven" in cell_kinds(profile, proven=True)


def test_a_full_gauge_is_brass_and_an_overrun_one_is_red(theme, window):
    gauges = Gauges(theme)
    gauges.resize(600, 80)
    gauges.show_gauges((Gauge("zones", 3, 16), Gauge("channels", 16, 16), Gauge("contacts", 20, 16)))
    image = gauges.grab().toImage()
    y = round(theme.px(34) - theme.px(9))
    assert near(image.pixelColor(10, y), theme.tokens.violet, 40)
    assert near(image.pixelColor(210, y), theme.tokens.brass, 40)
    assert near(image.pixelColor(410, y), theme.tokens.stop, 40)
    assert "channels 16 of 16" in gauges.accessibleName()
    gauges.deleteLater()


def test_gauges_stand_in_fewer_columns_where_their_words_would_meet(qtbot, window):
    made = Gauges(window.theme)
    qtbot.addWidget(made)
    made.show_gauges((Gauge("channels", 29, 256), Gauge("receive group lists", 11, 64), Gauge("scan lists", 8, 8)))
    made.resize(700, 120)
    assert made._across == 3
    made.resize(330, 120)
    assert made._across == 1
    assert made.sizeHint().height() == 3 * window.theme.px(38)
