"""The plan's hotspots to choose from, with how the chosen one is: its state, its address, and a way to ask it."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QLineEdit, QPushButton, QSizePolicy, QWidget

from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.widgets import Flow, button, clear, column, row, words
from umbra_awl.desk.theme.theme import Theme


class SpotTabs(QWidget):
    """Follows the hotspot in hand; `add` asks for another one."""

    def __init__(self, spot: Spot, theme: Theme, add: Callable[[], object]) -> None:
        super().__init__()
        self._spot = spot
        outer = column(self, 2)
        line = row(gap=6)
        self._choice = Flow(2)
        choice = QWidget()
        choice.setLayout(self._choice)
        self._made: dict[str, QPushButton] = {}
        self.add = button("+ Hotspot", add, tip="Add a hotspot: its place, its networks, the echo through it")
        self._choice.addWidget(self.add)
        choice.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        line.addWidget(choice, 1)
        self.address = QLineEdit()
        self.address.setAccessibleName("Address of the hotspot")
        self.address.setPlaceholderText("address or name")
        self.address.setMinimumWidth(theme.px(150))
        self.address.setMaximumWidth(theme.px(210))
        self.address.returnPressed.connect(self._typed)
        line.addWidget(self.address)
        self.ask = button("Ask it", self._typed, tip="Status, settings and log, from its page (F7)")
        line.addWidget(self.ask)
        outer.addLayout(line)
        self.state = words("", "second", wrap=True)
        outer.addWidget(self.state)
        self._shown: tuple[object, ...] = ()
        spot.changed.connect(self.refresh)
        self.refresh()

    def _typed(self) -> None:
        text = self.address.text().strip()
        if text != _short(self._spot.address):
            self._spot.set_address(text)
        self._spot.ask()

    def refresh(self) -> None:
        """Show the hotspots and the state of the one in hand."""
        spot = self._spot
        index = spot.bench.index
        listed = tuple(
            (item.key, index.access[item.access].site) for item in index.plan.hotspots if item.access in index.access
        )
        if (listed, spot.key) != self._shown:
            if (listed,) != self._shown[:1]:
                self._list(listed)
            self._shown = (listed, spot.key)
            chosen_of(self._made, spot.key)
            self.address.setText(_short(spot.address))
        if not self.address.hasFocus() and self.address.text() != _short(spot.address):
            self.address.setText(_short(spot.address))
        self.ask.setEnabled(not spot.running)
        self.state.setText(self._words())
        self.state.setProperty("role", "stop" if spot.fault else "second")

    def _list(self, listed: tuple[tuple[str, str], ...]) -> None:
        """The hotspots, in front of the button for another one."""
        self._choice.removeWidget(self.add)
        clear(self._choice)
        self._made = {key: button(name, partial(self._spot.choose, key), "segment") for key, name in listed}
        for made in self._made.values():
            self._choice.addWidget(made)
        self._choice.addWidget(self.add)

    def _words(self) -> str:
        spot = self._spot
        if spot.running:
            return "Asking it …"
        if spot.fault:
            return spot.fault
        if spot.status is None:
            return "Not asked yet: what it says is not known. Type its address and ask, or open its files."
        status = spot.status
        parts = [f"{status.name} is {status.state}" + (f", {status.left_s:.0f} s left" if not status.up else "")]
        if status.up:
            parts.append("modem works" if status.modem == "ready" else "no modem")
            parts.append("logged in" if status.logged_in else "not logged in")
            parts.append(f"linked to {status.linked}" if status.linked else "not linked")
        if status.default_password:
            parts.append("still the default password")
        return f"{', '.join(parts)}. {spot.said}".strip()


def _short(address: str) -> str:
    """An address as one types it."""
    return address.removeprefix("http://")
