"""Small widgets with a role that the style sheet knows."""

from collections.abc import Callable
from typing import TypeVar

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtGui import QKeyEvent, QPaintEvent
from PyQt6.QtWidgets import (
    QBoxLayout,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLayout,
    QLayoutItem,
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


class PressButton(QPushButton):
    """A button that Enter presses too: the toolkit does so in dialogs only."""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        plain = event is not None and not event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
        if event is not None and plain and event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            if not event.isAutoRepeat():
                self.click()
        else:
            super().keyPressEvent(event)


def button(text: str, does: Callable[[], object], role: str = "", tip: str = "") -> QPushButton:
    """A button in a role: main (the one filled), plain, segment, value; otherwise violet words."""
    made = PressButton(text)
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


class Flow(QLayout):
    """Widgets side by side, going on in a new line where one is full."""

    def __init__(self, gap: int = 4) -> None:
        super().__init__()
        self._items: list[QLayoutItem] = []
        self._gap = gap
        self._heights: dict[int, int] = {}
        self._least: QSize | None = None
        self.setContentsMargins(0, 0, 0, 0)

    def invalidate(self) -> None:
        self._heights, self._least = {}, None
        super().invalidate()

    def addItem(self, item: QLayoutItem | None) -> None:
        if item is not None:
            self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, at: int) -> QLayoutItem | None:
        return self._items[at] if 0 <= at < len(self._items) else None

    def takeAt(self, at: int) -> QLayoutItem | None:
        return self._items.pop(at) if 0 <= at < len(self._items) else None

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        if width not in self._heights:
            self._heights[width] = self._lay(QRect(0, 0, width, 0), move=False)
        return self._heights[width]

    def sizeHint(self) -> QSize:
        return self.minimumSize()

    def minimumSize(self) -> QSize:
        if self._least is None:
            sizes = [item.sizeHint() for item in self._items]
            widest = max((size.width() for size in sizes), default=0)
            self._least = QSize(widest, max((size.height() for size in sizes), default=0))
        return self._least

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._lay(rect, move=True)

    def _lay(self, rect: QRect, *, move: bool) -> int:
        """Put the widgets into lines; the height that they take."""
        x, y, line = rect.x(), rect.y(), 0
        for item in self._items:
            size = item.sizeHint()
            if x > rect.x() and x + size.width() > rect.right() + 1:
                x, y, line = rect.x(), y + line + 2, 0
            if move:
                item.setGeometry(QRect(QPoint(x, y), size))
            x += size.width() + self._gap
            line = max(line, size.height())
        return y + line - rect.y()


def rows_of(*widgets: QWidget, gap: int = 4) -> Flow:
    """Widgets side by side, in as many lines as they need."""
    flow = Flow(gap)
    for widget in widgets:
        flow.addWidget(widget)
    return flow


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
    """Set a property that the style sheet looks at. What was not shown yet takes it when it is polished for that."""
    if widget.property(name) == value:
        return
    widget.setProperty(name, value)
    style = widget.style() if widget.testAttribute(Qt.WidgetAttribute.WA_WState_Polished) else None
    if style is not None:
        style.unpolish(widget)
        style.polish(widget)
