"""The map: what is on the air around a centre, in true distance and bearing.

Drag or arrow keys move, the wheel or + and − zoom, a double click looks around another place.
"""

from collections.abc import Callable
from functools import lru_cache

import numpy as np
from PyQt6.QtCore import QEvent, QPoint, QPointF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.estimate.survey import SurveySpot
from umbra_awl.core.facts.coast import Coast
from umbra_awl.core.facts.earth import Position
from umbra_awl.desk.access.map_geometry import Floats, View, project, thin, unproject
from umbra_awl.desk.access.map_over import MapOverlay, Overlay
from umbra_awl.desk.access.map_paint import (
    MARK_PX,
    CoastOnPlane,
    Labelled,
    MapMark,
    paint_ground,
    paint_marks,
)
from umbra_awl.desk.access.map_points import NONE, Points, kind_of, modes_of, numbers_of
from umbra_awl.desk.parts.pointed import ThingAct
from umbra_awl.desk.parts.tips import show_tip
from umbra_awl.desk.theme.theme import Theme

MARGIN_PX = 80
_PICK_PX = 14
_KEY_STEP_PX = 70
_ZOOM = 1.35
_NAMES_FROM = 2.5
_MOST_NAMES = 70
_ARROWS = {
    Qt.Key.Key_Left: (1, 0),
    Qt.Key.Key_Right: (-1, 0),
    Qt.Key.Key_Up: (0, 1),
    Qt.Key.Key_Down: (0, -1),
}
Labels = Callable[[list[int]], dict[int, tuple[str, str]]]


@lru_cache(maxsize=512)
def _mark_of(bits: int, in_plan: bool, grade: str, gone: bool) -> MapMark:
    return MapMark(kind_of(bits), modes_of(bits), in_plan, grade, gone)


class AccessMap(QWidget):
    """Shows points; says what was chosen. Knows nothing of the plan or the store."""

    chosen = pyqtSignal(int)
    activated = pyqtSignal()
    stepped = pyqtSignal(int)
    place_asked = pyqtSignal(object)
    home_asked = pyqtSignal()

    def __init__(self, theme: Theme, labels: Labels) -> None:
        super().__init__()
        self._theme = theme
        self._labels = labels
        self._names: dict[int, tuple[str, str]] = {}
        self._grades: dict[int, str] = {}
        self.centre = Position(0.0, 0.0)
        self.view = View(0, 0, 9.0, 600, 400)
        self.points: Points = NONE
        self.selected: int | None = None
        self.moving: Position | None = None
        self.worked: tuple[tuple[Position, str], ...] = ()
        self.reach_km = (0.0, 0.0)
        self.placed = True
        self.shown: list[tuple[int, float, float, int]] = []
        self._raw: Coast | None = None
        self._coast: CoastOnPlane | None = None
        self._picture: QPixmap | None = None
        self._pictured: View | None = None
        self._overlay = Overlay(theme)
        self._grip: QPoint | None = None
        self._dragged = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(160)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setAccessibleName("Map. Arrow keys move, plus and minus zoom, N and P walk through the list, Enter takes.")
        theme.changed.connect(self.redraw)

    def sizeHint(self) -> QSize:
        return QSize(800, 400)

    def show_coast(self, coast: Coast) -> None:
        """Set the coastline."""
        self._raw = coast
        self._coast = CoastOnPlane(coast, self.centre)
        self.redraw()

    def go_to(self, centre: Position) -> None:
        """Put another place at the middle."""
        if centre != self.centre:
            self.centre = centre
            self._coast = CoastOnPlane(self._raw, centre) if self._raw is not None else None
            self.points = NONE
        self.view = self.view._replace(x=0.0, y=0.0)
        self.redraw()

    def show_points(self, points: Points, spots: tuple[SurveySpot, ...]) -> None:
        """Set the points, and what is known of those surveyed."""
        self.points = points if points.rows else points.with_rows()
        self._grades, self._names = {}, {}
        for number, spot in zip(numbers_of(spots), spots, strict=True):
            self._grades[number] = spot.grade
            self._names[number] = (spot.access.call, spot.access.site)
        self.redraw()

    def fit(self, km: float) -> None:
        """Show so many kilometres around the centre."""
        room = max(min(self.width(), self.height()) / 2 - 24, 40)
        self.view = self.view._replace(x=0.0, y=0.0, scale=min(max(room / max(km, 0.5), 0.01), 60.0))
        self.redraw()

    def select(self, number: int | None) -> None:
        """Mark a point as selected, and bring it into the window."""
        if number != self.selected:
            self.selected = number
            self._picture = None  # its mark and its label come first now
        at = self._at(number)
        if at is not None:
            px, py = self.view.to_px(self.points.km[at : at + 1])[0]
            if not (20 < px < self.width() - 20 and 20 < py < self.height() - 20):
                x, y = self.points.km[at]
                self.view = self.view._replace(x=float(x), y=float(y))
        self.update()

    def _at(self, number: int | None) -> int | None:
        if number is None:
            return None
        found = np.flatnonzero(self.points.ids == number)
        return int(found[0]) if len(found) else None

    def show_moving(self, position: Position | None) -> None:
        """Show where a moving station is."""
        self.moving = position
        self.update()

    def show_worked(self, spots: tuple[tuple[Position, str], ...]) -> None:
        """Show where one worked from: positions, and what is said of each."""
        self.worked = spots
        self.update()

    def redraw(self) -> None:
        """Draw everything anew at the next paint."""
        self._picture = None
        self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.view = self.view._replace(width=self.width(), height=self.height())
        self.redraw()

    def zoom(self, factor: float, px: float | None = None, py: float | None = None) -> None:
        """Zoom about a pixel, or about the middle."""
        self.view = self.view.zoomed(
            factor, self.width() / 2 if px is None else px, self.height() / 2 if py is None else py
        )
        self.redraw()

    def pan(self, dx: float, dy: float) -> None:
        """Push the drawing by pixels."""
        self.view = self.view.panned(dx, dy)
        self.update()

    # painting

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        if self._picture is None or not self._covers():
            self._draw_picture()
        assert self._picture is not None and self._pictured is not None  # noqa: PT018  (both are set together)
        dx, dy = self._shift()
        painter.drawPixmap(round(dx) - MARGIN_PX, round(dy) - MARGIN_PX, self._picture)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._overlay.paint(painter, self._over(), self.rect(), self.view.scale)

    def _shift(self) -> tuple[float, float]:
        """Where the kept picture's middle lies now, in pixels from the window's middle."""
        assert self._pictured is not None
        return (self._pictured.x - self.view.x) * self.view.scale, (self.view.y - self._pictured.y) * self.view.scale

    def _covers(self) -> bool:
        if self._pictured is None or self._pictured.scale != self.view.scale:
            return False
        dx, dy = self._shift()
        return abs(dx) < MARGIN_PX and abs(dy) < MARGIN_PX

    def _draw_picture(self) -> None:
        view = self.view.grown(MARGIN_PX)
        ratio = self.devicePixelRatioF()
        picture = QPixmap(round(view.width * ratio), round(view.height * ratio))
        picture.setDevicePixelRatio(ratio)
        painter = QPainter(picture)
        paint_ground(painter, self._theme, self._coast, view, self.reach_km)
        marks = self._marks(view)
        paint_marks(painter, self._theme, marks, view, ratio)
        painter.end()
        self._picture, self._pictured = picture, self.view

    def _marks(self, view: View) -> list[Labelled]:
        """The marks in a view, thinned so that none touch, most important first."""
        points = self.points
        px = view.to_px(points.km)
        seen = np.flatnonzero((px[:, 0] > 0) & (px[:, 0] < view.width) & (px[:, 1] > 0) & (px[:, 1] < view.height))
        order = np.where(points.ids[seen] == self.selected, -1, points.rank[seen]) + 1
        thinned = thin(px[seen], order, MARK_PX * 0.95)
        kept = seen[thinned.places]
        named = kept[:_MOST_NAMES]
        unknown = [int(number) for number in points.ids[named] if int(number) not in self._names and number > 0]
        if unknown:
            self._names.update(self._labels(unknown))
        with_site = self.view.scale >= _NAMES_FROM
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
            call, site = self._names.get(number, ("", "")) if rank < _MOST_NAMES else ("", "")
            label = f"{call} {site}".strip() if with_site and site != call else call or site
            made.append(Labelled(x, y, self._mark(at), label, count, number == self.selected))
            self.shown.append((number, east, north, count))
        return made

    def _mark(self, at: int) -> MapMark:
        """How the mark of a point looks."""
        number, bits, in_plan, gone = self.points.rows[at]
        return _mark_of(bits, in_plan, self._grades.get(number, ""), gone)

    def _over(self) -> MapOverlay:
        """Where what is drawn over the picture lies."""
        at = self._at(self.selected)
        moving = self.moving
        there = None if moving is None else project(self.centre, np.array([moving.lat]), np.array([moving.lon]))
        return MapOverlay(
            self._px(np.zeros((1, 2))) if self.placed else None,
            None if at is None else self._px(self.points.km[at : at + 1]),
            None if there is None else self._px(there),
            self.hasFocus(),
            tuple(at for at, _words in self._flags()),
        )

    def _flags(self) -> list[tuple[QPointF, str]]:
        """Where flags stand that are in sight, and their words."""
        if not self.worked:
            return []
        lats, lons = (np.array([getattr(place, axis) for place, _words in self.worked]) for axis in ("lat", "lon"))
        px = self.view.to_px(project(self.centre, lats, lons)).tolist()
        seen = self.rect().adjusted(-20, -20, 20, 20)
        rows = zip(px, self.worked, strict=True)
        return [(QPointF(x, y), said) for (x, y), (_place, said) in rows if seen.contains(round(x), round(y))]

    def _px(self, km: Floats) -> QPointF:
        return QPointF(*self.view.to_px(km)[0])

    # hands

    def event(self, event: QEvent | None) -> bool:
        """Pointing at a flag says which spot it is."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            at = QPointF(event.pos())
            said = [words for foot, words in self._flags() if (foot - at - QPointF(-4, 8)).manhattanLength() < _PICK_PX]
            show_tip(event.globalPos(), "\n".join(said), self)
            return True
        return super().event(event)

    def _number_at(self, px: float, py: float) -> tuple[int, int] | None:
        """The point under a pixel and how many it stands for."""
        best: tuple[float, int, int] | None = None
        for number, x, y, count in self.shown:
            sx, sy = (
                (x - self.view.x) * self.view.scale + self.width() / 2,
                (self.view.y - y) * self.view.scale + self.height() / 2,
            )
            off = (sx - px) ** 2 + (sy - py) ** 2
            if off <= _PICK_PX**2 and (best is None or off < best[0]):
                best = (off, number, count)
        return best[1:] if best else None

    def acts_at(self, at: QPoint) -> list[ThingAct]:
        """Choose the point there; on the bare map, look around from there."""
        found = self._number_at(at.x(), at.y())
        if found is not None:
            self.chosen.emit(found[0])
            return []
        there = unproject(self.centre, *self.view.to_km(at.x(), at.y()))
        return [ThingAct("Look around from here", lambda: self.place_asked.emit(there))]

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self._grip, self._dragged = event.position().toPoint(), False

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._grip is None:
            return
        now = event.position().toPoint()
        step = now - self._grip
        if self._dragged or step.manhattanLength() > 4:
            self._dragged, self._grip = True, now
            self.pan(step.x(), step.y())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and not self._dragged:
            found = self._number_at(event.position().x(), event.position().y())
            if found is not None and found[1] > 1 and found[0] == self.selected:
                self.zoom(2.0, event.position().x(), event.position().y())
            elif found is not None:
                self.chosen.emit(found[0])
        self._grip = None

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        if self._number_at(event.position().x(), event.position().y()) is None:
            self.place_asked.emit(unproject(self.centre, *self.view.to_km(event.position().x(), event.position().y())))

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None and event.angleDelta().y():
            self.zoom(_ZOOM ** (event.angleDelta().y() / 120), event.position().x(), event.position().y())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        key = Qt.Key(event.key())
        if key in _ARROWS:
            dx, dy = _ARROWS[key]
            self.pan(dx * _KEY_STEP_PX, dy * _KEY_STEP_PX)
        elif key in {Qt.Key.Key_Plus, Qt.Key.Key_Equal}:
            self.zoom(_ZOOM)
        elif key in {Qt.Key.Key_Minus, Qt.Key.Key_Underscore}:
            self.zoom(1 / _ZOOM)
        elif key == Qt.Key.Key_Home:
            self.home_asked.emit()
        elif key in {Qt.Key.Key_N, Qt.Key.Key_P}:
            self.stepped.emit(1 if key == Qt.Key.Key_N else -1)
        elif key in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.activated.emit()
        else:
            super().keyPressEvent(event)
