"""The events of the punch sheet, given to the hands: mouse and wheel from the viewport, keys and focus from the sheet."""

from collections.abc import Mapping
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QHelpEvent, QKeyEvent, QMouseEvent, QWheelEvent

from umbra_awl.desk.parts.tips import show_tip

if TYPE_CHECKING:
    from umbra_awl.desk.routes.sheet import PunchSheet


class SheetEvents(QObject):
    """Takes what the hands have a use for; the rest goes on to the sheet."""

    _of_sheet: Mapping[QEvent.Type, Any] = {}
    _of_viewport: Mapping[QEvent.Type, Any] = {}
    """Of the class as well: a filter may be asked once more while it is being let go, when its own attributes are gone."""

    def __init__(self, sheet: "PunchSheet") -> None:
        super().__init__(sheet)
        self._sheet, self._hands = sheet, sheet.hands
        self._of_viewport = {
            QEvent.Type.MouseButtonPress: self._press,
            QEvent.Type.MouseButtonDblClick: lambda _event: (
                True
            ),  # the second click of a quick pair does not undo the first
            QEvent.Type.MouseMove: self._move,
            QEvent.Type.MouseButtonRelease: self._release,
            QEvent.Type.Wheel: self._wheel,
            QEvent.Type.ToolTip: self._tip,
            QEvent.Type.Leave: self._leave,
        }
        self._of_sheet = {
            QEvent.Type.KeyPress: self._hands.key,
            QEvent.Type.KeyRelease: self._key_up,
            QEvent.Type.FocusOut: self._focus_out,
        }
        sheet.installEventFilter(self)
        viewport = sheet.viewport()
        assert viewport is not None
        viewport.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Do what an event asks for; False where the sheet goes on with it."""
        table = self._of_sheet if watched is getattr(self, "_sheet", None) else self._of_viewport
        does = table.get(event.type()) if event is not None else None
        return bool(does(event)) if does is not None else False

    def _press(self, event: QMouseEvent) -> bool:
        if event.button() == Qt.MouseButton.LeftButton:
            self._sheet.setFocus()
            self._hands.press(event)
        return True

    def _move(self, event: QMouseEvent) -> bool:
        self._hands.move(event)
        return True

    def _release(self, _event: QMouseEvent) -> bool:
        self._hands.release()
        return True

    def _wheel(self, event: QWheelEvent) -> bool:
        """With Ctrl the wheel zooms."""
        zooms = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if zooms:
            self._sheet.zoom(1 if event.angleDelta().y() > 0 else -1)
        return zooms

    def _tip(self, event: QHelpEvent) -> bool:
        cell = self._hands.cell_under(event.pos())
        words = self._sheet.sheet.crossing(cell.row, cell.column).reason if cell is not None else ""
        show_tip(event.globalPos(), words, self._sheet)
        return True

    def _leave(self, _event: QEvent) -> bool:
        self._hands.out()
        return False

    def _key_up(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_Shift:
            self._hands.shift_released()
        return False

    def _focus_out(self, _event: QEvent) -> bool:
        self._hands.leave()
        self._sheet.repaint_all()
        return False
