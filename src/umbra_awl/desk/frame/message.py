"""One line for what was done or refused. Refusals stay until they are read, reports until they are closed."""

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QFrame

from umbra_awl.desk.parts.widgets import button, restyle, row, words

_SHOWN_MS = 6000
_MOST_REPORTS = 3


class MessageBar(QFrame):
    """Hidden while there is nothing to say."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("message")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        line = row(self, 8)
        line.setContentsMargins(16, 3, 10, 3)
        self._words = words("", wrap=True)
        line.addWidget(self._words, 1)
        line.addWidget(button("Close", self.close_all))
        self._reports: list[str] = []
        self._passing = self._kind = ""
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_SHOWN_MS)
        self._timer.timeout.connect(self.let_go)
        self.hide()

    def say(self, text: str, kind: str) -> None:
        """Show a sentence: “say”, “stop” for a refusal, or “report” for what came of a file, which stays until it is closed."""
        self._timer.stop()
        if kind == "report":
            self._reports = [*self._reports, text][-_MOST_REPORTS:]
        else:
            self._passing, self._kind = text, kind
        if kind == "say":
            self._timer.start()
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
        restyle(self, "kind", self._kind if self._passing else "say")
        self._words.setText(text)
        self.setAccessibleName(text)
        self.setVisible(bool(text))

    def text(self) -> str:
        """What is shown, empty when nothing is."""
        return "" if self.isHidden() else self._words.text()
