"""The findings at the right edge: those of the selected thing first, each with why, show and repair. Folds away."""

from collections import Counter
from typing import NamedTuple

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLineEdit, QScrollArea, QVBoxLayout, QWidget

from umbra_awl.core.findings.aside import reason_for, silence, unsilence
from umbra_awl.core.findings.model import SEVERITY_WORDS, Finding
from umbra_awl.core.plan.edits import EditRefused
from umbra_awl.desk.parts.widgets import button, clear, column, row, words
from umbra_awl.desk.workbench import Workbench

MOST_CARDS = 40
_ROLES = {"stop": "stop", "warn": "brass", "note": "second"}


class Face(NamedTuple):
    """All that is seen of a finding: a card whose face is the same stays, and takes the finding of the newer plan.

    `current` marks the first one, `alike` counts those of its rule, `reason` is why it was put aside, where it was.
    """

    key: tuple[str, str, str, str]
    text: str
    acts: tuple[str, str]
    current: bool = False
    alike: int = 1
    reason: str = ""


def face_of(finding: Finding, *, current: bool = False, alike: int = 1, reason: str = "") -> Face:
    """What would be seen of a finding."""
    acts = (finding.repair.label, finding.repair.edit.sentence) if finding.repair is not None else ("", "")
    return Face(finding.key, finding.text, acts, current, alike, reason)


class FindingCard(QFrame):
    """One finding."""

    def __init__(self, finding: Finding, face: Face, bench: Workbench) -> None:
        super().__init__()
        self.finding, self.face = finding, face
        current, alike, reason = face.current, face.alike, face.reason
        self._bench = bench
        self.setProperty("role", "card")
        self.setProperty("severity", "note" if reason else finding.severity)
        word = "Put aside" if reason else SEVERITY_WORDS[finding.severity]
        self.setAccessibleName(f"{word}: {finding.rule.title}. {finding.text}")
        layout = column(self, 3, 8)
        layout.setContentsMargins(10, 7, 8, 5)
        role = "second" if reason else _ROLES[finding.severity]
        layout.addWidget(words(f"{word}: {finding.rule.title.lower()}", role, wrap=True))
        layout.addWidget(words(finding.text, wrap=True))
        if reason:
            layout.addWidget(words(f"Because: {reason}", "second", wrap=True))
        self._why = words(finding.rule.why, "second", wrap=True)
        self._why.hide()
        layout.addWidget(self._why)
        self._asks = self._reason_line()
        layout.addWidget(self._asks)
        layout.addLayout(self._acts(current=current, aside=bool(reason)))
        if alike > 1 and finding.repair is not None and not reason:
            line = row(gap=2)
            line.addWidget(button(f"Repair all {alike} of this kind", self._repair_all, tip="One step to undo"))
            line.addStretch(1)
            layout.addLayout(line)

    def _acts(self, *, current: bool, aside: bool) -> QHBoxLayout:
        acts, finding, bench = row(gap=2), self.finding, self._bench
        if aside:
            acts.addWidget(button("Heed again", lambda: bench.do(unsilence(self.finding))))
        elif finding.repair is not None:
            repair = finding.repair
            self.repair = button(
                repair.label, lambda: bench.repair(self.finding), "main" if current else "", repair.edit.sentence
            )
            acts.addWidget(self.repair)
        acts.addWidget(button("Show", lambda: bench.show(self.finding.target), tip="Go to the thing"))
        acts.addWidget(
            button("Why", lambda: self._why.setVisible(self._why.isHidden()), tip="The reason behind the rule")
        )
        if not aside and not finding.rule.safety:
            acts.addWidget(button("Aside", self._ask_reason, tip="Put it aside, with a reason that stays in the plan"))
        acts.addStretch(1)
        return acts

    def _reason_line(self) -> QLineEdit:
        made = QLineEdit()
        made.setPlaceholderText("Why put it aside? Enter keeps the reason")
        made.setAccessibleName("Reason for putting the finding aside")
        made.returnPressed.connect(self._put_aside)
        made.hide()
        return made

    def _ask_reason(self) -> None:
        self._asks.setVisible(self._asks.isHidden())
        self._asks.setFocus()

    def _put_aside(self) -> None:
        try:
            edit = silence(self.finding, self._asks.text())
        except EditRefused as error:
            self._bench.say(str(error), "stop")
            return
        self._bench.do(edit)

    def _repair_all(self) -> None:
        self._bench.repair_kind(self.finding.rule.name)


class FindingsPanel(QWidget):
    """The list of findings under its title line."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self._cards: list[FindingCard] = []
        self._shown: tuple[object, ...] = ()
        self._aside_open = False
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
        aside = self._bench.results.silenced
        shown = (tuple(ordered), here, self._bench.results.plan is None, aside)
        if shown == self._shown:
            return
        self._shown = shown
        total = len(ordered)
        self._count.setText(f"{here} here, {total} in the plan" if here else f"{total} in the plan" if total else "")
        kinds = Counter(item.rule.name for item in ordered if item.repair is not None)
        wanted = [
            (item, face_of(item, current=at == 0, alike=kinds[item.rule.name]))
            for at, item in enumerate(ordered[:MOST_CARDS])
        ]
        self._show_cards(wanted)
        if total > MOST_CARDS:
            self._flow.addWidget(
                words(f"… and {total - MOST_CARDS} more, less grave. Repair these first.", "second", wrap=True)
            )
        if not ordered:
            self._flow.addWidget(words(self._nothing(), "second", wrap=True))
        self._show_aside(aside)
        self._flow.addStretch(1)

    def _show_cards(self, wanted: list[tuple[Finding, Face]]) -> None:
        """Put the cards in their order; those that look the same are used again, everything else goes."""
        there = {card.face: card for card in self._cards}
        self._cards = []
        for finding, face in wanted:
            card = there.pop(face, None) or FindingCard(finding, face, self._bench)
            card.finding = finding
            self._cards.append(card)
        for card in self._cards:
            self._flow.removeWidget(card)
        clear(self._flow)
        for card in self._cards:
            self._flow.addWidget(card)

    def _show_aside(self, aside: tuple[Finding, ...]) -> None:
        """Those put aside, folded under one line until asked for."""
        if not aside:
            return
        plan = self._bench.plan
        cards = [
            FindingCard(item, face_of(item, reason=reason_for(plan, item)), self._bench) for item in aside[:MOST_CARDS]
        ]
        opened = self._aside_open

        def fold() -> None:
            self._aside_open = not self._aside_open
            for made in cards:
                made.setVisible(self._aside_open)

        self._flow.addWidget(
            button(f"{len(aside)} put aside", fold, tip="Show or hide what was put aside, with the reasons")
        )
        for made in cards:
            made.setVisible(opened)
            self._flow.addWidget(made)

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
        self._bench.repair(finding)
