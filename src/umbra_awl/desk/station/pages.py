"""What a station is made of: people, bands, place, and the networks with their conventions."""

from collections.abc import Callable, Iterator

from PyQt6.QtWidgets import QGridLayout, QLineEdit, QWidget

from umbra_awl.core.findings.model import Target
from umbra_awl.core.modes.table import MODES
from umbra_awl.core.plan.edit.edit_station import add_identity
from umbra_awl.core.plan.edit.edits import fresh_key
from umbra_awl.core.plan.model import Identity, Network
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import button, card, clear, column, row, scrolled, words
from umbra_awl.desk.station.band_fields import add_band, band_fields
from umbra_awl.desk.station.identity_fields import identity_acts, identity_fields
from umbra_awl.desk.station.network_fields import network_fields
from umbra_awl.desk.station.networks import AddNetwork
from umbra_awl.desk.station.place_fields import place_fields
from umbra_awl.desk.station.place_picture import PlacePicture
from umbra_awl.desk.station.ruler import BandRuler
from umbra_awl.desk.theme.theme import Theme

GUARD_NOTE = (
    "While the guard is on, every channel is fitted as receive-only: the radio cannot transmit by accident. Lifting it lets "
    "radios transmit inside these bands and this power only. Your licence and local band plans decide, not this program."
)
_PLACE_NOTE = (
    "It centres the map and gives distance, bearing and reach. Others get it only as exactly as you allow: on the air, in shared "
    "copies, in exports. A hotspot at home follows the same choice."
)


class CardsPage(QWidget):
    """Cards side by side, one for each thing of the plan; made anew only when things come or go."""

    def __init__(
        self,
        title: str,
        empty: str,
        acts: list[tuple[str, Callable[[], object]]],
        keys: Callable[[], list[tuple[str, str]]],
        *,
        scrolls: bool = True,
        across: int = 3,
    ) -> None:
        super().__init__()
        self._keys = keys
        self._empty, self._across = empty, across
        self.cards: dict[str, FieldList] = {}
        self._shown: list[tuple[str, str]] | None = None
        outer = column(self, 4)
        self.head = head = row(gap=4)
        head.addWidget(words(title, "second", wrap=True), 1)
        self.acts = {text: button(text, does) for text, does in acts}
        for made in self.acts.values():
            head.addWidget(made)
        outer.addLayout(head)
        inside = QWidget()
        self._grid = QGridLayout(inside)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(10)
        inside.setObjectName("flow")
        outer.addWidget(scrolled(inside) if scrolls else inside, 1)

    def take_focus(self) -> None:
        """Give the keyboard to the first value of the first card, or to what adds one."""
        first = next(iter(self.cards.values()), None)
        if first is not None:
            first.focus_first()
        elif self.acts:
            next(iter(self.acts.values())).setFocus()

    def rebuild(self) -> None:
        """Make the cards that are needed."""
        keys = self._keys()
        if keys == self._shown:
            return
        self._shown = keys
        kept = self.cards
        for made in kept.values():
            made.setParent(self)  # one that stays is laid out anew, with what is being typed in it
        clear(self._grid)
        self.cards = {}
        columns = min(max(len(keys), 1), self._across)
        for at, (key, title) in enumerate(keys):
            self.cards[key] = kept.pop(key) if key in kept else FieldList(84)
            holder = column(gap=2)
            if title:
                holder.addWidget(words(title, "violet"))
            holder.addWidget(self.cards[key])
            holder.addStretch(1)
            self._grid.addLayout(holder, at // columns, at % columns)
            self.cards[key].show()  # one that was kept had been taken out
        if not keys:
            self._grid.addWidget(words(self._empty, "second", wrap=True), 0, 0)
        for made in kept.values():
            made.deleteLater()
        for at in range(self._across):
            self._grid.setColumnStretch(at, 1 if at < max(columns, min(self._across, 2)) else 0)
        self._grid.setRowStretch(len(keys) // columns + 1, 1)


class Who(CardsPage):
    """The identities."""

    def __init__(self, bench: Workbench) -> None:
        self._bench = bench
        super().__init__(
            "Each radio is programmed for one of them.",
            "Nobody yet. Add yourself: call sign first, the rest later.",
            [("Show IDs", lambda: bench.show_ids(not bench.ids_shown)), ("Add somebody", self.add)],
            lambda: [(item.key, "") for item in bench.plan.station.identities],
            across=1,
        )

    def add(self) -> None:
        """Add an empty identity to be filled in."""
        identities = self._bench.plan.station.identities
        key = fresh_key("person", (item.key for item in identities))
        if self._bench.do(add_identity(Identity(key))):
            self._bench.select(Selection(target=Target("identity", key)))
            self.reach("Call sign")

    def reach(self, field: str) -> bool:
        """Put the cursor into a field of the selected person, else of the owner."""
        target = self._bench.selection.target
        wanted = target.key if target is not None and target.kind == "identity" else ""
        card = self.cards.get(wanted) or next(iter(self.cards.values()), None)
        return card is not None and card.reach(field)

    def refresh(self) -> None:
        """Show the plan's identities."""
        self.rebuild()
        for identity in self._bench.plan.station.identities:
            self.cards[identity.key].show_fields(
                identity_fields(self._bench, identity), identity_acts(self._bench, identity)
            )
        self.acts["Show IDs"].setText("Mask IDs" if self._bench.ids_shown else "Show IDs")


class Networks(QWidget):
    """The networks with their conventions, and what hangs on each of them."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 8)
        self.table = CardsPage(
            "Every network has its own numbers; repeaters and talk groups hang on them.",
            "DMR repeaters hang on a network that carries talk groups. Add yours.",
            [("Add a network", self.add)],
            lambda: [(f"net:{item.key}", f"{item.name}  {MODES[item.mode].word()}") for item in bench.plan.networks],
        )
        outer.addWidget(self.table, 3)
        self._head = words("What hangs on them", "title")
        outer.addWidget(self._head)
        self.hanging = RowsTable(theme, "What hangs on each network: its number, its name, through what it is reached")
        outer.addWidget(self.hanging, 4)

    @property
    def cards(self) -> dict[str, FieldList]:
        """The cards of the networks by key."""
        return self.table.cards

    def take_focus(self) -> None:
        """Give the keyboard to the first network."""
        self.table.take_focus()

    def add(self) -> None:
        """Ask for a new network."""
        AddNetwork(self._bench, self).exec()

    def refresh(self) -> None:
        """Show the plan's networks."""
        self.table.rebuild()
        plan = self._bench.plan
        for network in plan.networks:
            self.cards[f"net:{network.key}"].show_fields(network_fields(self._bench, network))
        rows = [(name, *line) for network in plan.networks for name, line in _hanging(self._bench, network)]
        self._head.setVisible(bool(rows))
        self.hanging.setVisible(bool(rows))
        self.hanging.show_rows(("Network", "Number", "Destination", "Reached through"), rows, mono=False)


def _hanging(bench: Workbench, network: Network) -> Iterator[tuple[str, tuple[str, str, str]]]:
    """The destinations of a network with the access points that have a route to each."""
    index = bench.index
    through: dict[str, list[str]] = {}
    for route in bench.plan.routes:
        through.setdefault(route.destination, []).append(index.parts(route)[0].by_call)
    for item in bench.plan.destinations:
        if item.network == network.key:
            number = str(item.number) if item.number is not None else item.text
            calls = ", ".join(dict.fromkeys(through.get(item.key, ())))
            yield network.name, (number, item.name, calls or "no route yet")


class Bands(QWidget):
    """The rulers of where the plan transmits, and a card for each band."""

    def __init__(self, bench: Workbench, theme: Theme, who: Callable[[], str]) -> None:
        super().__init__()
        self._bench, self._who = bench, who
        inner = column(self, 6)
        frame = card()
        column(frame, 0, 6).addWidget(BandRuler(bench, theme))
        inner.addWidget(frame)
        self.table = CardsPage(
            "Edges: the region's table, until you name a band plan of your own.",
            "",
            [],
            lambda: [(band.name, band.name) for band in bench.index.bands],
            scrolls=False,
        )
        inner.addWidget(self.table)
        line = self.table.head
        line.addWidget(words("Another band", "second"))
        self.name, self.edges = QLineEdit(), QLineEdit()
        self.name.setPlaceholderText("1.2 GHz")
        self.name.setAccessibleName("Name of another band")
        self.edges.setPlaceholderText("1240 - 1300")
        self.edges.setAccessibleName("Its edges in MHz")
        self.edges.returnPressed.connect(self._add)
        self.fault = words("", "stop")
        for typed in (self.name, self.edges):
            typed.setFixedWidth(theme.px(104))
        for made in (self.name, self.edges, button("Add it", self._add)):
            line.addWidget(made)
        self.fault.hide()
        inner.addWidget(self.fault)

    def _add(self) -> None:
        self.fault.setText(add_band(self._bench, self.name.text(), self.edges.text()))
        self.fault.setVisible(bool(self.fault.text()))
        if not self.fault.text():
            self.name.clear()
            self.edges.clear()

    def refresh(self) -> None:
        """Show the bands in force."""
        self.table.rebuild()
        for band in self._bench.index.bands:
            self.table.cards[band.name].show_fields(*band_fields(self._bench, band, self._who()))


class PlacePage(QWidget):
    """Where the station is, and what others learn of it."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 6)
        head = row(gap=8)
        head.addWidget(words("Place", "title"))
        self.site = QLineEdit()
        self.site.setPlaceholderText("or the name of a site of the directory, then Enter")
        self.site.setAccessibleName("Take the position of a site of the directory")
        head.addWidget(self.site, 1)
        outer.addLayout(head)
        line = row(gap=12)
        left = column(gap=4)
        self.card = FieldList(96)
        left.addWidget(self.card)
        left.addStretch(1)
        line.addLayout(left, 3)
        frame = card("sheet")
        set_tip(frame, _PLACE_NOTE)
        column(frame, 0, 1).addWidget(PlacePicture(bench, theme))
        line.addWidget(frame, 2)
        outer.addLayout(line, 1)

    def refresh(self) -> None:
        """Show the station's place."""
        self.card.show_fields(place_fields(self._bench))
