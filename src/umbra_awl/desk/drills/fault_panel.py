"""Find the fault: begun here, found in a window of its own; what lies beside the plan is found here, look by look."""

import random
from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QComboBox, QListWidget, QWidget

from umbra_awl.core.drills.fault import Case, Maker, NoCaseError
from umbra_awl.core.drills.seeds import SEEDS
from umbra_awl.core.drills.slips import shipped_slips
from umbra_awl.core.drills.way import WayCase, way_case
from umbra_awl.desk.drills.coach import Coach
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import button, clear, column, restyle, row, rows_of, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.plan.model import Plan
    from umbra_awl.desk.drills.fault_window import FaultWindow
    from umbra_awl.desk.jobs import Jobs

_LEAD = (
    "A copy of the plan gets one to three slips, as people make them. You are told only what you would notice. Name the cause, "
    "and repair it. Nothing of yours is touched, nothing transmits, nobody else sees how it went."
)
_NO_SEED = 1_000_000


class FaultPanel(QWidget):
    """Begins a drill, and shows the one beside the plan."""

    def __init__(self, bench: Workbench, theme: Theme, coach: Coach) -> None:
        super().__init__()
        self._bench, self._theme, self._coach = bench, theme, coach
        self.window_: FaultWindow | None = None
        self.way: WayCase | None = None
        self.looked: set[int] = set()
        self.jobs: Callable[[], Jobs | None] = lambda: None
        outer = column(self, 8)
        outer.addWidget(words(_LEAD, wrap=True))
        line = row(gap=8)
        self.source = QComboBox()
        self.source.setAccessibleName("Which plan")
        self.source.addItem("on a copy of my plan", "own")
        self.source.addItem("on a copy of the demo's plan", "demo")
        self.number = QComboBox()
        self.number.setAccessibleName("How many faults")
        for count, text in ((1, "one fault"), (2, "two faults"), (3, "three faults")):
            self.number.addItem(text, count)
        line.addWidget(self.source)
        line.addWidget(self.number)
        line.addStretch(1)
        self.go = button("Begin", self.begin, "main")
        line.addWidget(self.go)
        outer.addLayout(line)
        self.told = words("", "second", wrap=True)
        outer.addWidget(self.told)
        self.case = QWidget()
        self._place_case()
        outer.addWidget(self.case, 1)
        outer.addStretch(0)
        self.case.hide()
        bench.closing.connect(self.end)

    def _place_case(self) -> None:
        """What lies beside the plan: the symptom, what can be looked at, cause and way to go on."""
        inner = column(self.case, 6)
        inner.setContentsMargins(0, 0, 0, 0)
        self.symptom = words("", "brass", wrap=True)
        inner.addWidget(self.symptom)
        self.looks = column(gap=4)
        inner.addLayout(self.looks)
        self.cause = QComboBox()
        self.cause.setAccessibleName("The cause")
        for slip in sorted(shipped_slips().values(), key=lambda item: item.words):
            self.cause.addItem(slip.words, slip.key)
        inner.addWidget(words("The cause", "second"))
        inner.addWidget(self.cause)
        inner.addWidget(words("What do you do?", "second"))
        self.repairs = QListWidget()
        self.repairs.setAccessibleName("Ways to go on")
        self.repairs.setWordWrap(True)
        self.repairs.setMinimumHeight(self._theme.px(108))
        inner.addWidget(self.repairs, 1)
        self.answer = button("Answer", self.answer_way, "main")
        inner.addLayout(rows_of(self.answer))

    # beginning

    def begin(self) -> None:
        """Begin with what is due."""
        if self.window_ is not None and self.window_.isVisible():
            self.window_.raise_()
            self.window_.activateWindow()
            self.told.setText("A drill is open already, in a window of its own.")
            return
        seed = random.randrange(_NO_SEED)  # noqa: S311  (a drill)
        due = [key.removeprefix("fault ") for key in self._coach.due(self._coach.faults())]
        first = self._first(due, seed)
        if first in SEEDS:
            self._begin_in_plan(first, due, seed)
        else:
            self._begin_beside(first, due, seed)

    @staticmethod
    def _first(due: list[str], seed: int) -> str:
        """The slip to begin with: one of those that are due, or of all."""
        chance = random.Random(seed)  # noqa: S311  (a drill)
        return chance.choice(due or list(shipped_slips()))

    def _plan(self) -> "Plan":
        from umbra_awl.demo.fresh import demo_plan

        return demo_plan(self._bench.clock.today()) if self.source.currentData() == "demo" else self._bench.plan

    def _begin_in_plan(self, first: str, due: list[str], seed: int) -> None:
        """Make the case in the background, then open its window."""
        today = self._bench.clock.today()
        plan, profiles, count = self._plan(), self._bench.profiles.snapshot(), self.number.currentData()
        rest = [key for key in due if key in SEEDS and key != first] + [key for key in SEEDS if key not in due]
        self.told.setText("The copy is being made …")
        self._bench.jobs.latest(
            "drill",
            lambda: Maker(plan, profiles, today).case(seed, count, [first, *rest]),
            self.open_case,
            self._not_made,
        )

    def _not_made(self, error: Exception) -> None:
        known = isinstance(error, NoCaseError | OSError)
        self.told.setText(str(error) if known else f"No drill could be made ({type(error).__name__}).")

    def open_case(self, case: Case) -> None:
        """Open a case in a window of its own."""
        from umbra_awl.desk.drills.fault_window import FaultWindow

        self.end()
        self.case.hide()
        try:
            self.window_ = FaultWindow(
                self._theme, case, self._bench.profiles.folder, self._ended, self._bench.clock, jobs=self.jobs()
            )
        except OSError as error:
            self._not_made(error)
            return
        self.window_.show()
        self.told.setText("It is open in a window of its own. Close that when you have done.")

    def _ended(self, found: dict[str, bool], seconds: int, looks: int) -> None:
        for key, right in found.items():
            self._coach.answer(f"fault {key}", right=right)
        count = sum(found.values())
        self.told.setText(f"{count} of {len(found)} found in {seconds // 60}:{seconds % 60:02d}, with {looks} looks.")

    def end(self) -> None:
        """Close the drill's window and let its copy go."""
        if self.window_ is not None:
            self.window_.close()
            self.window_.tidy()
            self.window_ = None

    # beside the plan

    def _begin_beside(self, first: str, due: list[str], seed: int) -> None:
        from umbra_awl.core.plan.index import PlanIndex

        try:
            self.show_way(way_case(PlanIndex(self._plan(), self._bench.clock.today()), first, seed))
        except NoCaseError:
            self._begin_in_plan(next((key for key in due if key in SEEDS), next(iter(SEEDS))), due, seed)

    def show_way(self, case: WayCase) -> None:
        """Show a case that lies beside the plan."""
        self.way, self.looked = case, set()
        self.symptom.setText(case.symptom)
        clear(self.looks)
        self._shown = []
        for at, look in enumerate(case.looks):
            line = row(gap=6)
            line.addWidget(button(f"Look: {look.title}", partial(self.look, at)))
            seen = words("", "mono", wrap=True)
            line.addWidget(seen, 1)
            self._shown.append(seen)
            self.looks.addLayout(line)
        self.repairs.clear()
        self.repairs.addItems(case.repairs)
        self.repairs.setCurrentRow(0)
        self.answer.setEnabled(True)
        self.told.setText("Look at what you would look at; then answer. Each look is counted.")
        restyle(self.told, "role", "second")
        self.case.show()

    def look(self, at: int) -> None:
        """Look at something."""
        if self.way is not None:
            self.looked.add(at)
            self._shown[at].setText(self.way.looks[at].text)

    def answer_way(self) -> None:
        """Answer cause and way to go on; it is explained by what the check itself says."""
        way = self.way
        if way is None:
            return
        cause = self.cause.currentData() == way.slip.key
        repair = self.repairs.currentRow() == way.right
        word = "Right" if cause and repair else "The cause is right, the way on is not" if cause else "No"
        self.told.setText(
            f"{word}, with {len(self.looked)} looks. It was: {way.slip.words}. {way.finding} {way.slip.repairs[0]}."
        )
        restyle(self.told, "role", "ok" if cause and repair else "stop")
        self.answer.setEnabled(False)
        self._coach.answer(f"fault {way.slip.key}", right=cause and repair)

    def take_focus(self) -> None:
        """Give the keyboard to the beginning."""
        self.go.setFocus()
