"""One button for each owned radio; the chosen one is the radio that names, traces and transfers are for."""

from functools import partial

from PyQt6.QtWidgets import QWidget

from umbra_awl.desk.parts.widgets import button, clear, row
from umbra_awl.desk.workbench import Workbench


class RadioTabs(QWidget):
    """Follows the workbench's radios and its choice."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self._line = row(self, 2)
        self._shown: tuple[tuple[str, str, bool], ...] = ()
        for signal in (bench.plan_changed, bench.radio_changed):
            signal.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the plan's radios."""
        shown = tuple((radio.key, radio.name, radio.key == self._bench.radio_key) for radio in self._bench.plan.radios)
        if shown == self._shown:
            return
        self._shown = shown
        clear(self._line)
        for key, name, chosen in shown:
            made = button(name, partial(self._bench.choose_radio, key), "segment")
            made.setCheckable(True)
            made.setChecked(chosen)
            self._line.addWidget(made)
