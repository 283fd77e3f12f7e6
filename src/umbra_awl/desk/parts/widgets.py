"""Small widgets with a role that the style sheet knows."""

from collections.abc import Callable
from typing import TypeVar

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPaintEvent
from PyQt6.QtWidgets import (
    QBoxLayout,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLayout,
    QMenu,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from umbra_awl.desk.parts.tips import set_tip

_Layout = TypeVar("_Layout", bound=QBoxLayout)


def words(text: str = "", role: str = "", *, wrap: bool = False) -> QLabel:
    """A label in a role: title, second, mono, stop, brass, ok, violet."""
    label = QLabel(text)
    label.setTextFormat(Qt.TextFormat.PlainText)
    if role:
        label.setProperty("role", role)
    label.setWordWrap(wrap)
    if wrap:
        label.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
    return label


class Whole(QLabel):
    """A short text of second rank that is shown whole or, where there is no room for it, not at all."""

    def __init__(self) -> None:
        super().__init__()
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setProperty("role", "second")
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    @property
    def fits(self) -> bool:
        """Whether there is room for it."""
        return self.width() >= self.sizeHint().width()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self.fits:
            super().paintEvent(event)


def button(text: str, does: Callable[[], object], role: str = "", tip: str = "") -> QPushButton:
    """A button in a role: main (the one filled), plain, segment, value; otherwise violet words."""
    made = QPushButton(text)
    if role:
        made.setProperty("role", role)
    if tip:
        set_tip(made, tip)
    made.setAutoDefault(False)
    made.setCursor(Qt.CursorShape.PointingHandCursor)
    made.clicked.connect(lambda _checked=False: does())
    return made


def card(role: str = "card") -> QFrame:
    """A framed surface."""
    frame = QFrame()
    frame.setProperty("role", role)
    return frame


def scrolled(inside: QWidget) -> QScrollArea:
    """A scroll area without a frame that scrolls up and down only and takes no focus of its own."""
    inside.setObjectName("flow")
    scroll = QScrollArea()
    scroll.setWidgetResizable(True)
    scroll.setFrameShape(QFrame.Shape.NoFrame)
    scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    scroll.setWidget(inside)
    return scroll


def scrolled_card(card_: QFrame) -> QScrollArea:
    """A card that scrolls when it is higher than its room, and stays at the top when it is lower."""
    inside = QWidget()
    outer = column(inside)
    outer.addWidget(card_)
    outer.addStretch(1)
    return scrolled(inside)


def act(menu: QMenu, text: str, does: Callable[[], object], tip: str = "") -> None:
    """Add an action to a menu."""
    action = menu.addAction(text)
    if action is not None:
        action.triggered.connect(lambda _checked=False: does())
        set_tip(action, tip or text)  # without one, the action's own text would be its tip


def rule() -> QFrame:
    """A hair line."""
    return card("rule")


def column(parent: QWidget | None = None, gap: int = 8, margin: int = 0) -> QVBoxLayout:
    """A vertical layout with the grid's gaps."""
    return _laid(QVBoxLayout(parent), gap, margin)


def row(parent: QWidget | None = None, gap: int = 8, margin: int = 0) -> QHBoxLayout:
    """A horizontal layout with the grid's gaps."""
    return _laid(QHBoxLayout(parent), gap, margin)


def _laid(layout: _Layout, gap: int, margin: int) -> _Layout:
    layout.setSpacing(gap)
    layout.setContentsMargins(margin, margin, margin, margin)
    return layout


def clear(layout: QLayout) -> None:
    """Take everything out of a layout and let it go."""
    while (item := layout.takeAt(0)) is not None:
        widget, inner = item.widget(), item.layout()
        if widget is not None:
            widget.hide()
            widget.deleteLater()
        elif inner is not None:
            clear(inner)


def restyle(widget: QWidget, name: str, value: str) -> None:
    """Set a property that the style sheet looks at."""
    if widget.property(name) != value:
        widget.setProperty(name, value)
        style = widget.style()
        if style is not None:
            style.unpolish(widget)
            style.polish(widget)
