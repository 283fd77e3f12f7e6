"""Finding a hotspot: by its name, by a list that is pasted in, by looking at the own network."""

from functools import partial

from PyQt6.QtWidgets import QFrame, QLineEdit, QPlainTextEdit

from umbra_awl.core.hotspot.seek import look as looking
from umbra_awl.core.hotspot.seek.look import FoundHost, Own
from umbra_awl.core.hotspot.seek.pasted import devices
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.parts.asking import ask
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import button, column, row, words
from umbra_awl.desk.theme.theme import Theme

_LOOK = "Look there"


class SeekPanel(QFrame):
    """Three ways to an address; choosing a row takes it."""

    def __init__(self, spot: Spot, theme: Theme) -> None:
        super().__init__()
        self.setProperty("role", "card")
        self._spot = spot
        self._stop = False
        self.addresses: list[str] = []
        inner = column(self, 4, 10)
        line = row(gap=6)
        line.addWidget(words("Find it", "title"))
        self.name = QLineEdit()
        self.name.setAccessibleName("Name of the hotspot on the network")
        self.name.setPlaceholderText("its name, often the call sign")
        self.name.returnPressed.connect(self.by_name)
        line.addWidget(self.name, 1)
        line.addWidget(button("By name", self.by_name, tip="Puts “.local” behind it where there is no ending"))
        self.look = button("Search my network …", self.ask_look, tip="Only this computer's own subnet, a few at a time")
        line.addWidget(self.look)
        inner.addLayout(line)
        both = row(gap=6)
        self.pasted = QPlainTextEdit()
        self.pasted.setAccessibleName("A list of devices, pasted from a router or a phone")
        self.pasted.setPlaceholderText("Paste a router's or phone's list of devices here")
        self.pasted.setTabChangesFocus(True)
        self.pasted.setFixedHeight(theme.px(46))
        self.pasted.textChanged.connect(self._read_list)
        both.addWidget(self.pasted, 2)
        self.table = RowsTable(
            theme, "Addresses that were found", "What answers in your network stands here once it was looked for."
        )
        self.table.clicked.connect(lambda _at: self._take(self.table.row_now))
        self.table.activated.connect(lambda _at: self._take(self.table.row_now))
        self.table.setFixedHeight(theme.px(46))
        both.addWidget(self.table, 3)
        inner.addLayout(both)
        self.told = words("By name first; where that fails, the phone's list; at last looking.", "second", wrap=True)
        inner.addWidget(self.told)
        self._show([], [])

    def fill_name(self, name: str) -> None:
        """Put a name in that is to be tried, where none is typed."""
        if not self.name.text():
            self.name.setText(name)

    def _sought(self) -> tuple[str, ...]:
        hotspot, access = self._spot.hotspot, self._spot.access
        return (
            hotspot.host if hotspot is not None else "",
            access.call if access is not None else "",
            self.name.text(),
        )

    def _show(self, rows: list[tuple[str, str]], tones: list[str]) -> None:
        self.addresses = [address for address, _told in rows]
        self.table.show_rows(("Address", "What it is called"), rows, tones)

    def _read_list(self) -> None:
        found = devices(self.pasted.toPlainText(), self._sought())
        rows = [(item.address, ", ".join(item.names) or "no name") for item in found]
        self._show(rows, ["ok" if item.sought else "" for item in found])
        sought = sum(item.sought for item in found)
        if found:
            self.told.setText(
                f"{len(found)} devices, {sought or 'none'} called like the hotspot. Choose one to ask it."
            )

    def by_name(self) -> None:
        """Ask the system's own name service."""
        spot = self._spot
        if not spot.bench.reaches_out():
            return
        text = self.name.text()
        self.told.setText("Asking for the name …")
        spot.bench.jobs.latest("spot-name", partial(looking.by_name, text), self._take_names)

    def _take_names(self, found: tuple[str, list[str]]) -> None:
        name, addresses = found
        self._show([(address, name) for address in addresses], ["ok"] * len(addresses))
        none = f"Nobody here knows “{name}”. Some phones and routers do not carry such names: paste their list instead."
        self.told.setText(f"“{name}” is at {', '.join(addresses)}. Choose it to ask." if addresses else none)

    def ask_look(self) -> None:
        """Ask whether, and at which own network it is looked; a second press stops it."""
        if self._spot.running:
            self._stop = True
            return
        owns = [own for own in looking.own_networks(looking.describe_networks()) if not own.network.is_loopback]
        fits = [own for own in owns if not looking.may_look(own)]
        if not fits:
            why = looking.may_look(owns[0]) if owns else "This computer is in no network."
            self.told.setText(f"{why} Paste a list instead.")
            return
        own = fits[0]
        question = f"Ask each address of {own.network} ({own.device}) whether it is a hotspot? A few at a time."
        if ask(self, "Search my network", question, [_LOOK]) == _LOOK:
            self.look_at(own)

    def look_at(self, own: Own) -> None:
        """Look at a network, in the background; what answers comes into the table as it comes."""
        spot = self._spot
        self._stop = False
        found: list[FoundHost] = []

        def work() -> list[FoundHost]:
            for item in looking.look(looking.addresses_of(own), lambda: self._stop):
                found.append(item)
                spot.bench.jobs.tell(lambda: self._show_found(found))
            return found

        spot.work.search(work, self._looked)

    def _show_found(self, found: list[FoundHost]) -> None:
        tones = ["ok" if item.status is not None else "" for item in found]
        self._show([(item.address, item.words) for item in found], tones)

    def _looked(self, found: list[FoundHost]) -> None:
        self._show_found(found)
        none = "Nobody answers as a hotspot does. Has it started, in this Wi-Fi?"
        self.told.setText(f"{len(found)} answered." if found else none)

    def _take(self, at: int) -> None:
        """Ask what is at an address; only where it was pressed, for a walk through the list asks nobody."""
        if 0 <= at < len(self.addresses) and not self._spot.running:
            self._spot.set_address(self.addresses[at])
            self._spot.ask()

    def refresh(self) -> None:
        """Follow the hotspot in hand."""
        self.look.setText("Stop looking" if self._spot.searching else "Search my network …")
