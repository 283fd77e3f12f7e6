"""The fault to find, in a window of its own: the whole program on a copy, findings hidden, nothing reached outside.

The copy lies in a folder of its own that goes with the window; the plan, radios and log that are practised for are not touched.
"""

import shutil
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from msgspec.structs import replace
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QComboBox, QWidget

from umbra_awl.core.drills.fault import Case, judge
from umbra_awl.core.drills.slips import shipped_slips
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.hotspot.wifi.secrets import MemoryStore, Secrets
from umbra_awl.core.keep.clock import Clock
from umbra_awl.core.plan.disk.saves import SUFFIX
from umbra_awl.core.plan.model import Plan
from umbra_awl.desk.frame.window import MainWindow
from umbra_awl.desk.held.reckoning import Results
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.jobs import Jobs
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.profiles import Profiles
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.theme.theme import Theme

_PRACTICE = "This is a practice copy: no radio, hotspot or other plan is reached from here. Repair it in the plan."
_TICK_MS = 1_000
Ended = Callable[[dict[str, bool], int, int], None]


def marked(plan: Plan) -> Plan:
    """The plan under a name that says what it is, wherever a copy of it goes."""
    return replace(plan, name=f"{plan.name or 'Plan'} (practice copy with a fault)")


class PracticeBench(Workbench):
    """A workbench on a copy; what is wrong is shown only once the drill has ended."""

    def __init__(self, jobs: Jobs, profiles: Profiles, clock: Clock) -> None:
        super().__init__(jobs, profiles, clock)
        self.hushed = True
        self.worked.seen = self._unless_hushed
        self.secrets = Secrets(MemoryStore())  # nothing typed in practice reaches the real one

    def _unless_hushed(self, results: Results) -> Results:
        return results._replace(findings=(), silenced=()) if self.hushed else results

    def unhush(self) -> None:
        """Show what is wrong from now on."""
        self.hushed = False
        self.reload_profiles()


class DrillBar(QWidget):
    """What is noticed, how long and how much was looked at, the answer.

    `ended` is told which slips were found, the seconds, and the looks.
    """

    def __init__(self, bench: PracticeBench, case: Case, ended: Ended) -> None:
        super().__init__()
        self._bench, self.case, self._ended = bench, case, ended
        self.named: list[str] = []
        self.looks = 0
        self.over = False
        self._began = time.monotonic()
        self.setObjectName("outside")
        outer = column(self, 4)
        outer.setContentsMargins(16, 6, 16, 6)
        for number, fault in enumerate(case.faults, 1):
            lead = f"{number}. " if len(case.faults) > 1 else ""
            outer.addWidget(words(f"{lead}{fault.symptom}", "brass", wrap=True))
        self.cause = QComboBox()
        self.cause.setAccessibleName("The cause")
        for slip in sorted(shipped_slips().values(), key=lambda item: item.words):
            self.cause.addItem(slip.words, slip.key)
        self.name = button("That is the cause", self.name_it)
        self.judge = button("I have repaired it", self.judge_it, "main")
        self.give_up = button("Show me", self.end)
        line = row(gap=8)
        line.addWidget(self.cause)
        for made in (self.name, self.judge, self.give_up):
            line.addWidget(made)
        line.addStretch(1)
        outer.addLayout(line)
        self.told = words("", "second", wrap=True)
        outer.addWidget(self.told)
        self._tick = QTimer(self)
        self._tick.setInterval(_TICK_MS)
        self._tick.timeout.connect(self._say_time)
        self._tick.start()
        bench.selection_changed.connect(self.look)
        self._say_time()

    @property
    def seconds(self) -> int:
        """How long it has lasted."""
        return int(time.monotonic() - self._began)

    def look(self) -> None:
        """Something was looked at."""
        if not self.over:
            self.looks += 1

    def _say_time(self) -> None:
        if not self.over:
            what = counted(len(self.case.faults), "thing")
            self.told.setText(
                f"Practice on a copy of the plan: {what} to find. {self.seconds // 60}:{self.seconds % 60:02d}, "
                f"{self.looks} looks. Findings are hidden. Use the sheet, the inspector, the trace, the lanes; name the cause, "
                "repair it in the plan."
            )

    def name_it(self) -> None:
        """Answer the cause that is chosen."""
        key = self.cause.currentData()
        right = key in {item.slip.key for item in self.case.faults}
        if right and key not in self.named:
            self.named.append(key)
        self._bench.say(
            f"Yes: {self.cause.currentText()}. Now repair it."
            if right
            else f"No: {self.cause.currentText()} it is not.",
            "say" if right else "stop",
        )
        self.looks += 0 if right else 1

    def judge_it(self) -> None:
        """Judge the copy as it is now; where all is named and repaired, the drill has ended."""
        judged = judge(
            self.case, self._bench.plan, self.named, self._bench.profiles.snapshot(), self._bench.index.today
        )
        if judged.done(self.case):
            self.end()
            return
        count = len(self.case.faults)
        new = f" Something new is wrong: {judged.new[0].text}" if judged.new else ""
        if not judged.intact:
            new += (
                " What was taken away, made receive-only or put aside is not repaired: undo that, and mend the cause."
            )
        self._bench.say(
            f"Named {len(judged.named)} of {count}, repaired {len(judged.repaired)} of {count}.{new}", "stop"
        )

    def end(self) -> None:
        """End it: each fault is explained by its very finding, and findings are shown."""
        if self.over:
            return
        self.over = True
        self._tick.stop()
        judged = judge(
            self.case, self._bench.plan, self.named, self._bench.profiles.snapshot(), self._bench.index.today
        )
        found = {
            item.slip.key: item.slip.key in judged.named and item.slip.key in judged.repaired
            for item in self.case.faults
        }
        told = []
        for item in self.case.faults:
            word = "Found and repaired" if found[item.slip.key] else "It was"
            told.append(f"{word}: {item.slip.words}. {item.finding.text} {item.finding.rule.why}")
        self.told.setText(f"{self.seconds // 60}:{self.seconds % 60:02d}, {self.looks} looks. {' '.join(told)}")
        for part in (self.cause, self.name, self.judge, self.give_up):
            part.setEnabled(False)
        self._bench.unhush()
        self._ended(found, self.seconds, self.looks)


class FaultWindow(MainWindow):
    """The program on the copy."""

    def __init__(
        self, theme: Theme, case: Case, profiles: Path, ended: Ended, clock: Clock, *, jobs: Jobs | None = None
    ) -> None:
        """`profiles` is the folder of own profiles, which are copied as well. Raises OSError where no folder can be made."""
        self.folder = Path(tempfile.mkdtemp(prefix="umbra-awl-drill-"))
        own = profiles / "profiles"
        if own.is_dir():
            shutil.copytree(own, self.folder / "profiles")
        bench = PracticeBench(jobs or Jobs(), Profiles(self.folder), clock)
        super().__init__(bench, theme, Settings(), self.folder / "directory.sqlite")
        bench.opening.create(self.folder / f"practice{SUFFIX}", marked(case.plan))
        bench.practice = _PRACTICE
        self.bar = DrillBar(bench, case, ended)
        self.add_bar(self.bar)
        self.setWindowTitle("Find the fault – practice copy")

    def _stage_made(self, key: str, stage: Any) -> None:
        super()._stage_made(key, stage)
        stage.pages.shown.connect(lambda _page: self.bar.look() if hasattr(self, "bar") else None)

    def tidy(self) -> None:
        """Let the copy go, and the window, which must be closed: one that lingers is polished with every change of the look."""
        shutil.rmtree(self.folder, ignore_errors=True)
        self.deleteLater()
