"""The map: what is on the air around a centre, in true distance and bearing.

Drag or arrow keys move, the wheel or + and − zoom, a double click looks around another place.
"""

import numpy as np
from PyQt6.QtCore import QPoint, QPointF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QPainter,
    QPaintEvent,
    QResizeEvent,
)
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.estimate.survey import SurveySpot
from umbra_awl.core.facts.coast import Coast
from umbra_awl.core.facts.earth import Position
from umbra_awl.desk.access.chart.map_geometry import Floats, View, project, unproject
from umbra_awl.desk.access.chart.map_hands import MapHands
from umbra_awl.desk.access.chart.map_over import MapOverlay, Overlay
from umbra_awl.desk.access.chart.map_paint import (
    CoastOnPlane,
)
from umbra_awl.desk.access.chart.map_picture import Labels, MapPicture
from umbra_awl.desk.access.chart.map_points import NONE, Points
from umbra_awl.desk.parts.pointed import ThingAct
from umbra_awl.desk.theme.theme import Theme


class AccessMap(QWidget):
    """Shows points; says what was chosen. Knows nothing of the plan or the store."""

    chosen = pyqtSignal(int)
    activated = pyqtSignal()
    stepped = pyqtSignal(int)
    place_asked = pyqtSignal(object)
    home_asked = pyqtSignal()

    def __init__(self, theme: Theme, labels: Labels) -> None:
        super().__init__()
        self.theme = theme
        self.picture = MapPicture(self, labels)
        self.centre = Position(0.0, 0.0)
        self.view = View(0, 0, 9.0, 600, 400)
        self.points: Points = NONE
        self.selected: int | None = None
        self.moving: Position | None = None
        self.worked: tuple[tuple[Position, str], ...] = ()
        self.reach_km = (0.0, 0.0)
        self.placed = True
        self._raw: Coast | None = None
        self.coast: CoastOnPlane | None = None
        self._overlay = Overlay(theme)
        self._hands = MapHands(self)
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
        self.coast = CoastOnPlane(coast, self.centre)
        self.redraw()

    def go_to(self, centre: Position) -> None:
        """Put another place at the middle."""
        if centre != self.centre:
            self.centre = centre
            self.coast = CoastOnPlane(self._raw, centre) if self._raw is not None else None
            self.points = NONE
        self.view = self.view._replace(x=0.0, y=0.0)
        self.redraw()

    def show_points(self, points: Points, spots: tuple[SurveySpot, ...]) -> None:
        """Set the points, and what is known of those surveyed."""
        self.points = points if points.rows else points.with_rows()
        self.picture.know(spots)
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
            self.picture.forget()  # its mark and its label come first now
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
        self.picture.forget()
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
        self.picture.paint(painter)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._overlay.paint(painter, self._over(), self.rect(), self.view.scale)

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
            tuple(at for at, _words in self.flags()),
        )

    def flags(self) -> list[tuple[QPointF, str]]:
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

    def acts_at(self, at: QPoint) -> list[ThingAct]:
        """Choose the point there; on the bare map, look around from there."""
        found = self._hands.number_at(at.x(), at.y())
        if found is not None:
            self.chosen.emit(found[0])
            return []
        there = unproject(self.centre, *self.view.to_km(at.x(), at.y()))
        return [ThingAct("Look around from here", lambda: self.place_asked.emit(there))]
