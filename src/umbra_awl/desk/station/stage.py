"""The Station stage: who you are, what your licence allows, the networks, and what to do next."""

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QScrollArea, QVBoxLayout, QWidget

from umbra_awl.core.plan.edit_station import add_identity
from umbra_awl.core.plan.edits import fresh_key
from umbra_awl.core.plan.model import Identity
from umbra_awl.desk.parts.label_card import LabelCard
from umbra_awl.desk.parts.widgets import button, card, clear, column, row, words
from umbra_awl.desk.station.fields import identity_fields, licence_fields, network_fields
from umbra_awl.desk.station.networks import AddNetwork
from umbra_awl.desk.station.ruler import BandRuler
from umbra_awl.desk.station.steps import steps_of
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.workbench import Workbench

_GUARD_NOTE = (
    "While the guard is on, every channel is fitted as receive-only: the radio cannot transmit by accident. Lifting it lets "
    "radios transmit inside these bands and this power only. Your licence and local band plans decide, not this program."
)


class StationStage(QWidget):
    """The canvas of the stage; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 8)
        outer.addWidget(words("Where you may transmit", "title"))
        frame = card()
        column(frame, 0, 10).addWidget(BandRuler(bench, theme))
        outer.addWidget(frame)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        flow = QWidget()
        flow.setObjectName("flow")
        self._columns = row(flow, 12)
        self._people, self._licence, self._networks = (column(gap=6) for _ in range(3))
        for part in (self._people, self._licence, self._networks):
            self._columns.addLayout(part, 1)
        scroll.setWidget(flow)
        outer.addWidget(scroll, 1)
        self._cards: dict[str, LabelCard] = {}
        self._licence_card = LabelCard(70)
        self._licence.addWidget(words("Licence and guard", "title"))
        self._licence.addWidget(self._licence_card)
        self._licence.addStretch(1)
        self._shape: tuple[object, ...] = ()
        steps = QWidget()
        steps.setObjectName("flow")
        self._steps = column(steps, 4)
        self.side = QScrollArea()
        self.side.setWidgetResizable(True)
        self.side.setFrameShape(QFrame.Shape.NoFrame)
        self.side.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.side.setWidget(steps)
        bench.plan_changed.connect(self.refresh)
        bench.results_changed.connect(self._show_steps)
        self.refresh()

    def take_focus(self) -> None:
        """Give the keyboard to the first value."""
        for made in self._cards.values():
            made.focus_first()
            return

    def refresh(self) -> None:
        """Show the plan's station."""
        plan = self._bench.plan
        shape = (tuple(item.key for item in plan.station.identities), tuple(item.key for item in plan.networks))
        if shape != self._shape:
            self._shape = shape
            self._build()
        for identity in plan.station.identities:
            self._cards[identity.key].show_fields(identity_fields(self._bench, identity))
        for network in plan.networks:
            self._cards[f"net:{network.key}"].show_fields(network_fields(self._bench, network))
        self._licence_card.show_fields(licence_fields(self._bench), note=_GUARD_NOTE)
        self._show_steps()

    def _build(self) -> None:
        plan = self._bench.plan
        clear(self._people)
        clear(self._networks)
        self._cards = {}
        head = row(gap=2)
        head.addWidget(words("Identity", "title"))
        head.addStretch(1)
        self._mask = button("", self.toggle_ids, tip="IDs are masked everywhere until asked for")
        head.addWidget(self._mask)
        head.addWidget(button("Add", self.add_identity, tip="Another person whose radio is programmed from this plan"))
        self._people.addLayout(head)
        for identity in plan.station.identities:
            self._place(self._people, identity.key)
        if not plan.station.identities:
            self._people.addWidget(
                words("Nobody yet. Add yourself: call sign first, the rest later.", "second", wrap=True)
            )
        self._people.addStretch(1)
        head = row(gap=2)
        head.addWidget(words("Networks", "title"))
        head.addStretch(1)
        head.addWidget(button("Add", self.add_network))
        self._networks.addLayout(head)
        for network in plan.networks:
            self._networks.addWidget(words(f"{network.name}  {network.mode.upper()}", "violet"))
            self._place(self._networks, f"net:{network.key}")
        if not plan.networks:
            self._networks.addWidget(
                words("DMR repeaters hang on a network that carries talk groups. Add yours.", "second", wrap=True)
            )
        self._networks.addStretch(1)
        self._say_mask()

    def _place(self, layout: QVBoxLayout, key: str) -> None:
        self._cards[key] = LabelCard(70)
        layout.addWidget(self._cards[key])

    def _say_mask(self) -> None:
        self._mask.setText("Mask IDs" if self._bench.ids_shown else "Show IDs")

    def toggle_ids(self) -> None:
        """Show the IDs, or mask them again."""
        self._bench.ids_shown = not self._bench.ids_shown
        self._say_mask()
        self.refresh()

    def add_identity(self) -> None:
        """Add an empty identity to be filled in."""
        identities = self._bench.plan.station.identities
        self._bench.do(add_identity(Identity(fresh_key("person", (item.key for item in identities)))))

    def add_network(self) -> None:
        """Ask for a new network."""
        AddNetwork(self._bench, self).exec()

    def _go(self, stage: str) -> None:
        stops = [item for item in self._bench.results.findings if item.severity == "stop"]
        if stage == "finding" and stops:
            self._bench.show(stops[0].target)
        else:
            self._bench.stage_wanted.emit(stage)

    def _show_steps(self) -> None:
        clear(self._steps)
        self._steps.addWidget(words("What to do next", "title"))
        frame = card()
        inner = column(frame, 4, 8)
        found = False
        for step in steps_of(self._bench.plan, sum(item.severity == "stop" for item in self._bench.results.findings)):
            line = row(gap=6)
            line.addWidget(words("●" if step.done else "○", "ok" if step.done else "second"))
            if step.done:
                line.addWidget(words(step.words, "second", wrap=True), 1)
            else:
                role = "main" if not found else ""
                made = button(step.words, partial(self._go, step.stage), role)
                line.addWidget(made)
                line.addStretch(1)
                found = True
            inner.addLayout(line)
        if not found:
            inner.addWidget(words("All set. Transfer carries the plan into your radios.", "ok", wrap=True))
        self._steps.addWidget(frame)
        self._steps.addStretch(1)
