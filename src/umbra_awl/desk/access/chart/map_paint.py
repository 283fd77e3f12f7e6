"""Painting the map: coast, rings and bearings, marks by kind and mode, labels. One picture larger than the window is kept."""

from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from PyQt6 import sip
from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QFontMetricsF, QPainter, QPen, QPixmap, QPolygonF

from umbra_awl.core.facts.coast import Coast
from umbra_awl.core.facts.earth import Position
from umbra_awl.desk.access.chart.map_geometry import FARTHEST_KM, Floats, LabelPlaces, View, project, ring_step
from umbra_awl.desk.theme.theme import Theme

MARK_PX = 22
_COARSE = ((0.02, 24), (0.08, 8), (0.4, 3), (1.2, 2))
"""Pixels a kilometre below which only every so many points of the coast are drawn."""
_AROUND_PX = 3_000
_MOST_LABELS = 70
_LABEL_GAP = MARK_PX / 2 + 2


class MapMark(NamedTuple):
    """How a mark looks: kind, modes as bits, whether it is in the plan, and its grade (“wrong” gets a ring)."""

    kind: str
    modes: int
    in_plan: bool
    grade: str = ""
    gone: bool = False


class Labelled(NamedTuple):
    """A mark on the map with its label; it stands for so many."""

    px: float
    py: float
    mark: MapMark
    label: str
    stands_for: int
    chosen: bool = False


def polygon(points: Floats) -> QPolygonF:
    """Points (n, 2) as Qt's polygon, without a loop in Python."""
    made = QPolygonF()
    made.fill(QPointF(), len(points))
    buffer = sip.voidptr(made.data(), len(points) * 16, True)
    np.frombuffer(buffer, np.float64).reshape(-1, 2)[:] = points  # type: ignore[call-overload]
    return made


class CoastOnPlane:
    """A coastline projected around one centre, with the box of each ring; coarser ones for small scales are made when needed."""

    def __init__(self, coast: Coast, centre: Position) -> None:
        self.points = project(centre, coast.points[:, 1], coast.points[:, 0])
        self.starts = coast.starts
        low, high = (
            np.minimum.reduceat(self.points, coast.starts[:-1]),
            np.maximum.reduceat(self.points, coast.starts[:-1]),
        )
        self.boxes = np.hstack((low, high))
        far = np.hypot(self.points[:, 0], self.points[:, 1]) > FARTHEST_KM * 0.93
        self.wraps = np.maximum.reduceat(far, coast.starts[:-1])
        self._levels: dict[int, tuple[Floats, NDArray[np.int64]]] = {1: (self.points, self.starts)}

    def level(self, scale: float) -> tuple[Floats, NDArray[np.int64]]:
        """Points and ring starts fine enough for pixels a kilometre: only every so many points of long rings."""
        stride = next((step for least, step in _COARSE if scale < least), 1)
        if stride not in self._levels:
            place = np.arange(len(self.points)) - np.repeat(self.starts[:-1], np.diff(self.starts))
            short = np.repeat(np.diff(self.starts) <= 6 * stride, np.diff(self.starts))
            last = np.zeros(len(self.points), bool)
            last[self.starts[1:] - 1] = True
            kept = short | last | (place % stride == 0)
            starts = np.concatenate(([0], np.cumsum(np.add.reduceat(kept.astype(np.int64), self.starts[:-1]))))
            self._levels[stride] = (self.points[kept], starts)
        return self._levels[stride]

    def rings_in(self, view: View) -> NDArray[np.intp]:
        """The rings whose boxes meet a view and are large enough to be seen."""
        left, top = view.to_km(0, 0)
        right, bottom = view.to_km(view.width, view.height)
        boxes = self.boxes
        seen = (boxes[:, 0] <= right) & (boxes[:, 2] >= left) & (boxes[:, 1] <= top) & (boxes[:, 3] >= bottom)
        big = (boxes[:, 2] - boxes[:, 0] + boxes[:, 3] - boxes[:, 1]) * view.scale > 3
        return np.flatnonzero(seen & big)


def paint_ground(
    painter: QPainter, theme: Theme, coast: CoastOnPlane | None, view: View, reach_km: tuple[float, float]
) -> None:
    """Sea, land, the shade beyond reach, rings and bearings."""
    painter.fillRect(0, 0, view.width, view.height, theme.color("bg"))
    middle = QPointF(*view.to_px(np.zeros((1, 2)))[0])
    _paint_reach(painter, theme, view, middle, reach_km)
    if coast is not None:
        _paint_coast(painter, theme, coast, view)
    _paint_rings(painter, theme, view, middle)


def _paint_reach(painter: QPainter, theme: Theme, view: View, middle: QPointF, reach_km: tuple[float, float]) -> None:
    """Two discs: where a usual repeater is likely heard, and where it may be."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for km, share in ((reach_km[1], 0.5), (reach_km[0], 0.75)):
        radius = km * view.scale
        if 6 < radius < 6_000:
            color = QColor(theme.color("ok_tint"))
            color.setAlphaF(share)
            painter.setBrush(color)
            painter.drawEllipse(middle, radius, radius)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)


def _paint_coast(painter: QPainter, theme: Theme, coast: CoastOnPlane, view: View) -> None:
    """Land with a hair line around it, ring by ring: one big path would cost many times as much."""
    land, line = QColor(theme.color("sheet")), QPen(theme.color("ink2"), 0)
    land.setAlphaF(0.8)  # the shade of reach shows through
    points, starts = coast.level(view.scale)
    everything = view.to_px(points)
    # what lies far outside is pulled to the window's surroundings, within what the painter can count
    cut = np.clip(everything, -_AROUND_PX, (view.width + _AROUND_PX, view.height + _AROUND_PX))
    painter.setPen(line)
    painter.setBrush(land)
    for ring in coast.rings_in(view).tolist():
        low, high = starts[ring], starts[ring + 1]
        if coast.wraps[ring]:
            _paint_broken(painter, line, everything[low:high], FARTHEST_KM * view.scale / 3)
            painter.setBrush(land)
        else:
            painter.drawPolygon(polygon(cut[low:high]))


def _paint_broken(painter: QPainter, pen: QPen, px: Floats, longest: float) -> None:
    """A ring around the far side of the earth: drawn without the jumps across the picture."""
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    jump = np.hypot(*np.diff(px, axis=0).T) > longest
    for part in np.split(px, np.flatnonzero(jump) + 1):
        if len(part) > 1:
            painter.drawPolyline(polygon(part))


def _paint_rings(painter: QPainter, theme: Theme, view: View, middle: QPointF) -> None:
    step = ring_step(view.scale * theme.measures.km_each) * theme.measures.km_each
    pen = QPen(theme.color("line"), 1, Qt.PenStyle.CustomDashLine)
    pen.setDashPattern([3, 4])
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setFont(theme.font(12))
    metrics = QFontMetricsF(painter.font())
    offset = np.hypot(view.x, view.y)
    first, last = max(1, int((offset - view.reach_km) // step)), int((offset + view.reach_km) // step) + 1
    for number in range(first, min(last, first + 14)):
        radius = number * step * view.scale
        if number * step > FARTHEST_KM or radius > 30_000:
            break
        painter.setPen(pen)
        painter.drawEllipse(middle, radius, radius)
        text = theme.measures.round_distance(number * step)
        painter.setPen(theme.color("ink2"))
        painter.drawText(QPointF(middle.x() - metrics.horizontalAdvance(text) / 2, middle.y() + radius - 3), text)
    _paint_bearings(painter, theme, view, middle)


def _paint_bearings(painter: QPainter, theme: Theme, view: View, middle: QPointF) -> None:
    """Eight spokes with their degrees, on the second ring."""
    pen = QPen(theme.color("line"), 1)
    radius = 2 * ring_step(view.scale * theme.measures.km_each) * theme.measures.km_each * view.scale
    metrics = QFontMetricsF(painter.font())
    for degrees in range(0, 360, 45):
        angle = np.radians(degrees)
        x, y = float(np.sin(angle)), float(-np.cos(angle))
        painter.setPen(pen)
        far = 2 * (view.width + view.height)
        painter.drawLine(QLineF(middle.x() + 14 * x, middle.y() + 14 * y, middle.x() + far * x, middle.y() + far * y))
        text = f"{degrees}°"
        at = QPointF(middle.x() + radius * x - metrics.horizontalAdvance(text) / 2, middle.y() + radius * y + 4)
        if degrees != 180:  # the ring's own label stands there
            painter.setPen(theme.color("ink2"))
            painter.drawText(at, text)


@lru_cache(maxsize=512)
def mark_picture(mark: MapMark, colors: tuple[str, str, str, str, str], ratio: float) -> QPixmap:
    """The picture of a mark. `colors`: ink, paper, stop, brass, faded."""
    ink, paper, stop, _brass, faded = map(QColor, colors)
    picture = QPixmap(round(MARK_PX * ratio), round(MARK_PX * ratio))
    picture.setDevicePixelRatio(ratio)
    picture.fill(Qt.GlobalColor.transparent)
    painter = QPainter(picture)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.translate(MARK_PX / 2, MARK_PX / 2)
    line = faded if mark.gone else ink
    pen = QPen(line, 1.6, Qt.PenStyle.DotLine if mark.gone else Qt.PenStyle.SolidLine)
    pen.setCapStyle(Qt.PenCapStyle.FlatCap)
    painter.setPen(QPen(line, 2.0))
    for bit, (x, y) in ((1, (0, -1)), (2, (1, 0)), (4, (0, 1)), (8, (-1, 0))):
        if mark.modes & bit:
            painter.drawLine(QPointF(5.2 * x, 5.2 * y), QPointF(9.2 * x, 9.2 * y))
    painter.setPen(pen)
    painter.setBrush(QBrush(line if mark.in_plan else paper))
    if mark.kind == "hotspot":
        painter.drawPolygon(QPolygonF([QPointF(0, -5.6), QPointF(5.6, 0), QPointF(0, 5.6), QPointF(-5.6, 0)]))
    elif mark.kind == "simplex":
        painter.drawRoundedRect(QRectF(-6, -3, 12, 6), 3, 3)
    else:
        painter.drawEllipse(QPointF(0, 0), 5, 5)
    if mark.grade == "wrong":
        painter.setPen(QPen(stop, 2.0))
        painter.drawLine(QPointF(4, -10), QPointF(10, -4))
        painter.drawLine(QPointF(4, -4), QPointF(10, -10))
    painter.end()
    return picture


def mark_colors(theme: Theme) -> tuple[str, str, str, str, str]:
    """The colours of marks in a theme."""
    tokens = theme.tokens
    return tokens.hole, tokens.sheet, tokens.stop, tokens.brass, tokens.ink2


def paint_marks(painter: QPainter, theme: Theme, marks: list[Labelled], view: View, ratio: float) -> None:
    """Marks, then as many labels as find room; marks come in the order of their importance."""
    colors = mark_colors(theme)
    places = LabelPlaces(view.width, view.height)
    half = MARK_PX / 2
    pictures: dict[MapMark, QPixmap] = {}
    for px, py, mark, *_rest in reversed(marks):
        picture = pictures.get(mark)
        if picture is None:
            picture = pictures[mark] = mark_picture(mark, colors, ratio)
        painter.drawPixmap(QPointF(px - half, py - half), picture)
    places.block_all(np.array([item[:2] for item in marks]).reshape(-1, 2), half - 3)
    _paint_labels(painter, theme, marks[:_MOST_LABELS], places)


def _paint_labels(painter: QPainter, theme: Theme, marks: list[Labelled], places: LabelPlaces) -> None:
    painter.setFont(theme.font(12, mono=True))
    metrics = QFontMetricsF(painter.font())
    letter, height, ascent = metrics.horizontalAdvance("Q"), metrics.height(), metrics.ascent()
    ink, second, back = theme.color("ink"), theme.color("ink2"), theme.color("sheet")
    back.setAlpha(190)
    for item in marks:
        text = item.label + (f" +{item.stands_for - 1}" if item.stands_for > 1 else "")
        box = places.place(item.px, item.py, letter * len(text) + 4, height, _LABEL_GAP) if text else None
        if box is not None:
            rect = QRectF(*box)
            painter.fillRect(rect, theme.color("violet_tint") if item.chosen else back)
            painter.setPen(ink if item.mark.in_plan or item.chosen else second)
            painter.drawText(QPointF(box.left + 2, box.top + ascent), text)
