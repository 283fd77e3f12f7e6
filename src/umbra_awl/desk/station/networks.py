"""A small sheet for adding a network with its conventions."""

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.facts.modes import MODE_WORDS, by_mode
from umbra_awl.core.plan.edit.edit_station import add_network
from umbra_awl.core.plan.edit.edits import fresh_key
from umbra_awl.core.plan.model import Network
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.form_sheet import FormSheet
from umbra_awl.desk.station.conventions import parse_call, parse_number, parse_span

_LEAD = "Every network has its own numbers. Leave empty what yours does not have; its own pages tell them."


class AddNetwork(FormSheet):
    """Asks for a network of any digital mode; the conventions are those of DMR."""

    def __init__(self, bench: Workbench, parent: QWidget) -> None:
        super().__init__(parent, "Add a network", _LEAD, self.attempt)
        self._bench = bench
        self.name = self.line("Name", "Lattice")
        self.mode = self.choice("Mode", [(text, mode) for mode, text in by_mode(MODE_WORDS) if mode != "fm"])
        self.master = self.line("Master", "velmar.lattice.invalid")
        self.echo = self.line("Echo test", "999097 private, or 999097 group")
        self.disconnect_ = self.line("Disconnect", "999000 group")
        self.local = self.line("Local talk group", "8")
        self.dialled = self.line("Dialled range", "8001-8099")
        self.quiet = self.line("Quiet minutes", "15")
        self.prefix = self.line("Prefix", "7, where it is reached through another network")
        self.mode.currentIndexChanged.connect(lambda _at: self._only_what_suits())

    def attempt(self) -> str:
        """Add it; the reason when that cannot be."""
        try:
            network = self._network()
        except ValueError as error:
            return str(error)
        return "" if self._bench.do(add_network(network)) else "It was not added; the reason stands above."

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
            self.form.setRowVisible(field, self.mode.currentData() == "dmr")
