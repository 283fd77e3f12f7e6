"""The foot of the window: what to do next, and the count of findings, on every page."""

from collections import Counter

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QWidget

from umbra_awl.core.agenda.next_steps import NextStep, first_open
from umbra_awl.core.findings.model import SEVERITY_ORDER, SEVERITY_WORDS
from umbra_awl.desk.frame.judged.findings import FindingsPanel, findings_words
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import Whole, button, restyle, row, words

_DONE = "All set: listen first, try the echo, then call."


class Foot(QWidget):
    """One line. The step leads to its field; the count opens or folds the findings."""

    step_wanted = pyqtSignal()
    findings_wanted = pyqtSignal()

    def __init__(self, panel: FindingsPanel) -> None:
        super().__init__()
        self._panel = panel
        self.step: NextStep | None = None
        self.setObjectName("foot")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        line = row(self, 6)
        line.setContentsMargins(14, 1, 12, 1)
        self._lead = words("Next:", "second")
        line.addWidget(self._lead)
        self.next = button("", self.step_wanted.emit, "", "")
        line.addWidget(self.next)
        self._why = Whole()
        line.addWidget(self._why, 1)
        self.count = button("", self.findings_wanted.emit, "plain", "Open or fold the findings (F9)")
        line.addWidget(self.count)
        panel.parted.connect(self.say_count)

    def show_steps(self, steps: tuple[NextStep, ...]) -> None:
        """Show the first step that is not done."""
        self.step = first_open(steps)
        self.next.setText(self.step.words if self.step is not None else _DONE)
        self.next.setAccessibleName(f"Next: {self.next.text()}")
        set_tip(self.next, f"{self.step.why if self.step else 'What to do next, all of it'} (Ctrl Return)")
        self._why.setText(self.step.why if self.step is not None else "")

    def say_count(self) -> None:
        """Show how many findings there are, here and elsewhere, and the gravest grade of those here."""
        here, elsewhere = self._panel.here, self._panel.elsewhere
        grades = Counter(item.severity for item in here)
        gravest = min(grades, key=lambda grade: SEVERITY_ORDER[grade], default=None)
        lead = f"{SEVERITY_WORDS[gravest]}: " if gravest is not None else ""
        self.count.setText(self._panel.hidden_words or lead + findings_words(len(here), len(elsewhere)))
        restyle(self.count, "tone", {"stop": "stop", "warn": "brass"}.get(gravest or "", ""))
