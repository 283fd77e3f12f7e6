"""Beside the card's way: what the display must show afterwards, said beforehand, and the shelf of backups."""

from PyQt6.QtWidgets import QGridLayout, QWidget

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.carry import Compared
from umbra_awl.core.transfer.proof import WriteProof, proofs
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import clear, column, words
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.transfer.cable.shelf_panel import ShelfPanel

_TEACH = "After the proof: turn to a new memory, key it for a moment, and compare. A refusal out of band is good news."
_EMPTY = "Once it is compared, this says what the display must show."


class CardSide(QWidget):
    """Proofs above, shelf below."""

    def __init__(self, bench: Workbench, runner: Runner) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 6)
        outer.addWidget(words("The display must show", "title"))
        self._said = words(_EMPTY, "second", wrap=True)
        outer.addWidget(self._said)
        self._rows = QGridLayout()
        self._rows.setVerticalSpacing(2)
        outer.addLayout(self._rows)
        self.shelf = ShelfPanel(runner)
        outer.addWidget(self.shelf, 1)
        self._shown: tuple[WriteProof, ...] = ()
        self._of = ""

    def show_proofs(self, compared: Compared | None, profile: Profile) -> None:
        """Say what the memories that would be written show."""
        found = proofs(compared.sheet, compared.memory, profile) if compared is not None else ()
        kept = compared is not None and not compared.sheet.changes and compared.memory.radio == self._of
        if found == self._shown or (kept and self._shown):
            return  # what was sent a moment ago is what is to be tried
        self._of = compared.memory.radio if compared is not None else ""
        self._shown = found
        clear(self._rows)
        self._said.setText(_TEACH if found else _EMPTY)
        for at, proof in enumerate(found):
            name = words(proof.name, "mono")
            name.setAccessibleName(f"{proof.name}: {proof.heard}, keyed {proof.keyed}, {proof.beside}")
            self._rows.addWidget(name, 2 * at, 0)
            self._rows.addWidget(words(proof.heard, "mono"), 2 * at, 1)
            beside = f"keyed: {proof.keyed}" + (f" · {proof.beside}" if proof.beside else "")
            self._rows.addWidget(words(beside, "second", wrap=True), 2 * at + 1, 0, 1, 2)
