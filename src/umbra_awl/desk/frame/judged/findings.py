"""The findings of the page: one line each, the selected thing's first; the chosen one opens in place. Folds to a count."""

from collections import Counter
from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QEvent, QObject, QSize, QTimer, pyqtSignal
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.findings.about import about
from umbra_awl.core.findings.aside import reason_for
from umbra_awl.core.findings.model import Finding
from umbra_awl.desk.frame.judged.finding_line import FindingLine, face_of
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import button, clear, column, row, rows_of, scrolled, words
from umbra_awl.desk.stages import STAGE_OF, STAGES
from umbra_awl.desk.theme.theme import Theme

MOST_LINES = 40
_QUARTER, _OPEN = 0.25, 0.6


def findings_words(here: int, elsewhere: int) -> str:
    """How many there are, in words."""
    if not here and not elsewhere:
        return "No findings"
    parts = ([f"{counted(here, 'finding')} here"] if here else []) + ([f"{elsewhere} elsewhere"] if elsewhere else [])
    return ", ".join(parts)


class FindingsPanel(QWidget):
    """What is wrong or doubtful on the page that is shown, and where the rest is."""

    moved = pyqtSignal()
    parted = pyqtSignal()

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench, self._theme = bench, theme
        self.here: list[Finding] = []
        self.elsewhere: list[Finding] = []
        self._lines: list[FindingLine] = []
        self._shown: tuple[object, ...] = ()
        self._concerns: Callable[[Finding], bool] = lambda _finding: True
        self._aside_open = False
        self._open_key: tuple[str, str, str, str] | None = None
        self.alone = False
        self.free: Callable[[], int] = lambda: 0
        outer = column(self, 2)
        head = row()
        self._count = words("", "second")
        head.addWidget(words("Findings", "title"))
        head.addWidget(self._count)
        head.addStretch(1)
        head.addWidget(button("Fold", self.hide_asked, tip="Fold the findings to a count in the last line (F9)"))
        outer.addLayout(head)
        self._head = head
        flow = QWidget()
        self._flow: QVBoxLayout = column(flow, 0)
        self._scroll = scrolled(flow)
        flow.installEventFilter(self)
        outer.addWidget(self._scroll, 1)
        self._elsewhere = column(gap=0)
        outer.addLayout(self._elsewhere)
        bench.results_changed.connect(self.refresh)
        bench.selection_changed.connect(self.refresh)
        bench.selection_changed.connect(lambda: QTimer.singleShot(0, self.fit))
        self.refresh()

    def hide_asked(self) -> None:
        """Ask to be folded."""
        self.moved.emit()

    def concern(self, concerns: Callable[[Finding], bool]) -> None:
        """Say which findings concern the page that is shown."""
        self._concerns = concerns
        self._open_key = None
        self.refresh()

    # how high it is

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.LayoutRequest:
            QTimer.singleShot(0, self.fit)
        return super().eventFilter(watched, event)

    def sizeHint(self) -> QSize:
        return QSize(300, self._theme.px(60))

    def fit(self) -> None:
        """Take as much of the column as there are lines for: what is free of it, a quarter at least, more while one is open."""
        parent = self.parentWidget()
        if parent is None:
            return
        if self.alone:
            self.setMaximumHeight(16_777_215)
            return
        share = _OPEN if any(line.is_open for line in self._lines) else _QUARTER
        inside = self._scroll.widget()
        wanted = inside.heightForWidth(self._scroll.viewport().width()) if inside is not None else 0  # type: ignore[union-attr]
        chrome = self._head.sizeHint().height() + self._elsewhere.sizeHint().height() + 6
        whole = max(int(parent.height() * share), self.free()) - chrome
        self.setFixedHeight(chrome + min(wanted, self._whole_lines(whole)))

    def _whole_lines(self, room: int) -> int:
        """As many whole lines as there is room for."""
        width, height = self._scroll.viewport().width(), 0  # type: ignore[union-attr]
        for line in self._lines:
            more = line.heightForWidth(width) if line.hasHeightForWidth() else line.sizeHint().height()
            if height and height + more > room:
                return height
            height += more
        return max(room, height)

    # what is shown

    def _part(self) -> None:
        """Part the findings: those of this page, of the selected thing first, and all others."""
        targets, all_found = self._bench.targets(), self._bench.worked.results.findings
        here = [item for item in all_found if self._concerns(item)]
        self.here = sorted(here, key=lambda item: item.target not in targets)
        self.elsewhere = [item for item in all_found if not self._concerns(item)]

    def refresh(self) -> None:
        """Show the workbench's findings, those of the selection first."""
        self._part()
        here, elsewhere, aside = self.here, self.elsewhere, self._bench.worked.results.silenced
        shown = (tuple(here), tuple(elsewhere), self._bench.worked.results.plan is None, aside)
        if shown == self._shown:
            return
        self._shown = shown
        self.parted.emit()
        self._count.setText(findings_words(len(here), 0) if here else "")
        kinds = Counter(item.rule.name for item in self._bench.worked.results.findings if item.repair is not None)
        index = self._bench.index
        self._show_lines(
            [
                (item, face_of(item, about(index, item.target), alike=kinds[item.rule.name]))
                for item in here[:MOST_LINES]
            ]
        )
        if len(here) > MOST_LINES:
            more = f"… and {len(here) - MOST_LINES} more, less grave. Repair these first."
            self._flow.addWidget(words(more, "second", wrap=True))
        if not here:
            self._flow.addWidget(words(self._nothing(elsewhere), "second", wrap=True))
        self._show_aside(aside)
        self._flow.addStretch(1)
        self._say_elsewhere(elsewhere)
        QTimer.singleShot(0, self.fit)

    def _show_lines(self, wanted: list[tuple[Finding, object]]) -> None:
        """Put the lines in their order; those that look the same are used again, everything else goes."""
        there = {line.face: line for line in self._lines}
        self._lines = []
        for finding, face in wanted:
            line = there.pop(face, None) or FindingLine(finding, face, self._bench, self._theme, self._open)  # type: ignore[call-overload,arg-type]
            line.finding = finding
            self._lines.append(line)
        for line in self._lines:
            self._flow.removeWidget(line)
        clear(self._flow)
        for line in self._lines:
            self._flow.addWidget(line)
            line.set_open(line.face.key == self._open_key)

    def _open(self, line: FindingLine) -> None:
        """Open one line and fold the others; the open one is folded."""
        opened = not line.is_open
        self._open_key = line.face.key if opened else None
        for other in self._lines:
            other.set_open(other is line and opened)
        self.fit()
        QTimer.singleShot(0, partial(self._scroll.ensureWidgetVisible, line, 0, 0))

    def _say_elsewhere(self, found: list[Finding]) -> None:
        clear(self._elsewhere)
        if not found:
            return
        parts: list[QWidget] = [words(f"{len(found)} elsewhere:", "second")]
        parts[0].setContentsMargins(0, 4, 4, 0)
        for stage, count in Counter(STAGE_OF[item.target.kind] for item in found).items():
            first = next(item for item in found if STAGE_OF[item.target.kind] == stage)
            go = partial(self._bench.show_finding, first)
            parts.append(button(f"{STAGES[stage].title} {count}", go, tip="Go to the first of them"))
        self._elsewhere.addLayout(rows_of(*parts, gap=2))

    def _show_aside(self, aside: tuple[Finding, ...]) -> None:
        """Those put aside, folded under one line until asked for."""
        if not aside:
            return
        plan, index = self._bench.plan, self._bench.index
        lines: list[FindingLine] = []

        def open_one(line: FindingLine) -> None:
            line.set_open(not line.is_open)
            self.fit()

        for item in aside[:MOST_LINES]:
            face = face_of(item, about(index, item.target), reason=reason_for(plan, item))
            lines.append(FindingLine(item, face, self._bench, self._theme, open_one))

        def fold() -> None:
            self._aside_open = not self._aside_open
            for made in lines:
                made.set_open(self._aside_open)
                made.setVisible(self._aside_open)
            self.fit()

        tip = "Show or hide what was put aside, with the reasons"
        self._flow.addWidget(button(f"{len(aside)} put aside", fold, tip=tip))
        for made in lines:
            made.setVisible(self._aside_open)
            self._flow.addWidget(made)

    @property
    def hidden_words(self) -> str:
        """Said in place of how many there are, while what is wrong is to be found without them."""
        return "Findings are hidden" if self._bench.hushed else ""

    def _nothing(self, elsewhere: list[Finding]) -> str:
        if self._bench.document is None:
            return "Findings appear here: what is wrong or doubtful in a plan, why, and how to mend it."
        if elsewhere:
            return "Nothing on this page."
        if self._bench.hushed:
            return "Findings are hidden while you search: it is for you to find what is wrong."
        return "Nothing found. The plan agrees with itself, the bands and the licence."

    def cards(self) -> list[FindingLine]:
        """The lines shown now."""
        return self._lines

    def next(self) -> None:
        """Show the thing of the finding after the one shown."""
        found = self._bench.worked.results.findings
        if not found:
            self._bench.say("There are no findings.")
            return
        here = self._bench.selection.target
        at = next((place for place, item in enumerate(found) if item.target == here), -1)
        self._bench.show_finding(found[(at + 1) % len(found)])

    def repair_first(self) -> None:
        """Apply the repair of the first finding that has one: of this page, else of the plan."""
        finding = next((item for item in (*self.here, *self.elsewhere) if item.repair is not None), None)
        if finding is None:
            self._bench.say("No finding here has a repair.")
            return
        self._bench.repairs.one(finding)
