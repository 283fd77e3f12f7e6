"""What was done or refused, over the foot of the page: nothing under it moves. It goes with the next act, reports when closed."""

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer
from PyQt6.QtWidgets import QApplication, QFrame, QSizePolicy, QWidget

from umbra_awl.desk.parts.widgets import button, restyle, row, words

_SHOWN_MS = 6000
_MOST_REPORTS = 3
_WIDEST, _AWAY = 720, 10
_ACTS = frozenset({QEvent.Type.MouseButtonPress, QEvent.Type.KeyPress})
_NO_ACT = frozenset({Qt.Key.Key_Shift, Qt.Key.Key_Control, Qt.Key.Key_Alt, Qt.Key.Key_AltGr, Qt.Key.Key_Meta, Qt.Key.Key_Tab,
                     Qt.Key.Key_Backtab})  # fmt: skip
_LEAST_MS = 700
"""So long it stays whatever is pressed: the press that led to it is no next act."""


class MessageBar(QFrame):
    """Lies over the foot of a widget; hidden while there is nothing to say. `undo` takes back what was done last."""

    def __init__(self, over: QWidget, undo: Callable[[], object]) -> None:
        super().__init__(over.parentWidget())
        self.setObjectName("message")
        self.setProperty("kind", "say")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self._over = over
        line = row(self, 8)
        line.setContentsMargins(14, 6, 8, 6)
        self._words = words("", wrap=True)
        line.addWidget(self._words, 1)
        self.undo = button("Undo", undo, tip="Ctrl Z")
        line.addWidget(self.undo)
        line.addWidget(button("Close", self.close_all))
        self._reports: list[str] = []
        self._passing = self._kind = ""
        self._timer = self._single(_SHOWN_MS)
        self._timer.timeout.connect(self.let_go)
        self._fresh = self._single(_LEAST_MS)
        self._watches = False
        over.installEventFilter(self)
        self.hide()

    def _single(self, after_ms: int) -> QTimer:
        made = QTimer(self)
        made.setSingleShot(True)
        made.setInterval(after_ms)
        return made

    def say(self, text: str, kind: str) -> None:
        """Show a sentence.

        “say”; “did” where an edit was done, with its undo; “stop” for a refusal; “report” for what came of a file, which stays
        until it is closed.
        """
        self._timer.stop()
        if kind == "report":
            self._reports = [*self._reports, text][-_MOST_REPORTS:]
        else:
            self._passing, self._kind = text, kind
        if kind in {"say", "did"}:
            self._timer.start()
        self._fresh.start()
        self._show()

    def let_go(self) -> None:
        """Show only what has to be closed by hand."""
        self._passing = ""
        self._show()

    def close_all(self) -> None:
        """Show nothing any more."""
        self._reports = []
        self.let_go()

    def _show(self) -> None:
        text = "\n".join((*self._reports, *([self._passing] if self._passing else [])))
        restyle(self, "kind", "stop" if self._passing and self._kind == "stop" else "say")
        self.undo.setVisible(bool(self._passing) and self._kind == "did")
        self._words.setText(text)
        self.setAccessibleName(text)
        self.setVisible(bool(text))
        self._watch(wanted=bool(self._passing))
        if text:
            self._lie()
            self.raise_()

    def _watch(self, *, wanted: bool) -> None:
        """Look at all that is pressed only while something is shown that goes with it: each look costs."""
        application = QApplication.instance()
        if application is not None and wanted != self._watches:
            self._watches = wanted
            (application.installEventFilter if wanted else application.removeEventFilter)(self)

    def _lie(self) -> None:
        """Lie at the foot of what it is over, no wider than its words need."""
        frame = self._over.geometry()
        wide = min(_WIDEST, frame.width() - 2 * _AWAY)
        layout = self.layout()
        assert layout is not None
        self.setFixedWidth(wide)
        high = max(layout.heightForWidth(wide), layout.minimumSize().height())
        self.setFixedHeight(high)
        self.move(frame.left() + (frame.width() - wide) // 2, frame.bottom() - high - _AWAY)

    def eventFilter(self, thing: QObject | None, event: QEvent | None) -> bool:
        """Stay at the foot when what it is over changes its size; go with the next act elsewhere."""
        if event is None:
            return False
        if thing is self._over and event.type() in {QEvent.Type.Resize, QEvent.Type.Move} and not self.isHidden():
            self._lie()
        elif self._passing and event.type() in _ACTS and not self._fresh.isActive() and self._is_act(thing, event):
            self.let_go()
        return False

    def _is_act(self, thing: QObject | None, event: QEvent) -> bool:
        """Whether something is done in this window, outside of the message itself."""
        inside = isinstance(thing, QWidget) and thing.window() is self.window()
        of_mine = isinstance(thing, QWidget) and (thing is self or self.isAncestorOf(thing))
        key = getattr(event, "key", lambda: None)()
        return inside and not of_mine and key not in _NO_ACT

    def text(self) -> str:
        """What is shown, empty when nothing is."""
        return "" if self.isHidden() else self._words.text()
