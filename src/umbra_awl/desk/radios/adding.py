"""Adding radios: of which profile, for whom, and how many of the same at once."""

from PyQt6.QtWidgets import QComboBox, QDialog, QFormLayout, QSpinBox, QWidget

from umbra_awl.core.radio.profile import Profile
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.workbench import Workbench

MOST = 50
_LEAD = "The plan is fitted to each radio: its limits, its display, its keys, and whose call sign and ID it carries."


class AddRadios(QDialog):
    """Asks; `profile`, `identity` and `count` are what was chosen."""

    def __init__(self, bench: Workbench, parent: QWidget) -> None:
        super().__init__(parent)
        self._bench = bench
        self.setWindowTitle("Add radios")
        self.setMinimumWidth(460)
        outer = column(self, 10, 16)
        outer.addWidget(words("Add radios", "title"))
        outer.addWidget(words(_LEAD, "second", wrap=True))
        form = QFormLayout()
        outer.addLayout(form)
        self.which, self.whom, self.number = QComboBox(), QComboBox(), QSpinBox()
        for key, item in bench.profiles.items():
            self.which.addItem(f"{item.name}: {item.summary}", key)
        for person in bench.plan.station.identities:
            self.whom.addItem(" ".join(filter(None, (person.call, person.name))) or "the owner", person.key)
        self.number.setRange(1, MOST)
        for label, made in (("Radio", self.which), ("For whom", self.whom), ("How many", self.number)):
            made.setAccessibleName(label)
            form.addRow(label, made)
        acts = row()
        acts.addStretch(1)
        acts.addWidget(button("Cancel", self.reject))
        done = button("Add", self.accept, "main")
        done.setDefault(True)
        acts.addWidget(done)
        outer.addLayout(acts)
        self.which.setFocus()

    @property
    def profile(self) -> Profile:
        """The chosen profile."""
        return self._bench.profiles[self.which.currentData()]

    @property
    def identity(self) -> str:
        """The key of the person it is for; empty while there is nobody."""
        return str(self.whom.currentData() or "")

    @property
    def count(self) -> int:
        """How many."""
        return self.number.value()
