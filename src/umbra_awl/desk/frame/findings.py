"""The findings at the right edge: those of the selected thing first, each with why, show and repair. Folds away."""

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtWidgets import QFrame, QScrollArea, QVBoxLayout, QWidget

from umbra_awl.core.findings.model import SEVERITY_WORDS, Finding
from umbra_awl.desk.parts.widgets import button, clear, column, row, words
from umbra_awl.desk.workbench import Workbench

MOST_CARDS = 40
_ROLES = {"stop": "stop", "warn": "brass", "note": "second"}


class FindingCard(QFrame):
    """One finding."""

    def __init__(self, finding: Finding, bench: Workbench, *, current: bool) -> None:
        super().__init__()
        self.finding = finding
        self.setProperty("role", "card")
        self.setProperty("severity", finding.severity)
        self.setAccessibleName(f"{SEVERITY_WORDS[finding.severity]}: {finding.rule.title}. {finding.text}")
        layout = column(self, 3, 8)
        layout.setContentsMargins(10, 7, 8, 5)
        title = words(
            f"{SEVERITY_WORDS[finding.severity]}: {finding.rule.title.lower()}", _ROLES[finding.severity], wrap=True
        )
        layout.addWidget(title)
        layout.addWidget(words(finding.text, wrap=True))
        self._why = words(finding.rule.why, "second", wrap=True)
        self._why.hide()
        layout.addWidget(self._why)
        acts = row(gap=2)
        if finding.repair is not None:
            repair = finding.repair
            role = "main" if current else ""
            self.repair = button(repair.label, lambda: bench.do(repair.edit), role, repair.edit.sentence)
            acts.addWidget(self.repair)
        acts.addWidget(button("Show", lambda: bench.show(finding.target), tip="Go to the thing"))
        acts.addWidget(
            button("Why", lambda: self._why.setVisible(self._why.isHidden()), tip="The reason behind the rule")
        )
        acts.addStretch(1)
        layout.addLayout(acts)


class FindingsPanel(QWidget):
    """The list of findings under its title line."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self._cards: list[FindingCard] = []
        self._shown: tuple[object, ...] = ()
        outer = column(self, 6)
        head = row()
        self._count = words("", "second")
        self._fold = button("Fold", self.toggle, tip="Fold or open the findings (F9)")
        head.addWidget(words("Findings", "title"))
        head.addWidget(self._count)
        head.addStretch(1)
        head.addWidget(self._fold)
        outer.addLayout(head)
        self._scroll = QScrollArea()
        self._scroll.setWidgetResizable(True)
        self._scroll.setFrameShape(QFrame.Shape.NoFrame)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        flow = QWidget()
        flow.setObjectName("flow")
        self._flow: QVBoxLayout = column(flow, 6)
        self._scroll.setWidget(flow)
        outer.addWidget(self._scroll, 1)
        bench.results_changed.connect(self.refresh)
        bench.selection_changed.connect(self.refresh)
        self.refresh()

    def sizeHint(self) -> QSize:
        return QSize(300, 60)

    def toggle(self) -> None:
        """Fold the list away, or open it."""
        self._scroll.setVisible(self._scroll.isHidden())
        self.setMaximumHeight(16_777_215 if self._scroll.isVisibleTo(self) else 40)
        self._fold.setText("Open" if self._scroll.isHidden() else "Fold")

    def refresh(self) -> None:
        """Show the workbench's findings, those of the selection first."""
        targets = self._bench.targets()
        ordered = sorted(self._bench.results.findings, key=lambda item: item.target not in targets)
        here = sum(item.target in targets for item in ordered)
        shown = (tuple(ordered), here, self._bench.results.plan is None)
        if shown == self._shown:
            return
        self._shown = shown
        total = len(ordered)
        self._count.setText(f"{here} here, {total} in the plan" if here else f"{total} in the plan" if total else "")
        clear(self._flow)
        self._cards = [FindingCard(item, self._bench, current=at == 0) for at, item in enumerate(ordered[:MOST_CARDS])]
        for made in self._cards:
            self._flow.addWidget(made)
        if total > MOST_CARDS:
            self._flow.addWidget(
                words(f"… and {total - MOST_CARDS} more, less grave. Repair these first.", "second", wrap=True)
            )
        if not ordered:
            self._flow.addWidget(words(self._nothing(), "second", wrap=True))
        self._flow.addStretch(1)

    def _nothing(self) -> str:
        if self._bench.document is None:
            return "Findings appear here: what is wrong or doubtful in a plan, why, and how to mend it."
        return "Nothing found. The plan agrees with itself, the bands and the licence."

    def cards(self) -> list[FindingCard]:
        """The cards shown now."""
        return self._cards

    def next(self) -> None:
        """Show the thing of the finding after the one shown."""
        findings = [made.finding for made in self._cards]
        if not findings:
            self._bench.say("There are no findings.")
            return
        here = self._bench.selection.target
        at = next((place for place, item in enumerate(self._bench.results.findings) if item.target == here), -1)
        self._bench.show(self._bench.results.findings[(at + 1) % len(self._bench.results.findings)].target)

    def repair_first(self) -> None:
        """Apply the repair of the first finding that has one."""
        finding = next((made.finding for made in self._cards if made.finding.repair is not None), None)
        if finding is None or finding.repair is None:
            self._bench.say("No finding here has a repair.")
            return
        if self._bench.do(finding.repair.edit):
            self._bench.say(f"Repaired: {finding.repair.edit.sentence}. Ctrl Z takes it back.")
