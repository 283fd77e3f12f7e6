"""Small sheets for adding an access point or a destination by hand."""

from collections.abc import Callable

from PyQt6.QtWidgets import QLabel, QWidget

from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.facts.dmr import talk_group_fault
from umbra_awl.core.facts.dstar import module_fault
from umbra_awl.core.facts.earth import Position, PositionError, parse_position
from umbra_awl.core.facts.frequency import FrequencyError, parse_hz, parse_offset_hz
from umbra_awl.core.facts.fusion import dgid_fault, room_fault
from umbra_awl.core.facts.modes import MODE_WORDS, ByMode, by_mode
from umbra_awl.core.facts.tones import ToneError, is_burst, parse_tone
from umbra_awl.core.facts.width import NARROW_HZ, WIDE_HZ, width_word
from umbra_awl.core.modes.table import KIND_WORDS, MODES
from umbra_awl.core.plan.edit.edit_access import add_access
from umbra_awl.core.plan.edit.edits import add_item, fresh_key
from umbra_awl.core.plan.model import (
    AccessPoint,
    Admit,
    Air,
    CallKind,
    Destination,
    DmrAir,
    DstarAir,
    FmAir,
    FusionAir,
    Mode,
    Service,
)
from umbra_awl.core.plan.parts import DESTINATIONS
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.access_fields import SITE_WORDS
from umbra_awl.desk.parts.cards.destination_fields import TARGETS, target_fault, tidy_target
from umbra_awl.desk.parts.cards.form_sheet import FormSheet
from umbra_awl.desk.parts.cards.network_choice import NetworkChoice, with_network

_KINDS = ("repeater", "hotspot", "simplex", "receive")
_HINTS: ByMode[str] = {
    "fm": "103.5, D023, 1750; empty for none", "dmr": "6", "dstar": "B", "fusion": "10; 00 when empty",
}  # fmt: skip
"""What opens an access point, as an example."""
_NO_COLOR = "Give the color code, 0 to 15. With a wrong one nobody hears you. A hotspot has 1 unless it was changed."
_NO_MODULE = (
    "Give the module's letter. By custom A is 1.2 GHz, B 70 cm and C 2 m; the repeater's page says which it is."
)


_NOT_KNOWN = "none, or not known yet"
_NOT_KNOWN_MEANS = "Then only “Local” goes through it: whoever listens to it. Its network can be given later."
_ON_NONE = "none"
_ON_NONE_MEANS = "Then it goes only through access points that are on no network."


class AddAccess(FormSheet):
    """Add an access point with one service."""

    def __init__(self, bench: Workbench, parent: QWidget, at: Position | None = None) -> None:
        """`at` is where it is, as far as that was chosen already."""
        super().__init__(
            parent, "Add an access point", "As your radio sees it: where you hear it, and where you send.", self.attempt
        )
        self._bench = bench
        self.call = self.line("Call sign", "Q0BLK, or empty for simplex")
        self.site = self.line("Site", "Blackfell")
        self.place = self.line("Place", "Great Velmar")
        self.kind = self.choice("Kind", [(SITE_WORDS[kind], kind) for kind in _KINDS])
        self.receive = self.line("Receive", "438.6125")
        self.offset = self.line("Offset", "-7.6, or empty for simplex")
        self.mode = self.choice("Mode", [(text, mode) for mode, text in by_mode(MODE_WORDS)])
        self.network = NetworkChoice(self, bench, _NOT_KNOWN, _NOT_KNOWN_MEANS)
        self.opens = self.line("Opened by", "")
        self.back = self.line("Tone sent back", "empty, unless the radio should wait for it")
        self.wide = self.choice("Width", [(width_word(hz), hz) for hz in (NARROW_HZ, WIDE_HZ)])
        self.position = self.line("Position", "HN46kl, 46.47 -31.11, or double click the map")
        if at is not None:
            self.position.setText(f"{at.lat:.4f}, {at.lon:.4f}")
        self.mode.currentIndexChanged.connect(lambda _at: self._say_opens())
        self._say_opens()

    def _say_opens(self) -> None:
        mode: Mode = self.mode.currentData()
        self.network.offer({mode}, asked=mode == "dmr")
        self.network.show(mode != "fm")
        word = MODES[mode].opened_by
        label = self.form.labelForField(self.opens)
        if isinstance(label, QLabel):
            label.setText(word[0].upper() + word[1:])
        self.opens.setAccessibleName(word)
        self.opens.setPlaceholderText(_HINTS[mode])
        for field in (self.back, self.wide):
            self.form.setRowVisible(field, mode == "fm")

    def attempt(self) -> str:
        """Add it; the reason when that cannot be."""
        call, site = tidy_call_sign(self.call.text()), self.site.text().strip()
        fault = call_sign_fault(call) if call else "" if site else "Give a call sign or a site, so that it has a name."
        if fault:
            return fault
        try:
            rx_hz = parse_hz(self.receive.text())
            offset = parse_offset_hz(self.offset.text()) if self.offset.text().strip() else 0
            mode = self.mode.currentData()
            network, new_network = self.network.chosen(mode)
            air = self._air(network)
            text = self.position.text().strip()
            at = parse_position(text) if text else None
        except (FrequencyError, ToneError, PositionError, ValueError) as error:
            return str(error)
        index = self._bench.index
        key = fresh_key(site or call, index.access)
        service = Service(fresh_key(f"{key}-{mode}", index.services), rx_hz, rx_hz + offset, air)
        kind = self.kind.currentData()
        access = AccessPoint(
            key,
            call,
            site or call,
            kind,
            self.place.text().strip(),
            (service,),
            lat=at.lat if at is not None else None,
            lon=at.lon if at is not None else None,
        )
        if self._bench.do(with_network(add_access(access), new_network)):
            self._bench.select(Selection(service=service.key))
        return ""

    def _air(self, network: str) -> Air:
        made: ByMode[Callable[[str, str], Air]] = {
            "fm": self._fm_air,
            "dmr": self._dmr_air,
            "dstar": self._dstar_air,
            "fusion": self._fusion_air,
        }
        mode: Mode = self.mode.currentData()
        return made[mode](self.opens.text().strip(), network)

    def _fm_air(self, text: str, _network: str) -> Air:
        back = self.back.text().strip()
        burst = is_burst(text)
        sent = "" if burst else parse_tone(text)
        return FmAir(sent, parse_tone(back) if back else "", self.wide.currentData(), burst)

    def _dstar_air(self, text: str, network: str) -> Air:
        module = text.upper()
        _refuse("" if module else _NO_MODULE)
        _refuse(module_fault(module))
        return DstarAir(module, network=network)

    def _fusion_air(self, text: str, network: str) -> Air:
        good = not text or (text.isdecimal() and len(text) < 9 and not dgid_fault(int(text)))
        _refuse("" if good else f"“{text}” is not a DG-ID: 00 to 99 exist.")
        return FusionAir(dgid_tx=int(text or 0), network=network)

    def _dmr_air(self, text: str, network: str) -> Air:
        good = not text or (text.isdecimal() and len(text) < 9 and int(text) <= 15)
        _refuse("" if good else f"“{text}” is not a color code: 0 to 15 exist.")
        hotspot = self.kind.currentData() == "hotspot"
        _refuse("" if text or hotspot else _NO_COLOR)
        slots = (2,) if hotspot and not self.offset.text().strip() else (1, 2)
        admit: Admit = "always" if hotspot else "color"
        return DmrAir(int(text or 1), network, slots, admit=admit)


def _refuse(fault: str) -> None:
    if fault:
        raise ValueError(fault)


def _modes_of(kind: str) -> list[Mode]:
    """The digital modes that reach a kind of destination."""
    return [mode for mode, item in by_mode(MODES) if mode != "fm" and kind in item.kinds]


class AddDestination(FormSheet):
    """Add a destination."""

    def __init__(self, bench: Workbench, parent: QWidget) -> None:
        super().__init__(
            parent,
            "Add a destination",
            "Whom you want to reach: a talk group, a reflector, a room, a station, or what a network offers.",
            self.attempt,
        )
        self._bench = bench
        self.name = self.line("Name", "Isles-wide")
        self.kind = self.choice("Kind", [(text, kind) for kind, text in KIND_WORDS.items()])
        usual = "group" if any(item.mode != "fm" for _access, item in bench.index.all_services()) else "local"
        self.kind.setCurrentIndex(list(KIND_WORDS).index(usual))
        if usual == "local":
            self.name.setText("Local")
        self.network = NetworkChoice(self, bench, _ON_NONE, _ON_NONE_MEANS)
        self.number = self.line("Number", "")
        self.kind.currentIndexChanged.connect(lambda _at: self._say_number())
        self._say_number()

    def _say_number(self) -> None:
        kind = self.kind.currentData()
        hints = {"station": "its call sign: Q9ODL", "room": "its number: 40010", "group": "99900", "private": "9994217"}
        self.number.setPlaceholderText(
            "call and module: VLR001 C" if kind in TARGETS else hints.get(kind, "empty where known")
        )
        label = self.form.labelForField(self.number)
        if isinstance(label, QLabel):
            label.setText("Module" if kind in TARGETS else "Call sign" if kind == "station" else "Number")
        self.network.offer(_modes_of(kind), asked=kind in {"group", "private", "dial"})
        self.network.show(kind != "local")

    def attempt(self) -> str:
        """Add it; the reason when that cannot be."""
        text, kind = self.number.text().strip(), self.kind.currentData()
        name = self.name.text().strip() or (tidy_target(kind, text) if kind in TARGETS and text else "")
        if not name:
            return "Give it a name; channels are named after it."
        target, number, fault = self._whereto(kind, text)
        if fault:
            return fault
        key = fresh_key(name, self._bench.index.destinations)
        try:
            network, new_network = self.network.chosen(next(iter(_modes_of(kind)), "dmr"))
        except ValueError as error:
            return str(error)
        call: CallKind = "private" if kind == "private" else "group"
        destination = Destination(key, name, kind, network, number, call, target)
        if self._bench.do(with_network(add_item(DESTINATIONS, destination, f"Add {name}"), new_network)):
            self._bench.select(Selection(destination=key))
        return ""

    @staticmethod
    def _whereto(kind: str, text: str) -> tuple[str, int | None, str]:
        """The target, the number, and the reason why there is none."""
        if kind in TARGETS or kind == "station":
            target = tidy_target(kind, text)
            return target, None, target_fault(kind, target)
        if text and (not text.isascii() or not text.isdigit()):
            return "", None, f"“{text}” is not a number. Type digits only, for example 99900."
        number = int(text) if text else None
        if kind == "room":
            return "", number, room_fault(number)
        needs = number is not None or kind in {"group", "private"}
        return "", number, talk_group_fault(number) if needs else ""
