"""Phone and radio: pairing step by step with its cure, the phone as a gateway, which app serves which radio on which phone."""

from functools import partial
from typing import Any

from PyQt6.QtGui import QHideEvent
from PyQt6.QtWidgets import QFrame, QWidget

from umbra_awl.core.hotspot.pairing.devices import PairedDevice, device_for, shipped_devices
from umbra_awl.core.hotspot.pairing.gateway import STEPS, gateway_sheet
from umbra_awl.core.hotspot.pairing.machine import (
    Move,
    PairingSides,
    next_move,
    proof_words,
    reset_words,
    sides_of,
    told_done,
)
from umbra_awl.core.hotspot.pairing.support import Support, support_table
from umbra_awl.desk.hotspots.seen import Seen
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.hotspots.step_thread import State, StepThread, Stop
from umbra_awl.desk.parts.menus import menu_button
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, card, column, row, rows_of, scrolled, words
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.standins.launch import BondProcess, StandInError

_HANDS = {"radio": "radio", "phone": "phone", "app": "app", "both": "both"}
_MOST = 24


class PhonePage(QWidget):
    """The canvas page; `side` has the gateway's sheet."""

    def __init__(self, spot: Spot, theme: Theme) -> None:
        super().__init__()
        self._spot = spot
        self.device: PairedDevice = device_for("")
        self._profile: str | None = None
        self.sides = PairingSides({})
        self.past: list[Move] = []
        self._bond: BondProcess | None = None
        outer = column(self, 8)
        outer.addWidget(RadioTabs(spot.bench))
        outer.addWidget(self._head_card())
        self.thread_ = StepThread(theme, "Pairing")
        outer.addWidget(scrolled(self.thread_), 3)
        outer.addWidget(words("Which app serves which radio", "title"))
        self.support = RowsTable(theme, "Which app serves which radio on which phone")
        outer.addWidget(self.support, 2)
        outer.addWidget(words("Changed at Radios, in a profile of your own.", "second", wrap=True))
        self.side = QWidget()
        beside = column(self.side, 6)
        beside.addWidget(words("The phone as a gateway", "title"))
        self.gateway = RowsTable(theme, "What goes into the gateway app")
        beside.addWidget(self.gateway, 3)
        self.ids = button(
            "Show the ID", lambda: spot.bench.show_ids(not spot.bench.ids_shown), tip="Hidden again with the next press"
        )
        beside.addWidget(self.ids)
        self.missing = words("", "brass", wrap=True)
        beside.addWidget(self.missing)
        self.order = StepThread(theme, "The order in which the gateway comes on", 16)
        self.order.show_stops(
            [Stop(f"{at}", what, f"see: {sees}", "later") for at, (what, sees) in enumerate(STEPS, 1)]
        )
        beside.addWidget(scrolled(self.order), 4)
        seen = Seen(self, self.refresh)
        for signal in (spot.changed, spot.bench.radio_changed, spot.bench.profiles_changed, spot.bench.ids_changed):
            signal.connect(seen.changed)

    def _head_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 4, 10)
        line = row()
        self.told = words("", "title", wrap=True)
        self.main = button("", self.go, "main")
        line.addWidget(self.told, 1)
        line.addWidget(self.main)
        inner.addLayout(line)
        self.which = menu_button("Kind of device", self._devices)
        tip = "A radio and a phone that get stuck as real ones do"
        self.bench = button("Practise on a simulated pair", self.practise, tip=tip)
        self.wrong = button("Begin it in the wrong place", self.go_wrong, tip="To see what happens, and the cure")
        self.anew = button("From the beginning", self.begin)
        inner.addLayout(rows_of(self.which, self.bench, self.wrong, self.anew, gap=6))
        self.proof = words("", "second", wrap=True)
        inner.addWidget(self.proof)
        self.reset = words("", "second", wrap=True)
        inner.addWidget(self.reset)
        return frame

    def _devices(self) -> list[tuple[str, partial[None]]]:
        return [(item.name, partial(self.choose, item)) for item in shipped_devices().device]

    def take_focus(self) -> None:
        """Give the keyboard to the one action."""
        self.main.setFocus()

    def reach(self, field: str) -> bool:
        """The one action."""
        if field == "act":
            self.main.setFocus()
        return field == "act"

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self._end_bond()

    def _end_bond(self) -> None:
        if self._bond is not None:
            self._bond.stop()
            self._bond = None

    def choose(self, device: PairedDevice) -> None:
        """Take another kind of device."""
        self.device = device
        self.begin()

    def begin(self) -> None:
        """Begin anew, with what a device from the shop shows."""
        self._end_bond()
        self.sides = PairingSides(dict.fromkeys((item.key for item in self.device.settings), ""))
        self.past = []
        self.refresh()

    def practise(self) -> None:
        """Start a simulated pair of this kind."""
        self.begin()
        keys = [item.key for item in self.device.settings]
        try:
            self._bond = BondProcess(self.device.starts, self.device.pin, keys)
            self._tell({"do": "look"})
        except (StandInError, OSError) as error:
            self._spot.bench.say(str(error), "stop")

    def _tell(self, do: dict[str, Any]) -> None:
        """Have the simulated pair do something, and see what both sides show."""
        if self._bond is None:
            return
        try:
            self.sides = sides_of(self._bond.tell(**do))
        except StandInError as error:
            self._spot.bench.say(str(error), "stop")
            self._end_bond()
        self.refresh()

    def go(self) -> None:
        """Do the next step on the simulated pair, or take it as done on a real one."""
        move = next_move(self.device, self.sides)
        if move is None:
            return
        self.past = [*self.past, move][-_MOST:]
        if self._bond is not None:
            self._tell(move.do)
        else:
            self.sides = told_done(self.sides, move)
            self.refresh()

    def go_wrong(self) -> None:
        """Begin pairing in the wrong place, on the simulated pair."""
        if self._bond is None:
            self.practise()
        self._tell({"do": "radio", "key": "wireless", "value": "on"})
        place = "phone" if self.device.starts == "app" else "app"
        words_ = "Phone's settings: pair there" if place == "phone" else "App: pair there"
        self.past = [*self.past, Move({}, f"{words_} (the wrong place)", place, "It says paired, and nothing works")]
        self._tell({"do": "pair", "in": place})

    def refresh(self) -> None:
        """Show how far the pairing has come, the gateway's sheet and the table of apps."""
        bench = self._spot.bench
        profile = bench.radio.profile if bench.radio is not None else ""
        if profile != self._profile:
            self._profile = profile
            self.device = device_for(profile)
            self.begin()
            return
        self.which.setText(self.device.name)
        move = next_move(self.device, self.sides)
        real = self._bond is None
        self.told.setText("Paired and proven." if move is None else f"{move.words}.")
        self.main.setText(("I did it, and saw it" if real else "Do it") if move is not None else "Done")
        self.main.setEnabled(move is not None)
        self.bench.setVisible(real)
        self.wrong.setVisible(not real)
        self.proof.setText(f"{proof_words(self.sides)} {'' if real else 'Simulated.'}".strip())
        there = f"Must be there: {self.device.fitted}. " if self.device.fitted else ""
        dated = f"{there}Known on {shipped_devices().known}. Both sides ask for a yes."
        self.reset.setText(reset_words(self.device) if self.sides.stuck else dated)
        stops = [Stop(_HANDS.get(item.who, item.who), item.words, f"see: {item.sees}", "done") for item in self.past]
        if move is not None:
            state: State = "broken" if self.sides.stuck else "next"
            stops.append(Stop(_HANDS.get(move.who, move.who), move.words, f"see: {move.sees}", state))
        self.thread_.show_stops(stops)
        self._show_gateway()
        self._show_support()

    def _show_gateway(self) -> None:
        access, hotspot, bench = self._spot.access, self._spot.hotspot, self._spot.bench
        if access is None:
            self.gateway.show_rows(("", ""), [("", "Add a hotspot first: its sheet stands here then.")], mono=False)
            self.missing.setText("")
            return
        self.ids.setText("Hide the ID" if bench.ids_shown else "Show the ID")
        sheet = gateway_sheet(bench.index, access, hotspot, ids_shown=bench.ids_shown)
        self.gateway.show_rows(
            ("Field", "Value"), [(name, value or note) for name, value, note in sheet.fields], mono=False
        )
        told = f"Missing in the plan: {', '.join(sheet.missing)}." if sheet.missing else ""
        self.missing.setText(sheet.refusal or told)

    def _show_support(self) -> None:
        bench = self._spot.bench
        held = {radio.profile for radio in bench.plan.radios}
        rows = support_table(profile for key, profile in bench.profiles.items() if key in held or not held)
        told = [(item.radio, f"{item.platform}, {item.links}".rstrip(", "), _known(item)) for item in rows]
        self.support.show_rows(("Radio", "Phone", "Carries"), told, mono=False)


def _known(item: Support) -> str:
    needs = f"needs {item.needs}" if item.needs else ""
    return "; ".join(filter(None, (item.carries, needs, f"as of {item.known}" if item.known else "")))
