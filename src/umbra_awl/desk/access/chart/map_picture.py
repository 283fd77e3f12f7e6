"""The drawn map as it is kept while one pans: ground and marks, larger than the window, thinned so that no two marks touch."""

from collections.abc import Callable
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np
from PyQt6.QtGui import QPainter, QPixmap

from umbra_awl.core.estimate.survey import SurveySpot
from umbra_awl.desk.access.chart.map_geometry import View, thin
from umbra_awl.desk.access.chart.map_paint import MARK_PX, Labelled, MapMark, paint_ground, paint_marks
from umbra_awl.desk.access.chart.map_points import kind_of, modes_of, numbers_of

if TYPE_CHECKING:
    from umbra_awl.desk.access.chart.map import AccessMap

MARGIN_PX = 80
_NAMES_FROM = 2.5
_MOST_NAMES = 70
Labels = Callable[[list[int]], dict[int, tuple[str, str]]]


@lru_cache(maxsize=512)
def _mark_of(bits: int, in_plan: bool, grade: str, gone: bool) -> MapMark:
    return MapMark(kind_of(bits), modes_of(bits), in_plan, grade, gone)


class MapPicture:
    """Draws the picture of a map when it no longer covers the window; `shown` are the marks that are on it."""

    def __init__(self, access_map: "AccessMap", labels: Labels) -> None:
        self._map, self._labels = access_map, labels
        self._names: dict[int, tuple[str, str]] = {}
        self._grades: dict[int, str] = {}
        self.shown: list[tuple[int, float, float, int]] = []
        self.pixmap: QPixmap | None = None
        self._of: View | None = None

    def know(self, spots: tuple[SurveySpot, ...]) -> None:
        """Take what is known of points that were surveyed."""
        self._grades, self._names = {}, {}
        for number, spot in zip(numbers_of(spots), spots, strict=True):
            self._grades[number] = spot.grade
            self._names[number] = (spot.access.call, spot.access.site)

    def forget(self) -> None:
        """Draw everything anew at the next paint."""
        self.pixmap = None

    def paint(self, painter: QPainter) -> None:
        """Paint it where it lies now, drawn anew only where it must be."""
        if self.pixmap is None or not self._covers():
            self._draw()
        assert self.pixmap is not None
        dx, dy = self._shift()
        painter.drawPixmap(round(dx) - MARGIN_PX, round(dy) - MARGIN_PX, self.pixmap)

    def _shift(self) -> tuple[float, float]:
        """Where the kept picture's middle lies now, in pixels from the window's middle."""
        view = self._map.view
        assert self._of is not None
        return (self._of.x - view.x) * view.scale, (view.y - self._of.y) * view.scale

    def _covers(self) -> bool:
        if self._of is None or self._of.scale != self._map.view.scale:
            return False
        dx, dy = self._shift()
        return abs(dx) < MARGIN_PX and abs(dy) < MARGIN_PX

    def _draw(self) -> None:
        view, theme = self._map.view.grown(MARGIN_PX), self._map.theme
        ratio = self._map.devicePixelRatioF()
        picture = QPixmap(round(view.width * ratio), round(view.height * ratio))
        picture.setDevicePixelRatio(ratio)
        painter = QPainter(picture)
        paint_ground(painter, theme, self._map.coast, view, self._map.reach_km)
        paint_marks(painter, theme, self._marks(view), view, ratio)
        painter.end()
        self.pixmap, self._of = picture, self._map.view

    def _marks(self, view: View) -> list[Labelled]:
        """The marks in a view, thinned so that none touch, most important first."""
        points, selected = self._map.points, self._map.selected
        px = view.to_px(points.km)
        seen = np.flatnonzero((px[:, 0] > 0) & (px[:, 0] < view.width) & (px[:, 1] > 0) & (px[:, 1] < view.height))
        order = np.where(points.ids[seen] == selected, -1, points.rank[seen]) + 1
        thinned = thin(px[seen], order, MARK_PX * 0.95)
        kept = seen[thinned.places]
        self._ask_names([int(number) for number in points.ids[kept[:_MOST_NAMES]]])
        made: list[Labelled] = []
        self.shown = []
        rows = zip(
            kept.tolist(),
            points.ids[kept].tolist(),
            px[kept].tolist(),
            points.km[kept].tolist(),
            thinned.counts.tolist(),
            strict=True,
        )
        for rank, (at, number, (x, y), (east, north), count) in enumerate(rows):
            label = self._label(number) if rank < _MOST_NAMES else ""
            made.append(Labelled(x, y, self._mark(at), label, count, number == selected))
            self.shown.append((number, east, north, count))
        return made

    def _ask_names(self, numbers: list[int]) -> None:
        unknown = [number for number in numbers if number not in self._names and number > 0]
        if unknown:
            self._names.update(self._labels(unknown))

    def _label(self, number: int) -> str:
        call, site = self._names.get(number, ("", ""))
        with_site = self._map.view.scale >= _NAMES_FROM
        return f"{call} {site}".strip() if with_site and site != call else call or site

    def _mark(self, at: int) -> MapMark:
        """How the mark of a point looks."""
        number, bits, in_plan, gone = self._map.points.rows[at]
        return _mark_of(bits, in_plan, self._grades.get(number, ""), gone)
