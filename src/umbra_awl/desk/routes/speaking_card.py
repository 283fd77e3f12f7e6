"""What to say on the route in hand, and the answer to a call that is heard: typed, it is spelled and answered."""

from PyQt6.QtWidgets import QFormLayout, QFrame, QLineEdit

from umbra_awl.core.plan.model import Route
from umbra_awl.core.trace.speaking import spoken_lines
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import column, row, words


class SpeakingCard(QFrame):
    """Follows the route it is shown; hidden where there is none."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self._route: Route | None = None
        self.setProperty("role", "card")
        outer = column(self, 6, 12)
        head = row(gap=8)
        head.addWidget(words("What to say", "title"))
        head.addStretch(1)
        self.heard = QLineEdit()
        self.heard.setPlaceholderText("a call that you hear")
        self.heard.setAccessibleName("The call sign that you hear: it is spelled and answered")
        self.heard.textChanged.connect(lambda _text: self._show())
        head.addWidget(self.heard)
        outer.addLayout(head)
        self._lines = QFormLayout()
        self._lines.setVerticalSpacing(4)
        outer.addLayout(self._lines)
        outer.addWidget(
            words("Listen first, leave a gap after each over, and never while driving.", "second", wrap=True)
        )
        outer.addStretch(1)

    def show_route(self, route: Route | None) -> None:
        """Show what to say on a route."""
        self._route = route
        self.setVisible(route is not None)
        self._show()

    def _show(self) -> None:
        while self._lines.rowCount():
            self._lines.removeRow(0)
        if self._route is None or self._route.key not in self._bench.index.routes:
            return
        for line in spoken_lines(self._bench.index, self._route, self.heard.text()):
            self._lines.addRow(words(line.when, "second"), words(line.words, wrap=True))
