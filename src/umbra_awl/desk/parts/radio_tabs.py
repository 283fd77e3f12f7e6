"""The plan's radios to choose from, a person's beside each other; many fold into one button that opens a picker.

The chosen one is what names, traces and transfers are for.
"""

from functools import partial
from itertools import groupby

from PyQt6.QtWidgets import QPushButton, QSizePolicy, QWidget

from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.radio_picker import ListedRadio, RadioPicker, listed_radios
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.widgets import Flow, button, clear, words

MOST_IN_ROW = 7


class RadioTabs(QWidget):
    """Follows the workbench's radios and its choice."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self._line = Flow(2)
        self.setLayout(self._line)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        self._shown: list[ListedRadio] = []
        self._made: dict[str, QPushButton] = {}
        self.folded: QPushButton | None = None
        for signal in (bench.plan_changed, bench.radio_changed):
            signal.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the plan's radios; where they are the same, only the mark moves."""
        radios = listed_radios(self._bench)
        if radios != self._shown:
            self._shown = radios
            self._lay(radios)
        chosen_of(self._made, self._bench.radio_key)
        if self.folded is not None:
            chosen = next((item for item in radios if item.key == self._bench.radio_key), None)
            self.folded.setText(f"{chosen.name} ▾" if chosen is not None else "Choose a radio ▾")
            self.folded.setAccessibleName(
                f"Radio: {chosen.words if chosen is not None else 'none'}. Enter picks another."
            )

    def _lay(self, radios: list[ListedRadio]) -> None:
        clear(self._line)
        self._made, self.folded = {}, None
        if len(radios) > MOST_IN_ROW:
            self.folded = button("", self.pick, "segment")
            self._line.addWidget(self.folded)
            return
        owners = [list(held) for _owner, held in groupby(radios, lambda item: item.owner)]
        for held in owners:
            if len(owners) > 1:
                label = words(held[0].owner or "the owner", "second")
                label.setContentsMargins(8, 5, 2, 0)
                self._line.addWidget(label)
            for radio in held:
                made = button(radio.name, partial(self._bench.choose_radio, radio.key), "segment")
                self._made[radio.key] = made
                self._line.addWidget(made)

    def pick(self) -> None:
        """Open the picker."""
        if self.folded is not None:
            take = lambda keys: self._bench.choose_radio(keys[0])  # noqa: E731
            RadioPicker(self, self._shown, (self._bench.radio_key,), take).pop_up(self.folded)
