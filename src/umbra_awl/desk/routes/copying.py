"""A small sheet for copying a service's pattern to another: what comes along, what is left out and why, before it is done."""

from PyQt6.QtWidgets import QComboBox, QDialog, QListWidget, QWidget

from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.routes.bulk import Bulk, copy_pattern
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.parts.wrap import WrapList
from umbra_awl.desk.sheet.grid import column_of


class CopyPattern(QDialog):
    """Asks for the service to copy to."""

    def __init__(self, bench: Workbench, source: str, parent: QWidget) -> None:
        super().__init__(parent)
        self._bench = bench
        self._source = source
        self._made: Bulk | None = None
        self.setWindowTitle("Copy a pattern")
        self.resize(520, 380)
        outer = column(self, 10, 16)
        outer.addWidget(words(f"Copy the pattern of {self._name(source)}", "title"))
        lead = "The same destinations, on the same slots where there are such. Color codes, tones and routing fields stay behind."
        outer.addWidget(words(lead, "second", wrap=True))
        self.target = QComboBox()
        self.target.setAccessibleName("To which service")
        own = bench.index.services[source][1].mode
        others = [
            (service.mode != own, key) for key, (_access, service) in bench.index.services.items() if key != source
        ]
        for _other, key in sorted(others, key=lambda item: item[0]):
            self.target.addItem(self._name(key), key)
        outer.addWidget(self.target)
        self.says = words("", wrap=True)
        outer.addWidget(self.says)
        self.left: QListWidget = WrapList()
        self.left.setAccessibleName("What is left out, and why")
        outer.addWidget(self.left, 1)
        acts = row()
        acts.addStretch(1)
        acts.addWidget(button("Cancel", self.reject))
        self.done_ = button("Copy", self.copy, "main")
        acts.addWidget(self.done_)
        outer.addLayout(acts)
        self.target.currentIndexChanged.connect(lambda _at: self.refresh())
        self.refresh()

    def _name(self, service: str) -> str:
        access, found = self._bench.index.services[service]
        return f"{access.site}, {column_of(access, found).head}"

    def refresh(self) -> None:
        """Show what copying to the chosen service would do."""
        self.left.clear()
        try:
            self._made = copy_pattern(self._bench.index, self._source, self.target.currentData() or self._source)
        except EditRefused as error:
            self._made = None
            self.says.setText(str(error))
        else:
            self.says.setText(f"{self._made.edit.sentence}.")
            self.left.addItems([f"{item.what}: {item.reason}" for item in self._made.left] or ["Nothing is left out."])
        self.done_.setEnabled(self._made is not None)

    def copy(self) -> None:
        """Do it."""
        if self._made is not None and self._bench.do(self._made.edit):
            self._bench.say(f"{self._made.edit.sentence}. Ctrl Z takes it back.")
            self.accept()
