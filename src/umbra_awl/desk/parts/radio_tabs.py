"""The plan's radios to choose from, a person's beside each other; many fold into a menu.

The chosen one is what names, traces and transfers are for.
"""

from collections.abc import Iterator
from functools import partial

from PyQt6.QtWidgets import QMenu, QPushButton, QSizePolicy, QWidget

from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.desk.parts.widgets import Flow, PressButton, act, button, clear, words
from umbra_awl.desk.workbench import Workbench

MOST_IN_ROW = 7


class RadioTabs(QWidget):
    """Follows the workbench's radios and its choice."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self._line = Flow(2)
        self.setLayout(self._line)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        self._shown: tuple[object, ...] = ()
        for signal in (bench.plan_changed, bench.radio_changed):
            signal.connect(self.refresh)
        self.refresh()

    def _grouped(self) -> Iterator[tuple[str, list[OwnedRadio]]]:
        """The radios of each person, the owner's first, under the person's call sign."""
        index = self._bench.index
        by_person: dict[str, list[OwnedRadio]] = {item.key: [] for item in index.plan.station.identities}
        for radio in index.plan.radios:
            person = index.identity_of(radio)
            by_person.setdefault(person.key if person is not None else "", []).append(radio)
        people = {item.key: item.call or item.name or "the owner" for item in index.plan.station.identities}
        return ((people.get(key, ""), radios) for key, radios in by_person.items() if radios)

    def refresh(self) -> None:
        """Show the plan's radios."""
        groups = list(self._grouped())
        shown = (
            tuple((who, tuple((item.key, item.name) for item in held)) for who, held in groups),
            self._bench.radio_key,
        )
        if shown == self._shown:
            return
        self._shown = shown
        clear(self._line)
        if sum(len(held) for _who, held in groups) > MOST_IN_ROW:
            self._line.addWidget(self._folded(groups))
            return
        for who, held in groups:
            if len(groups) > 1:
                label = words(who, "second")
                label.setContentsMargins(8, 5, 2, 0)
                self._line.addWidget(label)
            for radio in held:
                made = button(radio.name, partial(self._bench.choose_radio, radio.key), "segment")
                made.setCheckable(True)
                made.setChecked(radio.key == self._bench.radio_key)
                self._line.addWidget(made)

    def _folded(self, groups: list[tuple[str, list[OwnedRadio]]]) -> QPushButton:
        """One button with the chosen radio, whose menu has them all, by person."""
        chosen = self._bench.radio
        made = PressButton(chosen.name if chosen is not None else "Choose a radio")
        made.setProperty("role", "segment")
        made.setAccessibleName(f"Radio: {made.text()}")
        menu = QMenu(made)
        for who, held in groups:
            menu.addSection(who)
            for radio in held:
                mark = "● " if radio is chosen else "○ "
                act(menu, f"{mark}{radio.name}   {who}", partial(self._bench.choose_radio, radio.key))
        made.setMenu(menu)
        return made
