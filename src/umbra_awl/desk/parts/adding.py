"""Small sheets for adding an access point or a destination by hand."""

from collections.abc import Callable
from itertools import pairwise

from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QComboBox, QDialog, QFormLayout, QLineEdit, QWidget

from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.facts.dmr import talk_group_fault
from umbra_awl.core.facts.frequency import FrequencyError, parse_hz, parse_offset_hz
from umbra_awl.core.facts.tones import ToneError, parse_tone
from umbra_awl.core.plan.edit_access import add_access
from umbra_awl.core.plan.edits import add_item, fresh_key
from umbra_awl.core.plan.model import AccessPoint, Admit, Destination, DmrAir, FmAir, Service
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.workbench import Selection, Workbench

_KINDS = ("repeater", "hotspot", "simplex")
_DESTINATIONS = ("group", "private", "local", "echo", "disconnect", "dial")


class _Sheet(QDialog):
    """A form whose one filled button tries; a refusal is shown under it and the form stays."""

    def __init__(self, parent: QWidget, title: str, lead: str, attempt: Callable[[], str]) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setMinimumWidth(400)
        outer = column(self, 10, 16)
        outer.addWidget(words(title, "title"))
        outer.addWidget(words(lead, "second", wrap=True))
        self.form = QFormLayout()
        self.form.setVerticalSpacing(6)
        outer.addLayout(self.form)
        self.fault = words("", "stop", wrap=True)
        outer.addWidget(self.fault)
        acts = row()
        acts.addStretch(1)
        self._cancel = button("Cancel", self.reject)
        acts.addWidget(self._cancel)
        self._done = button("Add", lambda: self._try(attempt), "main")
        self._done.setDefault(True)
        acts.addWidget(self._done)
        outer.addLayout(acts)

    def _try(self, attempt: Callable[[], str]) -> None:
        fault = attempt()
        self.fault.setText(fault)
        if not fault:
            self.accept()

    def showEvent(self, event: QShowEvent | None) -> None:
        """Tab runs through the fields from the first, then to the buttons."""
        fields = [self.form.itemAt(at, QFormLayout.ItemRole.FieldRole) for at in range(self.form.rowCount())]
        order = [widget for item in fields if item is not None and (widget := item.widget()) is not None]
        order += [self._done, self._cancel]
        for one, after in pairwise(order):
            QWidget.setTabOrder(one, after)
        order[0].setFocus()
        super().showEvent(event)

    def line(self, label: str, example: str = "") -> QLineEdit:
        """Add a text field."""
        made = QLineEdit()
        made.setPlaceholderText(example)
        made.setAccessibleName(label)
        self.form.addRow(label, made)
        return made

    def choice(self, label: str, options: list[tuple[str, str]]) -> QComboBox:
        """Add a choice of (words, data)."""
        made = QComboBox()
        made.setAccessibleName(label)
        for text, data in options:
            made.addItem(text, data)
        self.form.addRow(label, made)
        return made


class AddAccess(_Sheet):
    """Add an access point with one FM or DMR service."""

    def __init__(self, bench: Workbench, parent: QWidget) -> None:
        super().__init__(
            parent, "Add an access point", "As your radio sees it: where you hear it, and where you send.", self.attempt
        )
        self._bench = bench
        self.call = self.line("Call sign", "Q0BLK, or empty for simplex")
        self.site = self.line("Site", "Blackfell")
        self.place = self.line("Place", "Great Velmar")
        self.kind = self.choice("Kind", [(kind, kind) for kind in _KINDS])
        self.receive = self.line("Receive", "438.6125")
        self.offset = self.line("Offset", "-7.6, or empty for simplex")
        networks = [(f"DMR on {item.name}", item.key) for item in bench.plan.networks if item.mode == "dmr"]
        self.mode = self.choice("Mode", [("FM", "fm"), *networks, ("DMR, no network", "")])
        self.opens = self.line("Tone or color code", "103.5, or 6")

    def attempt(self) -> str:
        """Add it; the reason when that cannot be."""
        call, site = tidy_call_sign(self.call.text()), self.site.text().strip()
        fault = call_sign_fault(call) if call else "" if site else "Give a call sign or a site, so that it has a name."
        if fault:
            return fault
        try:
            rx_hz = parse_hz(self.receive.text())
            offset = parse_offset_hz(self.offset.text()) if self.offset.text().strip() else 0
            air = self._air()
        except (FrequencyError, ToneError, ValueError) as error:
            return str(error)
        index = self._bench.index
        key = fresh_key(site or call, index.access)
        service = Service(
            fresh_key(f"{key}-{'fm' if isinstance(air, FmAir) else 'dmr'}", index.services), rx_hz, rx_hz + offset, air
        )
        kind = self.kind.currentData()
        access = AccessPoint(key, call, site or call, kind, self.place.text().strip(), (service,))
        if self._bench.do(add_access(access)):
            self._bench.select(Selection(service=service.key))
        return ""

    def _air(self) -> FmAir | DmrAir:
        text, mode = self.opens.text().strip(), self.mode.currentData()
        if mode == "fm":
            return FmAir(parse_tone(text))
        if text and not (text.isdigit() and int(text) <= 15):
            raise ValueError(f"“{text}” is not a color code: 0 to 15 exist.")
        slots = (2,) if self.kind.currentData() == "hotspot" and not self.offset.text().strip() else (1, 2)
        admit: Admit = "always" if self.kind.currentData() == "hotspot" else "color"
        return DmrAir(int(text or 1), mode, slots, admit=admit)


class AddDestination(_Sheet):
    """Add a destination."""

    def __init__(self, bench: Workbench, parent: QWidget) -> None:
        super().__init__(
            parent,
            "Add a destination",
            "Whom you want to reach: a talk group, a station, or what a network offers.",
            self.attempt,
        )
        self._bench = bench
        self.name = self.line("Name", "Isles-wide")
        words_of = {
            "group": "talk group",
            "private": "single station",
            "local": "local",
            "echo": "echo test",
            "dial": "dialled reflectors",
        }
        self.kind = self.choice("Kind", [(words_of.get(kind, kind), kind) for kind in _DESTINATIONS])
        networks = [(item.name, item.key) for item in bench.plan.networks]
        self.network = self.choice("Network", [*networks, ("through the air", "")])
        self.number = self.line("Number", "99900; empty where the network knows it")

    def attempt(self) -> str:
        """Add it; the reason when that cannot be."""
        name, text, kind = self.name.text().strip(), self.number.text().strip(), self.kind.currentData()
        if not name:
            return "Give it a name; channels are named after it."
        if text and (not text.isascii() or not text.isdigit()):
            return f"“{text}” is not a number. Type digits only, for example 99900."
        number = int(text) if text else None
        fault = talk_group_fault(number) if number is not None or kind in {"group", "private"} else ""
        if fault:
            return fault
        key = fresh_key(name, self._bench.index.destinations)
        network = "" if kind == "local" else self.network.currentData()
        destination = Destination(key, name, kind, network, number, "private" if kind == "private" else "group")
        if self._bench.do(add_item("destinations", destination, f"Add {name}")):
            self._bench.select(Selection(destination=key))
        return ""
