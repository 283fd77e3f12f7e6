"""An event filter may be asked once more while it is being let go, when its attributes are gone already."""

import pytest
from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent
from PyQt6.QtWidgets import QWidget

from umbra_awl.desk.access.chart.map import AccessMap
from umbra_awl.desk.hotspots.seen import Seen
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.routes.sheet_events import SheetEvents


def filters(window):
    window.stages.open("routes")
    sheet = window.stages["routes"].sheet
    yield sheet.findChild(SheetEvents), sheet
    shown = AccessMap(window.theme, lambda _ids: {})
    yield shown._hands, shown
    for make in (
        lambda widget: Seen(widget, lambda: None),
        lambda widget: WhenChanged(widget, lambda: (), lambda: None),
    ):
        widget = QWidget()
        yield make(widget), widget


@pytest.mark.parametrize("at", range(4))
def test_a_filter_that_is_being_let_go_lets_every_event_pass(window, at):
    made, watched = list(filters(window))[at]
    kept = dict(vars(made))
    vars(made).clear()
    press = QMouseEvent(
        QEvent.Type.MouseButtonPress, QPointF(5, 5), QPointF(QPoint(5, 5)), Qt.MouseButton.LeftButton,
        Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier,
    )  # fmt: skip
    key = QKeyEvent(QEvent.Type.KeyPress, Qt.Key.Key_Left, Qt.KeyboardModifier.NoModifier)
    try:
        for event in (press, key, QEvent(QEvent.Type.Show), QEvent(QEvent.Type.Resize)):
            assert made.eventFilter(watched, event) is False
    finally:
        vars(made).update(kept)
