"""A value that is edited in place: the button that shows it, the line it is typed in, and taking all that is being typed."""

from collections.abc import Callable

from PyQt6 import sip
from PyQt6.QtCore import QSize, Qt, QTimer
from PyQt6.QtGui import QFocusEvent, QFontMetrics, QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import QApplication, QLineEdit, QPushButton, QSizePolicy, QWidget

from umbra_awl.desk.parts.cards.fields import Field
from umbra_awl.desk.parts.tips import set_tip

LINE = 24
_ROUND_VALUE = 12
AWAY = 99
"""The keyboard has gone elsewhere already."""


class Typing(QLineEdit):
    """The line edit of a value in the making. `done` is told whether to keep it, and how far to go from there."""

    def __init__(self, text: str, done: Callable[[bool, int], None]) -> None:
        super().__init__(text)
        self._done = done
        self.refused = False
        self.selectAll()

    def commit(self) -> bool:
        """Take the value as it is typed; False when it was refused and stays open."""
        self._done(True, 0)
        return self.isHidden()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self._done(False, 0)
        elif event is not None and event.key() in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self._done(True, 0)
        else:
            super().keyPressEvent(event)

    def focusNextPrevChild(self, forward: bool) -> bool:
        self._done(True, 1 if forward else -1)
        return True

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        gone = event is None or event.reason() not in {
            Qt.FocusReason.PopupFocusReason,
            Qt.FocusReason.ActiveWindowFocusReason,
        }
        if gone and self.isModified():
            self._done(True, AWAY)
        elif gone and not self.refused:
            self._done(False, AWAY)


def broken(text: str, metrics: QFontMetrics, width: int) -> str:
    """A text in lines that fit a width in pixels: broken at blanks, inside a word only where one is wider than the line."""
    lines: list[str] = [""]
    for word in text.split(" "):
        longer = f"{lines[-1]} {word}" if lines[-1] else word
        if metrics.horizontalAdvance(longer) <= width:
            lines[-1] = longer
            continue
        rest = word
        if lines[-1]:
            lines.append("")
        while rest and metrics.horizontalAdvance(rest) > width > 0:
            fits = next(
                at for at in range(len(rest), 0, -1) if at == 1 or metrics.horizontalAdvance(rest[:at]) <= width
            )
            lines[-1] = rest[:fits]
            lines.append("")
            rest = rest[fits:]
        lines[-1] = rest
    return "\n".join(lines)


class ValueButton(QPushButton):
    """A value that can be edited: F2 works as well as Enter and a click. A long one takes several lines."""

    def __init__(self, field: Field, begin: Callable[[], None]) -> None:
        super().__init__(field.value or "–")
        self.setProperty("role", "value")
        self.setProperty("mono", "true" if field.mono else "false")
        self.setProperty("tone", field.tone)
        self.setAutoDefault(False)
        self.setAccessibleName(f"{field.label}: {field.value or 'empty'}. Press Enter to change.")
        set_tip(self, field.tip or "Click, Enter or F2 to change")
        self._whole = field.value or "–"
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self._begin, self._typed = begin, not field.choices
        self.clicked.connect(lambda _checked=False: begin())

    @property
    def whole(self) -> str:
        """The value as it is shown, in one line."""
        return self._whole

    def sizeHint(self) -> QSize:
        """As high as its lines."""
        lines = self.text().count("\n") + 1
        return QSize(super().sizeHint().width(), max(LINE, lines * self.fontMetrics().height() + 7))

    def minimumSizeHint(self) -> QSize:
        return QSize(20, self.sizeHint().height())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """A long value takes as many lines as it needs; asked for once the layout that is under way has ended."""
        super().resizeEvent(event)
        if self._wrapped() != self.text():
            self._break()
            QTimer.singleShot(0, self.updateGeometry)

    def _wrapped(self) -> str:
        return broken(self._whole, self.fontMetrics(), self.width() - _ROUND_VALUE)

    def _break(self) -> None:
        shown = self._wrapped()
        if shown != self.text():
            self.setText(shown)
            self.setMinimumHeight(self.sizeHint().height())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        if event.key() in {Qt.Key.Key_F2, Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self._begin()
        elif self._types(event):
            self._begin()
            typing = QApplication.focusWidget()
            if isinstance(typing, Typing):
                typing.setText(event.text())
                typing.setModified(True)
        else:
            super().keyPressEvent(event)

    def _types(self, event: QKeyEvent) -> bool:
        """Whether a letter or digit is typed on it: it begins the value anew."""
        held = event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier)
        return self._typed and not held and bool(event.text().strip()) and event.text().isprintable()


def commit_typing(within: QWidget) -> Typing | None:
    """Take every value that is being typed within a widget; the first one that was refused and still stands there."""
    for typing in within.findChildren(Typing):
        # taking one value may have the fields of others made anew
        if not sip.isdeleted(typing) and not typing.isHidden() and not typing.commit() and not sip.isdeleted(typing):
            return typing
    return None
