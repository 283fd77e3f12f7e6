"""Who one is, what the licence allows, where the plan transmits, and where one is: all that makes a station, on one page."""

from collections.abc import Mapping

from PyQt6.QtWidgets import QScrollArea, QWidget

from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.side_by_side import SideBySide
from umbra_awl.desk.parts.widgets import column, scrolled
from umbra_awl.desk.theme.theme import Theme


class MePage(QWidget):
    """People at the left, licence, bands and place at the right; `part` is the one that the keyboard belongs to."""

    def __init__(self, theme: Theme, parts: Mapping[str, QWidget]) -> None:
        """`parts` are “who”, “habits”, “licence”, “bands” and “place”."""
        super().__init__()
        self._parts, self.part = dict(parts), "who"
        self._right_parts = ("licence", "bands", "place")
        inside = QWidget()
        right = column(inside, 8)
        for name in self._right_parts:
            right.addWidget(self._parts[name], 1 if name == "place" else 0)
        self._right: QScrollArea = scrolled(inside)
        left = QWidget()
        people = column(left, 8)
        people.addWidget(self._parts["who"], 1)
        people.addWidget(self._parts["habits"])
        column(self).addWidget(SideBySide(theme, left, self._right, (5, 8), 1000))

    def _cards(self) -> list[FieldList]:
        """All cards, those of the part in hand first."""
        names = [self.part, *(name for name in self._parts if name != self.part)]
        return [card for name in names for card in self._parts[name].findChildren(FieldList)]

    def take_focus(self) -> None:
        """Give the keyboard to the first value of the part in hand, and show it."""
        cards = self._cards()
        if cards:
            cards[0].focus_first()
        if self.part in self._right_parts:
            self._right.ensureWidgetVisible(self._parts[self.part])

    def reach(self, field: str) -> bool:
        """Put the cursor into a field; of several cards with it that of the part in hand, of people the chosen one."""
        reach = getattr(self._parts["who"], "reach", None)
        if self.part == "who" and reach is not None and reach(field):
            return True
        found = next((card for card in self._cards() if card.reach(field)), None)
        if found is not None and self._right.isAncestorOf(found):
            self._right.ensureWidgetVisible(found)
        return found is not None
