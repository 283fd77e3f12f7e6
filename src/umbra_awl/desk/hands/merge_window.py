"""One plan of two: what comes by itself, what is asked thing by thing, and one step that takes it all.

The plan that is merged into is the one that is open: where it changes meanwhile, everything is worked out anew.
"""

from collections.abc import Callable, Sequence
from functools import partial
from typing import NamedTuple

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QComboBox, QDialog, QHBoxLayout, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.hands.merge import Merged, Path, Side, merge
from umbra_awl.core.hands.words import Wordings
from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.theme.theme import Theme

_HEADS = ("Thing", "What of it", "Yours", "Theirs", "Taken")
_TAKEN_HEADS = ("From", "By itself")
_ASK = "Both sides changed these, each in another way. Choose a line: M takes yours, T takes theirs. Nothing is taken in silence."
_SIDES: dict[int, Side] = {Qt.Key.Key_M: "mine", Qt.Key.Key_T: "theirs"}
_NOTHING = "Nothing is asked: no value was changed on both sides."
_SAME = "The two plans are the same: there is nothing to merge."


class Base(NamedTuple):
    """A plan that both may come from, in words; None for none."""

    words: str
    plan: Plan | None


class MergeSource(NamedTuple):
    """What is merged in: its name, the plan, the ancestors to choose from, and what is to be done once it was merged."""

    name: str
    theirs: Plan
    bases: Sequence[Base]
    done: Callable[[], object] = lambda: None


class MergeWindow(QDialog):
    """Asks, and merges."""

    def __init__(self, bench: Workbench, theme: Theme, parent: QWidget, source: MergeSource) -> None:
        super().__init__(parent)
        self._bench, self._source = bench, source
        self.answers: dict[Path, Side] = {}
        self.found: Merged | None = None
        self.setWindowTitle(f"Merge {source.name}")
        self.resize(theme.px(940), theme.px(620))
        outer = column(self, 8, 16)
        outer.addLayout(self._head())
        self.lead = words("", "second", wrap=True)
        outer.addWidget(self.lead)
        self.questions = RowsTable(theme, "What both changed")
        outer.addWidget(self.questions, 3)
        self.bar = self._answers()
        outer.addWidget(self.bar)
        self.came = words("", wrap=True)
        outer.addWidget(self.came)
        self.taken = RowsTable(theme, "What comes by itself")
        outer.addWidget(self.taken, 2)
        self.checks = words("", "second", wrap=True)
        outer.addWidget(self.checks)
        end = row(gap=8)
        end.addStretch(1)
        end.addWidget(button("Cancel", self.reject))
        self.go = button("Merge", self.take, "main")
        end.addWidget(self.go)
        outer.addLayout(end)
        bench.plan_changed.connect(self.work_out)
        self.questions.installEventFilter(self)
        self._begin()
        self.questions.setFocus()

    def _head(self) -> QHBoxLayout:
        line = row(gap=8)
        line.addWidget(words(f"Merge {self._source.name}", "title"))
        line.addStretch(1)
        line.addWidget(words("Both come from", "second"))
        self.base = QComboBox()
        self.base.setAccessibleName("Common ancestor")
        for item in self._source.bases:
            self.base.addItem(item.words)
        self.base.currentIndexChanged.connect(lambda _at: self._begin())
        line.addWidget(self.base)
        return line

    def _answers(self) -> QWidget:
        bar = QWidget()
        acts = row(bar, gap=8)
        sides: tuple[tuple[Side, str, str], ...] = (("mine", "Yours", "M"), ("theirs", "Theirs", "T"))
        for side, word, key in sides:
            acts.addWidget(button(f"{word} ({key})", partial(self.answer, side)))
        for side, word, _key in sides:
            acts.addWidget(button(f"{word} in all that is left", partial(self.answer_rest, side)))
        acts.addStretch(1)
        return bar

    def _begin(self) -> None:
        """Against another ancestor other things are asked."""
        self.answers.clear()
        self.work_out()

    def work_out(self) -> None:
        """Merge with the plan that is open, by the answers so far."""
        base = self._source.bases[max(0, self.base.currentIndex())].plan
        mine = self._bench.plan
        self._said = Wordings(mine, self._source.theirs, base)
        self.found = merge(base, mine, self._source.theirs, self.answers)
        self._show(self.found)
        self._check(self.found.plan)

    def _show(self, found: Merged) -> None:
        said, at = self._said, self.questions.row_now
        rows = [(*said.question(item), self._answer_words(item.path)) for item in found.questions]
        tones = ["ink2" if item.path in self.answers else "" for item in found.questions]
        self.questions.show_rows(_HEADS, rows, tones, mono=False)
        if rows:
            self.questions.choose(min(max(at, 0), len(rows) - 1))
        asked = bool(found.questions)
        self.questions.setVisible(asked)
        self.bar.setVisible(asked)
        self.lead.setText(_ASK if asked else _SAME if not found.taken else _NOTHING)
        theirs, mine = (said.summary(found.taken, side) for side in ("theirs", "mine"))
        stays = "" if mine == "nothing" else f" Of yours stays: {mine}."
        self.came.setText(f"From them comes: {theirs}.{stays}{said.kept(found.kept)}")
        self.taken.show_rows(_TAKEN_HEADS, [tuple(said.taken(item).split(": ", 1)) for item in found.taken], mono=False)
        left = len(found.open_questions)
        self.go.setText("Merge" if not left else f"Answer {counted(left, 'question')} first")
        self.go.setEnabled(not left and not found.faults and found.plan != self._bench.plan)

    def _answer_words(self, path: Path) -> str:
        return {"mine": "yours", "theirs": "theirs"}.get(self.answers.get(path, ""), "?")

    def _check(self, plan: Plan) -> None:
        """Say how the merged plan stands: whether it can be opened, and what of it stops, in the background."""
        if self.found is not None and self.found.faults:
            self.checks.setText(f"These two cannot be one plan: {self.found.faults[0]} Choose otherwise above.")
            return
        profiles, today = self._bench.profiles.snapshot(), self._bench.index.today
        before = sum(item.severity == "stop" for item in self._bench.worked.results.findings)

        def told(count: int) -> None:
            if self.found is not None and self.found.plan is plan:
                self.checks.setText(
                    f"The merged plan can be opened; {counted(count, 'finding stops', 'findings stop')} it, {before} did before."
                )

        self._bench.jobs.latest(
            "merge check",
            lambda: sum(item.severity == "stop" for item in findings_of(PlanIndex(plan, today), profiles)),
            told,
        )

    # answering

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """M and T on the questions answer the one in hand."""
        side = _SIDES.get(event.key()) if watched is self.questions and isinstance(event, QKeyEvent) else None
        if side is not None and event is not None and event.type() == QEvent.Type.KeyPress:
            self.answer(side)
            return True
        return super().eventFilter(watched, event)

    def answer(self, side: Side) -> None:
        """Answer the question in hand, and go on to the next one that is open."""
        found, at = self.found, self.questions.row_now
        if found is None or not 0 <= at < len(found.questions):
            return
        self.answers[found.questions[at].path] = side
        self.work_out()
        later = [place for place, item in enumerate(found.questions) if item.path not in self.answers]
        if later:
            self.questions.choose(next((place for place in later if place > at), later[0]))

    def answer_rest(self, side: Side) -> None:
        """Answer every question that is open."""
        if self.found is not None:
            self.answers |= dict.fromkeys((item.path for item in self.found.open_questions), side)
            self.work_out()

    def take(self) -> None:
        """Take the merged plan as one step."""
        found = self.found
        if found is None or not self.go.isEnabled():
            return
        self._bench.plan_changed.disconnect(self.work_out)
        if self._bench.do(Edit(f"Merge {self._source.name}", lambda _plan: found.plan)):
            self._source.done()
            self._bench.say(f"Merged {self._source.name}, as one step: Ctrl Z takes all of it back.")
            self.accept()
        else:
            self._bench.plan_changed.connect(self.work_out)

    def done(self, result: int) -> None:
        """Follow the plan no more."""
        if result != QDialog.DialogCode.Accepted:
            self._bench.plan_changed.disconnect(self.work_out)
        super().done(result)
