"""Which hotspot: every combination of parts, simplex or duplex, those that work first, with what each choice costs."""

from collections.abc import Iterator
from functools import partial
from typing import Any

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.facts.modes import DIGITAL_MODES, MODE_WORDS
from umbra_awl.core.hotspot.compatible import Build, HotspotNeeds, builds, shipped_parts
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Choice, Field
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.widgets import column, words
from umbra_awl.desk.parts.wrap import WrapList
from umbra_awl.desk.theme.theme import Theme


class HotspotTable(RowsTable):
    """The table; `side` holds what is wanted, and why the chosen one works or not."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, "Hotspots: board, computer, image, simplex or duplex, and whether they work together")
        self.needs = HotspotNeeds()
        self.found: list[Build] = []
        self.side = QWidget()
        outer = column(self.side, 6)
        outer.addWidget(words("What it should do", "title"))
        self.card = FieldList(96)
        outer.addWidget(self.card)
        self._title = words("", "title", wrap=True)
        outer.addWidget(self._title)
        self.why = WrapList()
        self.why.setAccessibleName("Why it does not work, and what the choice costs in use")
        outer.addWidget(self.why, 1)
        self.chosen.connect(lambda _row: self._explain())
        self.refresh()

    def refresh(self) -> None:
        """Show every combination for the present needs."""
        self.found = builds(shipped_parts(), self.needs)
        rows = [
            (
                "works" if item.works else "does not",
                item.board.name,
                item.computer.name,
                item.image.name,
                "duplex" if item.duplex else "simplex",
                f"{item.share:.0%}" if item.works else "",
                item.in_use if item.works else item.faults[0],
            )
            for item in self.found
        ]
        heads = ("Together", "Board", "Computer", "Image", "Slots", "Meets", "In use")
        self.show_rows(heads, rows, ["" if item.works else "ink2" for item in self.found], mono=False)
        self.card.show_fields(list(self._fields()))
        self.choose(0)
        self._explain()

    def _set(self, **fields: Any) -> None:
        self.needs = self.needs._replace(**fields)
        self.refresh()

    def _fields(self) -> Iterator[Field]:
        needs = self.needs
        choices = []
        for mode in DIGITAL_MODES:
            kept = tuple(item for item in DIGITAL_MODES if (item in needs.modes) != (item == mode))
            choices.append(Choice(MODE_WORDS[mode], partial(self._set, modes=kept), mode in needs.modes))
        yield Field("Modes", ", ".join(MODE_WORDS[mode] for mode in needs.modes) or "none", choices=choices)
        for label, field, yes, no in (
            ("Busy groups", "busy", "change away while one is on", "no matter"),
            ("Travels", "travels", "runs from a power bank", "stays at home"),
            ("Settings", "page", "on a page", "text files will do"),
        ):
            now = getattr(needs, field)
            both = [
                Choice(yes, partial(self._set, **{field: True}), now),
                Choice(no, partial(self._set, **{field: False}), not now),
            ]
            yield Field(label, yes if now else no, choices=both)

    def _explain(self) -> None:
        self.why.clear()
        at = self.row_now
        if not 0 <= at < len(self.found):
            return
        item = self.found[at]
        slots = "duplex" if item.duplex else "simplex"
        self._title.setText(f"{item.board.name} on {item.computer.name}, {slots}")
        for fault in item.faults:
            self.why.addItem(f"It does not work: {fault}")
        for cost in item.costs:
            self.why.addItem(cost)
