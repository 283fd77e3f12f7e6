"""One line for what was done or refused. Refusals stay until they are read; the rest goes by itself."""

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QFrame

from umbra_awl.desk.parts.widgets import button, restyle, row, words

_SHOWN_MS = 6000


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
        line.addWidget(button("Close", self.hide))
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_SHOWN_MS)
        self._timer.timeout.connect(self.hide)
        self.hide()

    def say(self, text: str, kind: str) -> None:
        """Show a sentence: “say”, or “stop” for a refusal."""
        restyle(self, "kind", kind)
        self._words.setText(text)
        self.setAccessibleName(text)
        self.show()
        self._timer.stop()
        if kind == "say":
            self._timer.start()

    def text(self) -> str:
        """What is shown, empty when nothing is."""
        return "" if self.isHidden() else self._words.text()
