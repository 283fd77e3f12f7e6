"""Where one is, and what others learn of it: the square or the spot that is told, the exact place, and the repeaters around."""

import math

from PyQt6.QtCore import QLineF, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.facts.earth import Position, distance_km, locator_of, parse_locator
from umbra_awl.core.plan.sharing import private_position
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.theme.theme import Theme

_SQUARE_LON, _SQUARE_LAT = 5 / 60, 2.5 / 60
"""A locator's square of six, in degrees."""
_KM_A_DEGREE = 111.2
_RINGS_KM = (1, 2, 5, 10, 20, 50)
_LEAST_KM, _NEAR_KM = 6.0, 40.0


class PlacePicture(QWidget):
    """A small map of its own: north is up, a ring of so many kilometres for scale."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench, self._theme = bench, theme
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        theme.changed.connect(self.update)
        bench.plan_changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(300), self._theme.px(180))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(180), self._theme.px(150))

    def _around(self, here: Position) -> list[tuple[str, Position]]:
        """The access points of the plan that are near enough to be drawn, each place once."""
        found: dict[tuple[float, float], str] = {}
        for access in self._bench.plan.access:
            if access.lat is not None and access.lon is not None:
                found.setdefault((access.lat, access.lon), access.by_call)
        places = [(name, Position(*at)) for at, name in found.items()]
        return [item for item in places if 0.2 < distance_km(here, item[1]) < _NEAR_KM]

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        station, theme = self._bench.plan.station, self._theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), theme.color("sheet"))
        painter.setFont(theme.font(12))
        if station.lat is None or station.lon is None:
            painter.setPen(theme.color("ink2"))
            words = "Give your position: distances, bearings and reach begin there."
            painter.drawText(
                self.rect().adjusted(12, 8, -12, -8), Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, words
            )
            return
        here = Position(station.lat, station.lon)
        around = self._around(here)
        far = max([_LEAST_KM, *(distance_km(here, at) * 1.15 for _name, at in around)])
        scale = min(self.width(), self.height()) / 2.1 / far

        def point(at: Position) -> QPointF:
            east = (at.lon - here.lon) * _KM_A_DEGREE * math.cos(math.radians(here.lat))
            return QPointF(
                self.width() / 2 + east * scale, self.height() / 2 - (at.lat - here.lat) * _KM_A_DEGREE * scale
            )

        self._paint_ring(painter, far, scale)
        self._paint_told(painter, here, point)
        for name, at in around:
            self._paint_mark(painter, point(at), name)
        painter.setBrush(theme.color("violet"))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawEllipse(point(here), 5, 5)

    def _paint_ring(self, painter: QPainter, far: float, scale: float) -> None:
        """The largest ring of a round number that fits, with its number."""
        km = max((ring for ring in _RINGS_KM if ring <= far), default=_RINGS_KM[0])
        middle = QPointF(self.width() / 2, self.height() / 2)
        painter.setPen(QPen(self._theme.color("line"), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(middle, km * scale, km * scale)
        painter.setPen(self._theme.color("ink2"))
        foot = self.height() - 10.0
        painter.drawLine(QLineF(12, foot, 12 + km * scale / 2, foot))
        painter.drawText(QPointF(12, foot - 5), f"{km / 2:g} km, ring {km} km")

    def _paint_told(self, painter: QPainter, here: Position, point) -> None:  # type: ignore[no-untyped-def]
        """What others see: the square of the locator, the exact spot, or nothing."""
        privacy, theme = self._bench.plan.station.privacy, self._theme
        told = private_position(here.lat, here.lon, privacy)
        seen = "spot" if privacy == "exact" else "square"
        words = f"Others see this {seen}." if told is not None else "Others learn no position."
        painter.setPen(theme.color("violet"))
        painter.drawText(QRectF(12, 6, self.width() - 24, 18), Qt.AlignmentFlag.AlignLeft, words)
        if told is None or privacy == "exact":
            return
        middle = parse_locator(locator_of(here.lat, here.lon))
        corner = point(Position(middle.lat + _SQUARE_LAT / 2, middle.lon - _SQUARE_LON / 2))
        other = point(Position(middle.lat - _SQUARE_LAT / 2, middle.lon + _SQUARE_LON / 2))
        painter.setPen(QPen(theme.color("violet"), 1.5, Qt.PenStyle.DashLine))
        painter.setBrush(theme.color("violet_tint"))
        painter.drawRect(QRectF(corner, other))

    def _paint_mark(self, painter: QPainter, at: QPointF, name: str) -> None:
        painter.setPen(QPen(self._theme.color("hole"), 1))
        painter.setBrush(self._theme.color("hole"))
        painter.drawEllipse(at, 3, 3)
        painter.setPen(self._theme.color("ink"))
        painter.setFont(self._theme.font(12, mono=True))
        wide = painter.fontMetrics().horizontalAdvance(name)
        x = at.x() + 6 if at.x() + 8 + wide < self.width() else at.x() - 6 - wide
        painter.drawText(QPointF(x, at.y() + 4), name)
