"""The rules that choose a radio's people: countries, regions, distance, talk groups, own log, by hand."""

from collections.abc import Iterator
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtWidgets import QFileDialog, QWidget

from umbra_awl.core.directory.people_search import search_people
from umbra_awl.core.facts.wording import within
from umbra_awl.core.fit.choices import set_people, set_radio
from umbra_awl.core.fit.people import calls_in_log_file, countries_in
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.plan.model import OwnedRadio, PeopleChoice
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.measures import KM_PER_MILE
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import RULE, Act, Choice, Commit, Field
from umbra_awl.desk.parts.cards.late_choices import LateChoices
from umbra_awl.desk.parts.widgets import column, words

_SORTS = {"near": "the nearest", "id": "lowest ID", "call": "call sign"}
_HALF_ROUND_KM = 20_100
_TEACH = (
    "A people list turns IDs into names on the display. Choose who goes along: the countries you talk to, those near you, those "
    "in your log. The directory's people come from Access, People."
)


class PeopleRules(QWidget):
    """Stands beside the list; every change is an edit of the radio."""

    def __init__(self, bench: Workbench, directory: Directory) -> None:
        super().__init__()
        self._bench, self._directory = bench, directory
        self._countries: list[tuple[str, int]] = []
        outer = column(self, 6)
        outer.addWidget(words("Who goes along", "title"))
        self.card = FieldList(96)
        outer.addWidget(self.card)
        outer.addWidget(words(_TEACH, "second", wrap=True))
        outer.addStretch(1)
        directory.changed.connect(self.count)
        self.count()

    def count(self) -> None:
        """Count the directory's people by country, in the background."""

        def work() -> list[tuple[str, int]] | str:
            try:
                return countries_in(self._directory.store)
            except SourceError as error:
                return str(error)

        self._bench.jobs.latest("countries", work, self._take)

    def _take(self, found: list[tuple[str, int]] | str) -> None:
        if isinstance(found, str):
            self._bench.say(found, "stop")
        else:
            self._countries = found

    def show_radio(self, radio: OwnedRadio | None) -> None:
        """Show a radio's rules."""
        if radio is None:
            self.card.show_fields((), note="Add a radio first.")
        else:
            self.card.show_fields(list(self._fields(radio)), self._acts(radio))

    def _fields(self, radio: OwnedRadio) -> Iterator[Field]:
        choice = radio.people or PeopleChoice()
        regions, within = ", ".join(choice.regions), f"{choice.within_km:g}" if choice.within_km else ""
        countries = ", ".join(choice.countries) or "none"
        yield Field("Countries", countries, choices=LateChoices(partial(self._country_choices, radio, choice)))
        tip = "Words of places or regions, separated by commas"
        yield Field("Regions", regions or "none", commit=self._regions(radio), text=regions, tip=tip)
        groups = "countries whose talk groups are called" if choice.by_talk_groups else "no"
        yield Field("Talk groups", groups, choices=self._yes_no(radio, "by_talk_groups", "By the talk groups called"))
        yield Field(
            "Own log", f"{len(choice.log_calls)} call signs" if choice.from_log else "no", choices=self._log(radio)
        )
        yield Field(
            "Everybody", "yes" if choice.everybody else "no", choices=self._yes_no(radio, "everybody", "Everybody")
        )
        yield RULE
        tip = "Only those whose place is known and so near; empty for any distance"
        yield Field("Within, km", within or "any distance", True, commit=self._within(radio), text=within, tip=tip)
        sorts = [
            Choice(text, partial(self._set, radio, f"First {text}", sort=key), key == choice.sort)
            for key, text in _SORTS.items()
        ]
        yield Field("If too many", _SORTS[choice.sort], choices=sorts)
        tip = "Type an ID or a call sign; it goes along in any case"
        yield Field("By hand", f"{len(choice.picked)} always", commit=self._pick(radio), text="", tip=tip)

    def _log(self, radio: OwnedRadio) -> list[Choice]:
        read = Choice("read a log (ADIF) …", self.ask_log)
        known = radio.people is not None and radio.people.log_calls
        return [*(self._yes_no(radio, "from_log", "From the own log") if known else []), read]

    def _acts(self, radio: OwnedRadio) -> list[Act]:
        if radio.people is None:
            return []
        nobody = set_radio(radio, f"No people list on {radio.name}", people=None)
        return [Act("Nobody", partial(self._bench.do, nobody))]

    def _set(self, radio: OwnedRadio, sentence: str, **fields: Any) -> None:
        self._bench.do(set_people(radio, f"People on {radio.name}: {within(sentence)}", **fields))

    def _yes_no(self, radio: OwnedRadio, field: str, sentence: str) -> list[Choice]:
        now = bool(getattr(radio.people or PeopleChoice(), field))
        return [
            Choice("yes", partial(self._set, radio, sentence, **{field: True}), now),
            Choice("no", partial(self._set, radio, f"Not {within(sentence)}", **{field: False}), not now),
        ]

    def _country_choices(self, radio: OwnedRadio, choice: PeopleChoice) -> Iterator[Choice]:
        for country, count in self._countries:
            there = country in choice.countries
            kept = (
                tuple(item for item in choice.countries if item != country) if there else (*choice.countries, country)
            )
            sentence = f"{'Not ' if there else ''}{country or 'no country'}"
            yield Choice(
                f"{country or '(none)'}  {count:,}", partial(self._set, radio, sentence, countries=kept), there
            )
        if not self._countries:
            yield Choice(
                "The directory has no people yet: fetch or import them at Access",
                lambda: self._bench.stage_wanted.emit("access"),
            )

    def _regions(self, radio: OwnedRadio) -> Commit:
        def commit(text: str) -> str:
            regions = tuple(filter(None, map(str.strip, text.split(","))))
            self._set(radio, "Regions", regions=regions)
            return ""

        return commit

    def _within(self, radio: OwnedRadio) -> Commit:
        def commit(text: str) -> str:
            try:
                km = _km(text)
            except ValueError:
                return f"“{text}” is not a distance. Type kilometres, for example 250; or miles, for example 150 mi."
            if not 0 <= km <= _HALF_ROUND_KM:
                return f"{text} km is beyond the far side of the earth. Type 0 to 20,000."
            station = self._bench.plan.station
            if km and (station.lat is None or station.lon is None):
                return "The station has no position yet; set it at Station, then distances can be measured."
            self._set(radio, "Distance", within_km=km)
            return ""

        return commit

    def _pick(self, radio: OwnedRadio) -> Commit:
        def commit(text: str) -> str:
            if not text:
                return ""
            try:
                found = search_people(self._directory.store, text, 2)
            except SourceError as error:
                return str(error)
            exact = [item for item in found if text.upper() in {item.call, str(item.id)}]
            if not exact:
                return f"Nobody in the directory has the ID or call sign “{text}”."
            picked = (radio.people or PeopleChoice()).picked
            self._set(radio, f"Always {exact[0].call}", picked=tuple(dict.fromkeys((*picked, exact[0].id))))
            return ""

        return commit

    def ask_log(self) -> None:
        """Ask for an ADIF log and take its call signs."""
        name, _kind = QFileDialog.getOpenFileName(self, "Own log", str(Path.home()), "ADIF (*.adi *.adif)")
        if name:
            self.read_log(Path(name))

    def read_log(self, path: Path) -> None:
        """Take the call signs of a log."""
        radio = self._bench.radio
        self._bench.jobs.read(
            "own-log",
            calls_in_log_file,
            path,
            done=lambda calls: self._take_calls(path, radio, calls),
            failed=lambda error: self._bench.say(f"“{path.name}” cannot be read: {plain_reason(error)}.", "stop"),
        )

    def _take_calls(self, path: Path, radio: OwnedRadio | None, calls: tuple[str, ...]) -> None:
        if not calls:
            self._bench.say(f"“{path.name}” holds no call signs: it is not an ADIF log, or an empty one.", "stop")
        elif radio is not None and self._bench.radio is radio:
            self._set(radio, "From the own log", from_log=True, log_calls=calls)


def _km(text: str) -> float:
    """Kilometres from “250”, “250 km”, “150 mi”. Raises ValueError."""
    plain = text.casefold().replace(",", ".").strip()
    miles = plain.removesuffix("miles").removesuffix("mi")
    if miles != plain:
        return float(miles.strip()) * KM_PER_MILE
    return float(plain.removesuffix("km").strip() or 0)
