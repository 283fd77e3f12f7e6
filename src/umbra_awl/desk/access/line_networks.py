"""Which network the ticked lines of a list are on, asked once for each mode where the list does not tell."""

from PyQt6.QtWidgets import QComboBox, QWidget

from umbra_awl.core.directory.judged import without_network
from umbra_awl.core.facts.modes import MODE_WORDS, of_mode
from umbra_awl.desk.access.line_table import Lines
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import clear, row, words

_NONE = "not told"


class LineNetworks(QWidget):
    """One choice for each mode whose ticked lines name no network and that the plan has networks of."""

    def __init__(self, bench: Workbench, lines: Lines) -> None:
        super().__init__()
        self._bench, self._lines = bench, lines
        self._line = row(self, 6)
        self._boxes: dict[str, QComboBox] = {}
        self._shown: tuple[object, ...] = ()
        lines.changed.connect(self._ask)
        bench.plan_changed.connect(self._ask)
        self.hide()

    def _modes(self) -> list[str]:
        lines, judging = self._lines, self._lines.judging
        if judging is None:
            return []
        services = (judging.access(key, lines.mends, lines.give_up).services[at] for key, at in lines.ticked)
        return sorted(without_network(services))

    def _ask(self) -> None:
        named = {
            mode: tuple(item.name for item in self._bench.plan.networks if item.mode == mode) for mode in self._modes()
        }
        wanted = {mode: names for mode, names in named.items() if names}
        self.setVisible(bool(wanted))
        shown = tuple(wanted.items())
        if shown == self._shown:
            return
        self._shown, before = shown, self.chosen()
        clear(self._line)
        self._boxes = {}
        for mode, names in wanted.items():
            self._boxes[mode] = box = QComboBox()
            box.setAccessibleName(f"Network of the {of_mode(MODE_WORDS, mode)} lines that tell none")
            box.addItems([*names, _NONE])
            box.setCurrentText(before.get(mode, names[0] if len(names) == 1 else _NONE))
            self._line.addWidget(words(f"{of_mode(MODE_WORDS, mode)} lines that tell no network are on", "second"))
            self._line.addWidget(box)
        self._line.addStretch(1)

    def chosen(self) -> dict[str, str]:
        """Mode to the name of the network, for those that were told."""
        return {mode: box.currentText() for mode, box in self._boxes.items() if box.currentText() != _NONE}
