"""The shelf beside the change sheet: dated backups of the chosen radio, and how to bring one back."""

from PyQt6.QtWidgets import QListWidget, QWidget

from umbra_awl.core.transfer.shelf import Backup
from umbra_awl.desk.parts.asking import ask
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.runs.runner import Runner

RESTORE = "Restore it"
_EMPTY = "Every read keeps a dated backup here. You can always get back to where you were."


class ShelfPanel(QWidget):
    """Lists the backups, newest first."""

    def __init__(self, runner: Runner) -> None:
        super().__init__()
        self._runner = runner
        self._backups: list[Backup] = []
        outer = column(self, 6)
        outer.addWidget(words("Backups", "title"))
        self._empty = words(_EMPTY, "second", wrap=True)
        outer.addWidget(self._empty)
        self._list = QListWidget()
        self._list.setAccessibleName("Backups, newest first")
        outer.addWidget(self._list, 1)
        acts = row()
        self._restore = button("Restore this backup", self.restore, tip="Write it back whole, then read and compare")
        acts.addWidget(self._restore)
        acts.addStretch(1)
        outer.addLayout(acts)
        self._room = QWidget()
        outer.addWidget(self._room, 1)
        runner.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Read the shelf again."""
        shelf = self._runner.shelf()
        backups = shelf.backups() if shelf is not None else []
        if backups != self._backups:
            self._backups = backups
            self._list.clear()
            self._list.addItems([item.when for item in backups])
            self._list.setCurrentRow(0)
        self._empty.setVisible(not backups)
        self._list.setVisible(bool(backups))
        self._room.setVisible(not backups)
        self._restore.setVisible(bool(backups))
        self._restore.setEnabled(not self._runner.running)

    def restore(self) -> None:
        """Restore the chosen backup, after asking."""
        at = self._list.currentRow()
        if not 0 <= at < len(self._backups):
            return
        backup = self._backups[at]
        question = f"Write the memory of {backup.when} back into the radio? What it holds now is backed up first."
        if ask(self, "Restore a backup", question, [RESTORE]) == RESTORE:
            self._runner.restoring.restore(backup)
