"""Adding radios: of which profile, for whom, and how many of the same at once."""

from collections.abc import Callable

from PyQt6.QtWidgets import QSpinBox, QWidget

from umbra_awl.core.radio.profile import Profile
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.form_sheet import FormSheet

MOST = 50
_LEAD = "The plan is fitted to each radio: its limits, its display, its keys, and whose call sign and ID it carries."


class AddRadios(FormSheet):
    """Asks, and has them added: `add` takes the profile, the key of the person, and how many."""

    def __init__(self, bench: Workbench, parent: QWidget, add: Callable[[Profile, str, int], object]) -> None:
        super().__init__(parent, "Add radios", _LEAD, self.attempt)
        self._bench, self._add = bench, add
        self.which = self.choice(
            "Radio", [(f"{item.name}: {item.summary}", key) for key, item in bench.profiles.items()]
        )
        people = bench.plan.station.identities
        self.whom = self.choice(
            "For whom", [(f"{item.call} {item.name}".strip() or "you", item.key) for item in people]
        )
        self.number = QSpinBox()
        self.number.setRange(1, MOST)
        self.number.setAccessibleName("How many")
        self.form.addRow("How many", self.number)

    def attempt(self) -> str:
        """Add them; nothing can be wrong with what can be chosen."""
        self._add(
            self._bench.profiles[self.which.currentData()], str(self.whom.currentData() or ""), self.number.value()
        )
        return ""
