"""The licence of one person, with the receive-only guard and the chooser of persons."""

from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.plan.edit.edit_station import whose_licence
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.widgets import button, clear, column, row, words
from umbra_awl.desk.station.licence_fields import free_tuning_words, licence_fields
from umbra_awl.desk.station.pages import GUARD_NOTE

if TYPE_CHECKING:
    from umbra_awl.desk.station.stage import StationStage


class LicencePart:
    """Shows the licence of the person chosen on the stage."""

    def __init__(self, owner: "StationStage") -> None:
        self._stage = owner
        self.licence_card = FieldList(84)

    def widget(self) -> QWidget:
        """Make what the page shows of it."""
        inside = QWidget()
        outer = column(inside, 6)
        head = row(gap=6)
        self._whose = words("", "title")
        self._people = row(gap=2)
        head.addWidget(self._whose)
        head.addLayout(self._people)
        head.addStretch(1)
        outer.addLayout(head)
        line = row(gap=12)
        line.addWidget(self.licence_card, 3)
        right = column(gap=4)
        right.addWidget(words("The receive-only guard", "violet"))
        right.addWidget(words(GUARD_NOTE, "second", wrap=True))
        self.free = words("", "second", wrap=True)
        right.addWidget(self.free)
        right.addStretch(1)
        line.addLayout(right, 2)
        outer.addLayout(line)
        self.refresh()
        return inside

    def whose(self) -> str:
        """Whose licence is shown: an identity's own, or the station's (empty)."""
        return whose_licence(self._stage.bench.plan, self._stage.person)

    def refresh(self) -> None:
        """Show the licence as the plan has it."""
        if not hasattr(self, "_whose"):
            return
        who, identities = self._stage.person, self._stage.bench.plan.station.identities
        identity = next((item for item in identities if item.key == who), None)
        name = (identity.name or identity.call or identity.key) if identity else ""
        clear(self._people)
        made = {
            item.key: button(
                item.name or item.call or item.key, partial(self._stage.choose_person, item.key), "segment"
            )
            for item in (identities if len(identities) > 1 else ())
        }
        chosen_of(made, who)
        for word in made.values():
            self._people.addWidget(word)
        self._whose.setText(f"Licence of {name}" if len(identities) > 1 else "Licence")
        self.licence_card.show_fields(licence_fields(self._stage.bench, self.whose()))
        self.free.setText(free_tuning_words(self._stage.bench, self.whose()))
