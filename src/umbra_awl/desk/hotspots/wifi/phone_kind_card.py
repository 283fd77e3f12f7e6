"""The kind of phone that goes along: where its sharing sits, and under which address a hotspot's page opens on it."""

from collections.abc import Iterator
from functools import partial

from msgspec.structs import replace
from PyQt6.QtWidgets import QWidget

from umbra_awl.core.hotspot.wifi.phones import kept_phone, kind_of, sharing_words, shipped_phones
from umbra_awl.core.plan.edit.edit_station import set_station
from umbra_awl.core.plan.model import Phone
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Choice, Commit, Field
from umbra_awl.desk.parts.widgets import column, words


class PhoneKindCard(QWidget):
    """Three fields, and what is to be minded with that kind."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 4)
        self.card = FieldList(104)
        outer.addWidget(self.card)
        self.minds = words("", "second", wrap=True)
        outer.addWidget(self.minds)

    def refresh(self) -> None:
        """Show what is known of the plan's phone."""
        phone = self._bench.plan.station.phone or Phone()
        kind = kind_of(phone)
        self.card.show_fields(
            [
                Field("Kind of phone", phone.platform or "another kind", choices=list(self._kinds(phone))),
                self._seen("Sharing sits at", "menu", sharing_words(phone), "As its menus call it, for the road sheet"),
                self._seen(
                    "Page seen at", "page", phone.page, "The hotspot's address in this phone's list of who joined"
                ),
            ]
        )
        self.minds.setText(kind.minds if kind is not None else "")
        self.minds.setVisible(bool(kind is not None and kind.minds))

    def _kinds(self, phone: Phone) -> Iterator[Choice]:
        for kind in shipped_phones().phone:
            does = partial(self._set, "platform", f"The phone is of the kind {kind.platform}", kind.platform)
            yield Choice(kind.platform, does, kind.platform == phone.platform)
        does = partial(self._set, "platform", "The phone is of another kind", "")
        yield Choice("another kind", does, kind_of(phone) is None)

    def _seen(self, label: str, field: str, value: str, tip: str) -> Field:
        return Field(label, value or "not seen yet", commit=self._commit(field), text=value, tip=tip)

    def _set(self, field: str, sentence: str, value: str) -> None:
        phone = self._bench.plan.station.phone or Phone()
        self._bench.do(set_station(sentence, phone=kept_phone(replace(phone, **{field: value}))))

    def _commit(self, field: str) -> Commit:
        def commit(text: str) -> str:
            kind = kind_of(self._bench.plan.station.phone)
            told = (
                ""
                if field == "menu" and kind is not None and text == sharing_words(Phone(platform=kind.platform))
                else text
            )
            what = "where the phone's sharing sits" if field == "menu" else "the address of the hotspot's page"
            self._set(field, f"Note {what}" if told else f"Forget {what}", told)
            return ""

        return commit
