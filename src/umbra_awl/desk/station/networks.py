"""A small sheet for adding a network with its conventions."""

from PyQt6.QtWidgets import QComboBox, QDialog, QFormLayout, QLineEdit, QWidget

from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.plan.edit_station import add_network
from umbra_awl.core.plan.edits import fresh_key
from umbra_awl.core.plan.model import Network
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.station.conventions import parse_call, parse_number, parse_span
from umbra_awl.desk.workbench import Workbench

_LEAD = "Every network has its own numbers. Leave empty what yours does not have; its own pages tell them."


class AddNetwork(QDialog):
    """Asks for a network of any digital mode; the conventions are those of DMR."""

    def __init__(self, bench: Workbench, parent: QWidget) -> None:
        super().__init__(parent)
        self._bench = bench
        self.setWindowTitle("Add a network")
        self.setMinimumWidth(420)
        outer = column(self, 10, 16)
        outer.addWidget(words("Add a network", "title"))
        outer.addWidget(words(_LEAD, "second", wrap=True))
        self._form = QFormLayout()
        outer.addLayout(self._form)
        self.name = self._line("Name", "Lattice")
        self.mode = QComboBox()
        self.mode.setAccessibleName("Mode")
        for mode, text in MODE_WORDS.items():
            if mode != "fm":
                self.mode.addItem(text, mode)
        self._form.addRow("Mode", self.mode)
        self.master = self._line("Master", "velmar.lattice.invalid")
        self.echo = self._line("Echo test", "999097 private, or 999097 group")
        self.disconnect_ = self._line("Disconnect", "999000 group")
        self.local = self._line("Local talk group", "8")
        self.dialled = self._line("Dialled range", "8001-8099")
        self.quiet = self._line("Quiet minutes", "15")
        self.prefix = self._line("Prefix", "7, where it is reached through another network")
        self.mode.currentIndexChanged.connect(lambda _at: self._only_what_suits())
        self.fault = words("", "stop", wrap=True)
        outer.addWidget(self.fault)
        acts = row()
        acts.addStretch(1)
        acts.addWidget(button("Cancel", self.reject))
        done = button("Add", self._try, "main")
        done.setDefault(True)
        acts.addWidget(done)
        outer.addLayout(acts)
        self.name.setFocus()

    def _line(self, label: str, example: str) -> QLineEdit:
        made = QLineEdit()
        made.setPlaceholderText(example)
        made.setAccessibleName(label)
        self._form.addRow(label, made)
        return made

    def _try(self) -> None:
        try:
            network = self._network()
        except ValueError as error:
            self.fault.setText(str(error))
            return
        if self._bench.do(add_network(network)):
            self.accept()

    def _network(self) -> Network:
        name = self.name.text().strip()
        if not name:
            raise ValueError("Give the network a name.")
        low, high = parse_span(self.dialled.text())
        key = fresh_key(name, self._bench.index.networks)
        return Network(
            key,
            name,
            self.mode.currentData(),
            self.master.text().strip(),
            parse_call(self.echo.text()),
            parse_call(self.disconnect_.text()),
            parse_number(self.local.text()),
            low,
            high,
            parse_number(self.quiet.text()) or 0,
            self._prefix(),
        )

    def _prefix(self) -> str:
        text = self.prefix.text().strip()
        if text and not (text.isascii() and text.isdigit()):
            raise ValueError(f"“{text}” is not a prefix: digits only, for example 7.")
        return text

    def _only_what_suits(self) -> None:
        """Conventions of numbers are DMR's; the other modes have none to ask for."""
        for field in (self.echo, self.disconnect_, self.local, self.dialled, self.quiet, self.prefix):
            self._form.setRowVisible(field, self.mode.currentData() == "dmr")
