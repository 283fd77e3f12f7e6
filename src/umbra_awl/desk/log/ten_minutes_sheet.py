"""The ten minutes before a net, on a sheet of its own: what is in order, what is not, and what to look at."""

from collections.abc import Sequence
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QCheckBox, QDialog, QWidget

from umbra_awl.core.agenda.next_steps import Where
from umbra_awl.core.agenda.ten_minutes import NetCheck
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import button, column, row, scrolled, words

_TITLE_PX = 120
_TONES = {"ok": "ok", "look": "brass"}


class TenMinutesSheet(QDialog):
    """One line a check; what only a person can look at is ticked, and how many are left stands at the foot."""

    def __init__(self, parent: QWidget, bench: Workbench, name: str, checks: Sequence[NetCheck]) -> None:
        super().__init__(parent)
        self.setWindowTitle("Ten minutes before")
        self.resize(min(720, parent.width() - 40), min(620, parent.height() - 40))
        self._bench = bench
        self.ticks: list[QCheckBox] = []
        outer = column(self, 8, 16)
        outer.addWidget(words(f"Ten minutes before {name}", "title", wrap=True))
        inside = QWidget()
        self._inner = column(inside, 8)
        for check in checks:
            self._line(check)
        self._inner.addStretch(1)
        outer.addWidget(scrolled(inside), 1)
        foot = row(gap=8)
        self.left = words("", "second")
        foot.addWidget(self.left, 1)
        foot.addWidget(button("Close", self.accept, "main"))
        outer.addLayout(foot)
        self._open = sum(check.state == "look" for check in checks)
        self._count()

    def _line(self, check: NetCheck) -> None:
        line = row(gap=8)
        title: QWidget
        if check.state == "ask":
            tick = QCheckBox(check.title)
            tick.setAccessibleName(f"{check.title}: {check.words}")
            tick.toggled.connect(lambda _on: self._count())
            self.ticks.append(tick)
            title = tick
        else:
            title = words(check.title, _TONES[check.state])
        title.setMinimumWidth(_TITLE_PX)
        line.addWidget(title, 0, Qt.AlignmentFlag.AlignTop)
        line.addWidget(words(check.words, wrap=True), 1)
        if check.state == "look" and check.where is not None:
            line.addWidget(button("Show", partial(self._go, check.where), tip=check.title))
        self._inner.addLayout(line)

    def _go(self, where: Where) -> None:
        self.accept()
        self._bench.where_wanted.emit(where)

    def _count(self) -> None:
        left = self._open + sum(not tick.isChecked() for tick in self.ticks)
        self.left.setText(
            "All of it is in order. Good luck, and leave gaps." if not left else f"{left} left to look at."
        )
