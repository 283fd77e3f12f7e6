"""What mouse and keys do on the map."""

from collections.abc import Mapping
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QEvent, QObject, QPoint, QPointF, Qt
from PyQt6.QtGui import QHelpEvent, QKeyEvent, QMouseEvent, QWheelEvent

from umbra_awl.desk.access.chart.map_geometry import unproject
from umbra_awl.desk.parts.tips import show_tip

if TYPE_CHECKING:
    from umbra_awl.desk.access.chart.map import AccessMap

_PICK_PX = 14
_KEY_STEP_PX = 70
_ZOOM = 1.35
_ARROWS = {
    Qt.Key.Key_Left: (1, 0),
    Qt.Key.Key_Right: (-1, 0),
    Qt.Key.Key_Up: (0, 1),
    Qt.Key.Key_Down: (0, -1),
}


class MapHands(QObject):
    """Takes the events of a map: what it does with one, the map itself does not."""

    _does: Mapping[QEvent.Type, Any] = {}
    """Of the class as well: a filter may be asked once more while it is being let go, when its own attributes are gone."""

    def __init__(self, access_map: "AccessMap") -> None:
        super().__init__(access_map)
        self._map = access_map
        self._grip: QPoint | None = None
        self._dragged = False
        self._does = {
            QEvent.Type.MouseButtonPress: self._press,
            QEvent.Type.MouseMove: self._move,
            QEvent.Type.MouseButtonRelease: self._release,
            QEvent.Type.MouseButtonDblClick: self._double,
            QEvent.Type.Wheel: self._wheel,
            QEvent.Type.KeyPress: self._key,
            QEvent.Type.ToolTip: self._tip,
        }
        access_map.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Do what an event asks for."""
        does = self._does.get(event.type()) if event is not None else None
        return bool(does(event)) if does is not None and watched is self._map else False

    def _tip(self, event: QHelpEvent) -> bool:
        """Pointing at a flag says which spot it is."""
        at = QPointF(event.pos())
        flags = self._map.flags()
        said = [words for foot, words in flags if (foot - at - QPointF(-4, 8)).manhattanLength() < _PICK_PX]
        show_tip(event.globalPos(), "\n".join(said), self._map)
        return True

    def number_at(self, px: float, py: float) -> tuple[int, int] | None:
        """The point under a pixel and how many it stands for."""
        view, best = self._map.view, None
        for number, x, y, count in self._map.picture.shown:
            sx = (x - view.x) * view.scale + self._map.width() / 2
            sy = (view.y - y) * view.scale + self._map.height() / 2
            off = (sx - px) ** 2 + (sy - py) ** 2
            if off <= _PICK_PX**2 and (best is None or off < best[0]):
                best = (off, number, count)
        return best[1:] if best else None

    def _press(self, event: QMouseEvent) -> bool:
        self._grip, self._dragged = event.position().toPoint(), False
        self._map.setFocus(Qt.FocusReason.MouseFocusReason)
        return True

    def _move(self, event: QMouseEvent) -> bool:
        if self._grip is None:
            return False
        now = event.position().toPoint()
        step = now - self._grip
        if self._dragged or step.manhattanLength() > 4:
            self._dragged, self._grip = True, now
            self._map.pan(step.x(), step.y())
        return True

    def _release(self, event: QMouseEvent) -> bool:
        at = event.position()
        if not self._dragged:
            found = self.number_at(at.x(), at.y())
            if found is not None and found[1] > 1 and found[0] == self._map.selected:
                self._map.zoom(2.0, at.x(), at.y())
            elif found is not None:
                self._map.chosen.emit(found[0])
        self._grip = None
        return True

    def _double(self, event: QMouseEvent) -> bool:
        at = event.position()
        if self.number_at(at.x(), at.y()) is None:
            self._map.place_asked.emit(unproject(self._map.centre, *self._map.view.to_km(at.x(), at.y())))
        return True

    def _wheel(self, event: QWheelEvent) -> bool:
        if event.angleDelta().y():
            self._map.zoom(_ZOOM ** (event.angleDelta().y() / 120), event.position().x(), event.position().y())
        return True

    def _key(self, event: QKeyEvent) -> bool:
        key = Qt.Key(event.key())
        if key in _ARROWS:
            dx, dy = _ARROWS[key]
            self._map.pan(dx * _KEY_STEP_PX, dy * _KEY_STEP_PX)
        elif key in {Qt.Key.Key_Plus, Qt.Key.Key_Equal}:
            self._map.zoom(_ZOOM)
        elif key in {Qt.Key.Key_Minus, Qt.Key.Key_Underscore}:
            self._map.zoom(1 / _ZOOM)
        elif key == Qt.Key.Key_Home:
            self._map.home_asked.emit()
        elif key in {Qt.Key.Key_N, Qt.Key.Key_P}:
            self._map.stepped.emit(1 if key == Qt.Key.Key_N else -1)
        elif key in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self._map.activated.emit()
        else:
            return False
        return True
