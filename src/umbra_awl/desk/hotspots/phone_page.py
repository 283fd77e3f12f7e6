"""Phone and radio: pairing step by step with its cure, the phone as a gateway, which app serves which radio on which phone."""

from functools import partial
from typing import Any

from PyQt6.QtGui import QHideEvent
from PyQt6.QtWidgets import QFrame, QWidget

from umbra_awl.core.hotspot.pairing.devices import PairedDevice, device_for, shipped_devices
from umbra_awl.core.hotspot.pairing.machine import (
    START_WORDS,
    Move,
    PairingSides,
    PairingStart,
    begun,
    next_move,
    proof_words,
    reset_words,
    sides_of,
    told_done,
)
from umbra_awl.core.hotspot.pairing.support import Support, support_table
from umbra_awl.core.radio.ways_in import AppLink
from umbra_awl.desk.hotspots.gateway_side import GatewaySide
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
_LINKS: tuple[AppLink, ...] = ("wireless", "cable")


class PhonePage(QWidget):
    """The canvas page; `side` has the gateway's sheet."""

    def __init__(self, spot: Spot, theme: Theme) -> None:
        super().__init__()
        self._spot = spot
        self.device: PairedDevice = device_for("")
        self._profile: str | None = None
        self.sides = PairingSides({})
        self._stands: PairingStart = "new"
        self._link: AppLink = "wireless"
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
        self.side = GatewaySide(spot, theme)
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
        self.start = menu_button("How it stands before you begin", self._starts)
        self.link = menu_button("By which link the app reaches it", self._links)
        self.wrong = button("Begin it in the wrong place", self.go_wrong, tip="To see what happens, and the cure")
        self.anew = button("From the beginning", self.begin)
        inner.addLayout(rows_of(self.which, self.start, self.link, self.bench, self.wrong, self.anew, gap=6))
        self.proof = words("", "second", wrap=True)
        inner.addWidget(self.proof)
        self.reset = words("", "second", wrap=True)
        inner.addWidget(self.reset)
        return frame

    def _devices(self) -> list[tuple[str, partial[None]]]:
        return [(item.name, partial(self.choose, item)) for item in shipped_devices().device]

    def _starts(self) -> list[tuple[str, partial[None]]]:
        return [(text, partial(self.stand, key)) for key, text in START_WORDS.items()]

    def _links(self) -> list[tuple[str, partial[None]]]:
        return [(link, partial(self.reach_by, link)) for link in self._known_links()]

    def _known_links(self) -> tuple[AppLink, ...]:
        """How apps reach the chosen radio, wireless first; wireless where no app of it is known."""
        bench = self._spot.bench
        profile = bench.profiles.get(bench.radio.profile) if bench.radio is not None else None
        found = {link for app in (profile.apps if profile is not None else ()) for link in app.links}
        return tuple(link for link in _LINKS if link in found) or _LINKS[:1]

    def stand(self, start: PairingStart) -> None:
        """Say how it stands before one begins: new, paired before, or stuck already."""
        self._stands = start
        self.begin()

    def reach_by(self, link: AppLink) -> None:
        """Choose the link by which the app reaches the radio."""
        self._link = link
        self.begin()

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
        """Begin anew, from how it stands."""
        self._end_bond()
        self.sides = begun(self.device, self._stands)
        self.past = []
        self.refresh()

    def practise(self) -> None:
        """Start a simulated pair of this kind."""
        self.begin()
        keys = [item.key for item in self.device.settings]
        try:
            self._bond = BondProcess(self.device.starts, self.device.pin, keys)
            self._tell({"do": "old" if self._stands == "old" else "look"})
            if self._stands == "stuck":
                self._begin_wrong()
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
        move = next_move(self.device, self.sides, self._link)
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
        self._begin_wrong()

    def _begin_wrong(self) -> None:
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
            self.device, self._link = device_for(profile), self._known_links()[0]
            self.begin()
            return
        self.which.setText(self.device.name)
        self.start.setText(START_WORDS[self._stands])
        self.link.setText(f"by {'cable' if self._link == 'cable' else 'wireless'}")
        self.link.setVisible(len(self._known_links()) > 1)
        move = next_move(self.device, self.sides, self._link)
        real = self._bond is None
        self.told.setText("Paired and proven." if move is None else f"{move.words}.")
        self.main.setText(("I did it, and saw it" if real else "Do it") if move is not None else "Done")
        self.main.setEnabled(move is not None)
        self.bench.setVisible(real and self._link == "wireless")
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
        self.side.refresh()
        self.support.show_rows(("Radio", "Phone", "Carries"), _supported(self._spot), mono=False)


def _supported(spot: Spot) -> list[tuple[str, str, str]]:
    """Which app serves which of the plan's radios, or of all where it has none."""
    held = {radio.profile for radio in spot.bench.plan.radios}
    rows = support_table(profile for key, profile in spot.bench.profiles.items() if key in held or not held)
    return [(item.radio, f"{item.platform}, {item.links}".rstrip(", "), _known(item)) for item in rows]


def _known(item: Support) -> str:
    needs = f"needs {item.needs}" if item.needs else ""
    return "; ".join(filter(None, (item.carries, needs, f"as of {item.known}" if item.known else "")))
