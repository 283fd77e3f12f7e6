"""What holds for a whole radio: its own choices of the plan, and its keys, texts, position, time-out and offset."""

from collections.abc import Callable, Iterator, Mapping
from functools import partial
from typing import Any

from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.fit.choices import set_key, set_option, set_radio, set_settings
from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.plan.model import NameStyle, OwnedRadio, Press
from umbra_awl.core.plan.permit import guard_permit
from umbra_awl.core.plan.radios import TIME_OUT_OFF
from umbra_awl.core.radio.profile import FreeTuning, Profile, RadioOption
from umbra_awl.core.transfer.firmware.wanted import firmware_choices
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Choice, Field
from umbra_awl.desk.parts.cards.late_choices import LateChoices
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import column, scrolled, words
from umbra_awl.desk.radios.settings_texts import SettingsTexts

_SCHOOLS = {
    "both": "both: a channel each, and dialling",
    "channels": "a channel for each talk group",
    "dial": "one channel, dial the rest",
}
_LEADS = {"": "as the plan", "site": "place first", "call": "call sign first", "destination": "destination first"}
_POSITIONS = {"gps": "its own receiver (GPS)", "fixed": "a fixed place", "none": "none is sent"}
_AS_IT_IS = "as the radio has it"
_NOTE = "“As the radio has it” is not written: the radio keeps what it holds. A position that is sent is heard by everybody."


class SettingsPage(QWidget):
    """The canvas page; follows the chosen radio."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self.texts = SettingsTexts(self)
        self.bench = bench
        outer = column(self, 6)
        inside = QWidget()
        grid = QGridLayout(inside)
        grid.setContentsMargins(0, 0, 6, 0)
        grid.setHorizontalSpacing(14)
        grid.setColumnStretch(0, 1)
        grid.setColumnStretch(1, 1)
        self.plan_card, self.radio_card, self.keys_card = FieldList(96), FieldList(96), FieldList(96)
        for at, (title, part) in enumerate((("From the plan", self.plan_card), ("For the radio", self.radio_card))):
            grid.addWidget(words(title, "title"), 0, at)
            grid.addWidget(part, 1, at, Qt.AlignmentFlag.AlignTop)
        self._keys_title = words("Keys", "title")
        grid.addWidget(self._keys_title, 2, 0)
        grid.addWidget(self.keys_card, 3, 0, Qt.AlignmentFlag.AlignTop)
        self._texts_part = self.texts.texts_box()
        grid.addWidget(self._texts_part, 3, 1, Qt.AlignmentFlag.AlignTop)
        self._texts_title = words("Quick texts", "title")
        grid.addWidget(self._texts_title, 2, 1)
        grid.setRowStretch(4, 1)
        outer.addWidget(scrolled(inside), 1)
        self._fresh = WhenChanged(self, self._parts, self.refresh)
        for signal in (bench.radio_changed, bench.plan_changed, bench.profiles_changed):
            signal.connect(self._fresh.check)

    def _parts(self) -> tuple[object, ...]:
        plan = self.bench.plan
        return (
            plan.radios,
            plan.zones,
            plan.trips,
            plan.names,
            plan.station,
            self.bench.radio,
            self.bench.profiles.own,
        )

    def take_focus(self) -> None:
        """Give the keyboard to the first value."""
        self.plan_card.focus_first()

    def refresh(self) -> None:
        """Show the chosen radio."""
        radio = self.bench.radio
        profile = self.bench.profiles.get(radio.profile) if radio is not None else None
        self.setEnabled(profile is not None)
        if radio is None or profile is None:
            for card in (self.plan_card, self.radio_card, self.keys_card):
                card.show_fields((), note="Add a radio first.")
            return
        self.plan_card.show_fields(list(self._of_plan(radio, profile)))
        self.radio_card.show_fields(list(self._of_radio(radio, profile)), note=_NOTE)
        has_keys = bool(profile.extras.keys)
        self._keys_title.setVisible(has_keys)
        self.keys_card.setVisible(has_keys)
        self.keys_card.show_fields(list(self._of_keys(radio, profile)))
        has_texts = profile.extras.quick_texts > 0
        self._texts_title.setVisible(has_texts)
        self._texts_part.setVisible(has_texts)
        text = "\n".join(radio.settings.quick_texts)
        if not self.texts.quick.hasFocus() and self.texts.quick.toPlainText() != text:
            self.texts.quick.setPlainText(text)
        most, length = profile.extras.quick_texts, profile.extras.quick_length
        self.texts.words.setText(f"Up to {counted(most, 'text')} of {length} characters.")

    def do(self, edit: Edit) -> None:
        self.bench.do(edit)

    def _of_plan(self, radio: OwnedRadio, profile: Profile) -> Iterator[Field]:
        """Which of the plan goes along, and how it is named."""
        index = self.bench.index
        count = len(index.plan.zones)
        taken = count if radio.zones is None else len(radio.zones)
        yield Field(
            "Zones",
            f"{taken} of {count}",
            choices=LateChoices(partial(self._zone_choices, radio)),
            tip="Click to take or leave one",
        )
        if index.plan.trips:
            along = len(index.plan.trips) if radio.trips is None else len(radio.trips)
            yield Field(
                "Trips", f"{along} of {len(index.plan.trips)}", choices=LateChoices(partial(self._trip_choices, radio))
            )
        if "dmr" in profile.modes:
            yield self._one(
                "School",
                _SCHOOLS,
                radio.school,
                lambda value: set_radio(radio, f"School of {radio.name}: {value}", school=value),
            )
        lead = radio.style.lead if radio.style is not None else ""
        yield self._one("Names", _LEADS, lead, partial(self._lead, radio))
        yield self._one(
            "Letters",
            {"": "as the plan", "caps": "capitals"},
            "caps" if radio.style is not None and radio.style.capitals else "",
            partial(self._capitals, radio),
        )
        own = len(radio.names)
        if own:
            yield Field(
                "Own names",
                f"{own} on this radio",
                choices=[
                    Choice(
                        "take the usual ones again",
                        partial(self.do, set_radio(radio, f"Usual names on {radio.name}", names=())),
                    )
                ],
            )
        if radio.leave:
            yield Field(
                "Left out",
                f"{len(radio.leave)} by choice",
                choices=[
                    Choice(
                        "take all along again",
                        partial(self.do, set_radio(radio, f"Take all onto {radio.name}", leave=())),
                    )
                ],
            )

    def _zone_choices(self, radio: OwnedRadio) -> Iterator[Choice]:
        zones = self.bench.index.plan.zones
        every = tuple(zone.key for zone in zones)
        now = every if radio.zones is None else radio.zones
        for zone in zones:
            there = zone.key in now
            kept = tuple(key for key in every if (key in now) != (key == zone.key))
            word = "Leave" if there else "Take"
            edit = set_radio(
                radio, f"{word} the zone {zone.name} on {radio.name}", zones=None if kept == every else kept
            )
            yield Choice(zone.name, partial(self.do, edit), there)

    def _trip_choices(self, radio: OwnedRadio) -> Iterator[Choice]:
        trips = self.bench.index.plan.trips
        every = tuple(trip.key for trip in trips)
        now = every if radio.trips is None else radio.trips
        for trip in trips:
            kept = tuple(key for key in every if (key in now) != (key == trip.key))
            edit = set_radio(radio, f"{radio.name} on the trip {trip.name}", trips=None if kept == every else kept)
            yield Choice(trip.name, partial(self.do, edit), trip.key in now)

    def _setting(self, radio: OwnedRadio, label: str, field: str, options: Mapping[Any, str]) -> Field:
        """A setting of the whole radio with its options."""

        def edit(value: Any) -> Edit:
            return set_settings(radio, f"{label} of {radio.name}: {options[value]}", **{field: value})

        return self._one(label, options, getattr(radio.settings, field), edit)

    def _one(self, label: str, options: Mapping[Any, str], now: Any, edit: Callable[[Any], Edit]) -> Field:
        choices = [Choice(text, partial(self._take, edit, value), value == now) for value, text in options.items()]
        return Field(label, options.get(now, str(now)), choices=choices)

    def _take(self, edit: Callable[[Any], Edit], value: Any) -> None:
        self.do(edit(value))

    def _style(self, radio: OwnedRadio) -> NameStyle:
        return radio.style or self.bench.plan.names

    def _lead(self, radio: OwnedRadio, value: str) -> Edit:
        style = replace(self._style(radio), lead=value) if value else None
        return set_radio(radio, f"Names on {radio.name}: {_LEADS[value]}", style=style)

    def _capitals(self, radio: OwnedRadio, value: str) -> Edit:
        style = replace(self._style(radio), capitals=bool(value))
        return set_radio(radio, f"Letters on {radio.name}", style=None if style == self.bench.plan.names else style)

    def _of_firmware(self, radio: OwnedRadio, profile: Profile) -> Iterator[Field]:
        for label, field, choices, now in firmware_choices(radio, profile):
            sentence = f"{label} of {radio.name}"
            yield self._one(label, choices, now, partial(_set_field, radio, sentence, field))

    def _of_radio(self, radio: OwnedRadio, profile: Profile) -> Iterator[Field]:
        extras = profile.extras
        yield from self._of_firmware(radio, profile)
        if extras.startup:
            yield Field(
                "Start-up text",
                self.texts.startup(radio)[: extras.startup] or _AS_IT_IS,
                True,
                commit=self.texts.text(radio, extras.startup),
                text=radio.settings.startup or "",
                tip=f"Up to {extras.startup} characters; empty takes the owner's",
            )
        if extras.position != ("none",):
            positions = {item: _POSITIONS[item] for item in extras.position}
            yield self._setting(radio, "Position", "position", {None: _AS_IT_IS, **positions})
        if extras.time_outs_s:
            times = {item: f"{item} s" for item in extras.time_outs_s}
            off = {TIME_OUT_OFF: "off"} if extras.time_out_off else {}
            yield self._setting(radio, "Time-out", "time_out_s", {0: _AS_IT_IS, **off, **times})
        if extras.auto_offset:
            offsets = {None: "off where it would fight the memories", False: "off", True: "on"}
            yield self._setting(radio, "Auto offset", "auto_offset", offsets)
        if profile.free_tuning is not None and profile.free_tuning.halves:
            yield self._free_tuning(radio, profile.free_tuning)
        identity = self.bench.index.owners.identity_of(radio)
        if extras.alias and identity is not None:
            yield Field("Talker alias", identity.alias or "none", tip="Set for the person, at Station")
        if extras.halves > 1:
            decoded = "one digital call" if extras.decoders == 1 else f"{extras.decoders} digital calls"
            yield Field("At once", f"{counted(extras.halves, 'memory')} on the display, {decoded} decoded")
        needs = _needs_words(profile)
        if needs:
            yield Field("Insists on", needs)
        yield from (self._option(radio, option) for option in profile.options)
        yield Field("Data", {"none": "none", "slow": "beside speech, slow", "fast": "fast"}[extras.data])

    def _option(self, radio: OwnedRadio, option: RadioOption) -> Field:
        """A setting that only this kind of radio has."""
        now = next((item.value for item in radio.settings.options if item.option == option.label), "")
        values = {"": _AS_IT_IS, **{value: value for value in option.values}}
        return self._one(option.label, values, now, partial(set_option, radio, option.label))

    def _free_tuning(self, radio: OwnedRadio, free: FreeTuning) -> Field:
        """Whether it sends where it is tuned freely; held while the guard is on."""
        if not guard_permit(self.bench.index.owners.station_of(radio).licence).allowed:
            return Field("Free tuning", "listens only, while the guard is on", tip=free.how)
        options = {None: _AS_IT_IS, False: "listens only", True: "sends; stay in your bands"}
        return self._setting(radio, "Free tuning", "free_tuning", options)

    def _of_keys(self, radio: OwnedRadio, profile: Profile) -> Iterator[Field]:
        now = {(item.key, item.press): item.action for item in radio.settings.keys}
        actions: dict[str, str] = {action: action for action in profile.extras.actions}
        options = {"": _AS_IT_IS, **actions}
        for key in profile.extras.keys:
            for press in key.presses:
                yield self._one(
                    f"{key.name}, {press}",
                    options,
                    now.get((key.name, press), ""),
                    partial(self._key, radio, key.name, press),
                )

    @staticmethod
    def _key(radio: OwnedRadio, key: str, press: Press, action: str) -> Edit:
        return set_key(radio, key, press, action)


def _set_field(radio: OwnedRadio, sentence: str, field: str, value: str) -> Edit:
    return set_radio(radio, sentence, **{field: value})


def _needs_words(profile: Profile) -> str:
    """What the radio insists on, in words."""
    needs = profile.needs
    said = (
        (needs.zero_offset, "duplex with offset 0 on a simplex hotspot"),
        (needs.one_entry, "a call sign and module once"),
        (needs.separate_pages, "digital settings on pages of their own"),
        (profile.ways_in == ("card",), "its memory card"),
    )
    return "; ".join(text for wanted, text in said if wanted)
